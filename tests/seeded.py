"""The demo's data file, filled once for all workers of a test run: filling takes some twenty runs of the twin."""

from __future__ import annotations

import atexit
import fcntl
import os
import shutil
import tempfile
from pathlib import Path

from drylamp.demo.seed import fill
from drylamp.store.database import Database

PLACE = "DRYLAMP_SEEDS"
"""Environment variable that names the run's folder; workers inherit it."""


def begin() -> None:
    """Make the run's folder."""
    os.environ[PLACE] = tempfile.mkdtemp(prefix="drylamp-seeds-")


def end() -> None:
    """Take it away."""
    shutil.rmtree(os.environ.pop(PLACE), ignore_errors=True)


def copy_to(target: Path) -> Path:
    """The demo's data file, at a path of one's own."""
    if PLACE not in os.environ:  # outside of pytest
        begin()
        atexit.register(end)
    folder = Path(os.environ[PLACE])
    filled = folder / "yard.sqlite3"
    with (folder / "lock").open("w") as lock:
        fcntl.flock(lock, fcntl.LOCK_EX)
        if not filled.exists():
            store = Database(folder / "filling.sqlite3")
            fill(store)
            store.close()
            (folder / "filling.sqlite3").rename(filled)
    target.parent.mkdir(parents=True, exist_ok=True)
    return Path(shutil.copy(filled, target))
