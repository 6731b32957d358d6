"""Two states of a build, two builds of one kind, or two days of trials between which several things changed: the part of each.

What may differ is made a list of causes: parts of the build, what is in it, where it stands, and the day's sun, air, wind and dampness. Every set of them is
made alike, and the gap shared out among them (``shares.py``).
"""

from __future__ import annotations

from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass, replace

import numpy as np

from drylamp.core.advice.apart import Difference
from drylamp.core.advice.context import AdviceContext
from drylamp.core.advice.registry import advice_of
from drylamp.core.advice.shares import Part, Some, parts_of, subsets
from drylamp.core.builds.build import Build
from drylamp.core.builds.registry import kind_of
from drylamp.core.checks import InputProblem, Model, YesNo
from drylamp.core.differences import differences
from drylamp.core.forms import form_of
from drylamp.core.loads.load import Load
from drylamp.core.quantities import Quantity
from drylamp.core.sky.weather import Weather
from drylamp.core.text import Sentence, amount, celsius, kelvin, metres_per_second
from drylamp.core.threads import two_at_a_time

LOAD, SPOT, DAY = "load", "spot", "day"
MOST_CAUSES = 7
"""So many are told apart, since every set of them is run; of more, those that do least are taken together."""
REST = "rest"
SOLAR = ("sun", "ghi_w_m2", "dni_w_m2", "dhi_w_m2")


@dataclass(frozen=True)
class State:
    """What stands there, what is in it, at which spot, under what weather."""

    build: Build
    load: Load | None
    spot: str | None
    weather: Weather

    @classmethod
    def of(cls, context: AdviceContext) -> State:
        """The state that advice is asked for."""
        return cls(context.build, context.load, context.case.spot, context.weather)


@dataclass(frozen=True)
class Cause:
    """One difference: the part that it is about, its title, what differs in words, and how a state becomes like the later one in it."""

    part: str
    title: str
    told: tuple[str, ...]
    made: Callable[[State], State]


class CausePart(Model):
    """One cause's part of the gap.

    Attributes:
        told: what differs, field by field
        gain: in the load's own measure, with what the order of changing leaves open
        warmer_k: the same gap's part in how hot it gets
    """

    part: str
    title: str
    told: list[Sentence]
    gain: float
    doubt: float
    warmer_k: float


class Explained(Model):
    """All causes, the one that did most first.

    Attributes:
        together: what the two differ by, in the load's own measure
        warmer_k: what they differ by in how hot it gets, by the twin
        read_k, read_doubt_k: the same as it was read, where both were
        rest_k, rest_counts: what of that no cause explains, and whether it is more than its doubt
    """

    parts: list[CausePart]
    together: float
    quantity: Quantity
    counts: str
    warmer_k: float
    read_k: float | None = None
    read_doubt_k: float | None = None
    rest_k: float | None = None
    rest_counts: YesNo = False
    words: Sentence


@dataclass(frozen=True)
class Value:
    """What a state comes to: the load's score, and how hot it got, °C."""

    score: float
    warmest_c: float


@dataclass(frozen=True)
class Rest:
    """By how much the later state was read to lie farther above its own twin than the earlier one above its, and the doubt of that, K."""

    k: float
    doubt_k: float


def explained(context: AdviceContext, before: State, rest: Rest | None = None) -> Explained:
    """Share out, by the twin, what lies between an earlier state and the context's own.

    What is in the two counts as a cause only where it is of one sort.

    Raises
    ------
    InputProblem
        the two are of different kinds, or one of them cannot be run.
    """
    after = State.of(context)
    if not after.build.is_kin_of(before.build):
        raise InputProblem(
            "other", "the two are not of one kind: no part of one fits into the other; look at them side by side"
        )
    before = _as_long(_with_the_like(before, after), after)
    causes = list(_causes(before, after))
    if not causes:
        return _alike(context, rest)
    causes = _few(context, before, causes)
    values = _values(context, before, causes, subsets(len(causes)))
    ends = (values[frozenset()], values[frozenset(range(len(causes)))])
    if ends[0] is None or ends[1] is None:
        raise InputProblem("other", "one of the two cannot be run as it stands; open it and see what it says")
    return _told(context, causes, values, (ends[0], ends[1]), rest)


ALIKE = "Nothing differs between the two: not the build, nor what is in it, where it stands or its weather."


