#!/usr/bin/env python3
"""What the yard's long answers take: proposals for wishes, a pile of sixty pieces, a build's year, a yard file with a million readings.

Times of this machine, beside how long it takes to square a million numbers, so that two machines may be compared.
"""

from __future__ import annotations

import io
import tempfile
import time
from datetime import date
from pathlib import Path

from drylamp.core.advice.season import Household, whole_year
from drylamp.core.builds.common.house.sheet import House
from drylamp.core.builds.common.house.use import Use
from drylamp.core.builds.common.pile.sheet import Salvaged
from drylamp.core.builds.starters import starters
from drylamp.core.long import Long, whole
from drylamp.core.twin.case import usual_case
from drylamp.core.wish.could import could_build
from drylamp.core.wish.propose import propose
from drylamp.core.wish.sentence import read_wish
from drylamp.demo.scenario import TERRACE, warm_case
from drylamp.demo.seed import fill
from drylamp.store.database import Database
from drylamp.web.yard import door

DAY = date(2025, 6, 12)
WISHES = (
    "dry 4 kg of figs a week in September, I have two panes 60 × 110, up to 90 €, a weekend of work",
    "cook stew for 4 people",
    "bake bread in December",
    "warm water for three showers a day, I have 40 m of black hose",
    "warm a tub to 34 °C in October",
    "dry 0.5 m³ of oak boards",
    "melt 2 kg of cappings a week",
)
READINGS, CHANNEL = 1_000_000, "tray"


def squares_ms() -> float:
    """How fast this machine is just now."""
    begun = time.perf_counter()
    sum(k * k for k in range(1_000_000))
    return 1000.0 * (time.perf_counter() - begun)


def first_and_all(steps: Long) -> tuple[float, float]:
    """Seconds until there is something to show, and until all is done."""
    begun, first = time.perf_counter(), 0.0
    for step in steps:
        if not first and step.answer.proposals:
            first = time.perf_counter() - begun
    return first, time.perf_counter() - begun


def wishes() -> None:
    for text in WISHES:
        first, every = first_and_all(propose(TERRACE, read_wish(text), [], DAY))
        print(f"proposals: first {first:.2f} s, all {every:.2f} s  {text[:48]}")


def pile() -> None:
    rows = [
        Salvaged(
            name=f"pane {k}", sort="pane", of="window-glass", count=2, long_m=0.5 + 0.05 * k, wide_m=0.4 + 0.02 * k
        )
        for k in range(15)
    ]
    rows += [
        Salvaged(name=f"board {k}", sort="sheet", of="plywood", long_m=1.0 + 0.1 * k, wide_m=0.6) for k in range(15)
    ]
    rows += [Salvaged(name=f"hose {k}", sort="pipe", of="black-pe", long_m=10.0 + 5.0 * k) for k in range(15)]
    begun = time.perf_counter()
    found = could_build(TERRACE, rows, DAY)
    print(
        f"pile of {sum(row.count for row in rows)} pieces: {time.perf_counter() - begun:.2f} s, {len(found.found)} shown"
    )


def years() -> None:
    home = Household(House(on=DAY), Use(on=DAY))
    for kind, of_kind in starters().items():
        first = of_kind[0]
        begun = time.perf_counter()
        whole(whole_year(usual_case(TERRACE, "terrace", first.spec, first.load, DAY), home))
        print(f"a year of a {kind}: {time.perf_counter() - begun:.2f} s")


def yard_file() -> None:
    with tempfile.TemporaryDirectory() as folder:
        full, empty = Database(Path(folder) / "full.sqlite3"), Database(Path(folder) / "empty.sqlite3")
        fill(full)
        with full.session() as db:
            trial = db.execute("SELECT trial_id FROM channel WHERE name = :name LIMIT 1", {"name": CHANNEL}).fetchone()[
                0
            ]
            rows = ((trial, CHANNEL, 10**12 + k, 20.0 + k % 60, "20.5", "°C", "logger") for k in range(READINGS))
            db.execute("BEGIN")
            db.executemany(
                "INSERT INTO reading (trial_id, channel, time_ms, value, typed, unit, source) VALUES (?, ?, ?, ?, ?, ?, ?)",
                rows,
            )
            db.execute("COMMIT")
            out = io.BytesIO()
            begun = time.perf_counter()
            door.write(db, out, "now")
            written = time.perf_counter() - begun
        with empty.session() as db:
            begun = time.perf_counter()
            door.preview(db, out)
            seen = time.perf_counter() - begun
            begun = time.perf_counter()
            door.take_in(db, out)
            taken = time.perf_counter() - begun
        print(
            f"yard of {READINGS:,} readings: out {written:.1f} s, looked at {seen:.1f} s, in {taken:.1f} s, {len(out.getvalue()) / 1e6:.1f} MB"
        )
        full.close()
        empty.close()


if __name__ == "__main__":
    print(f"a million squares: {squares_ms():.0f} ms")
    warm_case()
    yard_file()
    wishes()
    pile()
    years()
