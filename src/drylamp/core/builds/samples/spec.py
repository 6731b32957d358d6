"""The spec of samples: side by side in the same sun, on a board in the open or as blocks under glass."""

from __future__ import annotations

import math
import random
from typing import Annotated, ClassVar, Literal, Self

from pydantic import BaseModel, Field, model_validator

from drylamp.core.builds.build import faces
from drylamp.core.builds.common.cover.covered import Covered
from drylamp.core.builds.common.cover.spec import GlazedCover
from drylamp.core.builds.common.seal.spec import GAP, GAP_MM
from drylamp.core.builds.common.side_by_side import MOST_SAMPLES, Sample, SideBySide
from drylamp.core.checks import Azimuth, Count, Number, Tilt, require
from drylamp.core.common.wall import WallLayer
from drylamp.core.forms import asked
from drylamp.core.loads.common.envelope import Envelope
from drylamp.core.tables import FinishChoice, absorber
from drylamp.core.text import metres

LYING: dict[str, str] = {"lying": "uneven", "paper": "paper", "wetted": "wetted", "glued": "glued"}
"""Samples that touch their board, by their row among contacts: dry, a plate or lid never lies close all over."""
STANDS_OFF_M: dict[str, float] = {"spacers": 0.006, "stood-off": 0.05}
"""Samples that do not, and how far from it they usually stand; common practice, no source."""
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
    contact: Literal["lying", "paper", "wetted", "glued", "spacers", "stood-off"] = Field(
        default="lying",
        title="The samples stand",
        json_schema_extra=asked(
            "board",
            options={
                "lying": "lying on it, dry", "paper": "on paper", "wetted": "with grease or water under them", "glued": "glued on",
                "spacers": "on thin spacers", "stood-off": "on posts, free of it",
            },
        ),
    )  # fmt: skip
    off_m: Annotated[Number, Field(ge=0.001, le=1)] | None = Field(
        default=None, title="So far off the board", description="Empty: as usual", json_schema_extra=asked("board", only_with={"contact": ["spacers", "stood-off"]})
    )  # fmt: skip
    backs: FinishChoice | None = Field(
        default=None, title="Their backs", description="Empty: bare, as the pieces are", json_schema_extra=asked("size", only_with={"contact": ["spacers", "stood-off"]})
    )  # fmt: skip
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
    over: Envelope | None = Field(
        default=None, title="Bag or bowl", description="One over each sample, in place of a cover over all", json_schema_extra=asked("cover")
    )  # fmt: skip

    @model_validator(mode="after")
    def _under_one_thing(self) -> Samples:
        if self.over is None:
            return self
        over, called = self.over, self.over.title
        require(
            self.cover is None,
            "over",
            "a bowl over each sample and a cover over all were given; allowed is one of the two: take one away",
        )
        require(
            over.diameter_m >= self.corner_m,
            "over.diameter_m",
            f"the {called} is {metres(over.diameter_m)} across, a sample {metres(self.corner_m)} from corner to corner; take a wider {called} or smaller samples",
        )
        require(
            over.diameter_m <= self.apart_m + 1e-9,
            "over.diameter_m",
            f"{called}s of {metres(over.diameter_m)} do not fit side by side where a sample lies every {metres(self.apart_m)}; "
            f"give them {metres(over.diameter_m - self.narrow_m)} between samples",
        )
        require(
            over.height_m > self.tops_m,
            "over.height_m",
            f"the {called} is {metres(over.height_m)} high, the samples reach {metres(self.tops_m)}; take a higher one",
        )
        return self

    def fresh(self, field: str) -> BaseModel:
        """A bowl is a little larger than what lies under it."""
        if field != "over":
            return super().fresh(field)
        return Envelope(diameter_m=round(self.corner_m + 0.02, 2), height_m=round(self.tops_m + 0.06, 2))

    def settled(self, path: str) -> Self:
        """Bowls take the place of a cover, and the room that they need."""
        if path != "over" or self.over is None:
            return super().settled(path)
        spacing_m = max(self.spacing_m, round(self.over.diameter_m - self.narrow_m, 3))
        return self.model_copy(update={"cover": None, "spacing_m": spacing_m})

    @property
    def tall_m(self) -> float:
        """How far a sample reaches up the slope."""
        return self.width_m if self.shape == "disc" else self.length_m

    @property
    def corner_m(self) -> float:
        """Widest across a sample."""
        return self.width_m if self.shape == "disc" else math.hypot(self.width_m, self.length_m)

    @property
    def narrow_m(self) -> float:
        """The narrower of its two sides, which neighbours come nearest along."""
        return min(self.width_m, self.tall_m)

    @property
    def apart_m(self) -> float:
        """From the middle of one sample to that of the next, where they lie closest."""
        return self.narrow_m + self.spacing_m

    @property
    def tops_m(self) -> float:
        """How far the thickest sample reaches off the board."""
        return (self.stands_off_m or 0.0) + max(self.stuff_of(sample).thickness_m for sample in self.samples)

    @property
    def stands_off_m(self) -> float | None:
        """How far from the board the samples' backs are; none where they touch it."""
        usual = STANDS_OFF_M.get(self.contact)
        return usual if usual is None or self.off_m is None else self.off_m

    def back_emittance(self, sample: Sample) -> float:
        """Of a sample's back, where it stands free."""
        return self.stuff_of(sample).row.emittance if self.backs is None else absorber(self.backs).emittance

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
    def across_m(self) -> float:
        """Its board."""
        return self.board_size_m[0]

    @property
    def board_size_m(self) -> tuple[float, float]:
        """Across and up the slope."""
        across = min(self.columns, len(self.samples))
        return (
            across * self.width_m + (across + 1) * self.spacing_m,
            self.rows * self.tall_m + (self.rows + 1) * self.spacing_m,
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

    @property
    def bowled_board_m2(self) -> float:
        """Of it, what lies under the bowls."""
        return 0.0 if self.over is None else len(self.samples) * max(self.over.foot_m2 - self.sample_m2, 0.0)

    def as_a_wall(self) -> Self:
        """Sides wrapped, no gaps."""
        return self.with_(edges="wrapped", spacing_m=0.0)

    def place_of(self, name: str) -> str:
        """Row and column of a sample in words."""
        at = [sample.name for sample in self.samples].index(name)
        return f"row {at // self.columns + 1}, place {at % self.columns + 1}"


def bowl_of(sample: Sample) -> str:
    """The twin's name for the bowl over a sample."""
    return f"{sample.node}-bowl"


def shuffled(samples: list[Sample], seed: int) -> list[Sample]:
    """The samples in places drawn by lot, so that no finish has the edge of the board by habit; the same for one seed."""
    return random.Random(seed).sample(samples, len(samples))
