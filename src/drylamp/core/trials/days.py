"""A log of weeks and months day by day: true extremes, means, hours that were covered, and the gaps."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from datetime import date, datetime

import numpy as np

from drylamp.core.arrays import Array
from drylamp.core.checks import Model, YesNo
from drylamp.core.loads.load import Load
from drylamp.core.quantities import Quantity as Shown
from drylamp.core.sky.clock import days_of
from drylamp.core.sky.site import Site
from drylamp.core.text import Sentence, amount, capital, counted, kelvin
from drylamp.core.trials.facts import ChannelFacts
from drylamp.core.trials.instruments import Quantity

GAP_TIMES, GAP_S, FEW = 6.0, 3 * 3600.0, 24
"""A gap is longer than so many usual intervals, and than so long; in what has few readings nobody expects more. Common practice, no source."""
MOST_GAPS, EDGE_DAYS = 40, 5
SHOWN: dict[Quantity, Shown] = {"temperature": "temperature", "humidity": "share", "moisture": "share", "mass": "mass", "hours": "hours", "sun": "irradiance", "wind": "speed", "flow": "flow"}  # fmt: skip


class LoggedDay(Model):
    """A day of one channel: its lowest, mean and highest reading, how many, and for how long there was one at hand; of a meter that counts hours, those of the day as its mean."""

    day: date
    low: float
    mean: float
    high: float
    readings: int
    covered_h: float


class LoggedChannel(Model):
    """A channel by its days."""

    channel: str
    title: str
    quantity: Shown
    counts_hours: YesNo
    days: list[LoggedDay]


class LogGap(Model):
    """A stretch without readings where there ought to be some."""

    channel: str
    start: datetime
    end: datetime
    hours: float


class LogDays(Model):
    """A trial's log by days; nothing is put into its gaps."""

    channels: list[LoggedChannel]
    gaps: list[LogGap]
    words: list[Sentence]


def log_days(site: Site, load: Load | None, channels: Sequence[ChannelFacts]) -> LogDays:
    """Every channel that has readings, by the site's own days."""
    read = [channel for channel in channels if channel.times]
    by_day = [_channel(site, channel) for channel in read]
    gaps = [gap for channel in read for gap in _gaps(site, channel)]
    words = [*_gap_words(gaps), *_peak_words(by_day, read), *_air_words(load, read)]
    return LogDays(channels=by_day, gaps=gaps[:MOST_GAPS], words=words)


def _channel(site: Site, channel: ChannelFacts) -> LoggedChannel:
    seconds, values = channel.seconds, np.array(channel.values)
    usual = _usual_s(seconds)
    counts = channel.quantity == "hours"
    out = []
    for day, begin, end in days_of(site.zone, float(seconds[0]), float(seconds[-1]) + 1.0):
        rows = np.flatnonzero((seconds >= begin) & (seconds < end))
        if not len(rows):
            continue
        part = values[rows]
        mean = _counted_h(seconds, values, begin, end) if counts else float(part.mean())
        covered = min(len(rows) * usual, end - begin) / 3600.0
        out.append(
            LoggedDay(day=day, low=round(float(part.min()), 4), mean=round(mean, 4), high=round(float(part.max()), 4), readings=len(rows), covered_h=round(covered, 2))
        )  # fmt: skip
    return LoggedChannel(
        channel=channel.channel, title=channel.title, quantity=SHOWN[channel.quantity], counts_hours=counts, days=out
    )


def _usual_s(seconds: Array) -> float:
    """The usual time between two readings."""
    return float(np.median(np.diff(seconds))) if len(seconds) > 1 else 0.0


def _counted_h(seconds: Array, values: Array, begin: float, end: float) -> float:
    """What a counter of hours went on by within a day, read between its readings."""
    low, high = np.interp([max(begin, seconds[0]), min(end, seconds[-1])], seconds, values)
    return max(float(high - low), 0.0)


def _gaps(site: Site, channel: ChannelFacts) -> Iterator[LogGap]:
    seconds = channel.seconds
    if len(seconds) < FEW:
        return
    steps = np.diff(seconds)
    for k in np.flatnonzero(steps > max(GAP_TIMES * _usual_s(seconds), GAP_S)):
        start, end = (datetime.fromtimestamp(float(seconds[j]), site.zone) for j in (k, k + 1))
        yield LogGap(channel=channel.channel, start=start, end=end, hours=round(float(steps[k]) / 3600.0, 1))


def _gap_words(gaps: Sequence[LogGap]) -> list[str]:
    if not gaps:
        return []
    longest = max(gaps, key=lambda gap: gap.hours)
    return [
        f"{counted(len(gaps), 'gap')} in it, the longest {amount(longest.hours, 'hours')} from {longest.start:%d %b %H:%M} on: nothing is put in there, and no day with one counts by its mean."
    ]


def _peak_words(by_day: Sequence[LoggedChannel], read: Sequence[ChannelFacts]) -> list[str]:
    """How the daily peaks went, of what was read in it over two weeks and more."""
    out = []
    for channel, facts in zip(by_day, read, strict=True):
        found = climb_k(channel.days)
        if found is None or channel.quantity != "temperature" or facts.is_control:
            continue
        early, late = found
        told = "climbed by" if late >= early else "fell by"
        out.append(
            f"{capital(channel.title)}: daily peaks {amount(early, 'temperature')} in the first days, {amount(late, 'temperature')} in the last: they {told} {kelvin(abs(late - early))}."
        )
    return out


def climb_k(days: Sequence[LoggedDay]) -> tuple[float, float] | None:
    """Mean of the highest of the first days and of the last, °C; none over fewer than two weeks."""
    if len(days) < 2 * EDGE_DAYS + 4:
        return None
    highs = [day.high for day in days]
    return float(np.mean(highs[1 : EDGE_DAYS + 1])), float(np.mean(highs[-EDGE_DAYS:]))


def _air_words(load: Load | None, read: Sequence[ChannelFacts]) -> list[str]:
    """What the air of a place with both probes means for what is in it, at its last readings."""
    if load is None:
        return []
    out = []
    for warm in (c for c in read if c.quantity == "temperature"):
        damp = next((c for c in read if c.quantity == "humidity" and c.node == warm.node), None)
        if damp is None:
            continue
        at = min(warm.times[-1], damp.times[-1]).timestamp()
        celsius = float(np.interp(at, warm.seconds, np.array(warm.values)))
        rh = float(np.interp(at, damp.seconds, np.array(damp.values)))
        said = load.said_of_air(celsius, rh)
        out += [f"{capital(warm.title)} now: {said}"] if said else []
    return out
