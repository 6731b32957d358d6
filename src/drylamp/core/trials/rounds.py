"""Rounds of readings over samples: one probe walks from sample to sample while sun and wind go on.

In a round each sample has its own time, and the first one is read again last: what it moved in between is taken off the
others in proportion to their time. A round in which a gust or a cloud was noted, or whose first sample moved too far,
does not count. Rounds and samples then make a table of two ways, and what is left after both is the scatter.

References:
    Two-way table without replication (randomised blocks): Montgomery 2017, Design and Analysis of Experiments, ch. 4;
    limits for all differences from the control at once: Bonferroni.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from datetime import datetime, timedelta

import numpy as np
from scipy.special import stdtrit

from drylamp.core.arrays import Array
from drylamp.core.builds.build import Build
from drylamp.core.builds.common.side_by_side import Sample, SideBySide
from drylamp.core.checks import Model, YesNo
from drylamp.core.text import Sentence, amount, kelvin, square_metres
from drylamp.core.trials.compare import REPEAT_SHARE, Difference, shared_doubt_k, what_it_takes
from drylamp.core.trials.facts import ChannelFacts, TrialFacts

ROUND_PAUSE_S = 240.0
"""A pause this long between two readings ends a round."""
STEADY_K = 5.0
"""A first sample that moves further than this within a round says the sun or the wind changed under it."""
SETTLED_MINUTES = 20.0
"""Thin samples are within a tenth of their end after this; earlier rounds show how fast, not how hot."""

LITTLE_K, TOP_SHARE = 10.0, 0.3
"""Where a day's rounds range over more than this, only the upper part of the range counts; from memory."""


class RoundView(Model):
    """One round: when, what moved, whether it counts."""

    number: int
    start: datetime
    minutes: float
    moved_k: float | None
    left_out: Sentence
    readings: dict[str, float]


class RankLine(Model):
    """One sample in the ranking; ``over_control_k`` is None for the control itself."""

    sample: str
    title: str
    coats: int
    price_m2: float
    place: str
    mean_c: float
    over_control_k: float | None
    doubt_k: float | None
    real: YesNo | None
    price_per_k: float | None
    words: Sentence
    to_tell: Sentence


class Ranking(Model):
    """Samples from the hottest down, with what can be said of their differences and of their price."""

    control: str
    lines: list[RankLine]
    rounds: list[RoundView]
    rounds_used: int
    scatter_k: float
    settled_from_minutes: float
    words: Sentence
    pays: Sentence


@dataclass(frozen=True)
class _Table:
    """Temperatures by round and sample, drift taken out, shape (rounds, samples)."""

    samples: list[Sample]
    values: Array
    scatter_k: float
    freedom: int


def find_rounds(facts: TrialFacts, build: SideBySide) -> list[RoundView]:
    """Split a trial's readings of samples into rounds and bring each to its middle time."""
    nodes = {sample.node: sample.name for sample in build.samples}
    marks = sorted(
        (time.timestamp(), nodes[c.node], value)
        for c in facts.inside()
        if c.node in nodes
        for time, value in zip(c.times, c.values, strict=True)
    )
    groups: list[list[tuple[float, str, float]]] = []
    for mark in marks:
        if not groups or mark[0] - groups[-1][-1][0] > ROUND_PAUSE_S:
            groups.append([])
        groups[-1].append(mark)
    return [_round(facts, number, group) for number, group in enumerate(groups, start=1)]


def _round(facts: TrialFacts, number: int, group: list[tuple[float, str, float]]) -> RoundView:
    first_time, first_name, first_value = group[0]
    again = [(time, value) for time, name, value in group[1:] if name == first_name]
    rate = moved = None
    if again:
        moved = again[-1][1] - first_value
        rate = moved / max(again[-1][0] - first_time, 1.0)
    middle = (first_time + group[-1][0]) / 2
    held: dict[str, list[float]] = {}
    for time, name, value in group:
        held.setdefault(name, []).append(value - (rate or 0.0) * (time - middle))
    start = datetime.fromtimestamp(first_time, facts.started.tzinfo)
    return RoundView(
        number=number,
        start=start,
        minutes=round((middle - facts.started.timestamp()) / 60.0, 1),
        moved_k=None if moved is None else round(moved, 2),
        left_out=_spoilt(facts, start, group[-1][0] - first_time, moved),
        readings={name: round(float(np.mean(values)), 3) for name, values in held.items()},
    )


