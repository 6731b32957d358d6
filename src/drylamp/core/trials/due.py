"""Which planned reading is due, and which channels still want theirs.

Each planned minute has its own stretch of time, from a little before it to a little before the next. A round is done when every wanted channel was
read in its stretch: a value that comes too early belongs to the round before, and never silences the alarm of the next.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from itertools import pairwise

EARLY_SHARE, MOST_EARLY_MIN = 0.25, 5.0
"""How much before its minute a value counts for it: a quarter of the time since the one before, at most so many minutes; common practice, no source."""


@dataclass(frozen=True)
class Due:
    """Rounds that are done or over, the minute of the next reading (none when none is left), and channels of the present round without their value."""

    done: int
    minute: float | None
    missing: list[str]


def begins(planned: Sequence[float]) -> list[float]:
    """Minute from which on a value counts for each planned one; the first takes whatever came before."""
    gaps = [later - earlier for earlier, later in pairwise(planned)]
    return [
        float("-inf"),
        *(minute - min(EARLY_SHARE * gap, MOST_EARLY_MIN) for minute, gap in zip(planned[1:], gaps, strict=True)),
    ]


def due(planned: Sequence[float], elapsed_min: float, last_min: Mapping[str, float], wanted: Sequence[str]) -> Due:
    """What is due now.

    Parameters
    ----------
    planned
        minutes after the start, rising; nothing is ever due where there are none
    last_min
        minute of each channel's last reading; channels never read are left out
    wanted
        channels that a round needs, in the order in which they are read
    """
    if not planned:
        return Due(0, elapsed_min, [])
    starts = begins(planned)
    now = max(k for k, start in enumerate(starts) if start <= elapsed_min)
    missing = [name for name in wanted if last_min.get(name, float("-inf")) < starts[now] or name not in last_min]
    if missing:
        return Due(now, planned[now], missing)
    return Due(now + 1, planned[now + 1] if now + 1 < len(planned) else None, [])


def wanted_of(channels: Sequence[tuple[str, str]], asked: Sequence[str], read: Mapping[str, float]) -> list[str]:
    """Which channels a round needs: those that the protocol asks for and that are there, and whatever else somebody has begun to read.

    Parameters
    ----------
    channels
        name and node of each, in their order
    asked
        nodes that the protocol asks for without leave to do without
    """
    found = [name for name, node in channels if node in asked or name in read]
    return found or [name for name, _ in channels]
