"""What the builds of a yard can do today: every food, wax and load that each may hold, done by when, and how often on such a day."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from datetime import datetime

from drylamp.core.advice.context import put_in_s
from drylamp.core.advice.meal import days_like, done_at, has_chances
from drylamp.core.builds.registry import kind_of
from drylamp.core.checks import Fraction, InputProblem, Model, RowId, YesNo
from drylamp.core.loads.load import Load
from drylamp.core.loads.registry import LoadSpec
from drylamp.core.long import Long, Step
from drylamp.core.quantities import Quantity
from drylamp.core.sky.clock import local_time
from drylamp.core.sky.weather import Weather
from drylamp.core.text import Sentence, amount, counted
from drylamp.core.threads import two_at_a_time
from drylamp.core.twin.case import Case
from drylamp.core.twin.prepared import prepare
from drylamp.core.wish.goods import offers
from drylamp.core.wish.tried import load_of

MEMBERS, SHARES, MOST_LINES = 4, (1.0, 0.5), 400
"""Days that could equally well be; shares of the usual amount that are tried where all of it does not fit; lines in all."""


@dataclass(frozen=True)
class Standing:
    """A build of the yard, as it stands: its case on the day, and what the day's sky is."""

    id: int
    name: str
    case: Case
    weather: Weather


class CanDo(Model):
    """One thing that a build can do today.

    Attributes:
        good: what, in words
        quantity, amount: how much of it; none where that is not said in one number
        ready: when, under today's sky
        chance: of days like this on which it gets done; none where none could be made up
        load: as it would go in; is_in: whether that is what is in it already
    """

    build_id: RowId
    build: str
    good: str
    quantity: Quantity | None
    amount: float | None
    ready: datetime
    chance: Fraction | None
    load: LoadSpec
    is_in: YesNo


class Today(Model):
    """What can be done today, the earliest first, and what to know of it."""

    lines: list[CanDo]
    words: list[Sentence]


@dataclass(frozen=True)
class _Try:
    """A build with something in it."""

    standing: Standing
    good: str
    quantity: Quantity | None
    amount: float | None
    load: Load
    is_in: bool


def today(yard: Sequence[Standing]) -> Long[Today]:
    """Go through the builds, one after the other; what is done under today's sky is tried on days like it too."""
    lines = list[CanDo]()
    for k, standing in enumerate(yard):
        tries = list(_tries(standing))
        found = two_at_a_time(_line, tries)
        lines += [line for line in found if line is not None]
        yield Step((k + 1) / len(yard), _answer(lines, yard[: k + 1]))
    if not yard:
        yield Step(1.0, Today(lines=[], words=["No build stands here yet."]))


def _answer(lines: Sequence[CanDo], yard: Sequence[Standing]) -> Today:
    first = sorted(lines, key=lambda line: (line.ready, line.build, line.good))[:MOST_LINES]
    idle = [one.name for one in yard if one.id not in {line.build_id for line in lines}]
    words = [f"{counted(len(lines), 'thing')} that {counted(len(yard) - len(idle), 'build')} can do today."]
    return Today(lines=first, words=[*words, *([f"Nothing today: {', '.join(idle)}."] if idle else [])])


def _tries(standing: Standing) -> Iterator[_Try]:
    """What is in it, and each other good of a day's work that a load of its sort may be."""
    mine, build = standing.case.load, standing.case.build
    if mine is not None:
        yield _Try(standing, mine.title, None, None, mine.afresh(), True)
    for offer in offers():
        fits = offer.is_of(mine) if mine is not None else offer.made.sits in kind_of(build).offers
        if not fits or offer.good.days > 1:
            continue
        for share in SHARES:
            much = offer.good.usual * share
            load = load_of(offer, mine, build, much, None)
            if load is not None and load != mine and _has_room(standing, load):
                yield _Try(standing, offer.good.title, offer.good.quantity, much, load, False)
                break


def _has_room(standing: Standing, load: Load) -> bool:
    try:
        kind_of(standing.case.build).check_fit(standing.case.build, load)
    except InputProblem:
        return False
    return True


def _line(one: _Try) -> CanDo | None:
    """It done under today's sky, with its chance; none where it is not."""
    case, standing = one.standing.case.with_(load=one.load), one.standing
    done = _done(case, one.load, standing.weather)
    if done is None:
        return None
    day = local_time(case.site.zone, standing.weather.start_s).date()
    likely = days_like(case.site, day, MEMBERS) if has_chances(case.site) and one.load.calendar.daily else []
    times = [_done(case, one.load, weather) for weather in likely]
    return CanDo(
        build_id=standing.id, build=standing.name, good=one.good, quantity=one.quantity, amount=one.amount, ready=local_time(case.site.zone, done),
        chance=sum(time is not None for time in times) / len(times) if times else None, load=one.load, is_in=one.is_in,
    )  # fmt: skip


def _done(case: Case, load: Load, weather: Weather) -> float | None:
    """When, seconds since 1970; what was done the moment it went in was not done by the sun."""
    try:
        done = done_at(prepare(case, weather).run(), load)
    except InputProblem:
        return None
    return done if done is not None and done > put_in_s(case.site, load, weather) else None


def said(line: CanDo) -> Sentence:
    """A line in words."""
    much = "" if line.amount is None or line.quantity is None else f", {amount(line.amount, line.quantity)}"
    return f"{line.build}: {line.good}{much}, ready {line.ready:%H:%M}"
