"""Water in a pipe in the sun: what runs through it between which hours, and what is drawn of it at once."""

from __future__ import annotations

from typing import TYPE_CHECKING, Annotated, ClassVar, Literal, Self

from pydantic import BaseModel, Field, model_validator

from drylamp.core.arrays import Array
from drylamp.core.checks import Celsius, Hour, Number
from drylamp.core.loads.common.draws import Draw, Running, drawn_kg_s, running_kg_s
from drylamp.core.loads.common.fed import Fed
from drylamp.core.loads.common.filling import TOP
from drylamp.core.loads.common.places import FLOWING
from drylamp.core.loads.common.tapped import Tapped

if TYPE_CHECKING:
    from drylamp.core.sky.site import Site
    from drylamp.core.sky.weather import Weather


class RunningWater(Tapped):
    """What runs through a pipe, and what is drawn from it."""

    called: ClassVar[str] = "running water"
    sits: ClassVar[str] = FLOWING
    spoken_of: ClassVar[frozenset[str]] = frozenset(("water", "outlet", "hose"))
    door: ClassVar[str] = "Let water into it"
    planned: ClassVar[str] = "washing"
    wanted_by: ClassVar[str] = "17:00"
    tap: ClassVar[str] = TOP

    kind: Literal["running-water"] = "running-water"
    running: list[Running] = Field(
        default_factory=lambda: [Running()],
        max_length=12,
        title="Runs each day",
        description="None: it stands until it is drawn",
    )
    draws: list[Draw] = Field(default_factory=list, max_length=12, title="Drawn each day, beside that")
    start_c: Annotated[Celsius, Field(ge=0, le=95)] = Field(default=15.0, title="Filled at")
    warm_c: Annotated[Celsius, Field(ge=20, le=90)] = Field(default=40.0, title="Wanted at the tap")
    want_l: Annotated[Number, Field(gt=0, le=5000)] = Field(default=40.0, title="Litres wanted so warm, a day")
    want_at: Hour = Field(default="17:00", title="By")
    mains_c: Annotated[Celsius, Field(ge=0, le=60)] | None = Field(
        default=None, title="Comes in at", description="Empty: the mains of the season"
    )
    head_m: Annotated[Number, Field(ge=0.05, le=100)] | None = Field(
        default=None, title="Barrel over the outlet", description="Height of its water; empty: from the mains"
    )

    @model_validator(mode="after")
    def _cold_is_colder(self) -> Self:
        if self.mains_c is not None and self.mains_c >= self.warm_c:
            raise ValueError(
                f"water that comes in at {self.mains_c:g} °C is no colder than the {self.warm_c:g} °C wanted"
            )
        return self

    def fresh(self, field: str) -> BaseModel:
        """One more of each is the usual one."""
        usual: dict[str, type[BaseModel]] = {"draws": Draw, "running": Running}
        return usual[field]() if field in usual and not getattr(self, field) else super().fresh(field)

    @property
    def title(self) -> str:
        """In words."""
        return "running water"

    @property
    def goods(self) -> frozenset[str]:
        """Water in pipes is no node; it is counted where it flows."""
        return frozenset((TOP,))

    @property
    def amount_kg(self) -> float:
        """What runs through and is drawn in a day."""
        runs = sum(part.l_min * _minutes(part) for part in self.running)
        return runs + sum(draw.take_l for draw in self.draws)

    def at_flow(self, l_min: float) -> Self:
        """Running day and night."""
        return self.model_copy(update={"running": [Running(begins="00:00", ends="00:00", l_min=l_min)], "draws": []})

    @property
    def flow_l_min(self) -> float | None:
        """Of its first hours."""
        return self.running[0].l_min if self.running else None

    @property
    def asked_l_min(self) -> float:
        """The fastest of its hours and draws."""
        return max([*(part.l_min for part in self.running), *(draw.l_min for draw in self.draws)], default=0.0)

    @property
    def barrel_m(self) -> float | None:
        """As typed."""
        return self.head_m

    @property
    def fresh_c(self) -> dict[str, float]:
        """The water as filled; the pipe's own walls begin with the air."""
        return {TOP: self.start_c}

    def planned_kg_s(self, site: Site, weather: Weather) -> Array:
        """What runs and what is drawn by the hour."""
        return running_kg_s(site, weather, self.running) + drawn_kg_s(site, weather, self.draws)

    def read_kg_s(self, read: Fed, weather: Weather) -> Array:
        """It ran before somebody read it, and after."""
        return read.always_kg_s(weather)


def _minutes(part: Running) -> float:
    begins, ends = (60.0 * int(hour[:2]) + int(hour[3:]) for hour in (part.begins, part.ends))
    return (ends - begins) % 1440.0 or 1440.0


LOAD = RunningWater
