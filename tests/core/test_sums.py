"""Properties of the quick sums, and their refusals: every door says the same."""

from __future__ import annotations

import math

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from pydantic import ValidationError

from drylamp.core.checks import InputProblem, explain
from drylamp.core.sums.registry import SUMS, find_sum

quick = settings(max_examples=100, deadline=None, derandomize=True)


def run(name: str, **inputs: object) -> dict:
    return find_sum(name).run(inputs)["result"]


def refusal(name: str, **inputs: object) -> str:
    with pytest.raises((ValidationError, InputProblem)) as caught:
        find_sum(name).run(inputs)
    return "; ".join(f"{p.field}: {p.message}" for p in explain(caught.value))


@quick
@given(st.floats(0.5, 100), st.floats(45, 95), st.floats(2, 25), st.floats(30, 44))
def test_mixing_keeps_heat_and_litres(hot_l: float, hot_c: float, cold_c: float, want_c: float):
    result = run("mix", hot_l=hot_l, hot_c=hot_c, cold_c=cold_c, want_c=want_c)
    assert result["total_l"] == pytest.approx(hot_l + result["cold_l"])
    assert hot_l * hot_c + result["cold_l"] * cold_c == pytest.approx(result["total_l"] * want_c)


@quick
@given(st.floats(0, 0.95))
def test_moisture_basis_there_and_back(wet: float):
    dry = run("moisture-basis", mc_wet=wet)["mc_dry"]
    assert run("moisture-basis", mc_dry=dry)["mc_wet"] == pytest.approx(wet, abs=1e-12)


@quick
@given(st.floats(0.1, 100), st.floats(0.3, 0.95), st.floats(0.05, 0.29))
def test_drying_keeps_the_dry_matter(weight: float, wet: float, target: float):
    result = run("target-weight", weight_kg=weight, mc_wet=wet, target_mc_wet=target)
    assert weight * (1 - wet) == pytest.approx(result["target_weight_kg"] * (1 - target))
    assert result["water_kg"] > 0


@quick
@given(st.floats(1, 89), st.floats(0.01, 50))
def test_shadow_and_sun_make_a_right_triangle(altitude: float, height: float):
    length = run("shadow", altitude_deg=altitude, height_m=height)["length_m"]
    assert math.degrees(math.atan2(height, length)) == pytest.approx(altitude)


@quick
@given(st.integers(0, 3), st.floats(0, 85), st.floats(0, 60))
def test_a_further_cover_never_lets_in_more(layers: int, incidence: float, extinction: float):
    more, less = (
        run("cover-transmittance", layers=n, extinction_per_m=extinction, thickness_m=0.003, incidence_deg=incidence)
        for n in (layers, layers + 1)
    )
    assert 0 <= less["transmittance"] <= more["transmittance"] <= 1


@quick
@given(st.floats(60, 150), st.floats(-10, 30), st.floats(0, 12))
def test_two_covers_lose_less_than_one(plate: float, ambient: float, wind: float):
    one, two = (
        run("top-loss", plate_c=plate, ambient_c=ambient, wind_m_s=wind, covers=n, plate_emittance=0.95)["u_top_w_m2k"]
        for n in (1, 2)
    )
    assert 0 < two < one < 15


def test_selective_plate_and_sky_in_the_top_loss():
    base = {"plate_c": 90, "ambient_c": 20, "wind_m_s": 3, "covers": 1}
    black = run("top-loss", **base, plate_emittance=0.95)["u_top_w_m2k"]
    selective = run("top-loss", **base, plate_emittance=0.1)["u_top_w_m2k"]
    cold_sky = run("top-loss", **base, plate_emittance=0.95, sky_c=0.0)["u_top_w_m2k"]
    assert selective < 0.65 * black
    assert cold_sky > black


@quick
@given(st.floats(0, 8000))
def test_water_boils_lower_higher_up(elevation: float):
    low, high = (run("boil", elevation_m=e)["boiling_c"] for e in (elevation, elevation + 300))
    assert high < low


