"""The box oven: its typed spec."""

from __future__ import annotations

import math
from dataclasses import dataclass, replace
from typing import Annotated, Literal

from pydantic import Field, model_validator

from drylamp.core import tables
from drylamp.core.checks import Azimuth, Count, Fraction, Model, Number, Tilt
from drylamp.core.tables import Cover, CoverChoice, FinishChoice, Layer, LayerChoice, Mirror, MirrorChoice

INSIDE = Annotated[Number, Field(ge=0.05, le=3)]
THICKNESS = Annotated[Number, Field(ge=0.00001, le=0.5)]


class WallLayer(Model):
    """One layer of the wall, from the inside out."""

    material: LayerChoice
    thickness_m: THICKNESS

    @property
    def row(self) -> Layer:
        """Its material."""
        return tables.layer(self.material)


@dataclass(frozen=True)
class Skin:
    """One skin of a cover as light and heat meet it: its material, thickness, and the air gap to the next one outward."""

    row: Cover
    thickness_m: float
    gap_m: float


class Sheet(Model):
    """One more sheet outside the others."""

    material: CoverChoice
    thickness_m: Annotated[Number, Field(ge=0.00001, le=0.02)]


class GlazedCover(Model):
    """One to three sheets over the opening, alike or not."""

    material: CoverChoice = "window-glass"
    thickness_m: Annotated[Number, Field(ge=0.00001, le=0.02)] = Field(default=0.004, description="Of one skin")
    layers: Annotated[Count, Field(ge=1, le=3)] = 1
    gap_m: Annotated[Number, Field(ge=0.003, le=0.1)] = Field(default=0.015, description="Between sheets")
    more: list[Sheet] = Field(default_factory=list, max_length=2, description="Sheets of other stuff outside them")

    @model_validator(mode="after")
    def _not_too_many(self) -> GlazedCover:
        if self.layers + len(self.more) > 3:
            raise ValueError(f"{self.layers + len(self.more)} sheets were given; allowed are three in all")
        return self

    @property
    def row(self) -> Cover:
        """Material of the innermost sheet."""
        return tables.cover(self.material)

    @property
    def skins(self) -> list[Skin]:
        """All skins from the innermost out; twin-wall sheets have two."""
        sheets = [(self.row, self.thickness_m)] * self.layers
        sheets += [(tables.cover(sheet.material), sheet.thickness_m) for sheet in self.more]
        out = []
        for row, thickness_m in sheets:
            out += [Skin(row, thickness_m, row.skin_gap_m)] * (int(row.skins) - 1)
            out.append(Skin(row, thickness_m, self.gap_m))
        return [*out[:-1], replace(out[-1], gap_m=0.0)]


class FlapMirror(Model):
    """A flat mirror hinged on an edge of the opening, as wide as that edge."""

    material: MirrorChoice = "kitchen-foil"
    length_m: Annotated[Number, Field(ge=0.05, le=3)] = 0.45
    angle_deg: Annotated[Number, Field(ge=45, le=175)] = Field(
        default=110,
        description="Between opening and mirror; 90 stands square on the opening, 180 lies in its plane",
    )

    @property
    def row(self) -> Mirror:
        """Its surface."""
        return tables.mirror(self.material)


class MoreFlaps(Model):
    """Mirrors on the other three edges; left and right as seen by somebody who stands at the lower edge."""

    lower: FlapMirror | None = None
    left: FlapMirror | None = None
    right: FlapMirror | None = None

    @property
    def any(self) -> bool:
        """Whether there is one."""
        return not (self.lower is None and self.left is None and self.right is None)


