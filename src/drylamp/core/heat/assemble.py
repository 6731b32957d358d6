"""Links put into a matrix: A and b of C dT/dt = −A T + b, coefficients frozen, dense or as lists of numbers.

Numbers of links, ends and nodes are unsigned: a signed index costs numba a test for counting from the end.
"""

from __future__ import annotations

import numpy as np

from drylamp.core.air.constants import CP_AIR
from drylamp.core.air.properties import conductivity_w_mk
from drylamp.core.arrays import Array
from drylamp.core.compiled import inlined, woven
from drylamp.core.heat.boil import FIRST_IN_POTS, pot_terms
from drylamp.core.heat.damp import VAPOUR_PER_HEAT
from drylamp.core.heat.laws import (
    FIRST_OF_AIR,
    FIRST_OF_DAMP,
    FIRST_OF_VAPOUR,
    FIRST_OF_WATER,
    annulus_w_k,
    conductance_w_k,
    evaporation_terms,
    leak_w_k,
    one_way_w_k,
    open_water_terms,
    radiation_w_k,
    surface_w_k,
    vapour_leak_terms,
    water_conductance_w_k,
)
from drylamp.core.heat.led import FIRST_AFTER_LED, FIRST_LED, STILL_M, VISCOSITY_KG_MS, led_nusselt
from drylamp.core.heat.sparse import Fill

HEATER_BAND_K = 1.0
"""Over which a thermostat turns its heater down, so that nothing jumps."""


@woven
def assemble(
    temperature: Array, law: Array, ends: Array, params: Array, heat_flow: Array, air: tuple[float, float, float],
    source: Array, matrix: Array, push: Array, terms: Array, steam_w: Array,
) -> None:  # fmt: skip
    """Fill A and b of C dT/dt = −A T + b, and keep each link's terms: power = terms₀ Tₛ − terms₁ Tₑ + terms₂.

    ``air`` is wind, vapour pressure and air pressure of the step, ``steam_w`` what each boiling node gives off.
    """
    count = np.uint64(matrix.shape[0])
    for i in range(count):
        push[i] = source[i]
        for j in range(count):
            matrix[i, j] = 0.0
    for k in range(np.uint64(law.shape[0])):
        i, j = ends[0, k], ends[1, k]
        g = conductance_w_k(
            law[k], params[k, 0], params[k, 1], params[k, 2], params[k, 3], temperature[i], temperature[j], air[0], air[2],
        )  # fmt: skip
        h, c = g, 0.0
        if law[k] == 9:
            g, h = heat_flow[np.uint64(params[k, 0])], 0.0
        elif law[k] == 7:
            g, c = evaporation_terms(params[k, 0] * params[k, 1], temperature[i], temperature[j], air[1])
            h = 0.0
        elif law[k] >= FIRST_IN_POTS:
            g, h, c = pot_terms(law[k], params, k, temperature, i, j, air, terms[k, 0], steam_w)
        terms[k, 0], terms[k, 1], terms[k, 2] = g, h, c
        if i < count:
            matrix[i, i] += g
            push[i] -= c
            if j < count:
                matrix[i, j] -= h
            else:
                push[i] += h * temperature[j]
        if j < count:
            matrix[j, j] += h
            push[j] += c
            if i < count:
                matrix[j, i] -= g
            else:
                push[j] += g * temperature[i]


@inlined
def _as_vapour(
    law: int,
    params: Array,
    k: int,
    temperature: Array,
    ends_c: tuple[float, float],
    air: tuple[float, float, float],
    heat_flow: Array,
) -> tuple[float, float]:
    """Terms of what leaves with vapour: off open water, or with damp air that leaks out past the colder of two nodes; and what a pump gives off."""
    start_c, end_c = ends_c
    if law == 16:
        return 0.0, params[k, 1] * heat_flow[np.uint64(params[k, 0])]
    if law == 17:
        area = heat_flow[np.uint64(params[k, 0])] * params[k, 1]
        return open_water_terms(area * params[k, 2], params[k, 3], start_c, end_c, air)
    if law == 15:
        return open_water_terms(params[k, 0] * params[k, 1], params[k, 2], start_c, end_c, air)
    if start_c > temperature[np.uint64(params[k, 3])]:
        return 0.0, 0.0
    return vapour_leak_terms(params[k, 0], params[k, 1], params[k, 2], start_c, end_c, air)


@inlined
def _by_later_laws(
    law: int, params: Array, k: int, temperature: Array, ends_c: tuple[float, float], air: tuple[float, float, float], heat_flow: Array
) -> tuple[float, float, float]:  # fmt: skip
    """Terms by the laws of water, of vapour, and of air between cylinders: those that no oven has."""
    start_c, end_c = ends_c
    if law >= FIRST_OF_AIR:
        if law == FIRST_OF_AIR:
            g = annulus_w_k(params[k, 0], params[k, 1], start_c, end_c, air[2])
        else:
            g = one_way_w_k(params[k, 0], start_c, end_c)
        return g, g, 0.0
    if law >= FIRST_OF_VAPOUR:
        g, c = _as_vapour(law, params, k, temperature, ends_c, air, heat_flow)
        return g, 0.0, c
    g = water_conductance_w_k(law, params[k, 0], params[k, 1], params[k, 2], start_c, end_c)
    return g, g, 0.0


