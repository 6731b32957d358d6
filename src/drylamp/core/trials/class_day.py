"""One trial over many boxes: whose was hottest, what of that the twin explains by how it was built, and what is left to hands.

Boxes are read one after the other, so a reading is held against the twin of the class's own design at its very minute, and what it lies off by against what the
whole class lies off by then: what all share (the sky, the wind, the design's own error) drops out.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime

import numpy as np

from drylamp.core.arrays import Array
from drylamp.core.builds.build import Build
from drylamp.core.builds.registry import kind_of
from drylamp.core.checks import Hour, InputProblem, Model, YesNo, require
from drylamp.core.differences import differences
from drylamp.core.sky.site import Site
from drylamp.core.text import Sentence, capital, celsius, kelvin
from drylamp.core.trials.beside import Beside, beside, fair_rows, residuals
from drylamp.core.trials.compare import REPEAT_SHARE
from drylamp.core.trials.facts import ChannelFacts, TrialFacts

MOST_BOXES, LEAST_READINGS, MOST_SHOWN = 24, 2, 200
EVERY_MINUTES, FOR_MINUTES = 15, 180
ONE_PROBE = "one probe"
"""Device of boxes that one thermometer walks along."""


@dataclass(frozen=True)
class Box:
    """Somebody's box: the channel that reads it, and how it is built."""

    channel: str
    build: Build
    like: str


class BoxReading(Model):
    """A reading of a box."""

    time: datetime
    celsius: float


class BoxLine(Model):
    """One box.

    Attributes:
        over_k, doubt_k: how far it ran over the class's mean, read for read
        explained_k: what of that the twin makes of how it is built; nothing where it is like the others
        hands_k, hands_real: what is left, and whether that is more than its doubt
        rank: alike where the difference is smaller than its doubt; none while too little was read
    """

    channel: str
    name: str
    like: str
    differs: list[Sentence]
    readings: int
    read: list[BoxReading]
    hottest_c: float | None
    hottest_at: datetime | None
    over_k: float | None
    doubt_k: float | None
    explained_k: float | None
    hands_k: float | None
    hands_real: YesNo
    rank: int | None
    words: Sentence


class ClassDay(Model):
    """All boxes, the hottest first."""

    lines: list[BoxLine]
    words: list[Sentence]


@dataclass(frozen=True)
class _Read:
    box: Box
    channel: ChannelFacts
    over_k: float | None
    doubt_k: float
    twin_k: float


def class_day(site: Site, own: Build, facts: TrialFacts, boxes: Sequence[Box]) -> ClassDay:
    """Rank the boxes of a class.

    Raises
    ------
    InputProblem
        this is no trial over many boxes, or too many.
    """
    require(
        0 < len(boxes) <= MOST_BOXES,
        "trial",
        f"{len(boxes)} boxes were given; a trial over many boxes has 1 to {MOST_BOXES}",
    )
    by_name = {channel.channel: channel for channel in facts.channels}
    at = beside(site, own, facts)
    twins = {box.like: at if box.build == own else at.of(box.build) for box in boxes}
    there = [box for box in boxes if box.channel in by_name]
    off = {box.channel: _off(by_name[box.channel], at) for box in there}
    shared = [series for series in off.values() if len(series.k) >= LEAST_READINGS]
    read = [_read(box, by_name[box.channel], off[box.channel].less(shared), at, twins[box.like]) for box in there]
    told = [one.twin_k for one in read if one.over_k is not None]
    mean_twin_k = float(np.mean(told)) if told else 0.0
    lines = _ranked([_line(own, one, mean_twin_k) for one in read], {one.box.channel: one for one in read})
    return ClassDay(lines=lines, words=_words(lines))


@dataclass(frozen=True)
class _Off:
    """What a box's readings lie off the twin of the class's own design, K, at their instants, seconds since 1970."""

    at_s: Array
    k: Array

    def less(self, others: Sequence[_Off]) -> _Off:
        """The same against what the whole class lies off by at each instant, itself among them."""
        if not others:
            return self
        return _Off(self.at_s, self.k - np.mean([np.interp(self.at_s, one.at_s, one.k) for one in others], axis=0))


def _off(channel: ChannelFacts, at: Beside) -> _Off:
    rows = fair_rows(residuals(channel, at)) if channel.node in at.likely.temperature_c else []
    return _Off(np.array([row.time.timestamp() for row in rows]), np.array([row.residual_k for row in rows]))


