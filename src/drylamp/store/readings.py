"""Readings: written in batches, idempotent by (trial, channel, time), on disk before they are acknowledged."""

from __future__ import annotations

import sqlite3
from dataclasses import dataclass

import numpy as np

from drylamp.store.database import StoreError, atomic

SAME_WITHIN_K = 1e-6


@dataclass(frozen=True)
class ReadingRow:
    """One reading: value in its quantity's base (None where there was no number), as it was typed, and its flag if it looks odd."""

    channel: str
    time_ms: int
    value: float | None
    typed: str
    unit: str
    source: str
    flag_code: str = ""
    flag_text: str = ""
    doubt: float | None = None
    withdrawn: bool = False


@dataclass(frozen=True)
class BatchResult:
    """What became of a batch: new rows, rows that were there already, rows that contradict one on file; and the number of the import that they came with."""

    written: int
    repeated: int
    contradicting: list[ReadingRow]
    import_id: int | None = None


def add_readings(db: sqlite3.Connection, trial_id: int, rows: list[ReadingRow], as_import: bool = False) -> BatchResult:
    """Write a batch in one transaction, numbered as one import where it is one. A withdrawn reading is brought back by writing it again.

    A row that contradicts one on file (same channel and time, other value) is reported and not written.
    """
    written = repeated = 0
    contradicting = []
    with atomic(db):
        import_id = _next_import(db, trial_id) if as_import else None
        for row in rows:
            key = {"trial": trial_id, "channel": row.channel, "time": row.time_ms}
            have = db.execute(
                "SELECT value, withdrawn_at FROM reading WHERE trial_id = :trial AND channel = :channel AND time_ms = :time",
                key,
            ).fetchone()
            if have is None or have["withdrawn_at"] is not None:
                _write(db, trial_id, row, import_id)
                written += 1
            elif _same(have["value"], row.value):
                repeated += 1
            else:
                contradicting.append(row)
    return BatchResult(written, repeated, contradicting, import_id)


def _next_import(db: sqlite3.Connection, trial_id: int) -> int:
    row = db.execute("SELECT MAX(import_id) FROM reading WHERE trial_id = :t", {"t": trial_id}).fetchone()
    return 1 + int(row[0] or 0)


def withdraw_import(db: sqlite3.Connection, trial_id: int, import_id: int, now: str | None) -> int:
    """Take back all that an import wrote, or bring it back with ``now`` None; how many readings that are."""
    with atomic(db):
        changed = db.execute(
            "UPDATE reading SET withdrawn_at = :now WHERE trial_id = :t AND import_id = :i",
            {"now": now, "t": trial_id, "i": import_id},
        )
    return changed.rowcount


def _same(one: float | None, other: float | None) -> bool:
    if one is None or other is None:
        return one is other
    return abs(one - other) <= SAME_WITHIN_K


def _write(db: sqlite3.Connection, trial_id: int, row: ReadingRow, import_id: int | None) -> None:
    db.execute(
        """
        INSERT OR REPLACE INTO reading
            (trial_id, channel, time_ms, value, doubt, typed, unit, source, flag_code, flag_text, withdrawn_at, import_id)
        VALUES (:trial_id, :channel, :time_ms, :value, :doubt, :typed, :unit, :source, :flag_code, :flag_text, NULL, :import_id)
        """,
        {"trial_id": trial_id, "import_id": import_id, **row.__dict__},
    )


COLUMNS = (
    "channel, time_ms, value, typed, unit, source, flag_code, flag_text, doubt, withdrawn_at IS NOT NULL AS withdrawn"
)


def _reading(row: sqlite3.Row) -> ReadingRow:
    return ReadingRow(**{**dict(row), "withdrawn": bool(row["withdrawn"])})


def list_readings(
    db: sqlite3.Connection, trial_id: int, last: int | None = None, withdrawn_too: bool = False
) -> list[ReadingRow]:
    """Readings in time; only so many of the latest where ``last`` is given, withdrawn ones only where asked for."""
    rows: list[sqlite3.Row] = []
    for (channel,) in db.execute("SELECT name FROM channel WHERE trial_id = :t", {"t": trial_id}).fetchall():
        rows += db.execute(  # channel by channel, so that the latest are found along the key
            f"""
            SELECT {COLUMNS} FROM reading WHERE trial_id = :t AND channel = :c AND (withdrawn_at IS NULL OR :too)
            ORDER BY time_ms DESC LIMIT :last
            """,
            {"t": trial_id, "c": channel, "last": -1 if last is None else last, "too": withdrawn_too},
        ).fetchall()
    found = sorted((_reading(row) for row in rows), key=lambda r: (r.time_ms, r.channel))
    return found if last is None else found[-last:]


@dataclass(frozen=True)
class Series:
    """A channel's readings as arrays, oldest first, shape (n,): milliseconds since 1970 UTC, values, own doubts (NaN: none)."""

    time_ms: np.ndarray
    value: np.ndarray
    doubt: np.ndarray


SET_ASIDE = ("impossible", "stuck", "unit", "no-value", "clock")
"""Flags whose readings are kept and listed but neither drawn nor judged."""


