"""The short forms of what ``make soak`` does for hours."""

from __future__ import annotations

import sqlite3
from pathlib import Path

import pytest

from drylamp.store.database import Database, migrations
from tests.soak.filling import fill_up, small_disk
from tests.soak.killing import kill_often
from tests.soak.locking import hold_often
from tests.soak.starting import refused_start, start_twice


def test_twelve_kills_under_two_thousand_readings_a_second(tmp_path: Path):
    tally = kill_often(tmp_path, kills=12, per_s=2000.0)
    assert tally.kills == 12
    assert tally.acknowledged >= 1000
    assert (tally.lost, tally.changed) == (0, 0)


def test_a_full_disk_is_said_and_loses_nothing(tmp_path: Path):
    try:
        with small_disk(tmp_path, 8) as folder:
            found = fill_up(folder, rounds=2)
    except PermissionError:
        pytest.skip("only root may mount a small disk")
    assert found.refused == 2
    assert "full; nothing was written" in found.said
    assert found.lost == 0
    assert found.went_on
    assert found.lists_worked


def test_a_held_file_is_said_and_loses_nothing(tmp_path: Path):
    found = hold_often(tmp_path, times=3)
    assert found.refused == 3
    assert "another program holds" in found.said
    assert found.lost == 0


def test_two_starts_at_once_on_one_folder(tmp_path: Path):
    found = start_twice(tmp_path, 1)
    assert found.pairs == 1
    assert "cannot be used" in found.said


def _no_database(folder: Path) -> None:
    (folder / "drylamp.sqlite3").write_text("this is a letter to the bees, and no data file at all" * 40)


def _cut(folder: Path) -> None:
    Database(folder / "drylamp.sqlite3").close()
    whole = (folder / "drylamp.sqlite3").read_bytes()
    (folder / "drylamp.sqlite3").write_bytes(whole[:4096] + b"\xff" * 8192)


def _newer(folder: Path) -> None:
    with sqlite3.connect(folder / "drylamp.sqlite3") as db:
        db.execute(f"PRAGMA user_version = {migrations()[-1][0] + 7}")
    db.close()


def _stranger(folder: Path) -> None:
    with sqlite3.connect(folder / "drylamp.sqlite3") as db:
        db.execute("CREATE TABLE songs (title TEXT)")
    db.close()


def _folder(folder: Path) -> None:
    (folder / "drylamp.sqlite3").mkdir()


@pytest.mark.parametrize(("spoil", "says"), [
    (_no_database, "is no data file of Dry Lamp"), (_cut, "damaged"), (_newer, "made by a newer Dry Lamp"), (_stranger, "another program's data file"), (_folder, "is no file"),
])  # fmt: skip
def test_a_data_file_that_cannot_be_used_is_said_in_one_line_and_left_alone(tmp_path: Path, spoil, says: str):
    spoil(tmp_path)
    path = tmp_path / "drylamp.sqlite3"
    before = path.read_bytes() if path.is_file() else b""
    done = refused_start(tmp_path)
    assert done.returncode == 2, done
    assert says in done.stderr
    assert done.stderr.count("\n") == 1
    assert (path.read_bytes() if path.is_file() else b"") == before


def test_a_folder_that_cannot_be_written_is_said_in_one_line():
    done = refused_start(Path("/dev/null/yard"))
    assert done.returncode == 2
    assert done.stderr.count("\n") == 1
    assert "cannot be written" in done.stderr


def test_only_the_owner_reads_what_is_at_rest(tmp_path: Path):
    Database(tmp_path / "own" / "yard.sqlite3").close()
    assert (tmp_path / "own").stat().st_mode & 0o777 == 0o700
    assert (tmp_path / "own" / "yard.sqlite3").stat().st_mode & 0o777 == 0o600
    loose = tmp_path / "loose"
    loose.mkdir(mode=0o755)
    (loose / "yard.sqlite3").touch(mode=0o644)
    store = Database(loose / "yard.sqlite3")
    assert {path.stat().st_mode & 0o077 for path in [loose, *loose.iterdir()]} == {0}
    store.close()
    shared = tmp_path / "shared"
    shared.mkdir(mode=0o755)
    (shared / "letters.txt").touch()
    Database(shared / "yard.sqlite3").close()
    assert shared.stat().st_mode & 0o777 == 0o755
