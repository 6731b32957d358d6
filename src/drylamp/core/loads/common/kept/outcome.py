"""What became of water: how warm, for how many litres, in the evening and next morning, and what came out of the tap."""

from __future__ import annotations

from datetime import date, datetime, timedelta
from typing import TYPE_CHECKING, TypeVar, cast

import numpy as np

from drylamp.core.air.constants import CP_WATER_J_KGK, KWH_J
from drylamp.core.arrays import Array
from drylamp.core.checks import Model
from drylamp.core.loads.common.kept.spec import BATH_L, SHOWER_L, KeptWater
from drylamp.core.loads.common.outcome import READY, at_hour
from drylamp.core.outcome.drawn_out import MOST_LITRES, DrawOut, draws_out
from drylamp.core.outcome.of_load import Headline, Held, PlanStep, moment, reached
from drylamp.core.sky.clock import days_of, instant_s, local_time
from drylamp.core.sky.site import Site
from drylamp.core.text import Sentence, celsius, counted, litres
from drylamp.core.twin.run import Run

if TYPE_CHECKING:
    from drylamp.core.outcome.summary import Outcome

W = TypeVar("W", bound=KeptWater)
MORNING = "07:00"
SIZES = (0.5, 0.75, 1.0, 1.25)


class HourLitres(Model):
    """Litres at the wanted warmth that the water would make at an hour, mixed with cold."""

    time: datetime
    litres_l: float
    top_c: float
    bottom_c: float


class WaterDay(Model):
    """A day of it: evening and the morning after, and what was drawn.

    Attributes:
        warm_l: litres at the wanted warmth in the evening
        showers, baths: short ones, or baths, out of those
        drawn_l, drawn_kwh: out of the tap, and its heat above cold water
    """

    evening: datetime
    top_c: float
    bottom_c: float
    warm_l: float
    showers: int
    baths: int
    morning_c: float | None
    drawn_l: float
    drawn_kwh: float


class WaterResult(Model):
    """What became of the water."""

    warm_c: float
    cold_c: float
    days: list[WaterDay]
    hours: list[HourLitres]
    draws: list[DrawOut]
    words: Sentence


class WaterResults(Model):
    """What became of water."""

    water: WaterResult | None = None


def _layers(load: KeptWater, run: Run) -> Array:
    """Temperatures of the layers from the top down, shape (layers, steps + 1)."""
    return np.array([run.temperature_c[name] for name in load.filling.names])


def _cold(run: Run) -> Array:
    """Cold water at the edges of the steps, °C."""
    return np.append(run.cold_c, run.cold_c[-1])


def warm_litres(load: KeptWater, run: Run) -> Array:
    """Litres at the wanted warmth that the water makes at each edge, mixed with cold at the tap, shape (steps + 1,).

    Each layer from the top on that is warm enough makes litres × (T − cold)/(wanted − cold); what lies under one that is not, makes none.
    """
    cold = _cold(run)
    over = (_layers(load, run) - cold) / (load.warm_c - cold)
    usable = np.cumprod(over >= 1.0, axis=0)
    return np.asarray((usable * over).sum(axis=0) * load.fill_l / load.layers)


def heat_litres(load: KeptWater, run: Run) -> Array:
    """Litres at the wanted warmth that all heat above cold water is worth, drawn heat included, shape (steps + 1,)."""
    cold = _cold(run)
    stored = ((_layers(load, run) - cold) * load.fill_l / load.layers).sum(axis=0)
    return np.asarray((stored + np.concatenate(([0.0], np.cumsum(run.drawn_kg_k)))) / (load.warm_c - cold))


def _at(run: Run, series: Array, instant: float) -> float:
    return float(np.interp(instant, run.edge_s, series))


