"""Schools side by side: where builders disagree, every school is run on this build and this day."""

from __future__ import annotations

from drylamp.core.advice.context import AdviceContext, Score, doubt_of
from drylamp.core.advice.entries import Option
from drylamp.core.advice.registry import said_of
from drylamp.core.builds.build import Build
from drylamp.core.checks import Model
from drylamp.core.loads.load import Load
from drylamp.core.outcome.of_load import Measure, ScoreQuantity
from drylamp.core.text import Sentence


class SchoolLine(Model):
    """One school's answer: how well it does, against the best of them."""

    title: Sentence
    score: float
    behind: float
    minutes: float | None
    peak_c: float
    is_mine: bool


class SchoolAnswer(Model):
    """One question with every school's answer; ``worth`` is what choosing right is worth, ``doubt`` how sure that is."""

    name: str
    question: Sentence
    quantity: ScoreQuantity
    lines: list[SchoolLine]
    worth: float
    doubt: float
    words: Sentence


def asked_of(context: AdviceContext) -> list[tuple[str, str, list[Option]]]:
    """Name, question and answers of every school that arises for a build and its load."""
    build, load = context.build, context.load
    found = [(s.name, s.question, s.options(context, build, load)) for s in said_of(build, load).schools]
    return [row for row in found if len(row[2]) > 1]


def schools_of(context: AdviceContext) -> list[SchoolAnswer]:
    """Run every school that concerns this build; answers that cannot be built are left out."""
    asked, calibrations = asked_of(context), context.doubtful()
    scores = iter(context.scores([(o.build, o.load) for _, _, options in asked for o in options], calibrations))
    out = []
    for name, question, options in asked:
        tried = [(option, found) for option in options if (found := next(scores)) is not None]
        if len(tried) > 1:
            out.append(_answer(context, name, question, tried))
    return out


def _answer(context: AdviceContext, name: str, question: str, tried: list[tuple[Option, list[Score]]]) -> SchoolAnswer:
    measure = context.measure
    best, worst = (pick(tried, key=lambda t: t[1][0].value) for pick in (max, min))
    gains = [a.value - b.value for a, b in zip(best[1], worst[1], strict=True)]
    doubt = doubt_of(gains, measure)
    lines = [
        SchoolLine(
            title=option.title, score=round(s[0].value, 2), behind=round(best[1][0].value - s[0].value, 2),
            minutes=s[0].minutes, peak_c=round(s[0].peak_c, 1), is_mine=_same(option, context.build, context.load),
        )
        for option, s in tried
    ]  # fmt: skip
    words = _words(best[0].title, worst[0].title, gains[0], doubt, measure)
    return SchoolAnswer(
        name=name, question=question, quantity=measure.quantity, lines=lines, worth=round(gains[0], 2), doubt=round(doubt, 2), words=words,
    )  # fmt: skip


def _same(option: Option, mine: Build, my_load: Load | None) -> bool:
    return option.build.model_dump() == mine.model_dump() and option.load == my_load


def _words(best: str, worst: str, worth: float, doubt: float, measure: Measure) -> str:
    if worth <= measure.worth(doubt):
        return (
            f"Here it does not matter: {measure.said(worth)} between them, within the doubt of {measure.said(doubt)}."
            if worth <= doubt
            else f"Here it does not matter: {measure.said(worth)} between them."
        )
    return f"Here {best} is ahead of {worst} by {measure.said(worth, doubt)}."
