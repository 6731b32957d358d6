"""Openings that air comes in and goes out by, how far they stand open by the hour, a chimney, a fan."""

from __future__ import annotations

import math
from typing import TYPE_CHECKING, Annotated, Literal

import numpy as np
from pydantic import Field, model_validator

from drylamp.core.air.constants import OPENING_LOSS
from drylamp.core.arrays import Array
from drylamp.core.checks import Fraction, Hour, Model, Number, Positive
from drylamp.core.common.drive import Constant, FlowControl, SunPanel
from drylamp.core.common.wall import Wall, WallLayer
from drylamp.core.forms import asked
from drylamp.core.sky.clock import days_of, instant_s
from drylamp.core.tables import FinishChoice

if TYPE_CHECKING:
    from drylamp.core.sky.site import Site
    from drylamp.core.sky.weather import Weather

LOSS = Annotated[Number, Field(ge=0.5, le=50)]
CM2 = Annotated[Number, Field(gt=0, le=20000)]
SCREENED_LOSS = 4.5
"""An opening with insect screen of two thirds free area: 2.8 and the mesh's own 1.7 (ASHRAE Handbook Fundamentals; Idelchik, from memory)."""


class Inlet(Model):
    """Where air comes in, with its screen."""

    area_cm2: CM2 = Field(default=400.0, title="Inlet")
    loss: LOSS = Field(
        default=SCREENED_LOSS, title="Its resistance", description="ζ on its own area: 2.8 open, 4.5 with insect screen"
    )


class Setting(Model):
    """How far a vent stands open from an hour on."""

    hour: Hour = Field(default="08:00", title="From")
    open_share: Fraction = Field(default=1.0, title="Open by")


class Vent(Model):
    """Where air goes out, and how far it stands open."""

    area_cm2: Annotated[Number, Field(ge=0, le=20000)] = Field(default=300.0, title="Vent")
    loss: LOSS = Field(
        default=OPENING_LOSS, title="Its resistance", description="ζ on its own area: 2.8 open, 4.5 with insect screen"
    )
    open_share: Fraction = Field(default=1.0, title="Open by", description="Where no hour says otherwise")
    hours: list[Setting] = Field(
        default_factory=list,
        max_length=12,
        title="By the hour",
        description="Each day; the last of the evening holds over night",
    )

    @model_validator(mode="after")
    def _in_order(self) -> Vent:
        named = [setting.hour for setting in self.hours]
        if named != sorted(set(named)):
            raise ValueError(f"hours {', '.join(named)} were given; give each hour once, the earliest first")
        return self

    def fresh(self, field: str) -> Setting:
        """Another hour, later than the last."""
        last = self.hours[-1] if self.hours else None
        return (
            Setting()
            if last is None
            else Setting(hour=f"{min(int(last.hour[:2]) + 4, 23):02d}:00", open_share=1.0 - last.open_share)
        )

    def ceiling(self, site: Site, weather: Weather) -> Array:
        """How far it stands open by step, 0–1, shape (steps,)."""
        if not self.hours:
            return np.full(weather.steps, self.open_share)
        middle, out = weather.sun.time_s, np.full(weather.steps, self.hours[-1].open_share)
        for day, begin, end in days_of(site.zone, weather.start_s, weather.start_s + weather.steps * weather.dt_s):
            today = slice(*np.searchsorted(middle, (begin, end)))
            for setting in self.hours:
                after = middle[today] >= instant_s(site.zone, day, setting.hour)
                out[today][after] = setting.open_share
        return out


class RoundDuct(Model):
    """A round duct or shaft."""

    diameter_mm: Annotated[Number, Field(ge=30, le=1000)] = Field(default=200.0, title="Wide")
    wall: Wall = Field(default=[WallLayer(material="sheet-steel", thickness_m=0.0007)], title="Of")

    @property
    def run_m(self) -> float:
        """How long it is."""
        raise NotImplementedError

    @property
    def area_m2(self) -> float:
        """Of its bore."""
        return math.pi * (self.diameter_mm / 1000.0) ** 2 / 4.0

    @property
    def hull_m2(self) -> float:
        """Of its shell."""
        return math.pi * self.diameter_mm / 1000.0 * self.run_m


class Chimney(RoundDuct):
    """A shaft over the vent."""

    height_m: Annotated[Number, Field(gt=0.05, le=6)] = Field(default=1.0, title="Chimney")
    finish: FinishChoice = Field(default="galvanised", title="Outside")

    @property
    def run_m(self) -> float:
        """Its height."""
        return self.height_m


class Fan(Model):
    """A fan in the way of the air, and what drives it."""

    shut_off_pa: Annotated[Positive, Field(le=1000)] = Field(
        default=25.0, title="Shut off, Pa", description="What it holds against a closed vent"
    )
    free_m3_h: Annotated[Positive, Field(le=20000)] = Field(default=120.0, title="Free delivery, m³/h")
    power_w: Annotated[Number, Field(gt=0, le=2000)] = Field(default=3.0, title="Takes")
    driven: Literal["battery", "panel"] = Field(
        default="battery", title="Driven", json_schema_extra=asked(options={"battery": "by a battery, day and night", "panel": "by a panel, with the sun"})
    )  # fmt: skip
    panel_w: Annotated[Number, Field(gt=0, le=2000)] = Field(
        default=10.0, title="Panel's best", description="It looks as the dryer does", json_schema_extra=asked(only_with={"driven": ["panel"]})
    )  # fmt: skip
    by: FlowControl | None = Field(
        default=None, description="By a clock, by hand or by two temperatures, in place of that", json_schema_extra=asked(in_files_only=True)
    )  # fmt: skip

    def control(self, facing_deg: float, tilt_deg: float) -> FlowControl:
        """What drives it, on a build that looks some way."""
        if self.by is not None:
            return self.by
        if self.driven == "battery":
            return Constant()
        return SunPanel(peak_w=self.panel_w, motor_w=self.power_w, facing_deg=facing_deg, tilt_deg=tilt_deg)
