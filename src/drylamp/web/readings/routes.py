"""Readings of a trial: by hand, by a logger over HTTP, from a file; taken back, moved in time, drawn."""

from __future__ import annotations

import math
import secrets
import sqlite3
from collections import Counter
from collections.abc import Callable
from dataclasses import replace
from datetime import datetime, timedelta
from functools import partial

import numpy as np
from flask import Response, request

from drylamp.core.checks import InputProblem
from drylamp.core.heat.parts import Role
from drylamp.core.trials.beside import Beside, beside, trial_twin
from drylamp.core.trials.facts import ChannelFacts
from drylamp.core.trials.instruments import BASE_UNIT, UNITS, in_base, number_in
from drylamp.core.trials.paper import check_span, is_ahead, read_chart
from drylamp.core.trials.protocols import PROTOCOLS
from drylamp.core.trials.suspicions import LATER, find_clock, find_units
from drylamp.core.trials.thin import thin_for_eye
from drylamp.core.twin.calibration import Calibration
from drylamp.core.twin.light import traced
from drylamp.core.twin.run import Run
from drylamp.formats.readings.likely import likely_node
from drylamp.formats.readings.parse import parse_readings
from drylamp.formats.readings.preview import Answer, Parsed, Preview, Question, Reading
from drylamp.instruments.ingest import (
    Incoming,
    RefusedLine,
    flagged,
    looked_over,
    moment_of,
    read_lines,
    take_in,
    to_ms,
)
from drylamp.store import mappings, readings, trials
from drylamp.store.database import NotFoundError
from drylamp.store.readings import BatchResult, ReadingRow
from drylamp.store.trials import TrialRow
from drylamp.web import context
from drylamp.web.bodies import read_loosely
from drylamp.web.errors import problem
from drylamp.web.readings.models import (
    BatchAnswer,
    ChannelSeries,
    ImportAnswer,
    ImportCommit,
    ImportPreview,
    ImportRequest,
    IngestAnswer,
    IngestBatch,
    LoggerSetup,
    PaperAnswer,
    PaperChart,
    PaperLine,
    ReadingBatch,
    ReadingKey,
    SeriesAnswer,
    SeriesQuery,
    ShiftClock,
    Shifted,
)
from drylamp.web.routed import also_refuses, blueprint, takes
from drylamp.web.shared import Id, PartPath
from drylamp.web.trials.ground import Ground, build_of, from_ms, ground, log_of, most_l_min, putting_right, tested
from drylamp.web.trials.models import TrialView
from drylamp.web.trials.present import reading_view, trial_view
from drylamp.web.trials.routes import channel_row

api = blueprint("readings", "/api/trials")
BY_HAND_AT_MOST = 24
MOST_SHIFT_MINUTES = 100_000
SKIP, HAVE, NEW, UNIT_OF = "skip", "have:", "new:", "unit-of:"


@api.post("/<int:id>/readings", responses={200: BatchAnswer})
def add_readings(path: Id, body: ReadingBatch) -> Response:
    """Write readings; idempotent by channel and time, on disk before this answers."""
    with context.database() as db:
        trial = trials.get_trial(db, path.id)
        incoming = [
            Incoming(
                r.channel,
                r.time or context.now(),
                r.value,
                r.unit,
                r.typed or ("" if r.value is None else f"{r.value:g}"),
            )
            for r in body.readings
        ]
        if body.source == "hand":
            _check_stamps(trial, incoming, body.ahead)
        few = body.source == "hand" and len(incoming) <= BY_HAND_AT_MOST
        expected = _expected(db, trial) if few else None
        rows = looked_over(db, trial, incoming, body.source, expected, context.now(), partial(most_l_min, db, trial))
    with context.writing() as db:
        return context.answer(_batch(readings.add_readings(db, trial.id, rows), flagged(rows)))


def _batch(result: BatchResult, odd: list[ReadingRow]) -> BatchAnswer:
    return BatchAnswer(
        written=result.written,
        repeated=result.repeated,
        contradicting=[reading_view(row) for row in result.contradicting],
        flagged=[reading_view(row) for row in odd],
        import_id=result.import_id,
    )


def _expected(db: sqlite3.Connection, trial: TrialRow) -> Callable[[str, datetime], float | None]:
    """What the twin says of a part at a time, run once when first asked."""
    site, build, facts = ground(db, trial)
    runs: list[Run] = []

    def value(node: str, time: datetime) -> float | None:
        if PROTOCOLS[trial.protocol].starts_hot or (time - facts.started) > timedelta(days=2):
            return None
        if not runs:
            end = max(time, facts.started) + timedelta(minutes=10)
            runs.append(trial_twin(site, build.spec, facts, end.timestamp(), Calibration()))
        if node not in runs[0].temperature_c:
            return None
        at = float(runs[0].at(node, facts.in_trial(np.array([time.timestamp()])))[0])
        return None if np.isnan(at) else at

    return value


