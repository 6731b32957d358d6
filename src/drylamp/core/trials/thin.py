"""Fewer points of a long series: for the eye with every extreme kept, for the twin by means."""

from __future__ import annotations

import numpy as np

from drylamp.core.arrays import Array


def thin_for_eye(time: Array, value: Array, points: int) -> np.ndarray:
    """Indices of at most ``points`` samples that draw like all of them: of each slot of time the first, lowest, highest and last.

    Parameters
    ----------
    time
        rising, shape (n,)
    value
        shape (n,); NaN is a gap

    References
    ----------
    M4 aggregation: Jugel et al. 2014, Proceedings of the VLDB Endowment 7(10).
    """
    count = len(time)
    if count <= points:
        return np.arange(count)
    slots = max(points // 4, 1)
    span = max(float(time[-1] - time[0]), 1e-9)
    slot = np.minimum(((time - time[0]) / span * slots).astype(np.int64), slots - 1)
    edges = np.flatnonzero(np.diff(slot, prepend=-1))
    first, last = edges, np.append(edges[1:], count) - 1
    order = np.lexsort((np.where(np.isnan(value), np.inf, value), slot))
    low = order[edges]
    order = np.lexsort((np.where(np.isnan(value), -np.inf, value), slot))
    high = order[last]
    return np.unique(np.concatenate([first, low, high, last]))


def thin_by_means(time: Array, value: Array, points: int, least_s: float = 60.0) -> tuple[Array, Array]:
    """Means over even slots of time, at most ``points`` of them and none shorter than ``least_s`` (time in seconds)."""
    if len(time) <= points:
        return time, value
    width = max(float(time[-1] - time[0]) / points, least_s)
    _, group = np.unique(np.floor((time - time[0]) / width), return_inverse=True)
    number = np.bincount(group)
    return np.bincount(group, time) / number, np.bincount(group, value) / number
