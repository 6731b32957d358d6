"""Trials: start, read, note, import, judge."""

from __future__ import annotations

import sqlite3
from collections.abc import Callable
from datetime import datetime, timedelta

import numpy as np
from flask import Response
from flask_openapi3 import APIBlueprint

from drylamp.core.case import climate_day
from drylamp.core.checks import InputProblem
from drylamp.core.sky.site import Site
from drylamp.core.trials.protocols import DISTURBED_MINUTES, INSTRUMENTS, PROTOCOLS, find_protocol
from drylamp.core.trials.verdict import TrialFacts, Verdict, judge, trial_twin
from drylamp.core.twin import Adjustments
from drylamp.formats.readings_csv import Preview, parse_readings
from drylamp.instruments.ingest import Incoming, take_in, to_ms
from drylamp.store import builds, readings, sites, trials
from drylamp.store.builds import BuildRow
from drylamp.store.database import NotFoundError
from drylamp.store.readings import BatchResult, ReadingRow
from drylamp.store.trials import ChannelRow, TrialRow
from drylamp.web import context
from drylamp.web.api_builds import check_together
from drylamp.web.models import (
    BatchAnswer,
    ChannelView,
    EndTrial,
    EventPath,
    Id,
    ImportAnswer,
    ImportCommit,
    ImportRequest,
    LoggerSetup,
    NewEvent,
    NewTrial,
    ReadingBatch,
    ReadingKey,
    TrialBook,
    TrialList,
    TrialQuery,
    TrialView,
)
from drylamp.web.views import from_ms, reading_view, trial_facts, trial_view

api = APIBlueprint("trials", __name__, url_prefix="/api/trials")
BY_HAND_AT_MOST = 24


@api.get("/book", responses={200: TrialBook})
def book() -> Response:
    """List protocols, instruments and kinds of event."""
    return context.answer(
        TrialBook(
            protocols=list(PROTOCOLS.values()),
            instruments=list(INSTRUMENTS.values()),
            event_kinds=list(DISTURBED_MINUTES),
        )
    )


@api.get("", responses={200: TrialList})
def list_all(query: TrialQuery) -> Response:
    """List trials, newest first, without their readings."""
    with context.database() as db:
        rows = trials.list_trials(db, query.build)
        return context.answer(TrialList([trial_view(db, row, False, context.now()) for row in rows]))


@api.post("", responses={201: TrialView})
def start(body: NewTrial) -> Response:
    """Start a trial of a build's current revision."""
    protocol = find_protocol(body.protocol)
    with context.database() as db:
        build = builds.get_build(db, body.build_id)
        site = sites.get_site(db, build.site_id).site
        load = body.load if body.load is not None else (build.load if protocol.needs_load else None)
        check_together(build.spec, load)
        begun = body.started or context.now()
        weather = body.weather or climate_day(site, begun.astimezone(site.zone).date(), body.sky)
        row = TrialRow(
            id=0,
            build_id=build.id,
            build_revision=build.revision,
            name=body.name,
            protocol=body.protocol,
            spot=body.spot or build.spot,
            weather=weather,
            load=load,
            preheated=body.preheated,
            started_ms=to_ms(begun),
            ended_ms=None,
            remarks="",
            channels=[channel_row(channel) for channel in body.channels],
        )
        site.spot(row.spot)
        new = trials.get_trial(db, trials.add_trial(db, row))
        return context.answer(trial_view(db, new, True, context.now()), 201)


def channel_row(channel: ChannelView) -> ChannelRow:
    """A channel for the store; the instrument's own doubt where none is given."""
    if channel.instrument not in INSTRUMENTS:
        raise InputProblem("instrument", f"'{channel.instrument}' is not known; known: {', '.join(INSTRUMENTS)}")
    doubt = channel.doubt_k or INSTRUMENTS[channel.instrument].doubt_k
    return ChannelRow(channel.name, channel.title, channel.node, channel.is_control, channel.instrument, doubt)


@api.get("/<int:id>", responses={200: TrialView})
def get(path: Id) -> Response:
    """Show a trial with its readings and events."""
    with context.database() as db:
        return _shown(db, path.id)


def _shown(db: sqlite3.Connection, trial_id: int, status: int = 200) -> Response:
    return context.answer(trial_view(db, trials.get_trial(db, trial_id), True, context.now()), status)


@api.post("/<int:id>/readings", responses={200: BatchAnswer})
def add_readings(path: Id, body: ReadingBatch) -> Response:
    """Write readings; idempotent by channel and time, on disk before this answers."""
    with context.database() as db:
        trial = trials.get_trial(db, path.id)
        incoming = [
            Incoming(r.channel, r.time or context.now(), r.value, r.unit, r.typed or f"{r.value:g}")
            for r in body.readings
        ]
        few = body.source == "hand" and len(incoming) <= BY_HAND_AT_MOST
        expected = _expected(db, trial) if few else None
        result, flagged = take_in(db, trial, incoming, body.source, expected)
    return context.answer(_batch(result, flagged))


def _batch(result: BatchResult, flagged: list[ReadingRow]) -> BatchAnswer:
    return BatchAnswer(
        written=result.written,
        repeated=result.repeated,
        contradicting=[reading_view(row) for row in result.contradicting],
        flagged=[reading_view(row) for row in flagged],
    )


def _expected(db: sqlite3.Connection, trial: TrialRow) -> Callable[[str, datetime], float | None]:
    """What the twin says of a part at a time, run once when first asked."""
    site, build, facts = _ground(db, trial)
    runs = []

    def value(node: str, time: datetime) -> float | None:
        if not runs:
            end = max(time, facts.started) + timedelta(minutes=10)
            runs.append(trial_twin(site, build.spec, facts, end.timestamp(), Adjustments()))
        if node not in runs[0].temperature_c:
            return None
        at = float(runs[0].at(node, np.array([time.timestamp()]))[0])
        return None if np.isnan(at) else at

    return value


