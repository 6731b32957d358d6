"""A wall of layers from the inside out."""

from __future__ import annotations

from typing import Annotated, ClassVar, Self

from pydantic import Field

from drylamp.core import tables
from drylamp.core.checks import Model, Number
from drylamp.core.forms import asked
from drylamp.core.tables import Layer, LayerChoice

FOAM_LIKE_BELOW_W_MK = 0.08
"""What conducts less keeps heat in as foam, wool or straw does; from memory."""
THICKNESS = Annotated[Number, Field(ge=0.00001, le=0.5)]


class WallLayer(Model):
    """One layer of a wall."""

    settling: ClassVar[frozenset[str]] = frozenset(("material",))

    material: LayerChoice = Field(title="Of")
    thickness_m: THICKNESS
    r_m2k_w: Annotated[Number, Field(gt=0, le=50)] | None = Field(
        default=None, description="Its R value where that is known better than what it conducts, m²K/W", json_schema_extra=asked(in_files_only=True)
    )  # fmt: skip

    def settled(self, path: str) -> Self:
        """Other stuff comes as thick as it usually is."""
        return self.model_copy(update={"thickness_m": self.row.usual_thickness_m}) if path == "material" else self

    @property
    def row(self) -> Layer:
        """Its material."""
        return tables.layer(self.material)

    @property
    def resistance_m2k_w(self) -> float:
        """As typed, or its thickness by what it conducts."""
        return self.thickness_m / self.row.conductivity_w_mk if self.r_m2k_w is None else self.r_m2k_w

    @property
    def is_foam_like(self) -> bool:
        """Whether it is there to keep heat in."""
        return self.row.conductivity_w_mk < FOAM_LIKE_BELOW_W_MK


Wall = Annotated[list[WallLayer], Field(min_length=1, max_length=6)]


def wall_thickness_m(wall: list[WallLayer]) -> float:
    """All layers together, m."""
    return sum(layer.thickness_m for layer in wall)


def wall_w_m2k(wall: list[WallLayer]) -> float:
    """Conductance of the layers, films left out, W/m²K."""
    return 1.0 / sum(part.resistance_m2k_w for part in wall)


def wall_j_m2k(wall: list[WallLayer]) -> float:
    """Heat capacity of the layers, J/m²K."""
    return sum(p.thickness_m * p.row.density_kg_m3 * p.row.cp_j_kgk for p in wall)
