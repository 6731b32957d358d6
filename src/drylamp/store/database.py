"""The one module that opens connections and brings the schema up to date.

StoreError
 ├─ NotFound       no such row
 ├─ StaleWrite     somebody else changed it since it was read
 ├─ Unreadable     a row holds what cannot be read any more
 └─ FileTrouble    the data file or its disk
     ├─ NewerSchema    made by a newer version
     ├─ FileBusy       another program holds it
     ├─ DiskFull       no room to write
     └─ FileDamaged    no data file, or a broken one
"""

from __future__ import annotations

import shutil
import sqlite3
from collections.abc import Iterator
from contextlib import contextmanager
from importlib import resources
from pathlib import Path
from urllib.parse import quote

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


class UnreadableError(StoreError):
    """A row holds what cannot be read any more."""


class FileTroubleError(StoreError):
    """The data file, or the disk that it lies on."""


class NewerSchemaError(FileTroubleError):
    """The data file was made by a newer version of Dry Lamp."""


class FileBusyError(FileTroubleError):
    """Another program holds the data file."""


class DiskFullError(FileTroubleError):
    """There is no room to write."""


class FileDamagedError(FileTroubleError):
    """It is no data file, or a broken one."""


PATIENCE_S = 10.0
"""So long a write waits for another one."""


def migrations() -> list[tuple[int, str, str]]:
    """Numbered migrations in order: (number, name, SQL)."""
    folder = resources.files("drylamp.store").joinpath("schema")
    files = sorted((f for f in folder.iterdir() if f.name.endswith(".sql")), key=lambda f: f.name)
    return [(int(f.name.split("_")[0]), f.name, f.read_text(encoding="utf-8")) for f in files]


class Database:
    """A data file. Every request or job opens its own connection."""

    def __init__(self, path: Path) -> None:
        """Open a data file, or make one that only its owner can read.

        Raises
        ------
        FileTroubleError
            it cannot be made, opened or read, or is newer than this program.
        """
        self.path = path
        require_file(path)
        _look_at(path)
        _make_private(path)
        self._migrate()
        # While one connection stays open, closing the others does not fold the log into the file each time.
        self._keeper = self.connect()

    def close(self) -> None:
        """Let the file go; the log is folded in."""
        self._keeper.close()

    def connect(self) -> sqlite3.Connection:
        """Open a connection: rows by name, foreign keys on, writes waiting their turn."""
        with explained(self.path):
            connection = sqlite3.connect(self.path, timeout=PATIENCE_S, isolation_level=None, check_same_thread=False)
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
            with explained(self.path):
                yield connection
        finally:
            connection.close()

    def version(self) -> int:
        """Number of the last migration applied."""
        with self.session() as db:
            return _version(db)

    def _migrate(self) -> None:
        steps, have = migrations(), self.version()
        newest = steps[-1][0]
        if 0 < have < newest:
            with self.session() as db:  # the copy must hold what is still in the log
                db.execute("PRAGMA wal_checkpoint(TRUNCATE)")
            self._copy(self.path.with_suffix(f".before-{newest:03d}{self.path.suffix}"))
        for number, _, sql in steps:
            if number > have:
                with self.session() as db, atomic(db):
                    if _version(db) >= number:  # another start was quicker
                        continue
                    for statement in statements(sql):
                        db.execute(statement)
                    db.execute(f"PRAGMA user_version = {number:d}")

    def _copy(self, target: Path) -> None:
        try:
            shutil.copy2(self.path, target)
        except OSError as error:
            raise FileTroubleError(
                f"{self.path} must be moved to a newer schema, and no copy of it can be kept at {target} ({error.strerror}); make room there, the file is untouched"
            ) from None


