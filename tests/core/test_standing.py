"""Where what stays over days stands, evening by evening."""

from datetime import date, timedelta

import pytest

from drylamp.core.engine import weather_for
from drylamp.core.outcome.standing import (
    DAYS_ON,
    MOST_DAYS_BACK,
    MOST_SHOWN,
    STEP_S,
    runs_over_days,
    span_of,
    standing,
)
from drylamp.core.sky.weather import Span
from drylamp.core.text import plain
from drylamp.core.twin.case import usual_case
from drylamp.demo.scenario import FIG_DRYER, FIGS, GARDEN_POOL, POOL_COIL, TERRACE
from tests.core.kilns import POPLAR, TIGHT

DAY = date(2025, 6, 12)


def stands(build, load, day=DAY):
    first, days = span_of(load, day)
    case = usual_case(TERRACE, "terrace", build, load, day).with_(span=Span(start=first, days=days, step_s=STEP_S))
    return standing(case, day, weather_for)


def shares(found) -> list[float]:
    return [float(plain(day.words).split(" %")[0]) for day in found.days if not day.done]


def test_figs_get_drier_every_evening_until_they_are_dry_and_nothing_is_told_of_the_jar():
    found = stands(FIG_DRYER, FIGS)
    assert [day.day for day in found.days] == [DAY + timedelta(days=k) for k in range(len(found.days))]
    assert shares(found) == sorted(shares(found), reverse=True)
    assert [day.done for day in found.days] == [False] * (len(found.days) - 1) + [True]
    assert (found.which, found.of) == (1, len(found.days))
    assert "as wanted by" in plain(found.said)


def test_boards_are_looked_at_from_the_day_they_went_in():
    since = POPLAR.model_copy(
        update={"groups": [g.model_copy(update={"in_on": DAY - timedelta(days=12)}) for g in POPLAR.groups]}
    )
    assert span_of(since, DAY) == (DAY - timedelta(days=12), 12 + DAYS_ON)
    found, afresh = stands(TIGHT, since), stands(TIGHT, POPLAR)
    assert (found.first, found.which) == (DAY - timedelta(days=12), 13)
    assert len(found.days) == MOST_SHOWN
    assert found.days[0].day == DAY
    assert shares(found)[0] < shares(afresh)[0] - 10.0


def test_how_far_back_a_run_goes_has_a_bound():
    old = POPLAR.model_copy(
        update={"groups": [g.model_copy(update={"in_on": DAY - timedelta(days=900)}) for g in POPLAR.groups]}
    )
    assert span_of(old, DAY) == (DAY - timedelta(days=MOST_DAYS_BACK), MOST_DAYS_BACK + DAYS_ON)


def test_a_pool_is_told_by_its_warmth_at_the_hour_it_is_wanted():
    found = stands(POOL_COIL, GARDEN_POOL)
    warm = [float(plain(day.words).split(" °C")[0]) for day in found.days]
    assert warm == sorted(warm)
    assert [day.done for day in found.days] == [c >= GARDEN_POOL.warm_c for c in warm]


@pytest.mark.parametrize(("load", "over"), [(FIGS, True), (POPLAR, True), (GARDEN_POOL, True), (None, False)])
def test_which_loads_are_asked(load, over):
    assert runs_over_days(load) is over
