"""What is asked of tubs and pools: when to start, which days of the year the loop wins, how to cool them by night."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date, datetime, timedelta

import numpy as np

from drylamp.core.advice.context import AdviceContext
from drylamp.core.advice.loops import (
    Enough,
    HowMany,
    NightCooling,
    NightLine,
    ReadyBy,
    SeasonMonth,
    SeasonOf,
    SeasonWon,
    StartFor,
)
from drylamp.core.air.constants import KWH_J
from drylamp.core.arrays import Array
from drylamp.core.builds.build import Build
from drylamp.core.loads.common.filling import TOP
from drylamp.core.loads.common.loop.advice import with_pump
from drylamp.core.loads.common.loop.ends import LOOP
from drylamp.core.loads.pool.spec import Pool
from drylamp.core.sky.clock import days_of, instant_s, local_day, local_time
from drylamp.core.sky.generator import made_up_weather, may_be
from drylamp.core.sky.of_span import weather_of
from drylamp.core.sky.weather import Span, Weather, clear_days
from drylamp.core.text import capital, celsius, counted, kelvin, kilowatt_hours
from drylamp.core.threads import two_at_a_time
from drylamp.core.twin.case import climate_day
from drylamp.core.twin.prepared import prepare
from drylamp.core.twin.run import Run

AHEAD_DAYS, STEP_S, YEARS, SEED = 8, 300, 3, 11
LARGER = ("one more coil", "two more coils")
MORNING, EVENING = "07:00", "20:00"
COOLED_C = 5.0
LEAST_WON = 0.5
"""Days of a week, over the years, from which one sets it out."""
WEEK = 7
LAST_EVENINGS, MOST_TRIED = 3, 8


def _ahead(context: AdviceContext, days: int) -> tuple[Weather, date]:
    site, day = context.case.site, local_day(context.case.site.zone, context.weather.start_s)
    return weather_of(site, climate_day(site, day, "clear"), Span(start=day, days=days, step_s=STEP_S)), day


def _run(context: AdviceContext, weather: Weather, build: Build, load: Pool) -> Run:
    return prepare(context.case.with_(build=build, load=load), weather).run()


# --- when to start ---


def ready_by(context: AdviceContext, load: Pool) -> ReadyBy:
    """Let the loop begin on each of the days ahead, and see on which evenings the water is as warm as wanted."""
    weather, day = _ahead(context, AHEAD_DAYS)
    site, build = context.case.site, context.build
    begins = [
        day_s for _, day_s, _ in days_of(site.zone, weather.start_s, weather.start_s + weather.steps * weather.dt_s)
    ]
    evenings = [instant_s(site.zone, day + timedelta(days=k), load.want_at) for k in range(AHEAD_DAYS)]
    runs = two_at_a_time(lambda from_s: _run(context, weather, build, load.starting(from_s)), begins)
    warm = np.array([np.interp(evenings, run.edge_s, run.temperature_c[TOP]) for run in runs])
    rows = [
        StartFor(evening=local_time(site.zone, at), warmest_c=float(warm[0, k]), latest=_latest(context, runs, begins, warm[: k + 1, k], load.warm_c))
        for k, at in enumerate(evenings)
    ]  # fmt: skip
    when = (
        runs[0].edge_s[np.argmax(runs[0].temperature_c[TOP] >= load.warm_c)]
        if (runs[0].temperature_c[TOP] >= load.warm_c).any()
        else None
    )
    days = None if when is None else float(when - runs[0].edge_s[0]) / 86400.0
    return ReadyBy(warm_c=load.warm_c, days_to_warm=days, evenings=rows, words=_ready_words(load, rows))


def _latest(
    context: AdviceContext, runs: list[Run], begins: list[float], by_start: Array, warm_c: float
) -> datetime | None:
    """The last of the starts that still makes it, at the minute at which its loop first moves."""
    good = np.flatnonzero(by_start >= warm_c)
    if len(good) == 0:
        return None
    run, from_s = runs[int(good[-1])], begins[int(good[-1])]
    moves = np.flatnonzero((run.circulated[LOOP].kg > 0.0) & (run.edge_s[:-1] >= from_s))
    return local_time(context.case.site.zone, float(run.edge_s[moves[0]]) if len(moves) else from_s)


def _ready_words(load: Pool, rows: list[StartFor]) -> str:
    first = next((row for row in rows if row.latest is not None), None)
    if first is None:
        last = rows[-1]
        return f"Even with the loop running from today on it is only {celsius(last.warmest_c)} on {last.evening:%A %d %B}; more to heat it, or a cover."
    saturday = next((row for row in rows if row.evening.weekday() == 5 and row.evening >= first.evening), first)
    if saturday.latest is None:
        return f"It is first as warm as wanted on {first.evening:%A %d %B}."
    return f"For {celsius(load.warm_c)} on {saturday.evening:%A %d %B at %H:%M} it has to start on {saturday.latest:%A %d %B at %H:%M} at the latest."


# --- the season ---


@dataclass(frozen=True)
class _Year:
    """A made-up year: which of its days are warm enough at the wanted hour, and the pump's electricity."""

    days: list[date]
    warm: np.ndarray
    pump_kwh: float


