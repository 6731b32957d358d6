"""The compiled marcher: advances any network over any drive.

Each step freezes the temperature-dependent coefficients at the middle of the step, found by half a step with the
coefficients of the step before while nothing switches, or afresh by implicit Euler where sun or wind jumps; then takes
the two-stage, second-order, L-stable SDIRK over each half of the step, with the mean of the drive. The second half
costs two products with a matrix at hand, and what a gust does to a light node dies out thirtyfold instead of fivefold.
Coefficients frozen, the network is linear, so the energy carried by every link is known exactly and the ledger closes
by construction.

Numbers of links, ends and nodes are unsigned: a signed index costs numba a test for counting from the end.

References:
    Alexander 1977, diagonally implicit Runge–Kutta: γ = 1 − 1/√2, weights (1 − γ, γ).
"""

from __future__ import annotations

import numpy as np

from drylamp.core.air.draught import path_kg_s
from drylamp.core.compiled import compiled, woven
from drylamp.core.heat.laws import conductance_w_k, evaporation_w
from drylamp.core.sky.sun import Array

GAMMA = 1.0 - 0.5**0.5
SUN_JUMP_SHARE, WIND_JUMP_M_S = 0.05, 0.3
"""Changes from step to step above which the middle of a step is found afresh."""
BOIL_NEAR_K, BOIL_PAST_K, BOIL_PARTS = -1.5, 0.02, 6
"""How near to boiling a step is cut finer, and into how many parts."""


@woven
def _flows(paths: Array, temperature: Array, speed: Array, n: int, pressure: float, heat_flow: Array) -> None:
    """Heat that each flow path carries per kelvin, W/K."""
    for f in range(paths.shape[0]):
        heat_flow[f] = path_kg_s(paths, f, temperature, speed[n, f], pressure) * paths[f, 7]


@woven
def _assemble(
    temperature: Array, law: Array, start: Array, end: Array, params: Array, heat_flow: Array, wind: float,
    vapour: float, pressure: float, source: Array, count: np.uint64, matrix: Array, push: Array, terms: Array,
) -> None:  # fmt: skip
    """Fill A and b of C dT/dt = −A T + b, and keep each link's terms."""
    for i in range(count):
        push[i] = source[i]
        for j in range(count):
            matrix[i, j] = 0.0
    for k in range(np.uint64(law.shape[0])):
        i, j = start[k], end[k]
        c = 0.0
        if law[k] == 9:
            g, h = heat_flow[np.uint64(params[k, 0])], 0.0
        elif law[k] == 7:
            area = params[k, 0] * params[k, 1]
            power = evaporation_w(area, temperature[i], temperature[j], vapour)
            g, h = (evaporation_w(area, temperature[i] + 0.5, temperature[j], vapour) - power) / 0.5, 0.0
            c = power - g * temperature[i]
        else:
            g = conductance_w_k(
                law[k],
                params[k, 0],
                params[k, 1],
                params[k, 2],
                params[k, 3],
                temperature[i],
                temperature[j],
                wind,
                pressure,
            )
            h = g
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


@woven
def _invert(matrix: Array, capacity: Array, scale: float, count: np.uint64, inverse: Array) -> None:
    """(C + scale·A)⁻¹ by Gauss–Jordan; diagonally dominant, so no pivoting.

    An inverse costs more than factors, but it is applied up to six times a step, row by row without waiting.
    """
    for i in range(count):
        for j in range(count):
            inverse[i, j] = scale * matrix[i, j]
        inverse[i, i] += capacity[i]
    for k in range(count):
        pivot = 1.0 / inverse[k, k]
        inverse[k, k] = 1.0
        for j in range(count):
            inverse[k, j] *= pivot
        for i in range(count):
            factor = inverse[i, k]
            if i != k and factor != 0.0:
                inverse[i, k] = 0.0
                for j in range(count):
                    inverse[i, j] -= factor * inverse[k, j]


@woven
def _apply(inverse: Array, rhs: Array, count: np.uint64, out: Array) -> None:
    for i in range(count):
        total = 0.0
        for j in range(count):
            total += inverse[i, j] * rhs[j]
        out[i] = total


@woven
def _half(
    matrix: Array, push: Array, capacity: Array, h: float, inverse: Array, count: np.uint64, at: Array, stage: Array,
    rhs: Array, mean: Array, share: float,
) -> None:  # fmt: skip
    """Two-stage SDIRK over h with frozen coefficients, from and to ``at``; adds share × its weighted mean to ``mean``."""
    for i in range(count):
        rhs[i] = capacity[i] * at[i] + GAMMA * h * push[i]
    _apply(inverse, rhs, count, stage)
    for i in range(count):
        flow = push[i]
        for j in range(count):
            flow -= matrix[i, j] * stage[j]
        mean[i] += share * (1.0 - GAMMA) * stage[i]
        rhs[i] = capacity[i] * at[i] + (1.0 - GAMMA) * h * flow + GAMMA * h * push[i]
    _apply(inverse, rhs, count, at)
    for i in range(count):
        mean[i] += share * GAMMA * at[i]


