"""The coupons' spec: samples side by side in the same sun, on a board in the open or as blocks under glass."""

from __future__ import annotations

import math
import random
from typing import Annotated, Literal

from pydantic import Field, model_validator

from drylamp.core.builds.box_oven import GlazedCover, Skin, WallLayer
from drylamp.core.checks import Azimuth, Count, Model, NotNegative, Number, Tilt
from drylamp.core.tables import Absorber, FinishChoice, absorber

SAMPLE_NAME = Annotated[str, Field(pattern=r"^[a-z0-9]+(-[a-z0-9]+)*$", max_length=30)]
MOST_SAMPLES = 12
CONTACT_W_M2K: dict[str, float] = {"lying": 25.0, "spacers": 4.0, "stood-off": 0.5}
"""Heat passed between a sample's back and the board: dry contact, an air gap of some 6 mm, or small posts; from memory."""


class Sample(Model):
    """One sample: its finish, how many coats of it, and what those cost."""

    name: SAMPLE_NAME = Field(description="Short and without blanks; marks the sample in the log")
    title: Annotated[str, Field(min_length=1, max_length=60)]
    finish: FinishChoice
    coats: Annotated[Count, Field(ge=0, le=8)] = 2
    price_m2: NotNegative = Field(default=0.0, description="Money per m² at the coats used, primer included")
    is_control: bool = Field(default=False, description="What the others are held against")

    @property
    def row(self) -> Absorber:
        """Its surface."""
        return absorber(self.finish)

    @property
    def node(self) -> str:
        """The twin's name for its sunlit face."""
        return f"sample-{self.name}"


class Coupons(Model):
    """Equal samples on one board; their order is their place, row by row from the upper left."""

    kind: Literal["coupons"] = "coupons"
    facing_deg: Azimuth = Field(description="The way the board looks, clockwise from north")
    tilt_deg: Tilt = Field(default=0, description="Tilt of the board from level")
    shape: Literal["plate", "disc"] = "plate"
    width_m: Annotated[Number, Field(ge=0.02, le=1)] = Field(default=0.1, description="Of a sample; a disc's diameter")
    length_m: Annotated[Number, Field(ge=0.02, le=1)] = Field(default=0.1, description="Up the slope; unused by discs")
    sheet: WallLayer = Field(
        default=WallLayer(material="sheet-steel", thickness_m=0.0003), description="What a sample is made of"
    )
    samples: list[Sample] = Field(min_length=2, max_length=MOST_SAMPLES)
    columns: Annotated[Count, Field(ge=1, le=MOST_SAMPLES)] = 3
    spacing_m: Annotated[Number, Field(ge=0, le=0.5)] = Field(
        default=0.04, description="Between samples, and to the edge"
    )
    board: list[WallLayer] = Field(min_length=1, max_length=4, description="From the samples outward")
    board_finish: FinishChoice = "bare-wood"
    contact: Literal["lying", "spacers", "stood-off"] = "lying"
    edges: Literal["open", "wrapped"] = Field(default="open", description="Sides of the samples: bare, or insulated")
    cover: GlazedCover | None = None
    air_space_m: Annotated[Number, Field(ge=0.005, le=0.3)] = Field(default=0.03, description="Sample to glass")
    seal_gap_mm: Annotated[Number, Field(ge=0, le=20)] = Field(default=0.5, description="All round the cover")

    @model_validator(mode="after")
    def _told_apart(self) -> Coupons:
        names = [sample.name for sample in self.samples]
        twice = sorted({name for name in names if names.count(name) > 1})
        if twice:
            raise ValueError(f"'{twice[0]}' names two samples; give each its own name")
        if sum(sample.is_control for sample in self.samples) > 1:
            raise ValueError("two samples are marked as control; mark one")
        return self

    @property
    def control(self) -> Sample:
        """What the others are held against: the marked sample, else the first."""
        return next((sample for sample in self.samples if sample.is_control), self.samples[0])

    @property
    def skins(self) -> list[Skin]:
        """The cover's skins from the innermost out; none when there is no cover."""
        return self.cover.skins if self.cover else []

    @property
    def sample_m2(self) -> float:
        """Sunlit face of one sample."""
        return math.pi / 4 * self.width_m**2 if self.shape == "disc" else self.width_m * self.length_m

    @property
    def sample_rim_m(self) -> float:
        """Length of a sample's edge."""
        return math.pi * self.width_m if self.shape == "disc" else 2 * (self.width_m + self.length_m)

    @property
    def sample_kg(self) -> float:
        """Mass of one sample."""
        return self.sample_m2 * self.sheet.thickness_m * self.sheet.row.density_kg_m3

    @property
    def rows(self) -> int:
        """Rows of places on the board."""
        return math.ceil(len(self.samples) / self.columns)

    @property
    def board_size_m(self) -> tuple[float, float]:
        """Across and up the slope."""
        tall = self.width_m if self.shape == "disc" else self.length_m
        across = min(self.columns, len(self.samples))
        return (
            across * self.width_m + (across + 1) * self.spacing_m,
            self.rows * tall + (self.rows + 1) * self.spacing_m,
        )

    @property
    def opening_m2(self) -> float:
        """The whole board, which is what the sun meets."""
        across, up = self.board_size_m
        return across * up

    @property
    def bare_board_m2(self) -> float:
        """Board between the samples."""
        return max(self.opening_m2 - len(self.samples) * self.sample_m2, 0.0)

    def place_of(self, name: str) -> str:
        """Row and column of a sample in words."""
        at = [sample.name for sample in self.samples].index(name)
        return f"row {at // self.columns + 1}, place {at % self.columns + 1}"


def shuffled(samples: list[Sample], seed: int) -> list[Sample]:
    """The samples in places drawn by lot, so that no finish has the edge of the board by habit; the same for one seed."""
    return random.Random(seed).sample(samples, len(samples))
