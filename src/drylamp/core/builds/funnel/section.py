"""The funnel's drawing: the mirror's cut on its stand, pot on the trivet, and the rays of the chosen hour."""

from __future__ import annotations

import math

from drylamp.core.arrays import Array
from drylamp.core.builds.common.section.geometry import (
    Flat,
    Frame,
    Mirror2,
    Stop,
    drawn,
    follow_rays,
    load_drawn,
    sun_in_section,
)
from drylamp.core.builds.funnel.optics import trivet_of
from drylamp.core.builds.funnel.spec import Funnel
from drylamp.core.common.drawing import Arrow, Dimension, Handle, Section, Shape
from drylamp.core.loads.load import Load

SHEET_DRAWN_M = 0.006


def section_of(build: Funnel, load: Load | None, toward_sun: Array | None) -> Section:
    """Draw the funnel cut along the way it leans, with rays when the sun is given and up."""
    tilt = build.lean_deg
    half = build.floor_m[1] / 2
    front, back = (-half, 0.0), (half, 0.0)
    frame = Frame(tilt, [front, back], max(build.stand_m, SHEET_DRAWN_M))
    lift = trivet_of(build, load)
    goods, stops = load_drawn(load, frame, (front, back), frame.up, build.floor_m, lift + half * abs(frame.up[0]) * 0.6)
    walls = _walls(build, front, back)
    bottom = Shape(
        part="base",
        label="bottom",
        ink="black",
        outline=frame.path(front, back, (half, -SHEET_DRAWN_M), (-half, -SHEET_DRAWN_M)),
    )
    shapes = [*_stand(build, frame, half), bottom, *_trivet(lift, half, frame, load), *goods]
    for number, wall in enumerate(walls):
        ends = (wall.end, wall.start) if number == 0 else (wall.start, wall.end)  # the back lies to the left
        outline = frame.path(*ends)
        shapes.append(Shape(part="mirror", label="mirror wall", ink="mirror", outline=outline, closed=False))
    sun = sun_in_section(tilt, build.facing_deg, toward_sun)
    rays = []
    if sun is not None and sun[1] > 0.02:
        across = [m.end for m in walls] or [front, back]
        rays = follow_rays(frame, sun, across, walls, [*stops, Stop("base", front, back)])
    return drawn(
        frame, shapes, rays, _arrows(build, frame), _dimensions(build, frame, walls), _handles(build, frame, walls), sun
    )


def _walls(build: Funnel, front: Flat, back: Flat) -> list[Mirror2]:
    """Lower and upper wall, hinge first."""
    if build.shape == "flat":
        return []
    flare = math.radians(build.flare_deg)
    out = []
    for foot, side in ((front, -1.0), (back, 1.0)):
        long = build.slant_m * (build.front_share if side < 0 and build.shape == "panels" else 1.0)
        tip = (foot[0] + side * long * math.sin(flare), long * math.cos(flare))
        out.append(Mirror2(foot, tip, (-side * math.cos(flare), math.sin(flare))))
    return out


def _stand(build: Funnel, frame: Frame, half: float) -> list[Shape]:
    """The bucket or crate under it."""
    if build.stand_m < 0.02:
        return []
    x, top = frame.at(0.0, 0.0)[0], build.stand_m
    low, high = 0.8 * half, half
    outline = [(x - low, 0.0), (x + low, 0.0), (x + high, top), (x - high, top)]
    return [Shape(part="aim", label="stand", ink="beyond", outline=outline)]


def _trivet(lift_m: float, half: float, frame: Frame, load: Load | None) -> list[Shape]:
    pot = next((b for b in load.bodies_on((1.0, 1.0)) if b.stands), None) if load is not None else None
    if pot is None or lift_m < 0.005:
        return []
    wide = min(pot.diameter_m / 2, half) * 0.8
    legs = frame.path((-wide, 0.0), (-wide, lift_m), (wide, lift_m), (wide, 0.0))
    return [Shape(part="base", label="trivet", ink="lining", outline=legs, closed=False)]


def _arrows(build: Funnel, frame: Frame) -> list[Arrow]:
    reach, rise = build.floor_m[1] * 0.42, max(build.depth_m * 0.55, 0.18)
    return [
        Arrow(account="air", at=frame.at(-reach, rise), toward=frame.outward(-0.3, 0.95)),
        Arrow(account="sky", at=frame.at(reach, rise), toward=frame.outward(0.3, 0.95)),
        Arrow(account="steam", at=frame.at(0.0, rise), toward=frame.outward(0.0, 1.0)),
    ]


def _dimensions(build: Funnel, frame: Frame, walls: list[Mirror2]) -> list[Dimension]:
    half = build.floor_m[1] / 2
    out = [Dimension(label="bottom", start=frame.at(-half, -0.03), end=frame.at(half, -0.03), value_m=build.floor_m[1])]
    if walls:
        flare = math.radians(build.flare_deg)
        off = (0.04 * math.cos(flare), -0.04 * math.sin(flare))
        start, end = walls[1].start, walls[1].end
        out.append(
            Dimension(
                label="wall", start=frame.at(start[0] + off[0], start[1] + off[1]), end=frame.at(end[0] + off[0], end[1] + off[1]),
                value_m=round(build.slant_m, 3),
            )
        )  # fmt: skip
    return out


def _handles(build: Funnel, frame: Frame, walls: list[Mirror2]) -> list[Handle]:
    if not walls:
        return []
    lower, upper = walls
    return [
        Handle(
            field="tilt_deg", sense=-1, title="lean of the axis", at=frame.at(*lower.end), pivot=frame.at(0.0, 0.0), low=0, high=90,
            value=build.tilt_deg, unit="deg",
        ),
        Handle(
            field="flare_deg", title="flare of the wall", at=frame.at(*upper.end), pivot=frame.at(*upper.start), low=15, high=70,
            value=build.flare_deg, unit="deg",
        ),
    ]  # fmt: skip