@quick
@given(st.floats(-40, 60), st.floats(0.02, 1.0))
def test_dew_point_wet_bulb_and_air_in_order(temperature: float, rh: float):
    air = run("moist-air", temperature_c=temperature, rh=rh)
    assert air["dew_point_c"] <= temperature + 1e-6
    assert air["dew_point_c"] - 0.6 <= air["wet_bulb_c"] <= temperature + 1e-6
    assert air["vapour_pressure_deficit_pa"] >= 0


@quick
@given(st.floats(-60, 60), st.integers(1, 12))
def test_noon_altitude_stays_on_the_dome(latitude: float, month: int):
    high = run("noon-altitude", latitude=latitude, date=f"2025-{month:02d}-15")["altitude_deg"]
    assert 0 < high <= 90


@pytest.mark.parametrize(("name", "inputs", "says"), [
    ("sun-position", {"latitude": 41, "longitude": 1, "time": "2025-06-12T12:00:00"}, "time:"),
    ("sun-position", {"latitude": "north", "longitude": 1, "time": "2025-06-12T12:00:00Z"}, "latitude: 'north' was given"),
    ("noon-altitude", {"latitude": 41}, "date: is missing"),
    ("incidence", {"latitude": 41, "longitude": 1, "time": "2025-06-12T12:00:00Z", "tilt_deg": 95, "azimuth_deg": 0}, "tilt_deg: 95"),
    ("cover-transmittance", {"layers": 2.5, "extinction_per_m": 0, "thickness_m": 0.003, "incidence_deg": 0}, "layers: 2.5"),
    ("cover-transmittance", {"layers": 1, "extinction_per_m": -1, "thickness_m": 0.003, "incidence_deg": 0}, "extinction_per_m: -1"),
    ("top-loss", {"plate_c": 90, "ambient_c": 20, "wind_m_s": 3, "wind_w_m2k": 9, "covers": 1, "plate_emittance": 0.9}, "one of the two"),
    ("top-loss", {"plate_c": 90, "ambient_c": 20, "covers": 1, "plate_emittance": 0.9}, "one of the two"),
    ("wall", {"layers": "0.05:0"}, "conductivity above 0"),
    ("wall", {"layers": "-0.05:0.04"}, "thickness must be 0 or more"),
    ("heat-up", {"mass_kg": 0, "from_c": 0, "to_c": 1}, "mass_kg: 0 was given; allowed is greater than 0"),
    ("heat-up", {"mass_kg": True, "from_c": 0, "to_c": 1}, "mass_kg"),
    ("cool-down", {"mass_kg": 1, "start_c": 60, "end_c": 70, "ambient_c": 20, "hours": 1}, "end_c must lie between"),
    ("moisture-basis", {}, "one of the two"),
    ("moisture-basis", {"mc_wet": 1.0}, "mc_wet: 1.0 was given; allowed is less than 1"),
    ("wood-mc", {"wet_kg": 1, "dry_kg": 2}, "swap the two"),
    ("figures-of-merit", {"plate_c": 20, "ambient_c": 30, "sun_w_m2": 800}, "must be above ambient_c"),
    ("moist-air", {"temperature_c": 20, "rh": 40}, "rh: 40 was given; allowed is less than or equal to 1"),
    ("boil", {"elevation_m": float("nan")}, "elevation_m"),
    ("gravity-run", {"head_m": 1, "length_m": 5, "inner_mm": 13, "outer_mm": 13}, "outer_mm 13 must be above inner_mm 13"),
    ("gravity-run", {"head_m": 0, "length_m": 5, "inner_mm": 13}, "head_m: 0 was given; allowed is greater than 0"),
    ("pipe-volume", {"inner_mm": 12, "length_m": 40, "colour": "red"}, "colour: is not a known field"),
])  # fmt: skip
def test_refusals_name_field_value_and_limit(name: str, inputs: dict, says: str):
    assert says in refusal(name, **inputs)


def test_water_hotter_than_stagnation_allows_is_refused():
    says = refusal(
        "figures-of-merit", plate_c=80, ambient_c=30, sun_w_m2=800, mass_kg=2, area_m2=0.3, water_start_c=60,
        water_end_c=95, seconds=3000, test_ambient_c=30, test_sun_w_m2=500,
    )  # fmt: skip
    assert "above what F1" in says