@inlined
def _by_last_laws(
    law: int, params: Array, k: int, start_c: float, end_c: float, air: tuple[float, float, float], damp: Array
) -> tuple[float, float, float]:
    """Air that is changed as it was measured, long-wave round a pane that may be wet, a heater."""
    if law == 27:
        g = params[k, 0] + params[k, 1] * air[0]
        return g, g, 0.0
    if law == 28:
        wet = damp[np.uint64(params[k, 0]), 4]
        g = radiation_w_k(params[k, 1] + wet * (params[k, 2] - params[k, 1]), start_c, end_c)
        return g, g, 0.0
    return 0.0, 0.0, params[k, 0] * min(max((params[k, 1] - end_c) / HEATER_BAND_K, 0.0), 1.0)


@woven
def _by_damp(
    law: int, params: Array, k: int, temperature: Array, ends: Array, count: np.unsignedinteger, air: tuple[float, float, float], heat_flow: Array, damp: Array
) -> tuple[float, float, float]:  # fmt: skip
    """Terms by the laws of damp air: what leaves a wet body, the film on it, what air carries either way, and what leaks out with it."""
    row = np.uint64(params[k, 0])
    if law == 20:
        return damp[row, 0], damp[row, 1], damp[row, 2]
    if law == 21:
        return damp[row, 3], damp[row, 3], 0.0
    if law >= FIRST_AFTER_LED:
        return _by_last_laws(law, params, k, temperature[ends[0, k]], temperature[ends[1, k]], air, damp)
    if law == 22:
        flow = heat_flow[row] * params[k, 1]
        return max(flow, 0.0), max(-flow, 0.0), 0.0
    if law >= FIRST_LED:
        reynolds = abs(heat_flow[row]) / CP_AIR * params[k, 2] / VISCOSITY_KG_MS
        start, end = temperature[ends[0, k]], temperature[ends[1, k]]
        g = params[k, 1] * conductivity_w_mk(0.5 * (start + end)) * led_nusselt(law, reynolds, params[k, 3])
        if law != 26:
            still = surface_w_k(params[k, 4], STILL_M, params[k, 5], start, end, air[2])
            g = np.cbrt(g * g * g + still * still * still)
        return g, g, 0.0
    inside, outside = temperature[np.uint64(params[k, 2])], temperature[count]
    g = leak_w_k(params[k, 0], params[k, 1], inside, outside, air[0], air[2]) * VAPOUR_PER_HEAT
    return g, g, 0.0


@inlined
def assemble_sparse(  # noqa: C901  one loop over the links
    temperature: Array, law: Array, ends: Array, params: Array, heat_flow: Array, air: tuple[float, float, float],
    source: Array, fill: Fill, matrix: Array, push: Array, terms: Array, damp: Array, steam_w: Array,
) -> None:  # fmt: skip
    """The same into the numbers of a sparse matrix; ``damp`` are the terms of what holds water, as ``damp.terms_of`` leaves them."""
    count, slots = np.uint64(fill.pivots.shape[0]), fill.slots
    for i in range(count):
        push[i] = source[i]
    for e in range(np.uint64(matrix.shape[0])):
        matrix[e] = 0.0
    for k in range(np.uint64(law.shape[0])):
        i, j = ends[0, k], ends[1, k]
        g = h = c = 0.0
        if law[k] >= FIRST_IN_POTS:
            g, h, c = pot_terms(law[k], params, k, temperature, i, j, air, terms[k, 0], steam_w)
        elif law[k] >= FIRST_OF_WATER:
            if law[k] >= FIRST_OF_DAMP:
                g, h, c = _by_damp(law[k], params, k, temperature, ends, count, air, heat_flow, damp)
            else:
                g, h, c = _by_later_laws(
                    law[k], params, k, temperature, (temperature[i], temperature[j]), air, heat_flow
                )
        elif law[k] == 9:
            g = heat_flow[np.uint64(params[k, 0])]
        elif law[k] == 7:
            g, c = evaporation_terms(params[k, 0] * params[k, 1], temperature[i], temperature[j], air[1])
        else:
            g = conductance_w_k(
                law[k], params[k, 0], params[k, 1], params[k, 2], params[k, 3], temperature[i], temperature[j], air[0], air[2],
            )  # fmt: skip
            h = g
        terms[k, 0], terms[k, 1], terms[k, 2] = g, h, c
        if i < count:
            matrix[slots[k, 0]] += g
            push[i] -= c
            if j < count:
                matrix[slots[k, 2]] -= h
            else:
                push[i] += h * temperature[j]
        if j < count:
            matrix[slots[k, 1]] += h
            push[j] += c
            if i < count:
                matrix[slots[k, 3]] -= g
            else:
                push[j] += g * temperature[i]
