"""A row of evacuated tubes on a header: heat pipes, U-pipes or water itself carry the heat up to it."""

from __future__ import annotations

import math
from typing import Annotated, Literal, Self

from pydantic import BaseModel, Field, model_validator

from drylamp.core import tables
from drylamp.core.builds.build import faces
from drylamp.core.builds.common.coil.rows import row_readers
from drylamp.core.builds.common.turning.spec import MINUTES, Turned, turned_every
from drylamp.core.builds.common.vacuum_tube.spec import VacuumTube
from drylamp.core.builds.common.vacuum_tube.tubed import Tubed
from drylamp.core.builds.common.vacuum_tube.wings import Wings
from drylamp.core.checks import Azimuth, Count, Model, Number, Tilt, require
from drylamp.core.common.coil import Coil
from drylamp.core.forms import asked
from drylamp.core.loads.load import Reader
from drylamp.core.tables import Mirror, MirrorChoice
from drylamp.core.text import counted

MOST_TUBES = 40
FOAM_W_MK = 0.04
"""Wool or foam round the header; makers' usual figure."""


class SheetBehind(Model):
    """A flat sheet behind the tubes."""

    material: MirrorChoice = Field(default="smooth-foil", title="Surface")
    away_m: Annotated[Number, Field(ge=0.01, le=0.5)] = Field(
        default=0.06, title="Behind the tubes", description="From their axes"
    )

    @property
    def row(self) -> Mirror:
        """Its surface."""
        return tables.mirror(self.material)


