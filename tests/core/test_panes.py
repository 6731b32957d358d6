"""Panes over an opening: joints and rain by hand, and against trying every way."""

from __future__ import annotations

import random
from itertools import combinations, product

import pytest

from drylamp.core.builds.common.pile.match import from_pile
from drylamp.core.common.bill import pane_piece
from drylamp.core.common.panes import LAP_M, REST_M, glazing, layouts
from drylamp.core.tables import cover
from drylamp.core.text import plain
from tests.core.test_pile import sash


def test_two_panes_side_by_side_by_hand():
    beside = next(one for one in layouts(1.1, 0.6, 2) if (one.across, one.along) == (2, 1) and one.long_m > 1.0)
    assert beside.wide_m == pytest.approx(1.2 - 2 * REST_M)
    assert beside.long_m == pytest.approx(1.1 - 2 * REST_M)
    assert (beside.upright_m, beside.level_m) == (pytest.approx(1.1), 0.0)
    assert beside.risk(35.0) == "low"


def test_panes_over_one_another_are_lapped_and_mind_a_flat_slope():
    over = next(one for one in layouts(1.1, 0.6, 2) if (one.across, one.along) == (1, 2) and one.wide_m < 1.0)
    assert over.long_m == pytest.approx(2.2 - LAP_M - 2 * REST_M)
    assert (over.upright_m, over.level_m) == (0.0, pytest.approx(0.6))
    assert (over.risk(35.0), over.risk(10.0)) == ("some", "high")
    assert "lean it more" in plain(over.said(10.0))


def test_one_pane_lets_no_rain_in():
    (one,) = layouts(0.8, 0.8, 1)
    assert (one.joint_m, one.risk(5.0)) == (0.0, "none")


def fewest_by_trying(wide: float, long: float, panes: list[tuple[float, float]]) -> float | None:
    """The least joint of all subsets, laid either way, side by side or one over the other."""
    found = list[float]()
    for size in range(1, len(panes) + 1):
        for chosen in combinations(panes, size):
            for turned in product((False, True), repeat=size):
                laid = [(b, a) if turn else (a, b) for (a, b), turn in zip(chosen, turned, strict=True)]
                if all(b >= long for _, b in laid) and sum(a for a, _ in laid) >= wide:
                    found.append((size - 1) * long)
                if all(a >= wide for a, _ in laid) and sum(b for _, b in laid) - (size - 1) * LAP_M >= long:
                    found.append((size - 1) * wide)
    return min(found, default=None)


@pytest.mark.parametrize("seed", range(60))
def test_the_least_joint_is_the_one_that_trying_everything_finds(seed: int):
    draw = random.Random(seed)
    panes = [(draw.uniform(0.2, 1.3), draw.uniform(0.2, 1.3)) for _ in range(draw.randint(1, 5))]
    wide, long = draw.uniform(0.3, 1.5), draw.uniform(0.3, 1.2)
    found, least = glazing(wide, long, panes), fewest_by_trying(wide, long, panes)
    assert (found is None) == (least is None)
    if found is not None:
        assert found.joint_m == pytest.approx(least)


def test_a_bill_takes_two_panes_for_one_and_says_the_joint():
    pane = pane_piece("cover", "pane", cover("window-glass"), 0.004, 1.1, 1.1)
    given = from_pile([pane], [sash(1.1, 0.6, 3)])
    assert (given.taken[0].count, given.taken[0].joint_m) == (1, pytest.approx(1.1))
    assert [(used.name, used.count) for used in given.used] == [(sash(1.1, 0.6).name, 2)]
    assert given.buy == 0.0
    assert sum(left.count for left in given.left) == 1


def test_an_offcut_counts_the_whole_pane_once():
    small = pane_piece("cover", "pane", cover("window-glass"), 0.004, 0.5, 0.5, 2)
    given = from_pile([small], [sash(1.1, 0.6, 1)])
    assert given.taken[0].count == 2
    assert [used.count for used in given.used] == [1]
