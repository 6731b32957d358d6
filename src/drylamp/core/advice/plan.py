"""The plan of a day: what to do when, from a build's own forecast."""

from __future__ import annotations

import math
from datetime import datetime, timedelta

import numpy as np

from drylamp.core.builds.kinds import BuildSpec
from drylamp.core.checks import Model
from drylamp.core.loads.load import AnyLoad
from drylamp.core.loads.portions import Portions
from drylamp.core.loads.pot import PotLoad
from drylamp.core.loads.wax import WaxBatch
from drylamp.core.outcome import Outcome
from drylamp.core.results import PortionResult

PREHEAT = timedelta(minutes=30)
"""Half an hour empty in the sun before the food goes in; common practice, no source."""
LOOK_BEFORE_K = 4.0
"""A loaf is first looked at when its core is so far below done; from memory."""
BROWNS_C = 140.0
"""Crusts brown from about here on; from memory."""
REST_W_M2K = 12.0
"""Heat that a pot in the shade gives to the air, wind and radiation together; from memory."""
FEW_TURNS = 4


class PlanStep(Model):
    """One thing to do at a time."""

    time: datetime
    text: str


def day_plan(build: BuildSpec, load: AnyLoad | None, outcome: Outcome) -> list[PlanStep]:
    """Steps of one day in order of time; empty without a load."""
    if load is None or not outcome.days:
        return []
    if isinstance(load, PotLoad):
        steps = _pot(build, load, outcome)
    elif isinstance(load, Portions):
        steps = _portions(load, outcome)
    else:
        steps = _wax(load, outcome)
    return sorted([*steps, *_turns(build, load, outcome, steps)], key=lambda step: step.time)


def _moment(outcome: Outcome, hour: str) -> datetime:
    hours, minutes = (int(part) for part in hour.split(":"))
    return outcome.times[0].replace(hour=hours, minute=minutes, second=0, microsecond=0)


def _turns(build: BuildSpec, load: AnyLoad, outcome: Outcome, steps: list[PlanStep]) -> list[PlanStep]:
    """Turning to the sun while something is in, one by one when they are few."""
    every = getattr(build, "turned_minutes", None)
    if every is None:
        return []
    begin, end = _moment(outcome, load.goes_in), max(step.time for step in steps)
    heard = outcome.results.whistles
    if isinstance(load, PotLoad) and load.whistles is not None and len(heard) >= load.whistles:
        end = heard[load.whistles - 1]  # then it is covered
    how = {"dish": "turn the dish to the sun, until its indicator throws no shadow"}.get(
        build.kind, "turn it to the sun"
    )
    turns = [begin + timedelta(minutes=every * k) for k in range(1 + int((end - begin).total_seconds() / 60 / every))]
    if len(turns) <= FEW_TURNS:
        return [PlanStep(time=turn, text=how) for turn in turns]
    return [PlanStep(time=turns[0], text=f"{how}; again every {every:.0f} min until {turns[-1]:%H:%M}")]


def _pot(build: BuildSpec, load: PotLoad, outcome: Outcome) -> list[PlanStep]:
    day, what, goes_in = outcome.days[0], load.title, _moment(outcome, load.goes_in)
    first = {
        "box-oven": "open the mirror and let the empty box warm", "funnel": "set the stand level and aim by the shadow of the pot",
        "dish": "dark goggles on; wash the mirror, keep it covered until the pot is on",
    }[build.kind]  # fmt: skip
    steps = [PlanStep(time=goes_in - PREHEAT, text=first), PlanStep(time=goes_in, text=f"put the {what} in")]
    if load.whistles is not None:
        return steps + _whistled(load, outcome)
    if day.target_reached_at is None:
        steps.append(PlanStep(time=day.peak_at, text=f"peak of {day.peak_c:.0f} °C: the {what} does not get there"))
        return steps
    if load.is_slab:
        steps.append(_first_look(load, outcome))
    steps.append(PlanStep(time=day.target_reached_at, text=f"{what} at {outcome.target_c:.0f} °C"))
    if load.wanted_minutes > 0:
        ready = day.target_reached_at + timedelta(minutes=load.wanted_minutes)
        held = "ready" if day.enough else "time would be up, but it cools before"
        steps.append(PlanStep(time=ready, text=f"{what} {held}"))
    return steps


