"""Builds side by side on one sun."""

from __future__ import annotations

import math
from datetime import date

import numpy as np
import pytest

from drylamp.core.advice.compared import Abreast, compared
from drylamp.core.advice.context import AdviceContext
from drylamp.core.advice.made_of import made_of
from drylamp.core.advice.season import useful_w
from drylamp.core.builds.registry import kind_of
from drylamp.core.checks import InputProblem
from drylamp.core.common.lasting import LASTS_YEARS, price_over, renewals
from drylamp.core.engine import weather_for
from drylamp.core.sky.weather import Span
from drylamp.core.tables import absorbers, covers, mirrors
from drylamp.core.twin.case import usual_case
from drylamp.demo.scenario import FILM_KILN, HEATER, OVEN, SHOWERS, STEW, TERRACE

JUNE = date(2025, 6, 12)
BARE = OVEN.without_mirrors()


def on(build, load, days: int = 1) -> AdviceContext:
    case = usual_case(TERRACE, "terrace", build, load, JUNE).with_(span=Span(start=JUNE, days=days, step_s=300))
    return AdviceContext(case, weather_for(case))


@pytest.fixture(scope="module")
def ovens():
    return compared([Abreast("with mirror", on(OVEN, STEW)), Abreast("without", on(BARE, STEW), [(43200.0, 80.0)])])


def figure(found, title: str):
    return next(one for one in found.figures if one.title.startswith(title))


def test_a_gap_is_the_difference_of_two_scores_and_shared_doubt_drops_out(ovens):
    context = on(OVEN, STEW)
    mine, theirs = context.score(OVEN, STEW).value, context.score(BARE, STEW).value
    score = ovens.figures[0]
    assert score.gaps[0] is None
    assert score.gaps[1].value == pytest.approx(theirs - mine, abs=0.002)
    assert score.gaps[1].value < 0
    assert score.gaps[1].real
    assert score.gaps[1].doubt < np.hypot(*score.doubts)


def test_one_beside_itself_cannot_be_told_apart():
    found = compared([Abreast("one", on(OVEN, STEW)), Abreast("same", on(OVEN, STEW))])
    gap = found.figures[0].gaps[1]
    assert gap.value == 0
    assert not gap.real
    assert found.lines == []
    assert "too small to tell" in found.words[1]
    assert "cannot tell them apart" in found.words[0]


def test_prices_hours_and_curves_are_those_of_each(ovens):
    for k, build in enumerate((OVEN, BARE)):
        assert figure(ovens, "Price, all new").values[k] == pytest.approx(made_of(build, ()).price, abs=0.001)
        run = on(build, STEW).run(build, STEW)
        hottest = figure(ovens, "Hottest")
        assert hottest.values[k] == pytest.approx(float(np.nanmax(run.temperature_c[STEW.judged])), abs=0.01)
    assert len(ovens.times) == len(ovens.columns[0].celsius) == len(ovens.air_c)
    assert ovens.columns[1].read[0].celsius == 80.0
    assert f"{ovens.columns[1].read[0].time:%H:%M}" == "12:00"
    assert any(line.title.startswith("Mirrors") for line in ovens.lines)


def test_of_several_kinds_what_has_one_name_is_told():
    found = compared(
        [Abreast("oven", on(OVEN, STEW)), Abreast("heater", on(HEATER, SHOWERS)), Abreast("box", on(BARE, None))]
    )
    titles = [one.title for one in found.figures]
    assert titles[0] == "Hottest"
    assert found.lines[0].title == "Kind of build"
    assert any(line.title == "What is in it" for line in found.lines)
    assert len({column.ink for column in found.columns}) == 3


def test_heat_on_the_opening_is_never_more_than_the_sun_brought(ovens):
    assert all(0.0 < share < 1.0 for share in figure(ovens, "Of the sun on its opening").values)


@pytest.mark.parametrize("count", [1, 5])
def test_two_to_four_can_stand_side_by_side(count: int):
    with pytest.raises(InputProblem, match="two to four"):
        compared([Abreast("x", on(OVEN, STEW))] * count)


def test_who_cannot_be_run_is_named():
    with pytest.raises(InputProblem, match="the wrong one"):
        compared([Abreast("oven", on(OVEN, STEW)), Abreast("the wrong one", on(OVEN, SHOWERS))])


def test_over_five_years_film_is_bought_again_and_glass_is_not(ovens):
    pieces = kind_of(FILM_KILN).bill(FILM_KILN)
    film = [piece for piece in pieces if piece.stuff in LASTS_YEARS and LASTS_YEARS[piece.stuff] < 5.0]
    assert film
    by_hand = sum(p.price * p.count for p in pieces) + sum(
        p.price * p.count * (math.ceil(5.0 / LASTS_YEARS[p.stuff]) - 1) for p in film
    )
    assert price_over(pieces, 5.0) == pytest.approx(by_hand)
    glass = next(piece for piece in kind_of(OVEN).bill(OVEN) if piece.family == "pane")
    assert renewals(glass, 5.0) == 0
    row = figure(ovens, "Price over 5 years")
    assert row.values[0] >= figure(ovens, "Price, all new").values[0]


def test_every_stuff_that_wears_is_on_the_shelf():
    known = {row.name for family in (covers, mirrors, absorbers) for row in family().values()}
    assert set(LASTS_YEARS) <= known


@pytest.mark.parametrize(("build", "load"), [(OVEN, STEW), (HEATER, SHOWERS)])
def test_heat_is_counted_as_a_season_counts_it(build, load):
    """Of a pot what went in, whatever it loses afterwards; of what stays over nights, less what leaves it again."""
    run = on(build, load).run(build, load)
    found = compared([Abreast("one", on(build, load)), Abreast("same", on(build, load))])
    won = useful_w(run.account_w[kind_of(build).useful_account], load)
    assert found.columns[0].useful_kwh == pytest.approx(float(won.sum()) * run.weather.dt_s / 3.6e6, abs=0.001)
