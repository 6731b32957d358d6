"""Sums about water: mixing, pipes, flow, boiling."""

from __future__ import annotations

import math
from typing import Annotated

import numpy as np
from pydantic import Field, model_validator

from drylamp.core.air.constants import CP_WATER_J_KGK
from drylamp.core.air.moist import boiling_c
from drylamp.core.checks import Celsius, Elevation, Model, NotNegative, Number, Positive
from drylamp.core.heat.pipe_head import driven_kg_s
from drylamp.core.sky.site import standard_pressure_pa
from drylamp.core.sums.registry import quick_sum


class MixIn(Model):
    """Hot and cold water, and the warmth wanted."""

    hot_l: Positive
    hot_c: Celsius
    cold_c: Celsius
    want_c: Celsius

    @model_validator(mode="after")
    def _between(self) -> MixIn:
        if not self.cold_c < self.want_c <= self.hot_c:
            raise ValueError(
                f"want_c {self.want_c:g} must lie above cold_c {self.cold_c:g} and up to hot_c {self.hot_c:g}"
            )
        return self


class Mix(Model):
    """Mixed water."""

    total_l: float
    cold_l: float


@quick_sum(
    "mix", "How far hot water goes", "mix shower hot cold litres tap",
    "total = hot (hot − cold)/(want − cold)", "heat balance, 1 kg per litre, constant cp", MixIn, Mix,
)  # fmt: skip
def mix(given: MixIn) -> Mix:
    """Litres at the wanted temperature, and the cold water in them."""
    total = given.hot_l * (given.hot_c - given.cold_c) / (given.want_c - given.cold_c)
    return Mix(total_l=total, cold_l=total - given.hot_l)


class PipeIn(Model):
    """A round pipe."""

    inner_mm: Positive
    length_m: NotNegative


class Volume(Model):
    """Contents."""

    volume_l: float


@quick_sum(
    "pipe-volume",
    "What a pipe holds",
    "pipe hose coil tube volume litres",
    "π/4 d² length",
    "geometry",
    PipeIn,
    Volume,
)
def pipe_volume(given: PipeIn) -> Volume:
    """Litres in a round pipe."""
    return Volume(volume_l=math.pi / 4 * (given.inner_mm / 1000) ** 2 * given.length_m * 1000)


class FlowIn(Model):
    """Bucket, stopwatch and two thermometers."""

    litres: Positive
    seconds: Positive
    in_c: Celsius
    out_c: Celsius
    area_m2: Positive | None = None
    sun_w_m2: Positive | None = None


class Flow(Model):
    """Power of a flow."""

    flow_l_min: float
    power_w: float
    efficiency: float | None


class GravityIn(Model):
    """A pipe from something that stands higher."""

    head_m: Positive = Field(description="Water level over the outlet")
    length_m: NotNegative
    inner_mm: Positive
    water_c: Annotated[Number, Field(ge=0, le=100)] = 50.0
    air_c: Celsius = 15.0
    litres: Positive = 60.0
    outer_mm: Positive | None = Field(default=None, description="Two millimetres of wall where it is left out")

    @model_validator(mode="after")
    def _has_a_wall(self) -> GravityIn:
        if self.outer_mm is not None and self.outer_mm <= self.inner_mm:
            raise ValueError(f"outer_mm {self.outer_mm:g} must be above inner_mm {self.inner_mm:g}")
        return self


class Gravity(Model):
    """What comes out of it."""

    flow_l_min: float
    minutes: float
    lost_k: float
    first_cold_l: float


OUTSIDE_W_M2K = 10.0
"""Of a bare pipe in still air, radiation included; common practice, no source."""
WALL_MM = 4.0


