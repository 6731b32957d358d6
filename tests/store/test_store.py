"""The data file: migrations, revisions, undo, lost updates, readings."""

import shutil
import sqlite3

import pytest

from drylamp.core.checks import InputProblem
from drylamp.core.sky.weather import ClearDay
from drylamp.demo.scenario import OVEN, STEW, TERRACE
from drylamp.store import builds, readings, sites, trials
from drylamp.store import database as database_module
from drylamp.store.builds import Draft
from drylamp.store.database import (
    Database,
    NewerSchemaError,
    NotFoundError,
    StaleWriteError,
    StoreError,
    atomic,
    statements,
)
from drylamp.store.readings import ReadingRow
from drylamp.store.trials import ChannelRow, TrialRow

NOW = "2025-06-12T10:00:00+00:00"


@pytest.fixture
def db(database):
    with database.session() as connection:
        sites.add_site(connection, TERRACE)
        yield connection


@pytest.fixture
def oven_row(db):
    return builds.add_build(db, 1, Draft("Oven", "terrace", OVEN, STEW), NOW)


@pytest.fixture
def trial_id(db, oven_row):
    channel = ChannelRow("tray", "tray", "tray", False, "probe", 1.0)
    weather = ClearDay(tmin_c=10, tmax_c=20)
    return trials.add_trial(
        db, TrialRow(0, oven_row.id, 1, "look", "quick-look", None, weather, None, False, 0, None, "", [channel])
    )


def reading(time_ms: int, value: float = 50.0, channel: str = "tray") -> ReadingRow:
    return ReadingRow(channel, time_ms, value, f"{value:g}", "C", "hand")


def test_new_file_has_the_newest_schema(database):
    assert database.version() == database_module.migrations()[-1][0]
    with database.session() as connection:
        assert connection.execute("PRAGMA foreign_keys").fetchone()[0] == 1
        assert connection.execute("PRAGMA journal_mode").fetchone()[0] == "wal"


def test_opening_again_changes_nothing(database):
    Database(database.path)
    assert not list(database.path.parent.glob("*.before-*"))


def test_newer_file_is_left_alone(database):
    with database.session() as connection:
        connection.execute("PRAGMA user_version = 99")
    before = database.path.read_bytes()
    with pytest.raises(NewerSchemaError, match="schema 99"):
        Database(database.path)
    assert database.path.read_bytes() == before


LATEST = database_module.migrations()[-1][0]


def test_migration_keeps_a_copy_and_moves_forward(database, monkeypatch):
    with database.session() as connection:
        sites.add_site(connection, TERRACE)
    steps = [
        *database_module.migrations(),
        (99, "099_more.sql", "ALTER TABLE site ADD COLUMN note TEXT; CREATE TABLE more (id INTEGER);"),
    ]
    monkeypatch.setattr(database_module, "migrations", lambda: steps)
    moved = Database(database.path)
    assert moved.version() == 99
    copy = next(database.path.parent.glob("*.before-099*"))
    with sqlite3.connect(copy) as old:
        assert old.execute("SELECT COUNT(*) FROM site").fetchone()[0] == 1
        assert old.execute("PRAGMA user_version").fetchone()[0] == LATEST
    with moved.session() as connection:
        assert len(sites.list_sites(connection)) == 1


def test_failed_migration_leaves_the_file_as_it_was(database, monkeypatch):
    steps = [*database_module.migrations(), (99, "099_bad.sql", "CREATE TABLE good (id INTEGER); CREATE TABLE bad (;")]
    monkeypatch.setattr(database_module, "migrations", lambda: steps)
    with pytest.raises(sqlite3.OperationalError):
        Database(database.path)
    with sqlite3.connect(database.path) as connection:
        assert connection.execute("PRAGMA user_version").fetchone()[0] == LATEST
        names = [row[0] for row in connection.execute("SELECT name FROM sqlite_master")]
    assert "good" not in names
    monkeypatch.undo()
    assert Database(database.path).version() == LATEST


def test_statements_are_split_whole():
    sql = "CREATE TABLE a (x TEXT DEFAULT ';');\n-- a comment; with a semicolon\nCREATE TABLE b (y INTEGER);\n"
    assert len(list(statements(sql))) == 2


