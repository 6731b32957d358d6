"""From areas seen along the sun's path, over the dome and off the ground to watts, step by step."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

import numpy as np

from drylamp.core.arrays import Array
from drylamp.core.compiled import compiled
from drylamp.core.optics.sun_plan import SunPlan
from drylamp.core.sky.dome import DOME_DIRECTIONS, GROUND_DIRECTIONS, hemisphere, is_open

Areas = Callable[[Array], tuple[Array, Array]]
"""From unit vectors towards a source, shape (n, 3), to areas by part, shape (n, parts), and area met, shape (n,)."""


@dataclass(frozen=True)
class DiffuseAreas:
    """Areas by part, what is intercepted last, for the open part of a uniform sky and for the ground, m², shape (parts + 1,)."""

    dome: Array
    ground: Array


def diffuse_areas_over(skyline_deg: Array, absorbed_m2: Areas) -> DiffuseAreas:
    """Areas for light that comes from everywhere: the same however the sun moves, so worth keeping."""
    dome, ground = hemisphere(DOME_DIRECTIONS), hemisphere(GROUND_DIRECTIONS, upper=False)
    return diffuse_areas_of(skyline_deg, np.column_stack(absorbed_m2(dome)), np.column_stack(absorbed_m2(ground)))


def diffuse_areas_of(skyline_deg: Array, from_dome: Array, from_ground: Array) -> DiffuseAreas:
    """The same from areas by direction, shapes (DOME_DIRECTIONS, parts + 1) and (GROUND_DIRECTIONS, parts + 1)."""
    is_seen = is_open(skyline_deg, hemisphere(DOME_DIRECTIONS))
    return DiffuseAreas(
        2.0 / DOME_DIRECTIONS * (is_seen @ from_dome), 2.0 / GROUND_DIRECTIONS * from_ground.sum(axis=0)
    )


def power_over_run(plan: SunPlan, areas: Array, diffuse: DiffuseAreas) -> tuple[Array, Array]:
    """Watts into each part and watts intercepted over a run, shapes (n, parts) and (n,).

    Parameters
    ----------
    areas
        by part, what is intercepted last, at the plan's knots, m², shape (knots, parts + 1)
    diffuse
        areas for the uniform sky and the ground
    """
    out, light = np.empty((len(plan.share), areas.shape[1])), plan.light
    irradiance_to_power(
        light.beam_w_m2, light.dome_w_m2, light.ground_w_m2, plan.left, plan.share, areas, diffuse.dome, diffuse.ground, out
    )  # fmt: skip
    return out[:, :-1], out[:, -1]


@compiled
def irradiance_to_power(
    beam: Array, dome: Array, ground: Array, left: np.ndarray, share: Array, areas: Array, dome_area: Array,
    ground_area: Array, out: Array,
) -> None:  # fmt: skip
    """Watts of each part in each step.

    Parameters
    ----------
    beam, dome, ground
        light, W/m², shape (steps,)
    left, share
        the knot before each step and how far on towards the next, shape (steps,)
    areas
        area of beam in each part at the knots, m², shape (knots, parts)
    dome_area, ground_area
        the same for the uniform sky and the ground, shape (parts,)
    out
        takes the watts, shape (steps, parts)
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
