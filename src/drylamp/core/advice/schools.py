"""Schools side by side: where builders disagree, every school is run on this build and this day."""

from __future__ import annotations

import math

from drylamp.core.advice.context import AdviceContext, Score, doubt_of
from drylamp.core.advice.entries import Option, School, Scored
from drylamp.core.advice.registry import said_of
from drylamp.core.advice.safe import HotParts
from drylamp.core.builds.build import Build
from drylamp.core.checks import Model, YesNo
from drylamp.core.loads.load import Load
from drylamp.core.long import Long, Step, whole
from drylamp.core.outcome.of_load import Measure, ScoreQuantity
from drylamp.core.text import Sentence
from drylamp.core.threads import two_at_a_time


class SchoolLine(Model):
    """One school's answer: how well it does, against the best of them, and what speaks against it; empty where nothing is known."""

    title: Sentence
    score: float
    behind: float
    minutes: float | None
    peak_c: float | None
    is_mine: YesNo
    unsafe: Sentence


class SchoolAnswer(Model):
    """One question with every school's answer; ``worth`` is what choosing right is worth, ``doubt`` how sure that is, ``counts`` what a score counts."""

    name: str
    question: Sentence
    quantity: ScoreQuantity
    lines: list[SchoolLine]
    worth: float
    doubt: float
    words: Sentence
    counts: Sentence


AnySchool = School[Build, Load | None]


def asked_of(context: AdviceContext) -> list[tuple[AnySchool, list[Option]]]:
    """Every school that arises for a build and its load, with its answers."""
    build, load = context.build, context.load
    found = [(school, school.options(context, build, load)) for school in said_of(build, load).schools]
    return [row for row in found if len(row[1]) > 1]


def schools_of(context: AdviceContext, *names: str) -> list[SchoolAnswer]:
    """Run every school that concerns this build, or those of some names; answers that cannot be built are left out."""
    return whole(schools_steps(context, *names))


def schools_steps(context: AdviceContext, *names: str) -> Long[list[SchoolAnswer]]:
    """The same, school by school."""
    asked = [row for row in asked_of(context) if not names or row[0].name in names]
    calibrations = context.doubtful()
    heat = HotParts.of(context) if asked else None
    out = list[SchoolAnswer]()
    for number, (school, options) in enumerate(asked, start=1):
        if school.scored is None:
            scores = context.scores([(o.build, o.load) for o in options], calibrations)
            tried = [(option, found) for option, found in zip(options, scores, strict=True) if found is not None]
        else:
            tried = _by_own_measure(context, school.scored, options)
        if len(tried) > 1:
            measure = context.measure if school.scored is None else school.scored.measure
            assert heat is not None
            out.append(_answer(context, school, measure, tried, heat))
        yield Step(number / len(asked), list(out))
    if not asked:
        yield Step(1.0, out)


def _by_own_measure(context: AdviceContext, scored: Scored, options: list[Option]) -> list[tuple[Option, list[Score]]]:
    values = two_at_a_time(lambda option: scored.value(context, option), options)
    return [(option, [Score(v, None, math.nan)]) for option, v in zip(options, values, strict=True) if v is not None]


def _answer(
    context: AdviceContext, school: AnySchool, measure: Measure, tried: list[tuple[Option, list[Score]]], heat: HotParts
) -> SchoolAnswer:
    against = {id(option): heat.against(option.build, option.load) for option, _ in tried}
    sound = [row for row in tried if not against[id(row[0])]] or tried
    best, worst = (pick(sound, key=lambda t: t[1][0].value) for pick in (max, min))
    gains = [a.value - b.value for a, b in zip(best[1], worst[1], strict=True)]
    doubt = doubt_of(gains, measure)
    lines = [
        SchoolLine(
            title=option.title, score=round(s[0].value, 2), behind=round(best[1][0].value - s[0].value, 2), minutes=s[0].minutes,
            peak_c=None if math.isnan(s[0].peak_c) else round(s[0].peak_c, 1), is_mine=_same(option, context.build, context.load),
            unsafe=against[id(option)],
        )
        for option, s in tried
    ]  # fmt: skip
    left_out = [option.title for option, _ in tried if against[id(option)]]
    words = _words(best[0].title, worst[0].title, gains[0], doubt, measure)
    if left_out:
        words += f" Not to be done here: {', '.join(left_out)}."
    return SchoolAnswer(
        name=school.name, question=school.question, quantity=measure.quantity, lines=lines, worth=round(gains[0], 2), doubt=round(doubt, 2), words=words,
        counts=context.counts if school.scored is None else "",
    )  # fmt: skip


def _same(option: Option, mine: Build, my_load: Load | None) -> bool:
    return option.build.model_dump() == mine.model_dump() and option.load == my_load


def _words(best: str, worst: str, worth: float, doubt: float, measure: Measure) -> str:
    if worth <= measure.worth(doubt):
        return (
            f"Here it does not matter: {measure.said(worth)} lie between them, within the doubt of {measure.said(doubt)}."
            if worth <= doubt
            else f"Here it does not matter: {measure.said(worth)} lie between them."
        )
    return f"Here {best} is ahead of {worst} by {measure.said(worth, doubt)}."
