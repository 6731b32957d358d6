"""From areas seen along the sun's path, over the dome and off the ground to watts, step by step."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

import numpy as np

from drylamp.core.arrays import Array
from drylamp.core.compiled import compiled
from drylamp.core.optics.cavity import square_to
from drylamp.core.optics.sun_plan import SunPlan
from drylamp.core.sky.dome import DOME_DIRECTIONS, GROUND_DIRECTIONS, hemisphere, is_open

RING_RADII, RING_TURNS = 16, 8
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


RING_DEG = 6.0
"""How far from the sun the light of the ring round it lies, most likely: its light falls off as a bell from there; from memory."""


def ring_share_of(caught: Callable[[Array], Array], aimed: Array) -> float:
    """Share of the ring's light that something takes which is aimed at the sun, against the beam's own.

    Parameters
    ----------
    caught
        areas for unit vectors towards a source, shape (n, 3) to (n,)
    aimed
        unit vector towards the sun
    """
    first, second = (np.asarray(axis) for axis in square_to(aimed[None]))
    off = np.radians(RING_DEG) * np.sqrt(-2.0 * np.log(1.0 - (np.arange(RING_RADII) + 0.5) / RING_RADII))
    turn = 2.0 * np.pi * (np.arange(RING_TURNS) + 0.5) / RING_TURNS
    off, turn = (grid.reshape(-1, 1) for grid in np.meshgrid(off, turn))
    toward = np.cos(off) * aimed + np.sin(off) * (np.cos(turn) * first + np.sin(turn) * second)
    straight = float(caught(np.ascontiguousarray(aimed[None]))[0])
    return min(float(caught(np.ascontiguousarray(toward)).mean()) / straight, 1.0) if straight > 0 else 1.0


def power_over_run(plan: SunPlan, areas: Array, diffuse: DiffuseAreas, ring_share: float = 1.0) -> tuple[Array, Array]:
    """Watts into each part and watts intercepted over a run, shapes (n, parts) and (n,).

    Parameters
    ----------
    areas
        by part, what is intercepted last, at the plan's knots, m², shape (knots, parts + 1)
    diffuse
        areas for the uniform sky and the ground
    ring_share
        of the light of the ring round the sun, what is not thrown past the parts
    """
    out, light = np.empty((len(plan.share), areas.shape[1])), plan.light
    past = (1.0 - ring_share) * light.ring_w_m2
    irradiance_to_power(
        light.beam_w_m2 - past, light.dome_w_m2, light.ground_w_m2, plan.left, plan.share, areas, diffuse.dome, diffuse.ground, out
    )  # fmt: skip
    if ring_share < 1.0 and len(areas):  # it is met all the same
        met, right = areas[:, -1], np.minimum(plan.left + 1, len(areas) - 1)
        out[:, -1] += past * (met[plan.left] + plan.share * (met[right] - met[plan.left]))
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
