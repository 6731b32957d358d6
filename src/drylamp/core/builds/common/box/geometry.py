r"""A box as facets: for mirrors on more than the upper edge, wedges, level shelves and the map of the bright patch.

Axes are those of the opening: x across, y up the slope, z outward. A box's floor is z = 0; a wedge stands level, so that
its floor leans against the opening by the tilt::

        box, tilted                 wedge
            ╱╲                        │╲  opening
          ╱   ╲ opening               │  ╲
          ╲   ╱                       │    │
            ╲╱                        └────┘
"""

from __future__ import annotations

import math

import numpy as np

from drylamp.core.arrays import Array
from drylamp.core.builds.common.box.spec import Box
from drylamp.core.builds.common.cover.spec import panes_of
from drylamp.core.builds.common.mirror.spec import StandingMirror
from drylamp.core.kept import Kept
from drylamp.core.loads.common.body import Body
from drylamp.core.loads.load import Load, standing_on
from drylamp.core.optics.geometry import Cylinder, Facet, Geometry, rectangle
from drylamp.core.optics.shapes import box_inside, hinged_flap

MOST_MADE = 64
"""Boxes whose facets are kept; some 10 kB each."""
FLOOR, WALLS, STANDING, COVER = "floor", "walls", "standing", "cover"


def standing(build: Box, load: Load | None) -> tuple[float, float] | None:
    """Diameter and height of what stands on the floor: the bowl or bag where there is one, else the pot."""
    return standing_on(load, build.floor_m)


def lying(build: Box, load: Load | None) -> list[Body]:
    """What lies open on the floor."""
    if load is None or load.envelope is not None:
        return []
    return [body for body in load.bodies_on(build.floor_m) if not body.stands]


def upward(build: Box) -> Array:
    """Straight up in the opening's axes."""
    tilt = np.radians(build.tilt_deg)
    return np.array([0.0, np.sin(tilt), np.cos(tilt)])


def floor_frame(build: Box) -> tuple[Array, Array, Array]:
    """Lower left corner of the floor, its edge across and its edge to the back."""
    across = np.array([build.width_m, 0.0, 0.0])
    if not build.is_wedge:
        return np.array([-build.width_m / 2, 0.0, 0.0]), across, np.array([0.0, build.length_m, 0.0])
    front = np.array([-build.width_m / 2, 0.0, build.height_m]) - build.height_m * upward(build)
    return front, across, build.floor_length_m * backward(build)


def floor_points(build: Box, body: Body, count: int) -> Array:
    """Points spread evenly over something that lies on the floor, shape (count², 3)."""
    corner, across, back = floor_frame(build)
    even = (np.arange(count) + 0.5) / count - 0.5
    x = np.clip(body.across + even * body.wide_m / build.width_m, 0.0, 1.0)
    y = np.clip(body.up + even * body.long_m / build.floor_length_m, 0.0, 1.0)
    grid_x, grid_y = np.meshgrid(x, y)
    return np.asarray(corner + grid_x.reshape(-1, 1) * across + grid_y.reshape(-1, 1) * back)


def opening_of(build: Box) -> tuple[Array, Array, Array]:
    """Lower left corner of the opening, its edge across and its edge up the slope."""
    corner = np.array([-build.width_m / 2, 0.0, build.height_m])
    return corner, np.array([build.width_m, 0.0, 0.0]), np.array([0.0, build.length_m, 0.0])


_MADE: Kept[tuple[str, tuple[float, float] | None], Geometry] = Kept(MOST_MADE)


def geometry_of(build: Box, load: Load | None) -> Geometry:
    """Cover, floor, walls, pot and flaps; kept, because whether they run into one another takes a while to find out.

    Raises
    ------
    InputProblem
        two mirrors cut through each other, or one through the box.
    """
    stands = standing(build, load)
    return _MADE.get((build.model_dump_json(), stands), lambda: _made(build, stands))