class TubeRow(Tubed, Turned):
    """A row of evacuated tubes."""

    kind: Literal["tube-row"] = "tube-row"
    facing_deg: Azimuth = faces("The way the row looks")
    tilt_deg: Tilt = Field(
        default=45.0, title="Tilt", description="Of the tubes, from level", json_schema_extra=asked("aim")
    )
    count: Annotated[Count, Field(ge=1, le=MOST_TUBES)] = Field(
        default=10, title="Tubes", json_schema_extra=asked("tube")
    )
    pitch_mm: Annotated[Number, Field(ge=20, le=1000)] = Field(
        default=80.0, title="From tube to tube", description="Middle to middle", json_schema_extra=asked("tube")
    )
    tube: VacuumTube = Field(
        default=VacuumTube(lit_m=1.5, ends_m=0.1, end_w_k=0.05), title="Tube", json_schema_extra=asked("tube")
    )
    inside: Literal["heat-pipe", "u-pipe", "filled"] = Field(
        default="heat-pipe", title="Inside it",
        json_schema_extra=asked("tube", options={"heat-pipe": "a heat pipe", "u-pipe": "a U-pipe", "filled": "water, open to the header"}),
    )  # fmt: skip
    header: Coil = Field(
        default=Coil(material="copper", pipe_m=1.0, bore_mm=20.0, outer_mm=22.0), title="Header",
        description="Its length follows from the tubes", json_schema_extra=asked("header"),
    )  # fmt: skip
    lagging_mm: Annotated[Number, Field(ge=0, le=200)] = Field(
        default=30.0, title="Wool round the header", json_schema_extra=asked("header")
    )
    u_pipe: Coil = Field(
        default=Coil(material="copper", pipe_m=1.0, bore_mm=6.0, outer_mm=8.0), title="U-pipe", description="Its length follows from the tube",
        json_schema_extra=asked("header", only_with={"inside": ["u-pipe"]}),
    )  # fmt: skip
    behind: SheetBehind | None = Field(
        default=None, title="Sheet behind", description="Flat, behind the whole row", json_schema_extra=asked("mirror")
    )
    wings: Wings | None = Field(
        default=None, title="Wings", description="Mirrors beside each tube", json_schema_extra=asked("mirror")
    )
    turned_minutes: MINUTES | None = turned_every(None)

    @model_validator(mode="after")
    def _lie_side_by_side(self) -> TubeRow:
        wide = self.tube.outer_mm if self.wings is None else max(1000.0 * self.wings.spread_m, self.tube.outer_mm)
        what = "wings" if self.wings is not None and wide > self.tube.outer_mm else "glasses"
        require(
            self.pitch_mm >= wide - 1e-6, "pitch_mm",
            f"{self.pitch_mm:g} mm from tube to tube was given, and {what} are {wide:.0f} mm wide; give as much or more, or fold the wings in",
        )  # fmt: skip
        require(
            self.wings is None or self.clear(self.wings),
            "wings.below_m",
            "a wing runs into its tube; set the hinge lower or farther out, or open it wider",
        )
        require(
            self.behind is None or self.wings is None, "behind", "a sheet behind and wings were given; the wings keep the light from it, so give one of the two",
        )  # fmt: skip
        require(
            self.behind is None or self.behind.away_m > self.tube.outer_m / 2.0, "behind.away_m",
            f"a sheet {1000.0 * (0.0 if self.behind is None else self.behind.away_m):.0f} mm behind the axes runs through tubes {self.tube.outer_mm:g} mm wide; set it farther back",
        )  # fmt: skip
        return self

    def fresh(self, field: str) -> BaseModel:
        """Wings narrow enough to lie side by side."""
        if field != "wings":
            return super().fresh(field)
        return Wings(
            shape="flat",
            wide_m=max(self.pitch_m / 2.0 - 0.006, 0.005),
            below_m=self.tube.outer_m / 2.0 + 0.01,
            open_deg=75.0,
        )

    def readers(self) -> dict[str, list[Reader]]:
        """Tubes with U-pipes share what runs, and not always alike."""
        return row_readers(self.count if self.inside == "u-pipe" else 1)

    def stretched(self, wide: float, long: float) -> TubeRow | None:
        """More tubes; how long they are is their maker's matter."""
        return self.resized(count=max(round(self.count * wide * long), 1))

    def larger(self) -> TubeRow | None:
        """Half as many tubes more."""
        more = self.count + max(self.count // 2, 1)
        return self.with_(count=more) if more <= MOST_TUBES else None

    def fewest(self) -> TubeRow:
        """One tube."""
        return self.with_(count=1)

    @property
    def amount(self) -> str:
        """Its tubes."""
        return counted(self.count, "tube")

    @property
    def pitch_m(self) -> float:
        """From tube to tube."""
        return self.pitch_mm / 1000.0

    @property
    def header_m(self) -> float:
        """Length of the header."""
        return self.count * self.pitch_m

    @property
    def header_loses_w_mk(self) -> float:
        """Heat that a metre of it gives to the air through its wool, film left out (cylinders)."""
        bare = self.header.outer_mm / 2000.0
        return 2.0 * math.pi * FOAM_W_MK / math.log((bare + max(self.lagging_mm, 1.0) / 1000.0) / bare)

    @property
    def wide_m(self) -> float:
        """Outer glass to outer glass."""
        return (self.count - 1) * self.pitch_m + self.tube.outer_m

    @property
    def opening_m2(self) -> float:
        """What the tubes cover: with wings or a sheet all of the row, else glass by glass."""
        if self.behind is not None or self.wings is not None:
            return self.header_m * self.tube.lit_m
        return self.count * self.tube.outer_m * self.tube.lit_m

    @property
    def across_m(self) -> float:
        """Its tubes side by side."""
        return self.wide_m

    @property
    def floor_m(self) -> tuple[float, float]:
        """The frame."""
        return self.header_m, self.tube.length_m

    @property
    def tube_of(self) -> VacuumTube:
        """One of them."""
        return self.tube

    @property
    def tubes(self) -> int:
        """How many."""
        return self.count

    @property
    def wings_of(self) -> Wings | None:
        """Of each."""
        return self.wings

    def with_wings(self, wings: Wings | None) -> Self:
        """A copy with others, and no sheet behind them."""
        return self.with_(wings=wings, behind=None if wings is not None else self.behind)

    def without_mirrors(self) -> Self:
        """The tubes alone."""
        return self.with_(wings=None, behind=None)
