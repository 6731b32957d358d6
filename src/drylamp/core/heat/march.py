"""The compiled marcher: advances any network over any drive.

Each step freezes the temperature-dependent coefficients at the middle of the step, found by a half step of implicit
Euler, then takes the two-stage, second-order, L-stable SDIRK with the mean of the drive. Coefficients frozen, the
network is linear, so the energy carried by every link is known exactly and the ledger closes by construction.

References:
    Alexander 1977, diagonally implicit Runge–Kutta: γ = 1 − 1/√2, weights (1 − γ, γ).
"""

from __future__ import annotations

import numpy as np

from drylamp.core.compiled import compiled, inlined
from drylamp.core.heat.laws import (
    BOIL_W_K,
    cavity_w_k,
    evaporation_w,
    leak_w_k,
    radiation_w_k,
    surface_w_k,
    wind_w_k,
)
from drylamp.core.sky.sun import Array

GAMMA = 1.0 - 0.5**0.5


@inlined
def link_terms(
    law: int, p: Array, start_c: float, end_c: float, wind_m_s: float, vapour_pa: float, pressure_pa: float
) -> tuple[float, float, float]:
    """(g, h, c) of one link at these temperatures: q = g T_start − h T_end + c."""
    g = 0.0
    if law == 0:
        g = p[0]
    elif law == 1:
        g = radiation_w_k(p[0], start_c, end_c)
    elif law == 2:
        g = cavity_w_k(p[0], p[1], p[2], start_c, end_c, pressure_pa)
    elif law == 3:
        g = wind_w_k(p[0], wind_m_s, start_c, end_c)
    elif law == 4:
        g = surface_w_k(p[0], p[1], p[2], start_c, end_c, pressure_pa)
    elif law == 5:
        g = leak_w_k(p[0], p[1], start_c, end_c, wind_m_s, pressure_pa)
    elif law == 6:
        g = BOIL_W_K if start_c > end_c else 0.0
    elif law == 7:
        area = p[0] * p[1]
        power = evaporation_w(area, start_c, end_c, vapour_pa)
        slope = (evaporation_w(area, start_c + 0.5, end_c, vapour_pa) - power) / 0.5
        return slope, 0.0, power - slope * start_c
    return g, g, 0.0


@inlined
def _assemble(
    temperature: Array, law: Array, start: Array, end: Array, params: Array, wind: float, vapour: float,
    pressure: float, count: int, matrix: Array, constant: Array, terms: Array,
) -> None:  # fmt: skip
    """Fill A and b of C dT/dt = −A T + b (b without sources), and keep each link's terms."""
    for i in range(count):
        constant[i] = 0.0
        for j in range(count):
            matrix[i, j] = 0.0
    for k in range(law.shape[0]):
        i, j = start[k], end[k]
        g, h, c = link_terms(law[k], params[k], temperature[i], temperature[j], wind, vapour, pressure)
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


@inlined
def _factor(matrix: Array, capacity: Array, scale: float, count: int, lower: Array) -> None:
    """LU of C + scale·A in place; diagonally dominant, so no pivoting."""
    for i in range(count):
        for j in range(count):
            lower[i, j] = scale * matrix[i, j]
        lower[i, i] += capacity[i]
    for k in range(count):
        pivot = 1.0 / lower[k, k]
        for i in range(k + 1, count):
            if lower[i, k] != 0.0:
                factor = lower[i, k] * pivot
                lower[i, k] = factor
                for j in range(k + 1, count):
                    lower[i, j] -= factor * lower[k, j]


@inlined
def _solve(lower: Array, rhs: Array, count: int) -> None:
    for i in range(1, count):
        total = rhs[i]
        for j in range(i):
            total -= lower[i, j] * rhs[j]
        rhs[i] = total
    for i in range(count - 1, -1, -1):
        total = rhs[i]
        for j in range(i + 1, count):
            total -= lower[i, j] * rhs[j]
        rhs[i] = total / lower[i, i]


@compiled
def march(
    first_c: Array, capacity: Array, law: Array, start: Array, end: Array, params: Array, boundary_c: Array,
    wind: Array, vapour: Array, pressure: float, source_w: Array, dt_s: float, substeps: Array,
) -> tuple[Array, Array]:  # fmt: skip
    """Advance a network.

    Args:
        first_c: temperatures at the start, shape (nodes,)
        capacity: J/K, shape (nodes,)
        law, start, end: per link; ends ≥ nodes are boundaries, shape (links,)
        params: shape (links, 4)
        boundary_c: mean temperature of each boundary in each step, shape (steps, boundaries)
        wind, vapour: m/s and Pa, shape (steps,)
        pressure: Pa
        source_w: sun into each node, mean of each step, shape (steps, nodes)
        dt_s: length of a step
        substeps: into how many parts to cut each step, shape (steps,)

    Returns:
        Temperatures at the step edges, shape (steps + 1, nodes); mean power of each link, shape (steps, links).
    """
    steps, count, links = source_w.shape[0], first_c.shape[0], law.shape[0]
    temperature = np.empty((steps + 1, count))
    power = np.zeros((steps, links))
    temperature[0] = first_c
    bounds = boundary_c.shape[1]
    now, mid = np.empty(count + bounds), np.empty(count + bounds)
    matrix, lower, constant = np.empty((count, count)), np.empty((count, count)), np.empty(count)
    terms, one, two = np.empty((links, 3)), np.empty(count + bounds), np.empty(count + bounds)
    rhs = np.empty(count)
    now[:count] = first_c
    for n in range(steps):
        for b in range(bounds):
            now[count + b] = mid[count + b] = one[count + b] = two[count + b] = boundary_c[n, b]
        parts = substeps[n]
        for k in range(links):
            if law[k] == 6 and -1.5 < now[start[k]] - now[end[k]] < 0.02:
                parts = max(parts, 6)
        h = dt_s / parts
        for _ in range(parts):
            _assemble(now, law, start, end, params, wind[n], vapour[n], pressure, count, matrix, constant, terms)
            _factor(matrix, capacity, h / 2.0, count, lower)
            for i in range(count):
                rhs[i] = capacity[i] * now[i] + h / 2.0 * (constant[i] + source_w[n, i])
            _solve(lower, rhs, count)
            mid[:count] = rhs
            _assemble(mid, law, start, end, params, wind[n], vapour[n], pressure, count, matrix, constant, terms)
            _factor(matrix, capacity, GAMMA * h, count, lower)
            for i in range(count):
                rhs[i] = capacity[i] * now[i] + GAMMA * h * (constant[i] + source_w[n, i])
            _solve(lower, rhs, count)
            one[:count] = rhs
            for i in range(count):
                flow = constant[i] + source_w[n, i]
                for j in range(count):
                    flow -= matrix[i, j] * one[j]
                rhs[i] = capacity[i] * now[i] + (1.0 - GAMMA) * h * flow + GAMMA * h * (constant[i] + source_w[n, i])
            _solve(lower, rhs, count)
            two[:count] = rhs
            for k in range(links):
                i, j = start[k], end[k]
                first = terms[k, 0] * one[i] - terms[k, 1] * one[j] + terms[k, 2]
                second = terms[k, 0] * two[i] - terms[k, 1] * two[j] + terms[k, 2]
                power[n, k] += ((1.0 - GAMMA) * first + GAMMA * second) / parts
            now[:count] = two[:count]
        temperature[n + 1] = now[:count]
    return temperature, power
