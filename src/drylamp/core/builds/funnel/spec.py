r"""The funnel: a mirror sheet folded round a pot, and its flat and panelled cousins.

A cone is rolled from an annular sector of the sheet; with the walls leaning out from the axis by the flare φ::

        ╲         ╱   slant s along the wall          sector: inner radius r / sin φ, outer that + s,
         ╲  pot  ╱    throat radius r                  opening angle 2 π sin φ
          ╲_▂▂_╱
"""

from __future__ import annotations

import math
from typing import Annotated, ClassVar, Literal

from pydantic import Field, model_validator

from drylamp.core.builds.build import faces
from drylamp.core.builds.common.mirror.sheet import MirrorSheet
from drylamp.core.builds.common.turning.spec import MINUTES, Turned, turned_every
from drylamp.core.checks import Azimuth, Number, Tilt
from drylamp.core.common.wall import WallLayer
from drylamp.core.forms import asked
from drylamp.core.tables import FinishChoice, MirrorChoice

SHEET_M = Annotated[Number, Field(ge=0.2, le=4)]
SHORTEST_SLANT_M = 0.05


class Funnel(MirrorSheet, Turned):
    """A sheet folded round a bucket or a stand, pot on a trivet in its throat; or a bare sheet lying flat."""

    axis_leans: ClassVar[bool] = True

    kind: Literal["funnel"] = "funnel"
    facing_deg: Azimuth = faces("The way its mouth leans")
    tilt_deg: Tilt = Field(
        default=35, title="Axis leans from upright", description="From straight up", json_schema_extra=asked("aim")
    )
    shape: Literal["cone", "panels", "flat"] = Field(
        default="cone",
        json_schema_extra=asked(
            "mirror",
            options={"cone": "rolled to a cone", "panels": "folded panels", "flat": "flat black sheet, no mirror"},
        ),
    )
    mirror: MirrorChoice = Field(default="kitchen-foil", json_schema_extra=asked("mirror"))
    sheet_width_m: SHEET_M = Field(default=1.2, title="Sheet, wide", json_schema_extra=asked("mirror"))
    sheet_height_m: SHEET_M = Field(default=0.8, title="Sheet, high", json_schema_extra=asked("mirror"))
    throat_m: Annotated[Number, Field(ge=0.08, le=1.5)] = Field(
        default=0.26, title="Across the bottom", description="Inside", json_schema_extra=asked("mirror")
    )
    flare_deg: Annotated[Number, Field(ge=15, le=70)] = Field(
        default=32, title="Flare, wall from axis", json_schema_extra=asked("mirror")
    )
    front_share: Annotated[Number, Field(ge=0.2, le=1)] = Field(
        default=0.6,
        title="Front panel against the others",
        description="Its length against theirs",
        json_schema_extra=asked("mirror", only_with={"shape": ["panels"]}),
    )
    sheet: WallLayer = Field(
        default=WallLayer(material="corrugated-card", thickness_m=0.004),
        title="Backed by",
        json_schema_extra=asked("sheet"),
    )
    base: FinishChoice = Field(
        default="black-card",
        title="Finish of the bottom",
        description="Or of the flat sheet",
        json_schema_extra=asked("base"),
    )
    trivet_m: Annotated[Number, Field(ge=0, le=0.3)] = Field(
        default=0.03, title="Trivet, pot over the bottom", json_schema_extra=asked("base")
    )
    stand_m: Annotated[Number, Field(ge=0, le=2)] = Field(
        default=0.30, title="Bucket or stand, high", json_schema_extra=asked("base")
    )
    turned_minutes: MINUTES | None = turned_every(60.0)

    @model_validator(mode="after")
    def _folds(self) -> Funnel:
        if self.shape != "flat" and self.slant_m < SHORTEST_SLANT_M:
            raise ValueError(
                f"a sheet of {self.sheet_width_m:g} × {self.sheet_height_m:g} m is too small to fold round a throat of "
                f"{self.throat_m:g} m with walls leaning out {self.flare_deg:g}°; take a larger sheet, a narrower throat or more flare"
            )
        return self

    def stretched(self, wide: float, long: float) -> Funnel | None:
        """A larger sheet round as wide a bottom."""
        return self.resized(
            sheet_width_m=round(self.sheet_width_m * wide, 3), sheet_height_m=round(self.sheet_height_m * long, 3)
        )

    @property
    def lean_deg(self) -> float:
        """How far its axis leans; a flat sheet lies level whatever is said."""
        return 0.0 if self.shape == "flat" else self.tilt_deg

    @property
    def has_mirror(self) -> bool:
        """A flat sheet has none."""
        return self.shape != "flat"

    @property
    def sector_rad(self) -> float:
        """Opening angle of the sector that a cone is rolled from."""
        return 2 * math.pi * math.sin(math.radians(self.flare_deg))

    @property
    def inner_radius_m(self) -> float:
        """Inner radius of that sector."""
        return self.throat_m / 2 / math.sin(math.radians(self.flare_deg))

    @property
    def slant_m(self) -> float:
        """Longest wall that the sheet gives."""
        if self.shape == "flat":
            return 0.0
        if self.shape == "panels":
            return min(
                (self.sheet_width_m - self.throat_m) / 2, (self.sheet_height_m - self.throat_m) / (1 + self.front_share)
            )
        half, inner = self.sector_rad / 2, self.inner_radius_m
        across = 2 * math.sin(half) if half < math.pi / 2 else 2.0
        by_width = self.sheet_width_m / across
        # the sector stands with its middle up: from the lowest of its inner ends to the top of its outer arc
        by_height = (
            self.sheet_height_m + inner * math.cos(half)
            if half < math.pi / 2
            else self.sheet_height_m / (1 - math.cos(half))
        )
        return min(by_width, by_height) - inner

    @property
    def mouth_m(self) -> float:
        """Across the mouth."""
        return self.throat_m + 2 * self.slant_m * math.sin(math.radians(self.flare_deg))

    @property
    def depth_m(self) -> float:
        """From bottom to mouth along the axis."""
        return self.slant_m * math.cos(math.radians(self.flare_deg))

    @property
    def opening_m2(self) -> float:
        """Area of the mouth, or of the flat sheet."""
        if self.shape == "flat":
            return self.sheet_width_m * self.sheet_height_m
        if self.shape == "panels":
            return self.mouth_m * (
                self.throat_m + self.slant_m * math.sin(math.radians(self.flare_deg)) * (1 + self.front_share)
            )
        return math.pi / 4 * self.mouth_m**2

    @property
    def base_m2(self) -> float:
        """Area of the bottom."""
        if self.shape == "flat":
            return self.opening_m2
        return self.throat_m**2 * (math.pi / 4 if self.shape == "cone" else 1.0)

    @property
    def across_m(self) -> float:
        """Its mouth."""
        return self.mouth_m

    @property
    def floor_m(self) -> tuple[float, float]:
        """Width and length of the bottom."""
        return (self.sheet_width_m, self.sheet_height_m) if self.shape == "flat" else (self.throat_m, self.throat_m)