def test_atomic_rolls_back_and_nests(db):
    db.execute("CREATE TABLE t (x INTEGER)")
    with atomic(db):
        db.execute("INSERT INTO t VALUES (1)")
        with pytest.raises(ZeroDivisionError), atomic(db):
            db.execute("INSERT INTO t VALUES (2)")
            raise ZeroDivisionError
    assert [r[0] for r in db.execute("SELECT x FROM t")] == [1]
    with pytest.raises(ZeroDivisionError), atomic(db):
        db.execute("INSERT INTO t VALUES (3)")
        raise ZeroDivisionError
    assert [r[0] for r in db.execute("SELECT x FROM t")] == [1]


def test_site_round_trip_and_lost_update(db):
    assert sites.get_site(db, 1).site == TERRACE
    changed = sites.change_site(db, 1, TERRACE.model_copy(update={"name": "New"}), 1)
    assert changed.revision == 2
    with pytest.raises(StaleWriteError) as caught:
        sites.change_site(db, 1, TERRACE, 1)
    assert caught.value.current == 2
    assert sites.get_site(db, 1).site.name == "New"
    with pytest.raises(NotFoundError, match="no site 9"):
        sites.get_site(db, 9)


def test_build_revisions_are_kept(db, oven_row):
    tilted = OVEN.model_copy(update={"tilt_deg": 40.0})
    changed = builds.change_build(db, oven_row.id, Draft("Oven", "terrace", tilted, STEW, "steeper"), 1, NOW)
    assert (changed.revision, changed.spec.tilt_deg, changed.note) == (2, 40.0, "steeper")
    assert builds.get_build(db, oven_row.id, 1).spec == OVEN
    assert [r.revision for r in builds.revisions(db, oven_row.id)] == [2, 1]


def test_lost_update_of_a_build_is_refused(db, oven_row):
    draft = Draft("Oven", None, OVEN, None)
    builds.change_build(db, oven_row.id, draft, 1, NOW)
    with pytest.raises(StaleWriteError, match="you saw revision 1, it is now 2"):
        builds.change_build(db, oven_row.id, draft, 1, NOW)
    assert len(builds.revisions(db, oven_row.id)) == 2


def test_undo_walks_back_change_by_change(db, oven_row):
    for k, tilt in enumerate((30.0, 40.0, 50.0), start=1):
        builds.change_build(
            db, oven_row.id, Draft("Oven", None, OVEN.model_copy(update={"tilt_deg": tilt}), None), k, NOW
        )
    seen = []
    for revision in (4, 5, 6):
        seen.append(builds.undo_build(db, oven_row.id, revision, NOW).spec.tilt_deg)
    assert seen == [40.0, 30.0, OVEN.tilt_deg]
    with pytest.raises(StoreError, match="nothing left to undo"):
        builds.undo_build(db, oven_row.id, 7, NOW)


def test_change_after_undo_can_be_undone(db, oven_row):
    for k, tilt in enumerate((30.0, 40.0), start=1):
        builds.change_build(
            db, oven_row.id, Draft("Oven", None, OVEN.model_copy(update={"tilt_deg": tilt}), None), k, NOW
        )
    builds.undo_build(db, oven_row.id, 3, NOW)
    builds.change_build(db, oven_row.id, Draft("Oven", None, OVEN.model_copy(update={"tilt_deg": 60.0}), None), 4, NOW)
    assert builds.undo_build(db, oven_row.id, 5, NOW).spec.tilt_deg == 30.0


def test_put_away_and_bring_back(db, oven_row, trial_id):
    builds.remove_build(db, oven_row.id, NOW, 1)
    assert builds.list_builds(db, 1) == []
    assert trials.get_trial(db, trial_id).build_id == oven_row.id
    builds.remove_build(db, oven_row.id, None, 1)
    assert [b.id for b in builds.list_builds(db, 1)] == [oven_row.id]