@quick_sum(
    "gravity-run", "What runs down a pipe by itself", "gravity head pipe hose tank tub fill flow minutes lost",
    "head = (f length/d + 1.5) v²/2g; loss by 1 − exp(−U π d length/(ṁ cp))",
    "Darcy–Weisbach; 64/Re and Petukhov 1970; bare pipe 10 W/m²K from common practice", GravityIn, Gravity,
)  # fmt: skip
def gravity_run(given: GravityIn) -> Gravity:
    """Flow, minutes for so many litres, kelvin lost on the way once the pipe is warm, and the cold litres that stood in it."""
    kg_s = driven_kg_s(given.head_m, given.inner_mm / 1000.0, given.length_m, given.water_c)
    outer_m = (given.inner_mm + WALL_MM if given.outer_mm is None else given.outer_mm) / 1000.0
    transfer = OUTSIDE_W_M2K * math.pi * outer_m * given.length_m / (kg_s * CP_WATER_J_KGK)
    held = pipe_volume(PipeIn(inner_mm=given.inner_mm, length_m=given.length_m)).volume_l
    return Gravity(
        flow_l_min=60.0 * kg_s, minutes=given.litres / (60.0 * kg_s), lost_k=(given.water_c - given.air_c) * (1.0 - math.exp(-transfer)), first_cold_l=held
    )  # fmt: skip


@quick_sum(
    "flow-heat", "What a coil really delivers", "flow coil hose bucket stopwatch power efficiency trickle",
    "P = litres/seconds cp (out − in); efficiency = P/(area sun)", "heat balance, 1 kg per litre", FlowIn, Flow,
)  # fmt: skip
def flow_heat(given: FlowIn) -> Flow:
    """Flow, power, and efficiency where area and sun are known."""
    power = given.litres / given.seconds * CP_WATER_J_KGK * (given.out_c - given.in_c)
    known = given.area_m2 is not None and given.sun_w_m2 is not None
    efficiency = power / (given.area_m2 * given.sun_w_m2) if known else None  # type: ignore[operator]
    return Flow(flow_l_min=given.litres / given.seconds * 60.0, power_w=power, efficiency=efficiency)


SCALD_POINTS = ((44.0, 21600.0), (49.0, 300.0), (54.0, 30.0), (60.0, 5.0), (66.0, 1.5), (70.0, 0.7))
"""Water temperature against seconds to a serious burn of an adult; Moritz & Henriques 1947, values from memory."""


class ScaldIn(Model):
    """Water at a tap."""

    water_c: Annotated[Number, Field(ge=0, le=100)]


class Scald(Model):
    """How long skin stands it; None where it does not burn within hours."""

    seconds_to_serious_burn: float | None
    note: str


@quick_sum(
    "scald", "How long until hot water burns", "scald burn hot water tap mixing valve legionella",
    "between published points, straight in the logarithm of time",
    "Moritz & Henriques 1947 and usual plumbing guidance (values from memory)", ScaldIn, Scald,
)  # fmt: skip
def scald(given: ScaldIn) -> Scald:
    """Seconds to a serious burn of an adult."""
    celsius = [point for point, _ in SCALD_POINTS]
    store = " Store at 60 °C or more against legionella and mix down at the tap; follow your local code."
    if given.water_c < celsius[0]:
        return Scald(
            seconds_to_serious_burn=None, note="No serious burn within six hours; children burn sooner." + store
        )
    logs = [math.log(seconds) for _, seconds in SCALD_POINTS]
    seconds = math.exp(float(np.interp(given.water_c, celsius, logs)))
    advice = "Fit a mixing valve: above 49 °C water burns." if given.water_c > 49 else "Test with a thermometer."
    return Scald(seconds_to_serious_burn=seconds, note=f"{advice} Children and old people burn sooner.{store}")


class BoilIn(Model):
    """A height or a pressure."""

    elevation_m: Elevation | None = None
    pressure_pa: Annotated[Number, Field(ge=10000, le=400000)] | None = None

    @model_validator(mode="after")
    def _one(self) -> BoilIn:
        if (self.elevation_m is None) == (self.pressure_pa is None):
            raise ValueError("give either elevation_m or pressure_pa, one of the two")
        return self


class Boil(Model):
    """Boiling point."""

    boiling_c: float


@quick_sum(
    "boil", "Where water boils", "boil altitude elevation pressure cooking mountain",
    "saturation pressure = air pressure; standard atmosphere by elevation",
    "Hyland & Wexler 1983; standard atmosphere, ASHRAE Handbook Fundamentals", BoilIn, Boil,
)  # fmt: skip
def boil(given: BoilIn) -> Boil:
    """Boiling point of water at a height or under a pressure."""
    if given.pressure_pa is not None:
        return Boil(boiling_c=boiling_c(given.pressure_pa))
    return Boil(boiling_c=boiling_c(standard_pressure_pa(float(given.elevation_m or 0.0))))
