"""Local times and instants: half-hour zones, days of 23 and 25 hours."""

from __future__ import annotations

from datetime import UTC, date, datetime
from zoneinfo import ZoneInfo

import numpy as np
import pytest

from drylamp.core.sky.clock import day_edges_s, days_of, instant_s, local_day, local_time
from drylamp.core.sky.of_span import weather_of
from drylamp.core.sky.weather import ClearDay, Span
from drylamp.demo.scenario import CAPPINGS, MELTER, TERRACE
from tests.posing import simulated, summarised

MADRID, ADELAIDE, LORD_HOWE = ZoneInfo("Europe/Madrid"), ZoneInfo("Australia/Adelaide"), ZoneInfo("Australia/Lord_Howe")


@pytest.mark.parametrize(
    ("zone", "day", "hours"),
    [
        (MADRID, date(2025, 3, 30), 23.0), (MADRID, date(2025, 10, 26), 25.0), (MADRID, date(2025, 6, 12), 24.0),
        (ADELAIDE, date(2025, 4, 6), 25.0), (LORD_HOWE, date(2025, 4, 6), 24.5), (LORD_HOWE, date(2025, 10, 5), 23.5),
    ],
)  # fmt: skip
def test_a_day_is_as_long_as_its_clock_says(zone, day, hours):
    begin, end = day_edges_s(zone, day)
    assert (end - begin) / 3600.0 == hours
    assert [(d, b, e) for d, b, e in days_of(zone, begin, end)] == [(day, begin, end)]


def test_hours_become_instants_and_back_in_a_half_hour_zone():
    at = instant_s(ADELAIDE, date(2025, 1, 15), "09:30")
    assert datetime.fromtimestamp(at, UTC) == datetime(2025, 1, 14, 23, 0, tzinfo=UTC)
    assert local_time(ADELAIDE, at).strftime("%H:%M") == "09:30"
    assert local_day(ADELAIDE, at) == date(2025, 1, 15)


def test_an_hour_that_is_left_out_comes_as_late_as_it_would_have():
    assert instant_s(MADRID, date(2025, 3, 30), "02:30") == instant_s(MADRID, date(2025, 3, 30), "03:30")


@pytest.mark.parametrize("first", [date(2025, 3, 29), date(2025, 10, 25)])
def test_a_melter_does_its_batch_on_the_day_of_the_clock_change_as_on_its_neighbours(first):
    weather = weather_of(TERRACE, ClearDay(tmin_c=14, tmax_c=27, wind_m_s=1.0), Span(start=first, days=3))
    batch = CAPPINGS.model_copy(update={"batch_kg": 0.6})
    run = simulated(TERRACE, None, MELTER, batch, weather)
    outcome = summarised(TERRACE, MELTER, batch, run)
    assert [day.enough for day in outcome.days] == [True, True, True]
    assert [day.day for day in outcome.days] == [
        first,
        date(first.year, first.month, first.day + 1),
        outcome.days[2].day,
    ]
    assert np.diff([d.sun_kwh_m2 for d in outcome.days]) == pytest.approx(0.0, abs=0.06)
