"""Trials with their channels and events; a trial belongs for ever to the revision it tested."""

from __future__ import annotations

import sqlite3
from dataclasses import dataclass

from drylamp.core.checks import InputProblem
from drylamp.core.loads.load import Load
from drylamp.core.loads.registry import read_load
from drylamp.core.sky.weather import ClearDay
from drylamp.core.trials.facts import Goal
from drylamp.core.trials.instruments import ProbeCalibration, Quantity
from drylamp.store.database import NotFoundError, atomic
from drylamp.store.unreadable import of_row, readable


@dataclass(frozen=True)
class ChannelRow:
    """One channel of a trial."""

    name: str
    title: str
    node: str
    is_control: bool
    instrument: str
    doubt: float
    quantity: Quantity = "temperature"
    device: str = ""
    calibration: ProbeCalibration | None = None
    set_to: float | None = None


@dataclass(frozen=True)
class TrialRow:
    """A stored trial without its readings."""

    id: int
    build_id: int
    build_revision: int
    name: str
    protocol: str
    spot: str | None
    weather: ClearDay
    load: Load | None
    preheated: bool
    started_ms: int
    ended_ms: int | None
    remarks: str
    channels: list[ChannelRow]
    token: str = ""
    goal: Goal | None = None


@dataclass(frozen=True)
class EventRow:
    """Something that happened."""

    id: int
    kind: str
    time_ms: int
    note: str
    channel: str = ""


def add_trial(db: sqlite3.Connection, trial: TrialRow) -> int:
    """Store a new trial with its channels (its id is ignored); return the new id."""
    with atomic(db):
        cursor = db.execute(
            """
            INSERT INTO trial (build_id, build_revision, name, protocol, spot, weather, load, preheated, started_ms, ended_ms, remarks, token, goal)
            VALUES (:build, :revision, :name, :protocol, :spot, :weather, :load, :preheated, :started, :ended, :remarks, :token, :goal)
            """,
            {
                "build": trial.build_id,
                "revision": trial.build_revision,
                "name": trial.name,
                "protocol": trial.protocol,
                "spot": trial.spot,
                "weather": trial.weather.model_dump_json(),
                "load": None if trial.load is None else trial.load.model_dump_json(),
                "preheated": trial.preheated,
                "started": trial.started_ms,
                "ended": trial.ended_ms,
                "remarks": trial.remarks,
                "token": trial.token,
                "goal": None if trial.goal is None else trial.goal.model_dump_json(),
            },
        )
        trial_id = int(cursor.lastrowid or 0)
        for channel in trial.channels:
            add_channel(db, trial_id, channel)
    return trial_id


def add_channel(db: sqlite3.Connection, trial_id: int, channel: ChannelRow) -> None:
    """Add a channel to a trial.

    Raises:
        InputProblem: the trial already has one of that name.
    """
    with atomic(db):
        place = db.execute("SELECT COUNT(*) FROM channel WHERE trial_id = :t", {"t": trial_id}).fetchone()[0]
        try:
            db.execute(
                """
                INSERT INTO channel (trial_id, name, title, node, is_control, instrument, doubt, quantity, device, calibration, set_to, place)
                VALUES (:trial, :name, :title, :node, :is_control, :instrument, :doubt, :quantity, :device, :calibration, :set_to, :place)
                """,
                {"trial": trial_id, "place": place, **channel.__dict__, "calibration": _json(channel.calibration)},
            )
        except sqlite3.IntegrityError:
            raise InputProblem("channels", f"'{channel.name}' is there twice; give each channel its own name") from None


def _json(model: ProbeCalibration | None) -> str | None:
    return None if model is None else model.model_dump_json()


def change_channel(db: sqlite3.Connection, trial_id: int, channel: ChannelRow) -> None:
    """Change what is known of a channel's instrument; its readings stay as they were read.

    Raises:
        NotFoundError: the trial has no such channel.
    """
    with atomic(db):
        changed = db.execute(
            """
            UPDATE channel SET title = :title, node = :node, is_control = :is_control, instrument = :instrument,
                doubt = :doubt, device = :device, calibration = :calibration, set_to = :set_to
            WHERE trial_id = :trial AND name = :name AND quantity = :quantity
            """,
            {"trial": trial_id, **channel.__dict__, "calibration": _json(channel.calibration)},
        )
        if changed.rowcount == 0:
            raise NotFoundError(f"trial {trial_id} has no channel {channel.name} of {channel.quantity}")


