"""Straight answers to what people ask before they set a build out: a number, from when, and what it gains.

Preheat, and how long? How long will it take? Which pot? Which angle? How often to turn? Each is found by running the day, and bounded by what is safe.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Iterator
from datetime import datetime, timedelta
from functools import partial

import numpy as np

from drylamp.core.advice.context import AdviceContext
from drylamp.core.advice.flap import best_flap_deg
from drylamp.core.advice.pointing import turning_curve
from drylamp.core.advice.safe import HotParts
from drylamp.core.advice.schools import asked_of, schools_of
from drylamp.core.builds.registry import BuildSpec, kind_of
from drylamp.core.checks import Model
from drylamp.core.loads.registry import LoadSpec
from drylamp.core.long import Long, Step, whole
from drylamp.core.outcome.registry import outcome_of
from drylamp.core.quantities import Quantity
from drylamp.core.sky.clock import local_time
from drylamp.core.text import Sentence, capital, degrees, minutes

PREHEATS_MIN = (15.0, 30.0, 45.0, 60.0, 90.0)
NOT_NOTICED_MIN = 3.0
"""Sooner by so much that nobody notices it over a meal; from memory."""
TILTS_DEG, TILT_STEP_DEG = tuple(10.0 * k for k in range(8)), 5.0


class DirectAnswer(Model):
    """One question with its answer.

    Attributes:
        value, quantity: the number, and what it is one of; none where the answer is that it does not matter, or cannot be
        since: from when it holds, or when to begin
        spec, load: build and load that way, to try it with; none where nothing is changed
    """

    name: str
    question: Sentence
    words: Sentence
    value: float | None
    quantity: Quantity
    since: datetime | None
    spec: BuildSpec | None
    load: LoadSpec | None


class DirectAnswers(Model):
    """All that arise, and what a gain among them counts."""

    answers: list[DirectAnswer]
    counts: Sentence


def direct_answers(context: AdviceContext) -> DirectAnswers:
    """Every question that arises for a build and its load."""
    return whole(direct_steps(context))


def direct_steps(context: AdviceContext) -> Long[DirectAnswers]:
    """The same, question by question."""
    found: list[DirectAnswer] = []
    for number, ask in enumerate(ASKED, start=1):
        found += ask(context)
        yield Step(number / len(ASKED), DirectAnswers(answers=list(found), counts=context.counts))


def _answer(
    name: str, question: str, words: str, value: float | None = None, quantity: Quantity = "plain", **more: object
) -> DirectAnswer:
    made: dict[str, object] = {"since": None, "spec": None, "load": None, **more}
    return DirectAnswer(name=name, question=question, words=words, value=value, quantity=quantity, **made)


def _waits_for_target(context: AdviceContext) -> bool:
    load = context.load
    return load is not None and load.calendar.daily and load.has_target and outcome_of(load).counts_minutes


def _preheat(context: AdviceContext) -> Iterator[DirectAnswer]:
    """The shortest time in the sun before the load goes in that is as good as the best."""
    build, load = context.build, context.load
    if load is None or not _waits_for_target(context) or kind_of(build).concentrates:
        return
    answer = partial(_answer, "preheat", "Preheat it, and how long?")
    begun, ready = context.put_in_s(), context.ready(build, load)
    took = {
        m: context.score_of(build, load, ready.uncovered(begun - 60.0 * m).run()).minutes for m in (0.0, *PREHEATS_MIN)
    }
    cold = took[0.0]
    reached = {m: t for m, t in took.items() if t is not None}
    if not reached:
        yield answer("It does not reach its target today, preheated or not.")
        return
    soonest = min(reached.values())
    best = min(m for m, t in reached.items() if t - soonest < NOT_NOTICED_MIN)
    since = local_time(context.case.site.zone, begun) - timedelta(minutes=best)
    if best == 0.0:
        yield answer("No need: put it out as its load goes in, nothing is gained by sooner.", 0.0, "minutes")
        return
    gain = (
        "without it does not get there"
        if cold is None
        else f"{minutes(cold - reached[best])} sooner at its target than set out cold"
    )
    yield answer(f"Set it out empty {minutes(best)} before, at {since:%H:%M}: {gain}.", best, "minutes", since=since)


def _how_long(context: AdviceContext) -> Iterator[DirectAnswer]:
    """Until it is ready, with what the twin's own doubt leaves open."""
    build, load = context.build, context.load
    if load is None or not _waits_for_target(context):
        return
    answer = partial(_answer, "how-long", "How long does it take?")
    begun, zone, ready = context.put_in_s(), context.case.site.zone, context.ready(build, load)
    done = [outcome_of(load).done_at(load, ready.run(factors)) for factors in context.doubtful()]
    if done[0] is None:
        yield answer(outcome_of(load).short(load, ready.run()) or f"{capital(load.title)} is not ready today.")
        return
    takes = (done[0] - begun) / 60.0
    off = [(other - done[0]) / 60.0 for other in done[1:] if other is not None]
    doubt = math.sqrt(sum(by * by for by in off)) if off else 0.0
    at: datetime = local_time(zone, done[0])
    late = " On a day a little worse it is not ready at all." if any(other is None for other in done[1:]) else ""
    yield answer(
        f"{minutes(takes, doubt)} from {local_time(zone, begun):%H:%M}: ready at {at:%H:%M}.{late}",
        takes,
        "minutes",
        since=at,
    )


