"""Rows of sheets: what a person wrote down beside a trial, a build or a site."""

from __future__ import annotations

import json
import sqlite3
from dataclasses import dataclass
from typing import Any

from drylamp.core.builds.sheet import Of
from drylamp.store.database import NotFoundError, StaleWriteError, atomic

OWNER: dict[Of, str] = {"trial": "trial_id", "build": "build_id", "site": "site_id"}


@dataclass(frozen=True)
class SheetRow:
    """A row at its newest revision."""

    id: int
    sheet: str
    of: Of
    owner_id: int
    revision: int
    content: dict[str, Any]
    written_at: str
    withdrawn: bool


def add_row(db: sqlite3.Connection, of: Of, owner_id: int, sheet: str, content: str, now: str) -> int:
    """Write a row down; return its id."""
    with atomic(db):
        cursor = db.execute(
            f"INSERT INTO sheet_row (sheet, {OWNER[of]}, content, written_at) VALUES (:sheet, :owner, :content, :now)",
            {"sheet": sheet, "owner": owner_id, "content": content, "now": now},
        )
    return int(cursor.lastrowid or 0)


def list_rows(db: sqlite3.Connection, of: Of, owner_id: int) -> list[SheetRow]:
    """Rows of all sheets of a trial, build or site that were not taken back, in the order in which they were written."""
    rows = db.execute(
        f"SELECT * FROM sheet_row WHERE {OWNER[of]} = :owner AND withdrawn_at IS NULL ORDER BY id", {"owner": owner_id}
    )
    return [_row(row) for row in rows]


def contents(db: sqlite3.Connection, of: Of, owner_id: int) -> dict[str, list[dict[str, Any]]]:
    """The same by their sheets, contents alone."""
    out: dict[str, list[dict[str, Any]]] = {}
    for row in list_rows(db, of, owner_id):
        out.setdefault(row.sheet, []).append(row.content)
    return out


def get_row(db: sqlite3.Connection, row_id: int) -> SheetRow:
    """One row, taken back or not.

    Raises:
        NotFoundError: there is none of that id.
    """
    row = db.execute("SELECT * FROM sheet_row WHERE id = :id", {"id": row_id}).fetchone()
    if row is None:
        raise NotFoundError(f"there is no row {row_id}")
    return _row(row)


def change_row(db: sqlite3.Connection, row_id: int, content: str, seen: int) -> None:
    """Write a row anew if nobody changed it since ``seen``.

    Raises:
        StaleWriteError: somebody did; nothing is written.
    """
    with atomic(db):
        _check_seen(get_row(db, row_id), seen)
        db.execute(
            "UPDATE sheet_row SET content = :content, revision = revision + 1 WHERE id = :id",
            {"content": content, "id": row_id},
        )


def withdraw_row(db: sqlite3.Connection, row_id: int, seen: int, now: str | None) -> None:
    """Take a row back, or bring it back with ``now`` None.

    Raises:
        StaleWriteError: somebody changed it since ``seen``; nothing is written.
    """
    with atomic(db):
        _check_seen(get_row(db, row_id), seen)
        db.execute(
            "UPDATE sheet_row SET withdrawn_at = :now, revision = revision + 1 WHERE id = :id",
            {"now": now, "id": row_id},
        )


def _check_seen(row: SheetRow, seen: int) -> None:
    if row.revision != seen:
        raise StaleWriteError(
            f"this row was changed elsewhere (you saw revision {seen}, it is now {row.revision}); "
            "your change was not written: look at the newer one, then repeat yours",
            row.revision,
        )


def _row(row: sqlite3.Row) -> SheetRow:
    of: Of = next(of for of, column in OWNER.items() if row[column] is not None)
    return SheetRow(
        id=row["id"],
        sheet=row["sheet"],
        of=of,
        owner_id=row[OWNER[of]],
        revision=row["revision"],
        content=_content(row["content"]),
        written_at=row["written_at"],
        withdrawn=row["withdrawn_at"] is not None,
    )


def _content(text: str) -> dict[str, Any]:
    """What was typed; nothing where it is no JSON any more, which no sheet takes for a row of its own."""
    try:
        found = json.loads(text)
    except ValueError:
        return {}
    return found if isinstance(found, dict) else {}
