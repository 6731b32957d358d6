"""A user's own materials: the same models as the listed tables, kept beside them."""

from __future__ import annotations

import sqlite3
from dataclasses import dataclass

from drylamp.core.checks import InputProblem, require
from drylamp.core.tables import FAMILIES, Row
from drylamp.store.database import NotFoundError, StaleWriteError, atomic
from drylamp.store.unreadable import of_row, readable


@dataclass(frozen=True)
class MaterialRow:
    """A stored material of one family."""

    id: int
    family: str
    revision: int
    row: Row


def add_material(db: sqlite3.Connection, family: str, row: Row) -> MaterialRow:
    """Keep a material.

    Raises:
        InputProblem: a listed or own material of the family has this name.
    """
    with atomic(db):
        _check_name(db, family, row.name, None)
        cursor = db.execute(
            "INSERT INTO material (family, name, doc) VALUES (:family, :name, :doc)",
            {"family": family, "name": row.name, "doc": row.model_dump_json()},
        )
    return MaterialRow(int(cursor.lastrowid or 0), family, 1, row)


def list_materials(db: sqlite3.Connection) -> list[MaterialRow]:
    """All own materials that were not removed, oldest first."""
    rows = db.execute("SELECT id, family, revision, doc FROM material WHERE removed_at IS NULL ORDER BY id")
    return readable(rows, _row)


def get_material(db: sqlite3.Connection, material_id: int) -> MaterialRow:
    """One own material, removed or not.

    Raises:
        NotFoundError: there is none of that id.
    """
    row = db.execute("SELECT id, family, revision, doc FROM material WHERE id = :id", {"id": material_id}).fetchone()
    if row is None:
        raise NotFoundError(f"there is no material {material_id}")
    return _row(row)


def change_material(db: sqlite3.Connection, material_id: int, family: str, row: Row, seen: int) -> MaterialRow:
    """Store a changed material; builds keep the row they were made with.

    Raises:
        StaleWriteError: somebody changed it since revision ``seen``.
        InputProblem: it is of another family, or another material has this name.
    """
    with atomic(db):
        current = _seen(db, material_id, seen)
        same = current.family == family
        require(same, family, f"material {material_id} is a {current.family}; give its row as '{current.family}'")
        _check_name(db, current.family, row.name, material_id)
        db.execute(
            "UPDATE material SET name = :name, doc = :doc, revision = revision + 1 WHERE id = :id",
            {"id": material_id, "name": row.name, "doc": row.model_dump_json()},
        )
    return MaterialRow(material_id, current.family, seen + 1, row)


def remove_material(db: sqlite3.Connection, material_id: int, seen: int, now: str) -> None:
    """Take a material off the shelf; it can be put back.

    Raises:
        StaleWriteError: somebody changed it since revision ``seen``.
    """
    with atomic(db):
        _seen(db, material_id, seen)
        db.execute("UPDATE material SET removed_at = :now WHERE id = :id", {"id": material_id, "now": now})


def restore_material(db: sqlite3.Connection, material_id: int) -> MaterialRow:
    """Put a removed material back.

    Raises:
        InputProblem: its name was taken meanwhile.
    """
    with atomic(db):
        current = get_material(db, material_id)
        _check_name(db, current.family, current.row.name, material_id)
        db.execute("UPDATE material SET removed_at = NULL WHERE id = :id", {"id": material_id})
    return current


def _seen(db: sqlite3.Connection, material_id: int, seen: int) -> MaterialRow:
    current = get_material(db, material_id)
    if current.revision != seen:
        raise StaleWriteError(
            f"this material was changed elsewhere (you saw revision {seen}, it is {current.revision}); reload and repeat",
            current.revision,
        )
    return current


def _check_name(db: sqlite3.Connection, family: str, name: str, own_id: int | None) -> None:
    if name in FAMILIES[family].table():
        raise InputProblem("name", f"'{name}' is a listed {family}; give your own another name")
    taken = db.execute(
        "SELECT id FROM material WHERE family = :family AND name = :name AND removed_at IS NULL AND id IS NOT :own",
        {"family": family, "name": name, "own": own_id},
    ).fetchone()
    if taken is not None:
        raise InputProblem("name", f"'{name}' is already on your shelf; give this one another name or change that one")


def _row(row: sqlite3.Row) -> MaterialRow:
    model = FAMILIES[row["family"]].model
    read = of_row("Material", row["id"], lambda: model.model_validate_json(row["doc"]))
    return MaterialRow(row["id"], row["family"], row["revision"], read)
