"""Water for tea: so much poured in at an hour, wanted hot by another, and perhaps again later in the day."""

from __future__ import annotations

import math
from collections.abc import Mapping
from typing import Annotated, ClassVar, Literal, Self

from pydantic import BaseModel, Field, model_validator

from drylamp.core.air.constants import CP_WATER_J_KGK
from drylamp.core.checks import Celsius, Hour, Model, Number
from drylamp.core.forms import asked
from drylamp.core.heat.law import Law
from drylamp.core.heat.parts import AIR, STEAM, Boiling, Link, Node
from drylamp.core.loads.calendar import Calendar, Visit
from drylamp.core.loads.common.body import Place
from drylamp.core.loads.common.filling import TOP, Filling
from drylamp.core.loads.common.places import POURED
from drylamp.core.loads.load import Load

MOUTH_SHARE = 0.05
"""How freely vapour leaves by a mouth with its stopper laid on; from memory."""
HELD_J_K = 1e10
"""Heat capacity of water that something else holds at its temperature."""
STEAM_ACCOUNT = "steam"


class Pour(Model):
    """One filling: when the water goes in, and when it is wanted."""

    goes_in: Hour = Field(default="08:30", title="Put out at")
    wanted_at: Hour = Field(default="10:00", title="Wanted by")

    @model_validator(mode="after")
    def _in_order(self) -> Pour:
        if self.wanted_at <= self.goes_in:
            raise ValueError(
                f"put out at {self.goes_in} and wanted by {self.wanted_at} was given; it has to be put out before"
            )
        return self


class KettleWater(Load):
    """Water to be boiled."""

    called: ClassVar[str] = "water for a kettle"
    sits: ClassVar[str] = POURED
    spoken_of: ClassVar[frozenset[str]] = frozenset(("water", "kettle", "tube"))
    door: ClassVar[str] = "Pour water in"
    planned: ClassVar[str] = "tea"
    wanted_by: ClassVar[str] = "16:00"
    brings_out: ClassVar[bool] = True

    kind: Literal["kettle-water"] = "kettle-water"
    fill_l: Annotated[Number, Field(ge=0.05, le=20)] = Field(default=0.6, title="Water in it")
    start_c: Annotated[Celsius, Field(ge=0, le=95)] = Field(default=15.0, title="Poured in at")
    target_c: Annotated[Celsius, Field(ge=30, le=99)] = Field(
        default=95.0, title="Wanted", description="95 for black tea, 70 to 80 for green"
    )
    pours: list[Pour] = Field(default=[Pour()], min_length=1, max_length=4, title="Put out")
    held_c: Annotated[Celsius, Field(ge=0, le=99)] | None = Field(
        default=None, description="Held at this temperature by something else, to see what heat it gets", json_schema_extra=asked(in_files_only=True)
    )  # fmt: skip

    @model_validator(mode="after")
    def _one_after_the_other(self) -> KettleWater:
        for before, later in zip(self.pours, self.pours[1:], strict=False):
            if later.goes_in < before.wanted_at:
                raise ValueError(
                    f"put out again at {later.goes_in}, before the water wanted by {before.wanted_at} was poured; give a later hour"
                )
        if self.target_c <= self.start_c and self.held_c is None:
            raise ValueError(
                f"water of {self.start_c:g} °C is as warm as the {self.target_c:g} °C wanted; there is nothing to heat"
            )
        return self

    def fresh(self, field: str) -> BaseModel:
        """Once more, two hours after the last."""
        if field != "pours":
            return super().fresh(field)
        hour = int(self.pours[-1].wanted_at[:2]) if self.pours else 8
        return Pour(goes_in=f"{min(hour + 2, 21):02d}:00", wanted_at=f"{min(hour + 4, 23):02d}:00")

    @property
    def title(self) -> str:
        """In words."""
        return "water"

    @property
    def filling(self) -> Filling:
        """All of it alike."""
        return Filling(self.fill_l, 1)

    @property
    def first_in(self) -> str:
        """When it is put out first."""
        return self.pours[0].goes_in

    @property
    def calendar(self) -> Calendar:
        """Poured out and filled anew at every further hour."""
        return Calendar("daily", visits=tuple(Visit(pour.goes_in, "drawn", self.fill_l) for pour in self.pours[1:]))

    def after(self, visit: Visit, temperature_c: Mapping[str, float], mains_c: float) -> dict[str, float]:
        """Fresh water."""
        return self.fresh_c if visit.kind == "drawn" else {}

    @property
    def judged(self) -> str:
        """The water."""
        return TOP

    @property
    def wanted_c(self) -> float:
        """As hot as the tea wants it."""
        return self.target_c

    @property
    def goods(self) -> frozenset[str]:
        """The water."""
        return frozenset((TOP,))

    @property
    def amount_kg(self) -> float:
        """A kilogram a litre."""
        return self.fill_l

    @property
    def water_kg(self) -> float | None:
        """All of it."""
        return self.fill_l

    @property
    def fresh_c(self) -> dict[str, float]:
        """As poured in."""
        return {TOP: self.start_c if self.held_c is None else self.held_c}

    def stages(self) -> list[tuple[str, Self]]:
        """All at once; what is filled again later is a visit."""
        return [(self.first_in, self)]

    def inside(self, place: Place) -> tuple[list[Node], list[Link]]:
        """The water, what boils off, and what leaves by the mouth, as wide as the place's floor."""
        if self.held_c is not None:
            return [Node(TOP, HELD_J_K, "water", role="wanted")], []
        mouth = math.pi / 4.0 * place.floor_m[0] ** 2
        links = [
            Link("boiling", Law.BOIL, TOP, STEAM, (), STEAM_ACCOUNT),
            Link("vapour", Law.EVAPORATE, TOP, AIR, (mouth, MOUTH_SHARE), STEAM_ACCOUNT),
        ]
        return [Node(TOP, self.fill_l * CP_WATER_J_KGK, "water", role="wanted", boils=Boiling(STEAM))], links


LOAD = KettleWater
