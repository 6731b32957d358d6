"""The sawyer's part of the scenario: stacks that wait, a charge read board by board with a meter set wrong, and a kiln in its third year."""

from __future__ import annotations

import json
import sqlite3
from datetime import date, timedelta
from typing import Any

import numpy as np

from drylamp.core.builds.fault import broken_by
from drylamp.core.builds.kiln.faults import FAULTS
from drylamp.core.builds.sheet import Of
from drylamp.core.loads.common.wood import specific_gravity
from drylamp.core.loads.lumber.group import BoardGroup
from drylamp.core.loads.lumber.meter import felt_mc
from drylamp.core.loads.lumber.outcome import kept_of
from drylamp.core.loads.lumber.outside import usually_outside
from drylamp.core.sky.clock import instant_s
from drylamp.core.sky.weather import ClearDay
from drylamp.core.tables import species
from drylamp.core.trials.beside import trial_twin
from drylamp.core.trials.facts import TrialFacts
from drylamp.core.trials.protocols import PROTOCOLS
from drylamp.core.twin.calibration import Calibration
from drylamp.core.twin.run import Run
from drylamp.demo.drafts import DRAFTS
from drylamp.demo.scenario import BARN_KILN, OAK, TERRACE
from drylamp.demo.tried import moment, tried
from drylamp.instruments.ingest import to_ms
from drylamp.instruments.logger import Truth
from drylamp.store import builds, calibrations, sheets, trials
from drylamp.store.builds import BuildRow

STACKS: list[dict[str, Any]] = [
    {"name": "Treads", "species": "sweet-chestnut", "thickness_mm": 54.0, "width_mm": 220.0, "wood_m3": 0.35, "sawn_on": "2024-11-10", "use": "indoors", "wanted_by": "2026-05-01", "planed_thick_mm": 42.0, "planed_wide_mm": 180.0},
    {"name": "Risers", "species": "poplar", "thickness_mm": 27.0, "wood_m3": 0.5, "sawn_on": "2025-04-20", "use": "indoors", "wanted_by": "2026-05-01", "planed_thick_mm": 20.0, "planed_wide_mm": 150.0},
    {"name": "Fence rails", "species": "sweet-chestnut", "thickness_mm": 34.0, "wood_m3": 0.4, "sawn_on": "2024-12-20", "stands": "open", "use": "outdoors"},
]  # fmt: skip
"""A stair, and a fence."""
PRICES: dict[str, Any] = {"on": "2025-06-01", "kiln_price": 460.0, "built_hours": 70.0, "lasts_years": 12.0, "wage_price": 12.0, "green_price": 260.0, "dry_price": 900.0}  # fmt: skip

HALF_WAY_LOAD = OAK.model_copy(
    update={
        "groups": [group.model_copy(update={"in_on": date(2025, 5, 12), "start": "measured", "start_mc": mc}) for group, mc in zip(OAK.groups, (0.30, 0.28), strict=True)],
        "weights_kg_m2": 40.0,
    }
)  # fmt: skip
HALF_WAY_TRUTH = Truth(calibration=Calibration(optical=0.97, leak=1.1, parts={"drying": 0.88}), noise_k=0.4, seed=211)
HALF_WAY_BEGAN = "2025-05-12T09:00:00+02:00"
READ_ON = (date(2025, 5, 12), date(2025, 5, 26), date(2025, 6, 2), date(2025, 6, 9))
LEFT_AT = "poplar"
"""The wood that the plate meter was still set for."""
BOARD_SD, SEED = 0.05, 17
OAKS, PINES = [f"O{k}" for k in range(1, 9)], [f"P{k}" for k in range(1, 5)]
WINDY = date(2025, 6, 2)

YEARS: tuple[tuple[str, str, dict[str, float], tuple[str, ...]], ...] = (
    ("First summer, empty", "2023-06-12", {"loss": 1.02, "leak": 1.06}, ()),
    ("Second summer, empty", "2024-06-10", {"loss": 1.12, "leak": 1.38}, ()),
    ("Third summer, no longer climbs", "2025-06-09", {"loss": 1.12, "leak": 1.45}, ("torn-film", "stuck-fan")),
)  # fmt: skip
"""Name, day, what is true of it, and what is broken on it."""
ACCEPTED = 2
UPKEEP: list[dict[str, Any]] = [
    {"on": "2023-06-20", "check": "cover", "state": "good", "words": "both films tight"},
    {"on": "2023-11-04", "check": "level", "state": "good", "words": "", "work_hours": 0.2},
    {"on": "2024-04-06", "check": "swollen-door", "state": "mended", "words": "planed 4 mm off the lower edge", "price": 0.0, "work_hours": 1.5},
    {"on": "2024-06-08", "check": "seals", "state": "good", "words": "new foam strip round the door", "price": 9.0, "work_hours": 1.0},
    {"on": "2025-05-02", "check": "fan", "state": "good", "words": "dusted", "meter_hours": 1406.0},
    {"on": "2025-06-07", "check": "fan", "state": "good", "words": "counter read, nothing looked at", "meter_hours": 1409.5},
]  # fmt: skip


