"""A row drawn: one of its tubes from the side, the header on top."""

from __future__ import annotations

from drylamp.core.arrays import Array
from drylamp.core.builds.common.section.geometry import (
    Frame,
    Mirror2,
    Stop,
    drawn,
    follow_rays,
    joined,
    ring,
    sun_in_section,
)
from drylamp.core.builds.tube_row.optics import coat_nodes
from drylamp.core.builds.tube_row.recipe import header_nodes
from drylamp.core.builds.tube_row.spec import TubeRow
from drylamp.core.common.drawing import Arrow, Beside, Dimension, Handle, Section, Shape
from drylamp.core.loads.load import Load

CLEAR_M, AWAY_M, GAP_M = 0.08, 0.12, 0.004


def section_of(build: TubeRow, load: Load | None, toward_sun: Array | None) -> Section:
    """Draw it, with rays when the sun is given and up."""
    long, half = build.tube.length_m, build.tube.outer_m / 2.0
    low = -half if build.behind is None else -build.behind.away_m
    frame = Frame(build.tilt_deg, [(0.0, low), (long, low)], max(CLEAR_M, 0.0 if load is None else load.foot_m))
    shapes = _shapes(build, load, frame)
    sun = sun_in_section(build.tilt_deg, build.facing_deg, toward_sun)
    inner = build.tube.inner_m / 2.0
    lit = (build.tube.ends_m / 2.0, long - build.tube.ends_m / 2.0)
    stops, mirrors = [Stop("tube", (lit[0], inner), (lit[1], inner))], list[Mirror2]()
    rays = (
        []
        if sun is None or sun[1] <= 0.0
        else follow_rays(frame, sun, [(lit[0], half), (lit[1], half)], mirrors, stops)
    )
    arrows = [
        Arrow(account="cover", at=frame.at(long * 0.3, half), toward=frame.outward(0, 1)),
        Arrow(account="header", at=frame.at(long + 0.05, half), toward=(0.0, 1.0)),
        Arrow(account="tap", at=frame.at(long + 0.05, 0.0), toward=frame.outward(1, 0)),
    ]
    dimensions = [
        Dimension(
            label="tube", start=frame.at(0.0, low - AWAY_M), end=frame.at(long, low - AWAY_M), value_m=round(long, 3)
        )
    ]
    handle = Handle(
        field="tilt_deg", sense=-1, title="tilt", at=frame.at(0.0, 0.0), pivot=frame.at(long, 0.0), low=0, high=90, value=build.tilt_deg, unit="deg",
    )  # fmt: skip
    middle = frame.at(long + 0.03, 0.0)
    sheet = joined(Beside(shapes, arrows, dimensions), load, middle, middle, "tap")
    return drawn(frame, sheet.shapes, rays, sheet.arrows, sheet.dimensions, [handle], sun)


def _shapes(build: TubeRow, load: Load | None, frame: Frame) -> list[Shape]:
    tube, long = build.tube, build.tube.length_m
    half, inner, wool = (
        tube.outer_m / 2.0,
        tube.inner_m / 2.0,
        build.header.outer_mm / 2000.0 + build.lagging_mm / 1000.0,
    )
    foot = frame.at(long * 0.9, -half)
    out = [Shape(part="aim", label="leg", ink="beyond", closed=False, outline=[(foot[0], 0.0), foot])]
    if build.behind is not None:
        away = -build.behind.away_m
        out.append(
            Shape(
                part="mirror",
                label="sheet behind",
                ink="mirror",
                closed=False,
                outline=frame.path((0.0, away), (long, away)),
            )
        )
    if build.wings is not None:
        points = build.wings.cut()[:, 1]
        bottom, top = float(points.min()), float(points.max())
        out.append(
            Shape(
                part="mirror",
                label="wing",
                ink="mirror",
                outline=frame.bar(0.0, long, bottom, top),
            )
        )
    out.append(
        Shape(
            part="tube",
            label="outer glass",
            ink="glass-line",
            outline=frame.bar(0.0, long, -half, half),
        )
    )
    names = coat_nodes(build)
    out.append(
        Shape(
            part="tube",
            label="coat",
            ink="black",
            node=names[len(names) // 2],
            outline=frame.bar(GAP_M, long, -inner, inner),
        )
    )
    if build.inside != "filled":
        thick = build.u_pipe.outer_mm / 2000.0
        outline = frame.bar(0.03, long, -thick, thick)
        out.append(
            Shape(
                part="header", label="U-pipe" if build.inside == "u-pipe" else "heat pipe", ink="metal", outline=outline
            )
        )
    middle = (long + 0.03, 0.0)
    out.append(Shape(part="header", label="wool round the header", ink="foam", outline=frame.path(*ring(middle, wool))))
    out.append(
        Shape(
            part="header", label="header", ink="pipe" if load is None else "water", node=header_nodes(build)[-1],
            outline=frame.path(*ring(middle, build.header.outer_mm / 2000.0)),
        )
    )  # fmt: skip
    return out
