"""Some days one after the other: curves, sun, and what each day comes to."""

from __future__ import annotations

from datetime import date, datetime

from drylamp.core.checks import Model
from drylamp.core.outcome.registry import outcome_of
from drylamp.core.outcome.summary import Curve, DayOutcome, Outcome, summarise
from drylamp.core.sky.weather import Weather
from drylamp.core.text import Sentence, celsius
from drylamp.core.twin.case import Case
from drylamp.core.twin.prepared import simulate

USUAL_DAYS_AHEAD, MOST_DAYS_AHEAD = 7, 14
EVERY_S = 1800.0


class AheadDay(Model):
    """What a day comes to, in words."""

    day: date
    sun_kwh_m2: float
    words: Sentence


class Ahead(Model):
    """Days ahead; series share ``times``."""

    times: list[datetime]
    curves: list[Curve]
    air_c: list[float]
    level_sun_w_m2: list[float]
    target_c: float | None
    days: list[AheadDay]
    weather: Sentence
    energy_closure: float


def ahead(case: Case, weather: Weather) -> Ahead:
    """Run some days on end, what stands over nights carried on.

    Raises
    ------
    InputProblem
        the load does not fit the build.
    """
    run = simulate(case, weather)
    outcome = summarise(case, run, every_s=EVERY_S)
    words = _words(case, outcome)
    return Ahead(
        times=outcome.times, curves=[curve for curve in outcome.curves if curve.look.usual], air_c=outcome.air_c, level_sun_w_m2=outcome.level_sun_w_m2,
        target_c=outcome.target_c, weather=outcome.weather, energy_closure=outcome.energy_closure,
        days=[AheadDay(day=d.day, sun_kwh_m2=d.sun_kwh_m2, words=words.get(d.day, _peak(d))) for d in outcome.days],
    )  # fmt: skip


def _words(case: Case, outcome: Outcome) -> dict[date, str]:
    return {} if case.load is None else outcome_of(case.load).daily(outcome.results)


def _peak(day: DayOutcome) -> str:
    return f"peak {celsius(day.peak_c)} at {day.peak_at:%H:%M}"
