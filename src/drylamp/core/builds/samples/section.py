"""The samples' drawing: the cut along the way the board faces, and beside it the board as seen square on, each sample in its place."""

from __future__ import annotations

import math

import numpy as np

from drylamp.core.arrays import Array
from drylamp.core.builds.common.side_by_side import Sample
from drylamp.core.builds.samples.spec import Samples
from drylamp.core.common.drawing import Arrow, Dimension, Handle, Ink, Point, Ray, Section, Shape
from drylamp.core.loads.common.envelope import Envelope
from drylamp.core.loads.load import Load
from drylamp.core.sky.dome import plane_axes

RAYS, CIRCLE_POINTS = 5, 24
DARK_FROM, SHINY_BELOW = 0.8, 0.5
LEAST_DRAWN_M = 0.006
"""Lids and paint are thinner than a line; they are drawn this thick."""


def section_of(build: Samples, load: Load | None, toward_sun: Array | None) -> Section:
    """Draw the samples, with rays when the sun (east, north, up) is given and up."""
    frame = _Frame(build)
    cut, face = _cut(build, frame), _face(build, frame)
    flat = _sun_in_drawing(build, toward_sun)
    rays = [] if flat is None else _rays(build, frame, flat)
    points = [p for shape in [*cut, *face] for p in shape.outline]
    low, high = np.min(points, axis=0), np.max(points, axis=0)
    ground = Shape(
        part="aim", label="ground", ink="ground", closed=False,
        outline=[(float(low[0]) - 0.1, 0.0), (frame.right + 0.08, 0.0)],
    )  # fmt: skip
    return Section(
        shapes=[ground, *cut, *face],
        rays=rays,
        arrows=_arrows(build, frame),
        dimensions=_dimensions(build, frame),
        handles=_handles(build, frame),
        sun_toward=None if flat is None else (float(flat[0]), float(flat[1])),
        extent=((float(low[0]), 0.0), (float(high[0]), float(high[1]))),
    )


class _Frame:
    """From the board's own axes (y up the slope, z out of the face) to the paper; the face-on view stands to the right."""

    def __init__(self, build: Samples) -> None:
        tilt = math.radians(build.tilt_deg)
        self.along = np.array([-math.cos(tilt), math.sin(tilt)])
        self.out = np.array([math.sin(tilt), math.cos(tilt)])
        self.thick = sum(part.thickness_m for part in build.board)
        up = build.board_size_m[1]
        self.lift = self.thick + 0.02
        self.top = self._top(build)
        corners = [self.at(0.0, 0.0), self.at(up, 0.0), self.at(0.0, self.top), self.at(up, self.top)]
        self.right = max(p[0] for p in corners)
        self.plan_left = self.right + 0.2

    def _top(self, build: Samples) -> float:
        sample = max(build.sheet.thickness_m, LEAST_DRAWN_M)
        if build.over is not None:
            return max(sample, build.over.height_m)
        return sample + (build.air_space_m + 0.01 if build.cover else 0.0)

    def at(self, y: float, z: float) -> Point:
        """Paper coordinates of a point of the cut."""
        spot = y * self.along + z * self.out
        return (float(spot[0]), float(spot[1] + self.lift))

    def path(self, *points: tuple[float, float]) -> list[Point]:
        """Paper coordinates of several points."""
        return [self.at(y, z) for y, z in points]


def _slots(build: Samples) -> list[tuple[float, float]]:
    """Where along the slope each row of samples begins and ends, the upper row first."""
    up = build.board_size_m[1]
    starts = [up - (k + 1) * (build.tall_m + build.spacing_m) for k in range(build.rows)]
    return [(start, start + build.tall_m) for start in starts]


def _ink(sample: Sample) -> Ink:
    if sample.row.absorptance >= DARK_FROM:
        return "black"
    return "metal" if sample.row.emittance < SHINY_BELOW else "matt"


def _takes_up(sample: Sample) -> float | None:
    """How dark it looks; what is bare and shiny looks like metal."""
    return None if sample.row.emittance < SHINY_BELOW else sample.row.absorptance


def _cut(build: Samples, frame: _Frame) -> list[Shape]:
    up, shapes, depth = build.board_size_m[1], [], 0.0
    for part in build.board:
        ink: Ink = "foam" if part.is_foam_like else "wall"
        below = depth + part.thickness_m
        outline = frame.path((0, -depth), (up, -depth), (up, -below), (0, -below))
        shapes.append(Shape(part="board", label=part.row.title, ink=ink, outline=outline))
        depth = below
    thick = max(build.sheet.thickness_m, LEAST_DRAWN_M)
    for k, (start, end) in enumerate(_slots(build)):
        sample = build.samples[k * build.columns]
        body: Ink = "wall" if build.sheet.thickness_m > LEAST_DRAWN_M else _ink(sample)
        outline = frame.path((start, 0), (end, 0), (end, thick), (start, thick))
        shapes.append(
            Shape(
                part=f"sample-{k * build.columns}",
                label=sample.title,
                ink=body,
                takes_up=_takes_up(sample),
                outline=outline,
            )
        )
    if build.over is not None:
        shapes += [_bowl(build.over, frame, (start + end) / 2) for start, end in _slots(build)]
    z = thick + build.air_space_m
    for k, skin in enumerate(build.skins):
        sheet = max(skin.thickness_m, 0.004)
        outline = frame.path((0, z), (up, z), (up, z + sheet), (0, z + sheet))
        shapes.append(Shape(part="cover", label=f"cover {k + 1}", ink="glass", outline=outline))
        z += skin.thickness_m + skin.gap_m
    return shapes


