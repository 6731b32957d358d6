"""Rows of the store turned into what goes over the wire."""

from __future__ import annotations

import hashlib
import sqlite3
from collections.abc import Callable
from datetime import UTC, datetime, timedelta

import numpy as np

from drylamp.core.air.moist import boiling_c
from drylamp.core.trials.facts import WEATHER_NODES, ChannelFacts, EventFacts, TrialFacts
from drylamp.core.trials.instruments import infrared_c, surface_seen
from drylamp.core.trials.protocols import PROTOCOLS, next_reading_minute
from drylamp.core.trials.rounds import next_in_round
from drylamp.core.trials.thin import thin_by_means
from drylamp.store import builds, calibrations, photos, readings, sites, trials
from drylamp.store.builds import BuildRow
from drylamp.store.calibrations import CalibrationRow
from drylamp.store.photos import PhotoRow
from drylamp.store.readings import ReadingRow, Tally
from drylamp.store.trials import ChannelRow, EventRow, TrialRow
from drylamp.web.models import (
    BuildView,
    CalibrationView,
    ChannelView,
    EventView,
    PhotoView,
    ReadingView,
    TrialView,
)

LATEST = 120
JUDGED_POINTS = 1500
USUAL_SET_TO = 0.95


def from_ms(milliseconds: int) -> datetime:
    """Instant of a stored time."""
    return datetime.fromtimestamp(milliseconds / 1000.0, UTC)


def build_view(db: sqlite3.Connection, row: BuildRow) -> BuildView:
    """A build as shown, with the calibration in force."""
    calibration = calibrations.in_force(db, row.id)
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
        calibration=None if calibration is None else calibration_view(calibration, row.revision),
    )


def calibration_view(row: CalibrationRow, revision: int) -> CalibrationView:
    """A calibration as shown beside a build at a revision."""
    return CalibrationView(
        id=row.id,
        trial_id=row.trial_id,
        trial_name=row.trial_name,
        build_revision=row.build_revision,
        factors=row.factors,
        words=row.words,
        accepted_at=row.accepted_at,
        older=row.build_revision != revision,
    )


def corrected(channel: ChannelRow, value: float | None, put_right: PutRight) -> float | None:
    """A value put right by what is known of its channel."""
    return None if value is None else float(put_right(channel)(np.array([value]))[0])


PutRight = Callable[[ChannelRow], Callable[[np.ndarray], np.ndarray]]


def putting_right(db: sqlite3.Connection, row: TrialRow, build: BuildRow) -> PutRight:
    """How to put a channel's values right: ice and boiling points, and the emittance of what an infrared thermometer saw."""
    boiling = boiling_c(sites.get_site(db, build.site_id).site.pressure_pa)
    around_c = (row.weather.tmin_c + row.weather.tmax_c) / 2

    def of(channel: ChannelRow) -> Callable[[np.ndarray], np.ndarray]:
        seen = surface_seen(build.spec, channel.node) if channel.instrument == "infrared" else None

        def put(values: np.ndarray) -> np.ndarray:
            if channel.calibration is not None:
                values = np.array([channel.calibration.corrected(float(v), boiling) for v in values])
            if seen is not None:
                set_to = channel.set_to or USUAL_SET_TO
                values = np.array([infrared_c(float(v), set_to, seen.emittance, around_c) for v in values])
            return values

        return put

    return of


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
    started, order = from_ms(row.started_ms), round_order(row)
    done = _rounds(row, counts, order)
    minute = next_reading_minute(protocol, (now - started).total_seconds() / 60.0, done)
    running = row.ended_ms is None
    due = None if minute is None or not running else started + timedelta(minutes=minute)
    build = builds.get_build(db, row.build_id, row.build_revision)
    put_right = putting_right(db, row, build)
    channels = {channel.name: channel for channel in row.channels}
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
        channels=[channel_view(channel) for channel in row.channels],
        channels_mark=channels_mark(row),
        readings=[reading_view(r, corrected(channels[r.channel], r.value, put_right)) for r in latest] if whole else [],
        events=[
            EventView(id=event.id, kind=event.kind, time=from_ms(event.time_ms), note=event.note, channel=event.channel)  # type: ignore[arg-type]
            for event in (events if whole else [])
        ],
        photos=[_photo_view(photo) for photo in (photos.list_photos(db, row.id) if whole else [])],
        reading_count=sum(counts.values()),
        counts=counts,
        flagged=readings.count_flagged(db, row.id) if whole else {},
        can_judge=readings.any_usable(db, row.id, _inside(row)),
        rounds_done=done,
        next_reading=due,
        read_next=next_in_round(order, recent, now.timestamp()) if running and protocol.in_rounds else None,
        round_order=order,
        token=row.token,
        mark=_mark(row, tallies, events),
    )


