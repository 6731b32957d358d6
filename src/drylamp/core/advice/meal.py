"""Planning a meal or a melt: the latest start with its chance, what preheating is worth, how much by when, which months."""

from __future__ import annotations

import calendar
from collections.abc import Sequence
from datetime import date, datetime, timedelta
from functools import lru_cache

import numpy as np

from drylamp.core.advice.context import put_in_s, score_of
from drylamp.core.checks import InputProblem, Model, YesNo, require
from drylamp.core.loads.load import Load
from drylamp.core.long import Long, Step, whole
from drylamp.core.outcome.registry import outcome_of
from drylamp.core.sky.clock import day_edges_s, instant_s, local_time
from drylamp.core.sky.site import Site
from drylamp.core.sky.weather import Weather, clear_days
from drylamp.core.sky.years import MadeUp
from drylamp.core.text import Sentence, kilograms
from drylamp.core.twin.case import Case, climate_day
from drylamp.core.twin.prepared import Prepared, prepare
from drylamp.core.twin.run import Run

STEP_S = 300.0
MEMBERS, MONTH_MEMBERS = 24, 10
SURE = 0.8
"""Chance that counts as good enough to plan on; common practice, no source."""
EARLIEST_H, EVERY_H = 6.0, 0.5
PREHEATS_MIN = (0.0, 30.0, 60.0)


class StartLine(Model):
    """One hour at which to start, how likely it is ready by the wanted hour, and when on a clear day."""

    goes_in: str
    chance: float | None
    ready_clear: datetime | None


class SizeLine(Model):
    """One size of meal: when it is ready on a clear day, and whether by the wanted hour."""

    food_kg: float
    ready: datetime | None
    in_time: YesNo


class PreheatLine(Model):
    """Minutes of sun on the empty build before the load goes in, and minutes to the target then."""

    preheat_minutes: float
    minutes: float | None


class MealPlan(Model):
    """How to have it ready by an hour.

    Attributes:
        latest: the last start with a good chance; none where there is none
        biggest_kg: the largest meal ready in time on a clear day, of those tried
    """

    wanted: datetime
    latest: StartLine | None
    starts: list[StartLine]
    sizes: list[SizeLine]
    biggest_kg: float | None
    preheats: list[PreheatLine]
    words: Sentence


class MonthChance(Model):
    """One month: chance that a day does it, days of it, and the mean of clean wax on a day where wax is melted."""

    month: int
    chance: float | None
    days: float | None
    clear_minutes: float | None
    clear_works: YesNo
    kg_a_day: float | None
    kg_month: float | None


class YearPlan(Model):
    """Twelve months, and days a year."""

    months: list[MonthChance]
    days_a_year: float | None
    kg_a_year: float | None
    first_month: int | None
    last_month: int | None
    words: Sentence


def days_like(site: Site, day: date, members: int, seed: int = 1) -> list[Weather]:
    """So many days that this date could equally well be, with one and the same path of the sun.

    Raises
    ------
    InputProblem
        the site has no monthly means with clearness.
    """
    return list(_days_like(site.model_dump_json(), day, members, seed))


@lru_cache(maxsize=64)
def _days_like(site_json: str, day: date, members: int, seed: int) -> tuple[Weather, ...]:
    site = Site.model_validate_json(site_json)
    return tuple(MadeUp(site).day(day, member, seed) for member in range(members))


def _clear(site: Site, day: date) -> Weather:
    return clear_days(site, climate_day(site, day), *day_edges_s(site.zone, day), STEP_S)


def has_chances(site: Site) -> bool:
    """Whether the site has what chances need."""
    return all(month.clearness is not None for month in site.months)


def done_at(run: Run, load: Load) -> float | None:
    """When a load was done, seconds since 1970; none when it never is."""
    return outcome_of(load).done_at(load, run)


def days_taken(run: Run, load: Load, site: Site) -> float | None:
    """From putting in until it was done, days; none where it never was."""
    done = done_at(run, load)
    return None if done is None else (done - put_in_s(site, load, run.weather)) / 86400.0