def _check_stamps(trial: TrialRow, incoming: list[Incoming], ahead: bool) -> None:
    """Refuse stamps far from the trial, and such as lie ahead of the clock unless they are meant.

    Raises
    ------
    InputProblem
        one of them does.
    """
    now = context.now()
    for number, item in enumerate(incoming):
        check_span(item.time, from_ms(trial.started_ms))
        if is_ahead(item.time, now) and not ahead:
            raise InputProblem(f"readings.{number}.time", f"{item.time:%Y-%m-%d %H:%M} UTC lies ahead of this machine's clock, which shows {now:%Y-%m-%d %H:%M} UTC; if that is meant, send it with ahead: true")  # fmt: skip


@api.post("/<int:id>/paper", responses={200: PaperAnswer})
def paper(path: Id, body: PaperChart) -> Response:
    """Read a paper chart typed row by row; written all or not at all."""
    with context.database() as db:
        trial = trials.get_trial(db, path.id)
        site = tested(db, trial)[0]
        quantities = {channel.name: channel.quantity for channel in trial.channels}
        for name, unit in body.units.items():
            if name in quantities:
                in_base(0.0, unit, quantities[name])
        units = {name: body.units.get(name, BASE_UNIT[of]) for name, of in quantities.items()}
        words = frozenset(channel.name for channel in trial.channels if channel.instrument == "words")
        lines = read_chart([(row.at, row.values) for row in body.rows], from_ms(trial.started_ms), site.zone, quantities, units, words)  # fmt: skip
        now = context.now()
        shown = [PaperLine(time=line.time, count=len(line.cells), problems=line.problems, ahead=line.time is not None and is_ahead(line.time, now)) for line in lines]  # fmt: skip
        sound = not any(line.problems or (line.ahead and not body.ahead) for line in shown)
        if not (body.write and sound):
            return context.answer(PaperAnswer(lines=shown, written=None))
        incoming = [Incoming(cell.channel, line.time, cell.value, cell.unit, cell.typed) for line in lines if line.time is not None for cell in line.cells]  # fmt: skip
        rows = looked_over(db, trial, incoming, "hand", None, now, partial(most_l_min, db, trial))
    with context.writing() as db:
        written = _batch(readings.add_readings(db, trial.id, rows), flagged(rows))
        return context.answer(PaperAnswer(lines=shown, written=written))


@api.post("/<int:id>/ingest", responses={200: IngestAnswer})
@takes(
    {
        "application/json": {"$ref": "#/components/schemas/IngestBatch"},
        "text/csv": {"type": "string"},
        "text/plain": {"type": "string"},
    }
)
@also_refuses(401)
def ingest(path: Id) -> Response:
    """Take readings from a logger: JSON ``{"readings": [...]}`` or lines ``time,channel,value[,unit]`` as text/csv, with the trial's token."""
    with context.database() as db:
        trial = trials.get_trial(db, path.id)
        if not _knows(trial.token):
            return problem(
                401, f"this token does not open trial {trial.id}; copy the one on the trial's page into the logger"
            )
        if request.mimetype in ("text/csv", "text/plain"):
            incoming, refused = read_lines(request.get_data(as_text=True), trial, context.now())
        else:
            incoming, refused = _from_json(trial, context.now())
    with context.writing() as db:
        result, odd = take_in(db, trial, incoming, "logger", context.now(), partial(most_l_min, db, trial))
        return context.answer(
            IngestAnswer(
                written=result.written,
                repeated=result.repeated,
                contradicting=len(result.contradicting),
                flagged=Counter(row.flag_code for row in odd),
                refused=refused,
            )
        )


def _knows(token: str) -> bool:
    given = request.headers.get("Authorization", "").removeprefix("Bearer ").strip()
    given = given or request.headers.get("X-Trial-Token", "").strip()
    return bool(token) and secrets.compare_digest(given.encode(), token.encode())


