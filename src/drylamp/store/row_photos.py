"""Photos of what a sheet's row tells of, kept in the data file."""

from __future__ import annotations

import sqlite3
from dataclasses import dataclass

from drylamp.core.builds.sheet import Of
from drylamp.store.album import Album
from drylamp.store.database import atomic
from drylamp.store.sheets import OWNER

OF_ROW = Album("row_photo", "row_id", "row")


@dataclass(frozen=True)
class NewRowPhoto:
    """A photo to keep; the same ``uid`` again is the same photo."""

    time_ms: int
    width: int
    height: int
    content: bytes
    uid: str | None = None


def add_photo(db: sqlite3.Connection, row_id: int, photo: NewRowPhoto) -> None:
    """Keep a photo of a row."""
    with atomic(db):
        db.execute(
            """
            INSERT INTO row_photo (row_id, time_ms, width, height, content, uid)
            VALUES (:row, :time_ms, :width, :height, :content, :uid) ON CONFLICT DO NOTHING
            """,
            {"row": row_id, **photo.__dict__},
        )


def by_row(db: sqlite3.Connection, of: Of, owner_id: int) -> dict[int, list[int]]:
    """Photos of each row of a trial's, build's or site's sheets that were not taken back, oldest first."""
    rows = db.execute(
        f"""
        SELECT p.row_id, p.id FROM row_photo AS p JOIN sheet_row AS r ON r.id = p.row_id
        WHERE r.{OWNER[of]} = :owner AND p.withdrawn_at IS NULL ORDER BY p.time_ms, p.id
        """,
        {"owner": owner_id},
    )
    out: dict[int, list[int]] = {}
    for row in rows:
        out.setdefault(row["row_id"], []).append(row["id"])
    return out
