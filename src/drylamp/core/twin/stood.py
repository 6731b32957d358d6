"""A load that has stood in its build for weeks when a day is looked at: the days before are run first, as they usually are."""

from __future__ import annotations

from datetime import timedelta

from drylamp.core.checks import require
from drylamp.core.loads.common.stacked import Left
from drylamp.core.sky.of_span import usual_weather_of
from drylamp.core.sky.weather import Span
from drylamp.core.text import counted
from drylamp.core.twin.case import Case
from drylamp.core.twin.prepared import simulate
from drylamp.core.twin.run import Run

SEED, STEP_S, MOST_DAYS = 41, 300, 365


def stood(case: Case) -> Case:
    """The case with its load as it stands on the first day; itself where it goes in then, or later; empty where that is after the last day.

    Raises
    ------
    InputProblem
        it went in more than a year before.
    """
    load, first = case.load, case.span.start
    began = None if load is None else load.begins_on
    if load is None or began is None or began >= first:
        later = began is not None and began > first + timedelta(days=case.span.days - 1)
        return case.with_(load=None) if later else case
    days = (first - began).days
    require(
        days <= MOST_DAYS, "load.groups", f"the first went in on {began}, {counted(days, 'day')} before; up to {MOST_DAYS} are reckoned back, so give its moisture of today as measured"
    )  # fmt: skip
    span = Span(start=began, days=days, step_s=STEP_S)
    run = simulate(case.with_(span=span), usual_weather_of(case.site, span, SEED))
    return case.with_(load=load.left_by(left_of(run), first))


def left_of(run: Run) -> Left:
    """What a run did to boards."""
    cells = {} if run.damp is None else run.damp.cells
    return Left(cells, {node: run.temperature_c[node] for node in cells}, run.weather)