def _bowl(over: Envelope, frame: _Frame, middle: float) -> Shape:
    """Half an ellipse over a sample."""
    turns = [math.pi * k / CIRCLE_POINTS for k in range(CIRCLE_POINTS + 1)]
    arc = [(middle + over.diameter_m / 2 * math.cos(turn), over.height_m * math.sin(turn)) for turn in turns]
    return Shape(part="cover", label=over.title, ink="glass-line", closed=False, outline=frame.path(*arc))


def _face(build: Samples, frame: _Frame) -> list[Shape]:
    """The board seen square on."""
    across, up = build.board_size_m
    left, foot = frame.plan_left, 0.02
    shapes = [
        Shape(
            part="board", label="board, seen square on", ink="wall",
            outline=[(left, foot), (left + across, foot), (left + across, foot + up), (left, foot + up)],
        )
    ]  # fmt: skip
    slots = _slots(build)
    for k, sample in enumerate(build.samples):
        start, end = slots[k // build.columns]
        x = left + build.spacing_m + (k % build.columns) * (build.width_m + build.spacing_m)
        shapes.append(
            Shape(
                part=f"sample-{k}",
                label=sample.title,
                ink=_ink(sample),
                takes_up=_takes_up(sample),
                caption=sample.name,
                outline=_outline(build, x, foot + start, foot + end),
            )
        )
        if build.over is not None:
            round_it = _circle((x + build.width_m / 2, foot + (start + end) / 2), build.over.diameter_m / 2)
            shapes.append(Shape(part="cover", label=build.over.title, ink="glass-line", outline=round_it))
    return shapes


def _outline(build: Samples, x: float, low: float, high: float) -> list[Point]:
    if build.shape == "plate":
        return [(x, low), (x + build.width_m, low), (x + build.width_m, high), (x, high)]
    return _circle((x + build.width_m / 2, (low + high) / 2), build.width_m / 2)


def _circle(middle: Point, radius: float) -> list[Point]:
    turn = 2 * math.pi / CIRCLE_POINTS
    return [
        (middle[0] + radius * math.cos(k * turn), middle[1] + radius * math.sin(k * turn)) for k in range(CIRCLE_POINTS)
    ]


def _sun_in_drawing(build: Samples, toward_sun: Array | None) -> Array | None:
    """The sun's direction on the paper of the cut, or None when it is down or behind."""
    if toward_sun is None or toward_sun[2] <= 0:
        return None
    axes = plane_axes(build.tilt_deg, build.facing_deg)
    flat = np.array([axes[1] @ toward_sun, axes[2] @ toward_sun])
    size = float(np.hypot(*flat))
    if size < 0.05 or flat[1] < 0.02:
        return None
    frame = _Frame(build)
    return np.asarray((flat[0] * frame.along + flat[1] * frame.out) / size)


def _rays(build: Samples, frame: _Frame, toward: Array) -> list[Ray]:
    up, thick = build.board_size_m[1], max(build.sheet.thickness_m, LEAST_DRAWN_M)
    rays = []
    for k in range(RAYS):
        y = up * (k + 0.5) / RAYS
        on = any(start <= y <= end for start, end in _slots(build))
        end = frame.at(y, thick if on else 0.0)
        start = (end[0] + 0.35 * float(toward[0]), end[1] + 0.35 * float(toward[1]))
        rays.append(Ray(points=[start, end], by_mirror=False, lands_on="sample" if on else "board"))
    return rays


def _arrows(build: Samples, frame: _Frame) -> list[Arrow]:
    up = build.board_size_m[1]
    outward, behind = frame.out, -frame.out
    top = frame.top + 0.01
    return [
        Arrow(
            account="cover" if build.cover or build.over else "air",
            at=frame.at(up * 0.3, top),
            toward=(float(outward[0]), float(outward[1])),
        ),
        Arrow(account="sky", at=frame.at(up * 0.7, top), toward=(float(outward[0]), float(outward[1]))),
        Arrow(account="walls", at=frame.at(up * 0.5, -frame.thick), toward=(float(behind[0]), float(behind[1]))),
    ]


def _dimensions(build: Samples, frame: _Frame) -> list[Dimension]:
    across = build.board_size_m[0]
    left, low, over = frame.plan_left, 0.02, build.board_size_m[1] + 0.04
    first = left + build.spacing_m
    return [
        Dimension(label="board", start=(left, low - 0.015), end=(left + across, low - 0.015), value_m=across),
        Dimension(label="sample", start=(first, over), end=(first + build.width_m, over), value_m=build.width_m),
    ]


def _handles(build: Samples, frame: _Frame) -> list[Handle]:
    up = build.board_size_m[1]
    return [
        Handle(
            field="tilt_deg", sense=-1, title="tilt of the board", at=frame.at(up, 0.0), pivot=frame.at(0.0, 0.0), low=0, high=90,
            value=build.tilt_deg, unit="deg",
        )
    ]  # fmt: skip