def fill_sawyer(db: sqlite3.Connection, home: int, kiln: BuildRow, film: BuildRow) -> None:
    """Stacks and prices, the charge that is read half-way, and the barn kiln."""
    for row in STACKS:
        _write(db, "site", home, "waiting", row)
    _write(db, "build", kiln.id, "prices", PRICES)
    _half_way(db, film)
    _barn(db, home)


def _write(db: sqlite3.Connection, of: Of, owner: int, sheet: str, row: dict[str, Any]) -> None:
    sheets.add_row(db, of, owner, sheet, json.dumps(row), f"{row.get('on', '2025-06-01')}T18:00:00+00:00")


def _half_way(db: sqlite3.Connection, film: BuildRow) -> None:
    """Oak and pine since May, read board by board."""
    weather = ClearDay(tmin_c=11.0, tmax_c=22.0, rh=0.58, wind_m_s=2.5, sky="hazy")
    minutes = [60.0 * hour for hour in range(24 * 28) if not 24 * 9 <= hour < 24 * 11]
    trial = tried(
        db, film, "Oak and pine, read half-way", "charge-check", HALF_WAY_BEGAN, weather, HALF_WAY_LOAD, [("chamber", "chamber air", False)], "logger", minutes, 2, HALF_WAY_TRUTH,
    )  # fmt: skip
    trials.add_event(
        db, trial, "note", to_ms(moment("2025-05-31T19:00:00+02:00")), "windy since Tuesday, vents left open"
    )
    facts = TrialFacts(
        name="x", protocol="charge-check", started=moment(HALF_WAY_BEGAN), spot=film.spot, weather=weather, load=HALF_WAY_LOAD, preheated=False, channels=[], events=[],
    )  # fmt: skip
    end_s = instant_s(TERRACE.zone, READ_ON[-1] + timedelta(days=1), "00:00")
    run = trial_twin(TERRACE, film.spec, facts, end_s, HALF_WAY_TRUTH.calibration)
    _boards(db, trial, run)
    _write(db, "trial", trial, "stack-read", stack_beside())


def _boards(db: sqlite3.Connection, trial: int, run: Run) -> None:
    """Each board a little off its group's mean: sections, scale, meter, and what was seen on it."""
    random = np.random.default_rng(SEED)
    oak, pine = HALF_WAY_LOAD.numbered
    own = {board: float(np.exp(BOARD_SD * random.standard_normal())) for board in OAKS + PINES}
    for k, board in enumerate(OAKS + PINES):
        group = oak if board in OAKS else pine
        _write(
            db, "trial", trial, "followed",
            {"board": board, "group": group.number, "ends": "wax-emulsion" if board in OAKS and k % 2 else "none", "lies": ("top", "middle", "bottom")[k % 3], "weighted": k % 3 == 0},
        )  # fmt: skip
    for board in (OAKS[0], OAKS[3]):
        _sampled(db, trial, board, _mean(oak, run, READ_ON[0]) * own[board], [_mean(oak, run, on) * own[board] for on in READ_ON[1:]], random)  # fmt: skip
    for on in READ_ON[1:]:
        for board in OAKS + PINES:
            group = oak if board in OAKS else pine
            if _mean(group, run, on) * own[board] <= 0.32:
                _metered(db, trial, board, group, on, felt_mc(group, _cells(group, run, on), None, True) * own[board], random)  # fmt: skip
    for on, grown in ((date(2025, 5, 26), 0.55), (WINDY, 1.0)):
        for k, board in enumerate(OAKS):
            _seen(db, trial, board, on, grown, painted=bool(k % 2), random=random)


def _cells(group: BoardGroup, run: Run, on: date) -> np.ndarray:
    kept = kept_of(group, run)
    assert kept is not None
    row = kept.row_at(run, instant_s(TERRACE.zone, on, "12:00"))
    assert row is not None
    return np.asarray(kept.cells[row])


def _mean(group: BoardGroup, run: Run, on: date) -> float:
    return felt_mc(group, _cells(group, run, on), float("inf"), False)


