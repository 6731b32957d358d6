"""Trials: start, note, photograph, end, judge, calibrate, compare, give out."""

from __future__ import annotations

import base64
import secrets
import sqlite3
from datetime import datetime

from flask import Response, request

from drylamp.core.builds.build import Build
from drylamp.core.builds.protocol import EVENTS
from drylamp.core.builds.registry import kind_of
from drylamp.core.checks import InputProblem
from drylamp.core.sky.clock import instant_s, local_time
from drylamp.core.sky.site import Site
from drylamp.core.sky.weather import SKY_INDEX
from drylamp.core.trials.at_tap import not_told
from drylamp.core.trials.beside import case_of
from drylamp.core.trials.channels import lines_for, read_as, usual_channels
from drylamp.core.trials.compare import TrialComparison
from drylamp.core.trials.days import LogDays, log_days
from drylamp.core.trials.events import check_event
from drylamp.core.trials.facts import TrialFacts
from drylamp.core.trials.fit import Fit
from drylamp.core.trials.instruments import (
    BASE_UNIT,
    INSTRUMENTS,
    UNITS,
    USUAL_SET_TO,
    WORDS,
)
from drylamp.core.trials.paper import check_span, is_ahead
from drylamp.core.trials.protocols import PROTOCOLS, Protocol, find_protocol
from drylamp.core.trials.told_apart import trials_apart
from drylamp.core.trials.verdict import Verdict, compare_trials
from drylamp.core.twin.case import Case
from drylamp.formats.photo import read_photo
from drylamp.formats.readings.preview import CLOCKS
from drylamp.formats.section_svg import section_svg
from drylamp.formats.trial_file import (
    ChannelFile,
    EventFile,
    PhotoFile,
    ReadingFile,
    TrialFile,
    write_calendar,
    write_csv,
)
from drylamp.formats.trial_xlsx import write_xlsx
from drylamp.formats.verdict_file import Picture, VerdictFile, to_html
from drylamp.formats.workbook import XLSX
from drylamp.instruments.ingest import to_ms
from drylamp.store import builds, calibrations, photos, readings, sheets, sites, trials
from drylamp.store.builds import BuildRow
from drylamp.store.photos import NewPhoto
from drylamp.store.trials import ChannelRow, TrialRow
from drylamp.store.unreadable import readable
from drylamp.web import context
from drylamp.web.builds.models import CalibrationView
from drylamp.web.builds.present import calibration_view
from drylamp.web.jobs.heavy import heavy
from drylamp.web.routed import as_file, blueprint, needs_mark, takes
from drylamp.web.settings import MAX_UPLOAD_BYTES
from drylamp.web.shared import Id, PartPath
from drylamp.web.trials.ground import build_of, every_reading, from_ms, ground, tested
from drylamp.web.trials.judged import fitted, judged
from drylamp.web.trials.models import (
    ChangedQuery,
    ChangedView,
    ChannelPath,
    CompareQuery,
    EndTrial,
    FitRequest,
    LineList,
    LinesRequest,
    NewChannel,
    NewEvent,
    NewTrial,
    PhotoQuery,
    TrialBook,
    TrialList,
    TrialQuery,
    TrialView,
    VerdictQuery,
)
from drylamp.web.trials.present import channels_mark, trial_view

LONG_OVER_MS = 86_400_000
MOST_EXPORTED, MOST_PHOTO_BYTES = 1_000_000, 400_000_000
"""Readings and bytes of pictures that one file takes: a gigabyte of memory while it is written."""
api = blueprint("trials", "/api/trials")


@api.get("/book", responses={200: TrialBook})
def book() -> Response:
    """List protocols, instruments, units, words and kinds of event."""
    return context.answer(
        TrialBook(
            protocols=list(PROTOCOLS.values()),
            instruments=list(INSTRUMENTS.values()),
            units=list(UNITS.values()),
            usual_units=BASE_UNIT,
            words=list(WORDS),
            events=list(EVENTS.values()),
            sky_states=list(SKY_INDEX),
            clocks=CLOCKS,
            photo_most_bytes=MAX_UPLOAD_BYTES,
            usual_set_to=USUAL_SET_TO,
        )
    )


