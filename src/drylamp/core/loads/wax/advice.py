"""What is said of batches of wax."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Literal

import numpy as np

from drylamp.core.advice.entries import Caution, Change, LoadAdvice, Rule, Seen, flag
from drylamp.core.builds.build import Build
from drylamp.core.loads.wax.spec import WaxBatch
from drylamp.core.outcome.flag import Flag
from drylamp.core.text import celsius, kelvin

NEAR_FLASH_K = 60.0
EARLY = "08:00"


def _changes(build: Build, load: WaxBatch) -> Iterator[Change]:
    for share in (0.5, 1.5):
        words = "half the batch at once" if share < 1 else "half as much again at once"
        yield Change(
            words, "load", build, load.model_copy(update={"batch_kg": load.batch_kg * share}), 0.0, choice=True
        )
    if load.strainer != "mesh":
        yield Change("strained through mesh", "load", build, load.model_copy(update={"strainer": "mesh"}), 2.0)
    if int(load.goes_in[:2]) > int(EARLY[:2]):
        yield Change(f"laid in at {EARLY}", "load", build, load.model_copy(update={"goes_in": EARLY}), 0.0)


def _fire(seen: Seen, build: Build, load: WaxBatch) -> list[Flag]:
    hottest = max(float(np.nanmax(seen.run.temperature_c[node])) for node in ("wax", "catch"))
    found = []
    if hottest > load.row.discolours_c:
        found += flag(
            "warn", "load",
            f"Wax: {celsius(hottest)} on this day; {load.row.title.lower()} darkens above {celsius(load.row.discolours_c)} and nothing "
            "is gained above its melting. Shade half the glass, tilt it away from the noon sun, or take it out once it has run.",
        )  # fmt: skip
    room = load.row.flash_c - hottest
    level: Literal["stop", "note"] = "stop" if room < NEAR_FLASH_K else "note"
    return found + flag(
        level, "load",
        f"Fire: its vapour can catch near {celsius(load.row.flash_c)}, {kelvin(room)} above this day's hottest. No flame or spark near; "
        "smother burning wax with a lid or a blanket, never with water.",
    )  # fmt: skip


ADVICE: LoadAdvice[WaxBatch] = LoadAdvice(
    changes=(Rule("load", _changes, 0.1),), cautions=(Caution("wax-fire", _fire),)
)
