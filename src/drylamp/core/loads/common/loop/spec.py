"""A loop: pipes there and back, a pump or none, and what lets it run."""

from __future__ import annotations

import math
from abc import ABC
from typing import TYPE_CHECKING, Annotated, ClassVar, Literal, Self

import numpy as np
from pydantic import BaseModel, Field, PrivateAttr, model_validator

from drylamp.core.arrays import Array
from drylamp.core.checks import Azimuth, Celsius, Count, Fraction, Hour, Model, Number, YesNo
from drylamp.core.common.coil import Coil
from drylamp.core.common.drive import ByHand, Constant, FlowControl, Season, SunPanel, Timer
from drylamp.core.forms import asked
from drylamp.core.loads.common.fed import Fed
from drylamp.core.loads.common.loop.ends import LOOP
from drylamp.core.loads.load import Load
from drylamp.core.tables import PipeChoice

if TYPE_CHECKING:
    from drylamp.core.sky.site import Site
    from drylamp.core.sky.weather import Weather

How = Literal["always", "hours", "difference", "panel", "hand"]
HOW_WORDS = {
    "always": "always on", "hours": "by the clock", "difference": "by two temperatures", "panel": "by a panel in the sun", "hand": "by hand",
}  # fmt: skip
MONTH = Annotated[Count, Field(ge=1, le=12)]
LAGGING_W_MK = 0.040
"""Closed-cell foam round a pipe; makers' usual figure."""
OUTSIDE_W_M2K = 10.0
"""Film round a pipe or a tank in moving air, long-wave included; from memory."""


class Pump(Model):
    """A pump, and when it may run."""

    head_m: Annotated[Number, Field(gt=0, le=100)] = Field(
        default=3.0, title="Lifts, at no flow", description="Metres of water; on its plate as the greatest head"
    )
    free_l_min: Annotated[Number, Field(gt=0, le=1000)] = Field(
        default=20.0, title="Moves, against nothing", description="On its plate as the greatest flow"
    )
    motor_w: Annotated[Number, Field(ge=0, le=3000)] = Field(default=30.0, title="Draws")
    into_water_share: Fraction = Field(
        default=0.5, title="Of that into the water", description="Under water nearly all of it, beside it about half"
    )
    l_min: Annotated[Number, Field(gt=0, le=1000)] | None = Field(
        default=None, title="Measured flow", description="Bucket and stopwatch; empty: from its plate and the pipes"
    )
    how: How = Field(default="hours", title="Runs", json_schema_extra=asked(options=HOW_WORDS))
    begins: Hour = Field(default="10:00", title="On at", json_schema_extra=asked(only_with={"how": ["hours"]}))
    ends: Hour = Field(default="17:00", title="Off at", json_schema_extra=asked(only_with={"how": ["hours"]}))
    from_month: MONTH = Field(
        default=1, title="From month", description="1 to 12", json_schema_extra=asked(only_with={"how": ["hours"]})
    )
    to_month: MONTH = Field(
        default=12, title="To month", description="Still in the others", json_schema_extra=asked(only_with={"how": ["hours"]})
    )  # fmt: skip
    on_k: Annotated[Number, Field(ge=0, le=60)] = Field(
        default=5.0, title="On when warmer by", description="What the sun heats over the store; of one that cools, the other way",
        json_schema_extra=asked(only_with={"how": ["difference"]}),
    )  # fmt: skip
    off_k: Annotated[Number, Field(ge=-20, le=60)] = Field(
        default=2.0, title="Off when warmer by less than", json_schema_extra=asked(only_with={"how": ["difference"]})
    )
    cools: YesNo = Field(
        default=False, title="It cools", description="On when the store is the warmer one: at night, into the sky",
        json_schema_extra=asked(only_with={"how": ["difference"]}),
    )  # fmt: skip
    stops_at_c: Annotated[Celsius, Field(ge=1, le=95)] | None = Field(
        default=None, title="Stops at", description="The store warm enough, or cool enough; empty: nowhere",
        json_schema_extra=asked(only_with={"how": ["difference"]}),
    )  # fmt: skip
    panel_w: Annotated[Number, Field(gt=0, le=3000)] = Field(
        default=40.0, title="Panel's peak", json_schema_extra=asked(only_with={"how": ["panel"]})
    )
    panel_facing_deg: Azimuth = Field(
        default=180.0, title="Panel looks to", json_schema_extra=asked(only_with={"how": ["panel"]})
    )
    over_water_m: Annotated[Number, Field(ge=-20, le=10)] = Field(
        default=-0.3, title="Stands over the water", description="Below nothing: lower than its surface, where it fills itself"
    )  # fmt: skip
    self_priming: YesNo = Field(default=False, title="Primes itself")

    seasons: list[Season] | None = Field(
        default=None, description="Hours by season, instead of one pair of hours", json_schema_extra=asked(in_files_only=True)
    )  # fmt: skip
    by_hand: ByHand | None = Field(
        default=None, description="As somebody set it, by the instant", json_schema_extra=asked(in_files_only=True)
    )

    @model_validator(mode="after")
    def _holds(self) -> Self:
        if self.off_k >= self.on_k:
            raise ValueError(
                f"off_k {self.off_k:g} is not below on_k {self.on_k:g}; a controller that switches off where it switches on would chatter, so give less"
            )
        return self

    @model_validator(mode="after")
    def _has_its_water(self) -> Self:
        if self.over_water_m > 0.0 and not self.self_priming:
            raise ValueError(
                f"over_water_m {self.over_water_m:g}: a pump that stands {self.over_water_m:g} m over the water and does not prime itself runs dry; set it below "
                "the water's surface, on the store's side, or take one that primes itself"
            )
        return self

    @model_validator(mode="after")
    def _moves_something(self) -> Self:
        if self.l_min is not None and self.l_min > self.free_l_min:
            raise ValueError(
                f"l_min {self.l_min:g} is over the {self.free_l_min:g} litres a minute that it moves against nothing; one of the two is not right"
            )
        return self

    @property
    def control(self) -> FlowControl:
        """What lets it run, but for the two temperatures."""
        timer = Timer(seasons=self.seasons or [Season(months=self._months, on=self.begins, off=self.ends)])
        panel = SunPanel(peak_w=self.panel_w, motor_w=max(self.motor_w, 1.0), facing_deg=self.panel_facing_deg)
        by_hand: FlowControl = self.by_hand or Constant(speed=0.0)
        controls: dict[str, FlowControl] = {
            "always": Constant(), "hours": timer, "difference": Constant(), "panel": panel, "hand": by_hand,
        }  # fmt: skip
        return controls[self.how]

    @property
    def _months(self) -> list[int]:
        """From one month to the other, over the turn of the year where the second comes first."""
        return [(self.from_month - 1 + k) % 12 + 1 for k in range((self.to_month - self.from_month) % 12 + 1)]


