"""What became of running water: heat and litres by the day, outlet and flow, and each draw litre by litre."""

from __future__ import annotations

from datetime import date, datetime
from typing import TYPE_CHECKING, cast

import numpy as np

from drylamp.core.air.constants import CP_WATER_J_KGK, KWH_J
from drylamp.core.arrays import Array
from drylamp.core.checks import Model
from drylamp.core.loads.common.filling import TOP
from drylamp.core.loads.common.outcome import LITRES, READY, at_hour
from drylamp.core.loads.running.spec import RunningWater
from drylamp.core.outcome.drawn_out import MOST_LITRES, DrawOut, draws_out
from drylamp.core.outcome.of_load import Headline, Held, LoadOutcome, PlanStep, moment, reached
from drylamp.core.sky.clock import days_of, local_time
from drylamp.core.sky.site import Site
from drylamp.core.text import Sentence, celsius, kilowatt_hours, litres, litres_a_minute
from drylamp.core.twin.run import Run

if TYPE_CHECKING:
    from drylamp.core.outcome.summary import Outcome


class FlowDay(Model):
    """A day of it.

    Attributes:
        out_c: mean of what came out, weighed by how much; none where nothing did
        hottest_c: warmest litre
        worth_l: litres at the wanted warmth that its heat is worth
    """

    day: datetime
    out_l: float
    out_c: float | None
    hottest_c: float | None
    kwh: float
    worth_l: float
    hottest_inside_c: float


class FlowResult(Model):
    """What became of running water.

    Attributes:
        minutes_to_warm: from when it was filled until what stands in it was as warm as wanted; none where it never was
        levels_off_c: the warmest that what is in it got
    """

    warm_c: float
    cold_c: float
    days: list[FlowDay]
    draws: list[DrawOut]
    minutes_to_warm: float | None
    levels_off_c: float
    words: Sentence


class FlowResults(Model):
    """What became of running water."""

    flow: FlowResult | None = None


def results(site: Site, load: RunningWater, run: Run) -> Model:
    """Day by day, and draw by draw."""
    out, cold, series = run.drawn[TOP], run.cold_c, run.temperature_c[TOP]
    over = out.over(cold)
    days: list[FlowDay] = []
    draws: list[DrawOut] = []
    for day, begin, end in days_of(site.zone, float(run.edge_s[0]), float(run.edge_s[-1])):
        steps = (run.edge_s[:-1] >= begin) & (run.edge_s[:-1] < end)
        kg, warm = out.kg[steps], out.celsius[steps]
        gained, came = float(over[steps].sum()), float(kg.sum())
        days.append(
            FlowDay(
                day=local_time(site.zone, begin), out_l=round(came, 1),
                out_c=float(np.nansum(kg * warm)) / came if came > 0 else None,
                hottest_c=float(np.nanmax(warm)) if came > 0 else None, kwh=gained * CP_WATER_J_KGK / KWH_J,
                worth_l=gained / (load.warm_c - float(cold[steps].mean())),
                hottest_inside_c=float(np.nanmax(series[:-1][steps])),
            )
        )  # fmt: skip
        draws += draws_out(site, day, load.draws, run, TOP)
    words = _words(days[0], draws)
    filled_s = float(run.edge_s[~np.isnan(series)][0])
    warm_s = reached(run.edge_s, series, load.warm_c)
    return FlowResults(
        flow=FlowResult(
            warm_c=load.warm_c,
            cold_c=float(cold.mean()),
            days=days,
            draws=draws[:MOST_LITRES],
            minutes_to_warm=None if warm_s is None else (warm_s - filled_s) / 60.0,
            levels_off_c=float(np.nanmax(series)),
            words=words,
        )
    )


def _words(day: FlowDay, draws: list[DrawOut]) -> str:
    if day.out_c is None:
        return f"It stands; the water in it gets to {celsius(day.hottest_inside_c)}."
    if draws:
        first = draws[0]
        litre = "A litre" if len(first.litres) == 1 else f"{len(first.litres)} litres"
        said = f"{litre} drawn at {first.time:%H:%M} {'begins' if len(first.litres) == 1 else 'begin'} at {celsius(first.litres[0].celsius_c)} and {'comes' if len(first.litres) == 1 else 'come'} to {celsius(first.mean_c)} on the mean."
        return f"{said} The day's {litres(day.out_l)} carry {kilowatt_hours(day.kwh)} of heat."
    return f"{litres(day.out_l)} come out at {celsius(day.out_c)} on the mean: that is {kilowatt_hours(day.kwh)} of heat, worth {litres(day.worth_l)} at the tap."


def headline(results: Model) -> Headline | None:
    """Heat and litres."""
    flow = cast(FlowResults, results).flow
    if flow is None or not flow.days:
        return None
    day = flow.days[0]
    brief = f"{celsius(day.hottest_inside_c)} inside" if day.out_c is None else f"{kilowatt_hours(day.kwh)} a day"
    return Headline(flow.words, brief)


def daily(results: Model) -> dict[date, str]:
    """What came out each day, or how warm it got where it stood."""
    flow = cast(FlowResults, results).flow
    return {} if flow is None else {day.day.date(): _day_words(day) for day in flow.days}


def _day_words(day: FlowDay) -> str:
    if day.out_c is None:
        return f"{celsius(day.hottest_inside_c)} inside"
    return f"{litres(day.out_l)} at {celsius(day.out_c)}: {kilowatt_hours(day.kwh)}"


def worth_l(load: RunningWater, run: Run) -> Array:
    """Litres at the wanted warmth that all heat which came out was worth by each edge, shape (steps + 1,)."""
    came = run.drawn[TOP].over(run.cold_c) / (load.warm_c - run.cold_c)
    return np.concatenate(([0.0], np.cumsum(came)))


def score(load: RunningWater, run: Run, begun_s: float) -> float | None:
    """Litres at the wanted warmth that a day's heat is worth; of one that stands, its mean warmth by the wanted hour."""
    if load.running or load.draws:
        return float(worth_l(load, run)[-1]) / max(1.0, float(run.edge_s[-1] - run.edge_s[0]) / 86400.0)
    return at_hour(run, run.temperature_c[TOP], load.want_at)


def enough(load: RunningWater, run: Run, day: Held) -> bool:
    """Whether a day's heat was worth the litres wanted."""
    series = worth_l(load, run)[day.edges]
    return bool(series[-1] - series[0] >= load.want_l)


def done_at(load: RunningWater, run: Run) -> float | None:
    """When as much had come out as is wanted, seconds since 1970."""
    return reached(run.edge_s, worth_l(load, run), load.want_l)


def steps(load: RunningWater, outcome: Outcome, get_ready: str) -> list[PlanStep]:
    """Open, shut, draw."""
    out = [PlanStep(time=moment(outcome, READY), text=get_ready)]
    for part in load.running:
        out.append(PlanStep(time=moment(outcome, part.begins), text=f"open the tap: {litres_a_minute(part.l_min)}"))
        if part.ends > part.begins:
            out.append(PlanStep(time=moment(outcome, part.ends), text="shut the tap"))
    out += [PlanStep(time=moment(outcome, draw.at), text=f"{litres(draw.take_l)} drawn") for draw in load.draws]
    return sorted(out, key=lambda step: step.time)


OUTCOME: LoadOutcome[RunningWater] = LoadOutcome(
    measure=LITRES, steps=steps, results_model=FlowResults, results=results, headline=headline, score=score, enough=enough,
    counts="litres at the wanted warmth that a day of its heat is worth",
    done_at=done_at, daily=daily, otherwise="Heat the rest another way.",
)  # fmt: skip
