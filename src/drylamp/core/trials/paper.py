"""A paper chart as somebody copies it row by row: when it was read, and what stood in each column.

Times go on from row to row by the site's clock: an hour earlier than the row before is the next day's.
"""

from __future__ import annotations

import re
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import date, datetime, timedelta
from zoneinfo import ZoneInfo

from drylamp.core.checks import InputProblem
from drylamp.core.sky.clock import instant_s, local_day, local_time
from drylamp.core.trials.instruments import UNITS, Quantity, find_word, number_in
from drylamp.core.trials.plausible import CLOCK_GRACE_S, MOST_SPAN_S

MOST_ROWS = 400
BEFORE_START = timedelta(hours=2)
"""A first row so shortly before the start is of the start's own day."""
LONGEST = timedelta(seconds=MOST_SPAN_S)
"""Readings lie within three years of the start of their trial."""
TIME_HINT = "write it as 10:05, as 9:30 pm, as 2025-06-13 10:05, or as +15 for minutes after the start"
_CLOCK = re.compile(r"^(?:(?P<date>\d{4}-\d\d-\d\d)[ T]+)?(?P<h>\d{1,2})(?:[:.h](?P<m>\d\d))?\s*(?P<half>am|pm)?$", re.IGNORECASE)  # fmt: skip
_PACKED = re.compile(r"^(?P<h>\d{1,2})(?P<m>\d\d)$")
_AFTER = re.compile(r"^\+\s*(?:(?P<h>\d{1,3}):)?(?P<m>\d{1,6})\s*(?:min)?$")
_VALUE = re.compile(r"^(?P<number>[-−+]?\d+(?:[.,]\d+)?)\s*(?P<unit>[^\d\s].*)?$")


@dataclass(frozen=True)
class Cell:
    """A value as it stood: no number where a word was written."""

    channel: str
    value: float | None
    unit: str
    typed: str


@dataclass(frozen=True)
class Line:
    """A row of the chart: its instant, its values, and what could not be read, by column ("" is the time's)."""

    time: datetime | None
    cells: list[Cell]
    problems: dict[str, str]


def read_chart(
    rows: Sequence[tuple[str, Mapping[str, str]]], started: datetime, zone: ZoneInfo, quantities: Mapping[str, Quantity],
    units: Mapping[str, str], in_words: frozenset[str] = frozenset(),
) -> list[Line]:  # fmt: skip
    """Read a chart row by row; nothing that cannot be read is left out in silence.

    Parameters
    ----------
    rows
        what stood for the time, and in each channel's column
    started
        when the trial began
    quantities, units
        of each channel; a unit written behind a number goes before the column's
    in_words
        channels that are read in words
    """
    out: list[Line] = []
    before: datetime | None = None
    for stamp, values in rows:
        problems: dict[str, str] = {}
        time: datetime | None = None
        try:
            time = _time(stamp, before, started, zone)
            before = time
        except InputProblem as problem:
            problems[""] = problem.message
        cells = []
        for channel, typed in values.items():
            if not typed.strip():
                continue
            try:
                cells.append(_cell(channel, typed.strip(), quantities, units, channel in in_words))
            except InputProblem as problem:
                problems[channel] = problem.message
        out.append(Line(time, cells, problems))
    return out


def check_span(at: datetime, started: datetime) -> None:
    """Refuse a stamp more than three years from the trial's start.

    Raises
    ------
    InputProblem
        it is.
    """
    if abs(at - started) > LONGEST:
        raise InputProblem("time", f"{at:%Y-%m-%d %H:%M} lies more than three years from the trial's start on {started:%Y-%m-%d}; look at the year")  # fmt: skip


def is_ahead(at: datetime, now: datetime) -> bool:
    """Whether a stamp lies ahead of this machine's clock, by more than clocks go wrong."""
    return at > now + timedelta(seconds=CLOCK_GRACE_S)


def _time(stamp: str, before: datetime | None, started: datetime, zone: ZoneInfo) -> datetime:
    text = stamp.strip()
    after = _AFTER.match(text)
    if after:
        at = (started + timedelta(hours=int(after["h"] or 0), minutes=int(after["m"]))).astimezone(zone)
    else:
        at = _by_the_clock(text, stamp, before, started, zone)
    check_span(at, started)
    return at


def _by_the_clock(text: str, stamp: str, before: datetime | None, started: datetime, zone: ZoneInfo) -> datetime:
    found = _CLOCK.match(text) or _PACKED.match(text)
    parts = found.groupdict() if found else {}
    if not found or (parts["m"] is None and not parts.get("half")):
        raise InputProblem(
            "time", f"“{stamp}” is no time of day; {TIME_HINT}" if text else f"no time was written; {TIME_HINT}"
        )
    hour, minute = int(parts["h"]), int(parts["m"] or 0)
    half = (parts.get("half") or "").lower()
    if hour > (12 if half else 23) or minute > 59 or (half and hour == 0):
        raise InputProblem("time", f"“{stamp}” is no time of day; {TIME_HINT}")
    if half:
        hour = hour % 12 + (12 if half == "pm" else 0)
    clock = f"{hour:02d}:{minute:02d}"
    if parts.get("date"):
        try:
            return local_time(zone, instant_s(zone, date.fromisoformat(parts["date"]), clock))
        except (ValueError, OverflowError):
            raise InputProblem("time", f"“{stamp}” is no day of the calendar; {TIME_HINT}") from None
    floor = before or started - BEFORE_START
    day = local_day(zone, floor.timestamp())
    at = local_time(zone, instant_s(zone, day, clock))
    return at if at >= floor else local_time(zone, instant_s(zone, day + timedelta(days=1), clock))


def _cell(
    channel: str, typed: str, quantities: Mapping[str, Quantity], units: Mapping[str, str], in_words: bool
) -> Cell:
    if channel not in quantities:
        raise InputProblem("channel", f"'{channel}' is no channel of this trial; known: {', '.join(quantities)}")
    if in_words:
        if find_word(typed) is None:
            raise InputProblem("value", f"“{typed}” is none of the words that this is read in")
        return Cell(channel, None, units[channel], typed)
    found = _VALUE.match(typed)
    known = {unit.name: unit for unit in UNITS.values() if unit.quantity == quantities[channel]}
    unit = units[channel] if found is None or not found["unit"] else _unit(found["unit"], known)
    if found is None or unit is None:
        names = ", ".join(unit.title for unit in known.values())
        raise InputProblem("value", f"“{typed}” is not understood; write a number, and maybe a unit: {names}")
    value = number_in(found["number"].replace("−", "-").replace(",", "."))
    if value is None:
        raise InputProblem("value", f"“{typed}” is no number that can be")
    return Cell(channel, value, unit, typed)


def _unit(written: str, known: Mapping[str, object]) -> str | None:
    bare = written.strip().lstrip("°").lower()
    for name in known:
        if bare in (name.lower(), UNITS[name].title.lower().lstrip("°")):
            return name
    return None
