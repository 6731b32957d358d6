"""The compiled pass that turns areas seen along the sun's path into watts, step by step."""

from __future__ import annotations

import numpy as np

from drylamp.core.compiled import compiled
from drylamp.core.sky.sun import Array


@compiled
def spread(
    beam: Array, dome: Array, ground: Array, left: np.ndarray, share: Array, areas: Array, dome_area: Array,
    ground_area: Array, out: Array,
) -> None:  # fmt: skip
    """Watts of each part in each step.

    Args:
        beam, dome, ground: light, W/m², shape (steps,)
        left, share: the knot before each step and how far on towards the next, shape (steps,)
        areas: area of beam in each part at the knots, m², shape (knots, parts)
        dome_area, ground_area: the same for the even sky and the ground, shape (parts,)
        out: takes the watts, shape (steps, parts)
    """
    last = areas.shape[0] - 1
    for n in range(out.shape[0]):
        i = left[n]
        j = min(i + 1, last)
        for p in range(out.shape[1]):
            area = 0.0
            if beam[n] > 0.0 and last >= 0:
                area = areas[i, p] + share[n] * (areas[j, p] - areas[i, p])
            out[n, p] = beam[n] * area + dome[n] * dome_area[p] + ground[n] * ground_area[p]
