"""The salvage pile: what of a bill it gives, what is left of it, and what it refuses."""

from __future__ import annotations

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from pydantic import ValidationError

from drylamp.core.advice.made_of import made_of
from drylamp.core.builds.common.pile.match import from_pile
from drylamp.core.builds.common.pile.sheet import PILE, Salvaged
from drylamp.core.builds.registry import kind_of
from drylamp.core.builds.sheet import Around
from drylamp.core.common.bill import pane_piece, thing, total
from drylamp.core.common.cutting import SAW_M
from drylamp.core.sheets import page_of
from drylamp.core.tables import covers
from drylamp.core.text import plain
from drylamp.demo.scenario import FIG_DRYER, OVEN, TERRACE, demo_now

GLASS = covers()["window-glass"]


def pane(long_m: float, wide_m: float, count: int = 1):
    return pane_piece("cover", "pane", GLASS, 0.004, long_m, wide_m, count)


def sash(long_m: float, wide_m: float, count: int = 1, **more: object) -> Salvaged:
    return Salvaged.model_validate({"name": f"sash {long_m:g}", "sort": "pane", "of": "window-glass", "count": count, "long_m": long_m, "wide_m": wide_m, **more})  # fmt: skip


def test_a_pane_is_cut_from_the_smallest_that_is_large_enough():
    found = from_pile([pane(0.5, 0.4)], [sash(1.2, 0.6), sash(0.6, 0.45)])
    assert found.taken[0].names == ["sash 0.6"]
    assert found.buy == 0.0
    assert found.saved == pytest.approx(pane(0.5, 0.4).price)
    whole = [left for left in found.left if not left.is_offcut]
    assert [left.name for left in whole] == ["sash 1.2"]


def test_turned_pieces_fit_and_small_ones_do_not():
    assert from_pile([pane(0.6, 1.1)], [sash(0.65, 1.15)]).taken[0].count == 1
    assert from_pile([pane(1.2, 0.6)], [sash(1.1, 0.6)]).taken[0].count == 0


def test_what_one_pane_leaves_serves_the_next():
    found = from_pile([pane(0.5, 0.5, 2)], [sash(1.1, 0.5)])
    assert found.taken[0].count == 2
    assert sum(left.long_m * left.wide_m for left in found.left) <= 1.1 * 0.5 - 2 * 0.25


def test_nothing_is_used_twice_and_the_rest_is_bought():
    found = from_pile([pane(1.0, 0.5, 3)], [sash(1.0, 0.5, 2)])
    assert found.taken[0].count == 2
    assert found.buy == pytest.approx(pane(1.0, 0.5).price)


def test_thin_film_is_no_pane_and_other_stuff_is_other_stuff():
    assert from_pile([pane(0.5, 0.4)], [sash(0.6, 0.6, thick_m=0.0005)]).taken[0].count == 0
    film = {"name": "film", "sort": "pane", "of": "pe-film", "long_m": 3.0, "wide_m": 2.0}
    assert from_pile([pane(0.5, 0.4)], [Salvaged.model_validate(film)]).taken[0].count == 0


def test_battens_are_cut_from_lengths_and_fans_taken_whole():
    lengths = Salvaged.model_validate({"name": "battens", "sort": "thing", "of": "batten", "count": 2, "long_m": 2.0})
    fans = Salvaged.model_validate({"name": "car fan", "sort": "thing", "of": "small-fan"})
    found = from_pile([thing("frame", "batten", 5, long_m=0.65), thing("fan", "small-fan")], [lengths, fans])
    assert [one.count for one in found.taken] == [5, 1]
    found = from_pile([thing("frame", "batten", 1, long_m=2.0 + SAW_M)], [lengths])
    assert found.taken[0].count == 0


@settings(max_examples=60, deadline=None)
@given(
    st.lists(st.tuples(st.floats(0.2, 1.5), st.floats(0.2, 1.0), st.integers(1, 3)), min_size=1, max_size=5),
    st.lists(st.tuples(st.floats(0.2, 2.0), st.floats(0.2, 1.5), st.integers(1, 3)), max_size=5),
)
def test_no_more_area_is_taken_than_lies_there(wanted: list, lying: list):
    pieces = [pane(*one) for one in wanted]
    rows = [sash(*one) for one in lying]
    found = from_pile(pieces, rows)
    there = sum(row.count * row.long_m * row.wide_m for row in rows)
    used = sum(one.count * pieces[one.piece].long_m * pieces[one.piece].wide_m for one in found.taken)
    left = sum(one.count * one.long_m * one.wide_m for one in found.left)
    assert used + left <= there + 1e-9 + 0.001 * len(found.left) * 4.0  # what is left is said to the millimetre
    assert found.buy + found.saved == pytest.approx(total(pieces, "price"))
    assert all(0 <= one.count <= pieces[one.piece].count for one in found.taken)


def test_a_build_says_what_is_left_to_buy():
    without, with_two = made_of(OVEN, []), made_of(OVEN, [sash(0.8, 0.8, 2)])
    assert "salvage pile" in plain(without.words[0])
    assert with_two.pile.buy < without.pile.buy
    assert with_two.price == without.price
    assert "is left to buy" in plain(with_two.words[0])
    old = made_of(FIG_DRYER, [sash(2.0, 1.0, of="old-window-glass")])
    assert old.pile.saved == 0.0  # glass that costs nothing anyway
    assert "is left to buy" in plain(old.words[0])
    drum = Salvaged.model_validate({"name": "drum", "sort": "drum", "litres": 200.0})
    assert "nothing fits" in plain(made_of(OVEN, [drum]).words[0])


def test_a_heavy_build_is_built_where_it_stands():
    heavy = OVEN.with_(width_m=2.5, length_m=2.5)
    assert total(kind_of(heavy).bill(heavy), "kg") > 100.0
    assert any("build it where it stands" in plain(words) for words in made_of(heavy, []).words)


@pytest.mark.parametrize(
    ("given", "words"),
    [
        ({"sort": "pane", "long_m": 1.0}, "a flat piece has two"),
        ({"sort": "pipe"}, "how long"),
        ({"sort": "drum"}, "how much it holds"),
        ({"sort": "pane", "of": "plywood", "long_m": 1.0, "wide_m": 1.0}, "plywood"),
        ({"sort": "pane", "count": 0, "long_m": 1.0, "wide_m": 1.0}, "greater than or equal to 1"),
    ],
)
def test_what_cannot_lie_there_is_refused(given: dict, words: str):
    with pytest.raises(ValidationError, match=words):
        Salvaged.model_validate({"name": "x", **given})


def test_the_page_counts_and_asks_what_a_thing_is_of():
    unknown = Salvaged.model_validate({"name": "door", "sort": "sheet", "long_m": 2.0, "wide_m": 0.8})
    page = page_of(PILE, [sash(1.1, 0.6, 2), unknown], Around(TERRACE, demo_now().date()))
    assert plain(page.words[0]) == "3 pieces in 2 rows."
    assert [bool(line.warning) for line in page.lines] == [False, True]