@api.post("/<int:id>/readings/withdraw", responses={200: TrialView})
def withdraw(path: Id, body: ReadingKey) -> Response:
    """Take a reading back."""
    return _mark(path.id, body, context.stamp())


@api.post("/<int:id>/readings/restore", responses={200: TrialView})
def restore(path: Id, body: ReadingKey) -> Response:
    """Bring a withdrawn reading back."""
    return _mark(path.id, body, None)


def _mark(trial_id: int, key: ReadingKey, when: str | None) -> Response:
    with context.database() as db:
        if not readings.withdraw_reading(db, trial_id, key.channel, to_ms(key.time), when):
            raise NotFoundError(f"trial {trial_id} has no reading of {key.channel} at {key.time.isoformat()}")
        return _shown(db, trial_id)


@api.post("/<int:id>/events", responses={201: TrialView})
def add_event(path: Id, body: NewEvent) -> Response:
    """Note an event."""
    with context.database() as db:
        trials.get_trial(db, path.id)
        trials.add_event(db, path.id, body.kind, to_ms(body.time or context.now()), body.note)
        return _shown(db, path.id, 201)


@api.post("/<int:id>/events/<int:event_id>/withdraw", responses={200: TrialView})
def withdraw_event(path: EventPath) -> Response:
    """Take an event back."""
    with context.database() as db:
        trials.withdraw_event(db, path.id, path.event_id, context.stamp())
        return _shown(db, path.id)


@api.post("/<int:id>/end", responses={200: TrialView})
def end(path: Id, body: EndTrial) -> Response:
    """End a trial, or take its end back."""
    with context.database() as db:
        trials.get_trial(db, path.id)
        trials.end_trial(db, path.id, to_ms(context.now()) if body.ended else None, body.remarks)
        return _shown(db, path.id)


@api.post("/<int:id>/import/preview", responses={200: Preview})
def preview(path: Id, body: ImportRequest) -> Response:
    """Say what an import would do; writes nothing."""
    with context.database() as db:
        trial = trials.get_trial(db, path.id)
        zone = sites.get_site(db, _build_of(db, trial).site_id).site.zone
    return context.answer(parse_readings(body.text, zone, from_ms(trial.started_ms), body.units).preview)


@api.post("/<int:id>/import", responses={200: ImportAnswer})
def commit(path: Id, body: ImportCommit) -> Response:
    """Import a file: everything, or with ``skip`` everything but the refused rows; open questions stop it."""
    with context.database() as db:
        trial = trials.get_trial(db, path.id)
        zone = sites.get_site(db, _build_of(db, trial).site_id).site.zone
        parsed = parse_readings(body.text, zone, from_ms(trial.started_ms), body.units)
        _check_import(parsed.preview, body)
        have = {channel.name for channel in trial.channels}
        for target in body.columns:
            if target.channel.name not in have:
                trials.add_channel(db, trial.id, channel_row(target.channel))
                have.add(target.channel.name)
        goes_to = {target.column: target.channel.name for target in body.columns}
        incoming = [
            Incoming(goes_to[r.column], r.time, r.value_c * 1.8 + 32 if r.unit == "F" else r.value_c, r.unit, r.typed)
            for r in parsed.readings
            if r.column in goes_to
        ]
        result, flagged = take_in(db, trials.get_trial(db, trial.id), incoming, "file")
    return context.answer(ImportAnswer(preview=parsed.preview, result=_batch(result, flagged)))


def _check_import(found: Preview, body: ImportCommit) -> None:
    for question in found.questions:
        if question.code not in body.accepted:
            raise InputProblem(question.code, question.text)
    if found.refused and body.bad_rows == "stop":
        first = found.refused[0]
        raise InputProblem(
            "text",
            f"{len(found.refused)} of the rows cannot be used (row {first.row}: {first.reason}); nothing was written: "
            "mend the file or import without them",
        )
    known = [column.name for column in found.columns]
    for target in body.columns:
        if target.column not in known:
            raise InputProblem("columns", f"'{target.column}' is no column of values; known: {', '.join(known)}")


def _ground(db: sqlite3.Connection, trial: TrialRow) -> tuple[Site, BuildRow, TrialFacts]:
    """What judging a trial stands on: its site, the revision it tested, and its facts."""
    build = _build_of(db, trial)
    return sites.get_site(db, build.site_id).site, build, trial_facts(db, trial)


def _build_of(db: sqlite3.Connection, trial: TrialRow) -> BuildRow:
    return builds.get_build(db, trial.build_id, trial.build_revision)


@api.get("/<int:id>/verdict", responses={200: Verdict})
def verdict(path: Id) -> Response:
    """Judge a trial beside its twin."""
    with context.database() as db:
        trial = trials.get_trial(db, path.id)
        site, build, facts = _ground(db, trial)
    return context.answer(judge(site, build.spec, facts))


@api.get("/<int:id>/logger-setup", responses={200: LoggerSetup})
def logger_setup(path: Id) -> Response:
    """What a logger asks before it starts: the trial, and up to which minute it is covered."""
    with context.database() as db:
        trial = trials.get_trial(db, path.id)
        site, build, facts = _ground(db, trial)
        last = max((r.time_ms for r in readings.list_readings(db, trial.id)), default=trial.started_ms - 30000)
    covered = max(0.0, (last + 30000 - trial.started_ms) / 60000.0)
    return context.answer(LoggerSetup(facts=facts, site=site, spec=build.spec, covered_minutes=covered))
