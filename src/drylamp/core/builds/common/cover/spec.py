"""A glazed cover of one to three sheets: its fields, and its skins as light and heat meet them."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Annotated

from pydantic import Field, model_validator

from drylamp.core import tables
from drylamp.core.checks import Count, Model, Number
from drylamp.core.optics.covers import Pane
from drylamp.core.tables import Cover, CoverChoice

SHEET_M = Annotated[Number, Field(ge=0.00001, le=0.02)]


@dataclass(frozen=True)
class Skin:
    """One skin of a cover: its material, thickness, and the air gap to the next one outward."""

    row: Cover
    thickness_m: float
    gap_m: float


class Sheet(Model):
    """One more sheet outside the others."""

    material: CoverChoice
    thickness_m: SHEET_M


class GlazedCover(Model):
    """One to three sheets over the opening, alike or not."""

    material: CoverChoice = "window-glass"
    thickness_m: SHEET_M = Field(default=0.004, description="Of one skin")
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


def panes_of(skins: list[Skin]) -> list[Pane]:
    """Skins as optics sees them, from the outermost in; skins come from the innermost out."""
    return [Pane(skin.row.index, skin.row.extinction_per_m, skin.thickness_m) for skin in reversed(skins)]
