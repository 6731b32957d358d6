"""Which places of the sun are worth tracing over a run, and what light comes with each step: the same for every design."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from drylamp.core.arrays import Array
from drylamp.core.sky.plane import SkyLight
from drylamp.core.sky.sun import SunPath

SHARED_KNOTS_S = 300.0


@dataclass(frozen=True)
class SunPlan:
    """A run's sun, made ready once for any number of designs.

    Attributes:
        directions: towards the sun at the knots, unit vectors east, north, up, shape (knots, 3)
        left, share: for each step the knot before it and how far on towards the next, shape (n,)
        light: light of each step
    """

    directions: Array
    left: np.ndarray
    share: Array
    light: SkyLight

    def between(self, first: int, last: int) -> SunPlan:
        """The plan of steps first to last (not included) alone."""
        rows = slice(first, last)
        light = self.light.at(rows)
        left, share = self.left[rows], self.share[rows]
        if len(self.directions) == 0 or len(left) == 0:
            return SunPlan(self.directions[:0], left, share, light)
        low, high = int(left[0]), min(int(left[-1]) + 2, len(self.directions))
        return SunPlan(self.directions[low:high], left - low, share, light)


def sun_plan(sun: SunPath, light: SkyLight, rows: np.ndarray | None = None) -> SunPlan:
    """Choose knots for a run; ``rows`` picks the steps that are wanted, all where not given."""
    knots = _knots(sun)
    if rows is None:
        rows = np.arange(len(sun.time_s))
    wanted = light.at(rows)
    if len(knots) == 0:  # polar night
        return SunPlan(np.zeros((0, 3)), np.zeros(len(rows), dtype=np.int64), np.zeros(len(rows)), wanted)
    at, time = sun.time_s[knots], sun.time_s[rows]
    left = np.clip(np.searchsorted(at, time) - 1, 0, max(len(at) - 2, 0))
    span = np.maximum(at[np.minimum(left + 1, len(at) - 1)] - at[left], 1e-9)
    return SunPlan(sun.direction[knots], left.astype(np.int64), np.clip((time - at[left]) / span, 0.0, 1.0), wanted)


def _knots(sun: SunPath) -> np.ndarray:
    """Steps worth tracing while the sun is up: one in five minutes (three steps where they are longer), dawn and dusk."""
    step_s = float(np.median(np.diff(sun.time_s))) if len(sun.time_s) > 1 else SHARED_KNOTS_S
    spacing_s = SHARED_KNOTS_S if step_s < SHARED_KNOTS_S else 3.0 * step_s
    slot = np.floor(sun.time_s / spacing_s).astype(np.int64)
    up = sun.direction[:, 2] > -0.02
    first = np.flatnonzero(np.diff(slot, prepend=slot[0] - 1) != 0)
    dusk = np.flatnonzero(up & ~np.append(up[1:], False))
    dawn = np.flatnonzero(up & ~np.append(False, up[:-1]))
    return np.unique(np.concatenate([first[up[first]], dawn, dusk]))
