"""Sleeved tubes drawn: cut up the slope along one of them, or through all of them where they lie across."""

from __future__ import annotations

from drylamp.core.arrays import Array
from drylamp.core.builds.common.section.geometry import Frame, Stop, drawn, follow_rays, joined, ring, sun_in_section
from drylamp.core.builds.sleeved_tubes.optics import PIECES, tube_nodes
from drylamp.core.builds.sleeved_tubes.spec import SleevedTubes
from drylamp.core.common.drawing import Arrow, Beside, Dimension, Handle, Section, Shape
from drylamp.core.loads.load import Load

FRAME_M = 0.03


def section_of(build: SleevedTubes, load: Load | None, toward_sun: Array | None) -> Section:
    """Draw the frame cut along the way it faces, with rays when the sun is given and up."""
    far, wide = build.slope_m, build.sleeve_m
    frame = Frame(build.tilt_deg, [(0.0, -FRAME_M), (far, -FRAME_M)], 0.0 if load is None else load.foot_m)
    shapes = [
        Shape(
            part="aim",
            label="frame",
            ink="beyond",
            outline=frame.path((0.0, 0.0), (far, 0.0), (far, -FRAME_M), (0.0, -FRAME_M)),
        )
    ]
    shapes += _along(build, load, frame) if build.joined == "parallel" else _through(build, load, frame)
    sun = sun_in_section(build.tilt_deg, build.facing_deg, toward_sun)
    middle = wide / 2.0
    rays = []
    if sun is not None:
        rays = follow_rays(
            frame,
            sun,
            [(0.0, wide), (far, wide)],
            [],
            [Stop("tubes", (0.0, middle), (far, middle))],
            ((0.0, wide), (far, wide)),
        )
    arrows = [
        Arrow(account="cover", at=frame.at(far * 0.3, wide), toward=frame.outward(0, 1)),
        Arrow(account="tap", at=frame.at(far + 0.03, middle), toward=frame.outward(1, 0)),
    ]
    away = -FRAME_M - 0.08
    dimensions = [
        Dimension(label="up the slope", start=frame.at(0.0, away), end=frame.at(far, away), value_m=round(far, 3))
    ]
    handle = Handle(
        field="tilt_deg",
        sense=-1,
        title="tilt",
        at=frame.at(0.0, 0.0),
        pivot=frame.at(far, 0.0),
        low=0,
        high=90,
        value=build.tilt_deg,
        unit="deg",
    )
    sheet = joined(Beside(shapes, arrows, dimensions), load, frame.at(0.0, middle), frame.at(far, middle), "tap")
    return drawn(frame, sheet.shapes, rays, sheet.arrows, sheet.dimensions, [handle], sun)


def _along(build: SleevedTubes, load: Load | None, frame: Frame) -> list[Shape]:
    """One tube seen from the side, bottle by bottle."""
    wide, thick, ends, covers = build.sleeve_m, build.diameter_m, build.ends_m, build.bottles.covers_mm / 1000.0
    shapes, at = list[Shape](), ends
    while at < ends + build.lit_m - 1e-9:
        to = min(at + covers, ends + build.lit_m)
        shapes.append(
            Shape(
                part="bottles",
                label="bottle",
                ink="glass-line",
                outline=frame.path((at, 0.0), (to, 0.0), (to, wide), (at, wide)),
            )
        )
        if build.bottles.card is not None:
            shapes.append(
                Shape(
                    part="bottles",
                    label="card",
                    ink="black",
                    closed=False,
                    outline=frame.path((at, 0.004), (to, 0.004)),
                )
            )
        at = to
    each, low = build.cut_m / PIECES, (wide - thick) / 2.0
    for k, node in enumerate(tube_nodes()):
        outline = frame.path(
            (k * each, low), ((k + 1) * each, low), ((k + 1) * each, low + thick), (k * each, low + thick)
        )
        shapes.append(
            Shape(part="tubes", label="tube", ink="black" if load is None else "water", node=node, outline=outline)
        )
    return shapes


def _through(build: SleevedTubes, load: Load | None, frame: Frame) -> list[Shape]:
    """All tubes cut through, the lowest first."""
    shapes, names = list[Shape](), tube_nodes()
    for k in range(build.rows):
        middle = (k + 0.5) * build.pitch_m, build.sleeve_m / 2.0
        shapes.append(
            Shape(
                part="bottles",
                label="bottle",
                ink="glass-line",
                outline=frame.path(*ring(middle, build.sleeve_m / 2.0)),
            )
        )
        node = names[min(int((k + 0.5) / build.rows * PIECES), PIECES - 1)]
        round_tube = frame.path(*ring(middle, build.diameter_m / 2.0))
        shapes.append(
            Shape(part="tubes", label="tube", ink="black" if load is None else "water", node=node, outline=round_tube)
        )
    return shapes
