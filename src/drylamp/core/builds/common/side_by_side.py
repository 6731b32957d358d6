"""Builds that are several like things side by side in the same sun, one of them the control."""

from __future__ import annotations

from abc import abstractmethod
from typing import Annotated, Self

from pydantic import Field, model_validator

from drylamp.core.builds.build import Build
from drylamp.core.builds.common.wall.spec import WallLayer
from drylamp.core.checks import Count, Model, NotNegative
from drylamp.core.loads.load import Reader
from drylamp.core.tables import Absorber, FinishChoice, absorber

SAMPLE_NAME = Annotated[str, Field(pattern=r"^[a-z0-9]+(-[a-z0-9]+)*$", max_length=30)]
MOST_SAMPLES = 12


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


class SideBySide(Build):
    """Equal samples; their order is their place."""

    sheet: WallLayer = Field(
        default=WallLayer(material="sheet-steel", thickness_m=0.0003), description="What a sample is made of"
    )
    samples: list[Sample] = Field(min_length=2, max_length=MOST_SAMPLES)

    @model_validator(mode="after")
    def _told_apart(self) -> SideBySide:
        names = [sample.name for sample in self.samples]
        twice = sorted({name for name in names if names.count(name) > 1})
        if twice:
            raise ValueError(f"'{twice[0]}' names two samples; give each its own name")
        if sum(sample.is_control for sample in self.samples) > 1:
            raise ValueError("two samples are marked as control; mark one")
        return self

    def readers(self) -> dict[str, list[Reader]]:
        """Each sample."""
        return {"samples": [Reader(sample.name, sample.title, sample.node) for sample in self.samples]}

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
    def sample_kg(self) -> float:
        """Mass of one sample."""
        return self.sample_m2 * self.sheet.thickness_m * self.sheet.row.density_kg_m3

    @property
    @abstractmethod
    def slices_m(self) -> list[float]:
        """Thickness of a sample's slices from the sunlit face in, m; one where it has one temperature."""

    def slice_nodes(self, sample: Sample) -> list[str]:
        """Nodes of a sample from its sunlit face in."""
        return [sample.node] + [f"{sample.node}-{k + 2}" for k in range(len(self.slices_m) - 1)]
