"""Rough months against places whose own months are known."""

from __future__ import annotations

from datetime import date
from pathlib import Path

import diyepw
import numpy as np
import pvlib
import pytest

from drylamp.core.checks import InputProblem
from drylamp.core.engine import forecast, weather_for
from drylamp.core.sky.generator import made_up_weather, may_be
from drylamp.core.sky.months import ClimateMonth
from drylamp.core.sky.on_earth import HEIGHT_DOUBT_M, height_m, sea_km, zone_at
from drylamp.core.sky.rough_climate import ROUGH_CLEARNESS, ROUGH_K, rough_climate
from drylamp.core.sky.site import Site
from drylamp.core.sky.usual_months import months_from
from drylamp.core.text import plain
from drylamp.core.twin.case import usual_case
from drylamp.demo.scenario import OVEN, SOUTHERN, STEW, TERRACE
from drylamp.formats.weather_file import read_weather

INLAND_DEG = 100.0
"""In the middle of Asia, and at sea in the south."""


def means(latitude: float, longitude: float, elevation: float) -> np.ndarray:
    return np.array([(m.tmin_c + m.tmax_c) / 2 for m in rough_climate(latitude, longitude, elevation)])


@pytest.mark.parametrize("site", [TERRACE, SOUTHERN], ids=["north", "south"])
def test_rough_months_follow_the_seasons_of_their_hemisphere(site):
    own = np.array([(m.tmin_c + m.tmax_c) / 2 for m in site.climate])
    rough = means(site.latitude_deg, site.longitude_deg, site.elevation_m)
    assert abs(own - rough).mean() < ROUGH_K
    assert np.corrcoef(own, rough)[0, 1] > 0.95


PVLIB, DIYEPW = Path(pvlib.__path__[0]) / "data", Path(diyepw.__path__[0])
MEASURED = {
    "Greensboro": (PVLIB / "723170TYA.CSV", "csv", 36.1, -79.95, 273.0),
    "Sand Point": (PVLIB / "703165TY.csv", "csv", 55.317, -160.517, 7.0),
    "Miami": (PVLIB / "12839.tm2", "tmy", 25.8, -80.267, 2.0),
    "Mount Shasta": ("*Mount.Shasta*.epw", "epw", 41.333, -122.333, 1077.0),
    "Northway": ("*Northway*.epw", "epw", 62.967, -141.933, 522.0),
    "Chicago": ("*Chicago*.epw", "epw", 41.983, -87.917, 201.0),
}
"""Typical years of the National Solar Radiation Data Base (TMY2, TMY3), as pvlib and diyepw carry them."""


def measured(name: str) -> tuple[list[ClimateMonth], list[ClimateMonth]]:
    """A place's months as measured, and as guessed."""
    path, kind, latitude, longitude, height = MEASURED[name]
    found = path if isinstance(path, Path) else next(DIYEPW.rglob(path))
    site = Site(
        name=name,
        latitude_deg=latitude,
        longitude_deg=longitude,
        elevation_m=height,
        time_zone=zone_at(latitude, longitude),
    )
    records = read_weather(kind, found.read_text(encoding="latin-1"), found.name)
    return months_from(site, records), rough_climate(latitude, longitude, height)


@pytest.mark.parametrize("name", MEASURED)
def test_measured_places_lie_within_the_stated_doubt(name: str):
    """Five in every month; Northway, in a basin that traps the cold, in eight of twelve and by no more than half as much again."""
    own, rough = measured(name)
    off = np.array([abs((a.tmin_c + a.tmax_c) - (b.tmin_c + b.tmax_c)) / 2 for a, b in zip(own, rough, strict=True)])
    assert (off <= ROUGH_K).sum() >= (8 if name == "Northway" else 12)
    assert off.max() < 1.5 * ROUGH_K
    clear = np.array([[a.clearness, b.clearness] for a, b in zip(own, rough, strict=True)])
    assert abs(np.diff(clear, axis=1)).mean() < ROUGH_CLEARNESS + 0.02


def test_the_sea_evens_the_year_out():
    swing = {name: np.ptp([m.tmin_c + m.tmax_c for m in measured(name)[1]]) / 2 for name in ("Sand Point", "Northway")}
    assert swing["Northway"] > 1.8 * swing["Sand Point"]
    assert sea_km(55.317, -160.517) < 20
    assert 900 < sea_km(41.983, -87.917) < 1150, "Chicago, from the Atlantic"
    assert sea_km(46.0, 86.0) > 2000
    assert height_m(41.983, -87.917) == pytest.approx(201.0, abs=HEIGHT_DOUBT_M)
    assert height_m(0.0, -30.0) == 0.0


def test_height_cools_and_poles_are_colder():
    assert means(40, INLAND_DEG, 2000).mean() < means(40, INLAND_DEG, 0).mean() - 8
    assert means(70, INLAND_DEG, 0).mean() < means(50, INLAND_DEG, 0).mean() < means(20, INLAND_DEG, 0).mean()
    assert np.ptp(means(0, INLAND_DEG, 0)) == pytest.approx(0.0)


def test_a_months_file_needs_a_year():
    site = TERRACE
    records = made_up_weather(site, date(2025, 1, 1), 200)
    with pytest.raises(InputProblem, match="whole days of August, September, October, November and December"):
        months_from(site, records)
    own = months_from(site, made_up_weather(site, date(2025, 1, 1), 370, seed=3))
    given = site.months
    assert np.mean([abs(a.tmax_c - b.tmax_c) for a, b in zip(own, given, strict=True)]) < 1.5
    assert np.mean([abs(a.clearness - b.clearness) for a, b in zip(own, given, strict=True)]) < 0.06


def test_rough_months_carry_their_doubt_into_forecast_and_chance():
    """The peak of a day and its hour move with the guess; a site that knows its months has none; made-up years spread wider."""
    rough = TERRACE.model_copy(update={"climate": None})
    day = date(2025, 12, 12)
    case = usual_case(rough, "terrace", OVEN, STEW, day)
    outcome, _ = forecast(case, weather_for(case))
    first = outcome.days[0]
    assert 0.3 < first.peak_doubt_k < 2.0 * ROUGH_K
    warm = usual_case(rough, "terrace", OVEN, STEW, date(2025, 6, 12))
    assert forecast(warm, weather_for(warm))[0].days[0].target_doubt_minutes > 5
    assert any("rough guess" in plain(flag.text) and "Hartmann" in plain(flag.text) for flag in outcome.flags)
    known = usual_case(TERRACE, "terrace", OVEN, STEW, day)
    assert forecast(known, weather_for(known))[0].days[0].peak_doubt_k is None
    air = [may_be(rough, k).months[5].tmax_c for k in range(200)]
    assert np.std(air) == pytest.approx(ROUGH_K / 2.0, rel=0.2)
    assert air[0] == rough.months[5].tmax_c
    assert may_be(TERRACE, 7) is TERRACE


@pytest.mark.parametrize("latitude", [-90.0, -33.5, 0.0, 41.2, 90.0])
def test_every_latitude_has_twelve_months_that_a_forecast_can_use(latitude):
    months = rough_climate(latitude, INLAND_DEG, 0.0)
    assert len(months) == 12
    assert all(0.3 < m.clearness < 0.7 and m.tmax_c > m.tmin_c for m in months)
