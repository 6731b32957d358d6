"""Builds that are several like things side by side in the same sun, one of them the control."""

from __future__ import annotations

from abc import abstractmethod
from itertools import count
from typing import Annotated, ClassVar, Self

from pydantic import BaseModel, Field, model_validator

from drylamp.core.builds.build import Build
from drylamp.core.checks import Count, Model, NotNegative, Number, YesNo
from drylamp.core.common.wall import WallLayer
from drylamp.core.forms import asked
from drylamp.core.loads.load import Reader
from drylamp.core.tables import Absorber, FinishChoice, absorber

SAMPLE_NAME = Annotated[str, Field(pattern=r"^[a-z0-9]+(-[a-z0-9]+)*$", max_length=30)]
MOST_SAMPLES = 12
SAMPLES = "samples"
"""The field that holds them, and the word that a protocol has for each of them."""
BOARD = "board"
"""Node of what they lie on."""


class Sample(Model):
    """One sample: its finish, how many coats of it, and what those cost."""

    settling: ClassVar[frozenset[str]] = frozenset(("is_control", "coats", "tin_price", "tin_covers_m2"))

    title: Annotated[str, Field(min_length=1, max_length=60)] = Field(title="Called")
    name: SAMPLE_NAME = Field(title="Mark on its back", description="Short, no blanks")
    finish: FinishChoice
    coats: Annotated[Count, Field(ge=0, le=8)] = 2
    tin_price: NotNegative | None = Field(
        default=None, title="A tin or bottle costs", description="Then its price follows"
    )
    tin_covers_m2: Annotated[Number, Field(gt=0, le=1000)] | None = Field(
        default=None, title="And covers, once", description="As its label says"
    )
    price_m2: NotNegative = Field(
        default=0.0, title="Price at these coats", description="Of a square metre, primer included"
    )
    stuff: WallLayer | None = Field(
        default=None, title="Piece of its own", description="Where it is not made as the others"
    )
    is_control: YesNo = Field(default=False, title="this is the control")

    @property
    def priced(self) -> Self:
        """With the price of its coats, where a tin and what it covers were typed."""
        if self.tin_price is None or self.tin_covers_m2 is None:
            return self
        return self.model_copy(update={"price_m2": round(self.coats * self.tin_price / self.tin_covers_m2, 2)})

    @property
    def row(self) -> Absorber:
        """Its surface."""
        return absorber(self.finish)

    @property
    def node(self) -> str:
        """The twin's name for its sunlit face."""
        return f"sample-{self.name}"


class SideBySide(Build):
    """Equal samples; their order is their place."""

    samples: list[Sample] = Field(
        min_length=2, max_length=MOST_SAMPLES, title="As they lie", json_schema_extra=asked("sample")
    )
    sheet: WallLayer = Field(
        default=WallLayer(material="sheet-steel", thickness_m=0.0003), title="Made of", json_schema_extra=asked("size")
    )

    @model_validator(mode="after")
    def _told_apart(self) -> SideBySide:
        names = [sample.name for sample in self.samples]
        twice = sorted({name for name in names if names.count(name) > 1})
        if twice:
            raise ValueError(f"'{twice[0]}' names two samples; give each its own name")
        if sum(sample.is_control for sample in self.samples) > 1:
            raise ValueError("two samples are marked as control; mark one")
        return self

    def settled(self, path: str) -> Self:
        """There is one control; a tin's price and what it covers make that of a square metre."""
        list_of, _, rest = path.partition(".")
        at, _, field = rest.partition(".")
        if list_of == SAMPLES and field in ("coats", "tin_price", "tin_covers_m2"):
            return self.model_copy(
                update={SAMPLES: [s.priced if k == int(at) else s for k, s in enumerate(self.samples)]}
            )
        if list_of != SAMPLES or field != "is_control" or not self.samples[int(at)].is_control:
            return self
        only = [s.model_copy(update={"is_control": k == int(at)}) for k, s in enumerate(self.samples)]
        return self.model_copy(update={SAMPLES: only})

    def stuff_of(self, sample: Sample) -> WallLayer:
        """What a sample is made of: its own piece, else as the others."""
        return sample.stuff or self.sheet

    def fresh(self, field: str) -> BaseModel:
        """One more sample has a mark that none has yet."""
        if field != SAMPLES:
            return super().fresh(field)
        number = next(n for n in count(len(self.samples) + 1) if f"sample-{n}" not in {s.name for s in self.samples})
        return Sample(name=f"sample-{number}", title=f"sample {number}", finish="flat-black-paint")

    def readers(self) -> dict[str, list[Reader]]:
        """Each sample."""
        return {SAMPLES: [Reader(sample.name, sample.title, sample.node) for sample in self.samples]}

    @property
    def walk(self) -> list[str]:
        """The samples as they lie, then the board."""
        return [*(sample.node for sample in self.samples), BOARD]

    @property
    def side_by_side(self) -> SideBySide:
        """Itself."""
        return self

    @property
    def control(self) -> Sample:
        """What the others are held against: the marked sample, else the first."""
        return next((sample for sample in self.samples if sample.is_control), self.samples[0])

    @property
    @abstractmethod
    def sample_m2(self) -> float:
        """Sunlit face of one sample."""

    @abstractmethod
    def place_of(self, name: str) -> str:
        """Where a sample lies, in words."""

    @abstractmethod
    def as_a_wall(self) -> Self:
        """The same samples joined to a wall without gaps, where they are thick enough for one."""

    @property
    def samples_kg(self) -> float:
        """Mass of all samples."""
        return sum(
            self.sample_m2 * stuff.thickness_m * stuff.row.density_kg_m3 for stuff in map(self.stuff_of, self.samples)
        )

    @abstractmethod
    def slices_of(self, sample: Sample) -> list[float]:
        """Thickness of a sample's slices from the sunlit face in, m; one where it has one temperature."""

    def slice_nodes(self, sample: Sample) -> list[str]:
        """Nodes of a sample from its sunlit face in."""
        return [sample.node] + [f"{sample.node}-{k + 2}" for k in range(len(self.slices_of(sample)) - 1)]
