"""The laws of heat, each on its own: known values, signs, limits and continuity."""

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from drylamp.core.heat import laws
from drylamp.core.heat.drive import jump_substeps, reset_substeps

SEA = 101325.0
quick = settings(max_examples=200, deadline=None, derandomize=True)
celsius = st.floats(-30, 250)


def test_radiation_is_stefan_boltzmann():
    """Two black square metres at 100 and 20 °C exchange 681 W (σ (373.15⁴ − 293.15⁴))."""
    conductance = laws.radiation_w_k(1.0, 100.0, 20.0)
    assert conductance * 80 == pytest.approx(5.670374419e-8 * (373.15**4 - 293.15**4), rel=1e-12)


@quick
@given(celsius, celsius)
def test_radiation_is_symmetric(a: float, b: float):
    assert laws.radiation_w_k(0.3, a, b) == pytest.approx(laws.radiation_w_k(0.3, b, a), rel=1e-12)


# Hollands et al. 1976 as in Duffie & Beckman 3.11.4.
def test_still_air_layer_only_conducts():
    assert laws.cavity_nusselt(1000.0, 0.0) == pytest.approx(1.0)
    assert laws.cavity_nusselt(1707.0, 0.0) == pytest.approx(1.0)


@pytest.mark.parametrize(("rayleigh", "tilt"), [(1e4, 0.0), (1e4, 45.0), (1e5, 30.0), (1e6, 60.0)])
def test_inclined_layer_against_the_formula(rayleigh: float, tilt: float):
    angle = np.radians(tilt)
    across = rayleigh * np.cos(angle)
    plus = lambda value: max(value, 0.0)  # noqa: E731
    expected = (
        1
        + 1.44 * plus(1 - 1708 * np.sin(1.8 * angle) ** 1.6 / across) * plus(1 - 1708 / across)
        + plus((across / 5830) ** (1 / 3) - 1)
    )
    assert laws.cavity_nusselt(rayleigh, tilt) == pytest.approx(expected, rel=1e-12)


def test_layer_heated_from_above_only_conducts():
    down = laws.cavity_w_k(1.0, 0.02, 30.0, 20.0, 80.0, SEA)
    up = laws.cavity_w_k(1.0, 0.02, 30.0, 80.0, 20.0, SEA)
    assert down == pytest.approx(0.0276 / 0.02, rel=0.05)
    assert up > 1.5 * down


@quick
@given(st.floats(0, 1e7), st.floats(0, 90))
def test_nusselt_never_falls_below_conduction(rayleigh: float, tilt: float):
    assert laws.cavity_nusselt(rayleigh, tilt) >= 1.0


def test_wind_law_and_its_calm_floor():
    assert laws.wind_w_k(2.0, 3.0, 30.0, 20.0) == pytest.approx(2 * (2.8 + 9.0))
    assert laws.wind_w_k(1.0, 0.0, 84.0, 20.0) == pytest.approx(1.52 * 4.0)
    assert laws.wind_w_k(1.0, 0.0, 20.0, 20.0) == pytest.approx(2.8)


@quick
@given(celsius, celsius, st.sampled_from([1.0, 0.0, -1.0]), st.floats(0.05, 1.0))
def test_surface_law_is_positive_and_finite(start: float, end: float, facing: float, length: float):
    value = laws.surface_w_k(0.5, length, facing, start, end, SEA)
    assert 0 < value < 50
    assert np.isfinite(value)


@pytest.mark.parametrize("facing", [1.0, 0.0, -1.0])
def test_surface_law_has_no_jump(facing: float):
    """Over a fine sweep of differences, through zero and through the change of regime."""
    steps = np.arange(-60.0, 60.0, 0.02)
    flow = np.array([laws.surface_w_k(1.0, 0.24, facing, 50.0 + d, 50.0, SEA) * d for d in steps])
    assert np.abs(np.diff(flow)).max() < 0.35


def test_hot_side_up_moves_more_than_hot_side_down():
    up = laws.surface_w_k(1.0, 0.3, 1.0, 90.0, 50.0, SEA)
    down = laws.surface_w_k(1.0, 0.3, -1.0, 90.0, 50.0, SEA)
    assert up > 1.5 * down


# McAdams 1954 for a level plate of 0.25 m at 80 °C in air of 40 °C: h about 6 W/m²K (hand calculation).
def test_level_plate_by_hand():
    assert laws.surface_w_k(1.0, 0.25, 1.0, 80.0, 40.0, SEA) == pytest.approx(6.2, rel=0.1)


