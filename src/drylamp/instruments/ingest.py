"""Readings on their way in: units turned, odd ones flagged, and written in one go."""

from __future__ import annotations

import csv
import io
import math
import sqlite3
from collections.abc import Callable, Mapping
from dataclasses import dataclass
from datetime import datetime
from typing import Literal

from drylamp.core.checks import InputProblem, Model, require, within_days
from drylamp.core.trials.instruments import BASE_UNIT, UNITS, find_word, in_base, number_in
from drylamp.core.trials.plausible import NO_FLAG, Plausibility, check_clock, check_reading
from drylamp.store.readings import BatchResult, ReadingRow, add_readings, last_reading
from drylamp.store.trials import ChannelRow, TrialRow

Source = Literal["hand", "logger", "file"]
Expected = Callable[[str, datetime], float | None]
LINE_COLUMNS = ("time", "channel", "value", "unit")
MOST_LINES = 5000


@dataclass(frozen=True)
class Incoming:
    """A reading as it arrives; ``value`` is None where the instrument sent no number."""

    channel: str
    time: datetime
    value: float | None
    unit: str
    typed: str = ""


class RefusedLine(Model):
    """A line that cannot be used, by its number in the body."""

    line: int
    reason: str


def take_in(
    db: sqlite3.Connection, trial: TrialRow, incoming: list[Incoming], source: Source, now: datetime, most_l_min: Callable[[], float]
) -> tuple[BatchResult, list[ReadingRow]]:  # fmt: skip
    """Look a batch over without asking the twin and write it; return what became of it and the rows that were flagged.

    Raises:
        InputProblem: see ``looked_over``; nothing is written.
    """
    rows = looked_over(db, trial, incoming, source, None, now, most_l_min)
    return add_readings(db, trial.id, rows, as_import=source == "file"), flagged(rows)


def flagged(rows: list[ReadingRow]) -> list[ReadingRow]:
    """Those that look odd."""
    return [row for row in rows if row.flag_code]


def looked_over(
    db: sqlite3.Connection,
    trial: TrialRow,
    incoming: list[Incoming],
    source: Source,
    expected: Expected | None = None,
    now: datetime | None = None,
    most_l_min: Callable[[], float] = lambda: math.inf,
) -> list[ReadingRow]:
    """A batch as it would be written, odd readings flagged, in time.

    Args:
        expected: what the twin says of a channel's node at a time; without it only the reading before is looked at
        now: the server's clock, for stamps that cannot be
        most_l_min: what can run through the build at all; asked only where a flow was read

    Raises:
        InputProblem: a channel is unknown, or a unit does not belong to it.
    """
    channels = {channel.name: channel for channel in trial.channels}
    for item in incoming:
        if item.channel not in channels:
            raise InputProblem("channel", f"'{item.channel}' is no channel of this trial; known: {', '.join(channels)}")
    most = most_l_min() if any(channels[item.channel].quantity == "flow" for item in incoming) else math.inf
    before: dict[str, ReadingRow | None] = {}
    rows = []
    for item in sorted(incoming, key=lambda i: i.time):
        at_ms = to_ms(item.time)
        if item.channel not in before:
            before[item.channel] = last_reading(db, trial.id, item.channel, at_ms)
        row = _flagged(trial, item, at_ms, source, channels[item.channel], before[item.channel], expected, now, most)
        rows.append(row)
        if not row.flag_code:
            before[item.channel] = row
    return rows