def meal_plan(case: Case, wanted: str) -> MealPlan:
    """Everything about one wanted hour on the case's first day.

    Raises
    ------
    InputProblem
        the wanted hour is before any sun.
    """
    site, day, load = case.site, case.span.start, _load_of(case)
    by = local_time(site.zone, instant_s(site.zone, day, wanted))
    require(
        by.hour >= EARLIEST_H + 1,
        "wanted",
        f"{wanted} was given; allowed is from {EARLIEST_H + 1:.0f}:00 on, the sun needs its time",
    )
    clear = prepare(case, _clear(site, day))
    likely = [prepare(case, weather) for weather in days_like(site, day, MEMBERS)] if has_chances(site) else []
    starts = [_start(load, clear, likely, hour, by) for hour in _hours_before(by)]
    sure = [line for line in starts if line.chance is not None and line.chance >= SURE]
    if not likely:
        sure = [line for line in starts if line.ready_clear is not None and line.ready_clear <= by]
    latest = max(sure, key=lambda line: line.goes_in) if sure else None
    sizes = _sizes(case, by)
    fitting = [line.food_kg for line in sizes if line.in_time]
    return MealPlan(
        wanted=by, latest=latest, starts=starts, sizes=sizes, biggest_kg=max(fitting) if fitting else None,
        preheats=_preheats(clear), words=_meal_words(load, by, latest, starts, bool(likely)),
    )  # fmt: skip


def _load_of(case: Case) -> Load:
    if case.load is None:
        raise InputProblem("load", "nothing goes in; say what is to be cooked or melted first")
    return case.load


def _hours_before(by: datetime) -> list[str]:
    end = by.hour + by.minute / 60.0
    hours = np.arange(EARLIEST_H, end - 0.25, EVERY_H)[-14:]
    return [f"{int(h):02d}:{round(h % 1 * 60):02d}" for h in hours]


def _start(load: Load, clear: Prepared, likely: Sequence[Prepared], hour: str, by: datetime) -> StartLine:
    when = done_at(clear.run(goes_in=hour), load)
    done = [done_at(ready.run(goes_in=hour), load) for ready in likely]
    chance = sum(d is not None and d <= by.timestamp() for d in done) / len(done) if done else None
    ready_clear = None if when is None else local_time(clear.case.site.zone, when)
    return StartLine(goes_in=hour, chance=chance, ready_clear=ready_clear)


def _meal_words(load: Load, by: datetime, latest: StartLine | None, starts: list[StartLine], chances: bool) -> str:
    best = max(starts, key=lambda line: (line.chance or 0.0, line.goes_in), default=None)
    if latest is None and best is not None and best.chance is not None:
        return f"No start gives a good chance of {load.title} by {by:%H:%M}; the best is {best.goes_in} with {best.chance * 100:.0f} in 100. {outcome_of(load).otherwise}"
    if latest is None:
        return f"Even under a clear sky {load.title} is not ready by {by:%H:%M}. Take less, or eat later."
    if not chances:
        return (
            f"Latest start {latest.goes_in} under a clear sky; no chance is given, this site has no monthly clearness."
        )
    return f"Latest start {latest.goes_in}: {(latest.chance or 0) * 100:.0f} in 100 such days have {load.title} ready by {by:%H:%M}."


def _sizes(case: Case, by: datetime) -> list[SizeLine]:
    """Other sizes of the same, on a clear day."""
    out, weather = [], _clear(case.site, case.span.start)
    for other in outcome_of(_load_of(case)).sizes(_load_of(case)):
        try:
            when = done_at(prepare(case.with_(load=other), weather).run(), other)
        except InputProblem:
            continue
        ready = None if when is None else local_time(case.site.zone, when)
        out.append(SizeLine(food_kg=other.amount_kg, ready=ready, in_time=ready is not None and ready <= by))
    return out


