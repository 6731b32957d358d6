"""The drawing board that all kinds share: from a build's own axes to the paper, rays in the section, and loads to scale.

A build's own axes in the section are y, up the slope of its opening, and z, outward from it; on the paper x runs the way
the build faces and y up.
"""

from __future__ import annotations

import itertools
from dataclasses import dataclass

import numpy as np

from drylamp.core.arrays import Array
from drylamp.core.builds.common.mirror.spec import FlapMirror
from drylamp.core.common.drawing import Arrow, Beside, Dimension, Handle, Point, Ray, Section, Shape
from drylamp.core.loads.common.outline import Outline
from drylamp.core.loads.load import Load
from drylamp.core.sky.dome import plane_axes

Flat = tuple[float, float]
RAYS = 13
BEFORE_M = 0.6
"""How far a ray is drawn before it meets the build."""
MOST_BOUNCES = 6
ARROW_SHARE = 0.12
"""Room that an arrow of heat takes, against the size of the drawing."""
FOOT_M = 0.01
ROUND_CORNERS = 14


class Frame:
    """From a build's own (y, z) to the paper; lifted so that the lowest of the given corners stands at a height, and moved aside."""

    def __init__(self, tilt_deg: float, corners: list[Flat], stands_m: float = 0.0, aside_m: float = 0.0) -> None:
        tilt = np.radians(tilt_deg)
        self.aside = aside_m
        self.along = np.array([-np.cos(tilt), np.sin(tilt)])
        self.out = np.array([np.sin(tilt), np.cos(tilt)])
        self.lift = 0.0
        self.lift = stands_m - min(self.at(y, z)[1] for y, z in corners)

    def at(self, y: float, z: float) -> Point:
        """Paper coordinates of a point of the build."""
        spot = y * self.along + z * self.out
        return (float(spot[0] + self.aside), float(spot[1] + self.lift))

    def path(self, *points: Flat) -> list[Point]:
        """Paper coordinates of several points."""
        return [self.at(y, z) for y, z in points]

    def bar(self, first: float, last: float, low: float, high: float) -> list[Point]:
        """A rectangle along y, between two heights z."""
        return self.path((first, low), (last, low), (last, high), (first, high))

    def outward(self, y: float, z: float) -> Point:
        """A direction on the paper."""
        vector = y * self.along + z * self.out
        return (float(vector[0]), float(vector[1]))

    @property
    def up(self) -> Flat:
        """Straight up, in the build's own axes."""
        return (float(self.along[1]), float(self.out[1]))


def sun_in_section(tilt_deg: float, facing_deg: float, toward_sun: Array | None) -> Flat | None:
    """The sun's direction in the build's own (y, z), or None when it is down or square to the cut."""
    if toward_sun is None or toward_sun[2] <= 0:
        return None
    axes = plane_axes(tilt_deg, facing_deg)
    flat = np.array([axes[1] @ toward_sun, axes[2] @ toward_sun])
    size = float(np.hypot(*flat))
    return None if size < 0.05 else (float(flat[0] / size), float(flat[1] / size))


def drawn(
    frame: Frame, shapes: list[Shape], rays: list[Ray], arrows: list[Arrow], dimensions: list[Dimension],
    handles: list[Handle], sun: Flat | None,
) -> Section:  # fmt: skip
    """The sheet, with the ground under it."""
    points = [p for shape in shapes for p in shape.outline]
    low, high = np.min(points, axis=0), np.max(points, axis=0)
    span = ARROW_SHARE * float(max(high[0] - low[0], high[1]))
    points += [(arrow.at[0] + span * arrow.toward[0], arrow.at[1] + span * arrow.toward[1]) for arrow in arrows]
    points += [end for dim in dimensions for end in (dim.start, dim.end)]
    far_low, far_high = np.min(points, axis=0), np.max(points, axis=0)
    ground = Shape(
        part="aim", label="ground", ink="ground", closed=False,
        outline=[(float(low[0]) - 0.25, 0.0), (float(high[0]) + 0.25, 0.0)],
    )  # fmt: skip
    return Section(
        shapes=[ground, *shapes],
        rays=rays,
        arrows=arrows,
        dimensions=dimensions,
        handles=handles,
        sun_toward=None if sun is None else frame.outward(*sun),
        extent=((float(far_low[0]), float(min(far_low[1], 0.0))), (float(far_high[0]), float(far_high[1]))),
    )