def test_leak_grows_with_area_difference_and_wind():
    base = laws.leak_w_k(0.001, 0.25, 80.0, 20.0, 0.0, SEA)
    assert laws.leak_w_k(0.002, 0.25, 80.0, 20.0, 0.0, SEA) == pytest.approx(2 * base)
    assert laws.leak_w_k(0.001, 0.25, 140.0, 20.0, 0.0, SEA) > base
    assert laws.leak_w_k(0.001, 0.25, 80.0, 20.0, 5.0, SEA) > 1.5 * base
    assert laws.leak_w_k(0.0, 0.25, 80.0, 20.0, 5.0, SEA) == 0


# ASHRAE stack flow by hand: 20 cm² in all, 0.25 m, 353 K against 293 K.
def test_leak_by_hand():
    flow = 0.6 * 0.001 * np.sqrt(9.80665 * 0.25 * 60 / 353.15)
    assert laws.leak_w_k(0.002, 0.25, 80.0, 20.0, 0.0, SEA) == pytest.approx(flow * 1.204 * 1007, rel=0.01)


def test_evaporation_rises_and_never_waters_the_pot():
    cool, warm = (laws.evaporation_w(0.03, t, 25.0, 1500.0) for t in (40.0, 80.0))
    assert 0 < cool < warm
    assert laws.evaporation_w(0.03, 5.0, 25.0, 3000.0) == 0.0


# Open water at 60 °C in dry air loses about 1–2 kW/m² by evaporation in still air (range of the trade, no source).
def test_evaporation_is_of_the_right_size():
    assert 800 < laws.evaporation_w(1.0, 60.0, 20.0, 1000.0) < 2500


@quick
@given(st.sampled_from([0, 1, 2, 3, 4, 5, 8]), celsius, celsius)
def test_ready_made_conductance_gives_the_laws_power(law: int, start: float, end: float):
    """What the marcher freezes is the law's own power at the very temperatures it was frozen at."""
    params = {
        0: [3.0],
        1: [0.2],
        2: [0.2, 0.015, 25.0],
        3: [0.3],
        4: [0.3, 0.2, 1.0],
        5: [0.001, 0.25],
        8: [0.2, 0.02],
    }[law]
    ready = laws.ready_made(laws.Law(law), tuple(params))
    padded = [*ready, 0.0, 0.0, 0.0, 0.0][:4]
    gap = start - end
    power = laws.conductance_w_k(law, *padded, start, end, 2.0, SEA) * gap
    expected = {
        0: lambda: 3.0 * gap,
        1: lambda: laws.radiation_w_k(0.2, start, end) * gap,
        2: lambda: laws.cavity_w_k(0.2, 0.015, 25.0, start, end, SEA) * gap,
        3: lambda: laws.wind_w_k(0.3, 2.0, start, end) * gap,
        4: lambda: laws.surface_w_k(0.3, 0.2, 1.0, start, end, SEA) * gap,
        5: lambda: laws.leak_w_k(0.001, 0.25, start, end, 2.0, SEA) * gap,
        8: lambda: laws.cylinder_w_k(0.2, 0.02, start, end, SEA) * gap,
    }[law]()
    assert power == pytest.approx(expected, rel=1e-6, abs=1e-6)


def test_steps_are_cut_where_the_wind_jumps():
    wind = np.full(30, 2.0)
    wind[10:] = 4.0
    sun = np.where(np.arange(30) < 20, 800.0, 500.0)
    parts = jump_substeps(wind, sun)
    assert parts[20] == 2
    assert parts.sum() == 32
    assert parts[9] == 1
    assert parts[10] == 2
    assert parts[11] == 1
    assert (reset_substeps(parts, 60.0)[:5] == 8).all()
    assert parts[0] == 1, "the original is left alone"


# Churchill & Chu 1975 as the `ht` package has it, over the range of hoses and tubes in warm air.
@pytest.mark.parametrize(("wall_c", "diameter_m"), [(40.0, 0.012), (70.0, 0.02), (120.0, 0.1)])
def test_lying_cylinder_against_ht(wall_c: float, diameter_m: float):
    from ht.conv_free_immersed import Nu_horizontal_cylinder_Churchill_Chu

    rayleigh = laws.rayleigh_number(wall_c, 20.0, diameter_m, SEA)
    theirs = Nu_horizontal_cylinder_Churchill_Chu(Pr=0.71, Gr=rayleigh / 0.71)
    k = laws.conductivity_w_mk((wall_c + 20.0) / 2)
    assert laws.cylinder_w_k(1.0, diameter_m, wall_c, 20.0, SEA) == pytest.approx(theirs * k / diameter_m, rel=2e-3)
