"""Readings whose stamps lie far from the rest: a stray year, a clock that was never set.

Common practice, no source: whoever looks through a log sees one at a glance, and asks.
"""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np
from numpy.typing import NDArray

from drylamp.core.arrays import Array

APART_S = 60.0 * 86400.0
"""A pause of two months parts what belongs together: season logs are read at least every few weeks."""
MOST_SHARE = 0.2
"""More than a fifth of all readings are no slip: they are a log of their own."""


def far_from_rest(time_s: Sequence[float] | Array) -> NDArray[np.bool_]:
    """Which readings lie far from the rest, bool, shape (n,).

    Parameters
    ----------
    time_s
        stamps in any order, seconds, shape (n,)
    """
    at = np.asarray(time_s, dtype=float)
    if len(at) < 2:
        return np.zeros(len(at), dtype=bool)
    order = np.argsort(at, kind="stable")
    group = np.concatenate(([0], np.cumsum(np.diff(at[order]) > APART_S)))
    sizes = np.bincount(group)
    if len(sizes) == 1 or len(at) - sizes.max() > MOST_SHARE * len(at):
        return np.zeros(len(at), dtype=bool)
    out = np.empty(len(at), dtype=bool)
    out[order] = group != sizes.argmax()
    return out
