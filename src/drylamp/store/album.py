"""Photos in the data file, whatever they belong to: one table for each sort of owner, alike in content and in what was taken back."""

from __future__ import annotations

import sqlite3
from dataclasses import dataclass

from drylamp.store.database import NotFoundError, atomic


@dataclass(frozen=True)
class Album:
    """A table of photos: its name, the column of what a photo belongs to, and what that is called."""

    table: str
    owner: str
    called: str

    def content(self, db: sqlite3.Connection, owner_id: int, photo_id: int) -> bytes:
        """A photo's JPEG.

        Raises:
            NotFoundError: there is no such photo.
        """
        query = f"SELECT content FROM {self.table} WHERE id = :id AND {self.owner} = :owner"
        row = db.execute(query, {"id": photo_id, "owner": owner_id}).fetchone()
        if row is None:
            raise self._missing(owner_id, photo_id)
        return bytes(row["content"])

    def withdraw(self, db: sqlite3.Connection, owner_id: int, photo_id: int, now: str | None) -> None:
        """Take a photo back, or bring it back with ``now`` None.

        Raises:
            NotFoundError: there is no such photo.
        """
        with atomic(db):
            query = f"UPDATE {self.table} SET withdrawn_at = :now WHERE id = :id AND {self.owner} = :owner"
            if db.execute(query, {"now": now, "id": photo_id, "owner": owner_id}).rowcount == 0:
                raise self._missing(owner_id, photo_id)

    def _missing(self, owner_id: int, photo_id: int) -> NotFoundError:
        return NotFoundError(f"{self.called} {owner_id} has no photo {photo_id}")