@api.post("/lines", responses={200: LineList})
def lines(body: LinesRequest) -> Response:
    """List the channels that a trial may begin with: those its protocol wants, then what else can be read."""
    protocol = find_protocol(body.protocol, body.spec.kind)
    return context.answer(LineList(lines_for(protocol, body.spec, body.load)))


@api.get("", responses={200: TrialList})
def list_all(query: TrialQuery) -> Response:
    """List trials, newest first, without their readings."""
    with context.database() as db:
        rows = [row for row in trials.list_trials(db, query.build) if row.ended_ms is None or not query.running]
        now = context.now()
        return context.answer(TrialList(readable(rows, lambda row: trial_view(db, row, False, now))))


@api.post("", responses={201: TrialView})
def start(body: NewTrial) -> Response:
    """Start a trial of a build's current revision."""
    with context.writing() as db:
        build = builds.get_build(db, body.build_id)
        protocol = find_protocol(body.protocol, build.spec.kind)
        site = sites.get_site(db, build.site_id).site
        load = body.load if body.load is not None else (build.load if protocol.needs_load else None)
        kind_of(build.spec).check_fit(build.spec, load)
        begun = _begun(body, site)
        channels = body.channels or [
            NewChannel(**dict(channel)) for channel in usual_channels(protocol, build.spec, load)
        ]
        row = TrialRow(
            id=0,
            build_id=build.id,
            build_revision=build.revision,
            name=body.name,
            protocol=body.protocol,
            spot=body.spot or build.spot,
            weather=body.weather
            or sites.weather_on(db, build.site_id, site, begun.astimezone(site.zone).date(), body.sky),
            load=load,
            preheated=body.preheated,
            started_ms=to_ms(begun),
            ended_ms=None,
            remarks="",
            channels=[channel_row(channel, build.spec, protocol) for channel in channels],
            token=secrets.token_hex(12),
            goal=body.goal,
        )
        site.spot(row.spot)
        return _shown(db, trials.add_trial(db, row), 201)


def _begun(body: NewTrial, site: Site) -> datetime:
    """When a trial began: now, or as was said.

    Raises
    ------
    InputProblem
        that lies ahead of the server's clock, and nobody said that it is meant.
    """
    if body.begun is not None:
        begun = local_time(site.zone, instant_s(site.zone, body.begun.day, body.begun.hour))
    else:
        begun = body.started or context.now()
    if is_ahead(begun, context.now()) and not body.ahead:
        shown = context.now().astimezone(site.zone)
        raise InputProblem("begun", f"{begun.astimezone(site.zone):%Y-%m-%d %H:%M} lies ahead of this machine's clock, which shows {shown:%Y-%m-%d %H:%M}; if that is meant, send it with ahead: true")  # fmt: skip
    return begun


def channel_row(channel: NewChannel, spec: Build, protocol: Protocol) -> ChannelRow:
    """A channel for the store, with what follows from its instrument."""
    found = read_as(protocol, spec, channel.node, channel.instrument, (channel.quantity, channel.doubt, channel.device))
    return ChannelRow(
        channel.name, channel.title, channel.node, channel.is_control, channel.instrument,
        found.doubt, found.quantity, found.device, channel.calibration, channel.set_to,
    )  # fmt: skip


@api.get("/<int:id>", responses={200: TrialView})
def get(path: Id) -> Response:
    """Show a trial with its latest readings, events and photos."""
    with context.database() as db:
        return _shown(db, path.id)


def _shown(db: sqlite3.Connection, trial_id: int, status: int = 200) -> Response:
    return context.answer(trial_view(db, trials.get_trial(db, trial_id), True, context.now()), status)


@api.put("/<int:id>/channels/<string:channel>", responses={200: TrialView})
@needs_mark
def change_channel(path: ChannelPath, body: NewChannel) -> Response:
    """Change what is known of a channel's instrument, its calibration included, or add the channel; readings stay as they were read. Needs If-Match."""
    with context.writing() as db:
        trial = trials.get_trial(db, path.id)
        context.check_mark(channels_mark(trial), f"a channel of trial {trial.id}")
        row = channel_row(
            body.model_copy(update={"name": path.channel}), build_of(db, trial).spec, PROTOCOLS[trial.protocol]
        )
        if any(channel.name == path.channel for channel in trial.channels):
            trials.change_channel(db, trial.id, row)
        else:
            trials.add_channel(db, trial.id, row)
        return _shown(db, path.id)


