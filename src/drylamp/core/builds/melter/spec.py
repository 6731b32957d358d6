"""The melter: a shallow glazed box whose floor slopes to a catch tray; inside it works as every glazed box does."""

from __future__ import annotations

from typing import Literal

from pydantic import Field

from drylamp.core.builds.build import faces
from drylamp.core.builds.common.box.spec import INSIDE, Box
from drylamp.core.builds.common.seal.spec import GAP, GAP_MM
from drylamp.core.checks import Azimuth, Tilt
from drylamp.core.forms import asked
from drylamp.core.tables import FinishChoice


class Melter(Box):
    """A sloped glazed box, strainer and catch tray at its lower end; sizes are inside."""

    kind: Literal["melter"] = "melter"
    facing_deg: Azimuth = faces("The way its glass looks")
    tilt_deg: Tilt = Field(
        default=30, title="Tilt of the opening", description="Slope of floor and glass", json_schema_extra=asked("aim")
    )
    width_m: INSIDE = Field(default=0.50, json_schema_extra=asked("box"))
    length_m: INSIDE = Field(
        default=0.70, title="Length down the slope", description="Catch tray included", json_schema_extra=asked("box")
    )
    height_m: INSIDE = Field(default=0.12, title="Height, floor to glass", json_schema_extra=asked("box"))
    lining: FinishChoice = Field(
        default="bare-wood", title="Finish", description="Of the inner walls", json_schema_extra=asked("lining")
    )
    tray: FinishChoice = Field(
        default="galvanised", title="Finish", description="What the heap lies on", json_schema_extra=asked("tray")
    )
    seal_gap_mm: GAP_MM = Field(
        default=0.8,
        title=GAP,
        description="All round; a good felt strip keeps it under a quarter of this",
        json_schema_extra=asked("seal"),
    )
