"""A coil of hose or pipe: its stuff, bore, wall and length."""

from __future__ import annotations

import math
from typing import Annotated, ClassVar, Self

from pydantic import Field, model_validator

from drylamp.core import tables
from drylamp.core.checks import Model, Number
from drylamp.core.forms import asked
from drylamp.core.tables import Pipe, PipeChoice

LONGEST_M = 400
LIME_W_MK = 1.0
"""Scale from hard water; a handbook value."""


class Coil(Model):
    """A pipe by its bore and outside."""

    settling: ClassVar[frozenset[str]] = frozenset(("material",))

    material: PipeChoice = Field(default="multilayer", title="Pipe", json_schema_extra=asked(table="pipes"))
    pipe_m: Annotated[Number, Field(gt=0, le=LONGEST_M)] = Field(default=25.0, title="Length")
    bore_mm: Annotated[Number, Field(ge=3, le=60)] = Field(default=12.0, title="Inside diameter")
    outer_mm: Annotated[Number, Field(ge=4, le=80)] = Field(default=16.0, title="Outside diameter")

    lime_mm: Annotated[Number, Field(ge=0, le=20)] = Field(
        default=0.0, title="Lime inside it", description="Scale from hard water"
    )

    @model_validator(mode="after")
    def _has_a_wall(self) -> Self:
        if self.outer_mm <= self.bore_mm:
            raise ValueError(
                f"outer_mm {self.outer_mm:g} is not above bore_mm {self.bore_mm:g}; measure across the outside and across the hole"
            )
        if 2.0 * self.lime_mm >= self.bore_mm:
            raise ValueError(
                f"lime_mm {self.lime_mm:g} closes a bore of {self.bore_mm:g} mm; less than half of it is left open to water"
            )
        return self

    @property
    def free_mm(self) -> float:
        """Bore that lime leaves open."""
        return self.bore_mm - 2.0 * self.lime_mm

    @property
    def skin_w_mk(self) -> float:
        """Conductivity of pipe and lime together, as one wall from the free bore to the outside (cylinders in a row)."""
        pipe = math.log(self.outer_mm / self.bore_mm) / self.row.conductivity_w_mk
        lime = math.log(self.bore_mm / self.free_mm) / LIME_W_MK
        return math.log(self.outer_mm / self.free_mm) / (pipe + lime)

    @property
    def row(self) -> Pipe:
        """Its stuff."""
        return tables.pipes()[self.material] if isinstance(self.material, str) else self.material

    @property
    def wall_m(self) -> float:
        """Thickness of its wall."""
        return (self.outer_mm - self.bore_mm) / 2000.0

    @property
    def outer_m2_m(self) -> float:
        """Outer area of a metre."""
        return math.pi * self.outer_mm / 1000.0

    @property
    def wall_kg_m(self) -> float:
        """What a metre of its wall weighs."""
        area = math.pi / 4.0 * ((self.outer_mm / 1000.0) ** 2 - (self.bore_mm / 1000.0) ** 2)
        return area * self.row.density_kg_m3

    @property
    def wall_j_mk(self) -> float:
        """Heat that a metre of its wall holds, J/K."""
        return self.wall_kg_m * self.row.cp_j_kgk

    @property
    def filled_kg(self) -> float:
        """What it weighs with water in it."""
        return self.water_l + self.wall_kg_m * self.pipe_m

    @property
    def water_l(self) -> float:
        """What it holds, litres."""
        return math.pi / 4.0 * (self.free_mm / 10.0) ** 2 * self.pipe_m / 10.0
