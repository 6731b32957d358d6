"""What became of water that was put out: when each filling was hot, what it had lost, and what the sun gave it."""

from __future__ import annotations

from datetime import date, datetime, timedelta
from typing import TYPE_CHECKING, cast

import numpy as np

from drylamp.core.air.constants import CP_WATER_J_KGK, KWH_J
from drylamp.core.air.moist import boiling_c
from drylamp.core.checks import Model, YesNo
from drylamp.core.heat.laws import LATENT_J_KG
from drylamp.core.loads.common.filling import TOP
from drylamp.core.loads.kettle.spec import KettleWater, Pour
from drylamp.core.outcome.of_load import KELVIN, Headline, Held, LoadOutcome, PlanStep, moment, reached
from drylamp.core.sky.clock import days_of, instant_s, local_time
from drylamp.core.sky.site import Site
from drylamp.core.text import Sentence, celsius, minutes
from drylamp.core.twin.run import Run

if TYPE_CHECKING:
    from drylamp.core.outcome.summary import Outcome

HOUR_S, CALM_S = 3600.0, 600.0
"""What a warm tube gives to cold water in the first minutes is not the sun's."""
BOILS_K = 0.3
"""So near to boiling it boils: the march holds it within this."""
SIZES = (0.5, 0.75, 1.0)


class KettleFill(Model):
    """What became of one filling.

    Attributes:
        hot_at, minutes: when it was as hot as wanted, and how long that took; none: it never was before it was poured out
        boils_at: when it boiled
        at_wanted_c, after_hour_c: at the hour at which it was wanted, and an hour after it was put out
        in_time: whether it was hot by then
        steam_l: litres boiled off
        gained_w: heat that the water got, mean of its first hour
    """

    put_out: datetime
    wanted_at: datetime
    hot_at: datetime | None
    minutes: float | None
    boils_at: datetime | None
    boil_minutes: float | None
    at_wanted_c: float
    after_hour_c: float
    in_time: YesNo
    steam_l: float
    gained_w: float


class KettleDay(Model):
    """Fillings of a day, and the heat that the water got: over the day, and at most; what tube and wings took up of the sun at most."""

    day: date
    fills: list[KettleFill]
    gain_kwh: float
    most_w: float
    most_at: datetime
    absorbed_w: float


class KettleResult(Model):
    """What became of the water."""

    target_c: float
    days: list[KettleDay]
    words: Sentence


class KettleResults(Model):
    """What became of water that was put out."""

    kettle: KettleResult | None = None


def gained_w(run: Run) -> np.ndarray:
    """Heat into the water, what boiled off included, mean of each step, W, shape (steps,)."""
    return np.asarray(run.account_w["water"] + run.account_w["steam"])


def _mean_w(run: Run, watts: np.ndarray, first_s: float, last_s: float) -> float:
    inside = (run.edge_s[:-1] >= first_s - 1.0) & (run.edge_s[:-1] < last_s - 1.0)
    return float(watts[inside].mean()) if inside.any() else 0.0


def _fill(site: Site, load: KettleWater, run: Run, day: date, pour: Pour, until_s: float) -> KettleFill | None:
    put, wanted = instant_s(site.zone, day, pour.goes_in), instant_s(site.zone, day, pour.wanted_at)
    inside = (run.edge_s > put - 1.0) & (run.edge_s < until_s - 1.0)
    times, series = run.edge_s[inside], run.temperature_c[TOP][inside]
    if wanted > run.edge_s[-1] or len(times) < 2 or np.isnan(series[1:]).any():
        return None
    series = np.concatenate(([load.fresh_c[TOP]], series[1:]))
    hot = reached(times, series, load.target_c)
    boils = reached(times, series, boiling_c(run.weather.pressure_pa) - BOILS_K)
    steam = _mean_w(run, run.account_w["steam"], put, until_s) * (until_s - put) / LATENT_J_KG
    return KettleFill(
        put_out=local_time(site.zone, put), wanted_at=local_time(site.zone, wanted), hot_at=None if hot is None else local_time(site.zone, hot),
        minutes=None if hot is None else (hot - put) / 60.0, boils_at=None if boils is None else local_time(site.zone, boils),
        boil_minutes=None if boils is None else (boils - put) / 60.0, at_wanted_c=float(np.interp(wanted, times, series)),
        after_hour_c=float(np.interp(put + HOUR_S, times, series)), in_time=hot is not None and hot <= wanted, steam_l=max(steam, 0.0),
        gained_w=_mean_w(run, gained_w(run), put, put + HOUR_S),
    )  # fmt: skip


