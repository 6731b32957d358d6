"""The laws by which a link carries heat, each linear in its two temperatures once frozen.

Every law returns (g, h, c): the power from start to end is q = g·T_start − h·T_end + c, with temperatures in °C.
Most laws have g = h and c = 0. Film properties are taken at the mean of the two temperatures.
"""

from __future__ import annotations

import math

import numpy as np

from drylamp.core.air.constants import CP_AIR, GRAVITY, PRANDTL, STEFAN_BOLTZMANN
from drylamp.core.air.moist import VAPOUR_GAS_CONSTANT, saturation_pressure_pa
from drylamp.core.air.properties import conductivity_w_mk, density_kg_m3, viscosity_m2_s
from drylamp.core.compiled import inlined
from drylamp.core.heat.law import Law
from drylamp.core.heat.water import immersed_w_k, mixing_w_k, wet_gap_w_m2k, wetted_w_k

LATENT_J_KG = 2.35e6
"""Latent heat of water at about 65 °C (CoolProp: 2.346e6); within 4 % from 20 to 100 °C."""
DISCHARGE_COEFFICIENT = 0.6
CROSS_WIND_COEFFICIENT = 0.3

LEWIS = 0.90
"""Lewis number of water vapour in air to the power of two thirds."""
WATER_TO_AIR = 0.62198
"""Molar masses of water and air, one over the other."""
MOST_VAPOUR = 0.9
"""Share of the air's pressure that vapour makes up at most: past it there is no air left to carry it."""
ONE_WAY_FULL_K = 1.0
"""Difference from which on a heat pipe carries as well as it can; from memory."""
PARAMETERS = 4
"""Most parameters that a law has, once what can be worked out before the march is; laws of led air have more (``led``)."""


@inlined
def radiation_w_k(area_m2: float, start_c: float, end_c: float) -> float:
    """σ X (T₁² + T₂²)(T₁ + T₂): the exact secant of σ X (T₁⁴ − T₂⁴)."""
    a, b = start_c + 273.15, end_c + 273.15
    return STEFAN_BOLTZMANN * area_m2 * (a * a + b * b) * (a + b)


@inlined
def _cavity_shape(tilt_deg: float) -> tuple[float, float]:
    """cos β and 1708 (sin 1.8 β)^1.6 of an air layer; steeper than 75° is held at 75°."""
    tilt = math.radians(min(max(tilt_deg, 0.0), 75.0))
    return math.cos(tilt), 1708.0 * math.sin(1.8 * tilt) ** 1.6


@inlined
def _cavity_nusselt(rayleigh: float, cosine: float, hump: float) -> float:
    across = rayleigh * cosine
    if across <= 1708.0:
        return 1.0
    nusselt = 1.0 + 1.44 * max((1.0 - 1708.0 / across) * (1.0 - hump / across), 0.0)
    if across > 5830.0:
        nusselt += np.cbrt(across / 5830.0) - 1.0
    return nusselt


@inlined
def cavity_nusselt(rayleigh: float, tilt_deg: float) -> float:
    """Nusselt number of an inclined air layer heated from below.

    References
    ----------
    Hollands et al. 1976 (Duffie & Beckman 3.11.4), 0–75°; steeper is held at 75°.
    """
    cosine, hump = _cavity_shape(tilt_deg)
    return _cavity_nusselt(rayleigh, cosine, hump)


@inlined
def rayleigh_number(start_c: float, end_c: float, length_m: float, pressure_pa: float) -> float:
    """g β ΔT L³ / (ν α) with air at the mean temperature."""
    mean = (start_c + end_c) / 2.0
    nu = viscosity_m2_s(mean, pressure_pa)
    return GRAVITY * abs(start_c - end_c) * length_m * length_m * length_m * PRANDTL / ((mean + 273.15) * nu * nu)


@inlined
def _cavity_ready(
    area_m2: float, gap_m: float, cosine: float, hump: float, start_c: float, end_c: float, pressure_pa: float
) -> float:
    nusselt = 1.0
    if start_c > end_c:
        nusselt = _cavity_nusselt(rayleigh_number(start_c, end_c, gap_m, pressure_pa), cosine, hump)
    return area_m2 * nusselt * conductivity_w_mk((start_c + end_c) / 2.0) / gap_m