def list_trials(db: sqlite3.Connection, build_id: int | None = None) -> list[TrialRow]:
    """Trials, newest first."""
    rows = db.execute(
        "SELECT * FROM trial WHERE :build IS NULL OR build_id = :build ORDER BY started_ms DESC", {"build": build_id}
    ).fetchall()
    return readable(rows, lambda row: _row(db, row))


def get_trial(db: sqlite3.Connection, trial_id: int) -> TrialRow:
    """One trial.

    Raises:
        NotFoundError: there is none of that id.
    """
    row = db.execute("SELECT * FROM trial WHERE id = :id", {"id": trial_id}).fetchone()
    if row is None:
        raise NotFoundError(f"there is no trial {trial_id}")
    return _row(db, row)


def end_trial(db: sqlite3.Connection, trial_id: int, ended_ms: int | None, remarks: str | None) -> None:
    """End a trial, or take its end back with None; remarks stay when none are given."""
    with atomic(db):
        db.execute(
            "UPDATE trial SET ended_ms = :ended, remarks = COALESCE(:remarks, remarks) WHERE id = :id",
            {"ended": ended_ms, "remarks": remarks, "id": trial_id},
        )


def add_event(
    db: sqlite3.Connection, trial_id: int, kind: str, time_ms: int, note: str, channel: str = "", uid: str | None = None
) -> int:
    """Note an event; the same ``uid`` again is the same event. Returns its id."""
    with atomic(db):
        db.execute(
            """
            INSERT INTO event (trial_id, kind, time_ms, note, channel, uid)
            VALUES (:trial, :kind, :time, :note, :channel, :uid) ON CONFLICT DO NOTHING
            """,
            {"trial": trial_id, "kind": kind, "time": time_ms, "note": note, "channel": channel, "uid": uid},
        )
        by_uid = "SELECT id FROM event WHERE trial_id = :trial AND uid = :uid"
        row = db.execute(by_uid if uid else "SELECT last_insert_rowid()", {"trial": trial_id, "uid": uid}).fetchone()
    return int(row[0])


def withdraw_event(db: sqlite3.Connection, trial_id: int, event_id: int, now: str | None) -> None:
    """Take an event back, or bring it back with ``now`` None.

    Raises:
        NotFoundError: the trial has no such event.
    """
    with atomic(db):
        changed = db.execute(
            "UPDATE event SET withdrawn_at = :now WHERE id = :id AND trial_id = :trial",
            {"now": now, "id": event_id, "trial": trial_id},
        )
        if changed.rowcount == 0:
            raise NotFoundError(f"trial {trial_id} has no event {event_id}")


def list_events(db: sqlite3.Connection, trial_id: int) -> list[EventRow]:
    """Events that were not taken back, in time; those of one second as they arrived."""
    rows = db.execute(
        "SELECT id, kind, time_ms, note, channel FROM event WHERE trial_id = :t AND withdrawn_at IS NULL ORDER BY time_ms / 1000, id",
        {"t": trial_id},
    )
    return [EventRow(**dict(row)) for row in rows]


def _row(db: sqlite3.Connection, row: sqlite3.Row) -> TrialRow:
    return of_row("The trial", row["name"], lambda: _read(db, row))


def _read(db: sqlite3.Connection, row: sqlite3.Row) -> TrialRow:
    channels = db.execute(
        """
        SELECT name, title, node, is_control, instrument, doubt, quantity, device, calibration, set_to
        FROM channel WHERE trial_id = :t ORDER BY place
        """,
        {"t": row["id"]},
    )
    return TrialRow(
        id=row["id"],
        build_id=row["build_id"],
        build_revision=row["build_revision"],
        name=row["name"],
        protocol=row["protocol"],
        spot=row["spot"],
        weather=ClearDay.model_validate_json(row["weather"]),
        load=read_load(row["load"]),
        preheated=bool(row["preheated"]),
        started_ms=row["started_ms"],
        ended_ms=row["ended_ms"],
        remarks=row["remarks"],
        channels=[_channel(c) for c in channels],
        token=row["token"],
        goal=None if row["goal"] is None else Goal.model_validate_json(row["goal"]),
    )


def _channel(row: sqlite3.Row) -> ChannelRow:
    calibration = None if row["calibration"] is None else ProbeCalibration.model_validate_json(row["calibration"])
    return ChannelRow(**{**dict(row), "is_control": bool(row["is_control"]), "calibration": calibration})