def results(site: Site, load: KettleWater, run: Run) -> Model:
    """Filling by filling, day by day."""
    days, watts = list[KettleDay](), gained_w(run)
    for day, begin, end in days_of(site.zone, float(run.edge_s[0]), float(run.edge_s[-1])):
        ends = [*(instant_s(site.zone, day, pour.goes_in) for pour in load.pours[1:]), end]
        fills = [_fill(site, load, run, day, pour, until) for pour, until in zip(load.pours, ends, strict=True)]
        steps = np.flatnonzero((run.edge_s[:-1] >= begin) & (run.edge_s[:-1] < end))
        if any(fill is None for fill in fills) or len(steps) == 0:
            continue
        pours = [instant_s(site.zone, day, pour.goes_in) for pour in load.pours]
        calm = np.array([all(not 0.0 <= at - put < CALM_S for put in pours) for at in run.edge_s[steps]])
        most = steps[int(np.argmax(np.where(calm, watts[steps], 0.0)))]
        days.append(
            KettleDay(
                day=day, fills=[fill for fill in fills if fill is not None], gain_kwh=float(watts[steps].sum()) * run.weather.dt_s / KWH_J,
                most_w=float(watts[most]), most_at=local_time(site.zone, run.edge_s[most]),
                absorbed_w=float((run.opening_w - run.account_w["mirrored"])[steps].max()),
            )
        )  # fmt: skip
    return KettleResults(kettle=KettleResult(target_c=load.target_c, days=days, words=_words(load, days)))


def _words(load: KettleWater, days: list[KettleDay]) -> str:
    if not days:
        return "The run ends before the water is wanted."
    return " ".join(_said(load, fill) for fill in days[0].fills)


def _said(load: KettleWater, fill: KettleFill) -> str:
    put, wanted = f"{fill.put_out:%H:%M}", f"{fill.wanted_at:%H:%M}"
    if fill.hot_at is None or fill.minutes is None:
        return f"Put out at {put} it never gets to {celsius(load.target_c)}; by {wanted} it is {celsius(fill.at_wanted_c)}."
    took = f"{celsius(load.target_c)} at {fill.hot_at:%H:%M}, after {minutes(fill.minutes)}"
    if fill.in_time:
        return f"Put out at {put} it is at {took}."
    return f"Put out at {put} it is late: {celsius(fill.at_wanted_c)} by {wanted}, {took}."


def headline(results: Model) -> Headline | None:
    """How long it takes."""
    kettle = cast(KettleResults, results).kettle
    if kettle is None or not kettle.days:
        return None
    first = kettle.days[0].fills[0]
    brief = (
        f"{celsius(first.at_wanted_c)} by {first.wanted_at:%H:%M}"
        if first.minutes is None
        else f"hot in {minutes(first.minutes)}"
    )
    return Headline(kettle.words, brief)


def daily(results: Model) -> dict[date, str]:
    """Each filling of each day."""
    kettle = cast(KettleResults, results).kettle
    if kettle is None:
        return {}
    return {
        day.day: "; ".join(
            f"{fill.put_out:%H:%M}: " + ("not hot" if fill.minutes is None else f"hot in {minutes(fill.minutes)}")
            for fill in day.fills
        )
        for day in kettle.days
    }


def score(load: KettleWater, run: Run, begun_s: float) -> float | None:
    """How warm an hour of its heat would make it, boiling left aside, °C: it goes on where water stands still at boiling."""
    return load.fresh_c[TOP] + _mean_w(run, gained_w(run), begun_s, begun_s + HOUR_S) * HOUR_S / (
        load.fill_l * CP_WATER_J_KGK
    )


def enough(load: KettleWater, run: Run, day: Held) -> bool:
    """Whether it got as hot as wanted."""
    return day.reached


def steps(load: KettleWater, outcome: Outcome, get_ready: str) -> list[PlanStep]:
    """Put out, pour, put out again."""
    out = list[PlanStep]()
    kettle = cast(KettleResults, outcome.results).kettle
    fills = kettle.days[0].fills if kettle is not None and kettle.days else []
    for k, pour in enumerate(load.pours):
        put = moment(outcome, pour.goes_in)
        out.append(
            PlanStep(
                time=put - timedelta(minutes=5),
                text=get_ready if k == 0 else "pour the rest out, let the tube cool a little",
            )
        )
        out.append(PlanStep(time=put, text="pour the water in, stopper laid on, and put it out"))
        if k < len(fills):
            when = fills[k].hot_at or fills[k].wanted_at
            out.append(
                PlanStep(
                    time=when,
                    text=f"{celsius(fills[k].at_wanted_c if fills[k].hot_at is None else load.target_c)}: pour with gloves, mouth away from you",
                )
            )
    return sorted(out, key=lambda step: step.time)


def sizes(load: KettleWater) -> list[KettleWater]:
    """Less of it."""
    return [load.model_copy(update={"fill_l": round(load.fill_l * share, 3)}) for share in SIZES]


OUTCOME: LoadOutcome[KettleWater] = LoadOutcome(
    measure=KELVIN, steps=steps, results_model=KettleResults, results=results, headline=headline, score=score, enough=enough, daily=daily, sizes=sizes,
    counts="how warm its first hour of heat would make it, boiling left aside",
    otherwise="Take a flask of hot water along.",
)  # fmt: skip
