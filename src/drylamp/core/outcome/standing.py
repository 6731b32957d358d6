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
from drylamp.core.twin.stood import stood

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
        first, which, of: day on which it begins; the day looked at as one of so many, 0 before it is in and none where its end is not in sight
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
        the load does not fit the build, or went in more than a year before.
    """
    load = case.load
    assert load is not None
    began = load.begins_on or case.span.start
    which = max((day - began).days + 1, 0)
    days = _evenings(stood(case), weather_for)
    finished = next((on.day for on in days if on.done), None)
    return Standing(
        first=began, which=which, of=None if finished is None else max((finished - began).days + 1, which),
        days=[on for on in days if on.day >= day][:MOST_SHOWN], said=_said(began, which, finished, days),
    )  # fmt: skip


def _evenings(case: Case, weather_for: Callable[[Case], Weather]) -> list[StandingDay]:
    """Each day's end; none of a load that goes in later."""
    if case.load is None:
        return []
    stands = outcome_of(case.load).stands
    assert stands is not None
    found = stands(summarise(case, simulate(case, weather_for(case)), every_s=EVERY_S).results)
    end = case.span.start + timedelta(days=case.span.days)
    return [StandingDay(day=on, words=at.words, done=at.done) for on, at in sorted(found.items()) if on < end]


def _said(began: date, which: int, finished: date | None, days: list[StandingDay]) -> str:
    begins = f"Day {which}" if which else f"It goes in on {began:%a %d %b}"
    if not days:
        return f"{begins}."
    if finished is None:
        return f"{begins}; not as wanted by {days[-1].day:%a %d %b}."
    return f"{begins}; as wanted by {finished:%a %d %b}."