def _sampled(
    db: sqlite3.Connection, trial: int, board: str, first: float, later: list[float], random: np.random.Generator
) -> None:
    """Two sections, and the board between them on the scale; it lost only a little until noon of the first day."""
    dry = 4.1 + 0.3 * random.random()
    for k in range(2):
        section = 0.11 + 0.01 * k
        wet = section * (1.0 + first * (1.0 + 0.01 * random.standard_normal()))
        row = {"board": board, "on": READ_ON[0].isoformat(), "wet_kg": round(wet, 4), "dry_kg": round(section, 4)}
        _write(db, "trial", trial, "sections", row | ({"board_kg": round(dry * (1.0 + first), 3)} if k == 0 else {}))
    for on, mc in zip(READ_ON[1:], later, strict=True):
        _write(
            db, "trial", trial, "weighings", {"board": board, "on": on.isoformat(), "kg": round(dry * (1.0 + mc), 3)}
        )


def _metered(
    db: sqlite3.Connection, trial: int, board: str, group: BoardGroup, on: date, mc: float, random: np.random.Generator
) -> None:
    """A plate meter that stands for another wood, and nobody knows."""
    right, left_at = (specific_gravity(row.basic_specific_gravity, "12 %") for row in (group.row, species()[LEFT_AT]))
    shown = mc * right / left_at * (1.0 + 0.02 * random.standard_normal())
    _write(db, "trial", trial, "metered", {"board": board, "on": on.isoformat(), "reading_mc": round(shown, 3), "sort": "plate", "expects": "12 %"})  # fmt: skip


def _seen(
    db: sqlite3.Connection,
    trial: int,
    board: str,
    on: date,
    grown: float,
    *,
    painted: bool,
    random: np.random.Generator,
) -> None:
    end = grown * max((9.0 if painted else 62.0) + (4.0 if painted else 13.0) * random.standard_normal(), 0.0)
    row = {
        "board": board, "on": on.isoformat(), "end_check_mm": round(end), "surface_check_mm": round(max(18.0 * grown * random.standard_normal(), 0.0)), "cup_mm": round(1.0 + 1.5 * random.random(), 1),
        "twist_mm": round(4.0 * random.random()), "bow_mm": round(6.0 * random.random()), "bleached": False, "stained": bool(random.random() < 0.15),
    }  # fmt: skip
    _write(db, "trial", trial, "inspected", row)


def _barn(db: sqlite3.Connection, home: int) -> None:
    """A kiln in its third year: two calibrations, and a night's log that shows what broke."""
    barn = builds.add_build(db, home, DRAFTS["Barn kiln"], "2023-05-20T18:00:00+00:00")  # fmt: skip
    for k, (name, day, factors, broken) in enumerate(YEARS):
        stood = broken_by(BARN_KILN, [fault for fault in FAULTS if fault.name in broken])
        truth = Truth(calibration=Calibration(optical=0.96, **factors), noise_k=0.4, seed=301, build=stood)
        trial = tried(
            db, barn, name, "kiln-night", f"{day}T08:00:00+02:00", ClearDay(tmin_c=12.0, tmax_c=25.0, rh=0.54, wind_m_s=2.0), None,
            [("chamber", "chamber air", False), ("baffle", "baffle", False), ("over-baffle", "air under the roof", False), ("air", "air outside", False)], "logger", PROTOCOLS["kiln-night"].reading_minutes, k, truth,
        )  # fmt: skip
        trials.end_trial(db, trial, to_ms(moment(f"{day}T08:00:00+02:00") + timedelta(hours=27)), "")
        if k < ACCEPTED:
            words = ", ".join(
                f"{title} × {factors[name]:.2f}" for name, title in (("loss", "losses"), ("leak", "gaps"))
            )
            calibrations.accept(
                db, (barn.id, barn.revision), trial, Calibration(**factors), words, f"{day}T20:00:00+00:00"
            )
    for row in UPKEEP:
        _write(db, "build", barn.id, "upkeep", row)


def stack_beside(trial_day: date = READ_ON[-1]) -> dict[str, Any]:
    """The stack outside as it is read on a day: sawn in March, thicker than the kiln's boards."""
    group = HALF_WAY_LOAD.groups[0].sawn("green-heart").model_copy(update={"thickness_mm": 34.0, "in_on": None})
    mc = usually_outside(TERRACE, HALF_WAY_LOAD.model_copy(update={"groups": [group]}), date(2025, 3, 20), trial_day)
    return {
        "on": trial_day.isoformat(),
        "group": 1,
        "mc": round(mc, 3),
        "sawn_on": "2025-03-20",
        "thickness_mm": 34.0,
        "stands": "roof",
    }
