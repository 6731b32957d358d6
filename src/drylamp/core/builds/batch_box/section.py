"""The batch box's drawing: a box's cut with the water in it by layers, the coil, and the night lid over the cover."""

from __future__ import annotations

from drylamp.core.arrays import Array
from drylamp.core.builds.batch_box.spec import BatchBox
from drylamp.core.builds.common.box import section
from drylamp.core.builds.common.box.recipe import STEAM_LOSS
from drylamp.core.builds.common.section.geometry import Flat, Frame
from drylamp.core.common.drawing import Handle, Section, Shape
from drylamp.core.loads.load import Load

DRAWN_PIPES, PIPE_M = 9, 0.012


def section_of(build: BatchBox, load: Load | None, toward_sun: Array | None) -> Section:
    """Draw the batch box, with rays when the sun is given and up."""
    sheet = section.section_of(build, None, toward_sun)
    inner = section.inner_path(build)
    frame = Frame(build.tilt_deg, section.outer_path(build))
    shapes = [*sheet.shapes, *_water(build, load, inner, frame), *_coil(build, inner, frame), *_lid(build, frame)]
    arrows = [arrow for arrow in sheet.arrows if arrow.account != STEAM_LOSS]
    handles = [_narrower(handle) for handle in sheet.handles]
    return sheet.model_copy(update={"shapes": shapes, "arrows": arrows, "handles": handles})


def _narrower(handle: Handle) -> Handle:
    """Glass over water leans up to 60°."""
    return handle.model_copy(update={"high": 60}) if handle.field == "tilt_deg" else handle


def _raised(inner: list[Flat], frame: Frame, by: float) -> tuple[Flat, Flat]:
    """Front and back end of a level line over the bed."""
    (y0, z0), (y1, z1) = inner[1], inner[2]
    up = frame.up
    return (y0 + by * up[0], z0 + by * up[1]), (y1 + by * up[0], z1 + by * up[1])


def _water(build: BatchBox, load: Load | None, inner: list[Flat], frame: Frame) -> list[Shape]:
    filling = None if load is None else load.filling
    if filling is None:
        return []
    depth, out = build.depth_m(load), []
    for k, (title, node) in enumerate(zip(filling.titles, filling.names, strict=True)):
        low, high = depth * (1 - (k + 1) / filling.layers), depth * (1 - k / filling.layers)
        bottom, top = _raised(inner, frame, low), _raised(inner, frame, high)
        out.append(
            Shape(
                part="load",
                label=title,
                ink="water",
                node=node,
                outline=frame.path(bottom[0], bottom[1], top[1], top[0]),
            )
        )
    if build.plate is not None:
        line = _raised(inner, frame, depth + 0.003)
        out.append(
            Shape(part="water", label="plate on the water", ink="black", closed=False, outline=frame.path(*line))
        )
    if build.water_film:
        line = _raised(inner, frame, depth + 0.003)
        out.append(
            Shape(part="water", label="film on the water", ink="glass-line", closed=False, outline=frame.path(*line))
        )
    return out


def _coil(build: BatchBox, inner: list[Flat], frame: Frame) -> list[Shape]:
    if build.coil is None:
        return []
    out = []
    for k in range(DRAWN_PIPES):
        share = (k + 0.5) / DRAWN_PIPES
        half = PIPE_M / 2 / build.floor_length_m
        low, high = _raised(inner, frame, 0.015), _raised(inner, frame, 0.015 + PIPE_M)

        def at(line: tuple[Flat, Flat], s: float) -> Flat:
            return line[0][0] + s * (line[1][0] - line[0][0]), line[0][1] + s * (line[1][1] - line[0][1])

        outline = frame.path(
            at(low, share - half), at(low, share + half), at(high, share + half), at(high, share - half)
        )
        out.append(Shape(part="coil", label="coil", ink="metal", outline=outline))
    return out


def _lid(build: BatchBox, frame: Frame) -> list[Shape]:
    """Open, leaning on the back, or on what stands there; it is laid on the glass for the night."""
    if build.lid is None:
        return []
    thick, wall, foot = build.lid.thickness_m, build.wall_thickness_m, -build.floor_thickness_m
    past = 0.0 if build.behind is None else build.behind.away_m
    near, far = build.length_m + wall + past + 0.16, build.length_m + wall + past + 0.02
    tip = foot + min(build.length_m, build.height_m + wall + 0.25)
    outline = frame.path((near, foot), (near + thick, foot), (far + thick, tip), (far, tip))
    return [Shape(part="lid", label="night lid, open", ink="foam", outline=outline)]
