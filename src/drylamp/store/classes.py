"""Trials over many boxes: whose channel is like which build."""

from __future__ import annotations

import sqlite3
from collections.abc import Sequence
from dataclasses import dataclass

from drylamp.store.database import atomic


@dataclass(frozen=True)
class BoxRow:
    """Somebody's box of a trial: its channel, and the build that it is like, at a revision; none for the trial's own."""

    channel: str
    build_id: int | None = None
    build_revision: int | None = None


def add_boxes(db: sqlite3.Connection, trial_id: int, boxes: Sequence[BoxRow]) -> None:
    """Write down whose boxes a trial reads."""
    with atomic(db):
        db.executemany(
            "INSERT INTO class_box (trial_id, channel, build_id, build_revision) VALUES (:trial, :channel, :build_id, :build_revision)",
            [{"trial": trial_id, **box.__dict__} for box in boxes],
        )


def list_boxes(db: sqlite3.Connection, trial_id: int) -> list[BoxRow]:
    """Boxes of a trial, in the order of its channels; none of a trial of one build."""
    rows = db.execute(
        """
        SELECT b.channel, b.build_id, b.build_revision FROM class_box AS b JOIN channel AS c ON c.trial_id = b.trial_id AND c.name = b.channel
        WHERE b.trial_id = :trial ORDER BY c.place, b.channel
        """,
        {"trial": trial_id},
    )
    return [BoxRow(row["channel"], row["build_id"], row["build_revision"]) for row in rows]
