"""From areas seen along the sun's path, over the dome and off the ground to watts, step by step."""

from __future__ import annotations

from collections.abc import Callable

import numpy as np

from drylamp.core.compiled import compiled
from drylamp.core.optics.sun_plan import SunPlan
from drylamp.core.sky.dome import DOME_DIRECTIONS, GROUND_DIRECTIONS, hemisphere, is_open
from drylamp.core.sky.sun import Array

Areas = Callable[[Array], tuple[Array, Array]]
"""From unit vectors towards a source, shape (n, 3), to areas by part, shape (n, parts), and area met, shape (n,)."""


def over_run(plan: SunPlan, skyline_deg: Array, follow: Areas, absorbed_m2: Areas) -> tuple[Array, Array]:
    """Watts into each part and watts met over a run, shapes (n, parts) and (n,).

    Args:
        follow: areas along the sun's path, which may read a table
        absorbed_m2: areas for any direction, for the even sky and the ground
    """
    areas = np.column_stack(follow(plan.directions))
    dome, ground = hemisphere(DOME_DIRECTIONS), hemisphere(GROUND_DIRECTIONS, upper=False)
    dome_area = 2.0 / DOME_DIRECTIONS * (is_open(skyline_deg, dome) @ np.column_stack(absorbed_m2(dome)))
    ground_area = 2.0 / GROUND_DIRECTIONS * np.column_stack(absorbed_m2(ground)).sum(axis=0)
    out, light = np.empty((len(plan.share), areas.shape[1])), plan.light
    spread(
        light.beam_w_m2, light.dome_w_m2, light.ground_w_m2, plan.left, plan.share, areas, dome_area, ground_area, out
    )  # fmt: skip
    return out[:, :-1], out[:, -1]


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
