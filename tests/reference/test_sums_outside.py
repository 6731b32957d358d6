"""Sums of air, heat and cooking against outside sources."""

import numpy as np
import psychrolib
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from drylamp.core.sums.registry import find_sum
from tests.core.test_sums import refusal, run

psychrolib.SetUnitSystem(psychrolib.SI)


# psychrolib (ASHRAE 2017): every step of the sum by the reference library.
@pytest.mark.parametrize(
    ("air", "rh", "heated", "out", "pressure"),
    [(25, 0.5, 50, 0.8, 101325), (15, 0.8, 40, 0.6, 95000), (32, 0.3, 65, 0.9, 85000)],
)
def test_drying_air_against_psychrolib(air, rh, heated, out, pressure):
    ratio = psychrolib.GetHumRatioFromRelHum(air, rh, pressure)
    enthalpy = psychrolib.GetMoistAirEnthalpy(heated, ratio)
    celsius = np.linspace(air - 5, heated, 200001)
    steps = [
        psychrolib.GetMoistAirEnthalpy(t, psychrolib.GetHumRatioFromRelHum(t, out, pressure)) for t in celsius[::200]
    ]
    leaving = float(np.interp(enthalpy, steps, celsius[::200]))
    carried = psychrolib.GetHumRatioFromRelHum(leaving, out, pressure) - ratio
    result = run(
        "drying-air", water_kg=4.0, hours=8.0, in_c=air, in_rh=rh, heated_c=heated, exit_rh=out, pressure_pa=pressure
    )
    assert result["air_kg"] == pytest.approx(4.0 / carried, rel=2e-3)
    volume = psychrolib.GetMoistAirVolume(air, ratio, pressure)
    assert result["air_m3_h"] == pytest.approx(4.0 / carried * volume / 8.0, rel=2e-3)
    heat = 4.0 / carried * (enthalpy - psychrolib.GetMoistAirEnthalpy(air, ratio)) / 1e6
    assert result["heat_mj"] == pytest.approx(heat, rel=2e-3)


def test_air_that_takes_up_nothing_is_refused():
    assert "takes up nothing" in refusal(
        "drying-air", water_kg=1, hours=1, in_c=20, in_rh=0.9, heated_c=20, exit_rh=0.6
    )
    assert "must be at least in_c" in refusal("drying-air", water_kg=1, hours=1, in_c=20, in_rh=0.5, heated_c=15)


# Moritz & Henriques 1947 and plumbing guidance (from memory): about 5 s at 60 °C, 30 s at 54 °C, 5 min at 49 °C.
@pytest.mark.parametrize(("water_c", "seconds"), [(60, 5), (54, 30), (49, 300)])
def test_scald(water_c, seconds):
    assert run("scald", water_c=water_c)["seconds_to_serious_burn"] == pytest.approx(seconds, rel=0.2)


@settings(max_examples=40, deadline=None)
@given(st.floats(44, 69.5), st.floats(0.1, 30))
def test_hotter_water_burns_sooner(water_c, more):
    sooner, later = (run("scald", water_c=min(t, 100))["seconds_to_serious_burn"] for t in (water_c + more, water_c))
    assert sooner < later


def test_lukewarm_water_does_not_burn():
    result = run("scald", water_c=38)
    assert result["seconds_to_serious_burn"] is None
    assert "local code" in result["note"]


# Common practice, no source: beeswax melts at 62–64 °C.
def test_melting_by_hand():
    result = run("melt", mass_kg=2.0, from_c=20)
    assert 62 <= result["melting_c"] <= 64
    by_hand = 2.0 * (result["cp_j_kgk"] * (result["melting_c"] - 20) + result["latent_j_kg"]) / 1e6
    assert result["energy_mj"] == pytest.approx(by_hand)
    assert run("melt", mass_kg=2.0, material="paraffin", from_c=20)["melting_c"] < result["melting_c"]
    assert "melts at 63" in refusal("melt", mass_kg=1, from_c=70)


MASS, AREA, SLOPE, INTERCEPT = 3.5, 0.5, -2.0, 180.0


def power_log(
    points: int = 36, sun: float = 700.0, noise: float = 0.0, air: float = 25.0, gap_after: int | None = None
) -> str:
    """Water heated exactly along a standard line: each ten minutes' rise follows from the difference at its middle."""
    rows, water, random = ["time,water_c,ambient_c,sun_w_m2,wind_m_s"], 30.0, np.random.default_rng(5)
    minute = 0.0
    for k in range(points + 1):
        clock = (
            f"2025-06-{12 + int(minute // 600):02d}T{10 + int(minute % 600 // 60):02d}:{int(minute % 60):02d}:00+02:00"
        )
        rows.append(f"{clock},{water},{air},{sun},0.5")
        # P = a + b (T − Ta), T the mean of both ends: solve for the end.
        gain = MASS * 4186.0 / 600.0 * 700.0 / sun
        end = (INTERCEPT + SLOPE * (water / 2 - air) + gain * water) / (gain - SLOPE / 2)
        water = end + noise * random.normal()
        minute += 10 + (25 if gap_after == k else 0)
    return "\n".join(rows)


