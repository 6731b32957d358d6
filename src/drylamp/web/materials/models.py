"""The shelf over the wire."""

from __future__ import annotations

from typing import Literal

from pydantic import Field, model_validator

from drylamp.core.checks import Model
from drylamp.core.forms import FieldForm
from drylamp.core.shelf_curve import Does
from drylamp.core.tables import Absorber, Cover, Food, Layer, Mirror, Pipe, Row, Sweet, Vessel, Wax
from drylamp.core.text import Sentence

FamilyName = Literal["absorber", "cover", "mirror", "layer"]


class OwnMaterial(Model):
    """Where a user's own material stands in the store; its row is among the others of its family."""

    id: int
    family: FamilyName
    name: str
    revision: int


class Materials(Model):
    """All tables, a user's own materials after the listed ones."""

    absorbers: list[Absorber]
    covers: list[Cover]
    mirrors: list[Mirror]
    layers: list[Layer]
    foods: list[Food]
    vessels: list[Vessel]
    sweets: list[Sweet]
    waxes: list[Wax]
    pipes: list[Pipe]
    own: list[OwnMaterial]
    forms: dict[FamilyName, list[FieldForm]] = Field(description="What may be typed into a row of each family")
    says: dict[str, Sentence] = Field(
        description="A sentence on each row, by family or table and name: absorber/black-card"
    )
    does: dict[str, Does] = Field(description="A curve of what each does, by family and name")
    lets_through: dict[str, float] = Field(description="Of each cover, one usual sheet with the sun square on it")


class NewMaterial(Model):
    """A user's own material: one of the four kinds of row."""

    absorber: Absorber | None = None
    cover: Cover | None = None
    mirror: Mirror | None = None
    layer: Layer | None = None

    @model_validator(mode="after")
    def _one(self) -> NewMaterial:
        if len(self.given) != 1:
            raise ValueError("give one of absorber, cover, mirror, layer")
        return self

    @property
    def given(self) -> dict[FamilyName, Row]:
        """The row by its family."""
        rows: dict[FamilyName, Row | None] = {
            "absorber": self.absorber,
            "cover": self.cover,
            "mirror": self.mirror,
            "layer": self.layer,
        }
        return {family: row for family, row in rows.items() if row is not None}