def _from_json(trial: TrialRow, now: datetime) -> tuple[list[Incoming], list[RefusedLine]]:
    batch = IngestBatch.model_validate(read_loosely())
    usual = {channel.name: BASE_UNIT[channel.quantity] for channel in trial.channels}
    incoming, refused = [], []
    for number, item in enumerate(batch.readings, start=1):
        try:
            if item.channel not in usual:
                raise InputProblem(
                    "channel", f"'{item.channel}' is no channel of this trial; known: {', '.join(usual)}"
                )
            unit = item.unit or usual[item.channel]
            if unit not in UNITS:
                raise InputProblem("unit", f"'{unit}' is no unit; known: {', '.join(UNITS)}")
            value = number_in(str(item.value)) if item.value is not None else None
            stamp = "" if item.time is None else str(item.time)
            incoming.append(Incoming(item.channel, moment_of(stamp, now), value, unit, str(item.value)[:40]))
        except InputProblem as trouble:
            refused.append(RefusedLine(line=number, reason=trouble.message))
    return incoming, refused


@api.post("/<int:id>/readings/withdraw", responses={200: TrialView})
def withdraw(path: Id, body: ReadingKey) -> Response:
    """Take a reading back."""
    return _mark(path.id, body, context.stamp())


@api.post("/<int:id>/readings/restore", responses={200: TrialView})
def restore(path: Id, body: ReadingKey) -> Response:
    """Bring a withdrawn reading back."""
    return _mark(path.id, body, None)


def _mark(trial_id: int, key: ReadingKey, when: str | None) -> Response:
    with context.writing() as db:
        if not readings.withdraw_reading(db, trial_id, key.channel, to_ms(key.time), when):
            raise NotFoundError(f"trial {trial_id} has no reading of {key.channel} at {key.time.isoformat()}")
        return context.answer(trial_view(db, trials.get_trial(db, trial_id), True, context.now()))


@api.post("/<int:id>/imports/<int:part_id>/withdraw", responses={200: TrialView})
def withdraw_import(path: PartPath) -> Response:
    """Take back all that an import wrote."""
    return _mark_import(path, context.stamp())


@api.post("/<int:id>/imports/<int:part_id>/restore", responses={200: TrialView})
def restore_import(path: PartPath) -> Response:
    """Bring back all that an import wrote."""
    return _mark_import(path, None)


def _mark_import(path: PartPath, when: str | None) -> Response:
    with context.writing() as db:
        if not readings.withdraw_import(db, path.id, path.part_id, when):
            raise NotFoundError(f"trial {path.id} has no import {path.part_id}")
        return context.answer(trial_view(db, trials.get_trial(db, path.id), True, context.now()))


@api.post("/<int:id>/shift-clock", responses={200: Shifted})
def shift_clock(path: Id, body: ShiftClock) -> Response:
    """Move what loggers and files stamped; the same number with the other sign undoes it."""
    with context.writing() as db:
        trials.get_trial(db, path.id)
        return context.answer(Shifted(moved=readings.shift_clock(db, path.id, round(body.minutes * 60000))))


@api.get("/<int:id>/series", responses={200: SeriesAnswer})
def series(path: Id, query: SeriesQuery) -> Response:
    """Give what a chart is drawn from: few enough points for the eye with every extreme kept, all of them when zoomed in."""
    with context.database() as db:
        trial = trials.get_trial(db, path.id)
        site, build = tested(db, trial)
        put_right = putting_right(trial, build, site)
        start, end = (None if t is None else to_ms(t) for t in (query.start, query.end))
        log = log_of(db, trial) if start is None and end is None else None
        drawn = []
        for channel in trial.channels:
            read = log.near[channel.name] if log else readings.series(db, trial.id, channel.name, start, end)
            kept = thin_for_eye(read.time_ms, read.value, query.points)
            values = put_right(channel)(read.value[kept])
            drawn.append(
                ChannelSeries(
                    channel=channel.name,
                    title=channel.title,
                    node=channel.node,
                    quantity=channel.quantity,
                    is_control=channel.is_control,
                    doubt=channel.doubt,
                    count=len(read.time_ms),
                    raw=len(kept) == len(read.time_ms),
                    times_ms=read.time_ms[kept].tolist(),
                    values=[None if np.isnan(v) else round(float(v), 3) for v in values],
                )
            )
    stamps = [t for line in drawn for t in (line.times_ms[:1] + line.times_ms[-1:])]
    return context.answer(
        SeriesAnswer(
            start=from_ms(min(stamps)) if stamps else None,
            end=from_ms(max(stamps)) if stamps else None,
            channels=drawn,
            far=log.far_count if log else 0,
        )
    )


@api.post("/<int:id>/import/preview", responses={200: ImportPreview})
def preview(path: Id, body: ImportRequest) -> Response:
    """Say what an import would do and where its columns would go; writes nothing."""
    with context.database() as db:
        trial = trials.get_trial(db, path.id)
        parsed, remembered, goes_to = _looked_at(db, trial, body)
    return context.answer(ImportPreview(preview=parsed.preview, goes_to=goes_to, remembered=bool(remembered)))


