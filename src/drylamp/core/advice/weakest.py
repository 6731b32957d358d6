"""The weakest link: every sensible single change put to the twin, ranked by what it gains and by what it gains for the money."""

from __future__ import annotations

import math
from typing import Literal

from drylamp.core.advice.changes import changes_of
from drylamp.core.advice.context import AdviceContext, Score, doubt_of
from drylamp.core.advice.entries import Change
from drylamp.core.advice.safe import HotParts
from drylamp.core.builds.registry import BuildSpec
from drylamp.core.checks import Model, YesNo
from drylamp.core.loads.registry import LoadSpec
from drylamp.core.long import Long, Step, whole
from drylamp.core.outcome.of_load import Measure, ScoreQuantity
from drylamp.core.outcome.registry import outcome_of
from drylamp.core.tables import Absorber
from drylamp.core.text import Sentence, amount


class ChangeLine(Model):
    """One change and what it gains.

    Attributes:
        gain, doubt, unit: of the score; kelvin over the hours after the load went in, or kilograms an hour
        sooner_minutes: how much earlier the target is met, where both meet it
        reaches: whether the target is met with it and without it: "both", "now", "lost" or "neither"
        real: whether the gain is larger than its doubt
        per_money: gain for each unit of money; none where it costs nothing
        hours: of work
        rank: lines that lie within the doubt of each other share one; none of what is a choice, or unsafe
        choice: whether it is another wish rather than a gain
        unsafe: why it is not to be done; empty where nothing is known against it
        spec, load: the build and load with the change, to try it with
    """

    title: Sentence
    part: str
    gain: float
    doubt: float
    quantity: ScoreQuantity
    sooner_minutes: float | None
    reaches: Literal["both", "now", "lost", "neither"]
    real: YesNo
    price: float
    per_money: float | None
    words: Sentence
    hours: float
    rank: int | None
    choice: YesNo
    unsafe: Sentence
    spec: BuildSpec
    load: LoadSpec | None


class Weakest(Model):
    """All changes, the best first, and one sentence that says which to make.

    Attributes:
        counts: what a gain counts
        today: what is missing where it does not work on this day; empty where it does
    """

    lines: list[ChangeLine]
    best: Sentence
    per_money: Sentence
    counts: Sentence
    today: Sentence


MOST_NAMED = 2
AT_ONCE = 6
"""So many changes are tried between two looks."""


def weakest_link(context: AdviceContext, own_finishes: tuple[Absorber, ...] = ()) -> Weakest:
    """Try every change on the context's day, finishes that the user has put on the shelf among them."""
    return whole(weakest_steps(context, own_finishes))


def weakest_steps(context: AdviceContext, own_finishes: tuple[Absorber, ...] = ()) -> Long[Weakest]:
    """The same, some changes at a time."""
    build, load, measure = context.build, context.load, context.measure
    context.ready(build, load)  # what is wrong with the build itself is said, not skipped
    changes, calibrations = changes_of(build, load, own_finishes, context), context.doubtful()
    heat, today = HotParts.of(context), short_words(context)
    (base,) = context.scores([(build, load)], calibrations)
    assert base is not None
    lines, gains = list[ChangeLine](), dict[str, list[float]]()
    for first in range(0, max(len(changes), 1), AT_ONCE):
        now = changes[first : first + AT_ONCE]
        tried = zip(now, context.scores([(c.build, c.load) for c in now], calibrations), strict=True)
        for change, scores in tried:
            if scores is not None:
                gains[change.title] = [new.value - old.value for new, old in zip(scores, base, strict=True)]
                lines.append(
                    _line(
                        change,
                        base,
                        scores,
                        measure,
                        _own_doubt(context, change),
                        heat.against(change.build, change.load),
                    )
                )
        lines = ranked(lines, gains, measure)
        found = Weakest(lines=lines, best=_best(lines), per_money=_per_money(lines), counts=context.counts, today=today)
        yield Step(min(1.0, (first + AT_ONCE) / max(len(changes), 1)), found)


def short_words(context: AdviceContext) -> str:
    """What is missing where the load does not get what it wants on the day; empty where it does."""
    load = context.load
    return "" if load is None else outcome_of(load).short(load, context.run(context.build, load))


