"""Builds and their revisions: every change is a new revision, undo walks back along them."""

from __future__ import annotations

import sqlite3
from dataclasses import dataclass

from drylamp.core.builds.build import Build
from drylamp.core.builds.registry import BUILD
from drylamp.core.loads.load import Load
from drylamp.core.loads.registry import read_load
from drylamp.store.database import NotFoundError, StaleWriteError, StoreError, atomic
from drylamp.store.unreadable import of_row, readable


@dataclass(frozen=True)
class BuildRow:
    """A build at one of its revisions; ``undo_to`` is the revision that undo brings back, ``undoes`` the note of the change that it takes back, ``variant_of`` the build that it branched off at revision ``variant_from``."""

    id: int
    site_id: int
    revision: int
    name: str
    spot: str | None
    spec: Build
    load: Load | None
    note: str
    undo_to: int | None
    created_at: str
    removed: bool
    deleted: bool = False
    variant_of: int | None = None
    variant_from: int | None = None
    undoes: str | None = None


@dataclass(frozen=True)
class Draft:
    """What a person wants a build to be."""

    name: str
    spot: str | None
    spec: Build
    load: Load | None
    note: str = ""


SELECT = """
    SELECT b.id, b.site_id, r.number, r.name, r.spot, r.spec, r.load, r.note, r.undo_to, r.created_at, b.removed_at, b.deleted_at, b.variant_of, b.variant_from,
        (SELECT u.note FROM build_revision AS u WHERE u.build_id = b.id AND u.number = r.undo_to + 1) AS undoes
    FROM build AS b JOIN build_revision AS r ON r.build_id = b.id
"""


def add_build(db: sqlite3.Connection, site_id: int, draft: Draft, now: str) -> BuildRow:
    """Store a new build at revision 1."""
    with atomic(db):
        cursor = db.execute("INSERT INTO build (site_id, revision) VALUES (:site, 1)", {"site": site_id})
        build_id = int(cursor.lastrowid or 0)
        _insert(db, build_id, 1, draft, None, now)
    return get_build(db, build_id)


def add_variant(db: sqlite3.Connection, build_id: int, name: str, now: str) -> BuildRow:
    """Branch a build off another one as it is now.

    Raises:
        NotFoundError: there is no such build.
    """
    with atomic(db):
        base = get_build(db, build_id)
        draft = Draft(name, base.spot, base.spec, base.load, f"variant of {base.name}")
        made = add_build(db, base.site_id, draft, now)
        db.execute(
            "UPDATE build SET variant_of = :base, variant_from = :revision WHERE id = :id",
            {"base": build_id, "revision": base.revision, "id": made.id},
        )
    return get_build(db, made.id)


def list_builds(db: sqlite3.Connection, site_id: int | None = None) -> list[BuildRow]:
    """Current revisions of all builds that are neither put away nor deleted."""
    return readable(_current(db, "b.removed_at IS NULL AND b.deleted_at IS NULL", site_id), _row)


def list_away(db: sqlite3.Connection, site_id: int | None = None) -> list[BuildRow]:
    """Current revisions of all builds that were put away or deleted."""
    return readable(_current(db, "(b.removed_at IS NOT NULL OR b.deleted_at IS NOT NULL)", site_id), _row)


def _current(db: sqlite3.Connection, where: str, site_id: int | None) -> sqlite3.Cursor:
    return db.execute(
        f"{SELECT} WHERE r.number = b.revision AND {where} AND (:site IS NULL OR b.site_id = :site) ORDER BY b.id",
        {"site": site_id},
    )


def get_build(db: sqlite3.Connection, build_id: int, revision: int | None = None) -> BuildRow:
    """A build at a revision (default: the current one).

    Raises:
        NotFoundError: there is none.
    """
    row = db.execute(
        SELECT + "WHERE b.id = :id AND r.number = COALESCE(:revision, b.revision)",
        {"id": build_id, "revision": revision},
    ).fetchone()
    if row is None:
        raise NotFoundError(f"there is no build {build_id}" + (f" at revision {revision}" if revision else ""))
    return _row(row)


def revisions(db: sqlite3.Connection, build_id: int) -> list[BuildRow]:
    """All revisions, newest first."""
    rows = db.execute(SELECT + "WHERE b.id = :id ORDER BY r.number DESC", {"id": build_id})
    return readable(rows, _row)


