"""A log of weeks by its days: true extremes, hours covered, gaps shown and never filled."""

from __future__ import annotations

from datetime import date, datetime, timedelta

import numpy as np
import pytest

from drylamp.core.loads.common.wood import equilibrium_mc
from drylamp.core.text import plain
from drylamp.core.trials.days import climb_k, log_days
from drylamp.core.trials.facts import ChannelFacts
from drylamp.demo.scenario import STEW, TERRACE
from tests.core.kilns import POPLAR

BEGAN = datetime(2025, 5, 1, 0, 0, tzinfo=TERRACE.zone)


def channel(values: list[float], hours: list[float] | None = None, **more: object) -> ChannelFacts:
    at = hours or [float(k) for k in range(len(values))]
    times = [BEGAN + timedelta(hours=h) for h in at]
    return ChannelFacts.model_validate({"channel": "c", "title": "chamber air", "node": "chamber", "doubt": 0.5, "times": times, "values": values} | more)  # fmt: skip


def waves(days: int, climbs: float = 0.0) -> list[float]:
    hours = np.arange(24 * days)
    return [float(v) for v in 20.0 + (12.0 + climbs * hours / 24.0) * np.sin(2.0 * np.pi * (hours - 6) / 24.0).clip(0)]


def test_extremes_are_those_of_the_day_and_nothing_is_averaged_away():
    values = waves(3)
    values[24 + 13] = 61.0
    found = log_days(TERRACE, None, [channel(values)])
    days = found.channels[0].days
    assert [day.day for day in days] == [date(2025, 5, k) for k in (1, 2, 3)]
    assert days[1].high == 61.0
    assert days[1].low == pytest.approx(20.0)
    assert days[0].readings == 24
    assert days[0].covered_h == pytest.approx(24.0)
    assert found.gaps == []


def test_gaps_are_shown_and_days_without_readings_are_not_made_up():
    hours = [float(k) for k in range(24 * 8) if not 40 <= k < 100]
    found = log_days(TERRACE, None, [channel([20.0] * len(hours), hours)])
    assert [day.day.day for day in found.channels[0].days] == [1, 2, 5, 6, 7, 8]
    assert len(found.gaps) == 1
    assert found.gaps[0].hours == pytest.approx(61.0)
    assert "1 gap in it, the longest 61 h" in plain(found.words[0])
    assert found.channels[0].days[1].covered_h == pytest.approx(16.0)


def test_a_few_readings_by_hand_have_no_gaps():
    assert log_days(TERRACE, None, [channel([20.0] * 5, [0.0, 30.0, 90.0, 200.0, 400.0])]).gaps == []


def test_peaks_that_climb_back_are_said():
    found = log_days(TERRACE, None, [channel(waves(20, climbs=0.8))])
    assert "they climbed by" in plain(found.words[0])
    ends = climb_k(found.channels[0].days)
    assert ends is not None
    assert ends[1] - ends[0] == pytest.approx(0.8 * 14.0, rel=0.1)
    assert climb_k(found.channels[0].days[:13]) is None, "a fortnight is the least"


def test_a_counter_of_hours_is_read_between_its_readings():
    hours = [12.0 + 24.0 * k for k in range(6)]
    found = log_days(TERRACE, None, [channel([100.0 + 6.0 * k for k in range(6)], hours, quantity="hours")])
    days = found.channels[0].days
    assert found.channels[0].counts_hours
    assert days[1].mean == pytest.approx(6.0)
    assert sum(day.mean for day in days) == pytest.approx(30.0)


def test_air_with_both_probes_says_what_it_brings_wood_to():
    warm = channel([35.0] * 30)
    damp = channel([0.4] * 30, channel="h", title="chamber humidity", quantity="humidity")
    words = " ".join(plain(w) for w in log_days(TERRACE, POPLAR, [warm, damp]).words)
    assert f"bring wood to {100.0 * equilibrium_mc(35.0, 0.4):.1f} %" in words
    wet = damp.model_copy(update={"values": [0.9] * 30})
    assert "above the 12.0 % that is wanted" in " ".join(plain(w) for w in log_days(TERRACE, POPLAR, [warm, wet]).words)
    assert log_days(TERRACE, STEW, [warm, damp]).words == []


def test_no_readings_are_no_days():
    assert log_days(TERRACE, None, [channel([], [])]).channels == []
