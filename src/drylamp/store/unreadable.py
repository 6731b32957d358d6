"""Documents in the data file that can no longer be read: where they stand and why, and how they are mended.

A broken disk, a hand in the file or an older version's slip must not blank a list: lists leave such rows out, this page
tells of them, and whoever knows what it should say can write it anew.
"""

from __future__ import annotations

import sqlite3
from collections.abc import Callable, Iterable, Iterator
from dataclasses import dataclass
from typing import Any, TypeVar

from pydantic import ValidationError

from drylamp.core.builds.registry import BUILD
from drylamp.core.checks import InputProblem, explain
from drylamp.core.loads.registry import LOAD
from drylamp.core.quantities import said_field
from drylamp.core.sky.site import Site
from drylamp.core.sky.weather import ClearDay
from drylamp.core.tables import FAMILIES
from drylamp.core.trials.facts import Goal
from drylamp.core.trials.instruments import ProbeCalibration
from drylamp.core.twin.calibration import Calibration
from drylamp.store.database import NotFoundError, UnreadableError, atomic

A = TypeVar("A")
B = TypeVar("B")
Read = Callable[[str], object]
MOST = 200
"""So many are told of at once."""


@dataclass(frozen=True)
class Place:
    """A column of documents.

    Attributes:
        key, name: SQL for what tells its rows apart, and for what a person knows them by
        read: reads a document or raises
        better: SQL for a readable document in its place that may do instead, newest first; none where there is none
    """

    what: str
    table: str
    column: str
    name: str
    read: Read
    key: str = "rowid"
    where: str = "1"
    better: str = ""


def _revision(column: str, what: str, read: Read) -> Place:
    return Place(
        what, "build_revision", column, "name || ', revision ' || number", read,
        where="EXISTS (SELECT 1 FROM build AS b WHERE b.id = build_id AND b.revision = number) OR EXISTS (SELECT 1 FROM trial AS t WHERE t.build_id = build_revision.build_id AND t.build_revision = number)",
        better=f"SELECT {column} FROM build_revision WHERE build_id = (SELECT build_id FROM build_revision WHERE rowid = :key) AND rowid <> :key AND {column} IS NOT NULL ORDER BY number DESC LIMIT 20",
    )  # fmt: skip


PLACES: dict[str, Place] = {
    place.what: place
    for place in (
        Place("site", "site", "doc", "'site ' || id", Site.model_validate_json),
        _revision("spec", "build", BUILD.validate_json),
        _revision("load", "load-of-build", LOAD.validate_json),
        Place("weather-of-trial", "trial", "weather", "name", ClearDay.model_validate_json),
        Place("load-of-trial", "trial", "load", "name", LOAD.validate_json),
        Place("goal-of-trial", "trial", "goal", "name", Goal.model_validate_json),
        Place("calibration-of-channel", "channel", "calibration", "title", ProbeCalibration.model_validate_json),
        Place("calibration", "calibration", "adjustments", "'calibration ' || id", Calibration.model_validate_json),
        Place("day", "day_weather", "doc", "day", ClearDay.model_validate_json, key="site_id || '/' || day"),
        *(
            Place(f"own-{family}", "material", "doc", "name", FAMILIES[family].model.model_validate_json, where=f"family = '{family}'")
            for family in FAMILIES
        ),
    )
}  # fmt: skip


@dataclass(frozen=True)
class Unreadable:
    """A document that cannot be read: as it stands, why, and one that may do instead (empty where there is none)."""

    what: str
    key: str
    name: str
    why: str
    text: str
    better: str


def readable(rows: Iterable[A], read: Callable[[A], B]) -> list[B]:
    """What can be read of rows; the others are told of by ``find``."""
    return list(_readable(rows, read))


def _readable(rows: Iterable[A], read: Callable[[A], B]) -> Iterator[B]:
    for row in rows:
        try:
            yield read(row)
        except UnreadableError:
            continue


def of_row(what: str, name: str, read: Callable[[], A]) -> A:
    """What is read of a row.

    Raises
    ------
    UnreadableError
        it cannot be; the sentence says where it can be mended.
    """
    try:
        return read()
    except (ValidationError, InputProblem, ValueError) as error:
        raise UnreadableError(f"{what} {name} can no longer be read: {_why(error)}. Put it right under “Cannot be read”.") from None  # fmt: skip


def _why(error: Exception) -> str:
    if isinstance(error, ValidationError | InputProblem):
        first = explain(error)[0]
        if "invalid JSON" in first.message:
            return f"it is no JSON ({first.message.rpartition(': ')[2]})"
        return f"{said_field(first.field)} {first.message}" if first.field else first.message
    return str(error)


def find(db: sqlite3.Connection) -> list[Unreadable]:
    """All that cannot be read, at most MOST of them."""
    out: list[Unreadable] = []
    for place in PLACES.values():
        rows = db.execute(
            f"SELECT {place.key} AS key, {place.name} AS name, {place.column} AS doc FROM {place.table} WHERE {place.column} IS NOT NULL AND ({place.where})"
        )
        for row in rows.fetchall():
            why = _trouble(place, row["doc"])
            if why:
                out.append(Unreadable(place.what, str(row["key"]), row["name"], why, str(row["doc"]), _better(db, place, row["key"])))  # fmt: skip
            if len(out) == MOST:
                return out
    return out


def _trouble(place: Place, text: Any) -> str:
    try:
        place.read(text)
    except (ValidationError, InputProblem, ValueError, TypeError) as error:
        return _why(error)
    return ""


def _better(db: sqlite3.Connection, place: Place, key: Any) -> str:
    if not place.better:
        return ""
    found = (row[0] for row in db.execute(place.better, {"key": key}).fetchall())
    return next((text for text in found if not _trouble(place, text)), "")


def mend(db: sqlite3.Connection, what: str, key: str, text: str) -> None:
    """Write a document anew where one stands that cannot be read.

    Raises
    ------
    NotFoundError
        there is none, or it can be read.
    InputProblem
        what was written cannot be read either.
    """
    place = PLACES.get(what)
    with atomic(db):
        row = None if place is None else db.execute(f"SELECT {place.column} FROM {place.table} WHERE {place.key} = :key", {"key": key}).fetchone()  # fmt: skip
        if place is None or row is None or not _trouble(place, row[0]):
            raise NotFoundError(f"there is no {what} {key} that cannot be read")
        why = _trouble(place, text)
        if why:
            raise InputProblem("text", why)
        db.execute(f"UPDATE {place.table} SET {place.column} = :text WHERE {place.key} = :key", {"text": text, "key": key})  # fmt: skip
