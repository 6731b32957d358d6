"""Devices that were paired: what each is called, whether it may write, when it was last here, and whether it was shut out again."""

from __future__ import annotations

import hashlib
import sqlite3
from dataclasses import dataclass

from drylamp.store.database import NotFoundError

MOST_DEVICES = 100


@dataclass(frozen=True)
class DeviceRow:
    """A paired device; the times are ISO text."""

    id: int
    name: str
    guest: bool
    paired_at: str
    seen_at: str
    revoked_at: str | None


def digest_of(mark: str) -> str:
    """What is kept of a mark: nobody who reads the data file can make the cookie from it."""
    return hashlib.sha256(mark.encode()).hexdigest()


def add_device(db: sqlite3.Connection, name: str, guest: bool, mark: str, at: str) -> int:
    """Write a device down by its mark; return its number."""
    row = db.execute(
        "INSERT INTO device (name, guest, mark_digest, paired_at, seen_at) VALUES (:name, :guest, :digest, :at, :at) RETURNING id",
        {"name": name, "guest": int(guest), "digest": digest_of(mark), "at": at},
    ).fetchone()
    return int(row["id"])


def count_devices(db: sqlite3.Connection) -> int:
    """How many may come in."""
    return int(db.execute("SELECT COUNT(*) FROM device WHERE revoked_at IS NULL").fetchone()[0])


def find_device(db: sqlite3.Connection, device_id: int, mark: str) -> DeviceRow | None:
    """The device of a number and a mark; none where they do not belong together or it was shut out."""
    row = db.execute(
        "SELECT * FROM device WHERE id = :id AND mark_digest = :digest AND revoked_at IS NULL",
        {"id": device_id, "digest": digest_of(mark)},
    ).fetchone()
    return None if row is None else _row(row)


def list_devices(db: sqlite3.Connection) -> list[DeviceRow]:
    """All that may come in, the latest first."""
    return [_row(row) for row in db.execute("SELECT * FROM device WHERE revoked_at IS NULL ORDER BY id DESC")]


def seen(db: sqlite3.Connection, device_id: int, at: str) -> None:
    """Note when it was last here."""
    db.execute("UPDATE device SET seen_at = :at WHERE id = :id", {"at": at, "id": device_id})


def revoke(db: sqlite3.Connection, device_id: int, at: str) -> None:
    """Shut a device out.

    Raises
    ------
    NotFoundError
        there is none of that number, or it is out already.
    """
    done = db.execute(
        "UPDATE device SET revoked_at = :at WHERE id = :id AND revoked_at IS NULL", {"at": at, "id": device_id}
    )
    if done.rowcount == 0:
        raise NotFoundError(f"there is no paired device {device_id}")


def _row(row: sqlite3.Row) -> DeviceRow:
    return DeviceRow(row["id"], row["name"], bool(row["guest"]), row["paired_at"], row["seen_at"], row["revoked_at"])
