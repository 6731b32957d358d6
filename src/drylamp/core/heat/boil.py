"""Water that boils off, dries up, and comes down again where it is cold; and the film between a pot's wall and what is in it.

What comes above a boiling point leaves as steam, put right after each step by the enthalpy that was really taken up, as melting is: a node
that boils stands at its boiling point whatever the step. Its water grows less by what leaves; once it is gone the node heats on.
Steam takes its sensible heat along, counted from 0 °C, so that energy closes with the water's mass.

In a closed space vapour comes down on the cover as long as that is colder than the space is damp: what leaves with leaking air and what the
cover takes balance at once (a box's air changes in seconds), so the space's humidity is no unknown but the root of one straight line.

References:
    Natural convection in a liquid: Nu = 0.15 Ra^⅓ (McAdams 1954). Nucleate boiling: Cooper 1984, h = 55 p_r^0.12 (−log p_r)^−0.55 M^−½ q^0.67 at
    a roughness of 1 µm. Vapour by the Lewis relation (Chilton & Colburn 1934).
"""

from __future__ import annotations

import numpy as np

from drylamp.core.air.constants import CP_AIR, CP_WATER_J_KGK
from drylamp.core.air.moist import VAPOUR_GAS_CONSTANT, saturation_pressure_pa
from drylamp.core.air.properties import density_kg_m3
from drylamp.core.arrays import Array
from drylamp.core.compiled import inlined, woven
from drylamp.core.heat.laws import LATENT_J_KG, LEWIS, dome_w_k, leak_w_k
from drylamp.core.heat.water import conductivity_w_mk, rayleigh_number

FIRST_IN_POTS = 30
"""Laws from this number on are those of what boils in a pot (``law``)."""
BOILING_LATENT_J_KG = 2.257e6
"""Latent heat of water at 100 °C (CoolProp: 2.2564e6)."""
LEAST_FILM_W_M2K = 50.0
"""Film of water that hardly moves; from memory."""
COVER_FILM_W_M2K = 5.0
"""Film of a box's air on its cover; from memory."""
LEAST_WATER_KG = 1e-6
"""Less than this is no water."""
STIFF = 1e4
"""How many times its heat capacity a node has while it boils: it stands still."""
BOIL_WIDTH = 6
"""Numbers of a row: node, number of the boundary it boils at, number of the link by which it boils, whether its water runs out, and numbers of the links by which vapour leaves (−1 none)."""


@inlined
def stirred_film_w_m2k(wall_c: float, liquid_c: float, boils_c: float, flux_w_m2: float, cooper: float) -> float:
    """Film between a wall and water that stirs itself: natural convection, or nucleate boiling where the wall is hot enough for that.

    ``flux_w_m2`` is the heat that passes now. A wall that boils stands q/h over the boiling point, however cold the water is.
    """
    film = max(
        0.15 * np.cbrt(rayleigh_number(wall_c, liquid_c, 1.0)) * conductivity_w_mk((wall_c + liquid_c) / 2.0),
        LEAST_FILM_W_M2K,
    )
    if flux_w_m2 <= 0.0 or wall_c <= liquid_c:
        return float(film)
    over = flux_w_m2 / (cooper * flux_w_m2**0.67)
    return float(max(film, flux_w_m2 / (max(boils_c - liquid_c, 0.0) + over)))


@inlined
def _saturated_kg_m3(celsius: float) -> float:
    return saturation_pressure_pa(celsius) / (VAPOUR_GAS_CONSTANT * (celsius + 273.15))


@inlined
def _changes(
    cover_m2: float, leak_m2: float, height_m: float, given_m3_s: float, inside_c: float, outside_c: float, wind_m_s: float, pressure_pa: float
) -> tuple[float, float]:  # fmt: skip
    """Air that gives its vapour up on a cover, and that leaves by leaks, m³/s."""
    falls = cover_m2 * COVER_FILM_W_M2K / (density_kg_m3(inside_c, pressure_pa) * CP_AIR * LEWIS)
    leaks = given_m3_s
    if leak_m2 > 0.0:
        leaks += leak_w_k(leak_m2, height_m, inside_c, outside_c, wind_m_s, pressure_pa) / (
            density_kg_m3(outside_c, pressure_pa) * CP_AIR
        )
    return falls, leaks


@inlined
def condensed_w(steam_w: float, falls: float, leaks: float, cover_c: float, outside_kg_m3: float) -> float:
    """Of steam that gets into a closed space, the heat that it gives up on the cover, W."""
    carried = LATENT_J_KG * leaks * max(_saturated_kg_m3(cover_c) - outside_kg_m3, 0.0)
    return max(steam_w - carried, 0.0) * falls / (falls + leaks)


@inlined
def vapour_in_w(
    open_m2: float, falls: float, leaks: float, start_c: float, cover_c: float, air_c: float, outside_kg_m3: float
) -> tuple[float, float]:
    """Heat that goes with vapour from something wet in a closed space: to its cover, and out with leaking air, W.

    The space is as damp as makes what comes equal what goes.
    """
    film = open_m2 * 6.0 / (1.06 * CP_AIR * LEWIS)
    wet, cold = _saturated_kg_m3(start_c), _saturated_kg_m3(cover_c)
    damp = (film * wet + falls * cold + leaks * outside_kg_m3) / (film + falls + leaks)
    if damp < cold:  # the cover stays dry
        damp = (film * wet + leaks * outside_kg_m3) / (film + leaks)
        cold = damp
    whole = max(film * (wet - damp), 0.0)
    down = min(max(falls * (damp - cold), 0.0), whole)
    return LATENT_J_KG * down, LATENT_J_KG * (whole - down)


