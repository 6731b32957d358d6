"""The melter: a shallow glazed box whose floor slopes to a catch tray; inside it works as a box oven does."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from drylamp.core.builds.box_oven import INSIDE, BoxOven, FlapMirror, GlazedCover, Skin, WallLayer
from drylamp.core.checks import Azimuth, Model, Number, Tilt
from drylamp.core.tables import FinishChoice

_PLAIN_BOX = BoxOven(facing_deg=0.0, wall=[WallLayer(material="pine-board", thickness_m=0.02)])


class Melter(Model):
    """A sloped glazed box, strainer and catch tray at its lower end; sizes are inside."""

    kind: Literal["melter"] = "melter"
    facing_deg: Azimuth = Field(description="The way its glass looks, clockwise from north")
    tilt_deg: Tilt = Field(default=30, description="Slope of floor and glass from level")
    width_m: INSIDE = 0.50
    length_m: INSIDE = Field(default=0.70, description="Down the slope, catch tray included")
    height_m: INSIDE = Field(default=0.12, description="Floor to glass")
    wall: list[WallLayer] = Field(min_length=1, max_length=6)
    lining: FinishChoice = Field(default="bare-wood", description="Finish of the inner walls")
    tray: FinishChoice = Field(default="galvanised", description="Finish of the sloped floor")
    tray_sheet: WallLayer = WallLayer(material="sheet-steel", thickness_m=0.0007)
    cover: GlazedCover | None = GlazedCover()
    mirror: FlapMirror | None = Field(default=None, description="On the upper edge")
    seal_gap_mm: Annotated[Number, Field(ge=0, le=20)] = Field(
        default=0.8, description="Mean open gap all round the cover"
    )
    turned_minutes: Annotated[Number, Field(ge=5, le=600)] | None = Field(
        default=None, description="How often it is turned to the sun; none: left as it stands"
    )

    @property
    def box(self) -> BoxOven:
        """The same as a box oven; made anew each time, for a copy of a melter must not keep the box of the first."""
        own = {name: getattr(self, name) for name in type(self).model_fields if name not in ("kind", "turned_minutes")}
        return _PLAIN_BOX.model_copy(update=own)

    @property
    def skins(self) -> list[Skin]:
        """The cover's skins from the innermost out."""
        return self.box.skins

    @property
    def opening_m2(self) -> float:
        """Area of the glass."""
        return self.width_m * self.length_m

    @property
    def floor_m(self) -> tuple[float, float]:
        """Width and length of the floor."""
        return self.width_m, self.length_m