def _looked_at(
    db: sqlite3.Connection, trial: TrialRow, body: ImportRequest
) -> tuple[Parsed, dict[str, str], dict[str, str]]:
    """The file as it would be read, with all that must be asked; what was remembered of its columns; where they go."""
    on = ground(db, trial, with_readings=False)
    site, build, _ = on
    shift = body.shift_minutes + _answered_shift(body.answers)
    units = {code.removeprefix(UNIT_OF): unit for code, unit in body.answers.items() if code.startswith(UNIT_OF)}
    how = Reading(units | body.units, body.clock, shift, body.answers)
    text, note = body.read()
    parsed = parse_readings(text, site.zone, from_ms(trial.started_ms), how, note)
    remembered = mappings.recall(db, build.id, parsed.preview.header)
    roles = {node.name: node.role for node in traced(build.spec, trial.load).network.readable}
    goes_to = _targets(trial, parsed.preview, remembered, roles)
    asked = _with_twins_questions(on, trial, parsed, body, goes_to)
    return replace(parsed, preview=asked), remembered, goes_to


def _answered_shift(answers: dict[str, str]) -> float:
    """Minutes of an accepted suspicion about the clock."""
    given = answers.get("clock-off", "")
    if not given.startswith("shift:"):
        return 0.0
    try:
        minutes = float(given.removeprefix("shift:"))
    except ValueError:
        minutes = math.nan
    if not abs(minutes) <= MOST_SHIFT_MINUTES:
        raise InputProblem(
            "answers.clock-off",
            f"'{given[:40]}' was given; allowed are keep and shift:MINUTES, within {MOST_SHIFT_MINUTES} of them",
        )
    return minutes


def _targets(trial: TrialRow, found: Preview, remembered: dict[str, str], roles: dict[str, Role]) -> dict[str, str]:
    """Where each column goes: where it went last time, to a channel on the part its name speaks of, else to a new one."""
    out = {}
    by_node = {channel.node: channel.name for channel in reversed(trial.channels)}
    names = {channel.name for channel in trial.channels}
    for column in found.columns:
        before = remembered.get(column.name, "")
        node = likely_node(column, roles, trial.load)
        same = [c for c in trial.channels if c.name.lower() == column.name.lower() and c.quantity == column.quantity]
        if before == SKIP or before.startswith(NEW) or before.removeprefix(HAVE) in names:
            out[column.name] = (
                before
                if not before.startswith(NEW) or before.removeprefix(NEW) not in by_node
                else HAVE + by_node[before.removeprefix(NEW)]
            )
        elif same and HAVE + same[0].name not in out.values():
            out[column.name] = HAVE + same[0].name
        elif node in by_node and f"{HAVE}{by_node[node]}" not in out.values():
            out[column.name] = HAVE + by_node[node]
        else:
            out[column.name] = NEW + node if node and node not in by_node else SKIP
    return out


def _with_twins_questions(
    on: Ground, trial: TrialRow, parsed: Parsed, body: ImportRequest, goes_to: dict[str, str]
) -> Preview:
    """Hold the file against the twin: does it lie much closer in another unit, or when moved by an hour?"""
    found = parsed.preview
    if PROTOCOLS[trial.protocol].in_rounds:
        return found
    site, build, facts = on
    channels = _as_facts(trial, parsed, goes_to)
    if not channels:
        return found
    first = min(c.times[0] for c in channels)
    moved = facts.model_copy(update={"channels": channels, "started": min(facts.started, first)})
    try:
        at = beside(site, build.spec, moved, moved.last_s() + 2.5 * 3600.0)
        units, odd = _unit_questions(at, found, body), find_clock(at)
    except InputProblem:
        return found
    if units:  # what is read in the wrong unit says nothing of the clock
        return found.model_copy(update={"questions": [*units, *found.questions]})
    if "clock-off" in body.answers or body.shift_minutes or not odd or odd[0].minutes is None:
        return found
    minutes = odd[0].minutes
    answers = [
        Answer(code=f"shift:{minutes:g}", title=f"Yes: move all of it by {minutes:+.0f} min"),
        Answer(code="keep", title="No: the stamps are right"),
    ]
    question = Question(code="clock-off", text=odd[0].text, answers=answers)
    return found.model_copy(update={"questions": [question, *found.questions]})