def series(
    db: sqlite3.Connection, trial_id: int, channel: str, from_ms: int | None = None, to_ms: int | None = None
) -> Series:
    """A channel's readings that are neither withdrawn nor set aside."""
    marks = ", ".join("?" * len(SET_ASIDE))
    plain = db.cursor()
    plain.row_factory = None  # a hundred thousand rows come as bare tuples
    rows = plain.execute(
        f"""
        SELECT time_ms, value, doubt FROM reading
        WHERE trial_id = ? AND channel = ? AND time_ms BETWEEN ? AND ? AND withdrawn_at IS NULL AND flag_code NOT IN ({marks})
        ORDER BY time_ms
        """,
        (trial_id, channel, -(2**62) if from_ms is None else from_ms, 2**62 if to_ms is None else to_ms, *SET_ASIDE),
    ).fetchall()
    table = np.array(rows, dtype=float).reshape(-1, 3)
    return Series(table[:, 0].astype(np.int64), table[:, 1], table[:, 2])


@dataclass(frozen=True)
class Tally:
    """A channel's readings in short: how many, the sum of their values, the last one's time."""

    count: int
    total: float
    last_ms: int


def tallies(db: sqlite3.Connection, trial_id: int) -> dict[str, Tally]:
    """Each channel's readings in short; channels without any are left out."""
    rows = db.execute(
        """
        SELECT channel, COUNT(*), TOTAL(value), MAX(time_ms) FROM reading
        WHERE trial_id = :t AND withdrawn_at IS NULL GROUP BY channel
        """,
        {"t": trial_id},
    )
    return {row[0]: Tally(int(row[1]), float(row[2]), int(row[3])) for row in rows}


def any_usable(db: sqlite3.Connection, trial_id: int, channels: list[str]) -> bool:
    """Whether one of the channels has a reading that is neither withdrawn nor set aside."""
    marks, names = ", ".join("?" * len(SET_ASIDE)), ", ".join("?" * len(channels))
    row = db.execute(
        f"""
        SELECT EXISTS (
            SELECT 1 FROM reading WHERE trial_id = ? AND channel IN ({names}) AND withdrawn_at IS NULL AND flag_code NOT IN ({marks})
        )
        """,
        (trial_id, *channels, *SET_ASIDE),
    ).fetchone()
    return bool(row[0])


def count_flagged(db: sqlite3.Connection, trial_id: int) -> dict[str, int]:
    """How many readings carry each flag."""
    rows = db.execute(
        """
        SELECT flag_code, COUNT(*) FROM reading
        WHERE trial_id = :t AND withdrawn_at IS NULL AND flag_code <> '' GROUP BY flag_code
        """,
        {"t": trial_id},
    )
    return {row[0]: int(row[1]) for row in rows}


def shift_clock(db: sqlite3.Connection, trial_id: int, by_ms: int) -> int:
    """Move all readings that a logger or a file stamped; return how many. Moving back undoes it."""
    far = 2**52  # out of the way first, so that no two rows meet in between
    with atomic(db):
        where = "WHERE trial_id = :t AND source IN ('logger', 'file')"
        db.execute(f"UPDATE reading SET time_ms = time_ms + :far {where}", {"t": trial_id, "far": far})
        moved = db.execute(
            f"UPDATE OR IGNORE reading SET time_ms = time_ms - :far + :by {where}",
            {"t": trial_id, "far": far, "by": by_ms},
        )
        stuck = db.execute(
            f"SELECT COUNT(*) FROM reading {where} AND time_ms > :far", {"t": trial_id, "far": far // 2}
        ).fetchone()[0]
        if stuck:
            raise StoreError(
                f"{stuck} readings would land on readings taken by hand at the same instant; nothing was moved"
            )
    return moved.rowcount


def last_ms(db: sqlite3.Connection, trial_id: int) -> int | None:
    """When the last reading of a trial was taken; none where there is none."""
    row = db.execute(
        "SELECT MAX(time_ms) FROM reading WHERE trial_id = :t AND withdrawn_at IS NULL AND flag_code <> 'clock'",
        {"t": trial_id},
    ).fetchone()
    return None if row[0] is None else int(row[0])


def last_reading(db: sqlite3.Connection, trial_id: int, channel: str, before_ms: int) -> ReadingRow | None:
    """The reading before an instant on a channel."""
    row = db.execute(
        f"""
        SELECT {COLUMNS}
        FROM reading
        WHERE trial_id = :t AND channel = :c AND time_ms < :before AND withdrawn_at IS NULL
        ORDER BY time_ms DESC LIMIT 1
        """,
        {"t": trial_id, "c": channel, "before": before_ms},
    ).fetchone()
    return None if row is None else _reading(row)


def withdraw_reading(db: sqlite3.Connection, trial_id: int, channel: str, time_ms: int, now: str | None) -> bool:
    """Take a reading back, or bring it back with ``now`` None; False when there is none."""
    with atomic(db):
        changed = db.execute(
            "UPDATE reading SET withdrawn_at = :now WHERE trial_id = :t AND channel = :c AND time_ms = :time",
            {"now": now, "t": trial_id, "c": channel, "time": time_ms},
        )
    return changed.rowcount > 0


def count_all(db: sqlite3.Connection, trial_id: int) -> int:
    """How many readings are stored with a trial, those that were taken back too."""
    return int(db.execute("SELECT COUNT(*) FROM reading WHERE trial_id = :t", {"t": trial_id}).fetchone()[0])


def count_readings(db: sqlite3.Connection, trial_id: int) -> int:
    """How many readings a trial has."""
    query = "SELECT COUNT(*) FROM reading WHERE trial_id = :t AND withdrawn_at IS NULL"
    return int(db.execute(query, {"t": trial_id}).fetchone()[0])
