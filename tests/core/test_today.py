"""What a yard can do today: each line is done in the twin, and nothing that is not."""

from __future__ import annotations

from datetime import date

import pytest

from drylamp.core.long import whole
from drylamp.core.outcome.registry import outcome_of
from drylamp.core.sky.of_span import weather_of
from drylamp.core.text import plain
from drylamp.core.twin.case import climate_day, usual_case
from drylamp.core.twin.prepared import simulate
from drylamp.core.wish.today import Standing, said, today
from drylamp.demo.scenario import CAPPINGS, FLAT_LOAF, FUNNEL, MELTER, TERRACE

DAY = date(2025, 6, 12)


def standing(number: int, name: str, build, load, sky: str = "clear") -> Standing:
    case = usual_case(TERRACE, "terrace", build, load, DAY)
    day = climate_day(TERRACE, DAY, sky)
    return Standing(number, name, case.with_(weather=day), weather_of(TERRACE, day, case.span))


def test_every_line_is_done_in_the_twin_under_that_sky():
    yard = [standing(1, "Funnel", FUNNEL, FLAT_LOAF), standing(2, "Melter", MELTER, CAPPINGS)]
    found = whole(today(yard))
    assert {line.build_id for line in found.lines} == {1, 2}
    assert [line.ready for line in found.lines] == sorted(line.ready for line in found.lines)
    for line in found.lines[::4]:
        mine = yard[line.build_id - 1]
        run = simulate(mine.case.with_(load=line.load), mine.weather)
        assert outcome_of(line.load).done_at(line.load, run) == pytest.approx(line.ready.timestamp(), abs=1.0)
    assert sum(line.is_in for line in found.lines) <= 2
    assert all(line.chance is not None for line in found.lines)
    assert "ready" in plain(said(found.lines[0]))


def test_under_a_grey_sky_less_is_done():
    clear = whole(today([standing(1, "Funnel", FUNNEL, FLAT_LOAF)]))
    grey = whole(today([standing(1, "Funnel", FUNNEL, FLAT_LOAF, "grey")]))
    assert len(grey.lines) < len(clear.lines)
    if not grey.lines:
        assert "Nothing today: Funnel" in plain(grey.words[-1])


def test_an_empty_yard_says_so():
    assert "No build stands here yet" in plain(whole(today([])).words[0])
