"""A load over many years, made up or those of a weather file: the years one by one, so that figures stand from the first on and somebody may stop.

What a year comes to is the load's own matter (``LoadAdvice.year``). Where it says nothing: of what goes in anew each day, days of the year on which it is done; of a batch and of a charge, days until it is done;
of what stands, how well it does over the days that are looked at.
"""

from __future__ import annotations

import calendar
import math
from collections.abc import Callable, Iterator
from concurrent.futures import Executor, ThreadPoolExecutor
from datetime import date

import numpy as np

from drylamp.core.advice.context import AdviceContext, score_of
from drylamp.core.advice.entries import YearAsked
from drylamp.core.advice.meal import days_taken, done_at, has_chances
from drylamp.core.advice.registry import advice_of_load
from drylamp.core.checks import Count, Model, require
from drylamp.core.ensemble import in_order
from drylamp.core.loads.load import Load
from drylamp.core.long import Long, Step
from drylamp.core.quantities import Quantity
from drylamp.core.sky.clock import local_time
from drylamp.core.sky.rough_climate import ROUGH_SAID
from drylamp.core.sky.weather import Span
from drylamp.core.text import Sentence, amount, counted
from drylamp.core.threads import AT_A_TIME
from drylamp.core.twin.prepared import prepare, simulate
from drylamp.core.twin.run import Run

YEARS, MOST_YEARS, SEED = 30, 200, 700
STEP_S = 300
BATCH_DAYS, STANDING_DAYS = 12, 7
MONTH_DAY = 15


class Chance(Model):
    """Years so far: what each came to (none: never done), the middle and the ends between which eight in ten lie, the share that came to nothing.

    Attributes:
        counts: what is counted, in words
        years: how many there are to be
    """

    counts: Sentence
    quantity: Quantity
    years: Count
    members: list[float | None]
    low: float | None
    likely: float | None
    high: float | None
    never: float
    words: Sentence


def chance(context: AdviceContext, years: int = YEARS, executor: Executor | None = None) -> Long[Chance]:
    """Run a load through years: those that the context brings, as many as it has, or made-up ones.

    Parameters
    ----------
    executor
        where the years are run; two threads where none is given

    Raises
    ------
    InputProblem
        nothing is in the build, the site has no monthly clearness, or too many years are asked for.
    """
    require(context.load is not None, "load", "nothing is in this build; put something in first")
    require(1 <= years <= MOST_YEARS, "years", f"{years} were given; allowed are 1 to {MOST_YEARS}")
    require(
        context.measured is not None or has_chances(context.case.site), "site_id", "this place has no monthly clearness, so no year can be made up; type it at the place, or bring a weather file"
    )  # fmt: skip
    years = min(years, context.years.most or years)
    asked, rough = _asked(context), context.measured is None and context.case.site.climate_is_rough
    found = list[float | None]()
    for value in _members(asked.member, years, executor):
        found.append(value)
        yield Step(len(found) / years, so_far(asked, found, years, rough, context.years.said(len(found))))


def _members(
    member: Callable[[int], float | None], years: int, executor: Executor | None = None
) -> Iterator[float | None]:
    """In their order, as many at once as there are cores; no more are begun than somebody waits for."""
    with ThreadPoolExecutor(max_workers=AT_A_TIME) as both:  # begins no thread before it is asked to work
        yield from in_order(executor or both, member, range(years), AT_A_TIME)


def _asked(context: AdviceContext) -> YearAsked:
    """What a year of this load is asked for."""
    load = context.load
    assert load is not None
    own = advice_of_load(load).year
    if own is not None:
        return own(context, load)
    if load.calendar.daily:
        return YearAsked(f"days of a year on which {load.title} is done", "count", lambda k: _days_done(context, load, k))  # fmt: skip
    if load.calendar.stands:
        return YearAsked(f"how well {load.title} does over {STANDING_DAYS} days from this date", context.measure.quantity, lambda k: _scored(context, load, k))  # fmt: skip
    return YearAsked(f"days until {load.title} is done, from this date", "count", lambda k: _days_until_done(context, load, k))  # fmt: skip


def _days_done(context: AdviceContext, load: Load, year: int) -> float:
    """One day of each month stands for the month."""
    on, days = context.case.span.start.year, 0.0
    for month in range(1, 13):
        weather = context.years.day(date(on, month, MONTH_DAY), year)
        done = done_at(prepare(context.case, weather).run(), load)
        days += 0.0 if done is None else calendar.monthrange(on, month)[1]
    return days


def _run_from_here(context: AdviceContext, year: int, days: int) -> Run:
    """The days from the one that is looked at on, in a made-up year."""
    first = local_time(context.case.site.zone, context.weather.start_s).date()
    span = Span(start=first, days=days, step_s=STEP_S)
    return simulate(context.case.with_(span=span), context.years.spell(span, year, SEED))


def _days_until_done(context: AdviceContext, load: Load, year: int) -> float | None:
    return days_taken(_run_from_here(context, year, BATCH_DAYS), load, context.case.site)


def _scored(context: AdviceContext, load: Load, year: int) -> float:
    return score_of(context.case.site, context.build, load, _run_from_here(context, year, STANDING_DAYS)).value


def so_far(asked: YearAsked, found: list[float | None], years: int, rough: bool = False, called: str = "") -> Chance:
    """What stands of it after some years, made up where ``called`` does not say otherwise; with rough months they are told to be a guess."""
    values = np.array([math.inf if value is None else value for value in found])

    def at(share: float) -> float | None:
        value = float(np.quantile(values, share, method="higher" if share > 0.5 else "lower"))
        return round(value, 2) if math.isfinite(value) else None

    low, likely, high = at(0.1), at(0.5), at(0.9)
    never = float(np.mean(~np.isfinite(values)))
    return Chance(
        counts=asked.counts, quantity=asked.quantity, years=years, members=[None if v is None else round(v, 2) for v in found], low=low, likely=likely, high=high, never=round(never, 3),
        words=_words(asked, (low, likely, high), never, called or counted(len(found), "made-up year")) + (f" {ROUGH_SAID} These years are spread as wide as that." if rough else ""),
    )  # fmt: skip


def _words(asked: YearAsked, ends: tuple[float | None, float | None, float | None], never: float, count: str) -> str:
    low, likely, high = ends

    def said(value: float | None) -> str:
        if value is None:
            return "never"
        return amount(round(value) if asked.quantity == "count" else value, asked.quantity)

    told = f"Over {count}: {said(likely)} in the middle, {said(low)} to {said(high)} in eight of ten ({asked.counts})."
    return told if never == 0.0 else f"{told} In {100 * never:.0f} of 100 it is not done as far as the twin looks."