def _which(context: AdviceContext) -> Iterator[DirectAnswer]:
    """The best answer of each school that people ask about straight out, against what is there."""
    questions = {school.name: school.straight for school, _ in asked_of(context) if school.straight}
    for school in schools_of(context, *questions) if questions else ():
        best = min((line for line in school.lines if not line.unsafe), key=lambda line: line.behind, default=None)
        if best is None:
            continue
        measure = context.measure
        ahead = best.score - context.score(context.build, context.load).value
        if ahead <= measure.worth(school.doubt):
            said = "Yours: none of the others is ahead by more than the twin's doubt."
        else:
            quick = "" if best.minutes is None else f"; it is at its target after {minutes(best.minutes)}"
            said = f"The {best.title}: {measure.said(ahead, school.doubt)} ahead of yours{quick}."
        yield _answer(school.name, questions[school.name], said)


def _which_angle(context: AdviceContext) -> Iterator[DirectAnswer]:
    """Of a mirror that is set by hand, and of the opening where nobody turns that after the sun."""
    build, load, measure = context.build, context.load, context.measure
    base = context.score(build, load).value
    best = best_flap_deg(context)
    if best is not None:
        set_ = build.with_flap_at(best)
        gain = context.score(set_, load).value - base
        worth = (
            f"{measure.signed(gain)} against {degrees(build.flap_angle_deg or 0.0)}"
            if abs(gain) >= measure.least_worth
            else "as good as it stands now"
        )
        yield _answer(
            "flap-angle",
            "Which angle for the mirror?",
            f"{degrees(best)} from the opening, as one setting for as long as it is wanted: {worth}.",
            best,
            "angle",
            spec=set_,
            load=load,
        )
    if build.tracking == "both":
        return
    heat = HotParts.of(context)
    slopes = sorted({*TILTS_DEG, *(build.tilt_deg + by for by in (-TILT_STEP_DEG, TILT_STEP_DEG))} - {build.tilt_deg})
    tried = [build] + [build.with_(tilt_deg=slope) for slope in slopes if 0.0 <= slope <= TILTS_DEG[-1]]
    sound = [one for one in tried if not heat.against(one, load)] or [build]
    scores = context.scores([(one, load) for one in sound], [context.case.calibration])
    values = np.array([-np.inf if found is None else found[0].value for found in scores])
    top, gain = sound[int(values.argmax())], float(values.max()) - base
    slips = build.lets_go_of(load)
    bound = "" if len(sound) == len(tried) else " Slopes that let go of what is in it are left out."
    if top is build or (gain < measure.least_worth and not slips):
        words = f"As it stands, {degrees(build.tilt_deg)} from level: no other is better today."
        yield _answer("tilt", "Which slope?", words + bound, build.tilt_deg, "angle")
        return
    words = f"{degrees(top.tilt_deg)} from level today: {measure.signed(gain)} against {degrees(build.tilt_deg)}"
    words += f", where {slips}." if slips else "."
    yield _answer("tilt", "Which slope?", words + bound, top.tilt_deg, "angle", spec=top, load=load)


def _how_often(context: AdviceContext) -> Iterator[DirectAnswer]:
    """The laziest habit of turning that loses nothing worth speaking of and spills nothing hot."""
    if context.build.tracking == "none":
        return
    curve = turning_curve(context)
    yield _answer("turning", "How often to turn it?", curve.words, curve.enough_minutes, "minutes")


ASKED: tuple[Callable[[AdviceContext], Iterator[DirectAnswer]], ...] = (
    _preheat,
    _how_long,
    _which,
    _which_angle,
    _how_often,
)
