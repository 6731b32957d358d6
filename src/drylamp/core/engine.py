"""The front door of the core: a case and its weather in, an outcome in plain terms out."""

from __future__ import annotations

import numpy as np

from drylamp.core.advice.cautions import cautions
from drylamp.core.advice.entries import Seen
from drylamp.core.advice.limits import material_flags
from drylamp.core.checks import InputProblem
from drylamp.core.outcome.flag import Flag
from drylamp.core.outcome.summary import DayOutcome, Outcome, summarise
from drylamp.core.sky.of_span import weather_of
from drylamp.core.sky.rough_climate import ROUGH_K, ROUGH_SAID
from drylamp.core.sky.weather import (
    ClearDay,
    Records,
    Weather,
)
from drylamp.core.twin.case import Case
from drylamp.core.twin.prepared import prepare, simulate_with_empty
from drylamp.core.twin.run import Run

CLOSING_DAYS, CLOSED_K = (2, 4, 8, 16, 32), 0.05
"""How many days are tried until one ends as it began, and how near that is."""
BETTER = "Type today's low and high, your own months under the place, or bring a weather file: then the doubt goes."


def weather_for(case: Case, records: Records | None = None) -> Weather:
    """Weather of a case on the march's steps; what comes from a file comes in as records.

    Raises
    ------
    InputProblem
        the case names a weather file and no records came with it.
    GapInWeather
        the records do not cover the span.
    """
    if records is not None:
        return weather_of(case.site, records, case.span)
    if not isinstance(case.weather, ClearDay):
        raise InputProblem("weather.path", "the file's records are needed; read it first")
    return weather_of(case.site, case.weather, case.span)


def forecast(case: Case, weather: Weather, every_s: float = 300.0) -> tuple[Outcome, Run]:
    """Run a build with its load and once empty; return what it does, with flags and cautions."""
    run, empty = simulate_with_empty(case, weather)
    plain = summarise(case, run, empty, every_s=every_s)
    first = plain.days[0] if plain.days else None
    flags = [*_rough(weather), *material_flags(case, empty, run), *cautions(Seen(case, empty, run, first))]
    days = _left_open(case, weather, plain.days) if weather.rough else plain.days
    return plain.model_copy(update={"flags": flags, "days": days}), run


def _left_open(case: Case, weather: Weather, days: list[DayOutcome]) -> list[DayOutcome]:
    """Days with what rough months leave open: how far they move in air that is as much warmer as the guess may be off."""
    warm = summarise(case, prepare(case, weather.warmer(ROUGH_K)).run(), every_s=3600.0)
    return [day.model_copy(update=_moved(day, other)) for day, other in zip(days, warm.days, strict=True)]


def _moved(day: DayOutcome, other: DayOutcome) -> dict[str, float | None]:
    minutes, warmer = day.minutes_to_target, other.minutes_to_target
    return {
        "peak_doubt_k": round(abs(other.peak_c - day.peak_c), 1),
        "target_doubt_minutes": None if minutes is None or warmer is None else round(abs(warmer - minutes)),
    }


def _rough(weather: Weather) -> list[Flag]:
    if not weather.rough:
        return []
    return [Flag(level="note", part="aim", text=f"{ROUGH_SAID} {BETTER}")]


def run_case(case: Case, records: Records | None = None) -> tuple[Outcome, Run]:
    """Run a case; weather from a file comes in as records.

    Raises
    ------
    InputProblem
        the case names a weather file and no records came with it.
    """
    if case.span.until_closed:
        return _until_closed(case, records)
    every = 300.0 if case.span.days <= 14 else 3600.0
    return forecast(case, weather_for(case, records), every)


def _until_closed(case: Case, records: Records | None) -> tuple[Outcome, Run]:
    """Twice as many days as before until the last one ends as it began, or the most are run."""
    for days in CLOSING_DAYS:
        longer = case.with_(span=case.span.model_copy(update={"days": days}))
        found = forecast(longer, weather_for(longer, records), 3600.0)
        if _closes(found[1]):
            break
    return found


def _closes(run: Run) -> bool:
    """Whether every part is at the end as warm as it was a day before."""
    day = round(86400.0 / run.weather.dt_s)
    ends = np.array([series[[-1 - day, -1]] for series in run.temperature_c.values()])
    return bool(np.nanmax(np.abs(ends[:, 1] - ends[:, 0])) < CLOSED_K)