def _spoilt(facts: TrialFacts, start: datetime, lasts_s: float, moved_k: float | None) -> str:
    """Why a round does not count: an event before or in it, or a first sample that would not stand still."""
    for event in facts.events:
        if start <= event.time <= start + timedelta(seconds=lasts_s) and event.kind in (
            "cloud",
            "gust",
            "shaded",
            "moved",
        ):
            return event.row.title
    before = facts.disturbed(start)
    if before:
        return before
    if moved_k is not None and abs(moved_k) > STEADY_K:
        return f"the first sample moved {kelvin(abs(moved_k))}"
    return ""


def rank(facts: TrialFacts, build: SideBySide) -> Ranking | None:
    """Rank the samples by their settled, undisturbed rounds; None before any round holds the control and another sample."""
    rounds = find_rounds(facts, build)
    settled = _settled_from(rounds)
    fair = _near_the_top([r for r in rounds if not r.left_out and r.minutes >= settled], build.control.name)
    table = _table(fair, build, _doubt_k(facts, build))
    if table is None:
        return None
    return _ranking(facts, build, rounds, len(fair), settled, table)


def _settled_from(rounds: list[RoundView]) -> float:
    """Early rounds count only where no later one does."""
    late = [r for r in rounds if not r.left_out and r.minutes >= SETTLED_MINUTES]
    return SETTLED_MINUTES if late else 0.0


def _near_the_top(rounds: list[RoundView], control: str) -> list[RoundView]:
    """Of one day's rounds those in which the control stood near its hottest: in the morning and after dusk differences are others."""
    held = [r for r in rounds if control in r.readings]
    if len(held) < 3 or held[-1].minutes - held[0].minutes > 1440.0:
        return rounds
    values = [r.readings[control] for r in held]
    low, high = min(values), max(values)
    if high - low < LITTLE_K:
        return rounds
    return [r for r in held if r.readings[control] >= high - TOP_SHARE * (high - low)]


def _doubt_k(facts: TrialFacts, build: SideBySide) -> float:
    nodes = {sample.node for sample in build.samples}
    return float(np.mean([c.doubt for c in facts.inside() if c.node in nodes] or [1.0]))


def _table(rounds: list[RoundView], build: SideBySide, doubt_k: float) -> _Table | None:
    samples = [s for s in build.samples if rounds and all(s.name in r.readings for r in rounds)]
    if build.control not in samples or len(samples) < 2:
        return None
    values = np.array([[r.readings[s.name] for s in samples] for r in rounds])
    left = values - values.mean(axis=1, keepdims=True) - values.mean(axis=0) + values.mean()
    freedom = (len(rounds) - 1) * (len(samples) - 1)
    scatter = math.sqrt(float((left**2).sum()) / freedom) if freedom else 0.0
    return _Table(samples, values, max(scatter, REPEAT_SHARE * doubt_k), max(freedom, 2 * (len(samples) - 1)))


def _ranking(
    facts: TrialFacts, build: SideBySide, rounds: list[RoundView], used: int, settled: float, table: _Table
) -> Ranking:
    means = table.values.mean(axis=0)
    order = sorted(range(len(means)), key=lambda k: -means[k])
    control = [s.name for s in table.samples].index(build.control.name)
    lines = [_line(facts, build, table, means, k, control) for k in order]
    best = next(
        (line for line in lines if line.over_control_k is not None and line.real and line.over_control_k > 0), None
    )
    count = f"{used} round{'s' if used != 1 else ''} of {len(rounds)}"
    if best is None:
        words = f"No sample is really hotter than {build.control.title} ({count} counted)."
    else:
        words = f"{best.title} is the hottest: {kelvin(best.over_control_k, best.doubt_k)} over {build.control.title} ({count} counted)."
    return Ranking(
        control=build.control.name, lines=lines, rounds=rounds, rounds_used=used, scatter_k=round(table.scatter_k, 3),
        settled_from_minutes=settled, words=words, pays=_pays(facts, build, table, means),
    )  # fmt: skip


