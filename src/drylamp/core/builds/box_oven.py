"""The box oven: its typed spec."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field, field_validator

from drylamp.core.checks import Azimuth, Count, Model, Number, Tilt
from drylamp.core.tables import absorbers, covers, find, layers, mirrors

INSIDE = Annotated[Number, Field(ge=0.05, le=3)]
THICKNESS = Annotated[Number, Field(ge=0.00001, le=0.5)]


class WallLayer(Model):
    """One layer of the wall, from the inside out."""

    material: str
    thickness_m: THICKNESS

    @field_validator("material")
    @classmethod
    def _known(cls, name: str) -> str:
        find(layers(), name, "material")
        return name


class GlazedCover(Model):
    """One or two sheets over the opening."""

    material: str = "window-glass"
    thickness_m: Annotated[Number, Field(ge=0.00001, le=0.02)] = 0.004
    layers: Annotated[Count, Field(ge=1, le=2)] = 1
    gap_m: Annotated[Number, Field(ge=0.003, le=0.1)] = 0.015

    @field_validator("material")
    @classmethod
    def _known(cls, name: str) -> str:
        find(covers(), name, "material")
        return name


class FlapMirror(Model):
    """A flat mirror hinged on the opening's upper edge, as wide as the opening."""

    material: str = "kitchen-foil"
    length_m: Annotated[Number, Field(ge=0.05, le=3)] = 0.45
    angle_deg: Annotated[Number, Field(ge=45, le=175)] = Field(
        default=110,
        description="Between opening and mirror; 90 stands square on the opening, 180 lies in its plane",
    )

    @field_validator("material")
    @classmethod
    def _known(cls, name: str) -> str:
        find(mirrors(), name, "material")
        return name


class BoxOven(Model):
    """A box, black tray below, glazed above, one mirror on the lid; sizes are inside the box."""

    kind: Literal["box-oven"] = "box-oven"
    facing_deg: Azimuth = Field(description="The way the opening looks, clockwise from north")
    tilt_deg: Tilt = Field(default=30, description="Tilt of the opening from level")
    width_m: INSIDE = 0.45
    length_m: INSIDE = Field(default=0.45, description="Up the slope of the opening")
    height_m: INSIDE = Field(default=0.25, description="Tray to opening")
    wall: list[WallLayer] = Field(min_length=1, max_length=6)
    lining: str = Field(default="aluminium-foil", description="Finish of the inner walls")
    tray: str = Field(default="flat-black-paint", description="Finish of the tray")
    tray_sheet: WallLayer = WallLayer(material="sheet-steel", thickness_m=0.0007)
    cover: GlazedCover | None = GlazedCover()
    mirror: FlapMirror | None = FlapMirror()
    seal_gap_mm: Annotated[Number, Field(ge=0, le=20)] = Field(
        default=0.5, description="Mean open gap all round the cover"
    )
    vent_cm2: Annotated[Number, Field(ge=0, le=2000)] = Field(default=0.0, description="Vent opening as it is set")

    @field_validator("lining", "tray")
    @classmethod
    def _known(cls, name: str) -> str:
        find(absorbers(), name, "finish")
        return name

    @property
    def opening_m2(self) -> float:
        """Area of the opening."""
        return self.width_m * self.length_m

    @property
    def wall_thickness_m(self) -> float:
        """All layers together."""
        return sum(layer.thickness_m for layer in self.wall)

    @property
    def leak_m2(self) -> float:
        """Open area of seal and vent."""
        return self.seal_gap_mm / 1000 * 2 * (self.width_m + self.length_m) + self.vent_cm2 / 1e4
