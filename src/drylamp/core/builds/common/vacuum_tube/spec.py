"""An evacuated tube: two glasses melted together at the mouth, the inner one coated, nothing between them."""

from __future__ import annotations

import math
from typing import Annotated, ClassVar, Literal

from pydantic import Field, model_validator

from drylamp.core.builds.common.round.links import between_cylinders
from drylamp.core.checks import Model, Number, require
from drylamp.core.forms import asked
from drylamp.core.optics.covers import Pane
from drylamp.core.tables import Absorber, Cover, CoverChoice, FinishChoice, absorber, cover

MM = 1000.0


class VacuumTube(Model):
    """An evacuated tube."""

    settling: ClassVar[frozenset[str]] = frozenset()

    outer_mm: Annotated[Number, Field(ge=15, le=200)] = Field(default=58.0, title="Outer glass, wide")
    inner_mm: Annotated[Number, Field(ge=10, le=190)] = Field(
        default=47.0, title="Inner glass, wide", description="Outside of it, where the coat is"
    )
    wall_mm: Annotated[Number, Field(ge=0.5, le=6)] = Field(default=1.6, title="Glass, thick")
    lit_m: Annotated[Number, Field(ge=0.1, le=3)] = Field(default=0.5, title="Lit length")
    ends_m: Annotated[Number, Field(ge=0, le=0.5)] = Field(
        default=0.04, title="Unlit ends", description="Both together: in foot and holder"
    )
    glass: CoverChoice = Field(default="borosilicate-tube", title="Glass")
    coat: FinishChoice = Field(default="vacuum-tube-coat", title="Coat")
    getter: Literal["silver", "white"] = Field(
        default="silver", title="Spot at its closed end",
        json_schema_extra=asked(options={"silver": "silver: the vacuum holds", "white": "white: the vacuum is gone"}),
    )  # fmt: skip
    end_w_k: Annotated[Number, Field(ge=0, le=5)] = Field(
        default=0.1, title="Lost at its mouth", description="Through neck and stopper"
    )
    vacuum_w_mk: Annotated[Number, Field(ge=0, le=2)] = Field(
        default=0.0, description="Through the vacuum beside what the coat shines, W/K for each metre: clips, poor vacuum",
        json_schema_extra=asked(in_files_only=True),
    )  # fmt: skip
    index: Annotated[Number, Field(ge=1, le=2.5)] | None = Field(
        default=None, description="Refractive index of the glass, where that is known better", json_schema_extra=asked(in_files_only=True)
    )  # fmt: skip
    emittance: Annotated[Number, Field(ge=0.01, le=1)] | None = Field(
        default=None, description="Of the coat, where that is known better than by its row", json_schema_extra=asked(in_files_only=True)
    )  # fmt: skip
    heat_j_k: Annotated[Number, Field(gt=0, le=1e5)] | None = Field(
        default=None, description="Heat capacity of the inner glass and all that gets warm with it, where that is known, J/K",
        json_schema_extra=asked(in_files_only=True),
    )  # fmt: skip

    @model_validator(mode="after")
    def _one_inside_the_other(self) -> VacuumTube:
        room = (self.outer_mm - self.inner_mm) / 2.0
        require(
            room >= self.wall_mm + 0.5, "outer_mm",
            f"{self.outer_mm:g} mm was given round an inner glass of {self.inner_mm:g} mm; with glass {self.wall_mm:g} mm thick the outer one is at least "
            f"{self.inner_mm + 2.0 * self.wall_mm + 1.0:g} mm wide",
        )  # fmt: skip
        require(
            self.bore_m > 0.004, "wall_mm",
            f"{self.wall_mm:g} mm was given for an inner glass of {self.inner_mm:g} mm; that leaves no bore, so give thinner glass",
        )  # fmt: skip
        return self

    @property
    def row(self) -> Cover:
        """Its glass."""
        return cover(self.glass)

    @property
    def coat_row(self) -> Absorber:
        """Its coat."""
        row = absorber(self.coat)
        return row if self.emittance is None else row.model_copy(update={"emittance": self.emittance})

    @property
    def pane(self) -> Pane:
        """The outer glass as light meets it."""
        index = self.row.index if self.index is None else self.index
        return Pane(index, self.row.extinction_per_m, self.wall_mm / MM)

    @property
    def outer_m(self) -> float:
        """Outside of the outer glass."""
        return self.outer_mm / MM

    @property
    def inner_m(self) -> float:
        """Outside of the inner one."""
        return self.inner_mm / MM

    @property
    def bore_m(self) -> float:
        """Inside of the inner one."""
        return (self.inner_mm - 2.0 * self.wall_mm) / MM

    @property
    def length_m(self) -> float:
        """Lit and unlit."""
        return self.lit_m + self.ends_m

    @property
    def holds_l(self) -> float:
        """Litres that fill it to the mouth."""
        return 1000.0 * math.pi / 4.0 * self.bore_m**2 * self.length_m

    @property
    def coat_m2(self) -> float:
        """Coated surface."""
        return math.pi * self.inner_m * self.length_m

    @property
    def skin_m2(self) -> float:
        """Outside of the outer glass."""
        return math.pi * self.outer_m * self.length_m

    @property
    def shines_m2(self) -> float:
        """Area of a black body in a black hull that would lose as much by long-wave as the coat to its glass."""
        return self.coat_m2 * between_cylinders(
            self.coat_row.emittance, self.row.emittance, self.inner_mm / self.outer_mm
        )

    def _glass_kg(self, wide_m: float) -> float:
        return self.row.density_kg_m3 * math.pi * (wide_m - self.wall_mm / MM) * self.wall_mm / MM * self.length_m

    @property
    def glass_kg(self) -> float:
        """Both glasses."""
        return self._glass_kg(self.inner_m) + self._glass_kg(self.outer_m)

    @property
    def coat_j_k(self) -> float:
        """Heat capacity of the inner glass."""
        return self._glass_kg(self.inner_m) * self.row.cp_j_kgk if self.heat_j_k is None else self.heat_j_k

    @property
    def glass_j_k(self) -> float:
        """Of the outer one."""
        return self._glass_kg(self.outer_m) * self.row.cp_j_kgk

    @property
    def sound(self) -> bool:
        """Whether its vacuum holds."""
        return self.getter == "silver"
