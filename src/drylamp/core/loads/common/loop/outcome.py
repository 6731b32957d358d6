"""What a loop did, day by day: what it brought, how long the pump ran and for what, what went backwards."""

from __future__ import annotations

from datetime import datetime
from typing import TYPE_CHECKING

import numpy as np

from drylamp.core.air.constants import KWH_J
from drylamp.core.arrays import Array
from drylamp.core.checks import Model
from drylamp.core.loads.common.loop.ends import LOOP
from drylamp.core.loads.common.loop.spec import Looped
from drylamp.core.outcome.of_load import PlanStep, moment
from drylamp.core.sky.clock import days_of, local_time
from drylamp.core.sky.site import Site
from drylamp.core.text import Sentence, amount, counted, kilowatt_hours, litres
from drylamp.core.twin.run import Run

if TYPE_CHECKING:
    from drylamp.core.outcome.summary import Outcome

MUCH_BACK_L = 5.0
"""Litres that run backwards in a night before one speaks of it."""


class LoopDay(Model):
    """A day of a loop.

    Attributes:
        given_kwh: heat brought into the store over what was taken out of it; below nothing where it cooled
        pump_h, pump_kwh, starts: hours of the pump, what it drew, how often it started
        went_l, back_l: what went round, and how much of that backwards
    """

    day: datetime
    given_kwh: float
    pump_h: float
    pump_kwh: float
    starts: int
    went_l: float
    back_l: float


class LoopResult(Model):
    """A loop day by day."""

    days: list[LoopDay]
    words: Sentence


class LoopResults(Model):
    """What a loop did."""

    loop: LoopResult | None = None


def starts(ran_s: Array) -> int:
    """How often a pump started, from the seconds that it ran in each step."""
    return int((np.diff((ran_s > 0.0).astype(int), prepend=0) == 1).sum())


def loop_of(site: Site, load: Looped, run: Run) -> LoopResult:
    """Day by day."""
    went, ran, dt = run.circulated[LOOP], run.ran_s[LOOP], run.weather.dt_s
    motor_w = 0.0 if load.pump is None else load.pump.motor_w
    days = []
    for _, begin, end in days_of(site.zone, float(run.edge_s[0]), float(run.edge_s[-1])):
        steps = (run.edge_s[:-1] >= begin) & (run.edge_s[:-1] < end)
        has = load.pump is not None
        days.append(
            LoopDay(
                day=local_time(site.zone, begin), given_kwh=float(went.gain_w[steps].sum()) * dt / KWH_J, pump_h=float(ran[steps].sum()) / 3600.0 if has else 0.0,
                pump_kwh=float(ran[steps].sum()) * motor_w / KWH_J, starts=starts(ran[steps]) if has else 0,
                went_l=float(went.kg[steps].sum()), back_l=float(went.back_kg[steps].sum()),
            )
        )  # fmt: skip
    return LoopResult(days=days, words=_words(load, days[0]))


def _words(load: Looped, day: LoopDay) -> str:
    brought = f"The loop brings {kilowatt_hours(day.given_kwh)}"
    if day.given_kwh < 0.0:
        brought = f"The loop takes {kilowatt_hours(-day.given_kwh)} out"
    if load.pump is None:
        forward = day.went_l - day.back_l
        moved = f"{litres(round(forward))} went round by themselves"
    else:
        moved = f"its pump ran {amount(day.pump_h, 'hours')}, {counted(day.starts, 'start')}, for {kilowatt_hours(day.pump_kwh)} of electricity"
    back = (
        ""
        if day.back_l < MUCH_BACK_L
        else f" {litres(round(day.back_l))} ran backwards: raise the store, or fit a check valve."
    )
    return f"{brought}; {moved}.{back}"


def loop_steps(load: Looped, outcome: Outcome) -> list[PlanStep]:
    """When a pump by the clock is switched."""
    pump = load.pump
    if pump is None or pump.how != "hours":
        return []
    return [
        PlanStep(time=moment(outcome, pump.begins), text="pump on"), PlanStep(time=moment(outcome, pump.ends), text="pump off")
    ]  # fmt: skip
