"""Moist air, by the ASHRAE formulas.

Functions take and return plain numbers (or arrays of one shape) in °C, Pa, kg water per kg dry air, J per kg dry air.

References:
    ASHRAE Handbook Fundamentals, psychrometrics (saturation pressure after Hyland & Wexler 1983).
"""

from __future__ import annotations

import math
from functools import lru_cache
from typing import TypeVar

from scipy.optimize import brentq

from drylamp.core.arrays import Array
from drylamp.core.checks import require
from drylamp.core.compiled import inlined

T = TypeVar("T", float, Array)
MOLAR_RATIO = 0.621945
VAPOUR_GAS_CONSTANT = 461.5


@inlined
def saturation_pressure_pa(temperature_c: float) -> float:
    """Vapour pressure over ice (below 0 °C) or water, Pa; −100…200 °C (Hyland & Wexler 1983)."""
    kelvin = temperature_c + 273.15
    if temperature_c < 0.0:
        power = (
            -5.6745359e3 / kelvin
            + 6.3925247
            - 9.677843e-3 * kelvin
            + 6.2215701e-7 * kelvin**2
            + 2.0747825e-9 * kelvin**3
            - 9.484024e-13 * kelvin**4
            + 4.1635019 * math.log(kelvin)
        )
    else:
        power = (
            -5.8002206e3 / kelvin
            + 1.3914993
            - 4.8640239e-2 * kelvin
            + 4.1764768e-5 * kelvin**2
            - 1.4452093e-8 * kelvin**3
            + 6.5459673 * math.log(kelvin)
        )
    return math.exp(power)


def vapour_pressure_pa(temperature_c: float, rh: float) -> float:
    """Partial pressure of water vapour, Pa."""
    return rh * float(saturation_pressure_pa(temperature_c))


def dew_point_c(vapour_pa: float) -> float:
    """Temperature at which air of this vapour pressure begins to wet things, °C.

    Raises
    ------
    InputProblem
        the air is bone dry (no dew point exists).
    """
    require(vapour_pa > 0, "rh", "0 was given; bone-dry air has no dew point, give more than 0")
    return float(brentq(lambda t: saturation_pressure_pa(t) - vapour_pa, -99.0, 199.0, xtol=1e-9))


def humidity_ratio(vapour_pa: float, pressure_pa: float) -> float:
    """Water per kg of dry air.

    Raises
    ------
    InputProblem
        there is more vapour than pressure (above boiling).
    """
    require(
        vapour_pa < pressure_pa,
        "temperature_c",
        "the air would be pure steam; give a lower temperature or rh",
    )
    return MOLAR_RATIO * vapour_pa / (pressure_pa - vapour_pa)


def vapour_of_ratio_pa(ratio: T, pressure_pa: float) -> T:
    """Partial pressure of the water in air of a humidity ratio, of one or of many, Pa."""
    return pressure_pa * ratio / (MOLAR_RATIO + ratio)


def enthalpy_j_kg(temperature_c: float, ratio: float) -> float:
    """Enthalpy of moist air per kg of dry air, from 0 °C dry air and liquid water."""
    return 1000.0 * (1.006 * temperature_c + ratio * (2501.0 + 1.86 * temperature_c))


def wet_bulb_c(temperature_c: float, ratio: float, pressure_pa: float) -> float:
    """Thermodynamic wet-bulb temperature, °C."""

    def surplus(wet_c: float) -> float:
        saturated = MOLAR_RATIO * saturation_pressure_pa(wet_c) / (pressure_pa - saturation_pressure_pa(wet_c))
        if wet_c >= 0:
            top = (2501.0 - 2.326 * wet_c) * saturated - 1.006 * (temperature_c - wet_c)
            return float(top / (2501.0 + 1.86 * temperature_c - 4.186 * wet_c) - ratio)
        top = (2830.0 - 0.24 * wet_c) * saturated - 1.006 * (temperature_c - wet_c)
        return float(top / (2830.0 + 1.86 * temperature_c - 2.1 * wet_c) - ratio)

    if surplus(temperature_c) <= 0:
        return temperature_c
    return float(brentq(surplus, -90.0, temperature_c, xtol=1e-9))


def volume_m3_kg(temperature_c: float, ratio: float, pressure_pa: float) -> float:
    """Volume of moist air per kg of dry air, m³."""
    return 287.042 * (temperature_c + 273.15) * (1.0 + 1.607858 * ratio) / pressure_pa


def at_enthalpy_c(enthalpy: float, rh: float, pressure_pa: float) -> float:
    """Temperature at which air of this relative humidity has this enthalpy (J per kg dry air), °C.

    Raises
    ------
    InputProblem
        it would lie outside −60 °C and boiling.
    """

    def surplus(celsius: float) -> float:
        return enthalpy_j_kg(celsius, humidity_ratio(vapour_pressure_pa(celsius, rh), pressure_pa)) - enthalpy

    hottest = boiling_c(pressure_pa) - 0.5
    good = surplus(-60.0) <= 0 <= surplus(hottest)
    require(good, "enthalpy_j_kg", f"{enthalpy:.0f} was given; out of reach at {rh:g} relative humidity")
    return float(brentq(surplus, -60.0, hottest, xtol=1e-9))


@lru_cache(maxsize=4096)
def boiling_c(pressure_pa: float) -> float:
    """Temperature at which water boils under this pressure, °C."""
    return float(brentq(lambda t: saturation_pressure_pa(t) - pressure_pa, 1.0, 199.0, xtol=1e-9))