def season(context: AdviceContext, load: Pool) -> SeasonWon:
    """Made-up years with and without the loop, and with more to heat it: days on which the water is warm enough."""
    site, build = context.case.site, context.build
    year = local_day(site.zone, context.weather.start_s).year
    start = date(year, 1, 1) if site.latitude_deg >= 0 else date(year, 7, 1)
    weathers = [
        weather_of(
            site, made_up_weather(may_be(site, member), start - timedelta(days=1), 368, seed=SEED, member=member), Span(start=start, days=365, step_s=STEP_S),
        )
        for member in range(YEARS)
    ]  # fmt: skip
    sizes = _sizes(build)
    tried = (
        [(w, build, load.standing()) for w in weathers]
        + [(w, build, load) for w in weathers]
        + [(weathers[0], size, load) for size in sizes[1:]]
    )
    years = two_at_a_time(lambda one: _year(context, load, *one), tried)
    without, mine, larger = years[:YEARS], years[YEARS : 2 * YEARS], years[2 * YEARS :]
    months = [
        SeasonMonth(month=m, without=_in_month(without, m), with_loop=_in_month(mine, m)) for m in range(1, 13)
    ]  # fmt: skip
    out, stow = _useful(without, mine)
    rows = [_mine(mine), *(_larger(title, year, mine) for title, year in zip(LARGER, larger, strict=False))]
    bare = float(np.mean([y.warm.sum() for y in without]))
    return SeasonWon(
        warm_c=load.warm_c, years=YEARS, months=months, without_days=bare, set_out=out, stow=stow, sizes=rows, words=_season_words(load, bare, rows, out, stow),
    )  # fmt: skip


def _sizes(build: Build) -> list[Build]:
    found = [build]
    while len(found) <= len(LARGER) and (more := found[-1].larger()) is not None:
        found.append(more)
    return found


def _year(context: AdviceContext, load: Pool, weather: Weather, build: Build, made: Pool) -> _Year:
    run, zone = _run(context, weather, build, made), context.case.site.zone
    days = [day for day, _, _ in days_of(zone, weather.start_s, weather.start_s + weather.steps * weather.dt_s)]
    at = [instant_s(zone, day, load.want_at) for day in days]
    warm = np.interp(at, run.edge_s, run.temperature_c[TOP]) >= load.warm_c
    motor_w = 0.0 if made.pump is None else made.pump.motor_w
    return _Year(days, warm, float(run.ran_s[LOOP].sum()) * motor_w / KWH_J)


def _in_month(years: list[_Year], month: int) -> float:
    return float(
        np.mean([sum(bool(w) for day, w in zip(y.days, y.warm, strict=True) if day.month == month) for y in years])
    )


def _useful(without: list[_Year], mine: list[_Year]) -> tuple[date | None, date | None]:
    """First and last day of the weeks in which the loop wins a day at all, over the years."""
    won = np.mean([a.warm & ~b.warm for a, b in zip(mine, without, strict=True)], axis=0)
    weeks = np.convolve(won, np.ones(WEEK), mode="same")
    good = np.flatnonzero(weeks >= LEAST_WON)
    return (None, None) if len(good) == 0 else (mine[0].days[int(good[0])], mine[0].days[int(good[-1])])


def _mine(years: list[_Year]) -> SeasonOf:
    days = [float(y.warm.sum()) for y in years]
    return SeasonOf(
        title="as it is",
        days=float(np.mean(days)),
        least=min(days),
        most=max(days),
        pump_kwh=float(np.mean([y.pump_kwh for y in years])),
    )


def _larger(title: str, year: _Year, mine: list[_Year]) -> SeasonOf:
    """Tried in one of the years, which says what it adds; a year for each would take as long again."""
    now, more = _mine(mine), float(year.warm.sum() - mine[0].warm.sum())
    return SeasonOf(
        title=title, days=now.days + more, least=now.least + more, most=now.most + more, pump_kwh=year.pump_kwh
    )


def _season_words(load: Pool, bare: float, rows: list[SeasonOf], out: date | None, stow: date | None) -> str:
    mine = rows[0]
    begun = (
        f"At {load.want_at} it is {celsius(load.warm_c)} or more on {counted(round(bare), 'day')} of the year by itself"
    )
    if mine.days - bare < 1.0 or out is None or stow is None:
        return f"{begun}; the loop wins none."
    said = (
        f"{begun}, with the loop on {round(mine.days)} ({round(mine.least)} to {round(mine.most)} by the year), for {kilowatt_hours(mine.pump_kwh)} of electricity. "
        f"Set it out about {out:%d %B}, stow it about {stow:%d %B}."
    )
    more = rows[1] if len(rows) > 1 else None
    return said if more is None else f"{said} One more coil: {round(more.days - mine.days)} days more."