def _made(build: Box, stands: tuple[float, float] | None) -> Geometry:
    corner, across, up = opening_of(build)
    cover = rectangle(COVER, corner, across, up, "cover", panes=tuple(panes_of(build.skins)))
    inside = box_inside(build.width_m, build.length_m, build.height_m) if not build.is_wedge else _wedge(build)
    pots = () if stands is None else (_pot(build, *stands),)
    return Geometry((cover, *inside, *mirrors_of(build)), pots)


def _pot(build: Box, diameter_m: float, height_m: float) -> Cylinder:
    """In the middle of the floor, square to it or upright on a level shelf."""
    corner, across, back = floor_frame(build)
    normal = np.cross(across, back)
    normal = normal / np.linalg.norm(normal)
    axis = upward(build) if build.has_level_shelf else normal
    lift = diameter_m / 2 * math.sqrt(max(1.0 - float(axis @ normal) ** 2, 0.0))
    return Cylinder(STANDING, corner + across / 2 + back / 2 + lift * normal, height_m * axis, diameter_m / 2)


def _wedge(build: Box) -> tuple[Facet, ...]:
    """Floor and walls of a wedge, fronts inward."""
    corner, across, back = floor_frame(build)
    up = upward(build)
    front, rear = build.height_m * up, build.back_height_m * up
    left = np.array([corner, corner + back, corner + back + rear, corner + front])
    return (
        rectangle(FLOOR, corner, across, back, "receiver"),
        rectangle(WALLS, corner, front, across, "receiver"),
        rectangle(WALLS, corner + back, across, rear, "receiver"),
        Facet(WALLS, left, "receiver"),
        Facet(WALLS, (left + across)[::-1], "receiver"),
    )


def mirrors_of(build: Box) -> list[Facet]:
    """The mirrors round the opening, and the one that stands behind it."""
    return [*_flaps_of(build), *_behind(build)]


def backward(build: Box) -> Array:
    """Level, away from what it faces, in the opening's axes."""
    tilt = np.radians(build.tilt_deg)
    return np.array([0.0, np.cos(tilt), -np.sin(tilt)])


def behind_ends(build: Box, mirror: StandingMirror) -> tuple[Array, Array]:
    """Middle of the foot and of the top of a mirror that stands behind a box, in the opening's axes."""
    lean, up, back = np.radians(mirror.lean_deg), upward(build), backward(build)
    foot = np.array([0.0, build.length_m, build.height_m]) + mirror.away_m * back + mirror.foot_m * up
    return foot, foot + mirror.height_m * (np.cos(lean) * up + np.sin(lean) * back)


def _behind(build: Box) -> list[Facet]:
    mirror = build.mirror_behind
    if mirror is None:
        return []
    foot, top = behind_ends(build, mirror)
    half, row = np.array([mirror.width_m / 2, 0.0, 0.0]), mirror.row
    more = {"reflectance": row.reflectance, "slope_error_mrad": row.slope_error_mrad}
    return [rectangle("mirror-behind", foot - half, 2 * half, top - foot, "mirror", **more)]


def _flaps_of(build: Box) -> list[Facet]:
    """The mirrors round the opening."""
    corner, across, up = opening_of(build)
    corners = {
        "low-left": corner,
        "low-right": corner + across,
        "high-right": corner + across + up,
        "high-left": corner + up,
    }
    hinges = {
        "upper": ("high-left", "high-right", [0.0, -1.0, 0.0]),
        "lower": ("low-left", "low-right", [0.0, 1.0, 0.0]),
        "left": ("low-left", "high-left", [1.0, 0.0, 0.0]),
        "right": ("low-right", "high-right", [-1.0, 0.0, 0.0]),
    }
    outward, out = np.array([0.0, 0.0, 1.0]), []
    for edge, flap in build.mirrors.items():
        first, last, inward = hinges[edge]
        hinge, row = (corners[first], corners[last]), flap.row
        shape = (flap.length_m, flap.angle_deg, row.reflectance, row.slope_error_mrad)
        out.append(hinged_flap(f"flap-{edge}", hinge, np.array(inward), outward, *shape))
    return out