@api.post("/<int:id>/events", responses={201: TrialView})
def add_event(path: Id, body: NewEvent) -> Response:
    """Note an event; sent twice with one uid it is noted once."""
    with context.writing() as db:
        trial = trials.get_trial(db, path.id)
        site, _ = tested(db, trial)
        check_event(body.kind, body.note, site, [channel.name for channel in trial.channels])
        when = body.time or context.now()
        check_span(when, from_ms(trial.started_ms))
        at = to_ms(when)
        trials.add_event(db, path.id, body.kind, at, body.note, body.channel, body.uid)
        return _shown(db, path.id, 201)


@api.post("/<int:id>/events/<int:part_id>/withdraw", responses={200: TrialView})
def withdraw_event(path: PartPath) -> Response:
    """Take an event back."""
    with context.writing() as db:
        trials.withdraw_event(db, path.id, path.part_id, context.stamp())
        return _shown(db, path.id)


@api.post("/<int:id>/photos", responses={201: TrialView})
@takes({f"image/{kind}": {"type": "string", "format": "binary"} for kind in ("jpeg", "png", "webp")})
def add_photo(path: Id, query: PhotoQuery) -> Response:
    """Keep a photo, sent as the body; it is made smaller and stripped of where it was taken."""
    photo = read_photo(request.get_data())
    with context.writing() as db:
        trials.get_trial(db, path.id)
        at = to_ms(query.time or context.now())
        photos.add_photo(
            db, path.id,
            NewPhoto(at, query.note, query.channel, photo.width, photo.height, photo.content, query.uid),
        )  # fmt: skip
        return _shown(db, path.id, 201)


@api.get("/<int:id>/photos/<int:part_id>", responses=as_file("image/jpeg", binary=True))
def photo(path: PartPath) -> Response:
    """Give a photo."""
    with context.database() as db:
        content = photos.OF_TRIAL.content(db, path.id, path.part_id)
    return Response(content, mimetype="image/jpeg")


@api.post("/<int:id>/photos/<int:part_id>/withdraw", responses={200: TrialView})
def withdraw_photo(path: PartPath) -> Response:
    """Take a photo back."""
    with context.writing() as db:
        photos.OF_TRIAL.withdraw(db, path.id, path.part_id, context.stamp())
        return _shown(db, path.id)


@api.post("/<int:id>/photos/<int:part_id>/restore", responses={200: TrialView})
def restore_photo(path: PartPath) -> Response:
    """Bring a photo back."""
    with context.writing() as db:
        photos.OF_TRIAL.withdraw(db, path.id, path.part_id, None)
        return _shown(db, path.id)


@api.post("/<int:id>/end", responses={200: TrialView})
def end(path: Id, body: EndTrial) -> Response:
    """End a trial, or take its end back."""
    with context.writing() as db:
        trials.get_trial(db, path.id)
        trials.end_trial(db, path.id, _ended_ms(db, path.id) if body.ended else None, body.remarks)
        return _shown(db, path.id)


def _ended_ms(db: sqlite3.Connection, trial_id: int) -> int:
    """Now; of a trial whose readings are a day old or older, with the last of them."""
    now, last = to_ms(context.now()), readings.last_ms(db, trial_id)
    return last if last is not None and last < now - LONG_OVER_MS else now


@api.get("/<int:id>/days", responses={200: LogDays})
def by_days(path: Id) -> Response:
    """A log by its days: true extremes, hours covered, gaps."""
    with context.database() as db:
        trial = trials.get_trial(db, path.id)
        site, facts = every_reading(db, trial)
    return context.answer(log_days(site, trial.load, facts))


@api.get("/<int:id>/verdict", responses={200: Verdict})
@heavy()
def verdict(path: Id, query: VerdictQuery) -> Response:
    """Judge a trial beside its twin."""
    with context.database() as db:
        site, build, facts = ground(db, trials.get_trial(db, path.id))
    return context.answer(judged(site, build.spec, facts, query.wall_m2))