class BoxOven(Model):
    """A box, black tray below, glazed above, up to four mirrors; sizes are inside the box."""

    kind: Literal["box-oven"] = "box-oven"
    shape: Literal["box", "wedge"] = Field(
        default="box", description="box: tilts whole; wedge: stands level, only its opening slopes"
    )
    shelf: Literal["fixed", "level"] = Field(
        default="fixed", description="level: a swinging shelf keeps the pot upright"
    )
    facing_deg: Azimuth = Field(description="The way the opening looks, clockwise from north")
    tilt_deg: Tilt = Field(default=30, description="Tilt of the opening from level")
    width_m: INSIDE = 0.45
    length_m: INSIDE = Field(default=0.45, description="Up the slope of the opening")
    height_m: INSIDE = Field(default=0.25, description="Tray to opening; of a wedge, its low side")
    wall: list[WallLayer] = Field(min_length=1, max_length=6)
    lining: FinishChoice = Field(default="aluminium-foil", description="Finish of the inner walls")
    tray: FinishChoice = Field(default="flat-black-paint", description="Finish of the tray")
    tray_sheet: WallLayer = WallLayer(material="sheet-steel", thickness_m=0.0007)
    cover: GlazedCover | None = GlazedCover()
    mirror: FlapMirror | None = Field(default=FlapMirror(), description="On the upper edge")
    flaps: MoreFlaps = MoreFlaps()
    seal_gap_mm: Annotated[Number, Field(ge=0, le=20)] = Field(
        default=0.5, description="Mean open gap all round the cover"
    )
    vent_cm2: Annotated[Number, Field(ge=0, le=2000)] = Field(default=0.0, description="Vent, all of its opening")
    vent_open: Fraction = Field(default=1.0, description="How far the vent stands open, 0 shut to 1")
    turned_minutes: Annotated[Number, Field(ge=5, le=600)] | None = Field(
        default=None, description="How often it is turned to the sun; none: left as it stands"
    )

    @property
    def skins(self) -> list[Skin]:
        """The cover's skins from the innermost out; none when it stands open."""
        return self.cover.skins if self.cover else []

    @property
    def mirrors(self) -> dict[str, FlapMirror]:
        """Mirrors by the edge they hang on."""
        edges = {"upper": self.mirror, "lower": self.flaps.lower, "left": self.flaps.left, "right": self.flaps.right}
        return {edge: flap for edge, flap in edges.items() if flap is not None}

    @property
    def largest_mirror_m2(self) -> float:
        """Area of the largest mirror; 0 without any."""
        along = {"upper": self.width_m, "lower": self.width_m, "left": self.length_m, "right": self.length_m}
        return max((along[edge] * flap.length_m for edge, flap in self.mirrors.items()), default=0.0)

    @property
    def opening_m2(self) -> float:
        """Area of the opening."""
        return self.width_m * self.length_m

    @property
    def is_plain(self) -> bool:
        """Whether floor and opening lie square to each other with the pot square on the floor."""
        return self.tilt_deg == 0 or (self.shape == "box" and self.shelf == "fixed")

    @property
    def floor_length_m(self) -> float:
        """Length of the floor, front to back."""
        return self.length_m * math.cos(math.radians(self.tilt_deg)) if self.shape == "wedge" else self.length_m

    @property
    def back_height_m(self) -> float:
        """Height of the back wall inside."""
        rise = self.length_m * math.sin(math.radians(self.tilt_deg)) if self.shape == "wedge" else 0.0
        return self.height_m + rise

    @property
    def floor_tilt_deg(self) -> float:
        """Tilt of the floor from level."""
        return 0.0 if self.shape == "wedge" else self.tilt_deg

    @property
    def pot_tilt_deg(self) -> float:
        """How far a pot on the shelf leans."""
        return 0.0 if self.shelf == "level" else self.floor_tilt_deg

    @property
    def floor_m(self) -> tuple[float, float]:
        """Width and length of the floor."""
        return self.width_m, self.floor_length_m

    @property
    def floor_m2(self) -> float:
        """Area of the floor."""
        return self.width_m * self.floor_length_m

    @property
    def sides_m2(self) -> float:
        """Area of the inner walls."""
        front_and_back = self.width_m * (self.height_m + self.back_height_m)
        return front_and_back + self.floor_length_m * (self.height_m + self.back_height_m)

    @property
    def wall_thickness_m(self) -> float:
        """All layers together."""
        return sum(layer.thickness_m for layer in self.wall)

    @property
    def leak_m2(self) -> float:
        """Open area of the seal round the cover."""
        return self.seal_gap_mm / 1000 * 2 * (self.width_m + self.length_m)

    @property
    def vent_m2(self) -> float:
        """Open area of the vent as it is set."""
        return self.vent_cm2 / 1e4 * self.vent_open
