"""Fair comparisons: a channel against its control, samples in rounds, one trial against another.

A difference is *real* when it is larger than its doubt, which comes from the scatter of the pairs (Student's t, 95 %)
and from the instruments where the two sides were not read by the same one.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from datetime import datetime

import numpy as np
from scipy.special import stdtrit

from drylamp.core.arrays import Array
from drylamp.core.checks import InputProblem, Model, YesNo
from drylamp.core.text import Sentence, kelvin
from drylamp.core.trials.facts import ChannelFacts, TrialFacts

PAIR_WITHIN_S = 180.0
BRIDGED_S = 900.0
"""A control read every so often is read off between its readings, if these are no further apart."""
REPEAT_SHARE = 0.25
"""How well one instrument repeats itself, as a share of its doubt; from memory."""
MOST_PAIRS = 400


class Pair(Model):
    """One reading and its control at the same time."""

    time: datetime
    reading_c: float
    control_c: float
    difference_k: float
    left_out: str


class Comparison(Model):
    """A difference with its doubt, whether it is real, and what it would take to tell."""

    tested: str
    control: str
    difference_k: float
    doubt_k: float
    scatter_k: float
    pairs_used: int
    real: YesNo
    pairs: list[Pair]
    words: Sentence
    to_tell: Sentence


@dataclass(frozen=True)
class Difference:
    """A mean difference: what scatter and instruments leave in doubt, K."""

    mean_k: float
    scatter_k: float
    count: int
    freedom: int
    shared_k: float

    @property
    def scatter_doubt_k(self) -> float:
        """From the scatter alone, 95 %; as wide as the shared doubt allows where a single pair says nothing."""
        if self.freedom < 1:
            return 0.0
        return float(stdtrit(self.freedom, 0.975)) * self.scatter_k / math.sqrt(self.count)

    @property
    def doubt_k(self) -> float:
        """Both together."""
        return math.hypot(self.scatter_doubt_k, self.shared_k)

    @property
    def real(self) -> bool:
        """Whether it is larger than its doubt."""
        return abs(self.mean_k) > self.doubt_k


def compare_channels(facts: TrialFacts, tested: ChannelFacts, control: ChannelFacts) -> Comparison | None:
    """Two channels of one trial, paired in time; None where no undisturbed pair is left."""
    pairs = _pairs(facts, tested, control)
    fair = settled([p for p in pairs if not p.left_out])
    if not fair:
        return None
    found = _difference(fair, shared_doubt_k(tested, control), min(tested.doubt, control.doubt))
    return Comparison(
        tested=tested.title, control=control.title, difference_k=round(found.mean_k, 2), doubt_k=round(found.doubt_k, 2),
        scatter_k=round(found.scatter_k, 2), pairs_used=found.count, real=found.real, pairs=pairs[-MOST_PAIRS:],
        words=said(tested.title, control.title, found), to_tell=what_it_takes(found),
    )  # fmt: skip


def settled(pairs: list[Pair]) -> list[Pair]:
    """The later half of the time, where there are pairs enough: while things warm up a difference only shows who is quicker."""
    if len(pairs) < 4:
        return pairs
    half = pairs[0].time + (pairs[-1].time - pairs[0].time) / 2
    return [p for p in pairs if p.time >= half]


def _difference(pairs: list[Pair], shared_k: float, doubt_k: float) -> Difference:
    """Mean of pairs, and their scatter about a straight line in time; no instrument repeats itself better than a share of its doubt."""
    gaps = np.array([p.difference_k for p in pairs])
    freedom = max(len(gaps) - 1, 1)
    scatter = float(np.std(gaps, ddof=1)) if len(gaps) > 1 else 0.0
    if len(gaps) >= 4:
        hours = np.array([(p.time - pairs[0].time).total_seconds() / 3600.0 for p in pairs])
        left = gaps - np.polyval(np.polyfit(hours, gaps, 1), hours)
        freedom = len(gaps) - 2
        scatter = float(np.sqrt((left**2).sum() / freedom))
    least = math.sqrt(2.0) * REPEAT_SHARE * doubt_k / 2.0
    return Difference(float(np.mean(gaps)), max(scatter, least), len(gaps), freedom, shared_k)


def shared_doubt_k(tested: ChannelFacts, control: ChannelFacts) -> float:
    """What the instruments put on a difference: nothing when one and the same device read both."""
    if tested.device and tested.device == control.device:
        return 0.0
    return math.hypot(tested.doubt, control.doubt)


def _pairs(facts: TrialFacts, tested: ChannelFacts, control: ChannelFacts) -> list[Pair]:
    stamps, values = control.seconds, np.array(control.values)
    out = []
    for time, value in zip(tested.times, tested.values, strict=True):
        beside = _control_at(stamps, values, time.timestamp())
        if beside is None:
            continue
        away = facts.disturbed(time)
        out.append(
            Pair(
                time=time,
                reading_c=value,
                control_c=round(beside, 3),
                difference_k=round(value - beside, 3),
                left_out=away,
            )
        )
    return out


def _control_at(stamps: Array, values: Array, second: float) -> float | None:
    """The control at an instant: between two readings not too far apart, else the nearest if it is near."""
    after = int(np.searchsorted(stamps, second))
    if 0 < after < len(stamps) and stamps[after] - stamps[after - 1] <= BRIDGED_S:
        share = (second - stamps[after - 1]) / (stamps[after] - stamps[after - 1])
        return float(values[after - 1] + share * (values[after] - values[after - 1]))
    near = int(np.argmin(np.abs(stamps - second)))
    return float(values[near]) if abs(stamps[near] - second) <= PAIR_WITHIN_S else None


def said(tested: str, control: str, found: Difference) -> str:
    """A difference in a sentence."""
    side = "over" if found.mean_k > 0 else "under"
    verdict = "real" if found.real else "too small to tell"
    return (
        f"{tested} was {kelvin(abs(found.mean_k))} {side} {control} on the mean of {found.count} settled "
        f"pair{'s' if found.count > 1 else ''} (± {kelvin(found.doubt_k)}): {verdict}."
    )


def what_it_takes(found: Difference) -> str:
    """What would decide a difference that is too small to tell; empty for a real one."""
    if found.real:
        return ""
    size = abs(found.mean_k)
    if size < 0.1:
        return "The difference is next to nothing: for any use of it the two are alike."
    if found.shared_k >= size:
        better = size / math.sqrt(2.0)
        return (
            f"More readings will not decide it: the two thermometers may differ by {kelvin(found.shared_k)}. "
            f"Read both with one probe, or calibrate both to ± {kelvin(max(better, 0.1))}."
        )
    room = math.sqrt(size**2 - found.shared_k**2)
    need = next((n for n in range(2, 400) if float(stdtrit(n - 1, 0.975)) * found.scatter_k / math.sqrt(n) < room), 400)
    if need >= 400:
        return "It would take hundreds of pairs; a steadier hour (no wind, no cloud) is worth more."
    return f"About {need} undisturbed pairs like these would decide it; there are {found.count}."


class TrialComparison(Model):
    """Two trials brought to one day by the twin."""

    tested: str
    control: str
    channel: str
    share_tested: float
    share_control: float
    difference_k: float
    doubt_k: float
    real: YesNo
    day: str
    words: Sentence
    to_tell: Sentence


@dataclass(frozen=True)
class Rise:
    """What a trial's channel rose over the air, as a share of what the twin rose: mean, its doubt, and the number of readings."""

    title: str
    share: float
    scatter: float
    shared: float
    count: int

    @property
    def doubt(self) -> float:
        """95 % range of the share."""
        wide = float(stdtrit(max(self.count - 1, 1), 0.975)) if self.count > 1 else 4.3
        return math.hypot(wide * self.scatter / math.sqrt(self.count), self.shared)


