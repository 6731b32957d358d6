"""Watts of sun in the pot of a dish, per watt of beam from any direction, and what spills past it."""

from __future__ import annotations

import math
from dataclasses import dataclass
from functools import cached_property, lru_cache

import numpy as np

from drylamp.core.arrays import Array
from drylamp.core.builds.dish.spec import Dish
from drylamp.core.loads.common.body import BOWL, inside_shares
from drylamp.core.loads.load import Load
from drylamp.core.optics.covers import stack
from drylamp.core.optics.dish_light import DishShape, Target, on_target
from drylamp.core.optics.power import DiffuseAreas, diffuse_areas_over, ring_share_of
from drylamp.core.sky.dome import plane_axes

HOLDER = "holder"
RAYS, RING_RAYS = 1024, 256
FARTHEST_COS = float(np.cos(np.radians(25.0)))
"""From farther off the axis than this nothing that the mirror throws comes near the pot."""
ACCEPTED_RINGS = 50
RING_TILT_STEP_DEG = 10.0
"""The ring's share changes little with how the pot stands to the mirror, and a dish that is turned has a hundred such stands a day."""
USUAL_INCIDENCE_COS = 0.7
"""Light from a dish meets a bag or bowl from everywhere below; one angle stands for all."""
EMPTY_POT = (0.10, 0.02)
"""Without a pot the ring at the focus stands in the light: its diameter and height, m."""


def lit_nodes(build: Dish, load: Load | None) -> list[str]:
    """Parts that take up sun, in the order of the absorbed areas."""
    if load is None:
        return [HOLDER]
    return [HOLDER, *(b.node for b in load.bodies_on(build.floor_m)), *([BOWL] if load.envelope is not None else [])]


def shape_of(build: Dish) -> DishShape:
    """The dish as optics sees it."""
    return DishShape(build.diameter_m, build.focal_m, build.mirror_row.reflectance, build.slope_error_mrad / 1000)


def target_of(build: Dish, load: Load | None) -> Target:
    """What stands at the focus, upright however the dish leans, in the dish's axes."""
    if load is None:
        diameter, height = EMPTY_POT
    elif load.envelope is not None:
        diameter, height = load.envelope.diameter_m, load.envelope.height_m
    else:
        body = load.bodies_on(build.floor_m)[0]
        diameter, height = body.diameter_m, body.height_m
    return upright((diameter / 2, height), build.focal_m + build.pot_offset_m, build.tilt_deg)


def upright(size_m: tuple[float, float], middle_m: float, tilt_deg: float) -> Target:
    """An upright cylinder, radius and height, its middle so far up the axis of a dish that leans."""
    up = plane_axes(tilt_deg, 0.0)[:, 2]
    return Target(np.array([0.0, 0.0, middle_m]) - size_m[1] / 2 * up, up, *size_m)


def _caught(shape: DishShape, target: Target, toward: Array, rays: int = RAYS) -> tuple[Array, Array]:
    """Area of beam that meets a target by way of the mirror, and straight, m²."""
    near = toward[:, 2] > FARTHEST_COS
    by_mirror = np.zeros(len(toward))
    by_mirror[near] = on_target(shape, target, np.ascontiguousarray(toward[near]), rays)
    return by_mirror, target.shadow_m2(toward)


@lru_cache(maxsize=256)
def _ring_share(shape: DishShape, size_m: tuple[float, float], middle_m: float, tilt_deg: float) -> float:
    target = upright(size_m, middle_m, tilt_deg)
    return ring_share_of(lambda toward: np.add(*_caught(shape, target, toward, RING_RAYS)), np.array([0.0, 0.0, 1.0]))