def joined(mine: Beside, load: Load | None, inlet: Point, outlet: Point, tap: str) -> Beside:
    """What a build has drawn, and what its load has drawn beside it; its water goes there, then, and off by no tap."""
    left = min(x for shape in mine.shapes for x, _ in shape.outline)
    other = None if load is None else load.beside(inlet, outlet, left)
    if other is None:
        return mine
    arrows = [arrow for arrow in mine.arrows if arrow.account != tap]
    return Beside([*other.shapes, *mine.shapes], [*arrows, *other.arrows], [*mine.dimensions, *other.dimensions])


@dataclass(frozen=True)
class Mirror2:
    """A mirror's cut: two ends, and the unit vector out of its bright side."""

    start: Flat
    end: Flat
    bright: Flat


def flap_cut(flap: FlapMirror, hinge_y: float, hinge_z: float) -> Mirror2:
    """The cut of a mirror hinged on the upper edge of an opening."""
    angle = np.radians(flap.angle_deg)
    across, rise = float(np.cos(angle)), float(np.sin(angle))
    tip = (hinge_y - flap.length_m * across, hinge_z + flap.length_m * rise)
    return Mirror2((hinge_y, hinge_z), tip, (-rise, -across))


@dataclass(frozen=True)
class Stop:
    """Something a ray ends on."""

    name: str
    start: Flat
    end: Flat


def follow_rays(
    frame: Frame, sun: Flat, across: list[Flat], mirrors: list[Mirror2], stops: list[Stop], entry: tuple[Flat, Flat] | None = None
) -> list[Ray]:  # fmt: skip
    """Rays spread over some points' width, followed through mirrors to where they land.

    Parameters
    ----------
    across
        points whose width square to the sun is filled with rays
    entry
        an opening that a ray must cross to come in, where there is one
    """
    side = (-sun[1], sun[0])
    reach = [p[0] * side[0] + p[1] * side[1] for p in across]
    far = max(p[0] * sun[0] + p[1] * sun[1] for p in across) + 0.05
    rays = []
    for k in range(RAYS):
        off = min(reach) + (max(reach) - min(reach)) * (k + 0.5) / RAYS
        start = (far * sun[0] + off * side[0], far * sun[1] + off * side[1])
        found = _one_ray(frame, start, sun, mirrors, stops, entry)
        if found is not None:
            rays.append(found)
    return rays


def _one_ray(
    frame: Frame, at: Flat, sun: Flat, mirrors: list[Mirror2], stops: list[Stop], entry: tuple[Flat, Flat] | None
) -> Ray | None:
    going, knots, bounces = (-sun[0], -sun[1]), [], 0
    came_in = entry is None
    for _ in range(MOST_BOUNCES):
        meets = [(meeting(at, going, m.start, m.end), m) for m in mirrors] + [
            (meeting(at, going, s.start, s.end), s) for s in stops
        ]
        reach, what = min(((r, w) for r, w in meets if r is not None), key=lambda pair: pair[0], default=(None, None))
        inside = None if came_in or entry is None else meeting(at, going, *entry)
        if inside is not None and (reach is None or inside < reach):
            knots.append(_on(at, going, inside))
            at, came_in = knots[-1], True
            continue
        if reach is None:
            break
        at = _on(at, going, reach)
        knots.append(at)
        if isinstance(what, Stop):
            return None if not came_in else _ray(frame, knots, sun, bounces > 0, what.name)
        assert isinstance(what, Mirror2)
        facing = going[0] * what.bright[0] + going[1] * what.bright[1]
        if facing >= 0:  # the mirror's back
            return None
        going = (going[0] - 2 * facing * what.bright[0], going[1] - 2 * facing * what.bright[1])
        bounces += 1
    if not bounces:
        return None
    knots.append(_on(at, going, 0.4))
    return _ray(frame, knots, sun, True, "missed")


def _ray(frame: Frame, knots: list[Flat], sun: Flat, by_mirror: bool, lands_on: str) -> Ray:
    start = _on(knots[0], sun, BEFORE_M)
    return Ray(points=frame.path(start, *knots), by_mirror=by_mirror, lands_on=lands_on)


def _on(at: Flat, going: Flat, reach: float) -> Flat:
    return (at[0] + reach * going[0], at[1] + reach * going[1])


def meeting(at: Flat, going: Flat, one: Flat, other: Flat) -> float | None:
    """How far along a ray it meets a segment; None when it does not."""
    edge = (other[0] - one[0], other[1] - one[1])
    cross = going[0] * edge[1] - going[1] * edge[0]
    if abs(cross) < 1e-12:
        return None
    off = (one[0] - at[0], one[1] - at[1])
    along = (off[0] * edge[1] - off[1] * edge[0]) / cross
    share = (off[0] * going[1] - off[1] * going[0]) / cross
    return along if along > 1e-9 and 0 <= share <= 1 else None