def test_answers_have_the_fixed_shape():
    answer = find_sum("boil").run({"elevation_m": 100})
    assert list(answer) == ["sum", "inputs", "result", "source"]
    assert answer["sum"] == "boil"
    assert set(SUMS["boil"].result.model_fields) == set(answer["result"])


FIXED = {
    "sun-position": ({"latitude", "longitude", "time", "elevation_m"}, {"altitude_deg", "azimuth_deg"}),
    "noon-altitude": ({"latitude", "date"}, {"altitude_deg"}),
    "incidence": ({"latitude", "longitude", "time", "tilt_deg", "azimuth_deg"}, {"incidence_deg"}),
    "shadow": ({"altitude_deg", "height_m"}, {"length_m"}),
    "mirror-tilt": (
        {"opening_tilt_deg", "sun_altitude_deg", "mirror_length_ratio"},
        {"mirror_angle_deg", "gain_ratio"},
    ),
    "wall": ({"layers", "inside_w_m2k", "outside_w_m2k"}, {"u_w_m2k", "r_m2k_w", "r_us"}),
    "heat-up": ({"mass_kg", "cp_j_kgk", "from_c", "to_c", "power_w"}, {"energy_mj", "energy_kwh", "hours"}),
    "cool-down": ({"mass_kg", "cp_j_kgk", "start_c", "end_c", "ambient_c", "hours"}, {"ua_w_k", "time_constant_h"}),
    "mix": ({"hot_l", "hot_c", "cold_c", "want_c"}, {"total_l", "cold_l"}),
    "gravity-run": (
        {"head_m", "length_m", "inner_mm", "outer_mm", "water_c", "air_c", "litres"},
        {"flow_l_min", "minutes", "lost_k", "first_cold_l"},
    ),
    "pipe-volume": ({"inner_mm", "length_m"}, {"volume_l"}),
    "boil": ({"elevation_m", "pressure_pa"}, {"boiling_c"}),
    "saving": ({"energy_kwh_per_use", "uses_per_year", "price_per_kwh", "cost"}, {"saved_per_year", "payback_years"}),
    "scald": ({"water_c"}, {"seconds_to_serious_burn", "note"}),
    "drying-air": (
        {"water_kg", "hours", "in_c", "in_rh", "heated_c", "exit_rh", "pressure_pa"},
        {"air_kg", "air_m3_h", "heat_mj"},
    ),
    "wood-emc": ({"temperature_c", "rh"}, {"emc"}),
    "wood-mc": ({"wet_kg", "dry_kg"}, {"mc_dry"}),
    "sample-board": (
        {"section_wet_kg", "section_dry_kg", "board_start_kg", "board_now_kg"},
        {"section_mc", "board_dry_kg", "board_mc"},
    ),
    "shrinkage": ({"species", "from_mc", "to_mc", "width_mm", "cut"}, {"change_mm", "change_fraction"}),
    "meter-correction": ({"reading_mc", "species", "wood_c", "meter", "set_to"}, {"mc"}),
    "kiln-size": ({"board_feet", "thickness_in"}, {"collector_m2", "collector_ft2"}),
    "safe-rate": ({"species", "thickness_in"}, {"max_mc_loss_per_day"}),
    "water-in-boards": ({"volume_m3", "species", "from_mc", "to_mc"}, {"water_kg", "latent_mj"}),
    "cooking-power": (
        {"file", "mass_kg", "area_m2"},
        {"standard_power_w", "slope_w_k", "intercept_w", "r2", "points", "ci_low_w", "ci_high_w", "valid", "reasons"},
    ),
    "melt": ({"mass_kg", "material", "from_c"}, {"energy_mj", "cp_j_kgk", "melting_c", "latent_j_kg"}),
    "board-feet": ({"thickness_in", "width_in", "length_ft", "count"}, {"board_feet", "volume_m3"}),
    "target-weight": ({"weight_kg", "mc_wet", "target_mc_wet"}, {"target_weight_kg", "water_kg"}),
}
"""Names that other programs rely on (the sums' fixed contract)."""


@pytest.mark.parametrize("name", FIXED)
def test_names_are_the_fixed_ones(name: str):
    inputs, result = FIXED[name]
    assert set(SUMS[name].inputs.model_fields) == inputs
    assert set(SUMS[name].result.model_fields) == result
