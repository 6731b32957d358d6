"""The plan of a day: what to do when, from a build's own forecast."""

from __future__ import annotations

from datetime import datetime, timedelta

from drylamp.core.checks import Model
from drylamp.core.loads.load import AnyLoad
from drylamp.core.outcome import Outcome

PREHEAT = timedelta(minutes=30)
"""Half an hour empty in the sun before the food goes in; common practice, no source."""


class PlanStep(Model):
    """One thing to do at a time."""

    time: datetime
    text: str


def day_plan(load: AnyLoad | None, outcome: Outcome) -> list[PlanStep]:
    """Steps of one day in order of time; empty without a load."""
    if load is None or not outcome.days:
        return []
    day, what = outcome.days[0], load.contents.title.lower()
    hour, minute = (int(part) for part in load.goes_in.split(":"))
    goes_in = outcome.times[0].replace(hour=hour, minute=minute, second=0, microsecond=0)
    steps = [
        PlanStep(time=goes_in - PREHEAT, text="open the mirror and let the empty box warm"),
        PlanStep(time=goes_in, text=f"put the {what} in"),
    ]
    if day.target_reached_at is None:
        steps.append(PlanStep(time=day.peak_at, text=f"peak of {day.peak_c:.0f} °C: the {what} does not get there"))
        return steps
    steps.append(PlanStep(time=day.target_reached_at, text=f"{what} at {outcome.target_c:.0f} °C"))
    if load.wanted_minutes > 0:
        ready = day.target_reached_at + timedelta(minutes=load.wanted_minutes)
        held = "ready" if day.enough else "time would be up, but it cools before"
        steps.append(PlanStep(time=ready, text=f"{what} {held}"))
    return steps
