"""Readings: written in batches, idempotent by (trial, channel, time), on disk before they are acknowledged."""

from __future__ import annotations

import sqlite3
from dataclasses import dataclass

from drylamp.store.database import atomic

SAME_WITHIN_K = 1e-6


@dataclass(frozen=True)
class ReadingRow:
    """One reading: value in °C, as it was typed, and its flag if it looks odd."""

    channel: str
    time_ms: int
    value_c: float
    typed: str
    unit: str
    source: str
    flag_code: str = ""
    flag_text: str = ""


@dataclass(frozen=True)
class BatchResult:
    """What became of a batch: new rows, rows that were there already, and rows that contradict one on file."""

    written: int
    repeated: int
    contradicting: list[ReadingRow]


def add_readings(db: sqlite3.Connection, trial_id: int, rows: list[ReadingRow]) -> BatchResult:
    """Write a batch in one transaction. A withdrawn reading is brought back by writing it again.

    A row that contradicts one on file (same channel and time, other value) is reported and not written.
    """
    written = repeated = 0
    contradicting = []
    with atomic(db):
        for row in rows:
            key = {"trial": trial_id, "channel": row.channel, "time": row.time_ms}
            have = db.execute(
                "SELECT value_c, withdrawn_at FROM reading WHERE trial_id = :trial AND channel = :channel AND time_ms = :time",
                key,
            ).fetchone()
            if have is None or have["withdrawn_at"] is not None:
                _write(db, trial_id, row)
                written += 1
            elif abs(have["value_c"] - row.value_c) <= SAME_WITHIN_K:
                repeated += 1
            else:
                contradicting.append(row)
    return BatchResult(written, repeated, contradicting)


def _write(db: sqlite3.Connection, trial_id: int, row: ReadingRow) -> None:
    db.execute(
        """
        INSERT OR REPLACE INTO reading
            (trial_id, channel, time_ms, value_c, typed, unit, source, flag_code, flag_text, withdrawn_at)
        VALUES (:trial_id, :channel, :time_ms, :value_c, :typed, :unit, :source, :flag_code, :flag_text, NULL)
        """,
        {"trial_id": trial_id, **row.__dict__},
    )


def list_readings(db: sqlite3.Connection, trial_id: int) -> list[ReadingRow]:
    """Readings that were not withdrawn, in time."""
    rows = db.execute(
        """
        SELECT channel, time_ms, value_c, typed, unit, source, flag_code, flag_text
        FROM reading WHERE trial_id = :t AND withdrawn_at IS NULL ORDER BY time_ms, channel
        """,
        {"t": trial_id},
    )
    return [ReadingRow(**dict(row)) for row in rows]


def last_reading(db: sqlite3.Connection, trial_id: int, channel: str, before_ms: int) -> ReadingRow | None:
    """The reading before an instant on a channel."""
    row = db.execute(
        """
        SELECT channel, time_ms, value_c, typed, unit, source, flag_code, flag_text
        FROM reading
        WHERE trial_id = :t AND channel = :c AND time_ms < :before AND withdrawn_at IS NULL
        ORDER BY time_ms DESC LIMIT 1
        """,
        {"t": trial_id, "c": channel, "before": before_ms},
    ).fetchone()
    return None if row is None else ReadingRow(**dict(row))


def withdraw_reading(db: sqlite3.Connection, trial_id: int, channel: str, time_ms: int, now: str | None) -> bool:
    """Take a reading back, or bring it back with ``now`` None; False when there is none."""
    with atomic(db):
        changed = db.execute(
            "UPDATE reading SET withdrawn_at = :now WHERE trial_id = :t AND channel = :c AND time_ms = :time",
            {"now": now, "t": trial_id, "c": channel, "time": time_ms},
        )
    return changed.rowcount > 0


def count_readings(db: sqlite3.Connection, trial_id: int) -> int:
    """How many readings a trial has."""
    query = "SELECT COUNT(*) FROM reading WHERE trial_id = :t AND withdrawn_at IS NULL"
    return int(db.execute(query, {"t": trial_id}).fetchone()[0])
