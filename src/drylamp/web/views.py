"""Rows of the store turned into what goes over the wire."""

from __future__ import annotations

import sqlite3
from datetime import UTC, datetime, timedelta

from drylamp.core.trials.protocols import PROTOCOLS, next_reading_minute
from drylamp.core.trials.verdict import ChannelFacts, EventFacts, TrialFacts
from drylamp.store import builds, readings, trials
from drylamp.store.builds import BuildRow
from drylamp.store.readings import ReadingRow
from drylamp.store.trials import TrialRow
from drylamp.web.models import BuildView, ChannelView, EventView, ReadingView, TrialView


def from_ms(milliseconds: int) -> datetime:
    """Instant of a stored time."""
    return datetime.fromtimestamp(milliseconds / 1000.0, UTC)


def build_view(row: BuildRow) -> BuildView:
    """A build as shown."""
    return BuildView(
        id=row.id,
        site_id=row.site_id,
        revision=row.revision,
        name=row.name,
        spot=row.spot,
        spec=row.spec,
        load=row.load,
        note=row.note,
        can_undo=row.undo_to is not None,
        created_at=row.created_at,
        removed=row.removed,
    )


def reading_view(row: ReadingRow) -> ReadingView:
    """A reading as shown."""
    return ReadingView(
        channel=row.channel,
        time=from_ms(row.time_ms),
        value_c=row.value_c,
        typed=row.typed,
        unit=row.unit,
        source=row.source,
        flag_code=row.flag_code,
        flag_text=row.flag_text,
    )


def trial_view(db: sqlite3.Connection, row: TrialRow, whole: bool, now: datetime) -> TrialView:
    """A trial as shown, with its readings and events when ``whole``."""
    protocol = PROTOCOLS[row.protocol]
    kept = readings.list_readings(db, row.id) if whole or row.ended_ms is None else []
    started = from_ms(row.started_ms)
    done = _rounds(row, kept)
    minute = next_reading_minute(protocol, (now - started).total_seconds() / 60.0, done)
    due = None if minute is None or row.ended_ms is not None else started + timedelta(minutes=minute)
    return TrialView(
        id=row.id,
        build_id=row.build_id,
        build_revision=row.build_revision,
        build_name=builds.get_build(db, row.build_id, row.build_revision).name,
        name=row.name,
        protocol=protocol,
        spot=row.spot,
        weather=row.weather,
        load=row.load,
        preheated=row.preheated,
        started=started,
        ended=None if row.ended_ms is None else from_ms(row.ended_ms),
        remarks=row.remarks,
        channels=[ChannelView(**channel.__dict__) for channel in row.channels],
        readings=[reading_view(reading) for reading in kept] if whole else [],
        events=[
            EventView(id=event.id, kind=event.kind, time=from_ms(event.time_ms), note=event.note)  # type: ignore[arg-type]
            for event in (trials.list_events(db, row.id) if whole else [])
        ],
        reading_count=len(kept) if kept else readings.count_readings(db, row.id),
        rounds_done=done,
        next_reading=due,
    )


def _rounds(row: TrialRow, kept: list[ReadingRow]) -> int:
    """Planned rounds done: the most hand readings on any channel."""
    counts = [sum(1 for r in kept if r.channel == channel.name) for channel in row.channels]
    return max(counts, default=0)


def trial_facts(db: sqlite3.Connection, row: TrialRow) -> TrialFacts:
    """What the core needs to judge a trial; readings flagged as impossible or stuck stay out."""
    kept = [r for r in readings.list_readings(db, row.id) if r.flag_code not in ("impossible", "stuck", "unit")]
    channels = []
    for channel in row.channels:
        mine = [r for r in kept if r.channel == channel.name]
        channels.append(
            ChannelFacts(
                channel=channel.name,
                title=channel.title,
                node=channel.node,
                is_control=channel.is_control,
                doubt_k=channel.doubt_k,
                times=[from_ms(r.time_ms) for r in mine],
                values_c=[r.value_c for r in mine],
            )
        )
    events = [
        EventFacts(kind=event.kind, time=from_ms(event.time_ms), note=event.note)  # type: ignore[arg-type]
        for event in trials.list_events(db, row.id)
    ]
    return TrialFacts(
        name=row.name,
        protocol=row.protocol,
        started=from_ms(row.started_ms),
        spot=row.spot,
        weather=row.weather,
        load=row.load,
        preheated=row.preheated,
        channels=channels,
        events=events,
    )