def offset_path(points: list[Flat], by_m: float) -> list[Flat]:
    """A chain of straight pieces moved to its right by a distance, corners kept sharp."""
    lines = []
    for one, other in itertools.pairwise(points):
        size = float(np.hypot(other[0] - one[0], other[1] - one[1]))
        away = ((other[1] - one[1]) / size * by_m, -(other[0] - one[0]) / size * by_m)
        lines.append(((one[0] + away[0], one[1] + away[1]), (other[0] + away[0], other[1] + away[1])))
    out = [lines[0][0]]
    for (a, b), (c, d) in itertools.pairwise(lines):
        first, second = (b[0] - a[0], b[1] - a[1]), (d[0] - c[0], d[1] - c[1])
        cross = first[0] * second[1] - first[1] * second[0]
        share = ((c[0] - a[0]) * second[1] - (c[1] - a[1]) * second[0]) / cross if abs(cross) > 1e-12 else 1.0
        out.append((a[0] + share * first[0], a[1] + share * first[1]))
    return [*out, lines[-1][1]]


def ring(middle: Flat, radius_m: float) -> list[Flat]:
    """Corners of something round that is cut across."""
    turns = [2.0 * np.pi * c / ROUND_CORNERS for c in range(ROUND_CORNERS)]
    return [(middle[0] + radius_m * float(np.cos(a)), middle[1] + radius_m * float(np.sin(a))) for a in turns]


def upright_box(foot: Flat, up: Flat, wide_m: float, high_m: float) -> list[Flat]:
    """Corners of something standing on its foot's middle along a direction: foot left and right, top right and left."""
    side = (up[1], -up[0])
    low = [(foot[0] + s * wide_m / 2 * side[0], foot[1] + s * wide_m / 2 * side[1]) for s in (-1, 1)]
    return [*low, *((p[0] + high_m * up[0], p[1] + high_m * up[1]) for p in reversed(low))]


def load_drawn(
    load: Load | None, frame: Frame, floor: tuple[Flat, Flat], foot_up: Flat, floor_m: tuple[float, float],
    lift_m: float = FOOT_M,
) -> tuple[list[Shape], list[Stop]]:  # fmt: skip
    """What is in the build, to scale, and what of it stops rays: the outermost of what stands.

    Parameters
    ----------
    floor
        front and back end of what it stands on
    foot_up
        direction in which a pot stands
    floor_m
        width and length of the floor
    lift_m
        height over the floor
    """
    shapes: list[Shape] = []
    stops: list[Stop] = []
    for line in [] if load is None else load.outlines(floor_m):
        if line.up is not None:
            corners = _lying(line.up, line.wide_m, line.high_m, floor, foot_up)
        else:
            corners = upright_box(_middle(floor, foot_up, lift_m), foot_up, line.wide_m, line.high_m)
            ends = zip(corners, corners[1:] + corners[:1], strict=True)
            stops = [Stop(line.title if line.open_foot else "load", a, b) for a, b in ends]
        shapes.append(_drawn_as(line, corners, frame))
    return shapes, stops


def _drawn_as(line: Outline, corners: list[Flat], frame: Frame) -> Shape:
    """Its outline: shut, open at the top as a pot without a lid, or open at the foot as a bowl."""
    if line.open_foot:
        path, closed = [corners[0], corners[3], corners[2], corners[1]], False
    elif line.up is None and line.ink == "metal":
        path, closed = [corners[3], corners[0], corners[1], corners[2]], line.closed
    else:
        path, closed = corners, True
    return Shape(part="load", label=line.title, ink=line.ink, outline=frame.path(*path), closed=closed)


def _middle(floor: tuple[Flat, Flat], up: Flat, lift_m: float) -> Flat:
    return (
        (floor[0][0] + floor[1][0]) / 2 + lift_m * up[0],
        (floor[0][1] + floor[1][1]) / 2 + lift_m * up[1],
    )


def _lying(at: float, long_m: float, deep_m: float, floor: tuple[Flat, Flat], up: Flat) -> list[Flat]:
    """Corners of something that lies on the floor."""
    along = (floor[1][0] - floor[0][0], floor[1][1] - floor[0][1])
    size = float(np.hypot(*along))
    middle = (floor[0][0] + at * along[0], floor[0][1] + at * along[1])
    step = (along[0] / size * long_m / 2, along[1] / size * long_m / 2)
    low = [(middle[0] - step[0], middle[1] - step[1]), (middle[0] + step[0], middle[1] + step[1])]
    return [*low, *((p[0] + deep_m * up[0], p[1] + deep_m * up[1]) for p in reversed(low))]
