"""Which column of a file went to which channel, remembered by build and header so that the next file of its kind fits at once."""

from __future__ import annotations

import json
import sqlite3

from drylamp.store.database import atomic


def remember(db: sqlite3.Connection, build_id: int, header: list[str], mapping: dict[str, str]) -> None:
    """Keep where the columns of a header went."""
    with atomic(db):
        db.execute(
            "INSERT OR REPLACE INTO import_mapping (build_id, header, mapping) VALUES (:build, :header, :mapping)",
            {"build": build_id, "header": json.dumps(header), "mapping": json.dumps(mapping)},
        )


def recall(db: sqlite3.Connection, build_id: int, header: list[str]) -> dict[str, str]:
    """Where the columns of a header went last time; empty when it was never seen."""
    row = db.execute(
        "SELECT mapping FROM import_mapping WHERE build_id = :build AND header = :header",
        {"build": build_id, "header": json.dumps(header)},
    ).fetchone()
    try:
        return {} if row is None else dict(json.loads(row["mapping"]))
    except ValueError:  # nothing is remembered, and the columns are asked about
        return {}
