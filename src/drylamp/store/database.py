"""The one module that opens connections and brings the schema up to date.

StoreError
 ├─ NotFound       no such row
 ├─ StaleWrite     somebody else changed it since it was read
 └─ NewerSchema    the file was made by a newer version
"""

from __future__ import annotations

import shutil
import sqlite3
from collections.abc import Iterator
from contextlib import contextmanager
from importlib import resources
from pathlib import Path

from drylamp.core.checks import DryLampError


class StoreError(DryLampError):
    """Anything the store can explain."""


class NotFoundError(StoreError):
    """No such row."""


class StaleWriteError(StoreError):
    """The write was made against an older revision than the current one."""

    def __init__(self, message: str, current: int | str) -> None:
        super().__init__(message)
        self.current = current


class NewerSchemaError(StoreError):
    """The data file was made by a newer version of Dry Lamp."""


def migrations() -> list[tuple[int, str, str]]:
    """Numbered migrations in order: (number, name, SQL)."""
    folder = resources.files("drylamp.store").joinpath("schema")
    files = sorted((f for f in folder.iterdir() if f.name.endswith(".sql")), key=lambda f: f.name)
    return [(int(f.name.split("_")[0]), f.name, f.read_text(encoding="utf-8")) for f in files]


class Database:
    """A data file. Every request or job opens its own connection."""

    def __init__(self, path: Path) -> None:
        self.path = path
        path.parent.mkdir(parents=True, exist_ok=True)
        self._migrate()
        # While one connection stays open, closing the others does not fold the log into the file each time.
        self._keeper = self.connect()

    def close(self) -> None:
        """Let the file go; the log is folded in."""
        self._keeper.close()

    def connect(self) -> sqlite3.Connection:
        """Open a connection: rows by name, foreign keys on, writes waiting their turn."""
        connection = sqlite3.connect(self.path, timeout=30.0, isolation_level=None, check_same_thread=False)
        connection.row_factory = sqlite3.Row
        connection.execute("PRAGMA foreign_keys = ON")
        connection.execute("PRAGMA journal_mode = WAL")
        connection.execute("PRAGMA synchronous = FULL")
        return connection

    @contextmanager
    def session(self) -> Iterator[sqlite3.Connection]:
        """A connection that is closed afterwards."""
        connection = self.connect()
        try:
            yield connection
        finally:
            connection.close()

    def version(self) -> int:
        """Number of the last migration applied."""
        with self.session() as db:
            return int(db.execute("PRAGMA user_version").fetchone()[0])

    def _migrate(self) -> None:
        steps, have = migrations(), self.version()
        newest = steps[-1][0]
        if have > newest:
            raise NewerSchemaError(
                f"{self.path} was made by a newer Dry Lamp (schema {have}, this one knows {newest}); update Dry Lamp, the file is untouched"
            )
        if 0 < have < newest:
            with self.session() as db:  # the copy must hold what is still in the log
                db.execute("PRAGMA wal_checkpoint(TRUNCATE)")
            shutil.copy2(self.path, self.path.with_suffix(f".before-{newest:03d}{self.path.suffix}"))
        for number, _, sql in steps:
            if number > have:
                with self.session() as db, atomic(db):
                    for statement in statements(sql):
                        db.execute(statement)
                    db.execute(f"PRAGMA user_version = {number:d}")


def statements(sql: str) -> Iterator[str]:
    """Split a script into statements (executescript would commit before the first)."""
    held = ""
    for piece in sql.split(";")[:-1]:
        held += piece + ";"
        if sqlite3.complete_statement(held):
            yield held.strip()
            held = ""
    if held:
        yield held.strip()


@contextmanager
def atomic(db: sqlite3.Connection) -> Iterator[sqlite3.Connection]:
    """All or nothing; nests by savepoints."""
    outermost = not db.in_transaction
    db.execute("BEGIN IMMEDIATE" if outermost else "SAVEPOINT part")
    try:
        yield db
    except BaseException:
        db.execute("ROLLBACK" if outermost else "ROLLBACK TO part")
        if not outermost:
            db.execute("RELEASE part")
        raise
    db.execute("COMMIT" if outermost else "RELEASE part")
