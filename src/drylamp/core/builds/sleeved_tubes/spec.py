"""Tubes in bottle sleeves: rows of dark pipe, each in clear bottles pushed over one another, on a leaning frame."""

from __future__ import annotations

import math
from typing import Annotated, ClassVar, Literal

from pydantic import BaseModel, Field, model_validator

from drylamp.core.builds.build import faces
from drylamp.core.builds.common.coil.rows import row_readers
from drylamp.core.builds.common.turning.spec import Turned
from drylamp.core.checks import Azimuth, Count, Model, Number, Tilt, require
from drylamp.core.common.coil import Coil
from drylamp.core.forms import asked
from drylamp.core.loads.load import Reader
from drylamp.core.tables import Absorber, Cover, CoverChoice, FinishChoice, absorber, cover
from drylamp.core.text import counted

MOST_ROWS = 40


class Bottles(Model):
    """The sleeve: bottles with their bottoms cut off, each pushed over the neck of the one before."""

    settling: ClassVar[frozenset[str]] = frozenset()

    material: CoverChoice = Field(default="pet-bottle", title="Of")
    wall_mm: Annotated[Number, Field(ge=0.05, le=5)] = Field(default=0.3, title="Thick")
    diameter_mm: Annotated[Number, Field(ge=20, le=300)] = Field(default=90.0, title="Wide")
    covers_mm: Annotated[Number, Field(ge=30, le=2000)] = Field(
        default=240.0, title="Each covers", description="Of the tube's length, once pushed together"
    )
    card: FinishChoice | None = Field(
        default="black-card", title="Card behind the tube", description="In the lower half of the bottle; empty: none"
    )

    @property
    def row(self) -> Cover:
        """Its stuff."""
        return cover(self.material)


class PreHeat(Model):
    """Bare pipe on the ground that the water goes through first."""

    coil: Coil = Field(default=Coil(material="black-pe", pipe_m=15.0, bore_mm=13.0, outer_mm=16.0), title="Pipe")


