"""What looks wrong with a whole trial: leads that changed places, a clock that is off, a sensor that stands still."""

from __future__ import annotations

import math
from datetime import datetime
from typing import Literal

import numpy as np

from drylamp.core.arrays import Array
from drylamp.core.checks import Model
from drylamp.core.text import Sentence, celsius, kelvin
from drylamp.core.trials.beside import Beside
from drylamp.core.trials.facts import ChannelFacts, TrialFacts

SWAP_LEAST_K = 8.0
SWAP_CLOSER = 0.35
CLOCK_MINUTES = (-120, -90, -60, -30, 30, 60, 90, 120)
CLOCK_CLOSER, CLOCK_LEAST_K = 0.6, 2.0
STILL_S, STILL_READINGS = 3600.0, 20
OTHERS_MOVE_K = 3.0
LATER = "Take the import back and bring it in with the right one."
"""What to do about a wrong unit once the readings are in."""
UNIT_LEAST_K, UNIT_CLOSER, UNIT_READINGS = 15.0, 0.5, 3
"""From how far off the twin on a channel's unit is asked about, and how much closer it must lie in the other; from memory."""
SHADING = ("cloud", "shade", "sky")
"""Events that say why less sun came."""
SHADE_READINGS, SHADE_LEAST_K, SHADE_DROP = 8, 8.0, 0.35
"""Readings, warmth over the air, and share of it lost from which on shade is asked about; from memory."""


class Suspicion(Model):
    """One thing that looks wrong: what, when, on which channels, and what to do about it."""

    kind: Literal["swapped", "clock", "still", "far", "unit", "channel", "shade"]
    time: datetime | None
    channels: list[str]
    minutes: float | None = None
    text: Sentence


def suspicions(at: Beside) -> list[Suspicion]:
    """All that looks wrong with a trial."""
    units, clock = find_units(at), find_clock(at)
    shade = [] if units or clock else find_shade(at)  # what is off as a whole lies off by the hour too
    return [
        *find_far(at.facts),
        *units,
        *find_swaps(at.facts),
        *find_still(at.facts),
        *clock,
        *find_channels(at),
        *shade,
    ]


def _off_k(channel: ChannelFacts, at: Beside, values: Array, node: str = "") -> float | None:
    """Root mean square of values at a channel's times off the twin of a node, its own where none is named, K."""
    series = at.twin_at(channel, node=node)
    good = ~np.isnan(series)
    return float(np.sqrt(np.mean((values - series)[good] ** 2))) if good.sum() >= UNIT_READINGS else None


def find_units(at: Beside) -> list[Suspicion]:
    """Channels whose numbers lie by the twin in the other unit, and far from it in the one that they were read in."""
    out = []
    for channel in at.facts.inside():
        if channel.node not in at.likely.temperature_c:
            continue
        read = np.array(channel.values)
        as_is = _off_k(channel, at, read)
        if as_is is None or as_is < UNIT_LEAST_K:
            continue
        for unit, other in (("°F", (read - 32.0) / 1.8), ("°C", read * 1.8 + 32.0)):
            closer = _off_k(channel, at, other)
            if closer is not None and closer < UNIT_CLOSER * as_is:
                text = (
                    f"{channel.title} lies {kelvin(as_is)} from the twin; the same numbers taken as {unit} would lie {kelvin(closer)} from it: "
                    f"was the wrong unit read? {LATER}"
                )
                out.append(Suspicion(kind="unit", time=None, channels=[channel.channel], text=text))
    return out


def find_channels(at: Beside) -> list[Suspicion]:
    """Two channels that each lie by the other's twin from beginning to end."""
    inside = [channel for channel in at.facts.inside() if channel.node in at.likely.temperature_c]
    out = []
    for i, one in enumerate(inside):
        for other in inside[i + 1 :]:
            pairs = ((one, one.node), (other, other.node)), ((one, other.node), (other, one.node))
            off = [[_off_k(channel, at, np.array(channel.values), node) for channel, node in pair] for pair in pairs]
            if any(value is None for pair in off for value in pair):
                continue
            apart, across = (math.sqrt(sum((value or 0.0) ** 2 for value in pair)) for pair in off)
            if apart > SWAP_LEAST_K and across < SWAP_CLOSER * apart:
                text = (
                    f"{one.title} reads as {other.title} should, and the other way round, from beginning to end: do the two channels have each other's name? "
                    "Set each to the part that its probe is on."
                )
                out.append(Suspicion(kind="channel", time=None, channels=[one.channel, other.channel], text=text))
    return out


def find_shade(at: Beside) -> list[Suspicion]:
    """Hours in which all channels fall behind together, as when something throws its shade on the build."""
    inside = [
        channel
        for channel in at.facts.inside()
        if channel.node in at.likely.temperature_c and len(channel.times) >= SHADE_READINGS
    ]
    if not inside or any(event.row.asks == "spot" or event.kind in SHADING for event in at.facts.events):
        return []
    main = max(inside, key=lambda channel: len(channel.times))
    seconds, read = main.seconds, np.array(main.values)
    twin, air = at.twin_at(main), at.air_at(seconds)
    good = ~np.isnan(twin) & (twin - air > SHADE_LEAST_K)
    if good.sum() < SHADE_READINGS:
        return []
    share = ((read - air) / np.maximum(twin - air, 1.0))[good]
    usual = float(np.median(share))
    low = share < (1.0 - SHADE_DROP) * usual
    if not 3 <= low.sum() < 0.5 * len(share):
        return []
    when = [time for time, is_good in zip(main.times, good, strict=True) if is_good]
    first, last = when[int(np.argmax(low))], when[len(low) - 1 - int(np.argmax(low[::-1]))]
    text = f"Between {first:%H:%M} and {last:%H:%M} {main.title} gets much less warm against its twin than else: did something throw its shade on it, or did it stand somewhere else?"
    return [Suspicion(kind="shade", time=first, channels=[main.channel], text=text)]


