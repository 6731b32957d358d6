"""Trials of the store turned into what goes over the wire."""

from __future__ import annotations

import hashlib
import sqlite3
from datetime import datetime, timedelta

from drylamp.core.trials.channels import places
from drylamp.core.trials.due import due, wanted_of
from drylamp.core.trials.facts import tells, told_by_sheets
from drylamp.core.trials.protocols import PROTOCOLS
from drylamp.core.trials.rounds import next_in_round, round_order
from drylamp.store import classes, photos, readings, sheets, trials
from drylamp.store.photos import PhotoRow
from drylamp.store.readings import ReadingRow, Tally
from drylamp.store.trials import ChannelRow, EventRow, TrialRow
from drylamp.web import context
from drylamp.web.trials.ground import PutRight, corrected, from_ms, putting_right, tested
from drylamp.web.trials.models import ChannelView, EventView, PhotoView, ReadingView, TrialView

LATEST = 120


def reading_view(row: ReadingRow, value: float | None = None) -> ReadingView:
    """A reading as shown."""
    return ReadingView(
        channel=row.channel,
        time=from_ms(row.time_ms),
        value=row.value if value is None else value,
        typed=row.typed,
        unit=row.unit,
        source=row.source,
        flag_code=row.flag_code,
        flag_text=row.flag_text,
    )


def channel_view(row: ChannelRow) -> ChannelView:
    """A channel as shown."""
    return ChannelView(**row.__dict__)


def trial_view(db: sqlite3.Connection, row: TrialRow, whole: bool, now: datetime) -> TrialView:
    """A trial as shown, with its latest readings, events and photos when ``whole``."""
    protocol = PROTOCOLS[row.protocol]
    latest = readings.list_readings(db, row.id, LATEST) if whole or protocol.in_rounds else []
    tallies = readings.tallies(db, row.id)
    counts = {name: tally.count for name, tally in tallies.items()}
    events = trials.list_events(db, row.id)
    site, build = tested(db, row)
    nodes = {channel.name: channel.node for channel in row.channels}
    started, order = from_ms(row.started_ms), round_order(build.spec, nodes) if protocol.in_rounds else []
    last = {name: (tally.last_ms - row.started_ms) / 60000.0 for name, tally in tallies.items()}
    wanted = order or wanted_of(list(nodes.items()), [w.node for w in protocol.channels if not w.optional], last)
    elapsed = max([(now - started).total_seconds() / 60.0, *last.values()])
    now_due = due(protocol.reading_minutes, elapsed, last, wanted)
    running = row.ended_ms is None
    at = None if now_due.minute is None or not running else started + timedelta(minutes=now_due.minute)
    missing = next(iter(now_due.missing), wanted[0]) if running and protocol.reading_minutes and wanted else None
    telling = [c.name for c in row.channels if tells(c.node, c.quantity, c.is_control, row.load)]
    noted = sheets.contents(db, "trial", row.id)
    recent = [(r.time_ms / 1000.0, r.channel) for r in latest if r.channel in order]
    return TrialView(
        id=row.id,
        build_id=row.build_id,
        build_revision=row.build_revision,
        build_name=build.name,
        name=row.name,
        protocol=protocol,
        spot=row.spot,
        weather=row.weather,
        load=row.load,
        preheated=row.preheated,
        started=started,
        ended=None if running else from_ms(row.ended_ms or 0),
        remarks=row.remarks,
        goal=row.goal,
        places=places(build.spec, row.load) if whole else [],
        channels=[channel_view(channel) for channel in row.channels],
        channels_mark=channels_mark(row),
        readings=_put_right(row, latest, putting_right(row, build, site)) if whole else [],
        events=[
            EventView(id=event.id, kind=event.kind, time=from_ms(event.time_ms), note=event.note, channel=event.channel)
            for event in (events if whole else [])
        ],
        photos=[_photo_view(photo) for photo in (photos.list_photos(db, row.id) if whole else [])],
        reading_count=sum(counts.values()),
        counts=counts,
        flagged=readings.count_flagged(db, row.id) if whole else {},
        can_judge=readings.any_usable(db, row.id, telling) or told_by_sheets(row.load, noted),
        rounds_done=now_due.done,
        next_reading=at,
        read_next=next_in_round(order, recent, now.timestamp()) if running and protocol.in_rounds else missing,
        wanted=wanted,
        round_order=order,
        boxes=len(classes.list_boxes(db, row.id)),
        token=row.token if whole and not context.is_guest() else "",
        mark=_mark(row, tallies, events, noted),
    )


def _put_right(row: TrialRow, latest: list[ReadingRow], put: PutRight) -> list[ReadingView]:
    channels = {channel.name: channel for channel in row.channels}
    return [reading_view(r, corrected(channels[r.channel], r.value, put)) for r in latest]


def channels_mark(row: TrialRow) -> str:
    """Changes with whatever is known of the trial's channels."""
    return _short(repr(row.channels))


def _short(text: str) -> str:
    return hashlib.blake2b(text.encode(), digest_size=8).hexdigest()


def _mark(row: TrialRow, tallies: dict[str, Tally], events: list[EventRow], noted: object) -> str:
    """Changes with whatever a chart or a verdict of the trial stands on."""
    stood_on = repr((sorted(tallies.items()), events, row.channels, noted))
    return _short(stood_on)


def _photo_view(row: PhotoRow) -> PhotoView:
    return PhotoView(
        id=row.id, time=from_ms(row.time_ms), note=row.note, channel=row.channel, width=row.width, height=row.height
    )
