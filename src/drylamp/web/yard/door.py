"""A data file written as a yard file, and a yard file taken into one: where the store and the file's form meet."""

from __future__ import annotations

import sqlite3
from typing import IO

from pydantic import ValidationError

from drylamp.core.checks import InputProblem, explain
from drylamp.formats.yard.parts import TrialPart, YardFile
from drylamp.formats.yard.reader import YardPreview, YardReader
from drylamp.formats.yard.writer import Sources, write_yard
from drylamp.store import sites, yard


def write(db: sqlite3.Connection, out: IO[bytes], made_at: str) -> YardFile:
    """Write all of a data file, as it stands at one moment."""
    db.execute("BEGIN")
    try:
        record, rows = yard.dump(db, made_at)
        found = _as_file(record)
        sources = Sources(
            lambda file: yard.readings_of(db, rows[file]),
            lambda file: yard.photo_of(db, file, rows[file]),
            lambda file: yard.weather_of(db, rows[file]),
        )
        write_yard(out, found, sources)
    finally:
        db.execute("COMMIT")
    return found


def _as_file(record: yard.Record) -> YardFile:
    try:
        return YardFile.model_validate(record)
    except ValidationError as error:
        first = explain(error)[0]
        raise InputProblem(first.field, f"{first.message}; it cannot be read, so put it right first") from None


def preview(db: sqlite3.Connection, given: IO[bytes]) -> YardPreview:
    """What would come in; nothing is written.

    Raises
    ------
    InputProblem
        it cannot be taken; says why.
    """
    return YardReader(given).preview([row.site.name for row in sites.list_sites(db)])


def take_in(db: sqlite3.Connection, given: IO[bytes]) -> list[int]:
    """Take a yard in beside what there is, all of it or nothing; return the new sites' ids.

    Raises
    ------
    InputProblem
        it cannot be taken; nothing is written.
    """
    reader = YardReader(given)
    parts = yard.Parts(
        lambda trial: reader.readings(TrialPart.model_validate(trial)),
        reader.read,
        reader.text,
    )
    return yard.take_in(db, reader.yard.model_dump(mode="json"), parts)
