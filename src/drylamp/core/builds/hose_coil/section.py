"""The hose coil's drawing: the frame cut up the slope, turns as round ends, bed below, sheet and cover above."""

from __future__ import annotations

import itertools
import math

from drylamp.core.arrays import Array
from drylamp.core.builds.common.section.geometry import (
    Flat,
    Frame,
    Stop,
    drawn,
    flap_cut,
    follow_rays,
    joined,
    sun_in_section,
)
from drylamp.core.builds.hose_coil.optics import hose_nodes, in_a_layer
from drylamp.core.builds.hose_coil.spec import HoseCoil
from drylamp.core.common.drawing import Arrow, Beside, Dimension, Handle, Section, Shape
from drylamp.core.loads.load import Load

MOST_DRAWN, CORNERS = 24, 10
BED_M, SHEET_M, MESH_DRAWN_M = 0.006, 0.004, 0.001


def section_of(build: HoseCoil, load: Load | None, toward_sun: Array | None) -> Section:
    """Draw the coil cut along the way it faces, with rays when the sun is given and up."""
    far, pipe = build.length_m, build.stack_m
    deep = sum(layer.thickness_m for layer in build.under) if build.bed is not None else 0.03
    corners = [(0.0, 0.0), (0.0, -deep - BED_M), (far, -deep - BED_M), (far, 0.0)]
    frame = Frame(build.tilt_deg, corners, 0.0 if load is None else load.foot_m)
    shapes = [*_below(build, frame, deep), *_turns(build, load, frame), *_above(build, frame)]
    shapes += _reflector(build, frame)
    top = _top_m(build)
    sun = sun_in_section(build.tilt_deg, build.facing_deg, toward_sun)
    rays = []
    if sun is not None:
        part = "sheet" if build.sheet is not None else "hose"
        stops = [Stop(part, (0.0, pipe), (far, pipe))]
        cuts = [] if build.mirror is None else [flap_cut(build.mirror, far, top)]
        across = [(0.0, top), (far, top), *(cut.end for cut in cuts)]
        rays = follow_rays(frame, sun, across, cuts, stops, ((0.0, top), (far, top)))
    arrows = [
        Arrow(account="cover", at=frame.at(far * 0.25, top + 0.03), toward=frame.outward(0, 1)),
        Arrow(account="tap", at=frame.at(far + 0.03, pipe / 2), toward=frame.outward(1, 0)),
    ]
    if build.bed is not None:
        arrows.append(Arrow(account="under", at=frame.at(far * 0.5, -deep - BED_M), toward=frame.outward(0, -1)))
    away = -deep - BED_M - 0.06
    dimensions = [Dimension(label="frame", start=frame.at(0.0, away), end=frame.at(far, away), value_m=far)]
    sheet = joined(Beside(shapes, arrows, dimensions), load, frame.at(0.0, pipe / 2), frame.at(far, pipe / 2), "tap")
    return drawn(frame, sheet.shapes, rays, sheet.arrows, sheet.dimensions, _handles(build, frame), sun)


def _top_m(build: HoseCoil) -> float:
    """Upper side of it over the bed."""
    return build.stack_m + (build.cover_gap_m if build.cover is not None else 0.0) + 0.01


def _reflector(build: HoseCoil, frame: Frame) -> list[Shape]:
    if build.mirror is None:
        return []
    cut = flap_cut(build.mirror, build.length_m, _top_m(build))
    return [Shape(part="mirror", label="reflector", ink="mirror", outline=frame.path(cut.start, cut.end), closed=False)]


def _handles(build: HoseCoil, frame: Frame) -> list[Handle]:
    """Its tilt, and the reflector's angle."""
    far = build.length_m
    out = [
        Handle(
            field="tilt_deg", sense=-1, title="tilt", at=frame.at(0.0, 0.0), pivot=frame.at(far, 0.0), low=0, high=90, value=build.tilt_deg, unit="deg",
        )
    ]  # fmt: skip
    if build.mirror is not None:
        cut = flap_cut(build.mirror, far, _top_m(build))
        out.append(
            Handle(
                field="mirror.angle_deg", title="angle of the reflector", at=frame.at(*cut.end), pivot=frame.at(*cut.start), low=45, high=175,
                value=build.mirror.angle_deg, unit="deg",
            )
        )  # fmt: skip
    return out


