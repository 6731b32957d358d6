"""Figures of merit, tested on synthetic curves, and facts of the trade about quick sums."""

import math

import pytest

from drylamp.core.sums.registry import find_sum
from drylamp.core.trials import figures


def run(name: str, **inputs: object) -> dict:
    return find_sum(name).run(inputs)["result"]


# Mullick, Kandpal & Saxena 1987; IS 13429 (grades from memory).
def test_f1_and_its_grades():
    assert figures.first_figure_m2k_w(130.0, 30.0, 800.0) == pytest.approx(0.125)
    assert [figures.grade_of(f) for f in (0.121, 0.115, 0.10)] == ["A", "B", "below B"]


def heating_curve(f1: float, f2: float, start: float, seconds: float) -> float:
    """Water temperature after a time, by the model the figures rest on: (MC)/(A F') dT/dt = G η0 − UL (T − Ta)."""
    mass, cp, area, ambient, sun = 4.0, 4186.0, 0.5, 30.0, 850.0
    top = ambient + f1 * sun
    rate = f2 * area / (f1 * mass * cp)
    return top - (top - start) * math.exp(-rate * seconds)


@pytest.mark.parametrize(("f1", "f2"), [(0.12, 0.40), (0.13, 0.30), (0.11, 0.46)])
def test_f2_recovered_from_its_own_curve(f1: float, f2: float):
    end = heating_curve(f1, f2, 60.0, 3000.0)
    result = run(
        "figures-of-merit", plate_c=30.0 + f1 * 800, ambient_c=30.0, sun_w_m2=800.0, mass_kg=4.0, area_m2=0.5,
        water_start_c=60.0, water_end_c=end, seconds=3000.0, test_ambient_c=30.0, test_sun_w_m2=850.0,
    )  # fmt: skip
    assert result["f1_m2k_w"] == pytest.approx(f1)
    assert result["f2"] == pytest.approx(f2, rel=1e-6)
    if result["boil_minutes"] is not None:
        assert heating_curve(f1, f2, 30.0, result["boil_minutes"] * 60) == pytest.approx(100.0, abs=1e-6)


def test_boiling_that_never_comes_is_null():
    result = run(
        "figures-of-merit", plate_c=80.0, ambient_c=30.0, sun_w_m2=800.0, mass_kg=4.0, area_m2=0.5, water_start_c=40.0,
        water_end_c=60.0, seconds=3000.0, test_ambient_c=30.0, test_sun_w_m2=700.0,
    )  # fmt: skip
    assert result["boil_minutes"] is None


# Common practice, no source: 40 m of 12 mm bore pipe holds a little over 4 litres.
def test_fact_pipe():
    assert 4.0 < run("pipe-volume", inner_mm=12, length_m=40)["volume_l"] < 4.7


# Common practice, no source: 15 litres falling from 70 to 54 °C, mixed with 13 °C water, make 27–28 litres at 40 °C.
def test_fact_mixing():
    mean = (70 + 54) / 2
    assert 27 <= run("mix", hot_l=15, hot_c=mean, cold_c=13, want_c=40)["total_l"] <= 28


# ISO 9459-2 form: cooling by the model it assumes gives back its loss coefficient.
def test_cool_down_recovers_its_coefficient():
    end = 20 + 40 * math.exp(-2.5 * 10 * 3600 / (60 * 4186))
    result = run("cool-down", mass_kg=60, start_c=60, end_c=end, ambient_c=20, hours=10)
    assert result["ua_w_k"] == pytest.approx(2.5, rel=1e-9)


# Definition: 1 m²K/W is 5.678 h·ft²·°F/Btu (value from memory).
def test_wall_in_both_units():
    result = run("wall", layers="0.05:0.04, 0.009:0.12")
    assert result["r_m2k_w"] == pytest.approx(1 / 8 + 1.25 + 0.075 + 1 / 20)
    assert result["r_us"] / result["r_m2k_w"] == pytest.approx(5.678, abs=0.001)
    assert result["u_w_m2k"] * result["r_m2k_w"] == pytest.approx(1)


# 1 board foot is 144 cubic inches (definition).
def test_board_foot():
    result = run("board-feet", thickness_in=1, width_in=12, length_ft=1, count=1)
    assert result["board_feet"] == pytest.approx(1.0)
    assert result["volume_m3"] == pytest.approx(0.00235974, rel=1e-5)


@pytest.mark.parametrize(("name", "inputs", "key", "expected"), [
    ("heat-up", {"mass_kg": 2, "from_c": 20, "to_c": 100, "power_w": 200}, "hours", 2 * 4186 * 80 / 200 / 3600),
    ("heat-up", {"mass_kg": 1, "from_c": 0, "to_c": 1}, "hours", None),
    ("shadow", {"altitude_deg": 45, "height_m": 1.5}, "length_m", 1.5),
    ("moisture-basis", {"mc_wet": 0.5}, "mc_dry", 1.0),
    ("moisture-basis", {"mc_dry": 0.25}, "mc_wet", 0.2),
    ("target-weight", {"weight_kg": 10, "mc_wet": 0.8, "target_mc_wet": 0.2}, "target_weight_kg", 2.5),
    ("wood-mc", {"wet_kg": 1.2, "dry_kg": 1.0}, "mc_dry", 0.2),
    ("flow-heat", {"litres": 6, "seconds": 60, "in_c": 15, "out_c": 25, "area_m2": 10, "sun_w_m2": 800}, "efficiency",
     6 / 60 * 4186 * 10 / 8000),
    ("flow-heat", {"litres": 6, "seconds": 60, "in_c": 15, "out_c": 25}, "efficiency", None),
    ("saving", {"energy_kwh_per_use": 2, "uses_per_year": 100, "price_per_kwh": 0.25, "cost": 100}, "payback_years", 2.0),
    ("saving", {"energy_kwh_per_use": 0, "uses_per_year": 100, "price_per_kwh": 0.25, "cost": 100}, "payback_years", None),
    ("boil", {"pressure_pa": 101325}, "boiling_c", 99.97),
    ("incidence", {"latitude": 0, "longitude": 0, "time": "2025-03-20T12:07:00+00:00", "tilt_deg": 0, "azimuth_deg": 180},
     "incidence_deg", 0.25),
])  # fmt: skip
def test_plain_sums(name: str, inputs: dict, key: str, expected: float | None):
    got = run(name, **inputs)[key]
    if expected is None:
        assert got is None
    else:
        assert got == pytest.approx(expected, rel=2e-4, abs=0.3 if name == "incidence" else 1e-9)


def test_tilt_schools_keep_to_zero_and_ninety():
    north = run("tilt-schools", latitude=80, longitude=0)
    south = run("tilt-schools", latitude=-5, longitude=0)
    assert north["winter_deg"] == 90
    assert south["summer_deg"] == 0
    assert south["latitude_rule_deg"] == 5


# Usual range, from memory: the best year-round tilt lies a little below the latitude at middle latitudes.
@pytest.mark.parametrize("latitude", [35.0, 41.2, -33.5])
def test_best_year_tilt_lies_below_the_latitude(latitude: float):
    best = run("tilt-schools", latitude=latitude, longitude=1.1)["best_year_deg"]
    assert abs(latitude) - 8 < best < abs(latitude)