def channels_mark(row: TrialRow) -> str:
    """Changes with whatever is known of the trial's channels."""
    return _short(repr(row.channels))


def _short(text: str) -> str:
    return hashlib.blake2b(text.encode(), digest_size=8).hexdigest()


def _mark(row: TrialRow, tallies: dict[str, Tally], events: list[EventRow]) -> str:
    """Changes with whatever a chart or a verdict of the trial stands on."""
    stood_on = repr((sorted(tallies.items()), events, row.channels))
    return _short(stood_on)


def _inside(row: TrialRow) -> list[str]:
    """Channels that read the build and not its weather or a control."""
    return [
        c.name for c in row.channels
        if c.quantity == "temperature" and not c.is_control and c.node not in WEATHER_NODES
    ]  # fmt: skip


def _photo_view(row: PhotoRow) -> PhotoView:
    return PhotoView(
        id=row.id, time=from_ms(row.time_ms), note=row.note, channel=row.channel, width=row.width, height=row.height
    )


def round_order(row: TrialRow) -> list[str]:
    """Channels that a round walks along: the samples as they lie, then the board; none in trials that are not read in rounds."""
    if not PROTOCOLS[row.protocol].in_rounds:
        return []
    walked = [c.name for c in row.channels if c.node.startswith("sample-")]
    return walked + [c.name for c in row.channels if c.node == "board"] if walked else [c.name for c in row.channels]


def _rounds(row: TrialRow, counts: dict[str, int], order: list[str]) -> int:
    """Planned rounds done: in rounds the fewest readings on any of its channels, else the most on any."""
    if order:
        return min(counts.get(name, 0) for name in order)
    return max((counts.get(channel.name, 0) for channel in row.channels), default=0)


def trial_facts(db: sqlite3.Connection, row: TrialRow, with_readings: bool = True) -> TrialFacts:
    """What the core needs to judge a trial: values put right, readings that were set aside left out, long logs by means."""
    build = builds.get_build(db, row.build_id, row.build_revision)
    put_right = putting_right(db, row, build)
    events = [
        EventFacts(kind=event.kind, time=from_ms(event.time_ms), note=event.note, channel=event.channel)  # type: ignore[arg-type]
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
        channels=[_channel_facts(db, row.id, channel, put_right) for channel in row.channels] if with_readings else [],
        events=events,
        goal=row.goal,
    )


def _channel_facts(db: sqlite3.Connection, trial_id: int, channel: ChannelRow, put_right: PutRight) -> ChannelFacts:
    read = readings.series(db, trial_id, channel.name)
    good = ~np.isnan(read.value)
    own = np.where(np.isnan(read.doubt), channel.doubt, read.doubt)[good]
    seconds, values = thin_by_means(read.time_ms[good] / 1000.0, put_right(channel)(read.value[good]), JUDGED_POINTS)
    doubt = channel.doubt if channel.calibration is None else channel.calibration.doubt_k(channel.doubt)
    has_own = len(own) == len(values) and bool((own != channel.doubt).any())
    return ChannelFacts(
        channel=channel.name,
        title=channel.title,
        node=channel.node,
        is_control=channel.is_control,
        doubt=doubt,
        quantity=channel.quantity,
        device=channel.device,
        times=[datetime.fromtimestamp(float(s), UTC) for s in seconds],
        values=[float(v) for v in values],
        doubts=[float(d) for d in own] if has_own else [],
    )