def _first_look(load: PotLoad, outcome: Outcome) -> PlanStep:
    """When to look at a loaf for the first time, and what its crust will be like."""
    core = next(curve for curve in outcome.curves if curve.node == load.judged)
    late = [
        t
        for t, c in zip(outcome.times, core.temperature_c, strict=True)
        if c is not None and c >= load.wanted_c - LOOK_BEFORE_K
    ]
    pot = next(curve for curve in outcome.curves if curve.node == "pot")
    crust = max(c for c in pot.temperature_c if c is not None)
    crusty = (
        "its crust browns"
        if crust >= BROWNS_C
        else f"its crust stays pale and moist, the tin gets to {crust:.0f} °C only"
    )
    return PlanStep(time=late[0], text=f"first look at the {load.title}, not before; {crusty}")


def _whistled(load: PotLoad, outcome: Outcome) -> list[PlanStep]:
    """Counted whistles, then a rest in the shade until the pot may be opened."""
    heard, wanted = outcome.results.whistles, load.whistles or 0
    if len(heard) < wanted:
        peak = outcome.days[0].peak_at
        return [
            PlanStep(time=peak, text=f"only {len(heard)} of {wanted} whistles on this day: plan another way to cook it")
        ]
    done = heard[wanted - 1]
    rest = rest_minutes(
        load,
        float(np.interp(done.timestamp(), [t.timestamp() for t in outcome.times], outcome.air_c)),
        outcome.boiling_c,
    )
    return [
        PlanStep(time=heard[0], text="first whistle"),
        PlanStep(time=done, text=f"whistle number {wanted}: cover or turn the dish away, pot into the shade"),
        PlanStep(
            time=done + timedelta(minutes=rest), text="open it now at the earliest, and only when its pin has dropped"
        ),
    ]


def rest_minutes(load: PotLoad, air_c: float, boiling_c: float) -> float:
    """Minutes in the shade from the valve's temperature down to open boiling, as one lump that cools to the air."""
    capacity = load.food_capacity_j_k + load.pot_capacity_j_k
    loses = REST_W_M2K * (load.side_m2 + load.top_m2)
    return capacity / loses * math.log((load.wall.valve_c - air_c) / (boiling_c - air_c)) / 60.0


def _portions(load: Portions, outcome: Outcome) -> list[PlanStep]:
    steps = [
        PlanStep(
            time=_moment(outcome, portion.goes_in), text=f"{portion.title} in, {_place(portion.across, portion.up)}"
        )
        for portion in load.portions
    ]
    for result in outcome.results.portions:
        when = result.melted_at or result.soft_at
        if when is not None:
            steps.append(PlanStep(time=when, text=f"{result.title} {_got(result)}"))
    return steps


def _got(result: PortionResult) -> str:
    return "melted" if result.melted_at is not None else "soft"


def _place(across: float, up: float) -> str:
    side = "left" if across < 0.4 else "right" if across > 0.6 else "in the middle"
    return f"{side}, {'at the back' if up > 0.6 else 'in front' if up < 0.4 else 'half-way back'}"


def _wax(load: WaxBatch, outcome: Outcome) -> list[PlanStep]:
    goes_in, wax = _moment(outcome, load.goes_in), outcome.results.wax
    assert wax is not None
    through = {"none": "no strainer", "mesh": "mesh", "cloth": "cloth", "paper": "paper"}[load.strainer]
    steps = [
        PlanStep(time=goes_in - PREHEAT, text=f"set the melter level across, clean tray in, {through} in place"),
        PlanStep(time=goes_in, text=f"{load.batch_kg:.1f} kg of {load.title} in, spread flat"),
    ]
    if wax.melts_from is not None and wax.answer != "wait":
        steps.append(PlanStep(time=wax.melts_from, text="it begins to run"))
    if wax.done_at is not None:
        steps.append(
            PlanStep(
                time=wax.done_at, text=f"all run: {wax.clean_kg:.2f} kg clean; cover the glass or lay in the next batch"
            )
        )
    else:
        end = outcome.days[0].peak_at + timedelta(hours=3)
        steps.append(PlanStep(time=end, text=wax.words))
    return steps
