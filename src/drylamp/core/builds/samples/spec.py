"""The spec of samples: side by side in the same sun, on a board in the open or as blocks under glass."""

from __future__ import annotations

import math
import random
from typing import Annotated, ClassVar, Literal, Self

from pydantic import Field

from drylamp.core.builds.build import faces
from drylamp.core.builds.common.cover.covered import Covered
from drylamp.core.builds.common.cover.spec import GlazedCover
from drylamp.core.builds.common.seal.spec import GAP, GAP_MM
from drylamp.core.builds.common.side_by_side import MOST_SAMPLES, Sample, SideBySide
from drylamp.core.checks import Azimuth, Count, Number, Tilt
from drylamp.core.common.wall import WallLayer
from drylamp.core.forms import asked
from drylamp.core.tables import FinishChoice

CONTACT_W_M2K: dict[str, float] = {"lying": 25.0, "spacers": 4.0, "stood-off": 0.5}
"""Heat passed between a sample's back and the board: dry contact, an air gap of some 6 mm, or small posts; from memory."""
SLICES = (1.0, 2.0, 3.0, 3.0)
"""Thickness of a block's slices from the face in, as parts: thin where the sun and the evening act."""
THICK_M, SLOW_W_MK = 0.015, 5.0
"""Thicker than this and poorer than this a conductor, a sample is warmer in front than behind."""


class Samples(SideBySide, Covered):
    """Equal samples on one board; their order is their place, row by row from the upper left."""

    former_kinds: ClassVar[tuple[str, ...]] = ("coupons",)

    kind: Literal["samples"] = "samples"
    facing_deg: Azimuth = faces("The way the board looks")
    tilt_deg: Tilt = Field(
        default=0, title="Tilt of the board", description="From level", json_schema_extra=asked("aim")
    )
    shape: Literal["plate", "disc"] = Field(
        default="plate", json_schema_extra=asked("size", options={"plate": "plate or block", "disc": "disc or lid"})
    )
    width_m: Annotated[Number, Field(ge=0.02, le=1)] = Field(
        default=0.1, title="Across", description="Of a sample", json_schema_extra=asked("size")
    )
    length_m: Annotated[Number, Field(ge=0.02, le=1)] = Field(
        default=0.1, title="Length up the slope", json_schema_extra=asked("size", only_with={"shape": ["plate"]})
    )
    board: list[WallLayer] = Field(
        min_length=1,
        max_length=4,
        title="Layers",
        description="From the samples outward",
        json_schema_extra=asked("board"),
    )
    board_finish: FinishChoice = Field(default="bare-wood", title="Its face", json_schema_extra=asked("board"))
    contact: Literal["lying", "spacers", "stood-off"] = Field(
        default="lying",
        title="The samples stand",
        json_schema_extra=asked(
            "board", options={"lying": "lying on it", "spacers": "on thin spacers", "stood-off": "on posts, free of it"}
        ),
    )
    spacing_m: Annotated[Number, Field(ge=0, le=0.5)] = Field(
        default=0.04, title="Between samples", description="And to the edge", json_schema_extra=asked("board")
    )
    columns: Annotated[Count, Field(ge=1, le=MOST_SAMPLES)] = Field(
        default=3, title="Places in a row", json_schema_extra=asked("board")
    )
    edges: Literal["open", "wrapped"] = Field(
        default="open",
        title="Its sides",
        json_schema_extra=asked("size", options={"open": "bare", "wrapped": "insulated"}),
    )
    cover: GlazedCover | None = Field(default=None, title="Cover", json_schema_extra=asked("cover"))
    air_space_m: Annotated[Number, Field(ge=0.005, le=0.3)] = Field(
        default=0.03, title="Sample to cover", description="Where there is one", json_schema_extra=asked("cover")
    )
    seal_gap_mm: GAP_MM = Field(
        default=0.5, title=GAP, description="Where there is one", json_schema_extra=asked("cover")
    )

    @property
    def sample_m2(self) -> float:
        """Sunlit face of one sample."""
        return math.pi / 4 * self.width_m**2 if self.shape == "disc" else self.width_m * self.length_m

    @property
    def sample_rim_m(self) -> float:
        """Length of a sample's edge."""
        return math.pi * self.width_m if self.shape == "disc" else 2 * (self.width_m + self.length_m)

    def slices_of(self, sample: Sample) -> list[float]:
        """Thickness of a sample's slices from the sunlit face in: one where it is thin or conducts well."""
        stuff = self.stuff_of(sample)
        whole = stuff.thickness_m
        if whole <= THICK_M or stuff.row.conductivity_w_mk > SLOW_W_MK:
            return [whole]
        return [whole * part / sum(SLICES) for part in SLICES]

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

    def as_a_wall(self) -> Self:
        """Sides wrapped, no gaps."""
        return self.with_(edges="wrapped", spacing_m=0.0)

    def place_of(self, name: str) -> str:
        """Row and column of a sample in words."""
        at = [sample.name for sample in self.samples].index(name)
        return f"row {at // self.columns + 1}, place {at % self.columns + 1}"


def shuffled(samples: list[Sample], seed: int) -> list[Sample]:
    """The samples in places drawn by lot, so that no finish has the edge of the board by habit; the same for one seed."""
    return random.Random(seed).sample(samples, len(samples))