def _look_at(path: Path) -> None:
    """Look at a file before anything of it is touched, its journal's mode too.

    Raises
    ------
    FileTroubleError
        it is another program's, a newer version's, or no data file.
    """
    if not path.exists() or not path.stat().st_size:
        return
    with explained(path):
        db = sqlite3.connect(f"file:{quote(str(path.absolute()))}?mode=ro", uri=True, timeout=PATIENCE_S)
        try:
            have, tables = _version(db), int(db.execute("SELECT COUNT(*) FROM sqlite_master").fetchone()[0])
        finally:
            db.close()
    newest = migrations()[-1][0]
    if have > newest:
        raise NewerSchemaError(
            f"{path} was made by a newer Dry Lamp (schema {have}, this one knows {newest}); update Dry Lamp, the file is untouched"
        )
    if have == 0 and tables:
        raise FileDamagedError(
            f"{path} is another program's data file; it is untouched: name another folder with --data"
        )


def _version(db: sqlite3.Connection) -> int:
    return int(db.execute("PRAGMA user_version").fetchone()[0])


def _make_private(path: Path) -> None:
    """Make the folder and the file, or take away what others may do with them."""
    try:
        path.parent.mkdir(parents=True, exist_ok=True, mode=0o700)
        path.touch(mode=0o600, exist_ok=True)
        for kept in (path, *(path.with_name(path.name + end) for end in ("-wal", "-shm"))):
            if kept.exists() and kept.stat().st_mode & 0o077:
                kept.chmod(0o600)
        _close_folder(path.parent)
    except OSError as error:
        raise FileTroubleError(
            f"{path} cannot be written ({error.strerror}); name a folder of yours with --data"
        ) from None


def require_file(path: Path) -> None:
    """Refuse what is there and no file.

    Raises
    ------
    FileTroubleError
        it is a folder or a device.
    """
    if path.exists() and not path.is_file():
        raise FileTroubleError(f"{path} is no file, and the data file must lie there; move it away or use --data")


def _close_folder(folder: Path) -> None:
    """Close a folder to others that holds nothing but data files, and is the owner's."""
    if folder.stat().st_mode & 0o077 and all(is_ours(one) for one in folder.iterdir()):
        folder.chmod(0o700)


def is_ours(path: Path) -> bool:
    """Whether a file is one of a data folder: the data file, its log, or a copy of it."""
    return ".sqlite3" in path.suffixes or ".sqlite3-" in path.name


TROUBLES: tuple[tuple[str, type[FileTroubleError], str], ...] = (
    ("SQLITE_FULL", DiskFullError, "the disk that {path} lies on is full; nothing was written: make room, then repeat"),
    ("SQLITE_BUSY", FileBusyError, "another program holds {path}; nothing was written: wait for it to end, then repeat"),
    ("SQLITE_LOCKED", FileBusyError, "another program holds {path}; nothing was written: wait for it to end, then repeat"),
    ("SQLITE_NOTADB", FileDamagedError, "{path} is no data file of Dry Lamp; it is untouched: name another folder with --data"),
    ("SQLITE_CORRUPT", FileDamagedError, "{path} is damaged; put a copy of it in its place (older ones lie beside it), or keep it for somebody who can mend it"),
    ("SQLITE_READONLY", FileTroubleError, "{path} may not be written; nothing was: look at who owns it, and whether its disk is mounted to be read only"),
    ("SQLITE_CANTOPEN", FileTroubleError, "{path} cannot be opened; look at who owns it and its folder"),
    ("SQLITE_IOERR", FileTroubleError, "the disk that {path} lies on fails to read or write; nothing was written"),
)  # fmt: skip
"""What a data file's troubles are called, how they are raised, and what is said."""


@contextmanager
def explained(path: Path) -> Iterator[None]:
    """Turn what goes wrong with the file or its disk into what a person can be told.

    Raises
    ------
    FileTroubleError
        that did.
    """
    try:
        yield
    except sqlite3.DatabaseError as error:
        name = getattr(error, "sqlite_errorname", "") or ""
        for code, kind, words in TROUBLES:
            if name.startswith(code):
                raise kind(words.format(path=path)) from error
        raise


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
        db.execute("COMMIT" if outermost else "RELEASE part")
    except BaseException:
        if db.in_transaction:  # a full disk has undone it already
            db.execute("ROLLBACK" if outermost else "ROLLBACK TO part")
            if not outermost:
                db.execute("RELEASE part")
        raise
