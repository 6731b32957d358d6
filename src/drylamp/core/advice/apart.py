"""Why one build is not like another, or not what was promised: each difference's share of the gap.

The differences are swapped in one by one, in every order, and each is given the mean of what it changed when its turn came (``shares.py``; up to MOST_DIFFERENCES all 2ⁿ builds are run).
What the twin's own gap leaves of a promised number is named as the rest.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass

import numpy as np

from drylamp.core.advice.context import AdviceContext
from drylamp.core.advice.shares import parts_of, subsets
from drylamp.core.builds.build import Build
from drylamp.core.checks import InputProblem, Model, YesNo, require
from drylamp.core.text import Sentence, celsius, kelvin
from drylamp.core.threads import two_at_a_time

MOST_DIFFERENCES = 7
SMALL_K = 0.5
"""A share below which a difference hardly matters; from memory."""


class Share(Model):
    """One difference: what it is, its share of the gap, what it does alone on this build, and what it costs new; below nothing it pulls the other way."""

    title: str
    part: str
    path: str
    mine: Sentence
    theirs: Sentence
    share_k: float
    alone_k: float


class Condition(Model):
    """A condition under which the promise might hold, the temperature there, and whether it does."""

    title: Sentence
    celsius: float
    holds: YesNo


class Apart(Model):
    """The whole answer.

    Attributes:
        mine_c, theirs_c: by the twin on one day, and what was promised
        rest_k: what no difference explains of the promised number
    """

    mine_c: float
    theirs_c: float
    promised_c: float
    shares: list[Share]
    rest_k: float
    conditions: list[Condition]
    good_for_food: Sentence
    worth: Sentence
    words: Sentence


@dataclass(frozen=True)
class Promise:
    """What it is held against: another build, or area and absorber as somebody typed them; and the temperature that was promised, where one was."""

    other: Build | None
    area_m2: float | None
    absorber: str | None
    promised_c: float | None


@dataclass(frozen=True)
class Difference:
    """A difference between two builds: how the first becomes like the second in it."""

    title: str
    part: str
    path: str
    mine: str
    theirs: str
    taken: Callable[[Build], Build]


@dataclass(frozen=True)
class Gap:
    """What is asked: how warm it gets, by a build on the context's day."""

    context: AdviceContext
    mine: Build
    differences: Sequence[Difference]

    def with_(self, some: frozenset[int]) -> Build:
        """My build with some of the differences made like theirs."""
        build = self.mine
        for k in sorted(some):
            build = self.differences[k].taken(build)
        return build

    def values(self) -> dict[frozenset[int], float]:
        """How warm it gets with every set of them, °C."""
        sets = subsets(len(self.differences))
        found = two_at_a_time(lambda some: warmest_c(self.context, self.with_(some)), sets)
        return dict(zip(sets, found, strict=True))


def warmest_c(context: AdviceContext, build: Build) -> float:
    """The warmest that what is judged gets on the day."""
    load = context.load
    assert load is not None
    return float(np.nanmax(context.run(build, load).temperature_c[load.judged]))


def apart(
    context: AdviceContext, mine: Build, differences: Sequence[Difference], promised_c: float | None, conditions: Sequence[tuple[str, float]], high_c: float
) -> Apart:  # fmt: skip
    """Share a gap out among differences.

    Raises
    ------
    InputProblem
        nothing differs, too much does, or nothing is judged.
    """
    if context.load is None:
        raise InputProblem("load", "it stands empty; lay something in, so that there is something to compare")
    count = len(differences)
    require(
        count > 0 or promised_c is not None,
        "other",
        "the other build is like this one; change what differs, or give what was promised",
    )
    require(
        count <= MOST_DIFFERENCES, "other",
        f"{count} things differ; up to {MOST_DIFFERENCES} can be told apart, since every set of them is run, so make the least of them alike first",
    )  # fmt: skip
    values = Gap(context, mine, differences).values()
    whole = frozenset(range(count))
    here, there = values[frozenset()], values[whole]
    shares = [
        Share(title=d.title, part=d.part, path=d.path, mine=d.mine, theirs=d.theirs, share_k=round(part.gain, 3), alone_k=round(values[frozenset((k,))] - here, 3))
        for k, (d, part) in enumerate(zip(differences, parts_of(values, count), strict=True))
        if part is not None
    ]  # fmt: skip
    promise = there if promised_c is None else promised_c
    all_alike = [("with all of that made like there", there)] if count else []
    told = [
        Condition(title=title, celsius=round(at, 2), holds=at >= promise - 1.0)
        for title, at in (*conditions, *all_alike)
    ]
    rest = promise - there
    ranked = sorted(shares, key=lambda share: -share.share_k)
    return Apart(
        mine_c=round(here, 3), theirs_c=round(there, 3), promised_c=round(promise, 3), shares=ranked, rest_k=round(rest, 3), conditions=told,
        good_for_food=_for_food(promise, high_c), worth=_worth(ranked), words=_words(here, promise, ranked, rest),
    )  # fmt: skip


def _for_food(promise: float, high_c: float) -> str:
    if promise > high_c + 3.0:
        return f"{celsius(promise)} is more than suits this food ({celsius(high_c)} at most): it browns, and its skin hardens over a wet core."
    return f"{celsius(promise)} would suit this food."


def _worth(ranked: list[Share]) -> str:
    if not ranked or ranked[0].alone_k < SMALL_K:
        return "No single difference is worth mending for its own sake."
    best = max(ranked, key=lambda share: share.alone_k)
    return f"Mend this first: {best.title} ({best.theirs} in place of {best.mine}): {kelvin(best.alone_k, signed=True)} by itself."


def _words(here: float, promise: float, ranked: list[Share], rest: float) -> str:
    top = ", ".join(f"{share.title} {kelvin(share.share_k, signed=True)}" for share in ranked[:3])
    left = f"; {kelvin(rest, signed=True)} are left that no difference explains" if abs(rest) >= SMALL_K else ""
    return f"This build gets {celsius(here)}, {celsius(promise)} were promised: {top or 'nothing differs'}{left}."
