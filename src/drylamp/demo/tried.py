"""Trials of the scenario: stored with the readings that the stand-ins take of what really stood there."""

from __future__ import annotations

import sqlite3
from collections.abc import Mapping, Sequence
from dataclasses import replace
from datetime import datetime, timedelta

from drylamp.core.loads.load import Load
from drylamp.core.sky.weather import ClearDay
from drylamp.core.trials.channels import read_as
from drylamp.core.trials.facts import ChannelFacts, TrialFacts
from drylamp.core.trials.instruments import BASE_UNIT, INSTRUMENTS, Instrument, out_of_base
from drylamp.core.trials.protocols import PROTOCOLS
from drylamp.demo.scenario import TERRACE, TRUTH
from drylamp.instruments.ingest import to_ms
from drylamp.instruments.logger import Sample, Truth, read_plan, round_plan
from drylamp.store import trials
from drylamp.store.builds import BuildRow
from drylamp.store.readings import ReadingRow, add_readings
from drylamp.store.trials import ChannelRow, TrialRow


def tried(
    db: sqlite3.Connection, build: BuildRow, name: str, protocol: str, started: str, weather: ClearDay, load: Load | None,
    channels: list[tuple[str, str, bool]], instrument: str, minutes: Sequence[float], seed: int, truth: Truth = TRUTH, own: Mapping[str, str] | None = None,
    hourly: Sequence[str] = (),
) -> int:  # fmt: skip
    """Store a trial with the readings that the stand-ins take of the build as it really is; some channels every hour instead."""
    begun, by = moment(started), {node: INSTRUMENTS[(own or {}).get(node, instrument)] for node, _, _ in channels}
    samples_of = {reader.name: reader.node for reader in build.spec.readers().get("samples", [])}
    rows = []
    for channel, title, control in channels:
        node = samples_of.get(channel, "outside" if control else channel)
        read = read_as(PROTOCOLS[protocol], build.spec, node, by[channel].name, (None, None, ""))
        rows.append(
            ChannelRow(
                name=channel,
                title=title,
                node=node,
                is_control=control,
                instrument=by[channel].name,
                quantity=read.quantity,
                doubt=read.doubt,
                device=read.device,
            )
        )
    made = TrialRow(
        id=0, build_id=build.id, build_revision=build.revision, name=name, protocol=protocol, spot=build.spot, weather=weather,
        load=load, preheated=False, started_ms=to_ms(begun), ended_ms=None, remarks="", channels=rows,
        token=f"demo{seed:02d}{to_ms(begun):x}",
    )  # fmt: skip
    trial = trials.add_trial(db, made)
    facts = TrialFacts(
        name=name,
        protocol=protocol,
        started=begun,
        spot=build.spot,
        weather=weather,
        load=load,
        preheated=False,
        channels=[
            ChannelFacts(
                channel=r.name,
                title=r.title,
                node=r.node,
                is_control=r.is_control,
                doubt=r.doubt,
                quantity=r.quantity,
                times=[],
                values=[],
            )
            for r in rows
        ],
        events=[],
    )
    walked = PROTOCOLS[protocol].in_rounds
    plan = (
        round_plan(facts, build.spec.walk, list(minutes))
        if walked
        else [(minute, r.name) for minute in minutes for r in rows if r.name not in hourly]
    )
    plan += [(60.0 * hour, name) for hour in range(int(minutes[-1] // 60) + 1) for name in hourly]
    kept = [
        row_of(s, by[s.channel], walked)
        for s in read_plan(TERRACE, build.spec, facts, replace(truth, seed=truth.seed + seed), plan)
    ]
    add_readings(db, trial, kept)
    return trial


def row_of(sample: Sample, instrument: Instrument, walked: bool) -> ReadingRow:
    """As a person types it (whole degrees, grams, a little late; tenths off a digital probe in a round) or a logger posts it."""
    by_hand = instrument.name != "logger"
    digits = {"flow": 2, "mass": 3, "moisture": 3}.get(instrument.quantity, 0 if by_hand and not walked else 1)
    unit = BASE_UNIT[instrument.quantity]
    return ReadingRow(
        channel=sample.channel,
        time_ms=to_ms(sample.time + (timedelta(seconds=20) if by_hand and not walked else timedelta())),
        value=round(sample.value, digits),
        typed=f"{out_of_base(sample.value, unit):.{1 if unit == BASE_UNIT['moisture'] else digits}f}",
        unit=unit,
        source="hand" if by_hand else "logger",
    )


def moment(text: str) -> datetime:
    """An instant from its text."""
    return datetime.fromisoformat(text)
