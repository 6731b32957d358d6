"""Several things were changed at once: the part of each, and what they do to each other."""

from __future__ import annotations

from collections.abc import Sequence

from drylamp.core.advice.context import AdviceContext
from drylamp.core.builds.build import Build
from drylamp.core.builds.registry import kind_of
from drylamp.core.checks import InputProblem, Model
from drylamp.core.forms import form_of
from drylamp.core.loads.load import Load
from drylamp.core.quantities import Quantity
from drylamp.core.text import Sentence

LOAD = "load"
State = tuple[Build, Load | None]


class ChangedPart(Model):
    """One part that was changed.

    Attributes:
        gain: what it alone did, the mean of making it first and of making it last
        doubt: half of what these two differ by
    """

    part: str
    title: str
    gain: float
    doubt: float


class ChangedParts(Model):
    """All parts that were changed, the one that did most first."""

    parts: list[ChangedPart]
    together: float
    quantity: Quantity
    words: Sentence


def changed_parts(context: AdviceContext, before: State) -> ChangedParts:
    """Share out, by the twin on one day, what lies between an earlier state of a build and the context's own.

    What is in the two counts as a change only where it is of one sort. Each change is made alone upon the earlier state, and
    taken back alone from the later one; where the two differ, changes help or hinder each other.

    Raises
    ------
    InputProblem
        the two are of different kinds, or nothing differs.
    """
    after: State = (context.build, context.load)
    if kind_of(before[0]).name != kind_of(after[0]).name:
        raise InputProblem("other", "the two are not of one kind; choose two states of one build")
    before = _with_the_like(before, after)
    groups = _groups(before, after)
    if not groups:
        raise InputProblem("other", "nothing of the build was changed between the two; only day and weather differ")
    scores = _scores(context, [before, after, *_tried(before, after, groups)])
    base, whole = scores[0], scores[1]
    if base is None or whole is None:
        raise InputProblem("other", "one of the two cannot be run as it stands; open it and see what it says")
    parts = [_part(context, group, base, whole, scores[2 + 2 * k], scores[3 + 2 * k]) for k, group in enumerate(groups)]
    parts.sort(key=lambda part: -abs(part.gain))
    return ChangedParts(
        parts=parts, together=round(whole - base, 3), quantity=context.measure.quantity, words=_words(context, parts, whole - base)
    )  # fmt: skip


def _with_the_like(before: State, after: State) -> State:
    """What was in it then, where it is of the sort that is in it now; else scores of the two could not be held against each other."""
    then, now = before[1], after[1]
    alike = then is not None and now is not None and then.kind_name() == now.kind_name()
    return before if alike else (before[0], now)


def _groups(before: State, after: State) -> dict[str, list[str]]:
    """Fields of the build that differ, by the part they belong to; what is in it counts as one."""
    out: dict[str, list[str]] = {}
    for field in form_of(type(after[0])):
        if getattr(before[0], field.name) != getattr(after[0], field.name):
            out.setdefault(field.part, []).append(field.name)
    if before[1] != after[1]:
        out[LOAD] = []
    return out


def _mixed(under: State, over: State, part: str, fields: Sequence[str]) -> State:
    """One state with one part of another."""
    if part == LOAD:
        return under[0], over[1]
    return under[0].model_copy(update={name: getattr(over[0], name) for name in fields}), under[1]


def _tried(before: State, after: State, groups: dict[str, list[str]]) -> list[State]:
    """Each change alone on what was, and taken back alone from what is."""
    return [
        state
        for part, fields in groups.items()
        for state in (_mixed(before, after, part, fields), _mixed(after, before, part, fields))
    ]


def _scores(context: AdviceContext, states: Sequence[State]) -> list[float | None]:
    found = context.scores(states, [context.case.calibration])
    return [None if row is None else row[0].value for row in found]


def _part(
    context: AdviceContext, part: str, base: float, whole: float, alone: float | None, without: float | None
) -> ChangedPart:
    """Its mean of both ways; of one only where the other cannot be built."""
    ways = [*([] if alone is None else [alone - base]), *([] if without is None else [whole - without])]
    gain = sum(ways) / len(ways) if ways else 0.0
    doubt = (max(ways) - min(ways)) / 2.0 if len(ways) > 1 else abs(whole - base)
    title = kind_of(context.build).parts.get(part, part)
    return ChangedPart(
        part=part, title=title, gain=round(gain, 3), doubt=round(max(doubt, context.measure.ray_noise), 3)
    )


def _words(context: AdviceContext, parts: Sequence[ChangedPart], together: float) -> str:
    measure = context.measure
    each = "; ".join(f"{part.title} {measure.said(part.gain, part.doubt, signed=True)}" for part in parts)
    rest = together - sum(part.gain for part in parts)
    is_much = abs(rest) >= measure.worth(sum(part.doubt for part in parts))
    what = f" {measure.signed(rest)} comes of their working together." if is_much else ""
    return f"By the twin on one day they make {measure.signed(together)} in all: {each}.{what}"