@inlined
def cavity_w_k(
    area_m2: float, gap_m: float, tilt_deg: float, start_c: float, end_c: float, pressure_pa: float
) -> float:
    """Conductance of an air layer; the start is the lower sheet. Heated from above it only conducts."""
    cosine, hump = _cavity_shape(tilt_deg)
    return _cavity_ready(area_m2, gap_m, cosine, hump, start_c, end_c, pressure_pa)


@inlined
def wind_w_k(area_m2: float, wind_m_s: float, start_c: float, end_c: float) -> float:
    """Convection from a surface in the open, without radiation.

    References
    ----------
    2.8 + 3 V (Watmuff et al. 1977); in calm air at least McAdams' 1.52 ΔT^⅓ for a warm plate.
    """
    blown = 2.8 + 3.0 * wind_m_s
    ratio = blown / 1.52
    apart = abs(start_c - end_c)
    if apart > ratio * ratio * ratio:  # the cube root is dear, and seldom the larger
        return float(area_m2 * 1.52 * np.cbrt(apart))
    return area_m2 * blown


PLATE_SWITCH = (0.54 / 0.15) ** 12
"""Rayleigh number above which 0.15 Ra^⅓ is the larger."""


@inlined
def surface_w_k(
    area_m2: float, length_m: float, facing: float, start_c: float, end_c: float, pressure_pa: float
) -> float:
    """Natural convection between a surface (start) and the air of a closed space (end).

    References
    ----------
    Level plates: McAdams 1954, the larger of 0.54 Ra^¼ and 0.15 Ra^⅓ (no jump where they meet), 0.27 Ra^¼ on the quiet side;
    upright: Churchill & Chu 1975, 0.68 + 0.670 Ra^¼ / [1 + (0.492/Pr)^(9/16)]^(4/9). Never below still air.
    """
    if area_m2 <= 0.0:
        return 0.0
    rayleigh = rayleigh_number(start_c, end_c, length_m, pressure_pa)
    root = math.sqrt(math.sqrt(rayleigh))
    if facing == 0.0:
        nusselt = 0.68 + 0.515 * root
    elif (start_c - end_c) * facing > 0.0:
        nusselt = 0.54 * root if rayleigh < PLATE_SWITCH else 0.15 * np.cbrt(rayleigh)
    else:
        nusselt = 0.27 * root
    return area_m2 * max(nusselt, 1.0) * conductivity_w_mk((start_c + end_c) / 2.0) / length_m


@inlined
def cylinder_w_k(area_m2: float, diameter_m: float, start_c: float, end_c: float, pressure_pa: float) -> float:
    """Natural convection round a lying cylinder.

    References
    ----------
    Churchill & Chu 1975: Nu = {0.60 + 0.387 Ra^(1/6) / [1 + (0.559/Pr)^(9/16)]^(8/27)}², Ra up to 1e12.
    """
    rayleigh = rayleigh_number(start_c, end_c, diameter_m, pressure_pa)
    root = 0.60 + 0.3214 * math.sqrt(np.cbrt(rayleigh))
    return float(area_m2 * root * root * conductivity_w_mk((start_c + end_c) / 2.0) / diameter_m)


@inlined
def annulus_w_k(shape_m: float, length_m3: float, start_c: float, end_c: float, pressure_pa: float) -> float:
    """Air between two concentric cylinders, from 2 π L / ln(D₂/D₁) and the cube of the effective length.

    References
    ----------
    Raithby & Hollands 1975 (Incropera & DeWitt 9.8): k_eff = 0.386 k [Pr/(0.861 + Pr)]^¼ Ra_c^¼, never below k.
    """
    rayleigh = rayleigh_number(start_c, end_c, 1.0, pressure_pa) * length_m3
    more = 0.386 * math.sqrt(math.sqrt(PRANDTL / (0.861 + PRANDTL) * rayleigh))
    return shape_m * conductivity_w_mk((start_c + end_c) / 2.0) * max(more, 1.0)


@inlined
def one_way_w_k(w_k: float, start_c: float, end_c: float) -> float:
    """A heat pipe or a rising warm column: nothing while the start is the colder, all of it from a kelvin on.

    It takes heat only where its liquid lies, at the start; once that is the colder, nothing boils there (common practice, no source). The kelvin
    over which it begins to work keeps the march smooth.
    """
    return w_k * min(max((start_c - end_c) / ONE_WAY_FULL_K, 0.0), 1.0)


