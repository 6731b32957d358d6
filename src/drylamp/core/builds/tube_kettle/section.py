"""The tube kettle drawn: from the side on its feet, and beside it cut across tube and wings with the rays of the hour."""

from __future__ import annotations

import itertools

import numpy as np

from drylamp.core.arrays import Array
from drylamp.core.builds.common.section.geometry import Flat, Frame, Mirror2, Stop, drawn, follow_rays, ring
from drylamp.core.builds.tube_kettle.optics import COAT, KettleOptics, wet_share
from drylamp.core.builds.tube_kettle.spec import TubeKettle
from drylamp.core.common.drawing import Arrow, Dimension, Handle, Point, Ray, Section, Shape
from drylamp.core.loads.common.filling import TOP
from drylamp.core.loads.load import Load

CLEAR_M, APART_M = 0.06, 0.12
"""Of its lowest point over the ground; from side view to cut."""
GRAZING = 0.05
SPLAY_M, FOOT_M, RIM_M = 0.05, 0.01, 0.012


def section_of(build: TubeKettle, load: Load | None, toward_sun: Array | None) -> Section:
    """Draw it, with rays when the sun is given and up."""
    long = build.tube.length_m if build.lies == "up" else build.tube.outer_m
    side = Frame(build.tilt_deg, [(0.0, -_below(build)), (long, -_below(build))], CLEAR_M)
    across = _across(build, side)
    shapes = [*_seen_from_side(build, load, side, long), *_cut(build, load, across)]
    sun = _sun_across(build, toward_sun)
    arrows = [
        Arrow(account="cover", at=side.at(long * 0.4, build.tube.outer_m / 2.0), toward=side.outward(0, 1)),
        Arrow(account="leak", at=side.at(long, 0.0), toward=side.outward(1, 0)),
        Arrow(account="steam", at=side.at(long, build.tube.outer_m / 2.0), toward=(0.0, 1.0)),
    ]
    rays = [] if sun is None else _rays(build, across, sun)
    return drawn(
        side, shapes, rays, arrows, _dimensions(build, side, across, long), _handles(build, side, across, long), None
    )


def _below(build: TubeKettle) -> float:
    """How far it reaches under the tube's axis."""
    low = 0.0 if build.wings is None else -float(build.wings.cut()[:, 1].min())
    return max(build.tube.outer_m / 2.0, low)


def _half_wide(build: TubeKettle) -> float:
    return build.tube.outer_m / 2.0 if build.wings is None else max(build.wings.spread_m, build.tube.outer_m) / 2.0


def _across(build: TubeKettle, side: Frame) -> Frame:
    """The cut, level with the side view's middle and to the left of it."""
    lean = build.tilt_deg if build.lies == "across" else 0.0
    high = 0.3 if build.lies == "up" else CLEAR_M
    left = min(side.at(y, z)[0] for y in (0.0, build.tube.length_m) for z in (-_below(build), build.tube.outer_m))
    wide = _half_wide(build)
    return Frame(lean, [(-wide, -_below(build)), (wide, -_below(build))], high, left - APART_M - wide)


def _sun_across(build: TubeKettle, toward_sun: Array | None) -> Flat | None:
    """The sun's direction square to the tube, as the cut shows it; none while it is down or shines along the tube."""
    if toward_sun is None or toward_sun[2] <= 0.0:
        return None
    flat = KettleOptics(build, 1.0).axes @ toward_sun
    size = float(np.hypot(flat[0], flat[2]))
    return None if size < GRAZING or flat[2] <= 0.0 else (float(flat[0] / size), float(flat[2] / size))


def _mirrors(build: TubeKettle) -> list[Mirror2]:
    if build.wings is None:
        return []
    out = list[Mirror2]()
    for a, b in itertools.pairwise(build.wings.cut()):
        along = (b - a) / np.linalg.norm(b - a)
        for sign in (1.0, -1.0):
            out.append(Mirror2((sign * a[0], a[1]), (sign * b[0], b[1]), (-sign * float(along[1]), float(along[0]))))
    return out


