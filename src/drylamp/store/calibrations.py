"""Calibrations: what a trial taught the twin of a build, kept with the trial and the revision it tested."""

from __future__ import annotations

import sqlite3
from dataclasses import dataclass

from drylamp.core.twin.calibration import Calibration
from drylamp.store.database import NotFoundError, atomic
from drylamp.store.unreadable import of_row, readable


@dataclass(frozen=True)
class CalibrationRow:
    """An accepted calibration."""

    id: int
    build_id: int
    build_revision: int
    trial_id: int
    trial_name: str
    factors: Calibration
    words: str
    accepted_at: str


SELECT = """
    SELECT c.id, c.build_id, c.build_revision, c.trial_id, t.name AS trial_name, c.adjustments AS factors, c.words, c.accepted_at
    FROM calibration AS c JOIN trial AS t ON t.id = c.trial_id
"""


def accept(
    db: sqlite3.Connection, build: tuple[int, int], trial_id: int, factors: Calibration, words: str, now: str
) -> int:
    """Keep a calibration of a build at a revision; the newest one is in force. Returns its id."""
    with atomic(db):
        cursor = db.execute(
            """
            INSERT INTO calibration (build_id, build_revision, trial_id, adjustments, words, accepted_at)
            VALUES (:build, :revision, :trial, :adjustments, :words, :now)
            """,
            {
                "build": build[0], "revision": build[1], "trial": trial_id,
                "adjustments": factors.model_dump_json(), "words": words, "now": now,
            },
        )  # fmt: skip
    return int(cursor.lastrowid or 0)


def in_force(db: sqlite3.Connection, build_id: int) -> CalibrationRow | None:
    """The newest calibration of a build that was not taken back."""
    row = db.execute(
        SELECT + "WHERE c.build_id = :build AND c.withdrawn_at IS NULL ORDER BY c.id DESC LIMIT 1", {"build": build_id}
    ).fetchone()
    return None if row is None else _row(row)


def accepted(db: sqlite3.Connection, build_id: int) -> list[CalibrationRow]:
    """All calibrations of a build that were not taken back, oldest first."""
    rows = db.execute(
        SELECT + "WHERE c.build_id = :build AND c.withdrawn_at IS NULL ORDER BY c.id", {"build": build_id}
    )
    return readable(rows, _row)


def get_calibration(db: sqlite3.Connection, calibration_id: int) -> CalibrationRow:
    """One calibration, taken back or not.

    Raises:
        NotFoundError: there is none of that id.
    """
    row = db.execute(SELECT + "WHERE c.id = :id", {"id": calibration_id}).fetchone()
    if row is None:
        raise NotFoundError(f"there is no calibration {calibration_id}")
    return _row(row)


def withdraw(db: sqlite3.Connection, calibration_id: int, now: str | None) -> None:
    """Take a calibration back, or bring it back with ``now`` None."""
    with atomic(db):
        get_calibration(db, calibration_id)
        db.execute("UPDATE calibration SET withdrawn_at = :now WHERE id = :id", {"now": now, "id": calibration_id})


def _row(row: sqlite3.Row) -> CalibrationRow:
    factors = of_row("Calibration", row["id"], lambda: Calibration.model_validate_json(row["factors"]))
    return CalibrationRow(**{**dict(row), "factors": factors})
