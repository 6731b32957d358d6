"""The dish's drawing: the curve of the mirror, the pot on its ring at the focus, and the rays of the chosen hour."""

from __future__ import annotations

import itertools

import numpy as np

from drylamp.core.arrays import Array
from drylamp.core.builds.common.section.geometry import (
    Flat,
    Frame,
    Mirror2,
    drawn,
    follow_rays,
    load_drawn,
    sun_in_section,
)
from drylamp.core.builds.dish.spec import Dish
from drylamp.core.common.drawing import Arrow, Dimension, Handle, Section, Shape
from drylamp.core.loads.common.body import Body
from drylamp.core.loads.load import Load

CURVE_PIECES = 48
CLEAR_M = 0.10
"""Height of the lowest point of the rim over the ground."""


def section_of(build: Dish, load: Load | None, toward_sun: Array | None) -> Section:
    """Draw the dish cut along the way it looks, with rays when the sun is given and up."""
    curve = _curve(build)
    frame = Frame(build.tilt_deg, curve, CLEAR_M)
    middle = (0.0, build.focal_m + build.pot_offset_m)
    pot = next((b for b in load.bodies_on(build.floor_m) if b.stands), None) if load is not None else None
    high = 0.02 if pot is None else pot.height_m
    foot = (middle[0] - high / 2 * frame.up[0], middle[1] - high / 2 * frame.up[1])
    goods, stops = load_drawn(load, frame, (foot, foot), frame.up, build.floor_m, 0.0)
    mirrors = [_piece(a, b) for a, b in itertools.pairwise(curve)]
    shapes = [*_holder(build, frame, foot, pot), *goods]
    shapes.append(Shape(part="mirror", label="dish", ink="mirror", outline=frame.path(*curve), closed=False))
    sun = sun_in_section(build.tilt_deg, build.facing_deg, toward_sun)
    rays = [] if sun is None or sun[1] <= 0.02 else follow_rays(frame, sun, [curve[0], curve[-1]], mirrors, stops)
    reach = 0.25 * build.diameter_m
    arrows = [
        Arrow(account="air", at=frame.at(-reach * 0.5, middle[1]), toward=frame.outward(-1.0, 0.3)),
        Arrow(account="sky", at=frame.at(reach * 0.5, middle[1]), toward=frame.outward(0.9, 0.45)),
        Arrow(account="steam", at=frame.at(0.0, middle[1] + high), toward=frame.outward(0.0, 1.0)),
    ]
    half = build.diameter_m / 2
    dimensions = [
        Dimension(
            label="across",
            start=frame.at(-half, build.depth_m),
            end=frame.at(half, build.depth_m),
            value_m=build.diameter_m,
        ),
        Dimension(
            label="focus",
            start=frame.at(half + 0.08, 0.0),
            end=frame.at(half + 0.08, build.focal_m),
            value_m=build.focal_m,
        ),
    ]
    handles = [
        Handle(
            field="tilt_deg", sense=-1, title="lean of the axis", at=frame.at(*curve[0]), pivot=frame.at(0.0, 0.0), low=0, high=90,
            value=build.tilt_deg, unit="deg",
        )
    ]  # fmt: skip
    return drawn(frame, shapes, rays, arrows, dimensions, handles, sun)


def _curve(build: Dish) -> list[Flat]:
    """The parabola from the lower rim to the upper."""
    y = np.linspace(-build.diameter_m / 2, build.diameter_m / 2, CURVE_PIECES + 1)
    return [(float(v), float(v * v / (4 * build.focal_m))) for v in y]


def _piece(one: Flat, other: Flat) -> Mirror2:
    along = np.array([other[0] - one[0], other[1] - one[1]])
    along /= np.hypot(*along)
    return Mirror2(one, other, (-float(along[1]), float(along[0])))


def _holder(build: Dish, frame: Frame, foot: Flat, pot: Body | None) -> list[Shape]:
    """Legs to the ground beyond the dish, the ring, and the arms that hold it."""
    x, y = frame.at(0.0, 0.0)
    leg = [(x - 0.3 * build.diameter_m, 0.0), (x, y), (x + 0.3 * build.diameter_m, 0.0)]
    wide = 0.06 if pot is None else pot.diameter_m * 0.45
    side = (frame.up[1], -frame.up[0])
    ring = [(foot[0] - wide * side[0], foot[1] - wide * side[1]), (foot[0] + wide * side[0], foot[1] + wide * side[1])]
    arm = frame.path((0.0, 0.0), ring[0], ring[1], (0.0, 0.0))
    return [
        Shape(part="aim", label="stand", ink="beyond", outline=leg, closed=False),
        Shape(part="aim", label="arms and ring", ink="beyond", outline=arm, closed=False),
    ]