@dataclass(frozen=True)
class DishOptics:
    """Optics of one dish with one pot, ready for any direction."""

    build: Dish
    load: Load | None
    target: Target

    @classmethod
    def of(cls, build: Dish, load: Load | None) -> DishOptics:
        """Nothing needs to be worked out before."""
        return cls(build, load, target_of(build, load))

    def caught(self, toward: Array) -> tuple[Array, Array]:
        """Area of beam that meets the pot by way of the mirror, and straight, for directions in the dish's axes, m²."""
        return _caught(shape_of(self.build), self.target, toward)

    def along_path(self, toward_world: Array) -> tuple[Array, Array]:
        """Power in each part, and power meeting dish and pot, per W/m² of beam from each direction."""
        toward = toward_world @ plane_axes(self.build.tilt_deg, self.build.facing_deg).T
        by_mirror, straight = self.caught(toward)
        return self._shared(by_mirror + straight), self.build.opening_m2 * np.maximum(toward[:, 2], 0.0) + straight

    def _in_parts(self, by_mirror: Array, toward_world: Array) -> tuple[Array, Array]:
        """What comes straight from directions in the world, and so much by way of the mirror."""
        toward = toward_world @ plane_axes(self.build.tilt_deg, self.build.facing_deg).T
        straight = self.target.shadow_m2(toward)
        return self._shared(by_mirror + straight), by_mirror + straight

    def _shared(self, intercepted: Array) -> Array:
        """Light that meets what stands at the focus, by part, shape (n, parts)."""
        names = lit_nodes(self.build, self.load)
        out = np.zeros((len(intercepted), len(names)))
        if self.load is None:
            out[:, 0] = intercepted * 0.5
        else:
            bodies = self.load.bodies_on(self.build.floor_m)
            if self.load.envelope is None:
                out[:, 1] = intercepted * bodies[0].absorptance
            else:
                under = self.load.envelope
                sheet = stack([under.pane], USUAL_INCIDENCE_COS)
                inside = inside_shares(bodies, under, 0.0)
                out[:, names.index(BOWL)] = intercepted * float(sheet.absorptance[0])
                for body in bodies:
                    out[:, names.index(body.node)] = (
                        intercepted
                        * self.load.clear_share
                        * float(sheet.transmittance)
                        * inside[body.node]
                        * body.absorptance
                    )
        return out

    @cached_property
    def ring_share(self) -> float:
        """Of the light round the sun, what lies within the mirror's acceptance by its slope errors and the pot's size."""
        size = self.target.radius_m, self.target.height_m
        lean = RING_TILT_STEP_DEG * round(self.build.tilt_deg / RING_TILT_STEP_DEG)
        return _ring_share(shape_of(self.build), size, self.build.focal_m + self.build.pot_offset_m, lean)

    def diffuse_areas(self, skyline_deg: Array) -> DiffuseAreas:
        """Areas for the diffuse sky and the ground: straight, and of the sky what comes within the mirror's acceptance."""
        straight = diffuse_areas_over(skyline_deg, lambda toward: self._in_parts(np.zeros(len(toward)), toward))
        off = (np.arange(ACCEPTED_RINGS) + 0.5) * math.acos(FARTHEST_COS) / ACCEPTED_RINGS
        toward = np.stack([np.sin(off), np.zeros_like(off), np.cos(off)], axis=1)
        by_mirror = 2.0 * float((self.caught(toward)[0] * np.sin(off)).sum()) * math.acos(FARTHEST_COS) / ACCEPTED_RINGS
        parts = self._shared(np.array([by_mirror]))[0]
        return DiffuseAreas(straight.dome + np.append(parts, by_mirror), straight.ground)


def spill(build: Dish, load: Load | None, off_axis_deg: Array) -> Array:
    """Share of what the mirror throws that misses the pot, with the sun so far off the axis towards one side, shape (n,)."""
    angle = np.radians(off_axis_deg)
    toward = np.stack([np.sin(angle), np.zeros_like(angle), np.cos(angle)], axis=1)
    by_mirror, shaded = DishOptics.of(build, load).caught(toward)
    thrown = (build.opening_m2 * np.cos(angle) - shaded) * build.mirror_row.reflectance
    return np.asarray(np.clip(1.0 - by_mirror / thrown, 0.0, 1.0))
