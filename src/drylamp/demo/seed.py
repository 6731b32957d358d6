"""Fill an empty data file with the scenario."""

from __future__ import annotations

import sqlite3
from dataclasses import replace
from datetime import datetime, timedelta

from drylamp.core.loads.pot import PotLoad
from drylamp.core.sky.weather import ClearDay
from drylamp.core.trials.protocols import INSTRUMENTS, PROTOCOLS
from drylamp.core.trials.verdict import ChannelFacts, TrialFacts
from drylamp.demo.scenario import FIRST_OVEN, OVEN, SOUTHERN, STEW, TERRACE, TRUTH, WATER, demo_now
from drylamp.instruments.ingest import to_ms
from drylamp.instruments.logger import samples
from drylamp.store import builds, sites, trials
from drylamp.store.builds import BuildRow, Draft
from drylamp.store.database import Database
from drylamp.store.readings import ReadingRow, add_readings
from drylamp.store.trials import ChannelRow, TrialRow

INSIDE = ("inside-air", "air inside", False)
TRAY = ("tray", "tray", False)
STEW_PROBE = ("contents", "stew", False)
WATER_PROBE = ("contents", "water", False)
CONTROL = ("control", "tin beside the box", True)


def fill(database: Database) -> bool:
    """Write the scenario unless the file holds something already; say whether it did."""
    with database.session() as db:
        if sites.list_sites(db):
            return False
        home = sites.add_site(db, TERRACE)
        south = sites.add_site(db, SOUTHERN)
        oven = builds.add_build(
            db, home, Draft("Hatbox oven", "terrace", FIRST_OVEN, STEW, "as first built"), "2025-05-20T18:00:00+00:00"
        )
        _empty_box(db, oven)
        oven = builds.change_build(
            db,
            oven.id,
            Draft("Hatbox oven", "terrace", OVEN, STEW, "second pane added"),
            oven.revision,
            "2025-05-30T17:00:00+00:00",
        )
        _water(db, oven)
        _stew(db, oven)
        _running(db, oven)
        north = OVEN.model_copy(update={"facing_deg": 0.0})
        builds.add_build(
            db, south, Draft("Paddock oven", "paddock", north, STEW, "faces north"), "2025-06-01T00:00:00+00:00"
        )
    return True


def latest_activity(database: Database) -> datetime | None:
    """The last instant anything was written about, so that a restarted demo's clock goes on from there."""
    with database.session() as db:
        row = db.execute(
            """
            SELECT MAX(t) AS t FROM (
                SELECT MAX(time_ms) AS t FROM reading UNION ALL SELECT MAX(time_ms) FROM event
                UNION ALL SELECT MAX(started_ms) FROM trial UNION ALL SELECT MAX(ended_ms) FROM trial
            )
            """
        ).fetchone()
    return None if row["t"] is None else datetime.fromtimestamp(row["t"] / 1000.0, demo_now().tzinfo)


def _empty_box(db: sqlite3.Connection, oven: BuildRow) -> None:
    weather = ClearDay(tmin_c=12.0, tmax_c=23.0, rh=0.55, wind_m_s=1.5)
    trial = _trial(
        db, oven, "Empty box, first sun", "stagnation", "2025-05-28T12:00:00+02:00", weather, None, [TRAY, INSIDE, CONTROL],
        "glass", PROTOCOLS["stagnation"].reading_minutes, 1,
    )  # fmt: skip
    trials.add_event(db, trial, "cloud", to_ms(_at("2025-05-28T12:27:00+02:00")), "thin cloud for two minutes")
    trials.end_trial(
        db,
        trial,
        to_ms(_at("2025-05-28T14:02:00+02:00")),
        "Cover fogged at first, then clear. Sealing strip lifts at the back corner.",
    )


def _water(db: sqlite3.Connection, oven: BuildRow) -> None:
    weather = ClearDay(tmin_c=14.0, tmax_c=25.0, rh=0.55, wind_m_s=2.0)
    trial = _trial(
        db, oven, "Two litres of water", "heat-up", "2025-06-03T10:40:00+02:00", weather, WATER, [WATER_PROBE, INSIDE, CONTROL],
        "probe", PROTOCOLS["heat-up"].reading_minutes, 2,
    )  # fmt: skip
    trials.add_event(db, trial, "opened", to_ms(_at("2025-06-03T11:38:00+02:00")), "looked inside")
    trials.end_trial(db, trial, to_ms(_at("2025-06-03T14:45:00+02:00")), "")


def _stew(db: sqlite3.Connection, oven: BuildRow) -> None:
    weather = ClearDay(tmin_c=15.0, tmax_c=26.0, rh=0.6, wind_m_s=2.5, sky="hazy")
    trial = _trial(
        db, oven, "Chickpea stew under haze", "free-log", "2025-06-09T10:30:00+02:00", weather, STEW, [STEW_PROBE, INSIDE],
        "logger", [2.0 * k for k in range(136)], 3,
    )  # fmt: skip
    trials.add_event(db, trial, "gust", to_ms(_at("2025-06-09T12:12:00+02:00")), "")
    trials.end_trial(db, trial, to_ms(_at("2025-06-09T15:02:00+02:00")), "Soft by 15:00.")


def _running(db: sqlite3.Connection, oven: BuildRow) -> None:
    weather = ClearDay(tmin_c=15.0, tmax_c=26.5, rh=0.54, wind_m_s=2.0)
    _trial(
        db, oven, "Quick look before lunch", "quick-look", "2025-06-12T11:48:00+02:00", weather, None, [INSIDE, TRAY, CONTROL],
        "probe", [0.0, 5.0, 10.0], 4,
    )  # fmt: skip


def _trial(
    db: sqlite3.Connection, oven: BuildRow, name: str, protocol: str, started: str, weather: ClearDay, load: PotLoad | None,
    channels: list[tuple[str, str, bool]], instrument: str, minutes: list[float], seed: int,
) -> int:  # fmt: skip
    """Store a trial with the readings that the stand-in takes of the oven as it really is."""
    begun, doubt = _at(started), INSTRUMENTS[instrument].doubt_k
    rows = [
        ChannelRow(node, title, "outside" if control else node, control, instrument, doubt)
        for node, title, control in channels
    ]
    trial = trials.add_trial(
        db,
        TrialRow(
            0, oven.id, oven.revision, name, protocol, "terrace", weather, load, False, to_ms(begun), None, "", rows
        ),
    )
    facts = TrialFacts(
        name=name,
        protocol=protocol,
        started=begun,
        spot="terrace",
        weather=weather,
        load=load,
        preheated=False,
        channels=[
            ChannelFacts(
                channel=r.name,
                title=r.title,
                node=r.node,
                is_control=r.is_control,
                doubt_k=r.doubt_k,
                times=[],
                values_c=[],
            )
            for r in rows
        ],
        events=[],
    )
    by_hand = instrument != "logger"
    kept = [
        ReadingRow(
            channel=s.channel,
            time_ms=to_ms(s.time + (timedelta(seconds=20) if by_hand else timedelta())),
            value_c=round(s.value_c, 0 if by_hand else 1),
            typed=f"{s.value_c:.0f}" if by_hand else f"{s.value_c:.1f}",
            unit="C",
            source="hand" if by_hand else "logger",
        )
        for s in samples(TERRACE, oven.spec, facts, replace(TRUTH, seed=TRUTH.seed + seed), minutes)
    ]
    add_readings(db, trial, kept)
    return trial


def _at(text: str) -> datetime:
    return datetime.fromisoformat(text)
