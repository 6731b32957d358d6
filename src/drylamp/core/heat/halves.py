"""Half a step: two stages with frozen coefficients, dense or sparse.

References:
    Alexander 1977, diagonally implicit Runge–Kutta: γ = 1 − 1/√2, weights (1 − γ, γ).
"""

from __future__ import annotations

import numpy as np

from drylamp.core.arrays import Array
from drylamp.core.compiled import inlined, woven
from drylamp.core.heat.sparse import Fill, factor, less_product, solve

GAMMA = 1.0 - 0.5**0.5


@woven
def invert(matrix: Array, capacity: Array, scale: float, inverse: Array) -> None:
    """(C + scale·A)⁻¹ by Gauss–Jordan; diagonally dominant, so no pivoting.

    An inverse costs more than factors, but it is applied up to six times a step, row by row without waiting.
    """
    count = np.uint64(matrix.shape[0])
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
def _apply(inverse: Array, rhs: Array, out: Array) -> None:
    """The inverse times a vector."""
    count = np.uint64(inverse.shape[0])
    for i in range(count):
        total = 0.0
        for j in range(count):
            total += inverse[i, j] * rhs[j]
        out[i] = total


@woven
def half(
    matrix: Array, push: Array, capacity: Array, h: float, inverse: Array, at: Array, stage: Array, rhs: Array, mean: Array,
    share: float,
) -> None:  # fmt: skip
    """Two-stage SDIRK over h with frozen coefficients, from and to ``at``; adds share × its weighted mean to ``mean``."""
    count = np.uint64(matrix.shape[0])
    for i in range(count):
        rhs[i] = capacity[i] * at[i] + GAMMA * h * push[i]
    _apply(inverse, rhs, stage)
    for i in range(count):
        flow = push[i]
        for j in range(count):
            flow -= matrix[i, j] * stage[j]
        mean[i] += share * (1.0 - GAMMA) * stage[i]
        rhs[i] = capacity[i] * at[i] + (1.0 - GAMMA) * h * flow + GAMMA * h * push[i]
    _apply(inverse, rhs, at)
    for i in range(count):
        mean[i] += share * GAMMA * at[i]


@inlined
def half_sparse(
    fill: Fill, matrix: Array, push: Array, capacity: Array, h: float, factors: Array, at: Array, stage: Array, rhs: Array,
    mean: Array, share: float,
) -> None:  # fmt: skip
    """The same with sparse factors."""
    count = np.uint64(fill.pivots.shape[0])
    for i in range(count):
        rhs[i] = capacity[i] * at[i] + GAMMA * h * push[i]
    solve(fill, factors, rhs, stage)
    for i in range(count):
        mean[i] += share * (1.0 - GAMMA) * stage[i]
        rhs[i] = push[i]
    less_product(fill, matrix, stage, rhs)
    for i in range(count):
        rhs[i] = capacity[i] * at[i] + (1.0 - GAMMA) * h * rhs[i] + GAMMA * h * push[i]
    solve(fill, factors, rhs, at)
    for i in range(count):
        mean[i] += share * GAMMA * at[i]


@woven
def middle_afresh(
    matrix: Array, push: Array, capacity: Array, h: float, inverse: Array, at: Array, rhs: Array, mid: Array
) -> None:  # fmt: skip
    """Half a step of implicit Euler with the coefficients at its beginning."""
    invert(matrix, capacity, h / 2.0, inverse)
    for i in range(np.uint64(matrix.shape[0])):
        rhs[i] = capacity[i] * at[i] + h / 2.0 * push[i]
    _apply(inverse, rhs, mid)


@inlined
def middle_afresh_sparse(
    fill: Fill, matrix: Array, push: Array, capacity: Array, h: float, factors: Array, at: Array, rhs: Array, mid: Array
) -> None:  # fmt: skip
    """The same with sparse factors."""
    factor(fill, matrix, capacity, h / 2.0, factors)
    for i in range(np.uint64(capacity.shape[0])):
        rhs[i] = capacity[i] * at[i] + h / 2.0 * push[i]
    solve(fill, factors, rhs, mid)