def results(site: Site, load: KeptWater, run: Run) -> Model:
    """Day by day, and hour by hour."""
    layers, warm, cold = _layers(load, run), warm_litres(load, run), _cold(run)
    days: list[WaterDay] = []
    draws: list[DrawOut] = []
    for day, begin, end in days_of(site.zone, float(run.edge_s[0]), float(run.edge_s[-1])):
        draws += draws_out(site, day, load.draws, run, load.tap, layers.mean(axis=0))
        evening = instant_s(site.zone, day, load.want_at)
        if not run.edge_s[0] <= evening <= run.edge_s[-1]:
            continue
        morning = instant_s(site.zone, day + timedelta(days=1), MORNING)
        steps = (run.edge_s[:-1] >= begin) & (run.edge_s[:-1] < end)
        litres_now = _at(run, warm, evening)
        days.append(
            WaterDay(
                evening=local_time(site.zone, evening), top_c=_at(run, layers[0], evening), bottom_c=_at(run, layers[-1], evening),
                warm_l=round(litres_now, 1), showers=int(litres_now // SHOWER_L), baths=int(litres_now // BATH_L),
                morning_c=_at(run, layers[0], morning) if morning <= run.edge_s[-1] else None,
                drawn_l=float(sum(tap.kg[steps].sum() for tap in run.drawn.values())),
                drawn_kwh=float(run.drawn_kg_k[steps].sum()) * CP_WATER_J_KGK / KWH_J,
            )
        )  # fmt: skip
    hourly = range(0, len(run.edge_s), max(1, round(3600.0 / run.weather.dt_s)))
    hours = [
        HourLitres(
            time=local_time(site.zone, run.edge_s[k]), litres_l=round(float(warm[k]), 1), top_c=float(layers[0, k]),
            bottom_c=float(layers[-1, k]),
        )
        for k in hourly
    ]  # fmt: skip
    words = _words(load, days) if days else f"It is {celsius(float(layers[0, -1]))} at the top."
    return WaterResults(
        water=WaterResult(
            warm_c=load.warm_c,
            cold_c=float(cold[0]),
            days=days,
            hours=hours[:400],
            draws=draws[:MOST_LITRES],
            words=words,
        )
    )


def _words(load: KeptWater, days: list[WaterDay]) -> str:
    first = days[0]
    showers = counted(first.showers, "short shower")
    if first.baths:
        showers += f" or {counted(first.baths, 'bath')}"
    made = f"mixed down it makes {litres(first.warm_l)} at {celsius(load.warm_c)}, which is {showers}"
    if first.warm_l < 1.0:
        made = f"it is too cool to make any at {celsius(load.warm_c)}"
    morning = "" if first.morning_c is None else f" Next morning it is {celsius(first.morning_c)}."
    apart = first.top_c - first.bottom_c
    below = f" and {celsius(first.bottom_c)} at the bottom" if apart > 2.0 else ""
    return f"At {load.want_at} the water is {celsius(first.top_c)} at the top{below}; {made}.{morning}"


def headline(results: Model) -> Headline | None:
    """Evening, litres and showers."""
    water = cast(WaterResults, results).water
    if water is None or not water.days:
        return None
    return Headline(water.words, f"{litres(water.days[0].warm_l)} at {celsius(water.warm_c)}")


def daily(results: Model) -> dict[date, str]:
    """Evening and morning of each day."""
    water = cast(WaterResults, results).water
    if water is None:
        return {}
    return {
        day.evening.date(): f"{celsius(day.top_c)} at {day.evening:%H:%M}, {litres(round(day.warm_l))} at {celsius(water.warm_c)}"
        + ("" if day.morning_c is None else f"; {celsius(day.morning_c)} next morning")
        for day in water.days
    }


def score(load: KeptWater, run: Run, begun_s: float) -> float | None:
    """Litres at the wanted warmth that the heat in it is worth by the wanted hour, what was drawn before included."""
    return at_hour(run, heat_litres(load, run), load.want_at)


def enough(load: KeptWater, run: Run, day: Held) -> bool:
    """Whether there were as many litres as wanted at some time of the day."""
    return bool(warm_litres(load, run)[day.edges].max() >= load.want_l)


def done_at(load: KeptWater, run: Run) -> float | None:
    """When there are as many litres as wanted, seconds since 1970."""
    return reached(run.edge_s, warm_litres(load, run), load.want_l)


def steps(load: KeptWater, outcome: Outcome, get_ready: str) -> list[PlanStep]:
    """Fill, and draw."""
    out = [PlanStep(time=moment(outcome, READY), text=f"{get_ready}, {litres(load.fill_l)} in it")]
    out += [
        PlanStep(time=moment(outcome, draw.at), text=f"{litres(draw.take_l)} drawn")
        for draw in sorted(load.draws, key=lambda d: d.at)
    ]
    water = cast(WaterResults, outcome.results).water
    if water is not None and water.days:
        out.append(PlanStep(time=water.days[0].evening, text=water.words))
    return sorted(out, key=lambda step: step.time)


def sizes(load: W) -> list[W]:
    """Less and more of it."""
    return [load.times(share) for share in SIZES]
