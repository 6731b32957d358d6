"""Heads and flows in pipes, against published laws and tables."""

from __future__ import annotations

import math

import pytest
from hypothesis import given
from hypothesis import strategies as st

from drylamp.core.air.constants import CP_WATER_J_KGK, GRAVITY
from drylamp.core.builds.hose_coil import recipe
from drylamp.core.checks import InputProblem
from drylamp.core.heat.pipe_head import ENDS, driven_kg_s, friction_factor, head_lost_m
from drylamp.core.heat.water import density_kg_m3, viscosity_pa_s
from drylamp.core.loads.common.draws import Draw, Running
from drylamp.core.loads.running.spec import RunningWater
from drylamp.core.sums.registry import find_sum
from drylamp.core.trials.plausible import check_reading
from drylamp.demo.scenario import BASIN_HOSE


def test_laminar_flow_is_hagen_poiseuille():
    """Q = π ΔP r⁴ / (8 μ L); the ends take next to nothing at such a crawl."""
    bore, length, kg_s = 0.013, 50.0, 0.002
    drop = 8.0 * viscosity_pa_s(20.0) * length * (kg_s / density_kg_m3(20.0)) / (math.pi * (bore / 2.0) ** 4)
    assert head_lost_m(kg_s, bore, length, 20.0) == pytest.approx(drop / (density_kg_m3(20.0) * GRAVITY), rel=0.01)


@pytest.mark.parametrize(("reynolds", "factor"), [(4e3, 0.0399), (1e4, 0.0309), (1e5, 0.0180), (1e6, 0.0116)])
def test_turbulent_friction_is_that_of_a_smooth_pipe(reynolds: float, factor: float):
    """Smooth-pipe line of the Moody chart (Moody 1944, read from its table in White, Fluid Mechanics, ch. 6; from memory), within 4 %."""
    assert friction_factor(reynolds) == pytest.approx(factor, rel=0.04)


def test_friction_goes_over_without_a_jump():
    for edge in (2300.0, 4000.0):
        assert friction_factor(edge - 0.01) == pytest.approx(friction_factor(edge + 0.01), rel=1e-3)


def test_a_short_wide_pipe_runs_as_torricelli_says():
    kg_s = driven_kg_s(2.0, 0.05, 0.01, 20.0)
    speed = kg_s / density_kg_m3(20.0) / (math.pi / 4 * 0.05**2)
    assert speed == pytest.approx(math.sqrt(2.0 * GRAVITY * 2.0 / ENDS), rel=0.01)


@given(st.floats(0.05, 50.0), st.floats(0.004, 0.05), st.floats(0.5, 300.0), st.floats(2.0, 90.0))
def test_what_a_head_drives_takes_that_head(head: float, bore: float, length: float, celsius: float):
    assert head_lost_m(driven_kg_s(head, bore, length, celsius), bore, length, celsius) == pytest.approx(head, rel=1e-4)


def test_no_head_drives_nothing_and_no_flow_takes_none():
    assert driven_kg_s(0.0, 0.013, 10.0, 20.0) == 0.0
    assert head_lost_m(0.0, 0.013, 10.0, 20.0) == 0.0


def test_the_quick_sum_fills_a_tub_and_loses_heat_on_the_way():
    made = find_sum("gravity-run").run(
        {"head_m": 1.2, "length_m": 12, "inner_mm": 13, "litres": 60, "water_c": 55, "air_c": 15}
    )["result"]
    assert made["minutes"] == pytest.approx(60.0 / made["flow_l_min"])
    kg_s = made["flow_l_min"] / 60.0
    watts = 10.0 * math.pi * 0.017 * 12.0 * (40.0 - made["lost_k"] / 2.0)
    assert made["lost_k"] == pytest.approx(watts / (kg_s * CP_WATER_J_KGK), rel=0.01)
    assert made["first_cold_l"] == pytest.approx(math.pi / 4 * 0.013**2 * 12.0 * 1000.0)


def test_a_flow_that_cannot_pass_the_hose_is_refused_with_what_does():
    runs = RunningWater(running=[Running(l_min=8.0)], head_m=0.5)
    with pytest.raises(
        InputProblem, match=r"8 litres a minute were given; 0.5 m of head drive 2.8 through 25 m of 13 mm bore"
    ):
        recipe.check_size(BASIN_HOSE, runs)
    recipe.check_size(BASIN_HOSE, runs.model_copy(update={"head_m": 30.0}))
    recipe.check_size(BASIN_HOSE, runs.model_copy(update={"head_m": None}))
    with pytest.raises(InputProblem, match="40 litres a minute"):
        recipe.check_size(BASIN_HOSE, RunningWater(running=[], draws=[Draw(l_min=40.0)], head_m=None))


def test_rows_side_by_side_let_more_through_than_one_after_the_other():
    two = BASIN_HOSE.with_(coils=2, pitch_mm=20.0)
    load = RunningWater(head_m=1.0)
    side = recipe.passes_l_min(two.with_(joined="parallel"), load)
    line = recipe.passes_l_min(two, load)
    assert side > 2.5 * line


def test_a_flow_read_that_cannot_pass_is_kept_and_flagged():
    odd = check_reading("flow", 9.0, None, None, None, most=3.2)
    assert (odd.code, "cannot pass" in odd.text) == ("impossible", True)
    assert not check_reading("flow", 3.5, None, None, None, most=3.2).code
    assert not check_reading("flow", 9.0, None, None, None).code
