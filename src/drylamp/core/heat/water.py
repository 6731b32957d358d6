"""Liquid water: its properties, the film inside a pipe, what it does round one and over a level surface.

Properties are polynomials fitted to CoolProp (IAPWS-95, 2 bar) over 0.5–100 °C; the checks hold them against it.
"""

from __future__ import annotations

import math

import numpy as np

from drylamp.core.air.constants import CP_WATER_J_KGK, GRAVITY
from drylamp.core.air.moist import saturation_pressure_pa
from drylamp.core.compiled import inlined

LAMINAR_NU, STANDING_NU = 4.36, 5.78
"""Even heat flux in developed laminar flow; a standing cylinder of water warming through (first term of its series: Carslaw & Jaeger 1959)."""
LAMINAR_RE, TURBULENT_RE = 2300.0, 4000.0
"""Reynolds numbers between which the two films are blended."""


@inlined
def density_kg_m3(celsius: float) -> float:
    """Density of water, kg/m³; within 0.01 %."""
    t = min(max(celsius, 0.0), 100.0)
    return 999.953 + t * (0.0476388 + t * (-0.00739545 + t * (4.00613e-05 - 1.24588e-07 * t)))


@inlined
def lighter_kg_m3k(celsius: float) -> float:
    """By how much water gets lighter with each kelvin, kg/m³K; below nothing under 4 °C."""
    t = min(max(celsius, 0.0), 100.0)
    return -0.0476388 + t * (2.0 * 0.00739545 + t * (-3.0 * 4.00613e-05 + 4.0 * 1.24588e-07 * t))


@inlined
def expansion_per_k(celsius: float) -> float:
    """Thermal expansion of water, 1/K; below nothing under 4 °C."""
    return lighter_kg_m3k(celsius) / density_kg_m3(celsius)


@inlined
def conductivity_w_mk(celsius: float) -> float:
    """Thermal conductivity of water, W/m·K; within 0.5 %."""
    t = min(max(celsius, 0.0), 100.0)
    return 0.558551 + t * (0.00211933 - 9.46283e-06 * t)


@inlined
def fluidity_per_pa_s(celsius: float) -> float:
    """How thin water is, 1/(Pa·s): one over its viscosity, which is nearly a straight line and needs no exponential."""
    t = min(max(celsius, 0.0), 100.0)
    return 558.387 + t * (19.4042 + t * (0.13571 - 3.03657e-04 * t))


@inlined
def viscosity_pa_s(celsius: float) -> float:
    """Dynamic viscosity of water, Pa·s; within 0.05 %."""
    return 1.0 / fluidity_per_pa_s(celsius)


@inlined
def prandtl(celsius: float) -> float:
    """Prandtl number of water."""
    return CP_WATER_J_KGK / (fluidity_per_pa_s(celsius) * conductivity_w_mk(celsius))


@inlined
def _round_damping(celsius: float) -> float:
    """1 / [1 + (0.559/Pr)^(9/16)]^(8/27) of water by its temperature, within 0.01 %: two powers cost more than the rest of a film."""
    t = min(max(celsius, 0.0), 100.0)
    return 0.955368 + t * (-9.02523e-04 + 1.68104e-06 * t)


@inlined
def _upright_damping(celsius: float) -> float:
    """1 / [1 + (0.492/Pr)^(9/16)]^(4/9) of water by its temperature, within 0.01 %."""
    t = min(max(celsius, 0.0), 100.0)
    return 0.937924 + t * (-1.247358e-03 + 2.40250e-06 * t)


@inlined
def rayleigh_number(start_c: float, end_c: float, length_m: float) -> float:
    """g |β| ΔT L³ ρ / (μ α) with water at the mean temperature."""
    mean = (start_c + end_c) / 2.0
    drive = GRAVITY * abs(lighter_kg_m3k(mean) * (start_c - end_c)) * length_m * length_m * length_m
    return drive * density_kg_m3(mean) * CP_WATER_J_KGK * fluidity_per_pa_s(mean) / conductivity_w_mk(mean)


@inlined
def reynolds_number(kg_s: float, bore_m: float, celsius: float) -> float:
    """4 ṁ / (π D μ) in a round pipe."""
    return 4.0 * kg_s / (math.pi * bore_m) * fluidity_per_pa_s(celsius)


@inlined
def smooth_friction(reynolds: float) -> float:
    """Darcy's friction factor of turbulent flow in a smooth pipe (Petukhov 1970)."""
    return 1.0 / (0.79 * math.log(reynolds) - 1.64) ** 2


@inlined
def _turbulent_nusselt(reynolds: float, pr: float) -> float:
    share = smooth_friction(reynolds) / 8.0
    return float(share * (reynolds - 1000.0) * pr / (1.0 + 12.7 * math.sqrt(share) * (np.cbrt(pr * pr) - 1.0)))


