"""What became of a tub or pool: how warm evening and morning, when it was warm enough, where its heat went."""

from __future__ import annotations

from datetime import date, datetime, timedelta
from typing import TYPE_CHECKING, cast

import numpy as np

from drylamp.core.air.constants import CP_WATER_J_KGK, KWH_J
from drylamp.core.checks import Model
from drylamp.core.loads.common.filling import TOP
from drylamp.core.loads.common.loop.outcome import LoopResult, LoopResults, loop_of, loop_steps
from drylamp.core.loads.common.outcome import READY
from drylamp.core.loads.pool.spec import AS_VAPOUR, NEW_WATER, TO_AIR, TO_GROUND, TO_SKY, Pool
from drylamp.core.outcome.of_load import Headline, LoadOutcome, Measure, PlanStep, Stand, held_at, moment
from drylamp.core.sky.clock import days_of, instant_s, local_time
from drylamp.core.sky.site import Site
from drylamp.core.text import Sentence, amount, celsius, kilowatt_hours
from drylamp.core.twin.run import Run

if TYPE_CHECKING:
    from drylamp.core.outcome.summary import Outcome

MORNING = "07:00"
HEAT = Measure("energy", 0.02, 0.05, 0.15)
"""A tub of 700 litres takes 0.8 kWh for each kelvin."""
LOST = {AS_VAPOUR: "vapour", TO_SKY: "sky", TO_AIR: "air", TO_GROUND: "ground", NEW_WATER: "new water"}


class PoolDay(Model):
    """A day of it.

    Attributes:
        evening_c, morning_c: at the wanted hour, and next morning; none where the run ends before
        sun_kwh: that it took up itself
        lost_kwh: by vapour, sky, air, ground and new water
    """

    evening: datetime
    evening_c: float
    morning_c: float | None
    sun_kwh: float
    lost_kwh: dict[str, float]


class PoolResult(Model):
    """What became of it."""

    warm_c: float
    days: list[PoolDay]
    warm_at: datetime | None
    words: Sentence


class PoolResults(Model):
    """What became of a tub or pool."""

    pool: PoolResult | None = None


class _Both(PoolResults, LoopResults):
    """Water and loop."""


def results(site: Site, load: Pool, run: Run) -> Model:
    """Day by day."""
    series, dt = run.temperature_c[TOP], run.weather.dt_s
    stored = np.diff(series) * load.fill_l * CP_WATER_J_KGK / dt
    days: list[PoolDay] = []
    for day, begin, end in days_of(site.zone, float(run.edge_s[0]), float(run.edge_s[-1])):
        steps = (run.edge_s[:-1] >= begin) & (run.edge_s[:-1] < end)
        evening = instant_s(site.zone, day, load.want_at)
        if not run.edge_s[0] <= evening <= run.edge_s[-1]:
            continue
        morning = instant_s(site.zone, day + timedelta(days=1), MORNING)
        lost = {words: float(run.account_w[name][steps].sum()) * dt / KWH_J for name, words in LOST.items()}
        given = sum(float(run.circulated[name].gain_w[steps].sum()) for name in run.circulated) * dt / KWH_J
        kept = float(stored[steps].sum()) * dt / KWH_J
        bathers = -float(run.account_w["water-bathers"][steps].sum()) * dt / KWH_J
        days.append(
            PoolDay(
                evening=local_time(site.zone, evening), evening_c=float(np.interp(evening, run.edge_s, series)),
                morning_c=float(np.interp(morning, run.edge_s, series)) if morning <= run.edge_s[-1] else None,
                sun_kwh=max(kept + sum(lost.values()) - given - bathers, 0.0), lost_kwh=lost,
            )
        )  # fmt: skip
    when = held_at(load, run)
    loop = loop_of(site, load, run)
    pool = PoolResult(
        warm_c=load.warm_c, days=days, warm_at=None if when is None else local_time(site.zone, when), words=_words(load, days, loop, float(series[-1])),
    )  # fmt: skip
    return _Both(pool=pool, loop=loop)


def _words(load: Pool, days: list[PoolDay], loop: LoopResult, last_c: float) -> str:
    if not days:
        return f"It is {celsius(last_c)}."
    first = days[0]
    worst = max(first.lost_kwh, key=lambda name: first.lost_kwh[name])
    lost = sum(max(value, 0.0) for value in first.lost_kwh.values())
    rise = first.evening_c - load.start_c
    begun = f"At {load.want_at} the water is {celsius(first.evening_c)}, {amount(abs(rise), 'difference')} {'warmer' if rise >= 0.0 else 'cooler'} than it began"
    takes = f"the sun on it brought {kilowatt_hours(first.sun_kwh)}, the loop {kilowatt_hours(loop.days[0].given_kwh)}"
    goes = f"{kilowatt_hours(lost)} were lost, most of it by {worst}" if lost > 0.0 else "nothing was lost"
    return f"{begun}: {takes}; {goes}."


def headline(results: Model) -> Headline | None:
    """Evening, and what the loop brought."""
    found = cast(_Both, results)
    if found.pool is None or found.loop is None or not found.pool.days:
        return None
    day = found.pool.days[0]
    return Headline(f"{found.pool.words} {found.loop.words}", f"{celsius(day.evening_c)} at {day.evening:%H:%M}")


def daily(results: Model) -> dict[date, str]:
    """Evening and morning of each day."""
    pool = cast(PoolResults, results).pool
    if pool is None:
        return {}
    return {
        day.evening.date(): f"{celsius(day.evening_c)} at {day.evening:%H:%M}"
        + ("" if day.morning_c is None else f"; {celsius(day.morning_c)} next morning")
        for day in pool.days
    }


def stands(results: Model) -> dict[date, Stand]:
    """How warm it is when it is wanted."""
    pool = cast(PoolResults, results).pool
    if pool is None:
        return {}
    return {day.evening.date(): Stand(celsius(day.evening_c), day.evening_c >= pool.warm_c) for day in pool.days}


def score(load: Pool, run: Run, begun_s: float) -> float | None:
    """Heat in it at the end of the run over what it began with, kWh a day."""
    series = run.temperature_c[TOP]
    days = max(1.0, float(run.edge_s[-1] - run.edge_s[0]) / 86400.0)
    return float(series[-1] - series[0]) * load.fill_l * CP_WATER_J_KGK / KWH_J / days


def steps(load: Pool, outcome: Outcome, get_ready: str) -> list[PlanStep]:
    """Cover, pump, bathe."""
    out = [PlanStep(time=moment(outcome, READY), text=get_ready)]
    on = load.on_water
    if on is not None and not on.all_day:
        title = on.row.title.lower()
        out.append(PlanStep(time=moment(outcome, on.off_at), text=f"{title} off the water"))
        out.append(PlanStep(time=moment(outcome, on.on_at), text=f"{title} on"))
    found = cast(PoolResults, outcome.results).pool
    if found is not None and found.days:
        out.append(PlanStep(time=found.days[0].evening, text=found.words))
    return sorted([*out, *loop_steps(load, outcome)], key=lambda step: step.time)


OUTCOME: LoadOutcome[Pool] = LoadOutcome(
    measure=HEAT, steps=steps, results_model=PoolResults, results=results, headline=headline, score=score, daily=daily, stands=stands,
    counts="heat in it at the end over what it began with, for each day",
    otherwise="Heat the rest another way, or bathe another day.",
)  # fmt: skip
