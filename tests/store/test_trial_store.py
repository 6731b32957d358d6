"""What a trial keeps beside its readings, and how an older file gets there."""

from __future__ import annotations

import sqlite3
from pathlib import Path

import pytest

from drylamp.core.sky.weather import ClearDay
from drylamp.core.trials.facts import Goal
from drylamp.core.trials.instruments import ProbeCalibration
from drylamp.core.twin.calibration import Calibration
from drylamp.demo.scenario import LIDS, OVEN, TERRACE
from drylamp.store import builds, calibrations, mappings, photos, readings, sites, trials
from drylamp.store.builds import Draft
from drylamp.store.database import Database, NotFoundError, StoreError, migrations, statements
from drylamp.store.photos import NewPhoto
from drylamp.store.readings import ReadingRow, Tally
from drylamp.store.trials import ChannelRow, TrialRow

NOW = "2025-06-12T10:00:00+00:00"


@pytest.fixture
def db(database: Database):
    with database.session() as connection:
        site = sites.add_site(connection, TERRACE)
        builds.add_build(connection, site, Draft("Oven", "terrace", OVEN, None), NOW)
        builds.add_build(connection, site, Draft("Lids", "flat roof", LIDS, None), NOW)
        yield connection


def trial(db: sqlite3.Connection, build: int = 1, **more: object) -> int:
    channels = [
        ChannelRow("tray", "tray", "tray", False, "logger", 0.7, device="one", calibration=ProbeCalibration(ice_c=0.4)),
        ChannelRow("sun", "sun", "sun", False, "pyranometer", 0.05, "sun"),
    ]
    row = TrialRow(
        id=0, build_id=build, build_revision=1, name="t", protocol="free-log", spot=None, weather=ClearDay(tmin_c=10, tmax_c=20),
        load=None, preheated=False, started_ms=0, ended_ms=None, remarks="", channels=channels, token="secret", **more,
    )  # fmt: skip
    return trials.add_trial(db, row)


def logged(channel: str, at: int, value: float | None, flag: str = "", source: str = "logger") -> ReadingRow:
    return ReadingRow(channel, at, value, "x", "C", source, flag, flag)


def test_channels_come_back_with_all_that_is_known_of_them(db):
    number = trial(db, goal=Goal(node="tray", at_least_c=100.0, within_minutes=60.0))
    row = trials.get_trial(db, number)
    assert row.channels[0].calibration == ProbeCalibration(ice_c=0.4)
    assert row.channels[1].quantity == "sun"
    assert row.token == "secret"
    assert row.goal.within_minutes == 60.0
    trials.change_channel(db, number, ChannelRow("tray", "floor", "tray", False, "probe", 1.0, device="two"))
    changed = trials.get_trial(db, number).channels[0]
    assert (changed.title, changed.device, changed.calibration) == ("floor", "two", None)
    with pytest.raises(NotFoundError, match="no channel moon"):
        trials.change_channel(db, number, ChannelRow("moon", "m", "tray", False, "probe", 1.0))


def test_series_leave_out_what_is_set_aside_and_withdrawn(db):
    number = trial(db)
    rows = [
        logged("tray", k, 20.0 + k, flag)
        for k, flag in enumerate(("", "stuck", "jump", "clock", "", "unit", "impossible"))
    ]
    readings.add_readings(db, number, [*rows, logged("tray", 9, None, "no-value")])
    readings.withdraw_reading(db, number, "tray", 4, NOW)
    kept = readings.series(db, number, "tray")
    assert kept.time_ms.tolist() == [0, 2]
    assert kept.value.tolist() == [20.0, 22.0]
    assert readings.series(db, number, "tray", 1, 9).time_ms.tolist() == [2]
    assert readings.series(db, number, "sun").value.shape == (0,)
    assert readings.tallies(db, number) == {"tray": Tally(7, 20.0 + 21 + 22 + 23 + 25 + 26, 9)}
    assert readings.count_flagged(db, number) == {
        "stuck": 1,
        "jump": 1,
        "clock": 1,
        "unit": 1,
        "impossible": 1,
        "no-value": 1,
    }


def test_the_latest_readings_come_in_time_across_channels(db):
    number = trial(db)
    readings.add_readings(
        db, number, [logged(c, 10 * k + n, k) for k in range(20) for n, c in enumerate(("tray", "sun"))]
    )
    latest = readings.list_readings(db, number, 5)
    assert [r.time_ms for r in latest] == [171, 180, 181, 190, 191]
    assert len(readings.list_readings(db, number)) == 40
    readings.withdraw_reading(db, number, "sun", 191, NOW)
    assert readings.list_readings(db, number, 1)[0].time_ms == 190
    assert readings.list_readings(db, number, withdrawn_too=True)[-1].withdrawn


def test_moving_the_clock_is_all_or_nothing(db):
    number = trial(db)
    readings.add_readings(db, number, [logged("tray", 1000 * k, k) for k in range(10)])
    readings.add_readings(db, number, [logged("sun", 5000, 1, source="hand")])
    assert readings.shift_clock(db, number, 3000) == 10
    assert readings.series(db, number, "tray").time_ms[0] == 3000
    assert readings.series(db, number, "sun").time_ms[0] == 5000
    readings.add_readings(db, number, [logged("tray", 500, 7, source="hand")])
    with pytest.raises(StoreError, match="1 readings would land"):
        readings.shift_clock(db, number, -2500)
    assert readings.series(db, number, "tray").time_ms.tolist() == [500, *range(3000, 13000, 1000)]