def compare_rises(tested: Rise, control: Rise, names: tuple[str, str], reference_k: float, day: str) -> TrialComparison:
    """Two trials on days of their own, each held against one and the same twin, and carried to a reference day.

    Parameters
    ----------
    names
        of the trials
    reference_k
        what the twin rises over the air on the reference day
    """
    gap = (tested.share - control.share) * reference_k
    doubt = math.hypot(tested.doubt, control.doubt) * reference_k
    real = abs(gap) > doubt
    side = "over" if gap > 0 else "under"
    words = (
        f"Brought to one day ({day}), {tested.title} of “{names[0]}” runs {kelvin(abs(gap))} {side} that of “{names[1]}” "
        f"(± {kelvin(doubt)}): {'real' if real else 'too small to tell'}."
    )
    if real:
        more = ""
    elif max(tested.shared, control.shared) * reference_k >= abs(gap):
        more = (
            "More readings will not decide it: measure the sun of both days, or run both side by side in the same sun."
        )
    else:
        more = "More undisturbed readings on each day would decide it; side by side in the same sun, fewer are needed."
    return TrialComparison(
        tested=names[0], control=names[1], channel=tested.title, share_tested=round(tested.share, 4),
        share_control=round(control.share, 4), difference_k=round(gap, 2), doubt_k=round(doubt, 2), real=real, day=day,
        words=words, to_tell=more,
    )  # fmt: skip


def rise_of(title: str, reading_c: Array, twin_c: Array, air_c: Array, doubt_k: float, sun_doubt: float) -> Rise:
    """A channel's rise as a share of the twin's, large rises counting more.

    Parameters
    ----------
    sun_doubt
        what the sun may have been off by, as a share (half the 95 % range)

    Raises
    ------
    InputProblem
        no reading stands at least 5 K over the air in the twin.
    """
    rise = twin_c - air_c
    fair = rise > 5.0
    if not fair.any():
        raise InputProblem(
            "trials", f"{title} never rises 5 K over the air in the twin; there is nothing to compare by"
        )
    weight = rise[fair] ** 2
    shares = (reading_c - air_c)[fair] / rise[fair]
    mean = float(np.average(shares, weights=weight))
    scatter = float(np.sqrt(np.average((shares - mean) ** 2, weights=weight))) if fair.sum() > 1 else 0.0
    probe = doubt_k / float(np.sqrt(np.mean(rise[fair] ** 2)))
    return Rise(title, mean, max(scatter, REPEAT_SHARE * probe), math.hypot(probe, mean * sun_doubt), int(fair.sum()))
