"""A finish that readings narrow: the twin under several factors on how fast something dries, each weighed by how well it meets the readings so far.

What the twin misses in common (sun, damp air, the cut) is one error shared by all readings (Sherman & Morrison 1950), or a day of reading would be surer than the sun.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from drylamp.core.arrays import Array

GRID = 241
AT = np.array([-2.5, -1.5, -0.75, 0.0, 0.75, 1.5, 2.5])
"""Where the twin is run, in standard deviations of the factor's logarithm."""
P_LOW, P_HIGH = 0.05, 0.95


@dataclass(frozen=True)
class Told:
    """One reading: what the twin says of it under each factor, shape (factors,), what was read, its own doubt, and that which it shares with all others."""

    twin: Array
    read: float
    doubt: float
    shared: float


@dataclass(frozen=True)
class Weighed:
    """Factors after the readings.

    Attributes:
        logs: of the factors that the twin was run with, shape (factors,)
        fine: a finer row of them, and the share of each, shape (GRID,)
    """

    logs: Array
    fine: Array
    share: Array

    @property
    def factor(self) -> float:
        """The middle."""
        return math.exp(float((self.fine * self.share).sum()))

    @property
    def spread(self) -> float:
        """Standard deviation of its logarithm."""
        mean = float((self.fine * self.share).sum())
        return float(np.sqrt((self.share * (self.fine - mean) ** 2).sum()))

    def between(self, values: Array) -> Array:
        """Values by factor, shape (factors, …), at each of the fine ones."""
        below = np.clip(np.searchsorted(self.logs, self.fine) - 1, 0, len(self.logs) - 2)
        part = (self.fine - self.logs[below]) / (self.logs[below + 1] - self.logs[below])
        wide = part.reshape(-1, *([1] * (values.ndim - 1)))
        return np.asarray(values[below] * (1.0 - wide) + values[below + 1] * wide)

    def summed(self, done_s: Array, end_s: float) -> Finish:
        """When it is done, by when it is under each of the fine factors, shape (GRID,); later than the end: not by then."""
        order = np.argsort(done_s)
        summed = np.cumsum(self.share[order])
        low, middle, high = (float(np.interp(p, summed, done_s[order])) for p in (P_LOW, 0.5, P_HIGH))
        chance = float(self.share[done_s <= end_s].sum())
        return Finish(
            middle if middle <= end_s else None, low if low <= end_s else None, high if high <= end_s else None, self.factor, self.spread, chance
        )  # fmt: skip


@dataclass(frozen=True)
class Finish:
    """When the last of it is dry, seconds since 1970: likely, and the ends between which it is in nine cases of ten; none where the twin never gets there.

    ``factor`` is how fast water comes out against the table, with its standard deviation of the logarithm.
    """

    likely_s: float | None
    low_s: float | None
    high_s: float | None
    factor: float
    spread: float
    chance: float


def factors(prior_sd: float) -> Array:
    """Factors that the twin is run with."""
    return np.asarray(np.exp(prior_sd * AT))


def weighed(prior_sd: float, readings: Sequence[Told]) -> Weighed:
    """Factors by the readings; by the prior alone where there are none."""
    logs = prior_sd * AT
    fine = np.linspace(logs[0], logs[-1], GRID)
    weight = -0.5 * (fine / prior_sd) ** 2 - 0.5 * _missed(
        fine, logs, [told for told in readings if np.isfinite(told.twin).all()]
    )
    share = np.exp(weight - weight.max())
    return Weighed(logs, fine, share / share.sum())


def _missed(fine: Array, logs: Array, readings: Sequence[Told]) -> Array:
    if not readings:
        return np.zeros(len(fine))
    residual = np.array([np.interp(fine, logs, told.twin) - told.read for told in readings])
    spread, shared = (
        np.array([told.doubt for told in readings])[:, None],
        np.array([told.shared for told in readings])[:, None],
    )
    plain = ((residual / spread) ** 2).sum(axis=0)
    along = (shared * residual / spread**2).sum(axis=0)
    return np.asarray(plain - along**2 / (1.0 + float(((shared / spread) ** 2).sum())))