@api.get("/<int:id>/verdict.html", responses=as_file("text/html"))
@heavy()
def verdict_page(path: Id) -> Response:
    """The verdict as one page that opens anywhere and prints: readings beside the twin, figures, what was found, photos."""
    with context.database() as db:
        trial = trials.get_trial(db, path.id)
        site, build, facts = ground(db, trial)
        shown = photos.list_photos(db, path.id)
        pictures = [Picture(note=row.note, jpeg=photos.OF_TRIAL.content(db, path.id, row.id)) for row in shown]
    file = _verdict_file(trial, site, build, facts)
    drawing = section_svg(kind_of(build.spec).section(build.spec, trial.load, None), f"{build.name}, cut open")
    protocol = PROTOCOLS[trial.protocol]
    text = to_html(file, facts.channels, drawing, pictures, protocol.cautions, f"{context.now():%Y-%m-%d}")
    return context.attachment(text, "text/html", f"verdict-{path.id}.html")


@api.get("/<int:id>/verdict.json", responses={200: VerdictFile})
@heavy()
def verdict_file(path: Id) -> Response:
    """The verdict as a file, with the case that it was judged by."""
    with context.database() as db:
        trial = trials.get_trial(db, path.id)
        site, build, facts = ground(db, trial)
    text = _verdict_file(trial, site, build, facts).model_dump_json(indent=1) + "\n"
    return context.attachment(text, "application/json", f"verdict-{path.id}.json")


def _verdict_file(trial: TrialRow, site: Site, build: BuildRow, facts: TrialFacts) -> VerdictFile:
    case = case_of(site, build.spec, facts, facts.last_s())
    found = judged(site, build.spec, facts)
    started = facts.started.astimezone(site.zone)
    return VerdictFile(trial=trial.name, started=started, build_name=build.name, case=case, verdict=found)


@api.get("/<int:id>/case.json", responses={200: Case})
def case_file(path: Id) -> Response:
    """The trial as a case, to be run again anywhere."""
    with context.database() as db:
        site, build, facts = ground(db, trials.get_trial(db, path.id))
    case = case_of(site, build.spec, facts, facts.last_s())
    return context.attachment(case.model_dump_json(indent=1) + "\n", "application/json", f"trial-{path.id}-case.json")


@api.post("/<int:id>/fit", responses={200: Fit})
@heavy()
def fit_trial(path: Id, body: FitRequest) -> Response:
    """Fit the twin's doubtful parameters to a trial; changes nothing."""
    with context.database() as db:
        site, build, facts = ground(db, trials.get_trial(db, path.id))
    return context.answer(fitted(site, build.spec, facts, body.parameters))


@api.post("/<int:id>/accept", responses={201: CalibrationView})
def accept(path: Id, body: FitRequest) -> Response:
    """Fit, and keep the result as the build's calibration, with this trial and the revision it tested."""
    with context.database() as db:
        site, build, facts = ground(db, trials.get_trial(db, path.id))
    found = fitted(site, build.spec, facts, body.parameters)
    if found.first and not body.anyway:
        raise InputProblem("anyway", f"{found.first[0]} Look at that first; whoever has, sends anyway: true")
    words = "; ".join(p.words.rstrip(".") for p in found.parameters if p.told) or "nothing told"
    key = (build.id, build.revision)
    with context.writing() as db:
        new = calibrations.accept(db, key, path.id, found.calibration, words, context.stamp())
        row = calibrations.get_calibration(db, new)
        return context.answer(calibration_view(row, builds.get_build(db, build.id).revision), 201)


@api.get("/<int:id>/compare", responses={200: TrialComparison})
@heavy()
def compare(path: Id, query: CompareQuery) -> Response:
    """Bring this trial and another to one day by the other's twin, and hold one part against the other."""
    with context.database() as db:
        site, build, control = ground(db, trials.get_trial(db, query.control))
        own_site, _, tested = ground(db, trials.get_trial(db, path.id))
    if own_site != site:
        raise InputProblem("control", "the other trial was run at another site; choose one of this site")
    return context.answer(compare_trials(site, build.spec, tested, control, query.node))


@api.get("/<int:id>/changed", responses={200: ChangedView})
@heavy()
def changed(path: Id, query: ChangedQuery) -> Response:
    """The part of each thing that was changed between another trial and this one, and of their two days."""
    with context.database() as db:
        site, build, tested = ground(db, trials.get_trial(db, path.id))
        other_site, other_build, other = ground(db, trials.get_trial(db, query.control))
    if other_site != site:
        raise InputProblem("control", "the other trial was run at another site; choose one of this site")
    made = trials_apart(site, (build.spec, tested), (other_build.spec, other))
    return context.answer(ChangedView(**dict(made), cannot=not_told(tested, other)))


