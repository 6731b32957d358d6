"""What is asked of every loop: hours of its pump by season, and what a heater would take for the same."""

from __future__ import annotations

from datetime import date
from typing import TypeVar

import numpy as np

from drylamp.core.advice.context import AdviceContext
from drylamp.core.advice.loops import Instead, TimerMonth, TimerYear
from drylamp.core.air.constants import CP_WATER_J_KGK, KWH_J
from drylamp.core.air.moist import boiling_c
from drylamp.core.checks import InputProblem
from drylamp.core.loads.common.loop.advice import with_pump
from drylamp.core.loads.common.loop.ends import LOOP
from drylamp.core.loads.common.loop.spec import Looped
from drylamp.core.outcome.registry import measure_of
from drylamp.core.sky.clock import local_day
from drylamp.core.sky.of_span import weather_of
from drylamp.core.sky.weather import Span
from drylamp.core.text import amount, kilowatt_hours
from drylamp.core.threads import two_at_a_time
from drylamp.core.twin.case import climate_day

L = TypeVar("L", bound=Looped)
BEGINS, ENDS = (
    ("07:00", "08:00", "09:00", "10:00", "11:00", "12:00"),
    ("14:00", "15:00", "16:00", "17:00", "18:00", "19:00"),
)
USUAL = ("10:00", "17:00")
STEP_S = 300
HEATER_HOURS = 24.0
SAME_SHARE = 0.03
"""Under this share a controller is called no better than the clock."""


def timer_year(context: AdviceContext, load: Looped) -> TimerYear:
    """Try hours on each month's usual clear day, first when to begin and then when to end.

    Raises
    ------
    InputProblem
        it has no pump.
    """
    if load.pump is None:
        raise InputProblem("load.pump", "this loop has no pump, so there are no hours to set; put one in first")
    months = two_at_a_time(lambda month: _month(context, load, month), range(1, 13))
    return TimerYear(quantity=measure_of(load).quantity, months=months, words=_timer_words(load, months))


def _month(context: AdviceContext, load: Looped, month: int) -> TimerMonth:
    case = context.case
    middle = date(local_day(case.site.zone, context.weather.start_s).year, month, 15)
    weather = weather_of(case.site, climate_day(case.site, middle, "clear"), Span(start=middle, step_s=STEP_S))
    there = AdviceContext(case, weather)

    def value(made: Looped) -> float:
        return there.score(case.build, made).value

    def hours(begins: str, ends: str) -> float:
        return value(with_pump(load, how="hours", begins=begins, ends=ends, from_month=1, to_month=12, seasons=None))

    begins = max(BEGINS, key=lambda hour: hours(hour, USUAL[1]))
    ends = max(ENDS, key=lambda hour: hours(begins, hour))
    switched = value(with_pump(load, how="difference", cools=False, stops_at_c=None))
    return TimerMonth(
        month=month, begins=begins, ends=ends, best=hours(begins, ends), now=value(load), switched=switched
    )


def _timer_words(load: Looped, months: list[TimerMonth]) -> str:
    summer, winter = max(months, key=lambda m: m.best), min(months, key=lambda m: m.best)
    measure = measure_of(load)
    better = float(np.mean([m.switched - m.best for m in months]))
    mean = abs(float(np.mean([m.best for m in months])))
    said = f"On clear days the best hours go from {winter.begins} to {winter.ends} in the weakest month to {summer.begins} to {summer.ends} in the best."
    if abs(better) < SAME_SHARE * mean:
        return f"{said} A switch by two temperatures does as well on such days; it earns its price under broken cloud."
    return f"{said} A switch by two temperatures is {measure.signed(better)} a day against the best hours."


def instead(
    context: AdviceContext, load: Looped, litres: float, start_c: float, heater_kw: float, price_kwh: float
) -> Instead:
    """What a heater takes for the heat of the day, and what a day of it would do to the water."""
    run = context.run(context.build, load)
    heat = float(run.circulated[LOOP].gain_w.sum()) * run.weather.dt_s / KWH_J
    eaten = 0.0 if load.pump is None else float(run.ran_s[LOOP].sum()) * load.pump.motor_w / KWH_J
    held = litres * CP_WATER_J_KGK / KWH_J
    boils = held * (boiling_c(run.weather.pressure_pa) - start_c) / heater_kw
    hours = max(heat, 0.0) / heater_kw
    saved = (heat - eaten) * price_kwh
    words = (
        f"The loop brings {kilowatt_hours(heat)} on this day for {kilowatt_hours(eaten)} of electricity. A heater of {amount(1000.0 * heater_kw, 'power')} takes "
        f"{amount(hours, 'hours')} for as much, {amount(saved, 'price')} dearer. "
    )
    words += (
        f"Left on for a day it would bring all of it to boiling in {amount(boils, 'hours')}: who counts its watts by the day counts heat that no tub could hold."
        if boils < HEATER_HOURS
        else f"In a day it would warm all of it by {amount(heater_kw * HEATER_HOURS / held, 'difference')}."
    )  # fmt: skip
    return Instead(heat_kwh=heat, pump_kwh=eaten, heater_h=hours, saved=saved, boils_h=boils, words=words)
