"""The main job on real weather: EPW files from the diyepw wheel (BSD-2), read from the installed package."""

from datetime import date
from pathlib import Path

import diyepw
import numpy as np
import pytest

from drylamp.core.sky.of_span import weather_of
from drylamp.core.sky.site import Site
from drylamp.core.sky.weather import Span
from drylamp.demo.scenario import OVEN, STEW
from drylamp.formats.weather_epw import read_epw
from tests.posing import forecasted

EPW_FILES = sorted(Path(diyepw.__file__).parent.rglob("*.epw"))


@pytest.fixture(scope="module")
def chicago() -> tuple[Site, str]:
    path = next(p for p in EPW_FILES if "Chicago" in p.name)
    text = path.read_text(encoding="utf-8", errors="replace")
    head = text.splitlines()[0].split(",")
    site = Site(
        name=head[1], latitude_deg=float(head[6]), longitude_deg=float(head[7]), elevation_m=float(head[9]),
        time_zone="America/Chicago",
    )  # fmt: skip
    return site, text


def test_three_real_files_are_at_hand():
    assert len(EPW_FILES) >= 3


def test_oven_through_a_real_july(chicago):
    site, text = chicago
    records = read_epw(text, "Chicago")
    weather = weather_of(site, records, Span(start=date(2025, 7, 1), days=14))
    oven = OVEN.model_copy(update={"facing_deg": 180.0})
    outcome, run = forecasted(site, None, oven, STEW, weather)
    peaks = [day.peak_c for day in outcome.days]
    assert len(peaks) == 14
    assert max(peaks) > 85
    assert min(peaks) < max(peaks) - 10
    assert run.energy_closure < 1e-3


def test_each_hours_energy_is_kept(chicago):
    site, text = chicago
    records = read_epw(text, "Chicago")
    weather = weather_of(site, records, Span(start=date(2025, 7, 10)))
    by_hour = weather.ghi_w_m2.reshape(24, 60).mean(axis=1)
    row = {int(t): i for i, t in enumerate(records.time_s)}
    start = weather.start_s - (date(2025, 7, 10) - date(2023, 7, 10)).days * 86400
    expected = [records.ghi_w_m2[row[int(start + 3600 * h)]] for h in range(24)]
    assert by_hour == pytest.approx(expected, abs=1e-6)


def test_sun_of_the_file_and_of_the_place_agree(chicago):
    """The hours with sun in the file are the hours with the sun up: no slip of an hour."""
    site, text = chicago
    records = read_epw(text, "Chicago")
    weather = weather_of(site, records, Span(start=date(2025, 6, 1), days=10))
    lit, up = weather.ghi_w_m2 > 20, weather.sun.altitude_deg > 0
    assert np.mean(lit & ~up) < 0.01
    assert np.mean(up & (weather.sun.altitude_deg > 10) & ~lit) < 0.01


def test_half_hour_time_zones_are_read(chicago):
    """A header zone of 5.5 h moves every row by half an hour against 5 h."""
    _, text = chicago
    lines = text.splitlines()
    zones = []
    for zone in ("5.5", "5.0"):
        head = lines[0].split(",")
        head[8] = zone
        zones.append(read_epw("\n".join([",".join(head), *lines[1:]]), "moved").time_s[0])
    assert zones[1] - zones[0] == pytest.approx(1800)


def test_leap_day_repeats_the_day_before(chicago):
    site, text = chicago
    records = read_epw(text, "Chicago")
    weather = weather_of(site, records, Span(start=date(2024, 2, 28), days=3, step_s=300))
    days = weather.air_c.reshape(3, -1)
    assert days[0][12:200] == pytest.approx(days[1][12:200], abs=0.6)


def test_northern_winter_runs_without_sun():
    """Northway, Alaska, at a latitude where December days are short: it runs and closes."""
    path = next(p for p in EPW_FILES if "Northway" in p.name)
    text = path.read_text(encoding="utf-8", errors="replace")
    head = text.splitlines()[0].split(",")
    site = Site(name="N", latitude_deg=float(head[6]), longitude_deg=float(head[7]), time_zone="America/Anchorage")
    weather = weather_of(site, read_epw(text, "N"), Span(start=date(2025, 12, 20), days=3))
    outcome, _ = forecasted(site, None, OVEN, None, weather)
    assert max(day.peak_c for day in outcome.days) < 80