@inlined
def dome_w_k(
    area_m2: float, diameter_m: float, wind_m_s: float, start_c: float, end_c: float, pressure_pa: float
) -> float:
    """Convection from something small and round in the open, natural and by wind, combined by their cubes.

    References
    ----------
    Spheres: Churchill 1983, Nu = 2 + 0.589 Ra^¼ / [1 + (0.469/Pr)^(9/16)]^(4/9); Whitaker 1972, Nu = 2 + (0.4 Re^½ + 0.06 Re^⅔) Pr^0.4
    (Incropera & DeWitt 9.35 and 7.56). Short cylinders across the wind lie within a tenth of it (Churchill & Bernstein 1977).
    """
    mean = (start_c + end_c) / 2.0
    still = 2.0 + 0.454 * math.sqrt(math.sqrt(rayleigh_number(start_c, end_c, diameter_m, pressure_pa)))
    reynolds = wind_m_s * diameter_m / viscosity_m2_s(mean, pressure_pa)
    third = np.cbrt(reynolds)
    blown = 2.0 + 0.872 * (0.4 * math.sqrt(reynolds) + 0.06 * third * third)
    return float(
        area_m2 * np.cbrt(still * still * still + blown * blown * blown) * conductivity_w_mk(mean) / diameter_m
    )


@inlined
def leak_w_k(
    area_m2: float, height_m: float, start_c: float, end_c: float, wind_m_s: float, pressure_pa: float
) -> float:
    """Air changed through cracks: half of them let it in low, half let it out high.

    References
    ----------
    ASHRAE Handbook Fundamentals, ventilation and infiltration: stack Cd A √(2 g ΔH ΔT/T) with ΔH half the height,
    wind Cv A V, combined by the root of the sum of squares.
    """
    warm = max(start_c, end_c) + 273.15
    blown = CROSS_WIND_COEFFICIENT * wind_m_s
    speed_squared = DISCHARGE_COEFFICIENT**2 * GRAVITY * height_m * abs(start_c - end_c) / warm + blown * blown
    return area_m2 / 2.0 * math.sqrt(speed_squared) * density_kg_m3(end_c, pressure_pa) * CP_AIR


@inlined
def evaporation_w(area_m2: float, start_c: float, air_c: float, vapour_pa: float) -> float:
    """Heat carried off as vapour from a wet surface.

    References
    ----------
    Lewis relation (Chilton & Colburn 1934): h_m = h_c / (ρ cp Le^⅔), Le^⅔ = 0.90; h_c = 6 W/m²K from memory.
    """
    film = 6.0 / (1.06 * CP_AIR * LEWIS)
    at_surface = saturation_pressure_pa(start_c) / (VAPOUR_GAS_CONSTANT * (start_c + 273.15))
    in_air = vapour_pa / (VAPOUR_GAS_CONSTANT * (air_c + 273.15))
    return max(area_m2 * film * LATENT_J_KG * (at_surface - in_air), 0.0)


@inlined
def evaporation_terms(area_m2: float, start_c: float, air_c: float, vapour_pa: float) -> tuple[float, float]:
    """Slope and remainder of ``evaporation_w`` about the start's temperature: q = g T + c."""
    power = evaporation_w(area_m2, start_c, air_c, vapour_pa)
    g = (evaporation_w(area_m2, start_c + 0.5, air_c, vapour_pa) - power) / 0.5
    return g, power - g * start_c


@inlined
def open_water_w(
    area_m2: float, shelter: float, start_c: float, air_c: float, air: tuple[float, float, float]
) -> float:
    """Heat carried off as vapour from water under the sky; nothing where the air is damper than the water's surface.

    ``air`` is wind, vapour pressure and air pressure. Lewis relation (Chilton & Colburn 1934) on the film that carries its warmth: a mass of
    vapour of h/(cp Le^⅔) 0.622 Δp/P; for a quiet pool within a fifth of half of Carrier's (89 + 78.2 V) W/m²kPa (ASHRAE Handbook
    Applications, natatoriums; activity factor 0.5).
    """
    apart = max(saturation_pressure_pa(start_c) - air[1], 0.0)
    film = wind_w_k(area_m2, air[0] * (1.0 - shelter), start_c, air_c)
    return film * LATENT_J_KG * WATER_TO_AIR / (CP_AIR * LEWIS * air[2]) * apart