def _rays(build: TubeKettle, across: Frame, sun: Flat) -> list[Ray]:
    wide = _half_wide(build)
    round_tube = ring((0.0, 0.0), build.tube.inner_m / 2.0)
    stops = [Stop("tube", a, b) for a, b in itertools.pairwise([*round_tube, round_tube[0]])]
    top = 0.0 if build.wings is None else float(build.wings.cut()[:, 1].max())
    return follow_rays(across, sun, [(-wide, top), (wide, top)], _mirrors(build), stops)


def _seen_from_side(build: TubeKettle, load: Load | None, side: Frame, long: float) -> list[Shape]:
    tube, half = build.tube, build.tube.outer_m / 2.0
    foot, toe = side.at(long * 0.85, -half), side.at(0.0, -half)
    legs = [(foot[0] - SPLAY_M, 0.0), foot, toe, (toe[0] + SPLAY_M, 0.0)]
    out = [Shape(part="feet", label="feet", ink="beyond", closed=False, outline=legs)]
    glass = Shape(part="tube", label="outer glass", ink="glass-line", outline=side.bar(0.0, long, -half, half))
    if build.lies == "across":
        return [*out, glass]
    if build.wings is not None:
        reach, bare = build.wings.cut()[:, 1], tube.ends_m / 2.0
        outline = side.bar(bare, long - bare, float(reach.min()), float(reach.max()))
        out.append(Shape(part="mirror", label="wing", ink="mirror", outline=outline))
    inner, filled = tube.inner_m / 2.0, FOOT_M + (long - FOOT_M) * wet_share(build, load)
    out += [
        glass,
        Shape(part="tube", label="coat", ink="black", node=COAT, outline=side.bar(FOOT_M, long, -inner, inner)),
    ]
    if load is not None:
        out.append(
            Shape(part="load", label="water", ink="water", node=TOP, outline=side.bar(FOOT_M, filled, -inner, inner))
        )
    round_it = side.bar(long - 0.03, long + RIM_M, -half - RIM_M, half + RIM_M)
    return [*out, Shape(part="holder", label="holder", ink="wall", outline=round_it)]


def _cut(build: TubeKettle, load: Load | None, across: Frame) -> list[Shape]:
    tube, out = build.tube, list[Shape]()
    if build.wings is not None:
        for sign in (1.0, -1.0):
            path = across.path(*((float(sign * x), float(z)) for x, z in build.wings.cut()))
            out.append(Shape(part="mirror", label="wing, cut across", ink="mirror", closed=False, outline=path))

    def round_at(wide_m: float) -> list[Point]:
        return across.path(*ring((0.0, 0.0), wide_m / 2.0))

    out.append(Shape(part="tube", label="outer glass, cut across", ink="glass-line", outline=round_at(tube.outer_m)))
    out.append(Shape(part="tube", label="coat, cut across", ink="black", node=COAT, outline=round_at(tube.inner_m)))
    if load is not None:
        out.append(Shape(part="load", label="water, cut across", ink="water", node=TOP, outline=round_at(tube.bore_m)))
    return out


def _dimensions(build: TubeKettle, side: Frame, across: Frame, long: float) -> list[Dimension]:
    away, wide = -_below(build) - 0.05, _half_wide(build)
    out = [
        Dimension(
            label="from tip to tip",
            start=across.at(-wide, away),
            end=across.at(wide, away),
            value_m=round(2.0 * wide, 3),
        )
    ]
    if build.lies == "up":
        out.append(Dimension(label="tube", start=side.at(0.0, away), end=side.at(long, away), value_m=round(long, 3)))
    return out


def _handles(build: TubeKettle, side: Frame, across: Frame, long: float) -> list[Handle]:
    tilted = side if build.lies == "up" else across
    out = [
        Handle(
            field="tilt_deg", sense=-1, title="tilt", at=tilted.at(0.0, 0.0), pivot=tilted.at(long, 0.0), low=0, high=90, value=build.tilt_deg, unit="deg",
        )
    ]  # fmt: skip
    if build.wings is not None:
        cut = build.wings.cut()
        hinge, tip = ((float(x), float(z)) for x, z in (cut[0], cut[-1]))
        out.append(
            Handle(
                field="wings.open_deg", sense=1, title="wings opened", at=across.at(*tip), pivot=across.at(*hinge), low=0, high=150, value=build.wings.open_deg,
                unit="deg",
            )
        )  # fmt: skip
    return out