@woven
def _middle_afresh(
    matrix: Array, push: Array, capacity: Array, h: float, inverse: Array, count: np.uint64, at: Array, rhs: Array,
    mid: Array,
) -> None:  # fmt: skip
    """Half a step of implicit Euler with the coefficients at its beginning."""
    _invert(matrix, capacity, h / 2.0, count, inverse)
    for i in range(count):
        rhs[i] = capacity[i] * at[i] + h / 2.0 * push[i]
    _apply(inverse, rhs, count, mid)


@woven
def _parts(law: Array, start: Array, end: Array, now: Array, parts: int) -> int:
    """Parts of this step: more where something is about to boil."""
    for k in range(np.uint64(law.shape[0])):
        if law[k] == 6 and BOIL_NEAR_K < now[start[k]] - now[end[k]] < BOIL_PAST_K:
            parts = max(parts, BOIL_PARTS)
    return parts


@compiled
def march(
    first_c: Array, capacity: Array, law: Array, start: Array, end: Array, params: Array, boils: bool, paths: Array,
    boundary_c: Array, wind: Array, vapour: Array, pressure: float, speed: Array, source_w: Array, step_s: Array,
    substeps: np.ndarray, record: np.ndarray, temperature: Array, energy: Array, square: Array, line: Array,
    terms: Array,
) -> None:  # fmt: skip
    """Advance a network.

    Args:
        first_c: temperatures at the start, shape (nodes,)
        capacity: J/K, shape (nodes,)
        law, start, end: per link, unsigned; ends ≥ nodes are boundaries, shape (links,)
        params: ready-made, shape (links, PARAMETERS)
        boils: whether any link boils
        paths: flow paths as `draught.path_row` makes them, shape (paths, PATH_WIDTH)
        boundary_c: mean temperature of each boundary in each step, shape (steps, boundaries)
        wind, vapour: m/s and Pa, shape (steps,)
        pressure: Pa
        speed: of each path's fan or pump, 0–1, shape (steps, paths)
        source_w: sun into each node, mean of each step, shape (steps, nodes)
        step_s: length of each step, shape (steps,)
        substeps: into how many parts to cut each step, shape (steps,)
        record: number of the record that each step belongs to, from 0 up without a gap, shape (steps,)
        temperature: takes the temperatures at the edges of the records, shape (records + 1, nodes)
        energy: adds up the energy by each link within them, J, shape (records, links)
        square, line, terms: room to work in, shapes (2, nodes, nodes), (8, nodes + boundaries), (links, 3)

    Room is made by the caller: compiled code that makes arrays takes seconds longer to compile.
    """
    steps, count, links = source_w.shape[0], np.uint64(first_c.shape[0]), np.uint64(law.shape[0])
    bounds = np.uint64(boundary_c.shape[1])
    matrix, inverse = square[0], square[1]
    now, mid, mean, push, heat_flow, stage, rhs, source = (
        line[0], line[1], line[2], line[3], line[4], line[5], line[6], line[7],
    )  # fmt: skip
    for i in range(count):
        temperature[0, i] = now[i] = first_c[i]
    last_h = last_sun = last_wind = 0.0
    for n in range(np.uint64(steps)):
        sun, kept = 0.0, np.uint64(record[n])
        for i in range(count):
            sun += source_w[n, i]
            push[i] += source_w[n, i] - source[i]
            source[i] = source_w[n, i]
        for b in range(bounds):
            now[count + b] = mid[count + b] = mean[count + b] = boundary_c[n, b]
        steady = (
            abs(sun - last_sun) <= SUN_JUMP_SHARE * max(sun, last_sun) and abs(wind[n] - last_wind) <= WIND_JUMP_M_S
        )
        last_sun, last_wind = sun, wind[n]
        parts = _parts(law, start, end, now, substeps[n]) if boils else substeps[n]
        h = step_s[n] / parts
        for part in range(parts):
            if h == last_h and (steady or part > 0):
                for i in range(count):
                    mid[i] = now[i]
                _half(matrix, push, capacity, h / 2.0, inverse, count, mid, stage, rhs, mean, 0.0)
            else:
                _flows(paths, now, speed, n, pressure, heat_flow)
                _assemble(
                    now, law, start, end, params, heat_flow, wind[n], vapour[n], pressure, source, count, matrix, push, terms
                )  # fmt: skip
                _middle_afresh(matrix, push, capacity, h, inverse, count, now, rhs, mid)
            _flows(paths, mid, speed, n, pressure, heat_flow)
            _assemble(
                mid, law, start, end, params, heat_flow, wind[n], vapour[n], pressure, source, count, matrix, push, terms
            )  # fmt: skip
            _invert(matrix, capacity, GAMMA * h / 2.0, count, inverse)
            last_h = h
            for i in range(count):
                mean[i] = 0.0
            for _ in range(2):
                _half(matrix, push, capacity, h / 2.0, inverse, count, now, stage, rhs, mean, 0.5)
            for k in range(links):
                energy[kept, k] += (terms[k, 0] * mean[start[k]] - terms[k, 1] * mean[end[k]] + terms[k, 2]) * h
        for i in range(count):
            temperature[kept + np.uint64(1), i] = now[i]