def _preheats(clear: Prepared) -> list[PreheatLine]:
    load, site = _load_of(clear.case), clear.case.site
    begun = put_in_s(site, load, clear.weather)
    out = []
    for minutes in PREHEATS_MIN:
        run = clear.uncovered(begun - 60.0 * minutes).run()
        out.append(PreheatLine(preheat_minutes=minutes, minutes=score_of(site, clear.case.build, load, run).minutes))
    return out


def year_plan(case: Case) -> YearPlan:
    """Which months it works at this site in the case's year, and how many days; clear days alone where the site has no clearness."""
    return whole(year_steps(case))


def year_steps(case: Case) -> Long[YearPlan]:
    """The same, month by month; words when the year is whole."""
    lines = list[MonthChance]()
    for month in range(1, 13):
        lines.append(_month(case, month))
        yield Step(month / 12.0, _year(lines))


def _year(lines: list[MonthChance]) -> YearPlan:
    works = [line.month for line in lines if (line.chance or 0.0) >= 0.5 or (line.chance is None and line.clear_works)]
    days = None if any(line.days is None for line in lines) else sum(line.days or 0.0 for line in lines)
    kg = None if any(line.kg_month is None for line in lines) else sum(line.kg_month or 0.0 for line in lines)
    return YearPlan(
        months=list(lines), days_a_year=days, kg_a_year=kg, first_month=works[0] if works else None, last_month=works[-1] if works else None,
        words=_year_words(lines, days, kg) if len(lines) == 12 else f"So far as {calendar.month_name[len(lines)]}.",
    )  # fmt: skip


def _month(case: Case, month: int) -> MonthChance:
    site, load = case.site, _load_of(case)
    day = date(case.span.start.year, month, 15)
    run = prepare(case, _clear(site, day)).run()
    when = done_at(run, load)
    minutes = None if when is None else (when - put_in_s(site, load, run.weather)) / 60.0
    chance = days = kg = month_kg = None
    if has_chances(site):
        length = calendar.monthrange(day.year, month)[1]
        runs = [prepare(case, weather).run() for weather in days_like(site, day, MONTH_MEMBERS)]
        chance = sum(done_at(r, load) is not None for r in runs) / len(runs)
        days = chance * length
        clean_kg = outcome_of(load).clean_kg
        if clean_kg is not None:
            kg = float(np.mean([clean_kg(load, r) for r in runs]))
            month_kg = kg * length
    return MonthChance(
        month=month,
        chance=chance,
        days=days,
        clear_minutes=minutes,
        clear_works=when is not None,
        kg_a_day=kg,
        kg_month=month_kg,
    )


def _year_words(lines: list[MonthChance], days: float | None, kg: float | None) -> str:
    if days is None:
        works = [calendar.month_name[line.month] for line in lines if line.clear_works]
        return (
            f"On clear days it works in {', '.join(works)}."
            if works
            else "It does not get there in any month, even under a clear sky."
        )
    said = f"About {days:.0f} days a year do it"
    good = [calendar.month_name[line.month] for line in lines if (line.chance or 0) >= 0.5]
    said += f"; more days than not in {', '.join(good)}." if good else "; in no month more days than not."
    return (
        said if kg is None else said + f" One batch on every day of the year would give {kilograms(kg)} of clean wax."
    )


NO_CLEARNESS = (
    "this place has no monthly clearness, so no usual day can be made up; type it at the place, or bring a weather file"
)


def stock_days(plan: YearPlan, stock_kg: float, from_day: date, until: date) -> tuple[float, float]:
    """Clean wax that can be had between two dates from a stock's worth of it, and days of melting that takes, kg and days."""
    have, days, day = 0.0, 0.0, from_day
    require(all(line.kg_a_day is not None for line in plan.months), "site_id", NO_CLEARNESS)
    while day < until and have < stock_kg:
        a_day = plan.months[day.month - 1].kg_a_day or 0.0
        have += a_day
        days += 1.0 if a_day > 0.0 else 0.0
        day += timedelta(days=1)
    return min(have, stock_kg), days