def difference(facts: TrialFacts, table: _Table, gap_k: float, one: str, other: str, tests: int) -> Difference:
    """A difference of two samples' means with the limits for so many differences at once."""
    sided = 1.0 - 0.05 / (2 * max(tests, 1))
    usual, wide = (float(stdtrit(table.freedom, share)) for share in (0.975, sided))
    scatter = table.scatter_k * math.sqrt(2.0) * float(wide / usual)
    return Difference(gap_k, scatter, len(table.values), table.freedom, _shared(facts, one, other))


def _shared(facts: TrialFacts, one: str, other: str) -> float:
    channels: dict[str, ChannelFacts] = {c.node: c for c in facts.inside()}
    pair = [channels.get(f"sample-{name}") for name in (one, other)]
    return shared_doubt_k(pair[0], pair[1]) if pair[0] is not None and pair[1] is not None else 0.0


def _line(facts: TrialFacts, build: SideBySide, table: _Table, means: Array, k: int, control: int) -> RankLine:
    sample, held = table.samples[k], table.samples[control]
    shared = {
        "sample": sample.name, "title": sample.title, "coats": sample.coats, "price_m2": sample.price_m2,
        "place": build.place_of(sample.name), "mean_c": round(float(means[k]), 2),
    }  # fmt: skip
    if k == control:
        return RankLine(
            **shared, over_control_k=None, doubt_k=None, real=None, price_per_k=None, words="the control", to_tell=""
        )
    gap = float(means[k] - means[control])
    found = difference(facts, table, gap, sample.name, held.name, len(table.samples) - 1)
    extra = sample.price_m2 - held.price_m2
    side = "over" if gap > 0 else "under"
    return RankLine(
        **shared,
        over_control_k=round(gap, 2),
        doubt_k=round(found.doubt_k, 2),
        real=found.real,
        price_per_k=round(extra / gap, 2) if found.real and gap > 0 else None,
        words=f"{kelvin(abs(gap), found.doubt_k)} {side} {held.title}: {'real' if found.real else 'too small to tell'}",
        to_tell=what_it_takes(found),
    )


def _pays(facts: TrialFacts, build: SideBySide, table: _Table, means: Array) -> str:
    """Whether the dearest coating is worth it against the cheapest one that is not really cooler than the best."""
    coated = [k for k, s in enumerate(table.samples) if s is not build.control and s.coats > 0]
    if len(coated) < 2:
        return ""
    dear = max(coated, key=lambda k: (table.samples[k].price_m2, means[k]))
    tests = len(coated) * (len(coated) - 1) // 2
    best = max(coated, key=lambda k: means[k])

    def versus(k: int, other: int) -> Difference:
        gap = float(means[k] - means[other])
        return difference(facts, table, gap, table.samples[k].name, table.samples[other].name, tests)

    as_hot = [k for k in coated if k == best or not versus(best, k).real]
    cheap = min(as_hot, key=lambda k: table.samples[k].price_m2)
    if cheap == dear:  # alone at the top: what does its lead over the next one cost?
        cheap = max((k for k in coated if k != dear), key=lambda k: means[k])
    one, other = table.samples[dear], table.samples[cheap]
    extra = one.price_m2 - other.price_m2
    if extra <= 0:
        return f"{other.title} costs no less than {one.title}; take the hotter one."
    found = versus(dear, cheap)
    against = f"{one.title} costs {amount(extra, 'price')} more for {square_metres(1.0)} than {other.title}"
    if not found.real:
        return (
            f"{against} and is not really hotter ({kelvin(found.mean_k, found.doubt_k, signed=True)}): it does not pay."
        )
    if found.mean_k < 0:
        return f"{against} and is really cooler ({kelvin(found.mean_k, found.doubt_k, signed=True)}): it does not pay."
    return f"{against} and is {kelvin(found.mean_k, found.doubt_k)} hotter: {amount(extra / found.mean_k, 'price')} for {square_metres(1.0)} and {kelvin(1.0)}."