# --- how many ---


def how_many(context: AdviceContext, load: Pool, rise_k: float, weeks: int) -> HowMany:
    """From one of what it is counted in upward, until the water is so much warmer after so many weeks of made-up weather than without the loop."""
    site, day = context.case.site, local_day(context.case.site.zone, context.weather.start_s)
    days = WEEK * weeks
    weathers = [
        weather_of(site, made_up_weather(may_be(site, member), day - timedelta(days=1), days + 3, seed=SEED, member=member), Span(start=day, days=days, step_s=STEP_S))
        for member in range(YEARS)
    ]  # fmt: skip
    evenings = [
        instant_s(site.zone, day + timedelta(days=days - back), load.want_at) for back in range(1, LAST_EVENINGS + 1)
    ]

    def ends(build: Build, made: Pool) -> tuple[list[float], float]:
        """How warm it is at the end in each of the years, and the pump's electricity in the first."""
        runs = two_at_a_time(lambda weather: _run(context, weather, build, made), weathers)
        motor_w = 0.0 if made.pump is None else made.pump.motor_w
        return [float(np.mean(run.at(TOP, np.array(evenings)))) for run in runs], float(
            runs[0].ran_s[LOOP].sum()
        ) * motor_w / KWH_J

    bare, _ = ends(context.build, load.standing())
    tried, lines, needed = context.build.fewest(), list[Enough](), None
    while needed is None and len(lines) < MOST_TRIED:
        mine, kwh = ends(tried, load)
        more = np.array(mine) - np.array(bare)
        lines.append(
            Enough(
                title=tried.amount or "as it is",
                warmer_k=float(more.mean()),
                least_k=float(more.min()),
                most_k=float(more.max()),
                pump_kwh=kwh,
            )
        )
        needed = len(lines) - 1 if more.mean() >= rise_k else None
        larger = tried.larger()
        if larger is None:
            break
        tried = larger
    return HowMany(
        rise_k=rise_k, weeks=weeks, lines=lines, needed=needed, words=_how_many_words(rise_k, weeks, lines, needed)
    )


def _how_many_words(rise_k: float, weeks: int, lines: list[Enough], needed: int | None) -> str:
    asked = f"{kelvin(rise_k)} more than without the loop after {counted(weeks, 'week')}"
    if needed is None:
        last = lines[-1]
        return f"{capital(asked)}: not even {last.title} do that, they bring {kelvin(last.warmer_k)}. A cover keeps more than another coil brings."
    line = lines[needed]
    return (
        f"{capital(asked)} takes {line.title}: {kelvin(line.warmer_k)} ({kelvin(line.least_k)} to {kelvin(line.most_k)} by the year), for "
        f"{kilowatt_hours(line.pump_kwh)} of electricity."
    )


# --- nights ---


def night_cooling(context: AdviceContext, load: Pool) -> NightCooling:
    """The night after the chosen day, from the warmth of its evening on: as it is, uncovered, and with the pump sending the water under the sky."""
    weather, day = _ahead(context, 1)
    site, build = context.case.site, context.build
    at = instant_s(site.zone, day, EVENING), instant_s(site.zone, day + timedelta(days=1), MORNING)
    evening_c = float(np.interp(at[0], *_series(_run(context, weather, build, load))))
    night = clear_days(site, climate_day(site, day, "clear"), at[0], at[1], float(STEP_S))
    bare = load.model_copy(update={"on_water": None})
    cools = with_pump(bare, how="difference", cools=True, on_k=2.0, off_k=0.5, stops_at_c=COOLED_C)
    ways = [
        ("as it is", load),
        ("uncovered, the loop still", bare.standing()),
        ("uncovered, the pump sends it under the sky", cools),
    ]
    lines = []
    for title, made in ways:
        left = _run(context, night, build, made.model_copy(update={"start_c": evening_c})).temperature_c[TOP][-1]
        lines.append(NightLine(title=title, evening_c=evening_c, morning_c=float(left), shed_k=evening_c - float(left)))
    best = max(lines, key=lambda line: line.shed_k)
    words = f"From {EVENING} to {MORNING} it sheds {kelvin(lines[0].shed_k)} as it is"
    more = "" if best is lines[0] else f", {kelvin(best.shed_k)} {best.title}"
    return NightCooling(lines=lines, words=f"{words}{more}.")


def _series(run: Run) -> tuple[Array, Array]:
    return run.edge_s, run.temperature_c[TOP]
