"""Water in a box or tank: how much, what is drawn of it when, and what one wants of it in the evening."""

from __future__ import annotations

from abc import ABC
from typing import TYPE_CHECKING, Annotated, ClassVar, Self

from pydantic import BaseModel, Field, model_validator

from drylamp.core.arrays import Array
from drylamp.core.checks import Celsius, Count, Hour, Number, Positive
from drylamp.core.loads.common.draws import Draw, drawn_kg_s
from drylamp.core.loads.common.fed import Fed
from drylamp.core.loads.common.filling import DRAWN, Filling
from drylamp.core.loads.common.tapped import Tapped

if TYPE_CHECKING:
    from drylamp.core.sky.site import Site
    from drylamp.core.sky.weather import Weather

SHOWER_L = 25.0
"""Litres at 40 °C of a short shower; common practice, no source."""
BATH_L = 120.0
"""And of a bath; common practice, no source."""


class KeptWater(Tapped, ABC):
    """Water that stands in a box or tank and is drawn by the hour."""

    spoken_of: ClassVar[frozenset[str]] = frozenset(("water", "tank"))
    planned: ClassVar[str] = "bath"
    wanted_by: ClassVar[str] = "19:00"
    tap: ClassVar[str] = DRAWN

    fill_l: Annotated[Positive, Field(le=5000)] = Field(default=60.0, title="Water in it")
    layers: Annotated[Count, Field(ge=1, le=10)] = Field(
        default=3, title="Layers", description="How finely top and bottom are told apart, 1 to 10"
    )
    start_c: Annotated[Celsius, Field(ge=0, le=95)] = Field(default=15.0, title="Filled at")
    warm_c: Annotated[Celsius, Field(ge=20, le=90)] = Field(default=40.0, title="Wanted at the tap")
    want_l: Annotated[Number, Field(gt=0, le=5000)] = Field(
        default=50.0, title="Litres wanted so warm", description="A short shower takes 25, a bath 120"
    )
    want_at: Hour = Field(default="19:00", title="By")
    draws: list[Draw] = Field(default_factory=list, max_length=12, title="Drawn each day")
    mains_c: Annotated[Celsius, Field(ge=0, le=40)] | None = Field(
        default=None, title="Cold water", description="Empty: the mains of the season"
    )

    @model_validator(mode="after")
    def _cold_is_colder(self) -> Self:
        if self.mains_c is not None and self.mains_c >= self.warm_c:
            raise ValueError(
                f"cold water of {self.mains_c:g} °C is no colder than the {self.warm_c:g} °C wanted; there is nothing to heat"
            )
        return self

    @model_validator(mode="after")
    def _no_more_than_there_is(self) -> Self:
        for draw in self.draws:
            if draw.take_l > self.fill_l:
                raise ValueError(
                    f"{draw.take_l:g} litres at {draw.at} are more than the {self.fill_l:g} litres in it, and all after that is cold; draw less, or fill more"
                )
        return self

    def fresh(self, field: str) -> BaseModel:
        """One more draw is a shower."""
        return Draw() if field == "draws" and not self.draws else super().fresh(field)

    @property
    def title(self) -> str:
        """In words."""
        return "water"

    @property
    def filling(self) -> Filling:
        """Its layers."""
        return Filling(self.fill_l, self.layers)

    def times(self, share: float) -> Self:
        """So many times as much of it."""
        return self.model_copy(update={"fill_l": self.fill_l * share})

    @property
    def goods(self) -> frozenset[str]:
        """All of it."""
        return frozenset(self.filling.names)

    @property
    def amount_kg(self) -> float:
        """A kilogram a litre."""
        return self.fill_l

    @property
    def asked_l_min(self) -> float:
        """The fastest of its draws."""
        return max((draw.l_min for draw in self.draws), default=0.0)

    @property
    def fresh_c(self) -> dict[str, float]:
        """As filled."""
        return dict.fromkeys(self.filling.names, self.start_c)

    def planned_kg_s(self, site: Site, weather: Weather) -> Array:
        """What is drawn by the hour."""
        return drawn_kg_s(site, weather, self.draws)

    def read_kg_s(self, read: Fed, weather: Weather) -> Array:
        """The tap was open while somebody read."""
        return read.while_it_ran_kg_s(weather)
