"""A glazed cover of one to three sheets: its fields, and its skins as light and heat meet them."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Annotated, ClassVar, Self

from pydantic import Field, model_validator

from drylamp.core import tables
from drylamp.core.checks import Count, Model, Number
from drylamp.core.forms import asked
from drylamp.core.optics.covers import Pane
from drylamp.core.tables import Cover, CoverChoice

SHEET_M = Annotated[Number, Field(ge=0.00001, le=0.02)]
GAP_M = Annotated[Number, Field(ge=0.003, le=0.1)]


@dataclass(frozen=True)
class Skin:
    """One skin of a cover: its material, thickness, the air gap to the next one outward, and how much more ribs in it carry than air alone."""

    row: Cover
    thickness_m: float
    gap_m: float
    ribs: float = 1.0


def as_usual(material: str | Cover) -> dict[str, float]:
    """As thick as that stuff usually is."""
    return {"thickness_m": tables.cover(material).usual_thickness_m}


class Sheet(Model):
    """One more sheet outside the others."""

    settling: ClassVar[frozenset[str]] = frozenset(("material",))

    material: CoverChoice = Field(title="Sheet")
    thickness_m: SHEET_M
    gap_m: GAP_M | None = Field(
        default=None, description="Air between it and the sheet inside it; as between the others where nothing is said",
        json_schema_extra=asked(in_files_only=True),
    )  # fmt: skip

    def settled(self, path: str) -> Self:
        """Other stuff comes as thick as it usually is."""
        return self.model_copy(update=as_usual(self.material)) if path == "material" else self


class GlazedCover(Model):
    """One to three sheets over the opening, alike or not."""

    settling: ClassVar[frozenset[str]] = frozenset(("material", "layers"))

    layers: Annotated[Count, Field(ge=1, le=3)] = Field(default=1, title="Sheets")
    material: CoverChoice = Field(default="window-glass", title="Sheet")
    thickness_m: SHEET_M = Field(default=0.004, description="Of one skin")
    gap_m: GAP_M = Field(default=0.015, title="Gap between sheets", description="Where there is more than one")
    more: list[Sheet] = Field(
        default_factory=list, max_length=2, title="Outside them", description="Sheets of other stuff, three in all"
    )

    def settled(self, path: str) -> Self:
        """Other stuff comes as thick as it usually is; more layers leave less room for sheets outside them."""
        if path == "layers":
            return self.model_copy(update={"more": self.more[: 3 - self.layers]})
        return self.model_copy(update=as_usual(self.material)) if path == "material" else self

    def fresh(self, field: str) -> Sheet:
        """A film, which is what people stretch outside a pane."""
        return Sheet(material="fep-film", thickness_m=0.00005)

    @model_validator(mode="after")
    def _not_too_many(self) -> GlazedCover:
        if self.layers + len(self.more) > 3:
            raise ValueError(f"{self.layers + len(self.more)} sheets were given; allowed are three in all")
        return self

    def made_of(self, material: str, layers: int) -> GlazedCover:
        """So many sheets of other stuff, as thick as it usually is, in the same frame."""
        return GlazedCover(material=material, layers=layers, gap_m=self.gap_m, **as_usual(material))

    @property
    def row(self) -> Cover:
        """Material of the innermost sheet."""
        return tables.cover(self.material)

    @property
    def skins(self) -> list[Skin]:
        """All skins from the innermost out; twin-wall sheets have two."""
        sheets = [(self.row, self.thickness_m)] * self.layers
        sheets += [(tables.cover(sheet.material), sheet.thickness_m) for sheet in self.more]
        gaps = [self.gap_m] * (self.layers - 1)
        gaps += [self.gap_m if sheet.gap_m is None else sheet.gap_m for sheet in self.more]
        out = []
        for (row, thickness_m), outward_m in zip(sheets, [*gaps, 0.0], strict=True):
            out += [Skin(row, thickness_m, row.skin_gap_m, row.rib_factor)] * (int(row.skins) - 1)
            out.append(Skin(row, thickness_m, outward_m))
        return out


def panes_of(skins: list[Skin]) -> list[Pane]:
    """Skins as optics sees them, from the outermost in; skins come from the innermost out."""
    return [Pane(skin.row.index, skin.row.extinction_per_m, skin.thickness_m) for skin in reversed(skins)]