class Fading(Model):
    """What a sample's lead over the control did from week to week."""

    sample: str
    title: str
    first_k: float
    last_k: float
    per_week_k: float
    doubt_per_week_k: float
    real: YesNo
    remarks: list[str]
    words: Sentence


def fading(facts: TrialFacts, build: SideBySide) -> list[Fading]:
    """Each sample's lead over the control along the weeks, with the remarks made on it; empty before three rounds."""
    rounds = [r for r in find_rounds(facts, build) if not r.left_out and build.control.name in r.readings]
    out = []
    for sample in build.samples:
        mine = [r for r in rounds if sample.name in r.readings]
        if sample is build.control or len(mine) < 3 or mine[-1].minutes - mine[0].minutes < 1440.0:
            continue
        weeks = np.array([r.minutes / 10080.0 for r in mine])
        lead = np.array([r.readings[sample.name] - r.readings[build.control.name] for r in mine])
        out.append(_faded(facts, sample, weeks, lead, _doubt_k(facts, build)))
    return out


def _straight(x: Array, y: Array) -> tuple[float, float]:
    """Slope of the straight line through points, and its standard error."""
    spread = float(((x - x.mean()) ** 2).sum())
    slope = float(((x - x.mean()) * (y - y.mean())).sum()) / spread
    off = y - y.mean() - slope * (x - x.mean())
    return slope, math.sqrt(float((off**2).sum()) / (len(x) - 2) / spread)


def _faded(facts: TrialFacts, sample: Sample, weeks: Array, lead: Array, doubt_k: float) -> Fading:
    slope, stderr = _straight(weeks, lead)
    least = math.sqrt(2.0) * REPEAT_SHARE * doubt_k / math.sqrt(float(((weeks - weeks.mean()) ** 2).sum()))
    doubt = float(stdtrit(len(weeks) - 2, 0.975)) * max(stderr, least)
    real = abs(slope) > doubt
    remarks = [
        f"{event.time:%d %b}: {event.kind}{f' ({event.note})' if event.note else ''}"
        for event in facts.events
        if event.channel == sample.node and event.row.asks == "sample"
    ]
    change = f"{kelvin(slope, doubt, signed=True)} a week"
    if real and slope < 0:
        words = f"{sample.title} is losing its lead: {change}."
    elif real:
        words = f"{sample.title} gains on the control: {change} (is the control getting dirty or dull?)."
    else:
        words = f"{sample.title} holds its lead: {change}, no change shown."
    if remarks:
        words += f" Seen: {'; '.join(remarks)}."
    return Fading(
        sample=sample.name, title=sample.title, first_k=round(float(lead[0]), 2), last_k=round(float(lead[-1]), 2),
        per_week_k=round(slope, 3), doubt_per_week_k=round(doubt, 3), real=real, remarks=remarks, words=words,
    )  # fmt: skip


def round_order(build: Build, nodes: dict[str, str]) -> list[str]:
    """Channels along which a round walks: those of what lies side by side as it lies, else all as they are given.

    Parameters
    ----------
    nodes
        node of each channel, by its name
    """
    walked = [name for node in build.walk for name, on in nodes.items() if on == node]
    return walked or list(nodes)


def next_in_round(order: list[str], recent: list[tuple[float, str]], now_s: float) -> str | None:
    """Which channel to read next in a round: the order, then the first one again; None once that is done.

    Parameters
    ----------
    order
        channels as they lie
    recent
        instants and channels read, oldest first
    now_s
        the clock; after a pause a new round begins
    """
    if not order:
        return None
    group: list[str] = []
    last = None
    for second, name in recent:
        if last is not None and second - last > ROUND_PAUSE_S:
            group = []
        group.append(name)
        last = second
    if last is None or now_s - last > ROUND_PAUSE_S:
        return order[0]
    waiting = [name for name in order if name not in group]
    if waiting:
        return waiting[0]
    return order[0] if group.count(order[0]) < 2 else None