@inlined
def open_water_terms(
    area_m2: float, shelter: float, start_c: float, air_c: float, air: tuple[float, float, float]
) -> tuple[float, float]:
    """Slope and remainder of ``open_water_w`` about the start's temperature: q = g T + c."""
    power = open_water_w(area_m2, shelter, start_c, air_c, air)
    g = (open_water_w(area_m2, shelter, start_c + 0.5, air_c, air) - power) / 0.5
    return g, power - g * start_c


@inlined
def vapour_leak_w(
    area_m2: float, height_m: float, given_kg_s: float, start_c: float, air_c: float, air: tuple[float, float, float]
) -> float:
    """Heat carried off as vapour by air that leaks out saturated at the start's temperature, as it is at a pane that drips.

    ``air`` is wind, vapour pressure and air pressure. Humidity ratio 0.622 p/(P − p), ASHRAE Handbook Fundamentals, psychrometrics.
    """
    kg_s = given_kg_s
    if kg_s == 0.0:
        kg_s = leak_w_k(area_m2, height_m, start_c, air_c, air[0], air[2]) / CP_AIR
    damp = min(saturation_pressure_pa(start_c), MOST_VAPOUR * air[2])
    apart = damp / (air[2] - damp) - air[1] / (air[2] - air[1])
    return max(kg_s * LATENT_J_KG * WATER_TO_AIR * apart, 0.0)


@inlined
def vapour_leak_terms(
    area_m2: float, height_m: float, given_kg_s: float, start_c: float, air_c: float, air: tuple[float, float, float]
) -> tuple[float, float]:
    """Slope and remainder of ``vapour_leak_w`` about the start's temperature: q = g T + c."""
    power = vapour_leak_w(area_m2, height_m, given_kg_s, start_c, air_c, air)
    g = (vapour_leak_w(area_m2, height_m, given_kg_s, start_c + 0.5, air_c, air) - power) / 0.5
    return g, power - g * start_c


def ready_made(law: Law, params: tuple[float, ...]) -> tuple[float, ...]:
    """Parameters with what can be worked out once, before the march, in place of what it was worked out from."""
    if law == Law.CAVITY:
        area, gap, tilt = params
        return (area, gap, *_cavity_shape(tilt))
    return params


@inlined
def conductance_w_k(
    law: int, p: float, q: float, r: float, s: float, start_c: float, end_c: float, wind_m_s: float, pressure_pa: float
) -> float:
    """Conductance of one link with its four ready-made parameters, for the laws that pull both ways alike."""
    g = 0.0
    if law == 1:
        g = radiation_w_k(p, start_c, end_c)
    elif law == 4:
        g = surface_w_k(p, q, r, start_c, end_c, pressure_pa)
    elif law == 0:
        g = p
    elif law == 3:
        g = wind_w_k(p, wind_m_s * (1.0 - q), start_c, end_c)
    elif law == 2:
        g = _cavity_ready(p, q, r, s, start_c, end_c, pressure_pa)
    elif law == 5:
        g = leak_w_k(p, q, start_c, end_c, wind_m_s, pressure_pa)
    elif law == 8:
        g = cylinder_w_k(p, q, start_c, end_c, pressure_pa)
    return g


FIRST_OF_VAPOUR, FIRST_OF_AIR, FIRST_OF_DAMP = 14, 18, 20
"""Laws from the first number on carry heat with vapour: q = g T + c, whatever their end's temperature; from the second on they pull both ways again; from the third on air is damp (``heat.damp``)."""
FIRST_OF_WATER = 10
"""Laws from this number on are those of water: asked for apart, so that what has none of it keeps a short inner loop."""


@inlined
def water_conductance_w_k(law: int, p: float, q: float, r: float, start_c: float, end_c: float) -> float:
    """Conductance of a link by one of the laws of water."""
    g = 0.0
    if law == 10:
        g = p * wet_gap_w_m2k(start_c, end_c, q)
    elif law == 11:
        g = mixing_w_k(p, q, r, start_c, end_c)
    elif law == 12:
        g = immersed_w_k(p, q, start_c, end_c)
    elif law == 13:
        g = wetted_w_k(p, q, r, start_c, end_c)
    return g