class SleevedTubes(Turned):
    """Rows of tube in bottle sleeves."""

    kind: Literal["sleeved-tubes"] = "sleeved-tubes"
    facing_deg: Azimuth = faces("The way it looks")
    tilt_deg: Tilt = Field(default=35.0, title="Tilt", description="From level", json_schema_extra=asked("aim"))
    rows: Annotated[Count, Field(ge=1, le=MOST_ROWS)] = Field(
        default=8, title="Tubes", json_schema_extra=asked("tubes")
    )
    lit_m: Annotated[Number, Field(ge=0.1, le=6)] = Field(
        default=1.2, title="In bottles", description="Lit length of each tube", json_schema_extra=asked("tubes")
    )
    ends_m: Annotated[Number, Field(ge=0, le=1)] = Field(
        default=0.08,
        title="Beyond them",
        description="Bare at each end, for elbow or tee",
        json_schema_extra=asked("tubes"),
    )
    pipe: Coil = Field(
        default=Coil(material="black-pe", pipe_m=1.0, bore_mm=20.0, outer_mm=25.0), title="Pipe",
        description="Its length follows from the rows", json_schema_extra=asked("tubes"),
    )  # fmt: skip
    finish: FinishChoice | None = Field(
        default=None, title="Painted", description="Empty: as it comes", json_schema_extra=asked("tubes")
    )
    joined: Literal["parallel", "series"] = Field(
        default="parallel", title="Joined",
        json_schema_extra=asked("tubes", options={"parallel": "side by side, up the slope", "series": "one after the other, across the slope"}),
    )  # fmt: skip
    pitch_mm: Annotated[Number, Field(ge=20, le=600)] = Field(
        default=110.0, title="From tube to tube", description="Middle to middle", json_schema_extra=asked("tubes")
    )
    bottles: Bottles = Field(default=Bottles(), title="Bottles", json_schema_extra=asked("bottles"))
    pre_heat: PreHeat | None = Field(
        default=None,
        title="Pre-heating coil",
        description="Bare pipe on the ground, before the tubes",
        json_schema_extra=asked("pre_heat"),
    )

    @model_validator(mode="after")
    def _fit_into_one_another(self) -> SleevedTubes:
        wide, thick = self.bottles.diameter_mm, self.pipe.outer_mm
        require(
            wide >= thick + 4.0, "bottles.diameter_mm",
            f"{wide:g} mm was given for a tube {thick:g} mm thick; a sleeve needs 2 mm of air all round, so take wider bottles or a thinner tube",
        )  # fmt: skip
        require(
            self.pitch_mm >= wide, "pitch_mm",
            f"{self.pitch_mm:g} mm from tube to tube was given for bottles {wide:g} mm wide; allowed is {wide:g} or more",
        )  # fmt: skip
        return self

    def fresh(self, field: str) -> BaseModel:
        """Fifteen metres of black pipe."""
        return PreHeat() if field == "pre_heat" else super().fresh(field)

    def readers(self) -> dict[str, list[Reader]]:
        """Tubes side by side share what runs, and not always alike."""
        return row_readers(self.tubes)

    def stretched(self, wide: float, long: float) -> SleevedTubes | None:
        """More tubes side by side, and longer ones."""
        return self.resized(rows=max(round(self.rows * wide), 1), lit_m=round(self.lit_m * long, 3))

    @property
    def hose_m(self) -> float:
        """All of its pipe."""
        return self.rows * (self.lit_m + 2.0 * self.ends_m)

    def with_hose(self, long_m: float) -> SleevedTubes | None:
        """As many tubes as it makes."""
        rows = int(long_m / (self.lit_m + 2.0 * self.ends_m))
        return self.resized(rows=rows) if rows else None

    def larger(self) -> SleevedTubes | None:
        """Half as many tubes more."""
        more = self.rows + max(self.rows // 2, 1)
        return self.with_(rows=more) if more <= MOST_ROWS else None

    def fewest(self) -> SleevedTubes:
        """One tube."""
        return self.with_(rows=1)

    @property
    def amount(self) -> str:
        """Its tubes."""
        return counted(self.rows, "tube")

    @property
    def row(self) -> Absorber:
        """What the sun meets on the tube."""
        if self.finish is not None:
            return absorber(self.finish)
        return self.pipe.row.skin

    @property
    def diameter_m(self) -> float:
        """Outside of a tube."""
        return self.pipe.outer_mm / 1000.0

    @property
    def sleeve_m(self) -> float:
        """Width of the bottles."""
        return self.bottles.diameter_mm / 1000.0

    @property
    def pitch_m(self) -> float:
        """From tube to tube."""
        return self.pitch_mm / 1000.0

    @property
    def cut_m(self) -> float:
        """Length that each tube is cut to."""
        return self.lit_m + 2.0 * self.ends_m

    @property
    def bottles_needed(self) -> int:
        """Of the size given."""
        return self.rows * math.ceil(1000.0 * self.lit_m / self.bottles.covers_mm - 1e-9)

    @property
    def elbows_needed(self) -> int:
        """Two for each joint of a snake; of a harp two at its corners, tees for the others."""
        return 2 * (self.rows - 1) if self.joined == "series" else 2 * self.rows

    @property
    def tubes(self) -> int:
        """Tubes side by side."""
        return self.rows if self.joined == "parallel" else 1

    @property
    def tube_m(self) -> float:
        """Length that the water goes along."""
        return self.cut_m if self.joined == "parallel" else self.cut_m * self.rows

    @property
    def all_m(self) -> float:
        """All of the tubes."""
        return self.cut_m * self.rows

    @property
    def wide_m(self) -> float:
        """How wide the rows lie."""
        return self.rows * self.pitch_m

    @property
    def slope_m(self) -> float:
        """How far they reach up the slope."""
        return self.cut_m if self.joined == "parallel" else self.wide_m

    @property
    def opening_m2(self) -> float:
        """What the bottles cover of the frame."""
        return self.rows * self.lit_m * self.sleeve_m

    @property
    def across_m(self) -> float:
        """Its tubes side by side."""
        return self.wide_m

    @property
    def floor_m(self) -> tuple[float, float]:
        """The frame."""
        return (self.wide_m, self.slope_m) if self.joined == "parallel" else (self.cut_m, self.slope_m)