@api.get("/<int:id>/export.csv", responses=as_file("text/csv"))
@heavy()
def export_csv(path: Id) -> Response:
    """Give all readings and events as CSV."""
    return context.attachment(write_csv(_whole(path.id, with_photos=False)), "text/csv", f"trial-{path.id}.csv")


@api.get("/<int:id>/export.xlsx", responses=as_file(XLSX, binary=True))
@heavy()
def export_xlsx(path: Id) -> Response:
    """Give all readings and events as a workbook."""
    return context.attachment(write_xlsx(_whole(path.id, with_photos=False)), XLSX, f"trial-{path.id}.xlsx")


@api.get("/<int:id>/export.json", responses={200: TrialFile})
@heavy()
def export_json(path: Id) -> Response:
    """Give everything about a trial as JSON, photos included."""
    return context.attachment(
        _whole(path.id).model_dump_json(indent=1) + "\n", "application/json", f"trial-{path.id}.json"
    )


@api.get("/<int:id>/readings.ics", responses=as_file("text/calendar"))
def calendar(path: Id) -> Response:
    """Give the reading times as a calendar with alarms."""
    with context.database() as db:
        trial = trials.get_trial(db, path.id)
    text = write_calendar(
        trial.name,
        from_ms(trial.started_ms),
        PROTOCOLS[trial.protocol].reading_minutes,
        f"trial-{trial.id}-{trial.started_ms}",
    )
    return context.attachment(text, "text/calendar", f"trial-{path.id}.ics")


def _whole(trial_id: int, with_photos: bool = True) -> TrialFile:
    """Everything about a trial.

    Raises
    ------
    InputProblem
        it is more than one file takes; asked before anything of it is read.
    """
    with context.database() as db:
        trial = trials.get_trial(db, trial_id)
        site, build = tested(db, trial)
        _check_size(db, trial_id, with_photos)
        shown = photos.list_photos(db, trial_id) if with_photos else []
        pictures = [(row, photos.OF_TRIAL.content(db, trial_id, row.id)) for row in shown]
        return TrialFile(
            name=trial.name,
            protocol=trial.protocol,
            started=from_ms(trial.started_ms),
            ended=None if trial.ended_ms is None else from_ms(trial.ended_ms),
            remarks=trial.remarks,
            site=site,
            spot=trial.spot,
            build_name=build.name,
            build_revision=build.revision,
            spec=build.spec,
            load=trial.load,
            preheated=trial.preheated,
            weather=trial.weather,
            goal=trial.goal,
            channels=[ChannelFile(**channel.__dict__) for channel in trial.channels],
            readings=[
                ReadingFile(
                    time=from_ms(r.time_ms), channel=r.channel, value=r.value, typed=r.typed, unit=r.unit, source=r.source,
                    flag=r.flag_code, withdrawn=r.withdrawn,
                )
                for r in readings.list_readings(db, trial_id, withdrawn_too=True)
            ],
            sheets=sheets.contents(db, "trial", trial_id),
            events=[
                EventFile(time=from_ms(e.time_ms), kind=e.kind, note=e.note, channel=e.channel)
                for e in trials.list_events(db, trial_id)
            ],
            photos=[
                PhotoFile(time=from_ms(row.time_ms), note=row.note, channel=row.channel, jpeg_base64=base64.b64encode(content).decode())
                for row, content in pictures
            ],
        )  # fmt: skip


def _check_size(db: sqlite3.Connection, trial_id: int, with_photos: bool) -> None:
    count = readings.count_all(db, trial_id)
    if count > MOST_EXPORTED:
        raise InputProblem("trial", f"it has {count} readings, and one file takes {MOST_EXPORTED}; copy the data file instead, it holds them all")  # fmt: skip
    size = photos.total_bytes(db, trial_id) if with_photos else 0
    if size > MOST_PHOTO_BYTES:
        raise InputProblem("trial", f"its photos have {size / 1e6:.0f} MB, and one file takes {MOST_PHOTO_BYTES / 1e6:.0f} MB; take the CSV, and the photos one by one")  # fmt: skip