@inlined
def pipe_film_w_m2k(kg_s: float, bore_m: float, celsius: float) -> float:
    """Film between a round pipe's inner face and the water in it.

    References
    ----------
    Standing: conduction in a cylinder (Carslaw & Jaeger 1959), Nu 5.78. Laminar: Nu 4.36 (even heat flux, developed).
    Turbulent: Gnielinski 1976 with Petukhov's friction. Between Re 2,300 and 4,000 by a straight line (Gnielinski 2013).
    """
    k = conductivity_w_mk(celsius)
    if kg_s <= 0.0:
        return STANDING_NU * k / bore_m
    reynolds = reynolds_number(kg_s, bore_m, celsius)
    if reynolds <= LAMINAR_RE:
        nusselt = LAMINAR_NU
    elif reynolds >= TURBULENT_RE:
        nusselt = _turbulent_nusselt(reynolds, prandtl(celsius))
    else:
        share = (reynolds - LAMINAR_RE) / (TURBULENT_RE - LAMINAR_RE)
        nusselt = (1.0 - share) * LAMINAR_NU + share * _turbulent_nusselt(TURBULENT_RE, prandtl(celsius))
    return nusselt * k / bore_m


@inlined
def immersed_w_k(area_m2: float, diameter_m: float, start_c: float, end_c: float) -> float:
    """Natural convection of water round a lying pipe.

    References
    ----------
    Churchill & Chu 1975: Nu = {0.60 + 0.387 Ra^(1/6) / [1 + (0.559/Pr)^(9/16)]^(8/27)}².
    """
    mean = (start_c + end_c) / 2.0
    rayleigh = rayleigh_number(start_c, end_c, diameter_m)
    root = 0.60 + 0.387 * math.sqrt(np.cbrt(rayleigh)) * _round_damping(mean)
    return float(area_m2 * root * root * conductivity_w_mk(mean) / diameter_m)


@inlined
def wetted_w_k(area_m2: float, length_m: float, facing: float, start_c: float, end_c: float) -> float:
    """Natural convection between a surface (start) and the water on it (end).

    References
    ----------
    Level: McAdams 1954, the larger of 0.54 Ra^¼ and 0.15 Ra^⅓ where it drives, 0.27 Ra^¼ on the quiet side; upright: Churchill &
    Chu 1975, 0.68 + 0.670 Ra^¼ / [1 + (0.492/Pr)^(9/16)]^(4/9). Never below still water.
    """
    mean = (start_c + end_c) / 2.0
    rayleigh = rayleigh_number(start_c, end_c, length_m)
    root = math.sqrt(math.sqrt(rayleigh))
    if facing == 0.0:
        nusselt = 0.68 + 0.670 * root * _upright_damping(mean)
    elif (start_c - end_c) * facing * lighter_kg_m3k(mean) > 0.0:
        nusselt = max(0.54 * root, 0.15 * np.cbrt(rayleigh))
    else:
        nusselt = 0.27 * root
    return float(area_m2 * max(nusselt, 1.0) * conductivity_w_mk(mean) / length_m)


@inlined
def wet_gap_w_m2k(water_c: float, cover_c: float, tight: float) -> float:
    """Convection and evaporation from warm water to the cooler sheet over it, as one conductance.

    What evaporates condenses on the sheet and runs back; ``tight`` is the share of that vapour which finds its way there (a film
    on the water: 0). Under a warmer sheet nothing moves.

    References
    ----------
    Dunkle 1961: h = 0.884 [ΔT + (p_w − p_g)(T_w + 273)/(268.9e3 − p_w)]^⅓, q_e = 16.273e-3 h (p_w − p_g).
    """
    apart = water_c - cover_c
    if apart <= 0.0:
        return 0.0
    over, under = saturation_pressure_pa(water_c), saturation_pressure_pa(cover_c)
    lift = apart + tight * (over - under) * (water_c + 273.15) / (268.9e3 - over)
    film = 0.884 * np.cbrt(max(lift, 0.0))
    return float(film * (1.0 + tight * 16.273e-3 * (over - under) / max(apart, 1e-3)))


@inlined
def mixing_w_k(area_m2: float, height_m: float, stirred_w_k: float, upper_c: float, lower_c: float) -> float:
    """Between two layers of standing water, the upper one the start: conduction while it is the lighter, else they turn over.

    Parameters
    ----------
    height_m
        between the middles of the layers
    stirred_w_k
        how fast they turn over while the lower is the lighter: large enough to hold them within a tenth of a kelvin
    """
    if density_kg_m3(lower_c) < density_kg_m3(upper_c):
        return stirred_w_k
    return area_m2 * conductivity_w_mk((upper_c + lower_c) / 2.0) / height_m
