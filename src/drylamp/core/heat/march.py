"""The compiled marcher: advances any network over any drive.

Each step freezes the temperature-dependent coefficients at the middle of the step, found by a half step of linearly
implicit Euler (with the coefficients of the step before while nothing switches, afresh where something does), then takes the two-stage, second-order, L-stable SDIRK with the mean of the drive. Coefficients frozen, the
network is linear, so the energy carried by every link is known exactly and the ledger closes by construction.

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
SUN_JUMP_SHARE = 0.05
"""Change of the sun from step to step above which the middle of a step is found afresh."""
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
    vapour: float, pressure: float, count: np.uint64, matrix: Array, constant: Array, terms: Array,
) -> None:  # fmt: skip
    """Fill A and b of C dT/dt = −A T + b (b without sources), and keep each link's terms."""
    for i in range(count):
        constant[i] = 0.0
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
            constant[i] -= c
            if j < count:
                matrix[i, j] -= h
            else:
                constant[i] += h * temperature[j]
        if j < count:
            matrix[j, j] += h
            constant[j] += c
            if i < count:
                matrix[j, i] -= g
            else:
                constant[j] += g * temperature[i]


@woven
def _factor(matrix: Array, capacity: Array, scale: float, count: np.uint64, lower: Array) -> None:
    """LU of C + scale·A, pivots stored as their inverses; diagonally dominant, so no pivoting."""
    for i in range(count):
        for j in range(count):
            lower[i, j] = scale * matrix[i, j]
        lower[i, i] += capacity[i]
    for k in range(count):
        pivot = 1.0 / lower[k, k]
        lower[k, k] = pivot
        for i in range(k + np.uint64(1), count):
            if lower[i, k] != 0.0:
                factor = lower[i, k] * pivot
                lower[i, k] = factor
                for j in range(k + np.uint64(1), count):
                    lower[i, j] -= factor * lower[k, j]


@woven
def _solve(lower: Array, rhs: Array, count: np.uint64) -> None:
    one = np.uint64(1)
    for i in range(one, count):
        total = rhs[i]
        for j in range(i):
            total -= lower[i, j] * rhs[j]
        rhs[i] = total
    for down in range(count):
        row = count - one - down
        total = rhs[row]
        for j in range(row + one, count):
            total -= lower[row, j] * rhs[j]
        rhs[row] = total * lower[row, row]


@woven
def _lagged_middle(
    matrix: Array, constant: Array, source_w: Array, n: int, now: Array, h: float, lower: Array, count: np.uint64,
    mid: Array,
) -> None:  # fmt: skip
    """Middle of a step from the coefficients and the factors of the step before: right to the same order.

    Good while nothing switches; after a jump of the sun or a change of the step the middle is found afresh.
    """
    for i in range(count):
        flow = constant[i] + source_w[n, i]
        for j in range(count):
            flow -= matrix[i, j] * now[j]
        mid[i] = h / 2.0 * flow
    _solve(lower, mid, count)
    for i in range(count):
        mid[i] += now[i]


@woven
def _second_stage(
    matrix: Array, constant: Array, source_w: Array, n: int, capacity: Array, h: float, lower: Array,
    count: np.uint64, now: Array, mid: Array, mean: Array,
) -> None:  # fmt: skip
    """From the first stage in ``mid`` to the end of the step in ``now`` (and ``mid``); their weighted mean in ``mean``."""
    for i in range(count):
        push = constant[i] + source_w[n, i]
        flow = push
        for j in range(count):
            flow -= matrix[i, j] * mid[j]
        mean[i] = (1.0 - GAMMA) * mid[i]
        now[i] = capacity[i] * now[i] + (1.0 - GAMMA) * h * flow + GAMMA * h * push
    _solve(lower, now, count)
    for i in range(count):
        mean[i] += GAMMA * now[i]
        mid[i] = now[i]


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
        square, line, terms: room to work in, shapes (2, nodes, nodes), (5, nodes + boundaries), (links, 3)

    Room is made by the caller: compiled code that makes arrays takes seconds longer to compile.
    """
    steps, count, links = source_w.shape[0], np.uint64(first_c.shape[0]), np.uint64(law.shape[0])
    bounds = np.uint64(boundary_c.shape[1])
    matrix, lower = square[0], square[1]
    now, mid, mean, constant, heat_flow = line[0], line[1], line[2], line[3], line[4]
    for i in range(count):
        temperature[0, i] = now[i] = mid[i] = first_c[i]
    last_h = last_sun = 0.0
    for n in range(steps):
        for b in range(bounds):
            now[count + b] = mid[count + b] = mean[count + b] = boundary_c[n, b]
        parts = _parts(law, start, end, now, substeps[n]) if boils else substeps[n]
        h = step_s[n] / parts
        kept = record[n]
        sun = 0.0
        for i in range(count):
            sun += source_w[n, i]
        steady = abs(sun - last_sun) <= SUN_JUMP_SHARE * max(sun, last_sun)
        last_sun = sun
        for part in range(parts):
            calm = h == last_h and (steady or part > 0)
            if calm:
                _lagged_middle(matrix, constant, source_w, n, now, h, lower, count, mid)
            for stage in range(1 if calm else 0, 2):  # find the middle of the step, then step with what holds there
                scale = h / 2.0 if stage == 0 else GAMMA * h
                _flows(paths, mid, speed, n, pressure, heat_flow)
                _assemble(
                    mid,
                    law,
                    start,
                    end,
                    params,
                    heat_flow,
                    wind[n],
                    vapour[n],
                    pressure,
                    count,
                    matrix,
                    constant,
                    terms,
                )
                _factor(matrix, capacity, scale, count, lower)
                for i in range(count):
                    mid[i] = capacity[i] * now[i] + scale * (constant[i] + source_w[n, i])
                _solve(lower, mid, count)
            last_h = h
            _second_stage(matrix, constant, source_w, n, capacity, h, lower, count, now, mid, mean)
            for k in range(links):
                energy[kept, k] += (terms[k, 0] * mean[start[k]] - terms[k, 1] * mean[end[k]] + terms[k, 2]) * h
        for i in range(count):
            temperature[kept + 1, i] = now[i]
