"""What judging a trial stands on: rows of the store gathered for the core, values put right by what is known of their channels."""

from __future__ import annotations

import math
import sqlite3
from collections.abc import Callable
from dataclasses import dataclass
from datetime import UTC, datetime

import numpy as np

from drylamp.core.air.moist import boiling_c
from drylamp.core.builds.registry import kind_of
from drylamp.core.checks import require
from drylamp.core.sky.site import Site
from drylamp.core.trials.facts import ChannelFacts, EventFacts, FarReading, TrialFacts
from drylamp.core.trials.far import far_from_rest
from drylamp.core.trials.instruments import put_right, surface_seen
from drylamp.core.trials.thin import thin_by_means
from drylamp.store import builds, readings, sheets, sites, trials
from drylamp.store.builds import BuildRow
from drylamp.store.readings import Series
from drylamp.store.trials import ChannelRow, TrialRow

JUDGED_POINTS, MOST_READINGS, FAR_SHOWN = 1500, 2_000_000, 5
Ground = tuple[Site, BuildRow, TrialFacts]
"""A trial's site, the revision it tested, and its facts."""
PutRight = Callable[[ChannelRow], Callable[[np.ndarray], np.ndarray]]


def from_ms(milliseconds: int) -> datetime:
    """Instant of a stored time."""
    return datetime.fromtimestamp(milliseconds / 1000.0, UTC)


def build_of(db: sqlite3.Connection, trial: TrialRow) -> BuildRow:
    """The revision that a trial tested."""
    return builds.get_build(db, trial.build_id, trial.build_revision)


def tested(db: sqlite3.Connection, trial: TrialRow) -> tuple[Site, BuildRow]:
    """The revision that a trial tested, and where it stood."""
    build = build_of(db, trial)
    return sites.get_site(db, build.site_id).site, build


def most_l_min(db: sqlite3.Connection, trial: TrialRow) -> float:
    """What can run through the build that a trial tests; without end where nobody knows."""
    build = build_of(db, trial)
    passes = kind_of(build.spec).passes_l_min
    return math.inf if passes is None or trial.load is None else passes(build.spec, trial.load)


def ground(db: sqlite3.Connection, trial: TrialRow, with_readings: bool = True) -> Ground:
    """What judging a trial stands on, or the same before any reading is looked at."""
    site, build = tested(db, trial)
    return site, build, _facts(db, trial, putting_right(trial, build, site), with_readings)


def putting_right(row: TrialRow, build: BuildRow, site: Site) -> PutRight:
    """How to put a channel's values right."""
    boiling = boiling_c(site.pressure_pa)
    around_c = (row.weather.tmin_c + row.weather.tmax_c) / 2

    def of(channel: ChannelRow) -> Callable[[np.ndarray], np.ndarray]:
        seen = surface_seen(build.spec, channel.node) if channel.instrument == "infrared" else None
        return lambda values: put_right(values, channel.calibration, seen, channel.set_to, around_c, boiling)

    return of


def corrected(channel: ChannelRow, value: float | None, put: PutRight) -> float | None:
    """One value put right."""
    return None if value is None else float(put(channel)(np.array([value]))[0])


@dataclass(frozen=True)
class Log:
    """A trial's readings by channel, without those that lie far from the rest in time, and what those were."""

    near: dict[str, Series]
    far: list[FarReading]
    far_count: int


def log_of(db: sqlite3.Connection, trial: TrialRow) -> Log:
    """All good readings of a trial, stray stamps set aside before anything is reckoned over the span of all.

    Raises
    ------
    InputProblem
        it has more readings than can be looked at.
    """
    count = readings.count_readings(db, trial.id)
    require(count <= MOST_READINGS, "trial", f"it has {count} readings, and {MOST_READINGS} can be looked at at once; take it out as CSV and bring in every tenth")  # fmt: skip
    read = [readings.series(db, trial.id, channel.name) for channel in trial.channels]
    stamps = [series.time_ms for series in read]
    far = far_from_rest(np.concatenate([*stamps, np.empty(0)]) / 1000.0)
    near, strays, first = {}, [], 0
    for channel, series in zip(trial.channels, read, strict=True):
        mine = far[first : first + len(series.time_ms)]
        first += len(series.time_ms)
        near[channel.name] = Series(series.time_ms[~mine], series.value[~mine], series.doubt[~mine])
        strays += [FarReading(channel=channel.name, title=channel.title, time=from_ms(int(ms))) for ms in series.time_ms[mine][:FAR_SHOWN]]  # fmt: skip
    return Log(near, strays[:FAR_SHOWN], int(far.sum()))


def _facts(db: sqlite3.Connection, row: TrialRow, put: PutRight, with_readings: bool) -> TrialFacts:
    """What the core needs to judge a trial: values put right, readings that were set aside left out, long logs by means."""
    events = [
        EventFacts(kind=event.kind, time=from_ms(event.time_ms), note=event.note, channel=event.channel)
        for event in trials.list_events(db, row.id)
    ]
    log = log_of(db, row) if with_readings else Log({}, [], 0)
    return TrialFacts(
        name=row.name,
        protocol=row.protocol,
        started=from_ms(row.started_ms),
        spot=row.spot,
        weather=row.weather,
        load=row.load,
        preheated=row.preheated,
        channels=[_channel_facts(log, channel, put) for channel in row.channels] if with_readings else [],
        events=events,
        goal=row.goal,
        far=log.far,
        sheets=sheets.contents(db, "trial", row.id),
    )


def every_reading(db: sqlite3.Connection, trial: TrialRow) -> tuple[Site, list[ChannelFacts]]:
    """All good readings of a trial put right, none of them taken together."""
    site, build = tested(db, trial)
    put, log = putting_right(trial, build, site), log_of(db, trial)
    return site, [_channel_facts(log, channel, put, MOST_READINGS) for channel in trial.channels]


def _channel_facts(log: Log, channel: ChannelRow, put: PutRight, points: int = JUDGED_POINTS) -> ChannelFacts:
    read = log.near[channel.name]
    good = ~np.isnan(read.value)
    own = np.where(np.isnan(read.doubt), channel.doubt, read.doubt)[good]
    seconds, values = thin_by_means(read.time_ms[good] / 1000.0, put(channel)(read.value[good]), points)
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