def _alike(context: AdviceContext, rest: Rest | None) -> Explained:
    told = Explained(
        parts=[], together=0.0, quantity=context.measure.quantity, counts=context.counts, warmer_k=0.0, words=ALIKE
    )
    return told if rest is None else _beside_read(told, rest)


def _with_the_like(before: State, after: State) -> State:
    """What was in it then, where it is of the sort that is in it now; else the two could not be held against each other."""
    then, now = before.load, after.load
    alike = then is not None and type(then) is type(now)
    return before if alike else replace(before, load=now)


def _as_long(before: State, after: State) -> State:
    """Its weather as far as the other's reaches, hour by hour of the day; the other's own where it is too short or in other steps."""
    then, now = before.weather, after.weather
    if then.dt_s != now.dt_s or then.steps < now.steps:
        return replace(before, weather=now)
    return replace(before, weather=then.between(0, now.steps))


def _causes(before: State, after: State) -> Iterator[Cause]:
    yield from _of_build(before.build, after.build)
    if before.load != after.load:
        told = tuple(differences(before.load, after.load, "load"))
        yield Cause(LOAD, "what is in it", told, lambda s: replace(s, load=after.load))
    if before.spot != after.spot:
        told = (f"{before.spot or 'in the open'} → {after.spot or 'in the open'}",)
        yield Cause(SPOT, "where it stands", told, lambda s: replace(s, spot=after.spot))
    yield from _of_weather(before.weather, after.weather)


def _of_build(before: Build, after: Build) -> Iterator[Cause]:
    """What differs as the kind names it, and beyond that by the part that a field belongs to."""
    named = advice_of(after).differences
    for one in [] if named is None else named(before, after):
        yield Cause(one.part, one.title, (f"{one.mine} → {one.theirs}",), _becoming(one))
        before = one.taken(before)
    fields: dict[str, list[str]] = {}
    for field in form_of(type(after)):
        if getattr(before, field.name) != getattr(after, field.name):
            fields.setdefault(field.part, []).append(field.name)
    parts = kind_of(after).parts
    for part, names in fields.items():
        told = differences(before, mixed(before, after, names), "kind of build", parts)
        yield Cause(part, parts.get(part, part), tuple(told), _taking(after, tuple(names)))


def _becoming(one: Difference) -> Callable[[State], State]:
    return lambda state: replace(state, build=one.taken(state.build))


def mixed(under: Build, over: Build, fields: Sequence[str]) -> Build:
    """One build with some fields of another, unchecked."""
    return under.model_copy(update={name: getattr(over, name) for name in fields})


def _taking(after: Build, fields: tuple[str, ...]) -> Callable[[State], State]:
    return lambda state: replace(state, build=mixed(state.build, after, fields))


def _of_weather(before: Weather, after: Weather) -> Iterator[Cause]:
    lit = (before.ghi_w_m2 > 5.0) | (after.ghi_w_m2 > 5.0)

    def mean(weather: Weather, name: str) -> float:
        values = getattr(weather, name)
        return float(values[lit].mean() if lit.any() else values.mean())

    if not np.array_equal(before.dni_w_m2, after.dni_w_m2) or not np.array_equal(before.dhi_w_m2, after.dhi_w_m2):
        days = after.steps * after.dt_s / 86400.0
        then, now = (float(w.ghi_w_m2.sum()) * w.dt_s / 3.6e6 / days for w in (before, after))
        told = (f"{amount(then, 'exposure')} → {amount(now, 'exposure')} a day on level ground",)
        yield Cause(DAY, "sun", told, lambda s: replace(s, weather=_sunlit(s.weather, after)))
    for name, title, say in (
        ("air_c", "warmth of the air", celsius), ("wind_m_s", "wind", metres_per_second), ("rh", "dampness of the air", lambda value: amount(value, "share")),
    ):  # fmt: skip
        if not np.allclose(getattr(before, name), getattr(after, name)):
            told = (f"{say(mean(before, name))} → {say(mean(after, name))} by day",)
            yield Cause(DAY, title, told, _weathered(after, name))


def _sunlit(under: Weather, over: Weather) -> Weather:
    """One day's weather under another's sun, at its own instants."""
    shone = {name: getattr(over, name) for name in SOLAR}
    return replace(under, **{**shone, "sun": replace(over.sun, time_s=under.sun.time_s)})


def _weathered(after: Weather, name: str) -> Callable[[State], State]:
    return lambda state: replace(state, weather=replace(state.weather, **{name: getattr(after, name)}))


