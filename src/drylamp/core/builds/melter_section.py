"""The melter's drawing: a box oven's cut with strainer and catch tray at its lower end."""

from __future__ import annotations

from drylamp.core.builds import box_oven_section
from drylamp.core.builds.drawing import Section, Shape
from drylamp.core.builds.melter import Melter
from drylamp.core.builds.paper import Frame, offset_path
from drylamp.core.loads.load import AnyLoad
from drylamp.core.loads.wax import CATCH_SHARE
from drylamp.core.sky.sun import Array


def section_of(build: Melter, load: AnyLoad | None, toward_sun: Array | None) -> Section:
    """Draw the melter, with rays when the sun is given and up."""
    box = build.box
    sheet = box_oven_section.section_of(box, load, toward_sun)
    frame = Frame(box.tilt_deg, offset_path(box_oven_section.inner_path(box), box.wall_thickness_m))
    at = CATCH_SHARE * build.length_m
    strainer = Shape(
        part="load",
        label="strainer",
        ink="strainer",
        closed=False,
        outline=frame.path((at, 0.0), (at, 0.6 * build.height_m)),
    )
    return sheet.model_copy(update={"shapes": [*sheet.shapes, strainer]})
