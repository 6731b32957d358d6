"""Where a load of several days stands, evening by evening: what is already behind it, and what a run of usual days would bring."""

from __future__ import annotations

from collections.abc import Callable
from datetime import date, timedelta

from drylamp.core.checks import Model, YesNo
from drylamp.core.loads.load import Load
from drylamp.core.outcome.registry import outcome_of
from drylamp.core.outcome.summary import summarise
from drylamp.core.sky.weather import Weather
from drylamp.core.text import Sentence
from drylamp.core.twin.case import Case
from drylamp.core.twin.prepared import simulate

DAYS_ON, MOST_DAYS_BACK, MOST_SHOWN = 7, 90, 7
STEP_S = 300
EVERY_S = 1800.0


class StandingDay(Model):
    """Where it stands at the end of a day, and whether it is then what was wanted."""

    day: date
    words: Sentence
    done: YesNo


class Standing(Model):
    """A run of days round the day that is looked at, begun with what went in.

    Attributes:
        first, which, of: day on which it begins; the day looked at as one of so many, none where its end is not in sight
        said: in a sentence
    """

    first: date
    which: int
    of: int | None
    days: list[StandingDay]
    said: Sentence


def runs_over_days(load: Load | None) -> bool:
    """Whether a load says where it stands evening by evening."""
    return load is not None and outcome_of(load).stands is not None


def span_of(load: Load, day: date) -> tuple[date, int]:
    """First day of the run and how many days it takes, from when it went in where that is known and no longer ago than can be run."""
    begun = load.begins_on
    first = day if begun is None else max(begun, day - timedelta(days=MOST_DAYS_BACK))
    return min(first, day), max((day - first).days, 0) + DAYS_ON


def standing(case: Case, day: date, weather_for: Callable[[Case], Weather]) -> Standing:
    """Run a load's days on end and say where it stands at the end of each.

    Raises
    ------
    InputProblem
        the load does not fit the build, or its boards went in before the run.
    """
    load = case.load
    assert load is not None
    stands = outcome_of(load).stands
    assert stands is not None
    outcome = summarise(case, simulate(case, weather_for(case)), every_s=EVERY_S)
    found = stands(outcome.results)
    first, end = case.span.start, case.span.start + timedelta(days=case.span.days)
    days = [StandingDay(day=on, words=at.words, done=at.done) for on, at in sorted(found.items()) if on < end]
    finished = next((on.day for on in days if on.done), None)
    which = (day - first).days + 1
    return Standing(
        first=first, which=which, of=None if finished is None else max((finished - first).days + 1, which),
        days=[on for on in days if on.day >= day][:MOST_SHOWN], said=_said(which, finished, days),
    )  # fmt: skip


def _said(which: int, finished: date | None, days: list[StandingDay]) -> str:
    if not days:
        return "It is not in yet."
    if finished is None:
        return f"Day {which}; not as wanted by {days[-1].day:%a %d %b}."
    return f"Day {which}; as wanted by {finished:%a %d %b}."