def find_far(facts: TrialFacts) -> list[Suspicion]:
    """Readings that were set aside because nearly all others lie months away."""
    return [
        Suspicion(
            kind="far", time=far.time, channels=[far.channel],
            text=f"A reading of {far.title} is stamped {far.time:%Y-%m-%d %H:%M} UTC, months from nearly all others, and was set aside: is its date right? Take it back, and take it in again with the right one.",
        )
        for far in facts.far
    ]  # fmt: skip


def find_swaps(facts: TrialFacts) -> list[Suspicion]:
    """Pairs of channels that take over each other's place from one reading to the next."""
    channels = facts.inside()
    out = []
    for i, one in enumerate(channels):
        for other in channels[i + 1 :]:
            when = _swap_time(one, other)
            if when is None or any(
                event.row.asks == "channels" and abs((event.time - when).total_seconds()) < 1800
                for event in facts.events
            ):
                continue
            text = (
                f"From {when:%H:%M} on {one.title} goes on where {other.title} left off, and the other way round: "
                "were the leads swapped? If so, note it, and the readings are put back."
            )
            out.append(Suspicion(kind="swapped", time=when, channels=[one.channel, other.channel], text=text))
    return out


def _swap_time(one: ChannelFacts, other: ChannelFacts) -> datetime | None:
    times, a, b = _together(one, other)
    if len(times) < 4:
        return None
    apart = np.abs(a[:-1] - b[:-1])
    straight = np.abs(np.diff(a)) + np.abs(np.diff(b))
    crossed = np.abs(a[1:] - b[:-1]) + np.abs(b[1:] - a[:-1])
    odd = (apart > SWAP_LEAST_K) & (crossed < SWAP_CLOSER * straight)
    return times[int(np.argmax(odd)) + 1] if odd.any() else None


def _together(one: ChannelFacts, other: ChannelFacts) -> tuple[list[datetime], Array, Array]:
    """Readings of two channels taken within a minute of each other."""
    stamps = other.seconds
    times, a, b = [], [], []
    for time, value in zip(one.times, one.values, strict=True):
        k = int(np.argmin(np.abs(stamps - time.timestamp())))
        if abs(stamps[k] - time.timestamp()) <= 60.0:
            times.append(time)
            a.append(value)
            b.append(other.values[k])
    return times, np.array(a), np.array(b)


def find_still(facts: TrialFacts) -> list[Suspicion]:
    """Channels that show the same figure for an hour while others move."""
    out = []
    for channel in facts.inside():
        run = _longest_still(channel)
        if run is None:
            continue
        first, last = run
        moved = any(
            _spread(c, channel.times[first], channel.times[last]) > OTHERS_MOVE_K
            for c in facts.inside()
            if c is not channel
        )
        if moved:
            text = (
                f"{channel.title} shows {celsius(channel.values[first])} without a change from {channel.times[first]:%H:%M} to "
                f"{channel.times[last]:%H:%M} while others move: look at its lead and its logger."
            )
            out.append(Suspicion(kind="still", time=channel.times[first], channels=[channel.channel], text=text))
    return out


def _longest_still(channel: ChannelFacts) -> tuple[int, int] | None:
    values, best = channel.values, None
    start = 0
    for k in range(1, len(values) + 1):
        if k == len(values) or values[k] != values[start]:
            if k - start >= STILL_READINGS and (channel.times[k - 1] - channel.times[start]).total_seconds() >= STILL_S:
                best = (start, k - 1)
            start = k
    return best


def _spread(channel: ChannelFacts, first: datetime, last: datetime) -> float:
    inside = [v for t, v in zip(channel.times, channel.values, strict=True) if first <= t <= last]
    return max(inside) - min(inside) if inside else 0.0


def find_clock(at: Beside) -> list[Suspicion]:
    """A clock that is half an hour or more off: the readings lie much closer to the twin when moved."""
    base = _misfit(at, 0.0)
    if base is None or base < CLOCK_LEAST_K:
        return []
    moved = [(_misfit(at, float(minutes)), minutes) for minutes in CLOCK_MINUTES]
    tried = [(misfit, minutes) for misfit, minutes in moved if misfit is not None]
    if not tried or min(tried)[0] > CLOCK_CLOSER * base:
        return []
    best, minutes = min(tried)
    side = "behind" if minutes > 0 else "ahead"
    text = (
        f"Moved by {minutes:+d} min the readings lie {kelvin(best)} from the twin instead of {kelvin(base)}: "
        f"was the logger's clock {abs(minutes)} min {side} (summer time)?"
    )
    return [Suspicion(kind="clock", time=None, channels=[], minutes=float(minutes), text=text)]


def _misfit(at: Beside, minutes: float) -> float | None:
    """Root mean square off the twin with the readings moved by so many minutes, each channel's mean share of the rise left free."""
    total = []
    for channel in at.facts.inside():
        if channel.node not in at.likely.temperature_c or len(channel.times) < 8:
            continue
        moved = channel.seconds + 60.0 * minutes
        twin = at.likely.at(channel.node, moved)
        air = at.air_at(moved)
        good = ~np.isnan(twin)
        if good.sum() < 8:
            continue
        rise, read = (twin - air)[good], (np.array(channel.values) - air)[good]
        share = float(
            (rise * read).sum() / max((rise**2).sum(), 1e-9)
        )  # how good the oven is must not look like a clock
        total.append((read - share * rise) ** 2)
    return float(np.sqrt(np.mean(np.concatenate(total)))) if total else None
