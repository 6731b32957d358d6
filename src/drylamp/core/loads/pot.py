"""A pot and what is in it."""

from __future__ import annotations

import math
from typing import Annotated, Literal

from pydantic import Field, field_validator, model_validator

from drylamp.core.checks import Celsius, Model, NotNegative, Number
from drylamp.core.tables import Absorber, FinishChoice, Food, absorber, find, foods

POT_CP_J_KGK = 500.0
"""Steel, iron and enamel alike (450–500 J/kg·K), from memory."""
CLEAR_LID_SHARE = 0.85
"""Sun through a clear lid, from memory."""
FOOD_ABSORPTANCE = 0.90
"""Wet food, from memory."""
INNER_FILM_W_M2K = 250.0
"""Pot wall to stirred-by-itself contents (natural convection in water, 150–500), from memory."""
FOOT_W_M2K = 25.0
"""Pot standing on a metal tray: thin air gap and touching points, from memory."""

HHMM = r"^([01]\d|2[0-3]):[0-5]\d$"


class PotLoad(Model):
    """A pot of food: what, how much, in what, when it goes in and what is wanted of it."""

    kind: Literal["pot"] = "pot"
    food: str = "water"
    food_kg: Annotated[Number, Field(gt=0, le=50)] = 1.5
    start_c: Annotated[Celsius, Field(ge=0, le=95)] = 20.0
    pot_kg: Annotated[Number, Field(gt=0, le=30)] = 0.9
    pot_finish: FinishChoice = "black-enamel"
    pot_diameter_m: Annotated[Number, Field(gt=0.02, le=1)] = 0.20
    pot_height_m: Annotated[Number, Field(gt=0.01, le=1)] = 0.12
    lid: Literal["black", "clear", "none"] = "black"
    goes_in: Annotated[str, Field(pattern=HHMM)] = "10:30"
    target_c: Annotated[Celsius, Field(gt=0, le=200)] | None = None
    hold_minutes: NotNegative | None = None

    @field_validator("food")
    @classmethod
    def _known_food(cls, name: str) -> str:
        find(foods(), name, "food")
        return name

    @model_validator(mode="after")
    def _fits(self) -> PotLoad:
        litres = self.food_kg / self.contents.density_kg_m3 * 1000
        holds = math.pi / 4 * self.pot_diameter_m**2 * self.pot_height_m * 1000
        if litres > holds * 1.02:
            raise ValueError(
                f"food_kg {self.food_kg:g} ({litres:.1f} L) does not fit a pot that holds {holds:.1f} L; "
                "take less food or a larger pot"
            )
        return self

    @property
    def contents(self) -> Food:
        """The food's row."""
        return foods()[self.food]

    @property
    def finish(self) -> Absorber:
        """The pot's surface."""
        return absorber(self.pot_finish)

    @property
    def wanted_c(self) -> float:
        """Target: the user's, else the food's own."""
        return self.contents.target_c if self.target_c is None else self.target_c

    @property
    def wanted_minutes(self) -> float:
        """Minutes to hold the target: the user's, else the food's own."""
        return self.contents.hold_minutes if self.hold_minutes is None else self.hold_minutes

    @property
    def food_capacity_j_k(self) -> float:
        """Heat capacity of the contents."""
        return self.food_kg * self.contents.cp_j_kgk

    @property
    def pot_capacity_j_k(self) -> float:
        """Heat capacity of pot and lid."""
        return self.pot_kg * POT_CP_J_KGK

    @property
    def top_m2(self) -> float:
        """Area of the lid or of the open food."""
        return math.pi / 4 * self.pot_diameter_m**2

    @property
    def side_m2(self) -> float:
        """Area of the side."""
        return math.pi * self.pot_diameter_m * self.pot_height_m

    @property
    def wetted_m2(self) -> float:
        """Area that the contents touch."""
        depth = self.food_kg / self.contents.density_kg_m3 / self.top_m2
        return self.top_m2 + math.pi * self.pot_diameter_m * min(depth, self.pot_height_m)

    @property
    def absorptance(self) -> float:
        """Of side and top together, by area."""
        top = {
            "black": self.finish.absorptance,
            "clear": CLEAR_LID_SHARE * FOOD_ABSORPTANCE,
            "none": FOOD_ABSORPTANCE,
        }
        return self._by_area(self.finish.absorptance, top[self.lid])

    @property
    def emittance(self) -> float:
        """Of side and top together, by area."""
        top = {"black": self.finish.emittance, "clear": 0.88, "none": 0.95}
        return self._by_area(self.finish.emittance, top[self.lid])

    @property
    def free_share(self) -> float:
        """How freely vapour leaves: 1 without a lid; a lid lets about 1/50 by (from memory)."""
        return 1.0 if self.lid == "none" else 0.02

    def _by_area(self, side: float, top: float) -> float:
        return (side * self.side_m2 + top * self.top_m2) / (self.side_m2 + self.top_m2)