def _few(context: AdviceContext, before: State, causes: list[Cause]) -> list[Cause]:
    """As many causes as are told apart: of more, those that do least alone as one."""
    if len(causes) <= MOST_CAUSES:
        return causes
    alone = _values(context, before, causes, [frozenset(), *(frozenset((k,)) for k in range(len(causes)))])
    base = alone[frozenset()]

    def weight(k: int) -> float:
        value = alone[frozenset((k,))]
        return np.inf if value is None or base is None else abs(value.score - base.score)

    ranked = sorted(range(len(causes)), key=lambda k: (-weight(k), k))
    kept, small = [causes[k] for k in ranked[: MOST_CAUSES - 1]], [causes[k] for k in ranked[MOST_CAUSES - 1 :]]
    return [*kept, _as_one(small)]


def _as_one(causes: Sequence[Cause]) -> Cause:
    def made(state: State) -> State:
        for cause in causes:
            state = cause.made(state)
        return state

    told = tuple(words for cause in causes for words in cause.told)
    return Cause(REST, f"{', '.join(cause.title for cause in causes)}, together", told, made)


def _values(
    context: AdviceContext, before: State, causes: Sequence[Cause], sets: Sequence[Some]
) -> dict[Some, Value | None]:
    """What every set of causes made alike comes to; none for a build that cannot be."""

    def one(some: Some) -> Value | None:
        state = before
        for k in sorted(some):
            state = causes[k].made(state)
        return _value(context, state)

    return dict(zip(sets, two_at_a_time(one, sets), strict=True))


def _value(context: AdviceContext, state: State) -> Value | None:
    """A state's value, counted as the context counts; none where it cannot be built."""
    at = replace(context, case=context.case.with_(spot=state.spot), weather=state.weather)
    try:
        run = at.run(state.build, state.load)
    except InputProblem:
        return None
    found = context.score_of(state.build, state.load, run)
    return Value(found.value, found.peak_c)


def _told(
    context: AdviceContext, causes: Sequence[Cause], values: dict[Some, Value | None], ends: tuple[Value, Value], rest: Rest | None
) -> Explained:  # fmt: skip
    scores = parts_of({some: None if v is None else v.score for some, v in values.items()}, len(causes))
    peaks = parts_of({some: None if v is None else v.warmest_c for some, v in values.items()}, len(causes))
    together, warmer = ends[1].score - ends[0].score, ends[1].warmest_c - ends[0].warmest_c
    parts = [
        _cause_part(context, cause, score, peak, together)
        for cause, score, peak in zip(causes, scores, peaks, strict=True)
    ]
    parts.sort(key=lambda part: -abs(part.gain))
    words = _words(context, parts, together)
    told = Explained(parts=parts, together=round(together, 3), quantity=context.measure.quantity, counts=context.counts, warmer_k=round(warmer, 3), words=words)  # fmt: skip
    return told if rest is None else _beside_read(told, rest)


def _cause_part(
    context: AdviceContext, cause: Cause, score: Part | None, peak: Part | None, together: float
) -> CausePart:
    """A cause that can be made in no order stands with nothing, and as much in doubt as there is to share."""
    gain, doubt = (0.0, abs(together)) if score is None else (score.gain, score.doubt)
    return CausePart(
        part=cause.part, title=cause.title, told=list(cause.told), gain=round(gain, 3), doubt=round(max(doubt, context.measure.ray_noise), 3),
        warmer_k=0.0 if peak is None else round(peak.gain, 3),
    )  # fmt: skip


def _words(context: AdviceContext, parts: Sequence[CausePart], together: float) -> str:
    measure = context.measure
    each = "; ".join(f"{part.title} {measure.said(part.gain, part.doubt, signed=True)}" for part in parts)
    return f"By the twin they make {measure.signed(together)} in all ({context.counts}): {each}."


def _beside_read(told: Explained, rest: Rest) -> Explained:
    read, counts = told.warmer_k + rest.k, abs(rest.k) > rest.doubt_k
    left = (
        f"{kelvin(rest.k, rest.doubt_k, signed=True)} are left that none of this explains."
        if counts
        else "That agrees within its doubt."
    )
    words = f"As read, it got {amount(read, 'difference', rest.doubt_k, signed=True)} hotter; by the twin {kelvin(told.warmer_k, signed=True)}. {left} {told.words}"
    return told.model_copy(
        update={"read_k": round(read, 3), "read_doubt_k": round(rest.doubt_k, 3), "rest_k": round(rest.k, 3), "rest_counts": counts, "words": words}
    )  # fmt: skip