def _unit_questions(at: Beside, found: Preview, body: ImportRequest) -> list[Question]:
    """Of columns whose header names no unit: is the other one meant, by which the twin would be met?"""
    open_ = {column.name: column for column in found.columns if not column.unit_seen and column.name not in body.units}
    out = []
    for odd in find_units(at):
        column = open_.get(odd.channels[0])
        if column is None or UNIT_OF + column.name in body.answers:
            continue
        other = "C" if column.unit == "F" else "F"
        answers = [
            Answer(code=other, title=f"Yes: they are °{other}"),
            Answer(code=column.unit, title=f"No: they are °{column.unit}"),
        ]
        out.append(Question(code=UNIT_OF + column.name, text=odd.text.replace(LATER, "Which is it?"), answers=answers))
    return out


def _as_facts(trial: TrialRow, parsed: Parsed, goes_to: dict[str, str]) -> list[ChannelFacts]:
    nodes = {HAVE + channel.name: channel.node for channel in trial.channels}
    out = []
    for column in parsed.preview.columns:
        target = goes_to.get(column.name, SKIP)
        node = nodes.get(target) or target.removeprefix(NEW)
        mine = [r for r in parsed.readings if r.column == column.name and r.value is not None]
        if column.quantity == "temperature" and target != SKIP and mine:
            step = max(1, len(mine) // 300)
            out.append(
                ChannelFacts(
                    channel=column.name, title=column.name, node=node, doubt=1.0, times=[r.time for r in mine[::step]],
                    values=[in_base(r.value or 0.0, r.unit, "temperature") for r in mine[::step]],
                )
            )  # fmt: skip
    return out


@api.post("/<int:id>/import", responses={200: ImportAnswer})
def commit(path: Id, body: ImportCommit) -> Response:
    """Import a file: everything, or with ``skip`` everything but the refused rows; open questions stop it."""
    with context.database() as db:
        trial = trials.get_trial(db, path.id)
        parsed, _, _ = _looked_at(db, trial, body)
        found, build = parsed.preview, build_of(db, trial)
        _check_import(found, body)
    with context.writing() as db:
        have = {channel.name for channel in trial.channels}
        for target in body.columns:
            if target.channel.name not in have:
                trials.add_channel(db, trial.id, channel_row(target.channel, build.spec, PROTOCOLS[trial.protocol]))
                have.add(target.channel.name)
        targets = {target.column: target.channel.name for target in body.columns}
        incoming = [
            Incoming(targets[r.column], r.time, r.value, r.unit, r.typed)
            for r in parsed.readings
            if r.column in targets
        ]
        result, odd = take_in(db, trials.get_trial(db, trial.id), incoming, "file", context.now(), partial(most_l_min, db, trial))  # fmt: skip
        _remember(db, build.id, found, body)
        return context.answer(ImportAnswer(preview=found, result=_batch(result, odd)))


def _remember(db: sqlite3.Connection, build_id: int, found: Preview, body: ImportCommit) -> None:
    taken = {target.column: NEW + target.channel.node for target in body.columns}
    mappings.remember(
        db, build_id, found.header, {column.name: taken.get(column.name, SKIP) for column in found.columns}
    )


def _check_import(found: Preview, body: ImportCommit) -> None:
    for question in found.questions:
        allowed = [answer.code for answer in question.answers]
        if body.answers.get(question.code) not in allowed:
            raise InputProblem(question.code, f"{question.text} Answer with one of: {', '.join(allowed)}")
    if found.refused and body.bad_rows == "stop":
        first = found.refused[0]
        raise InputProblem(
            "text",
            f"{found.refused_count} of the rows cannot be used (row {first.row}: {first.reason}); nothing was written: "
            "mend the file or import without them",
        )
    known = {column.name: column for column in found.columns}
    into = [target.channel.name for target in body.columns]
    twice = next((name for name in into if into.count(name) > 1), None)
    if twice is not None:
        both = ", ".join(target.column for target in body.columns if target.channel.name == twice)
        raise InputProblem(
            "columns", f"{both} would all go to '{twice}'; send each to a channel of its own, or leave one out"
        )
    for target in body.columns:
        if target.column not in known:
            raise InputProblem("columns", f"'{target.column}' is no column of values; known: {', '.join(known)}")


@api.get("/<int:id>/logger-setup", responses={200: LoggerSetup})
def logger_setup(path: Id) -> Response:
    """What a logger asks before it starts: the trial, and up to which minute it is covered."""
    with context.database() as db:
        trial = trials.get_trial(db, path.id)
        site, build, facts = ground(db, trial)
    last = max((c.times[-1].timestamp() for c in facts.channels if c.times), default=facts.started.timestamp() - 30.0)
    covered = max(0.0, (last + 30.0 - facts.started.timestamp()) / 60.0)
    return context.answer(LoggerSetup(facts=facts, site=site, spec=build.spec, covered_minutes=covered))
