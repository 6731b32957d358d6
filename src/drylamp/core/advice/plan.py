"""The plan of a day: what to do when, from a build's own forecast; the load says its steps, the build how it is turned."""

from __future__ import annotations

from datetime import timedelta

from drylamp.core.advice.registry import advice_of
from drylamp.core.builds.build import Build
from drylamp.core.loads.load import Load
from drylamp.core.outcome.of_load import PlanStep, moment
from drylamp.core.outcome.registry import outcome_of
from drylamp.core.outcome.summary import Outcome

FEW_TURNS = 4


def day_plan(build: Build, load: Load | None, outcome: Outcome) -> list[PlanStep]:
    """Steps of one day in order of time; empty without a load."""
    if load is None or not outcome.days:
        return []
    steps = outcome_of(load).steps(load, outcome, advice_of(build).get_ready)
    return sorted([*steps, *_turns(build, load, outcome, steps)], key=lambda step: step.time)


def _turns(build: Build, load: Load, outcome: Outcome, steps: list[PlanStep]) -> list[PlanStep]:
    """Turning to the sun while something is in, one by one when they are few."""
    every = build.turns_every_minutes
    if every is None:
        return []
    begin = moment(outcome, load.first_in)
    end = outcome_of(load).turned_until(load, outcome) or max(step.time for step in steps)
    how = advice_of(build).turn
    turns = [begin + timedelta(minutes=every * k) for k in range(1 + int((end - begin).total_seconds() / 60 / every))]
    if len(turns) <= FEW_TURNS:
        return [PlanStep(time=turn, text=how) for turn in turns]
    return [PlanStep(time=turns[0], text=f"{how}; again every {every:.0f} min until {turns[-1]:%H:%M}")]
