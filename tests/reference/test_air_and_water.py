"""Moist air against psychrolib (ASHRAE 2017), air and water against CoolProp."""

import itertools

import numpy as np
import psychrolib
import pytest
from CoolProp import CoolProp as coolprop  # noqa: N813

from drylamp.core.air import moist, properties
from drylamp.core.air.moist import vapour_of_ratio_pa
from drylamp.core.heat.laws import LATENT_J_KG
from drylamp.core.sums.registry import find_sum
from drylamp.core.tables import foods

psychrolib.SetUnitSystem(psychrolib.SI)


@pytest.mark.parametrize("temperature", [-10, 0.5, 15, 30, 50, 70])
@pytest.mark.parametrize("rh", [0.05, 0.4, 0.8, 1.0])
@pytest.mark.parametrize("pressure", [70000, 101325, 105000])
def test_moist_air_against_psychrolib(temperature: float, rh: float, pressure: float):
    ours = find_sum("moist-air").run({"temperature_c": temperature, "rh": rh, "pressure_pa": pressure})["result"]
    ratio = psychrolib.GetHumRatioFromRelHum(temperature, rh, pressure)
    assert ours["humidity_ratio"] == pytest.approx(ratio, rel=2e-3)
    back = vapour_of_ratio_pa(ratio, pressure)
    assert back == pytest.approx(psychrolib.GetVapPresFromHumRatio(ratio, pressure), rel=1e-3)
    assert ours["dew_point_c"] == pytest.approx(psychrolib.GetTDewPointFromRelHum(temperature, rh), abs=0.02)
    assert ours["wet_bulb_c"] == pytest.approx(psychrolib.GetTWetBulbFromRelHum(temperature, rh, pressure), abs=0.05)
    assert ours["enthalpy_j_kg"] == pytest.approx(psychrolib.GetMoistAirEnthalpy(temperature, ratio), rel=3e-3, abs=30)
    deficit = psychrolib.GetVaporPressureDeficit(temperature, ratio, pressure)
    assert ours["vapour_pressure_deficit_pa"] == pytest.approx(deficit, rel=3e-3, abs=8)


@pytest.mark.parametrize("elevation", [0, 480, 1500, 3000])
def test_boiling_point_against_coolprop(elevation: float):
    pressure = psychrolib.GetStandardAtmPressure(elevation)
    expected = coolprop.PropsSI("T", "P", pressure, "Q", 0, "Water") - 273.15
    got = find_sum("boil").run({"elevation_m": elevation})["result"]["boiling_c"]
    assert got == pytest.approx(expected, abs=0.05)


@pytest.mark.parametrize("celsius", [-20, 0, 40, 80, 120, 200])
def test_air_properties_against_coolprop(celsius: float):
    kelvin = celsius + 273.15
    viscosity = coolprop.PropsSI("V", "T", kelvin, "P", 101325, "Air") / coolprop.PropsSI(
        "D", "T", kelvin, "P", 101325, "Air"
    )
    assert properties.conductivity_w_mk(celsius) == pytest.approx(
        coolprop.PropsSI("L", "T", kelvin, "P", 101325, "Air"), rel=0.025
    )
    assert properties.viscosity_m2_s(celsius, 101325.0) == pytest.approx(viscosity, rel=0.03)
    assert properties.density_kg_m3(celsius, 101325.0) == pytest.approx(
        coolprop.PropsSI("D", "T", kelvin, "P", 101325, "Air"), rel=0.003
    )


def test_latent_heat_against_coolprop():
    for celsius in (20, 65, 100):
        steam, liquid = (coolprop.PropsSI("H", "T", celsius + 273.15, "Q", q, "Water") for q in (1, 0))
        assert pytest.approx(steam - liquid, rel=0.045) == LATENT_J_KG


def test_water_in_the_food_table_against_coolprop():
    assert foods()["water"].cp_j_kgk == pytest.approx(
        coolprop.PropsSI("C", "T", 323.15, "P", 101325, "Water"), rel=2e-3
    )


def test_saturation_is_continuous_at_freezing():
    below, above = moist.saturation_pressure_pa(-1e-6), moist.saturation_pressure_pa(1e-6)
    assert below == pytest.approx(above, rel=1e-4)


def test_saturation_rises_with_temperature():
    values = [moist.saturation_pressure_pa(float(t)) for t in np.arange(-60, 150, 1.0)]
    assert all(b > a for a, b in itertools.pairwise(values))