def _read(box: Box, channel: ChannelFacts, off: _Off, at: Beside, twin: Beside) -> _Read:
    if len(off.k) < LEAST_READINGS:
        return _Read(box, channel, None, 0.0, 0.0)
    built = 0.0
    if twin is not at:
        built = float(np.mean(twin.likely.at(channel.node, off.at_s) - at.likely.at(channel.node, off.at_s)))
    repeats = channel.doubt * (REPEAT_SHARE if channel.device else 1.0)
    doubt = math.hypot(2.0 * float(off.k.std(ddof=1)) / math.sqrt(len(off.k)), repeats)
    return _Read(box, channel, float(off.k.mean()), doubt, built)


def _line(own: Build, one: _Read, mean_twin_k: float) -> BoxLine:
    known = [(value, when) for value, when in zip(one.channel.values, one.channel.times, strict=True)]
    top = max(known, default=None)
    like = [] if one.box.build == own else differences(own, one.box.build, "kind of build", kind_of(own).parts)
    over, built = one.over_k, one.twin_k - mean_twin_k
    hands = None if over is None else over - built
    explained = None if over is None or one.box.build == own else built
    return BoxLine(
        channel=one.channel.channel, name=one.channel.title, like=one.box.like, differs=like, readings=len(known), hottest_c=None if top is None else round(top[0], 1),
        read=[BoxReading(time=when, celsius=round(value, 2)) for value, when in known[:: max(1, len(known) // MOST_SHOWN)]], hottest_at=None if top is None else top[1],
        over_k=_rounded(over), doubt_k=None if over is None else round(one.doubt_k, 2), explained_k=_rounded(explained),
        hands_k=_rounded(hands), hands_real=hands is not None and abs(hands) > one.doubt_k, rank=None, words=_said(one, over, explained, hands),
    )  # fmt: skip


def _rounded(value: float | None) -> float | None:
    return None if value is None else round(value, 2)


def _said(one: _Read, over: float | None, explained: float | None, hands: float | None) -> str:
    name = one.channel.title
    if over is None or hands is None:
        return f"{name}: too few readings yet; two are needed after the first minutes."
    said = f"{name}: {kelvin(over, one.doubt_k, signed=True)} against the class"
    if explained is not None:
        said += f"; how it is built makes {kelvin(explained, signed=True)} of it"
    if abs(hands) > one.doubt_k:
        better = (
            "a tighter lid, a better aim or a cleaner pane"
            if hands > 0
            else "look for a gap, a fogged pane, a shadow, or a box that was not turned"
        )
        said += f"; {kelvin(hands, signed=True)} are left to how it was made and pointed: {better}"
    return f"{said}."


def _ranked(lines: list[BoxLine], read: dict[str, _Read]) -> list[BoxLine]:
    """Hottest first; a box shares the rank of the one before as long as it lies within the doubt of that rank's first."""
    known = sorted((line for line in lines if line.over_k is not None), key=lambda line: -(line.over_k or 0.0))
    out, rank, head = list[BoxLine](), 0, None
    for place, line in enumerate(known, start=1):
        if head is None or _apart(head, line, read):
            rank, head = place, line
        out.append(line.model_copy(update={"rank": rank}))
    return [*out, *(line for line in lines if line.over_k is None)]


def _apart(one: BoxLine, other: BoxLine, read: dict[str, _Read]) -> bool:
    gap = (one.over_k or 0.0) - (other.over_k or 0.0)
    return gap > math.hypot(read[one.channel].doubt_k, read[other.channel].doubt_k)


def _words(lines: Sequence[BoxLine]) -> list[Sentence]:
    known = [line for line in lines if line.rank is not None]
    if not known:
        return ["Nobody's box has two readings yet: type the charts below, a row for each time."]
    first = [line for line in known if line.rank == 1]
    top = max(known, key=lambda line: line.hottest_c or -math.inf)
    names = " and ".join(line.name for line in first) if len(first) <= 3 else f"{len(first)} of {len(known)} boxes"
    out = [
        f"{capital(names)} ran hottest{', too close to tell apart' if len(first) > 1 else ''}: {first[0].words.removeprefix(f'{first[0].name}: ')}"
    ]
    if top.rank != 1:
        out.append(
            f"The single hottest reading was {top.name}'s, {celsius(top.hottest_c)}; over the whole time others were hotter."
        )
    else:
        out.append(f"The hottest reading: {top.name}, {celsius(top.hottest_c)}.")
    odd = [line for line in known if line.hands_real]
    if odd:
        out.append(f"More than building and doubt explain: {', '.join(line.name for line in odd)}.")
    return out


def times_of(began: Hour, every: int = EVERY_MINUTES, minutes: int = FOR_MINUTES) -> list[str]:
    """Hours at which a chart is filled in."""
    if every < 1:
        raise InputProblem("every", f"{every} was given; allowed is a minute or more")
    start = int(began[:2]) * 60 + int(began[3:])
    return [f"{(start + m) // 60 % 24:02d}:{(start + m) % 60:02d}" for m in range(0, minutes + 1, every)]