def test_events_of_one_second_stand_as_they_arrived(db, trial_id):
    """A tap carries milliseconds, an hour typed afterwards does not: within a second the clock cannot tell them apart."""
    for kind, ms in (("cloud", 5_000_400), ("gust", 5_000_000), ("opened", 4_999_000)):
        trials.add_event(db, trial_id, kind, ms, "")
    assert [e.kind for e in trials.list_events(db, trial_id)] == ["opened", "cloud", "gust"]


def test_trial_belongs_to_its_revision(db, oven_row, trial_id):
    builds.change_build(db, oven_row.id, Draft("Oven", None, OVEN.model_copy(update={"tilt_deg": 60.0}), None), 1, NOW)
    row = trials.get_trial(db, trial_id)
    assert builds.get_build(db, row.build_id, row.build_revision).spec == OVEN


def test_readings_are_idempotent(db, trial_id):
    batch = [reading(1000), reading(2000, 51.0)]
    assert readings.add_readings(db, trial_id, batch).written == 2
    again = readings.add_readings(db, trial_id, [*batch, reading(3000)])
    assert (again.written, again.repeated, again.contradicting) == (1, 2, [])
    assert readings.count_readings(db, trial_id) == 3


def test_contradicting_reading_is_told_and_not_written(db, trial_id):
    readings.add_readings(db, trial_id, [reading(1000, 50.0)])
    result = readings.add_readings(db, trial_id, [reading(1000, 60.0)])
    assert [r.value for r in result.contradicting] == [60.0]
    assert [r.value for r in readings.list_readings(db, trial_id)] == [50.0]


def test_withdrawn_reading_can_come_back_or_be_replaced(db, trial_id):
    readings.add_readings(db, trial_id, [reading(1000, 50.0)])
    assert readings.withdraw_reading(db, trial_id, "tray", 1000, NOW)
    assert readings.list_readings(db, trial_id) == []
    assert readings.withdraw_reading(db, trial_id, "tray", 1000, None)
    assert readings.count_readings(db, trial_id) == 1
    readings.withdraw_reading(db, trial_id, "tray", 1000, NOW)
    assert readings.add_readings(db, trial_id, [reading(1000, 55.0)]).written == 1
    assert not readings.withdraw_reading(db, trial_id, "tray", 9999, NOW)


def test_a_batch_is_all_or_nothing(db, trial_id):
    with pytest.raises(sqlite3.IntegrityError):
        readings.add_readings(db, trial_id, [reading(1000), reading(1000, 40.0, "no such channel")])
    assert readings.count_readings(db, trial_id) == 0


def test_last_reading_before(db, trial_id):
    readings.add_readings(db, trial_id, [reading(1000, 50.0), reading(2000, 60.0)])
    assert readings.last_reading(db, trial_id, "tray", 2000).value == 50.0
    assert readings.last_reading(db, trial_id, "tray", 1000) is None


def test_events_and_channels(db, trial_id):
    event = trials.add_event(db, trial_id, "cloud", 5000, "thin")
    assert trials.list_events(db, trial_id)[0].note == "thin"
    trials.withdraw_event(db, trial_id, event, NOW)
    assert trials.list_events(db, trial_id) == []
    with pytest.raises(NotFoundError):
        trials.withdraw_event(db, trial_id, 99, NOW)
    with pytest.raises(InputProblem, match="is there twice"):
        trials.add_channel(db, trial_id, ChannelRow("tray", "again", "tray", False, "probe", 1.0))


def test_ending_can_be_taken_back(db, trial_id):
    trials.end_trial(db, trial_id, 9000, "done")
    assert trials.get_trial(db, trial_id).ended_ms == 9000
    trials.end_trial(db, trial_id, None, None)
    row = trials.get_trial(db, trial_id)
    assert row.ended_ms is None
    assert row.remarks == "done"


def test_a_copied_file_opens(database, tmp_path):
    with database.session() as connection:
        sites.add_site(connection, TERRACE)
        connection.execute("PRAGMA wal_checkpoint(TRUNCATE)")
    shutil.copy2(database.path, tmp_path / "copy.sqlite3")
    with Database(tmp_path / "copy.sqlite3").session() as connection:
        assert len(sites.list_sites(connection)) == 1
