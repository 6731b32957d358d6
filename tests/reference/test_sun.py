"""The sun's place against published worked examples and pvlib."""

import numpy as np
import pandas as pd
import pvlib
import pytest

from drylamp.core.sky.dome import plane_axes
from drylamp.core.sky.site import Site
from drylamp.core.sky.sun import solar_position, sun_over, sun_path, unit_vectors
from drylamp.core.sums.registry import find_sum

# Reda & Andreas 2004, NREL/TP-560-34302, worked example.
NREL_TIME = pd.Timestamp("2003-10-17T12:30:30-07:00").timestamp()
NREL = {"latitude_deg": 39.742476, "longitude_deg": -105.1786, "elevation_m": 1830.14}
NREL_APPARENT_ZENITH = 50.11162
NREL_AZIMUTH = 194.34024
NREL_INCIDENCE = 25.18700


def nrel_table():
    return solar_position(
        np.array([NREL_TIME]), *NREL.values(), pressure_pa=82000.0, delta_t_s=67.0, temperature_c=11.0
    ).iloc[0]


def test_worked_example_zenith():
    assert nrel_table()["apparent_zenith"] == pytest.approx(NREL_APPARENT_ZENITH, abs=1e-4)


def test_worked_example_azimuth():
    assert nrel_table()["azimuth"] == pytest.approx(NREL_AZIMUTH, abs=1e-4)


def test_worked_example_incidence():
    """Slope 30°, facing 10° east of south."""
    row = nrel_table()
    toward = unit_vectors(np.array([row["apparent_elevation"]]), np.array([row["azimuth"]]))[0]
    incidence = np.degrees(np.arccos(toward @ plane_axes(30.0, 170.0)[2]))
    assert incidence == pytest.approx(NREL_INCIDENCE, abs=1e-3)


# Duffie & Beckman, Solar Engineering of Thermal Processes, example 1.6.2 (value from memory); the book uses a
# simpler declination, hence ±0.6°.
@pytest.mark.parametrize(
    ("day", "solar_hour", "zenith", "west_of_south"),
    [("2023-02-13", 9.5, 66.5, None), ("2023-07-01", 18.5, 79.6, 112.0)],
)
def test_book_example(day: str, solar_hour: float, zenith: float, west_of_south: float | None):
    noon = pd.Timestamp(f"{day}T12:00:00Z")
    equation_min = pvlib.solarposition.equation_of_time_spencer71(noon.dayofyear)
    moment = noon + pd.Timedelta(hours=solar_hour - 12) - pd.Timedelta(minutes=equation_min)
    row = solar_position(np.array([moment.timestamp()]), 43.0, 0.0, 0.0).iloc[0]
    assert row["zenith"] == pytest.approx(zenith, abs=0.6)
    if west_of_south is not None:
        assert row["azimuth"] - 180.0 == pytest.approx(west_of_south, abs=0.6)


def test_two_hundred_places_against_pvlib():
    """Random places and hours; the sum's geometric altitude and azimuth against pvlib's own wrapper."""
    random = np.random.default_rng(5)
    for _ in range(200):
        latitude, longitude = random.uniform(-89, 89), random.uniform(-180, 180)
        moment = pd.Timestamp("2020-01-01T00:00:00Z") + pd.Timedelta(minutes=int(random.integers(0, 5_000_000)))
        ours = find_sum("sun-position").run({"latitude": latitude, "longitude": longitude, "time": moment.isoformat()})[
            "result"
        ]
        theirs = pvlib.solarposition.get_solarposition(moment, latitude, longitude).iloc[0]
        assert ours["altitude_deg"] == pytest.approx(theirs["elevation"], abs=0.01)
        if abs(theirs["elevation"]) < 85:
            turn = (ours["azimuth_deg"] - theirs["azimuth"] + 180) % 360 - 180
            assert abs(turn) < 0.01


def test_interpolated_path_is_as_good_as_exact():
    """Between five-minute knots the direction is off by less than 0.003°, at the equator's fastest too."""
    times = pd.Timestamp("2025-03-21T00:00:00Z").timestamp() + 60.0 * np.arange(1440)
    path = sun_path(times, 0.5, 10.0)
    exact = solar_position(times, 0.5, 10.0, 0.0)
    high = exact["elevation"].to_numpy() > 2  # at the horizon refraction bends faster than a straight line follows
    toward = unit_vectors(exact["elevation"].to_numpy(), exact["azimuth"].to_numpy())
    ours = unit_vectors(path.altitude_deg, path.azimuth_deg)
    apart = np.degrees(np.arccos(np.clip((toward * ours).sum(axis=1), -1, 1)))
    assert apart[high].max() < 0.003


def test_long_paths_are_kept_by_place_and_instants():
    """What is kept is what would be worked out, and another place or hour is not taken for it."""
    here = Site(name="here", latitude_deg=41.2, longitude_deg=9.0, time_zone="UTC")
    there = here.model_copy(update={"latitude_deg": 42.2})
    times = pd.Timestamp("2025-06-12T00:00:00Z").timestamp() + 300.0 * np.arange(3000)
    kept = sun_over(here, times)
    assert sun_over(here, times.copy()) is kept
    assert sun_over(there, times) is not kept
    assert sun_over(here, times + 1.0) is not kept
    fresh = sun_path(times, 41.2, 9.0, here.elevation_m)
    assert np.array_equal(kept.direction, fresh.direction)
    assert sun_over(here, times[:100]) is not sun_over(here, times[:100]), "short ones are not worth it"


# Common practice, no source: at 50° N in the first half of September the noon sun stands about 45° high.
def test_fact_noon_sun_in_september():
    result = find_sum("noon-altitude").run({"latitude": 50, "date": "2025-09-07"})["result"]
    assert result["altitude_deg"] == pytest.approx(45, abs=2)


@pytest.mark.parametrize(("latitude", "day"), [(41.2, "2025-06-12"), (-33.5, "2025-12-21"), (10.0, "2025-06-21")])
def test_noon_altitude_is_the_days_highest(latitude: float, day: str):
    times = pd.Timestamp(f"{day}T00:00:00Z").timestamp() + 60.0 * np.arange(1440)
    highest = sun_path(times, latitude, 0.0).altitude_deg.max()
    result = find_sum("noon-altitude").run({"latitude": latitude, "date": day})["result"]
    assert result["altitude_deg"] == pytest.approx(highest, abs=0.05)