def _below(build: HoseCoil, frame: Frame, deep: float) -> list[Shape]:
    far = build.length_m
    if build.bed is None:
        outline = frame.path((0.0, 0.0), (far, 0.0), (far, -deep), (0.0, -deep))
        return [Shape(part="frame", label="slats", ink="beyond", outline=outline)]
    shapes, at = [], -BED_M
    for k, layer in enumerate(build.under):
        low = at - layer.thickness_m
        outline = frame.path((0.0, at), (far, at), (far, low), (0.0, low))
        shapes.append(
            Shape(
                part=f"under-{k}", label=layer.row.title, ink="foam" if layer.is_foam_like else "wall", outline=outline
            )
        )
        at = low
    shapes.append(
        Shape(
            part="bed",
            label="bed",
            ink="matt",
            outline=frame.path((0.0, 0.0), (far, 0.0), (far, -BED_M), (0.0, -BED_M)),
        )
    )
    if build.mesh is not None:
        raised = frame.path((0.0, MESH_DRAWN_M), (far, MESH_DRAWN_M))
        shapes.append(Shape(part="mesh", label="mesh", ink="black", closed=False, outline=raised))
    return shapes


def _turns(build: HoseCoil, load: Load | None, frame: Frame) -> list[Shape]:
    """Round ends where the cut goes through turns; where they are too many to tell apart, as many as can be told."""
    across = min(build.length_m, math.sqrt(build.plan_m2))
    count = min(max(2, round(across / build.pitch_m)), MOST_DRAWN)
    step, radius = across / count, build.diameter_m / 2
    radius = max(radius, min(0.35 * step, 0.02)) if count == MOST_DRAWN else radius
    begin, names = (build.length_m - across) / 2, hose_nodes()
    out, each = [], in_a_layer(build)
    for layer, k in itertools.product(range(build.layers), range(count)):
        middle = begin + (k + 0.5) * step, (2 * layer + 1) * radius
        ring: list[Flat] = [
            (
                middle[0] + radius * math.cos(2 * math.pi * c / CORNERS),
                middle[1] + radius * math.sin(2 * math.pi * c / CORNERS),
            )
            for c in range(CORNERS)
        ]
        share = _along(middle[0] - build.length_m / 2, across)  # each other layer is wound from the inside out
        share = share if layer % 2 == 0 else 1.0 - share
        piece = names[layer * each + min(int(share * each), each - 1)]
        out.append(
            Shape(
                part="hose",
                label="hose",
                ink="black" if load is None else "water",
                node=piece,
                outline=frame.path(*ring),
            )
        )
    return out


def _along(off_middle_m: float, across_m: float) -> float:
    """Share of a flat spiral's length from its outside, where water comes in, to a turn so far off its middle."""
    return 1.0 - min(abs(off_middle_m) / (across_m / 2), 1.0) ** 2


def _above(build: HoseCoil, frame: Frame) -> list[Shape]:
    far, pipe, out = build.length_m, build.stack_m, []
    if build.sheet is not None:
        outline = frame.path((0.0, pipe), (far, pipe), (far, pipe + SHEET_M), (0.0, pipe + SHEET_M))
        out.append(Shape(part="sheet", label="dark sheet", ink="black", outline=outline))
    at = pipe + build.cover_gap_m + (SHEET_M if build.sheet is not None else 0.0)
    for k, skin in enumerate(build.skins):
        thick = max(skin.thickness_m, 0.004)
        outline = frame.path((0.0, at), (far, at), (far, at + thick), (0.0, at + thick))
        out.append(Shape(part="cover", label=f"cover {k + 1}", ink="glass", outline=outline))
        at += skin.thickness_m + skin.gap_m
    return out