# ASAE S580.1: a known line comes back exactly.
@pytest.mark.parametrize("sun", [600.0, 700.0, 950.0])
def test_cooking_power_recovers_a_known_line(sun: float):
    result = run("cooking-power", file=power_log(sun=sun), mass_kg=MASS, area_m2=AREA)
    assert result["slope_w_k"] == pytest.approx(SLOPE, rel=1e-6)
    assert result["intercept_w"] == pytest.approx(INTERCEPT, rel=1e-6)
    assert result["standard_power_w"] == pytest.approx(INTERCEPT + SLOPE * 50, rel=1e-6)
    assert result["r2"] == pytest.approx(1.0)
    assert result["points"] == 36
    assert result["valid"]
    assert result["reasons"] == []


def test_noise_widens_the_interval_which_holds_the_truth():
    held = [run("cooking-power", file=power_log(noise=0.2), mass_kg=MASS, area_m2=AREA)]
    assert held[0]["ci_low_w"] < INTERCEPT + SLOPE * 50 < held[0]["ci_high_w"]
    assert held[0]["ci_high_w"] - held[0]["ci_low_w"] > 1.0


# The line's interval by scipy's own regression.
def test_interval_against_scipy():
    from scipy import stats

    from drylamp.core.trials.cooking_power import intervals, read_log

    text = power_log(noise=0.2)
    points = intervals(read_log(text), MASS)
    fit = stats.linregress(points.difference_k, points.power_w)
    result = run("cooking-power", file=text, mass_kg=MASS, area_m2=AREA)
    assert result["slope_w_k"] == pytest.approx(fit.slope)
    assert result["r2"] == pytest.approx(fit.rvalue**2)
    x = points.difference_k
    error = (
        fit.stderr
        * np.sqrt(((x - x.mean()) ** 2).sum())
        * np.sqrt(1 / len(x) + (50 - x.mean()) ** 2 / ((x - x.mean()) ** 2).sum())
    )
    half = stats.t.ppf(0.975, len(x) - 2) * error
    assert result["ci_high_w"] - result["standard_power_w"] == pytest.approx(half, rel=1e-9)


def test_no_interval_across_a_gap():
    whole, gap = (run("cooking-power", file=power_log(gap_after=g), mass_kg=MASS, area_m2=AREA) for g in (None, 12))
    assert gap["points"] == whole["points"] - 1
    assert gap["slope_w_k"] == pytest.approx(SLOPE, rel=1e-6)


def test_what_the_standard_holds_against_a_test():
    result = run("cooking-power", file=power_log(points=12, sun=300.0, air=15.0), mass_kg=MASS, area_m2=1.5)
    words = " ".join(result["reasons"])
    assert not result["valid"]
    assert all(
        part in words for part in ("12 intervals", "sun outside 450", "air outside 20", "kg/m² of water by opening")
    )


@pytest.mark.parametrize(("text", "says"), [
    ("time,water_c\n1,2", "has no column ambient_c"),
    ("", "has no rows"),
    ("time,water_c,ambient_c,sun_w_m2,wind_m_s\nnoon,1,2,3,4", "row 2: 'noon' is no ISO 8601 time"),
    ("time,water_c,ambient_c,sun_w_m2,wind_m_s\n2025-06-12T10:00,hot,2,3,4", "row 2: water_c 'hot' is no number"),
    ("time,water_c,ambient_c,sun_w_m2,wind_m_s\n2025-06-12T10:00,1,2,3,4\n2025-06-12T09:00,1,2,3,4", "row 3: its time is not after"),
    ("time,water_c,ambient_c,sun_w_m2,wind_m_s\n2025-06-12T10:00,1,2,3,4\n2025-06-12T10:10,1,2,3,4", "a line needs three"),
])  # fmt: skip
def test_logs_that_make_no_line_are_refused_by_row(text, says):
    assert says in refusal("cooking-power", file=text, mass_kg=2, area_m2=0.3)


def test_answer_does_not_echo_the_whole_file():
    assert (
        "file" not in find_sum("cooking-power").run({"file": power_log(), "mass_kg": MASS, "area_m2": AREA})["inputs"]
    )
