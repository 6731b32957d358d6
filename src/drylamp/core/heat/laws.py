"""The laws by which a link carries heat, each linear in its two temperatures once frozen.

Every law returns (g, h, c): the power from start to end is q = g·T_start − h·T_end + c, with temperatures in °C.
Most laws have g = h and c = 0. Film properties are taken at the mean of the two temperatures.
"""

from __future__ import annotations

import math
from enum import IntEnum

from drylamp.core.air.moist import VAPOUR_GAS_CONSTANT, saturation_pressure_pa
from drylamp.core.air.properties import (
    CP_AIR,
    GRAVITY,
    PRANDTL,
    conductivity_w_mk,
    density_kg_m3,
    viscosity_m2_s,
)
from drylamp.core.compiled import inlined

STEFAN_BOLTZMANN = 5.670374419e-8
LATENT_J_KG = 2.35e6
"""Latent heat of water at about 65 °C (CoolProp: 2.346e6); within 4 % from 20 to 100 °C."""
DISCHARGE_COEFFICIENT = 0.6
CROSS_WIND_COEFFICIENT = 0.3
BOIL_W_K = 3000.0
"""How steeply steam takes heat once past boiling: large enough to hold the pot within 0.2 K."""


class Law(IntEnum):
    """What a link does, and what its four parameters mean."""

    CONDUCTANCE = 0  # W/K
    RADIATION = 1  # exchange area m²
    CAVITY = 2  # area m², gap m, tilt deg: still air between two parallel sheets
    WIND = 3  # area m²: a surface in the open
    SURFACE = 4  # area m², length m, facing (1 up, 0 upright, −1 down): natural convection in a closed space
    LEAK = 5  # area m², height m: air through cracks, in low and out high
    BOIL = 6  # start boils off whatever comes above the end's temperature
    EVAPORATE = 7  # area m², free share 0–1: water vapour from a wet surface to the open air


@inlined
def radiation_w_k(area_m2: float, start_c: float, end_c: float) -> float:
    """σ X (T₁² + T₂²)(T₁ + T₂): the exact secant of σ X (T₁⁴ − T₂⁴)."""
    a, b = start_c + 273.15, end_c + 273.15
    return STEFAN_BOLTZMANN * area_m2 * (a * a + b * b) * (a + b)


@inlined
def cavity_nusselt(rayleigh: float, tilt_deg: float) -> float:
    """Nusselt number of an inclined air layer heated from below.

    References:
        Hollands et al. 1976 (Duffie & Beckman 3.11.4), 0–75°; steeper is held at 75°.
    """
    tilt = math.radians(min(max(tilt_deg, 0.0), 75.0))
    across = rayleigh * math.cos(tilt)
    if across <= 1e-9:
        return 1.0
    first = max(1.0 - 1708.0 / across, 0.0) * (1.0 - 1708.0 * math.sin(1.8 * tilt) ** 1.6 / across)
    second = max((across / 5830.0) ** (1.0 / 3.0) - 1.0, 0.0)
    return float(1.0 + 1.44 * max(first, 0.0) + second)


@inlined
def rayleigh_number(start_c: float, end_c: float, length_m: float, pressure_pa: float) -> float:
    """g β ΔT L³ / (ν α) with air at the mean temperature."""
    mean = (start_c + end_c) / 2.0
    nu = viscosity_m2_s(mean, pressure_pa)
    return GRAVITY * abs(start_c - end_c) * length_m**3 * PRANDTL / ((mean + 273.15) * nu * nu)


@inlined
def cavity_w_k(
    area_m2: float, gap_m: float, tilt_deg: float, start_c: float, end_c: float, pressure_pa: float
) -> float:
    """Conductance of an air layer; the start is the lower sheet. Heated from above it only conducts."""
    mean = (start_c + end_c) / 2.0
    nusselt = 1.0
    if start_c > end_c:
        nusselt = cavity_nusselt(rayleigh_number(start_c, end_c, gap_m, pressure_pa), tilt_deg)
    return area_m2 * nusselt * conductivity_w_mk(mean) / gap_m


@inlined
def wind_w_k(area_m2: float, wind_m_s: float, start_c: float, end_c: float) -> float:
    """Convection from a surface in the open, without radiation.

    References:
        2.8 + 3 V (Watmuff et al. 1977); in calm air at least McAdams' 1.52 ΔT^⅓ for a warm plate.
    """
    return float(area_m2 * max(2.8 + 3.0 * wind_m_s, 1.52 * abs(start_c - end_c) ** (1.0 / 3.0)))


@inlined
def surface_w_k(
    area_m2: float, length_m: float, facing: float, start_c: float, end_c: float, pressure_pa: float
) -> float:
    """Natural convection between a surface (start) and the air of a closed space (end).

    References:
        Level plates: McAdams 1954, the larger of 0.54 Ra^¼ and 0.15 Ra^⅓ (no jump where they meet), 0.27 Ra^¼ on the quiet side;
        upright: Churchill & Chu 1975, 0.68 + 0.670 Ra^¼ / [1 + (0.492/Pr)^(9/16)]^(4/9). Never below still air.
    """
    if area_m2 <= 0.0:
        return 0.0
    rayleigh = rayleigh_number(start_c, end_c, length_m, pressure_pa)
    if facing == 0.0:
        nusselt = 0.68 + 0.515 * rayleigh**0.25
    elif (start_c - end_c) * facing > 0.0:
        nusselt = max(0.54 * rayleigh**0.25, 0.15 * rayleigh ** (1.0 / 3.0))
    else:
        nusselt = 0.27 * rayleigh**0.25
    return float(area_m2 * max(nusselt, 1.0) * conductivity_w_mk((start_c + end_c) / 2.0) / length_m)


@inlined
def leak_w_k(
    area_m2: float, height_m: float, start_c: float, end_c: float, wind_m_s: float, pressure_pa: float
) -> float:
    """Air changed through cracks: half of them let it in low, half let it out high.

    References:
        ASHRAE Handbook Fundamentals, ventilation and infiltration: stack Cd A √(2 g ΔH ΔT/T) with ΔH half the height,
        wind Cv A V, combined by the root of the sum of squares.
    """
    warm = max(start_c, end_c) + 273.15
    stack = DISCHARGE_COEFFICIENT * math.sqrt(GRAVITY * height_m * abs(start_c - end_c) / warm)
    blown = CROSS_WIND_COEFFICIENT * wind_m_s
    flow = area_m2 / 2.0 * math.sqrt(stack * stack + blown * blown)
    return flow * density_kg_m3(end_c, pressure_pa) * CP_AIR


@inlined
def evaporation_w(area_m2: float, start_c: float, air_c: float, vapour_pa: float) -> float:
    """Heat carried off as vapour from a wet surface.

    References:
        Lewis relation (Chilton & Colburn 1934): h_m = h_c / (ρ cp Le^⅔), Le^⅔ = 0.90; h_c = 6 W/m²K from memory.
    """
    film = 6.0 / (1.06 * CP_AIR * 0.90)
    at_surface = saturation_pressure_pa(start_c) / (VAPOUR_GAS_CONSTANT * (start_c + 273.15))
    in_air = vapour_pa / (VAPOUR_GAS_CONSTANT * (air_c + 273.15))
    return max(area_m2 * film * LATENT_J_KG * (at_surface - in_air), 0.0)