def change_build(db: sqlite3.Connection, build_id: int, draft: Draft, seen: int, now: str) -> BuildRow:
    """Store a change as a new revision if nobody changed the build since ``seen``.

    Raises:
        StaleWriteError: somebody did; nothing is written.
    """
    with atomic(db):
        _check_seen(get_build(db, build_id), seen)
        _advance(db, build_id, seen + 1, draft, seen, now)
    return get_build(db, build_id)


def undo_build(db: sqlite3.Connection, build_id: int, seen: int, now: str) -> BuildRow:
    """Bring back the revision before the last change, as a new revision; repeated, it walks further back.

    Raises:
        StoreError: there is nothing to undo.
        StaleWriteError: the build was changed elsewhere.
    """
    with atomic(db):
        current = get_build(db, build_id)
        _check_seen(current, seen)
        if current.undo_to is None:
            raise StoreError("there is nothing left to undo")
        back = get_build(db, build_id, current.undo_to)
        draft = Draft(back.name, back.spot, back.spec, back.load, f"undo to revision {back.revision}")
        _advance(db, build_id, seen + 1, draft, back.undo_to, now)
    return get_build(db, build_id)


def remove_build(db: sqlite3.Connection, build_id: int, now: str | None, seen: int) -> None:
    """Put a build away, or bring it back with ``now`` None; its trials stay.

    Raises:
        StaleWriteError: it was changed since revision ``seen``; nothing is written.
    """
    _mark(db, build_id, seen, "UPDATE build SET removed_at = :now WHERE id = :id", now)


def delete_build(db: sqlite3.Connection, build_id: int, now: str | None, seen: int) -> None:
    """Mark a build as deleted, or undo that with ``now`` None; nothing of it is lost.

    Raises:
        StaleWriteError: it was changed since revision ``seen``; nothing is written.
    """
    _mark(db, build_id, seen, "UPDATE build SET deleted_at = :now WHERE id = :id", now)


def _mark(db: sqlite3.Connection, build_id: int, seen: int, statement: str, now: str | None) -> None:
    with atomic(db):
        _check_seen(get_build(db, build_id), seen)
        db.execute(statement, {"now": now, "id": build_id})


def _check_seen(current: BuildRow, seen: int) -> None:
    if current.revision != seen:
        raise StaleWriteError(
            f"{current.name} was changed elsewhere (you saw revision {seen}, it is now {current.revision}); "
            "your change was not written: look at the newer one, then repeat yours",
            current.revision,
        )


def _advance(db: sqlite3.Connection, build_id: int, number: int, draft: Draft, undo_to: int | None, now: str) -> None:
    _insert(db, build_id, number, draft, undo_to, now)
    db.execute("UPDATE build SET revision = :number WHERE id = :id", {"number": number, "id": build_id})


def _insert(db: sqlite3.Connection, build_id: int, number: int, draft: Draft, undo_to: int | None, now: str) -> None:
    db.execute(
        """
        INSERT INTO build_revision (build_id, number, name, spot, spec, load, note, undo_to, created_at)
        VALUES (:build, :number, :name, :spot, :spec, :load, :note, :undo_to, :now)
        """,
        {
            "build": build_id,
            "number": number,
            "name": draft.name,
            "spot": draft.spot,
            "spec": draft.spec.model_dump_json(),
            "load": None if draft.load is None else draft.load.model_dump_json(),
            "note": draft.note,
            "undo_to": undo_to,
            "now": now,
        },
    )


def _row(row: sqlite3.Row) -> BuildRow:
    return BuildRow(
        id=row["id"],
        site_id=row["site_id"],
        revision=row["number"],
        name=row["name"],
        spot=row["spot"],
        spec=of_row("The build", row["name"], lambda: BUILD.validate_json(row["spec"])),
        load=of_row("The load of the build", row["name"], lambda: read_load(row["load"])),
        note=row["note"],
        undo_to=row["undo_to"],
        created_at=row["created_at"],
        removed=row["removed_at"] is not None,
        deleted=row["deleted_at"] is not None,
        variant_of=row["variant_of"],
        variant_from=row["variant_from"],
        undoes=row["undoes"],
    )
