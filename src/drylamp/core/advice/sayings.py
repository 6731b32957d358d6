"""Rules of thumb, put to the twin: each saying is tested on this build, this load and this day."""

from __future__ import annotations

from drylamp.core.advice.context import PROPERTY_SHARE, AdviceContext
from drylamp.core.advice.entries import Found, Ruling
from drylamp.core.advice.registry import said_of
from drylamp.core.checks import Model
from drylamp.core.long import Long, Step, whole
from drylamp.core.outcome.of_load import Measure, ScoreQuantity
from drylamp.core.text import Sentence

PLAIN_TIMES = 3.0
"""An effect so many times the least that is worth speaking of is seen on any thermometer; from memory."""


class SayingLine(Model):
    """One saying, ruled on; ``counts`` is what its effect counts."""

    name: str
    saying: Sentence
    ruling: Ruling
    effect: float
    quantity: ScoreQuantity
    words: Sentence
    counts: Sentence


def sayings_of(context: AdviceContext) -> list[SayingLine]:
    """Put every saying that is said of this build and its load to the test."""
    return whole(sayings_steps(context))


def sayings_steps(context: AdviceContext) -> Long[list[SayingLine]]:
    """The same, saying by saying."""
    build, load = context.build, context.load
    said, out = said_of(build, load).sayings, list[SayingLine]()
    for number, saying in enumerate(said, start=1):
        found = saying.test(context, build, load)
        if found is not None:
            out.append(_line(saying.name, saying.words, found, context.measure, context.counts))
        yield Step(number / len(said), list(out))
    if not said:
        yield Step(1.0, out)


def _line(name: str, words: str, found: Found, measure: Measure, counts: str) -> SayingLine:
    return SayingLine(
        name=name, saying=words, ruling=found.ruling or ruling_by_size(found.effect, measure),
        effect=round(found.effect, 2), quantity=found.quantity or measure.quantity, words=found.words,
        counts=found.counts or counts,
    )  # fmt: skip


def ruling_by_size(effect: float, measure: Measure) -> Ruling:
    """By the size of the effect: nothing, a little, or enough to be seen on a thermometer."""
    if abs(effect) < measure.worth(measure.ray_noise + PROPERTY_SHARE * abs(effect)):
        return "does not matter here"
    if effect < 0:
        return "wrong"
    return "holds" if effect > PLAIN_TIMES * measure.least_worth else "holds partly"
