"""How near food is to mould: hours at a water activity and a temperature, each against the hours that mould would take there.

References:
    Days to visible growth by water activity at 25 °C: usual figures after Ayerst 1969 and food handbooks (from memory): some 2 days at 0.98, 4 at 0.90, 9 at 0.85, 40 at 0.75, none below 0.65. Temperature:
    the cardinal model of Rosso et al. 1993 with 5, 28 and 42 °C for common store moulds (from memory).
"""

from __future__ import annotations

import numpy as np

from drylamp.core.arrays import Array

ACTIVITIES, DAYS = (0.65, 0.75, 0.85, 0.90, 0.98), (400.0, 40.0, 9.0, 4.0, 2.0)
"""Days to visible mould at 25 °C."""
LEAST_C, BEST_C, MOST_C, GIVEN_AT_C = 5.0, 28.0, 42.0, 25.0
NEAR, OVER = 0.5, 1.0
"""Shares of the way to visible mould from which it is warned of, and from which it is thrown away."""


def warmth(celsius: Array) -> Array:
    """How fast mould grows at temperatures against its best, 0–1 (Rosso et al. 1993)."""
    t = np.asarray(celsius, dtype=float)
    top = (t - MOST_C) * (t - LEAST_C) ** 2
    near = (BEST_C - LEAST_C) * (t - BEST_C) - (BEST_C - MOST_C) * (BEST_C + LEAST_C - 2.0 * t)
    inside = (t > LEAST_C) & (t < MOST_C)
    with np.errstate(divide="ignore", invalid="ignore"):
        grown = top / ((BEST_C - LEAST_C) * near)
    return np.where(inside, np.clip(np.nan_to_num(grown), 0.0, 1.0), 0.0)


def days_to_mould(activity: Array, celsius: Array) -> Array:
    """Days to visible mould at a steady water activity and temperature; infinite where none grows."""
    wet = np.asarray(activity, dtype=float)
    at_25 = np.exp(np.interp(wet, ACTIVITIES, np.log(DAYS)))
    speed = warmth(celsius) / float(warmth(np.array(GIVEN_AT_C)))
    with np.errstate(divide="ignore"):
        return np.where((wet >= ACTIVITIES[0]) & (speed > 0.0), at_25 / speed, np.inf)


def mould_share(activity: Array, celsius: Array, dt_s: float) -> Array:
    """How far on its way to visible mould food is at each step's end: shares of the days that each step would take, added up; shape (n,)."""
    return np.cumsum(dt_s / 86400.0 / days_to_mould(activity, celsius))
