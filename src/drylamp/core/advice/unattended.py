"""What is best left alone while nobody is there: which way it looks, when it goes in, and what that costs against being there."""

from __future__ import annotations

from datetime import datetime

from drylamp.core.advice.context import AdviceContext
from drylamp.core.builds.build import Build
from drylamp.core.builds.common.house.sheet import House
from drylamp.core.builds.registry import BuildSpec
from drylamp.core.checks import Hour, Model, require
from drylamp.core.loads.load import Load
from drylamp.core.outcome.registry import outcome_of
from drylamp.core.sky.clock import local_time
from drylamp.core.sky.sun import compass
from drylamp.core.text import Sentence, capital
from drylamp.core.threads import two_at_a_time

ASIDE_DEG = (-45.0, -30.0, -15.0, 0.0, 15.0, 30.0, 45.0)
"""Ways it might be left looking, from the noon sun."""


class LeftAlone(Model):
    """One way to leave it: how it stands, when it goes in, how well that does by the load's own measure, when it is done."""

    title: Sentence
    spec: BuildSpec
    goes_in: Hour
    score: float
    ready: datetime | None


class Unattended(Model):
    """How to leave it alone.

    Attributes:
        attended: as planned, with somebody there all day
        best: the best that needs nobody between the two hours
        words: what is lost by it, and how to set it
    """

    attended: LeftAlone
    best: LeftAlone
    words: list[Sentence]


def unattended(context: AdviceContext, house: House) -> Unattended:
    """Find how to leave a build with its load on the context's day.

    Raises
    ------
    InputProblem
        nothing is in it, or somebody is there all day.
    """
    load = context.load
    require(load is not None, "load", "nothing is in this build; put something in first")
    require(
        house.away_from is not None,
        "house",
        "somebody is there all day by what stands on the shelf; write down from when until when nobody is",
    )
    assert load is not None
    assert house.away_from is not None
    planned = _left(context, context.build, load, load.first_in, "as planned, with somebody there")
    hours = sorted(
        {load.first_in if not house.is_away(load.first_in) else house.away_from, house.away_from}
        if load.calendar.daily
        else {load.first_in}
    )
    ways = [(build, hour) for build in _standing(context) for hour in hours]
    found = two_at_a_time(lambda way: _left(context, way[0], load, way[1], _title(way[0], way[1])), ways)
    best = max(found, key=lambda one: (one.ready is not None, one.score))
    return Unattended(attended=planned, best=best, words=_words(context, load, house, planned, best))


def _standing(context: AdviceContext) -> list[Build]:
    """The build left looking several ways; as it stands where nobody turns it."""
    build, noon = context.build, context.case.site.equator_azimuth_deg
    if build.turns_every_minutes is None:
        return [build]
    still = build.with_(turned_minutes=None)
    return [still.turned_to((noon + aside) % 360.0, None) for aside in ASIDE_DEG]


def _title(build: Build, hour: str) -> Sentence:
    return f"left looking {compass(build.facing_deg)} ({build.facing_deg:.0f}°), in at {hour}"


def _left(context: AdviceContext, build: Build, load: Load, hour: str, title: Sentence) -> LeftAlone:
    ready = context.ready(build, load)
    run = ready.run(goes_in=hour) if load.calendar.daily else ready.run()
    done = outcome_of(load).done_at(load, run)
    return LeftAlone(
        title=title, spec=build, goes_in=hour, score=context.score_of(build, load, run).value, ready=None if done is None else local_time(context.case.site.zone, done)
    )  # fmt: skip


def _words(context: AdviceContext, load: Load, house: House, planned: LeftAlone, best: LeftAlone) -> list[Sentence]:
    away = f"Nobody is there from {house.away_from} to {house.away_until}"
    said = f"{away}: {load.title} does best {best.title}"
    out = [f"{said}, ready {best.ready:%H:%M}." if best.ready is not None else f"{said}, and is not ready that way."]
    if planned.ready is not None and best.ready is not None:
        out.append(f"With somebody there it would be ready {planned.ready:%H:%M}.")
    elif planned.ready is not None:
        out.append(f"With somebody there it would be ready {planned.ready:%H:%M}: wait for a day when somebody is.")
    lost = planned.score - best.score
    out.append(
        f"{capital(context.counts)}: {context.measure.said(lost)} less than with somebody there."
        if lost > context.measure.least_worth
        else "That costs hardly anything."
    )
    return out
