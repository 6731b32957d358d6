"""A food that is typed by its own numbers."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field, model_validator

from drylamp.core.checks import Celsius, Fraction, Model, Positive, require


class Gab(Model):
    """The three numbers of a GAB isotherm: water of the first layer kg/kg, C and K."""

    monolayer: Annotated[Positive, Field(le=1)]
    bound: Annotated[Positive, Field(le=500)]
    multi: Annotated[Positive, Field(lt=1.1)]


class OwnFood(Model):
    """A food that no row of the table knows, by its own numbers."""

    name: Annotated[str, Field(min_length=1, max_length=40)] = "own food"
    group: Literal["fruit", "vegetable", "leaf", "mushroom", "meat"] = "fruit"
    fresh_wb: Annotated[Fraction, Field(gt=0.02, lt=0.99)]
    safe_wb: Annotated[Fraction, Field(gt=0.0, lt=0.9)]
    thick_m: Annotated[Positive, Field(le=0.06)]
    hours: Annotated[Positive, Field(le=500)] = Field(
        description="To dry it in moving air at ``at_c``, as in a dehydrator"
    )
    at_c: Annotated[Celsius, Field(ge=20, le=90)] = 58.0
    m2_per_kg: Annotated[Positive, Field(le=50)] | None = Field(
        default=None, description="Area that it shows to the air, fresh; empty: of a slab"
    )
    isotherm: Gab | None = Field(default=None, description="How damp it rests in damp air; empty: as its group does")
    low_c: Celsius = 45.0
    high_c: Celsius = 65.0

    @model_validator(mode="after")
    def _can_be_dried(self) -> OwnFood:
        require(
            self.safe_wb < self.fresh_wb,
            "safe_wb",
            f"{self.safe_wb:g} was given; allowed is below fresh_wb {self.fresh_wb:g}",
        )
        return self
