"""The compiled marcher: advances any network over any drive.

Each step freezes the temperature-dependent coefficients at the middle of the step, found by half a step with the
coefficients of the step before while nothing switches, or afresh by implicit Euler where sun or wind jumps; then takes
the two-stage, second-order, L-stable SDIRK over each half of the step, with the mean of the drive. The second half
costs two products with a matrix at hand, and what a gust does to a light node dies out thirtyfold instead of fivefold.
Coefficients frozen, the network is linear, so the energy carried by every link is known exactly and the ledger closes
by construction.

Something that melts changes its heat capacity as it does. Each step takes the secant of its enthalpy over the step as
predicted, and puts its temperature right afterwards from the enthalpy that it really took up (Voller 1990's correction,
from memory), so that the ledger closes with latent heat too. What has melted may drip to another node, enthalpy and all.

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
MELT_NEAR_K, MELT_PARTS = 0.7, 4
"""How near to the ends of a melting range a step is cut finer, and into how many parts."""
MELTING_WIDTH = 8
"""Numbers of a melting row: node, cp, latent heat, low and high end of the range, row it drips to (−1 none), share that
drips each second, kilograms that never do."""


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


@woven
def _melt_parts(melting: Array, now: Array, parts: int) -> int:
    """Parts of this step: more where something is about to begin or end melting."""
    for r in range(melting.shape[0]):
        at = now[np.uint64(melting[r, 0])]
        if abs(at - melting[r, 3]) < MELT_NEAR_K or abs(at - melting[r, 4]) < MELT_NEAR_K:
            parts = max(parts, MELT_PARTS)
    return parts


@woven
def _enthalpy(fixed: float, mass: float, melting: Array, r: int, celsius: float) -> float:
    """J above 0 °C of a node with a fixed heat capacity and something in it that melts."""
    low, high = melting[r, 3], melting[r, 4]
    melted = min(max((celsius - low) / (high - low), 0.0), 1.0)
    return float((fixed + mass * melting[r, 1]) * celsius + mass * melting[r, 2] * melted)


@woven
def _of_enthalpy(fixed: float, mass: float, melting: Array, r: int, joules: float) -> float:
    """The temperature that belongs to an enthalpy, °C."""
    sensible, latent = fixed + mass * melting[r, 1], mass * melting[r, 2]
    low, high = melting[r, 3], melting[r, 4]
    if joules <= sensible * low:
        return float(joules / sensible)
    if joules >= sensible * high + latent:
        return float((joules - latent) / sensible)
    return float(low + (joules - sensible * low) / (sensible + latent / (high - low)))


@woven
def _secants(melting: Array, fixed: Array, mass: Array, now: Array, ahead: Array, capacity: Array) -> None:
    """Heat capacities of melting nodes over the step that leads from ``now`` through its middle ``ahead``."""
    for r in range(melting.shape[0]):
        i = np.uint64(melting[r, 0])
        rise = 2.0 * (ahead[i] - now[i])
        if abs(rise) < 1e-6:
            rise = 1e-6
        gain = _enthalpy(fixed[i], mass[r], melting, r, now[i] + rise)
        gain -= _enthalpy(fixed[i], mass[r], melting, r, now[i])
        capacity[i] = gain / rise


@woven
def _put_right(melting: Array, fixed: Array, mass: Array, before: Array, capacity: Array, now: Array) -> None:
    """Set melting nodes to the temperature of the enthalpy that they took up with frozen heat capacities."""
    for r in range(melting.shape[0]):
        i = np.uint64(melting[r, 0])
        joules = _enthalpy(fixed[i], mass[r], melting, r, before[i]) + capacity[i] * (now[i] - before[i])
        now[i] = _of_enthalpy(fixed[i], mass[r], melting, r, joules)


@woven
def _drip(melting: Array, fixed: Array, mass: Array, now: Array, h: float) -> None:
    """Move what has melted on to where it drips, with its enthalpy."""
    for r in range(melting.shape[0]):
        to = int(melting[r, 5])
        if to < 0 or mass[r] <= 0.0:
            continue
        i = np.uint64(melting[r, 0])
        melted = min(max((now[i] - melting[r, 3]) / (melting[r, 4] - melting[r, 3]), 0.0), 1.0)
        free = melted * mass[r] - melting[r, 7]
        if free <= 0.0:
            continue
        moved = free * (1.0 - np.exp(-melting[r, 6] * h))
        j = np.uint64(melting[to, 0])
        carried = moved * (melting[r, 1] * now[i] + melting[r, 2])
        here = _enthalpy(fixed[i], mass[r], melting, r, now[i]) - carried
        there = _enthalpy(fixed[j], mass[to], melting, to, now[j]) + carried
        mass[r] -= moved
        mass[to] += moved
        now[i] = _of_enthalpy(fixed[i], mass[r], melting, r, here)
        now[j] = _of_enthalpy(fixed[j], mass[to], melting, to, there)


@compiled
def march(  # noqa: C901  one loop over the steps; what it does stands in the functions above
    first_c: Array, capacity: Array, law: Array, start: Array, end: Array, params: Array, boils: bool, paths: Array,
    boundary_c: Array, wind: Array, vapour: Array, pressure: float, speed: Array, source_w: Array, step_s: Array,
    substeps: np.ndarray, record: np.ndarray, melting: Array, mass: Array, temperature: Array, energy: Array,
    kept_kg: Array, square: Array, line: Array, terms: Array,
) -> None:  # fmt: skip
    """Advance a network.

    Args:
        first_c: temperatures at the start, shape (nodes,)
        capacity: J/K without what melts, shape (nodes,)
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
        melting: what melts, one row each, shape (melting, MELTING_WIDTH)
        mass: kilograms of each row at the start; changed, shape (melting,)
        temperature: takes the temperatures at the edges of the records, shape (records + 1, nodes)
        energy: adds up the energy by each link within them, J, shape (records, links)
        kept_kg: takes the kilograms of each melting row at the same edges, shape (records + 1, melting)
        square, line, terms: room to work in, shapes (2, nodes, nodes), (10, nodes + boundaries), (links, 3)

    Room is made by the caller: compiled code that makes arrays takes seconds longer to compile.
    """
    steps, count, links = source_w.shape[0], np.uint64(first_c.shape[0]), np.uint64(law.shape[0])
    bounds = np.uint64(boundary_c.shape[1])
    matrix, inverse = square[0], square[1]
    now, mid, mean, push, heat_flow, stage, rhs, source = (
        line[0], line[1], line[2], line[3], line[4], line[5], line[6], line[7],
    )  # fmt: skip
    fixed, capacity, before = capacity, line[8], line[9]
    for i in range(count):
        temperature[0, i] = now[i] = mid[i] = first_c[i]
        capacity[i] = fixed[i]
    for r in range(mass.shape[0]):
        kept_kg[0, r] = mass[r]
    _secants(melting, fixed, mass, now, mid, capacity)
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
        parts = _melt_parts(melting, now, parts)
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
            _secants(melting, fixed, mass, now, mid, capacity)
            _flows(paths, mid, speed, n, pressure, heat_flow)
            _assemble(
                mid, law, start, end, params, heat_flow, wind[n], vapour[n], pressure, source, count, matrix, push, terms
            )  # fmt: skip
            _invert(matrix, capacity, GAMMA * h / 2.0, count, inverse)
            last_h = h
            for i in range(count):
                mean[i] = 0.0
                before[i] = now[i]
            for _ in range(2):
                _half(matrix, push, capacity, h / 2.0, inverse, count, now, stage, rhs, mean, 0.5)
            for k in range(links):
                energy[kept, k] += (terms[k, 0] * mean[start[k]] - terms[k, 1] * mean[end[k]] + terms[k, 2]) * h
            if mass.shape[0] > 0:
                _put_right(melting, fixed, mass, before, capacity, now)
                _drip(melting, fixed, mass, now, h)
        for i in range(count):
            temperature[kept + np.uint64(1), i] = now[i]
        for r in range(mass.shape[0]):
            kept_kg[kept + np.uint64(1), r] = mass[r]