def ranked(lines: list[ChangeLine], gains: dict[str, list[float]], measure: Measure) -> list[ChangeLine]:
    """Best first; what lies within the doubt of the best of its rank shares it, the least work first, then the cheapest. Choices and unsafe ones last.

    ``gains`` are those under each doubtful calibration: what both share drops out of the doubt of a difference.
    """

    def alike_with(top: ChangeLine, line: ChangeLine) -> bool:
        apart = [a - b for a, b in zip(gains[top.title], gains[line.title], strict=True)]
        return line.real == top.real and apart[0] <= measure.worth(doubt_of(apart, measure))

    counted = sorted((line for line in lines if not line.choice and not line.unsafe), key=lambda line: -line.gain)
    out, rank = list[ChangeLine](), 0
    while counted:
        top, rank = counted[0], rank + 1
        alike = [line for line in counted if line is top or alike_with(top, line)]
        counted = [line for line in counted if line not in alike]
        out += [
            line.model_copy(update={"rank": rank})
            for line in sorted(alike, key=lambda line: (line.hours, line.price, -line.gain))
        ]
    aside = sorted(
        (line for line in lines if line.choice or line.unsafe), key=lambda line: (bool(line.unsafe), -line.gain)
    )
    return [*out, *(line.model_copy(update={"rank": None}) for line in aside)]


def _own_doubt(context: AdviceContext, change: Change) -> float:
    """Half of what the ends of a change's own doubt lie apart."""
    found = context.scores([(build, change.load) for build in change.spread], [context.case.calibration])
    ends = [scores[0].value for scores in found if scores is not None]
    return (max(ends) - min(ends)) / 2.0 if ends else 0.0


def _line(
    change: Change, base: list[Score], scores: list[Score], measure: Measure, own_doubt: float, unsafe: str
) -> ChangeLine:
    gains = [new.value - old.value for new, old in zip(scores, base, strict=True)]
    gain, doubt = gains[0], math.hypot(doubt_of(gains, measure), own_doubt)
    was, now = base[0].minutes, scores[0].minutes
    sooner = None if was is None or now is None else was - now
    reaches, real = _reaches(was, now), abs(gain) > measure.worth(doubt)
    return ChangeLine(
        title=change.title, part=change.part, gain=round(gain, 3), doubt=round(doubt, 3), quantity=measure.quantity,
        sooner_minutes=None if sooner is None else round(sooner, 1), reaches=reaches, real=real, price=change.price,
        per_money=round(gain / change.price, 4) if change.price > 0 else None,
        words=_words(gain, doubt, measure, sooner, reaches, real, change.price), hours=change.hours, rank=None, choice=change.choice, unsafe=unsafe,
        spec=change.build, load=change.load,
    )  # fmt: skip


def _reaches(was: float | None, now: float | None) -> Literal["both", "now", "lost", "neither"]:
    if was is not None and now is not None:
        return "both"
    if now is not None:
        return "now"
    return "lost" if was is not None else "neither"


def _words(
    gain: float, doubt: float, measure: Measure, sooner: float | None, reaches: str, real: bool, price: float
) -> str:
    said = measure.said(gain, doubt, signed=True)
    if sooner is not None and abs(sooner) >= 1:
        said += f", target {abs(sooner):.0f} min {'sooner' if sooner > 0 else 'later'}"
    said += {"now": ", and the target is reached", "lost": ", and the target is no longer reached"}.get(reaches, "")
    said += f", about {amount(price, 'price')} new" if price > 0 else ", costs nothing"
    return said if real else said + "; too small to tell"


def _best(lines: list[ChangeLine]) -> str:
    good = [line for line in lines if line.real and line.gain > 0 and line.rank is not None]
    if not good:
        return "No single change would gain more than the twin's own doubt: it is as good as this kind gets, or too little is known."
    alike = [line for line in good[1:] if line.rank == good[0].rank]
    also = (
        f" As good within the doubt, with more work: {', '.join(line.title for line in alike[:MOST_NAMED])}."
        if alike
        else ""
    )
    return f"Weakest link: {good[0].title} ({good[0].words}).{also}"


def _per_money(lines: list[ChangeLine]) -> str:
    good = [line for line in lines if line.real and line.gain > 0 and line.rank is not None]
    free, paid = [line for line in good if line.price == 0], [line for line in good if line.per_money]
    said = f"For nothing: {free[0].title}. " if free else ""
    if paid:
        top = max(paid, key=lambda line: line.per_money or 0.0)
        said += f"Most for the money: {top.title}."
    return said.strip()
