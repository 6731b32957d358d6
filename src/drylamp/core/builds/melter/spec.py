"""The melter: a shallow glazed box whose floor slopes to a catch tray; inside it works as every glazed box does."""

from __future__ import annotations

from typing import Literal

from pydantic import Field

from drylamp.core.builds.common.box.spec import INSIDE, Box
from drylamp.core.builds.common.seal.spec import GAP_MM
from drylamp.core.checks import Azimuth, Tilt
from drylamp.core.tables import FinishChoice


class Melter(Box):
    """A sloped glazed box, strainer and catch tray at its lower end; sizes are inside."""

    kind: Literal["melter"] = "melter"
    facing_deg: Azimuth = Field(description="The way its glass looks, clockwise from north")
    tilt_deg: Tilt = Field(default=30, description="Slope of floor and glass from level")
    width_m: INSIDE = 0.50
    length_m: INSIDE = Field(default=0.70, description="Down the slope, catch tray included")
    height_m: INSIDE = Field(default=0.12, description="Floor to glass")
    lining: FinishChoice = Field(default="bare-wood", description="Finish of the inner walls")
    tray: FinishChoice = Field(default="galvanised", description="Finish of the sloped floor")
    seal_gap_mm: GAP_MM = Field(default=0.8, description="Mean open gap all round the cover")