@inlined
def pot_terms(
    law: int, params: Array, k: int, temperature: Array, start: np.unsignedinteger, end: np.unsignedinteger, air: tuple[float, float, float], was_w_k: float, steam_w: Array
) -> tuple[float, float, float]:  # fmt: skip
    """Terms of a link by one of the laws of pots and bowls; ``was_w_k`` is its conductance as last frozen."""
    if law == FIRST_IN_POTS:
        start_c, end_c, area = temperature[start], temperature[end], params[k, 0]
        film = params[k, 2]
        if film == 0.0:
            flux = was_w_k * (start_c - end_c) / area
            film = stirred_film_w_m2k(start_c, end_c, temperature[np.uint64(params[k, 4])], flux, params[k, 3])
        g = area / (1.0 / params[k, 1] + 1.0 / film)
        return g, g, 0.0
    if law == FIRST_IN_POTS + 4:
        blown = air[0] * (1.0 - params[k, 2])
        g = dome_w_k(params[k, 0], params[k, 1], blown, temperature[start], temperature[end], air[2])
        return g, g, 0.0
    cover_m2, leak_m2, height_m, given = params[k, 1], params[k, 2], params[k, 3], params[k, 4]
    inside_c, cover_c, outside_c = (
        temperature[np.uint64(params[k, 5])],
        temperature[np.uint64(params[k, 6])],
        temperature[np.uint64(params[k, 7])],
    )
    falls, leaks = _changes(cover_m2, leak_m2, height_m, given, inside_c, outside_c, air[0], air[2])
    outside = air[1] / (VAPOUR_GAS_CONSTANT * (outside_c + 273.15))
    if law == FIRST_IN_POTS + 1:
        return 0.0, 0.0, condensed_w(steam_w[np.uint64(params[k, 0])], falls, leaks, cover_c, outside)
    kept, lost = vapour_in_w(params[k, 0], falls, leaks, temperature[start], cover_c, inside_c, outside)
    more_kept, more_lost = vapour_in_w(params[k, 0], falls, leaks, temperature[start] + 0.5, cover_c, inside_c, outside)
    if law == FIRST_IN_POTS + 2:
        g = (more_kept - kept) / 0.5
        return g, 0.0, kept - g * temperature[start]
    g = (more_lost - lost) / 0.5
    return g, 0.0, lost - g * temperature[start]


@woven
def boil_capacity(rows: Array, fixed: Array, water: Array, now: Array, ahead: Array, capacity: Array) -> None:
    """Heat capacities of what may boil over the step that leads from ``now`` through its middle ``ahead``."""
    for r in range(rows.shape[0]):
        i = np.uint64(rows[r, 0])
        base = fixed[i] + (water[r] * CP_WATER_J_KGK if rows[r, 3] > 0.0 else 0.0)
        capacity[i] = base
        if water[r] > 0.0:
            rise, room = 2.0 * (ahead[i] - now[i]), now[np.uint64(rows[r, 1])] - now[i]
            if rise > max(room, 0.0):
                capacity[i] = base * min(rise / max(room, 1e-9), STIFF)


@woven
def shut_dry(rows: Array, water: Array, params: Array) -> None:
    """No vapour from what has no water left; changes the links' parameters."""
    for r in range(rows.shape[0]):
        if rows[r, 3] > 0.0 and water[r] <= 0.0:
            for link in range(4, 6):
                if rows[r, link] >= 0.0:
                    params[np.uint64(rows[r, link]), 0] = 0.0


@woven
def boil_off(
    rows: Array, fixed: Array, water: Array, before: Array, capacity: Array, now: Array, mean: Array, terms: Array, params: Array, h: float, energy: Array,
    steamed: Array, kept: np.unsignedinteger, steam_w: Array,
) -> None:  # fmt: skip
    """Put right what boils by the heat that it really took up, and take off what left as steam and vapour."""
    for r in range(rows.shape[0]):
        i = np.uint64(rows[r, 0])
        runs_out, at = rows[r, 3] > 0.0, now[np.uint64(rows[r, 1])]
        base = fixed[i] + (water[r] * CP_WATER_J_KGK if runs_out else 0.0)
        celsius = before[i] + capacity[i] * (now[i] - before[i]) / base
        left = 0.0
        if water[r] > 0.0 and celsius > at:
            left, celsius = base * (celsius - at) / BOILING_LATENT_J_KG, at
            if left > water[r]:
                celsius += (left - water[r]) * BOILING_LATENT_J_KG / fixed[i]
                left = water[r]
        steam_w[r] = left * BOILING_LATENT_J_KG / h
        now[i] = celsius
        energy[kept, np.uint64(rows[r, 2])] += left * (BOILING_LATENT_J_KG + (CP_WATER_J_KGK * at if runs_out else 0.0))
        rose = 0.0
        for link in range(4, 6):
            if rows[r, link] >= 0.0 and water[r] > left + rose:
                k = np.uint64(rows[r, link])
                away = min(max(terms[k, 0] * mean[i] + terms[k, 2], 0.0) * h / LATENT_J_KG, water[r] - left - rose)
                energy[kept, np.uint64(rows[r, 2])] += away * CP_WATER_J_KGK * celsius if runs_out else 0.0
                rose += away
        steamed[kept, r] += left + rose
        if runs_out:
            water[r] -= left + rose
            if water[r] < LEAST_WATER_KG:
                energy[kept, np.uint64(rows[r, 2])] += water[r] * CP_WATER_J_KGK * celsius
                steamed[kept, r] += water[r]
                water[r] = 0.0
    shut_dry(rows, water, params)
