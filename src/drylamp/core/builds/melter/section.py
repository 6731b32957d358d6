"""The melter's drawing: a box's cut with strainer and catch tray at its lower end."""

from __future__ import annotations

from drylamp.core.arrays import Array
from drylamp.core.builds.common.box import section
from drylamp.core.builds.common.box.recipe import STEAM_LOSS
from drylamp.core.builds.common.section.geometry import Frame
from drylamp.core.builds.melter.spec import Melter
from drylamp.core.common.drawing import Section, Shape
from drylamp.core.loads.common.places import CATCH_SHARE
from drylamp.core.loads.load import Load


def section_of(build: Melter, load: Load | None, toward_sun: Array | None) -> Section:
    """Draw the melter, with rays when the sun is given and up."""
    sheet = section.section_of(build, load, toward_sun)
    frame = Frame(build.tilt_deg, section.outer_path(build))
    at = CATCH_SHARE * build.length_m
    strainer = Shape(
        part="load",
        label="strainer",
        ink="strainer",
        closed=False,
        outline=frame.path((at, 0.0), (at, 0.6 * build.height_m)),
    )
    arrows = [arrow for arrow in sheet.arrows if arrow.account != STEAM_LOSS]  # wax gives none off
    return sheet.model_copy(update={"shapes": [*sheet.shapes, strainer], "arrows": arrows})