def _flagged(
    trial: TrialRow, item: Incoming, at_ms: int, source: Source, channel: ChannelRow, last: ReadingRow | None,
    expected: Expected | None, now: datetime | None, most_l_min: float,
) -> ReadingRow:  # fmt: skip
    word = find_word(item.typed) if channel.instrument == "words" else None
    value = word.middle_c if word else _base(item, channel)
    flag = NO_FLAG if source == "hand" else check_clock(at_ms / 1000.0, trial.started_ms / 1000.0, now)
    if value is None:
        flag = Plausibility(code="no-value", text=f"'{item.typed or 'nothing'}' is no number: the sensor sent none.")
    elif not flag.code:
        twin_c = expected(channel.node, item.time) if expected is not None and item.unit == "C" else None
        minutes = None if last is None else (at_ms - last.time_ms) / 60000.0
        flag = check_reading(
            channel.quantity,
            value,
            twin_c,
            None if last is None else last.value,
            minutes,
            source != "hand",
            most_l_min if channel.quantity == "flow" else math.inf,
            None if trial.load is None else trial.load.laid_kg.get(channel.node),
        )
    return ReadingRow(
        channel=item.channel,
        time_ms=at_ms,
        value=value,
        typed=item.typed or ("" if item.value is None else f"{item.value:g}"),
        unit=item.unit,
        source=source,
        flag_code=flag.code,
        flag_text=flag.text,
        doubt=word.doubt_k if word else None,
    )


def _base(item: Incoming, channel: ChannelRow) -> float | None:
    if item.value is None or not math.isfinite(item.value):
        return None
    return in_base(item.value, item.unit, channel.quantity)


def read_lines(text: str, trial: TrialRow, now: datetime) -> tuple[list[Incoming], list[RefusedLine]]:
    """Lines as a microcontroller posts them: ``time,channel,value[,unit]``, with or without a header.

    A line without a time carries the server's; a unit that is left out is the usual one of its channel.

    Raises:
        InputProblem: there are too many lines.
    """
    quantities = {channel.name: channel.quantity for channel in trial.channels}
    incoming, refused = [], []
    lines = list(csv.reader(io.StringIO(text.lstrip("\ufeff")), skipinitialspace=True))
    require(
        len(lines) <= MOST_LINES, "body", f"{len(lines)} lines were sent; allowed are {MOST_LINES} at once, split them"
    )
    for number, cells in enumerate(lines, start=1):
        if not any(cell.strip() for cell in cells) or [c.strip().lower() for c in cells[:3]] == list(LINE_COLUMNS[:3]):
            continue
        try:
            incoming.append(_line(cells, quantities, now))
        except InputProblem as problem:
            refused.append(RefusedLine(line=number, reason=problem.message))
    return incoming, refused


def _line(cells: list[str], quantities: Mapping[str, str], now: datetime) -> Incoming:
    require(3 <= len(cells) <= 4, "line", f"has {len(cells)} parts; needed are time,channel,value and maybe unit")
    stamp, channel, text = (cell.strip() for cell in cells[:3])
    if channel not in quantities:
        raise InputProblem("line", f"'{channel}' is no channel of this trial; known: {', '.join(quantities)}")
    usual = BASE_UNIT[quantities[channel]]  # type: ignore[index]
    unit = cells[3].strip() if len(cells) == 4 and cells[3].strip() else usual
    require(unit in UNITS, "line", f"'{unit}' is no unit; known: {', '.join(UNITS)}")
    return Incoming(channel, moment_of(stamp, now), number_in(text), unit, text[:40])


def moment_of(stamp: str, now: datetime) -> datetime:
    """The instant that a logger's stamp names: seconds since 1970, ISO 8601 with its zone, or nothing for now.

    Raises:
        InputProblem: it cannot be read or has no zone.
    """
    if not stamp:
        return now
    try:
        moment = datetime.fromtimestamp(float(stamp), now.tzinfo)
    except (ValueError, OverflowError, OSError):
        moment = _written_out(stamp)
    try:
        return within_days(moment)
    except ValueError as problem:
        raise InputProblem("time", str(problem)) from None


def _written_out(stamp: str) -> datetime:
    try:
        moment = datetime.fromisoformat(stamp)
    except ValueError:
        raise InputProblem(
            "line", f"time '{stamp[:40]}' cannot be read; send seconds since 1970 or 2025-06-12T10:05:00Z"
        ) from None
    require(moment.tzinfo is not None, "line", f"time '{stamp[:40]}' has no zone; end it with Z or +02:00")
    return moment


def to_ms(moment: datetime) -> int:
    """Milliseconds since 1970 UTC."""
    return round(moment.timestamp() * 1000)