def test_photos_are_idempotent_and_belong_to_their_trial(db):
    one, other = trial(db), trial(db)
    new = NewPhoto(5, "rim", "sample-a", 40, 30, b"jpeg", "uid-00001")
    first = photos.add_photo(db, one, new)
    assert photos.add_photo(db, one, new) == first
    assert photos.add_photo(db, other, new) != first
    assert photos.OF_TRIAL.content(db, one, first) == b"jpeg"
    with pytest.raises(NotFoundError):
        photos.OF_TRIAL.content(db, other, first)
    with pytest.raises(NotFoundError):
        photos.OF_TRIAL.withdraw(db, other, first, NOW)
    photos.OF_TRIAL.withdraw(db, one, first, NOW)
    assert photos.list_photos(db, one) == []


def test_the_newest_calibration_that_stands_is_in_force(db):
    number = trial(db)
    assert calibrations.in_force(db, 1) is None
    first = calibrations.accept(db, (1, 1), number, Calibration(leak=4.0), "leaks", NOW)
    second = calibrations.accept(db, (1, 1), number, Calibration(parts={"absorptance:sample-a": 0.9}), "dull", NOW)
    assert calibrations.in_force(db, 1).factors.parts == {"absorptance:sample-a": 0.9}
    calibrations.withdraw(db, second, NOW)
    assert calibrations.in_force(db, 1).id == first
    calibrations.withdraw(db, second, None)
    assert calibrations.in_force(db, 1).id == second
    assert calibrations.in_force(db, 2) is None
    with pytest.raises(NotFoundError):
        calibrations.withdraw(db, 99, NOW)


def test_a_mapping_is_remembered_by_header(db):
    mappings.remember(db, 1, ["time", "T1"], {"T1": "new:tray"})
    mappings.remember(db, 1, ["time", "T1"], {"T1": "new:walls"})
    assert mappings.recall(db, 1, ["time", "T1"]) == {"T1": "new:walls"}
    assert mappings.recall(db, 1, ["time", "T2"]) == {}
    assert mappings.recall(db, 2, ["time", "T1"]) == {}


def test_kinds_of_build_come_back_as_what_they_are(db):
    assert [b.spec.kind for b in builds.list_builds(db)] == ["box-oven", "samples"]
    assert builds.get_build(db, 2).spec == LIDS


def older_file(folder: Path, schema: int) -> tuple[Path, sqlite3.Connection]:
    """A data file at an earlier schema with one build in it, as the version of then wrote it."""
    path = folder / "old.sqlite3"
    old = sqlite3.connect(path)
    for number, _, sql in migrations():
        if number <= schema:
            for statement in statements(sql):
                old.execute(statement)
    old.execute(f"PRAGMA user_version = {schema}")
    old.execute("INSERT INTO site (doc) VALUES (?)", (TERRACE.model_dump_json(),))
    old.execute("INSERT INTO build (site_id, revision) VALUES (1, 1)")
    old.execute(
        "INSERT INTO build_revision (build_id, number, name, spec, created_at) VALUES (1, 1, 'Oven', ?, ?)",
        (OVEN.model_dump_json(), NOW),
    )
    return path, old


def test_an_older_file_is_brought_forward_with_its_readings(tmp_path: Path):
    """A file at schema 2, as the version before wrote it."""
    path, old = older_file(tmp_path, 2)
    weather = ClearDay(tmin_c=10, tmax_c=20).model_dump_json()
    old.execute(
        "INSERT INTO trial (build_id, build_revision, name, protocol, weather, started_ms) VALUES (1, 1, 'old', 'quick-look', ?, 0)",
        (weather,),
    )
    old.execute(
        "INSERT INTO channel (trial_id, name, title, node, instrument, doubt_k, place) VALUES (1, 'tray', 'tray', 'tray', 'dial', 4.0, 0)"
    )
    old.execute(
        "INSERT INTO reading (trial_id, channel, time_ms, value_c, typed, unit, source) VALUES (1, 'tray', 5000, 61.5, '61.5', 'C', 'hand')"
    )
    old.execute("INSERT INTO event (trial_id, kind, time_ms) VALUES (1, 'cloud', 6000)")
    old.commit()
    old.close()
    made = Database(path)
    with made.session() as db:
        row = trials.get_trial(db, 1)
        assert row.channels[0].doubt == 4.0
        assert row.channels[0].quantity == "temperature"
        assert len(row.token) == 24
        assert readings.list_readings(db, 1)[0].value == 61.5
        assert trials.list_events(db, 1)[0].kind == "cloud"
    made.close()
    assert (tmp_path / f"old.before-{migrations()[-1][0]:03d}.sqlite3").exists()


def test_flows_of_a_file_before_the_fourth_schema_become_litres_a_minute(tmp_path: Path):
    path, old = older_file(tmp_path, 3)
    weather = ClearDay(tmin_c=10, tmax_c=20).model_dump_json()
    old.execute("INSERT INTO trial (build_id, build_revision, name, protocol, weather, started_ms) VALUES (1, 1, 'old', 'free-log', ?, 0)", (weather,))  # fmt: skip
    for place, (name, quantity, value) in enumerate((("loop", "flow", 0.05), ("tray", "temperature", 61.5))):
        old.execute(
            "INSERT INTO channel (trial_id, name, title, node, instrument, doubt, quantity, place) VALUES (1, ?, ?, ?, 'logger', 1.0, ?, ?)",
            (name, name, name, quantity, place),
        )
        old.execute("INSERT INTO reading (trial_id, channel, time_ms, value, typed, unit, source) VALUES (1, ?, 5000, ?, '', '', 'hand')", (name, value))  # fmt: skip
    old.commit()
    old.close()
    made = Database(path)
    with made.session() as db:
        assert {r.channel: r.value for r in readings.list_readings(db, 1)} == {"loop": pytest.approx(3.0), "tray": 61.5}
    made.close()
