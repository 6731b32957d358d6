"""The one place where local times become instants and back: half-hour zones, days of 23 and 25 hours included.

Instants are seconds since 1970 UTC. An hour of the clock that a change of clocks leaves out is the instant at which it
would have come; one that comes twice is its first.
"""

from __future__ import annotations

from collections.abc import Iterator
from datetime import date, datetime, timedelta
from zoneinfo import ZoneInfo


def instant_s(zone: ZoneInfo, day: date, hour: str = "00:00") -> float:
    """Instant at which a zone's clock shows an hour of a day.

    Parameters
    ----------
    zone : ZoneInfo
        The place's clock.
    day : date
        A day of that clock.
    hour : str
        HH:MM.

    Returns
    -------
    float
        Seconds since 1970 UTC [s].
    """
    hours, minutes = (int(part) for part in hour.split(":"))
    return datetime(day.year, day.month, day.day, hours, minutes, tzinfo=zone).timestamp()


def local_time(zone: ZoneInfo, instant: float) -> datetime:
    """The clock's time at an instant, to the second."""
    return datetime.fromtimestamp(round(float(instant)), zone)


def local_day(zone: ZoneInfo, instant: float) -> date:
    """The clock's day at an instant."""
    return datetime.fromtimestamp(float(instant), zone).date()


def day_edges_s(zone: ZoneInfo, day: date, days: int = 1) -> tuple[float, float]:
    """Midnight at which a day begins, and that at which so many days from it end [s]."""
    return instant_s(zone, day), instant_s(zone, day + timedelta(days=days))


def days_of(zone: ZoneInfo, start_s: float, end_s: float) -> Iterator[tuple[date, float, float]]:
    """Each of the clock's days that a stretch of time touches, with its midnights [s]."""
    day = local_day(zone, start_s)
    while True:
        begin, end = day_edges_s(zone, day)
        if begin >= end_s:
            return
        yield day, begin, end
        day += timedelta(days=1)
