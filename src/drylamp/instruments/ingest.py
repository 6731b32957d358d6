"""Readings on their way in: units turned, odd ones flagged, and written in one go."""

from __future__ import annotations

import sqlite3
from collections.abc import Callable
from dataclasses import dataclass
from datetime import datetime
from typing import Literal

from drylamp.core.checks import InputProblem
from drylamp.core.trials.plausible import check_temperature
from drylamp.formats.readings_csv import Unit, to_celsius
from drylamp.store.readings import BatchResult, ReadingRow, add_readings, last_reading
from drylamp.store.trials import TrialRow

Source = Literal["hand", "logger", "file"]
Expected = Callable[[str, datetime], float | None]


@dataclass(frozen=True)
class Incoming:
    """A reading as it arrives."""

    channel: str
    time: datetime
    value: float
    unit: Unit
    typed: str = ""


def take_in(
    db: sqlite3.Connection, trial: TrialRow, incoming: list[Incoming], source: Source, expected: Expected | None = None
) -> tuple[BatchResult, list[ReadingRow]]:
    """Check and write a batch; return what became of it and the rows that were flagged.

    Args:
        expected: what the twin says of a channel's node at a time; without it only the reading before is looked at

    Raises:
        InputProblem: a channel is unknown; nothing is written.
    """
    nodes = {channel.name: channel.node for channel in trial.channels}
    for item in incoming:
        if item.channel not in nodes:
            raise InputProblem("channel", f"'{item.channel}' is no channel of this trial; known: {', '.join(nodes)}")
    before: dict[str, ReadingRow | None] = {}
    rows = []
    for item in sorted(incoming, key=lambda i: i.time):
        at_ms = to_ms(item.time)
        if item.channel not in before:
            before[item.channel] = last_reading(db, trial.id, item.channel, at_ms)
        row = _flagged(item, at_ms, source, nodes[item.channel], before[item.channel], expected)
        rows.append(row)
        if not row.flag_code:
            before[item.channel] = row
    return add_readings(db, trial.id, rows), [row for row in rows if row.flag_code]


def _flagged(
    item: Incoming, at_ms: int, source: Source, node: str, last: ReadingRow | None, expected: Expected | None
) -> ReadingRow:
    value_c = to_celsius(item.value, item.unit)
    twin_c = expected(node, item.time) if expected is not None and item.unit == "C" else None
    minutes = None if last is None else (at_ms - last.time_ms) / 60000.0
    flag = check_temperature(value_c, twin_c, None if last is None else last.value_c, minutes, source != "hand")
    return ReadingRow(
        channel=item.channel,
        time_ms=at_ms,
        value_c=value_c,
        typed=item.typed or f"{item.value:g}",
        unit=item.unit,
        source=source,
        flag_code=flag.code,
        flag_text=flag.text,
    )


def to_ms(moment: datetime) -> int:
    """Milliseconds since 1970 UTC."""
    return round(moment.timestamp() * 1000)
