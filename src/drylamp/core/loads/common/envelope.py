"""The bowl or bag that may stand over a load."""

from __future__ import annotations

import math
from typing import Annotated, ClassVar, Self

from pydantic import Field

from drylamp.core import tables
from drylamp.core.checks import Model, Number
from drylamp.core.loads.common.outline import Outline
from drylamp.core.optics.covers import Pane
from drylamp.core.tables import Cover, CoverChoice

FOG_SHARE = 0.08
"""Light that a wholly fogged sheet takes away; from memory (5–10 %)."""


class Envelope(Model):
    """A bowl or a bag over the load; stands on the same floor."""

    settling: ClassVar[frozenset[str]] = frozenset(("material",))

    material: CoverChoice = Field(default="borosilicate-bowl", title="Bag or bowl of")
    thickness_m: Annotated[Number, Field(ge=0.00001, le=0.02)] = 0.005
    diameter_m: Annotated[Number, Field(ge=0.05, le=1)] = Field(default=0.28, title="Across")
    height_m: Annotated[Number, Field(ge=0.02, le=1)] = Field(default=0.16, title="High")

    def settled(self, path: str) -> Self:
        """Other stuff comes as thick as it usually is."""
        return self.model_copy(update={"thickness_m": self.row.usual_thickness_m}) if path == "material" else self

    @property
    def row(self) -> Cover:
        """Its material."""
        return tables.cover(self.material)

    @property
    def pane(self) -> Pane:
        """What light meets on its way in."""
        return Pane(self.row.index, self.row.extinction_per_m, self.thickness_m)

    @property
    def emittance(self) -> float:
        """How well it gives off heat; never so little that an exchange divides by nothing."""
        return max(self.row.emittance, 0.05)

    @property
    def title(self) -> str:
        """What people call it."""
        return "bowl" if self.thickness_m > 0.001 else "bag"

    @property
    def hull_m2(self) -> float:
        """Area of side and top."""
        return math.pi * self.diameter_m * (self.height_m + self.diameter_m / 4)

    @property
    def foot_m2(self) -> float:
        """Floor under it."""
        return math.pi / 4 * self.diameter_m**2


def envelope_outlines(under: Envelope | None) -> list[Outline]:
    """The bag or bowl in the section, where there is one."""
    if under is None:
        return []
    return [Outline("glass-line", under.title, under.diameter_m, under.height_m, open_foot=True)]
