"""The stone cut through the middle."""

from __future__ import annotations

from drylamp.core.builds.stone.spec import Stone

from drylamp.core.arrays import Array
from drylamp.core.builds.common.section.geometry import Frame, Stop, drawn, follow_rays, load_drawn, sun_in_section
from drylamp.core.common.drawing import Arrow, Dimension, Section, Shape
from drylamp.core.loads.load import Load


def section_of(build: Stone, load: Load | None, toward_sun: Array | None) -> Section:
    """A slab on the ground, the sun's rays on it."""
    half, high = build.diameter_m / 2, build.of.thickness_m
    front, back = (-half, high), (half, high)
    frame = Frame(0.0, [(-half, 0.0), back])
    goods, _ = load_drawn(load, frame, (front, back), frame.up, build.floor_m)
    outline = frame.path((-half, 0.0), (half, 0.0), back, front)
    sun = sun_in_section(0.0, build.facing_deg, toward_sun)
    rays = [] if sun is None else follow_rays(frame, sun, [front, back], [], [Stop("stone", front, back)])
    arrows = [Arrow(account="air", at=frame.at(half, high), toward=frame.outward(0.7, 0.7))]
    across = Dimension(
        label="across", start=frame.at(-half, -0.03), end=frame.at(half, -0.03), value_m=build.diameter_m
    )
    stone = Shape(part="stone", label="stone", ink="black", outline=outline)
    return drawn(frame, [stone, *goods], rays, arrows, [across], [], sun)
