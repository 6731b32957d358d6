"""Photos of a trial, kept in the data file."""

from __future__ import annotations

import sqlite3
from dataclasses import dataclass

from drylamp.store.album import Album
from drylamp.store.database import atomic

OF_TRIAL = Album("photo", "trial_id", "trial")


@dataclass(frozen=True)
class PhotoRow:
    """A photo without its content."""

    id: int
    time_ms: int
    note: str
    channel: str
    width: int
    height: int


@dataclass(frozen=True)
class NewPhoto:
    """A photo to keep; the same ``uid`` again is the same photo."""

    time_ms: int
    note: str
    channel: str
    width: int
    height: int
    content: bytes
    uid: str | None


def add_photo(db: sqlite3.Connection, trial_id: int, photo: NewPhoto) -> int:
    """Keep a photo; return its id."""
    with atomic(db):
        db.execute(
            """
            INSERT INTO photo (trial_id, time_ms, note, channel, width, height, content, uid)
            VALUES (:trial, :time_ms, :note, :channel, :width, :height, :content, :uid) ON CONFLICT DO NOTHING
            """,
            {"trial": trial_id, **photo.__dict__},
        )
        by_uid = "SELECT id FROM photo WHERE trial_id = :trial AND uid = :uid"
        row = db.execute(
            by_uid if photo.uid else "SELECT last_insert_rowid()", {"trial": trial_id, "uid": photo.uid}
        ).fetchone()
    return int(row[0])


def list_photos(db: sqlite3.Connection, trial_id: int) -> list[PhotoRow]:
    """Photos that were not taken back, in time."""
    rows = db.execute(
        """
        SELECT id, time_ms, note, channel, width, height FROM photo
        WHERE trial_id = :t AND withdrawn_at IS NULL ORDER BY time_ms, id
        """,
        {"t": trial_id},
    )
    return [PhotoRow(**dict(row)) for row in rows]


def total_bytes(db: sqlite3.Connection, trial_id: int) -> int:
    """Bytes of a trial's photos that were not taken back."""
    query = "SELECT TOTAL(LENGTH(content)) FROM photo WHERE trial_id = :t AND withdrawn_at IS NULL"
    return int(db.execute(query, {"t": trial_id}).fetchone()[0])