class PipeRun(Model):
    """The pipes between what the sun heats and the store."""

    there_m: Annotated[Number, Field(ge=0.1, le=200)] = Field(default=3.0, title="There", description="From the store")
    back_m: Annotated[Number, Field(ge=0.1, le=200)] = Field(default=3.0, title="And back")
    material: PipeChoice = Field(default="pex", title="Pipe", json_schema_extra=asked(table="pipes"))
    bore_mm: Annotated[Number, Field(ge=4, le=80)] = Field(default=16.0, title="Inside diameter")
    outer_mm: Annotated[Number, Field(ge=5, le=100)] = Field(default=20.0, title="Outside diameter")
    lagging_mm: Annotated[Number, Field(ge=0, le=100)] = Field(
        default=0.0, title="Foam round it", description="0: bare"
    )

    @model_validator(mode="after")
    def _has_a_wall(self) -> Self:
        if self.outer_mm <= self.bore_mm:
            raise ValueError(
                f"outer_mm {self.outer_mm:g} is not above bore_mm {self.bore_mm:g}; measure across the outside and across the hole"
            )
        return self

    def pipe(self, length_m: float) -> Coil:
        """So many metres of it."""
        return Coil(material=self.material, pipe_m=length_m, bore_mm=self.bore_mm, outer_mm=self.outer_mm)

    @property
    def loses_w_mk(self) -> float:
        """Heat that a metre of it gives to the air: foam and the film round it in a row (cylinders)."""
        bare, outer = self.outer_mm / 2000.0, self.outer_mm / 2000.0 + self.lagging_mm / 1000.0
        foam = math.log(outer / bare) / (2.0 * math.pi * LAGGING_W_MK)
        return 1.0 / (foam + 1.0 / (OUTSIDE_W_M2K * 2.0 * math.pi * outer))


class Looped(Load, ABC):
    """What every load with a loop asks for beside its store."""

    usual: ClassVar[dict[str, type[BaseModel]]] = {"pump": Pump}

    above_m: Annotated[Number, Field(ge=-20, le=20)] = Field(
        default=-1.0, title="Store's bottom over the coil's lower edge", description="Below nothing: it stands lower"
    )
    run: PipeRun = Field(default=PipeRun(), title="Pipes there and back")
    pump: Pump | None = Field(
        default=Pump(), title="Pump", description="None: warm water rises by itself, if the store stands high enough"
    )
    check_valve: YesNo = Field(default=False, title="Check valve", description="Lets nothing run backwards at night")

    _starts_s: float = PrivateAttr(default=float("-inf"))

    def starting(self, at_s: float) -> Self:
        """The same with nothing moving in it until an instant."""
        made = self.model_copy()
        made._starts_s = at_s
        return made

    def standing(self) -> Self:
        """The same with nothing ever moving in it."""
        still = (self.pump or Pump()).model_copy(update={"how": "hand", "by_hand": None})
        return self.model_copy(update={"pump": still, "check_valve": True})

    def fed(self, as_read: Fed) -> Self:
        """The pump moved what was read, all through."""
        if self.pump is None or not as_read.l_min:
            return self
        flow = max(sum(as_read.l_min) / len(as_read.l_min), 1e-3)
        pump = self.pump.model_copy(
            update={"l_min": flow, "free_l_min": max(flow, self.pump.free_l_min), "how": "always"}
        )
        return self.model_copy(update={"pump": pump})

    @property
    def may_freeze(self) -> bool:
        """Whether frost can burst its pipes: unless they are filled with something that does not freeze."""
        return True

    @property
    def pumped(self) -> str:
        """The loop, where it has a pump."""
        return "" if self.pump is None else LOOP

    @property
    def foot_m(self) -> float:
        """As much as its store stands lower."""
        return max(-self.above_m, 0.0)

    def loop_ceiling(self, site: Site, weather: Weather) -> Array:
        """Ceiling on its pump by step, 0–1; of a loop without one its valve stands open."""
        control: FlowControl = Constant() if self.pump is None else self.pump.control
        return np.where(weather.sun.time_s < self._starts_s, 0.0, control.ceiling(site, weather))
