"""Figures of a charge's trial: what the meter says beside the twin, and when it will be dry, as the readings narrow it."""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import dataclass
from datetime import date
from typing import cast
from zoneinfo import ZoneInfo

import numpy as np

from drylamp.core.arrays import Array
from drylamp.core.loads.lumber.group import BoardGroup, node_of
from drylamp.core.loads.lumber.meter import felt_mc
from drylamp.core.loads.lumber.outcome import kept_of, percent
from drylamp.core.loads.lumber.sheets.followed import group_of
from drylamp.core.loads.lumber.sheets.metered import METERED, corrected
from drylamp.core.loads.lumber.sheets.weighed import SECTIONS, WEIGHINGS, boards_mc
from drylamp.core.loads.lumber.spec import DRYING, PRIOR_SD, LumberCharge
from drylamp.core.sky.clock import instant_s, local_time
from drylamp.core.text import capital
from drylamp.core.trials import narrowed
from drylamp.core.trials.beside import Beside, trial_twins
from drylamp.core.trials.figure import Figure, Found
from drylamp.core.trials.narrowed import Told, factors
from drylamp.core.trials.noted import around_trial
from drylamp.core.twin.calibration import Calibration
from drylamp.core.twin.run import Run

AHEAD_S, MOST_AHEAD_S = 100 * 86400.0, 150 * 86400.0
"""How long after the last reading the twin is run on, and for how long in all."""
METER_SHARE, SHARED_SHARE = 0.06, 0.10
"""By how much of a moisture the twin and a meter differ board by board, and in common (species setting, sun, damp air); from memory."""
BOARD_SHARE, OVEN_SHARED_SHARE = 0.10, 0.05
"""By how much of a moisture one board differs from its group's mean, and by how much twin and oven differ in common; from memory."""
EVERY_S = 3600.0
SURE_BELOW = 0.30


@dataclass(frozen=True)
class Read:
    """What the meter read of one group."""

    group: BoardGroup
    seconds: Array
    values: Array
    doubt: float


def read_of(load: LumberCharge, at: Beside) -> list[Read]:
    """Groups that were read."""
    return [
        Read(group, channel.seconds, np.array(channel.values), channel.doubt)
        for group in load.numbered
        for channel in at.facts.channels
        if channel.node == node_of(group) and channel.quantity == "moisture" and len(channel.values)
    ]


def twin_reads(load: LumberCharge, group: BoardGroup, run: Run, seconds: Array) -> Array:
    """What the meter would show on the twin's boards; NaN while they are not in."""
    kept, out = kept_of(group, run), np.full(len(seconds), np.nan)
    if kept is None:
        return out
    for k, second in enumerate(seconds):
        row = kept.row_at(run, second)
        if row is not None:
            out[k] = load.read_by_meter(node_of(group), kept.cells[row], float(kept.celsius[row]))
    return out


def boards_now(found: Found) -> Figure | None:
    """The wettest group at its last reading, beside the twin."""
    load = cast(LumberCharge, found.at.facts.load)
    reads = read_of(load, found.at)
    if not reads:
        return None
    wettest = max(reads, key=lambda read: float(read.values[-1]) - read.group.target_mc)
    value, twin = (
        float(wettest.values[-1]),
        float(twin_reads(load, wettest.group, found.at.likely, wettest.seconds[-1:])[0]),
    )
    unsure = " Above fibre saturation a meter is a guess." if value > SURE_BELOW else ""
    beside = "" if math.isnan(twin) else f"; the twin says that it should show {percent(twin)}"
    return Figure(
        name="boards-now", title="Wettest group", value=round(100.0 * value, 1), doubt=round(100.0 * math.hypot(wettest.doubt, METER_SHARE * value), 1), quantity="plain", unit="%",
        twin=None if math.isnan(twin) else round(100.0 * twin, 1), grade="", digits=1, words=f"{capital(wettest.group.title)} shows {percent(value)}{beside}.{unsure} Its target is {percent(wettest.group.target_mc)}.", needs_words=True,
    )  # fmt: skip


def boards_dry_by(found: Found) -> Figure | None:
    """When the last group will be dry, by twin and readings."""
    at = found.at
    load = cast(LumberCharge, at.facts.load)
    reads = read_of(load, at)
    begun = at.facts.started.timestamp()
    last = max(at.facts.last_s(), begun)
    end = min(last + AHEAD_S, begun + MOST_AHEAD_S)
    tried = [Calibration(parts={DRYING: float(factor)}) for factor in factors(PRIOR_SD)]
    runs = trial_twins(at.site, at.build, at.facts, end, tried)
    noted = list(_noted(runs, at))
    by = narrowed.weighed(PRIOR_SD, [*_told(load, runs, reads), *noted])
    done = by.summed(_done(load, by, runs, end), end)
    told = (
        f"the boards dry {done.factor:.2f} times as fast as their species (± {100 * done.spread:.0f} %)"
        if reads or noted
        else "nothing read yet"
    )
    days = None if done.likely_s is None else (done.likely_s - begun) / 86400.0
    half = None if done.low_s is None or done.high_s is None else (done.high_s - done.low_s) / 2.0 / 86400.0
    zone = at.site.zone
    when = (
        f"Not all dry by {_said(end, zone)}, as far as the twin looks"
        if done.likely_s is None
        else f"All dry by {_said(done.likely_s, zone)} ({_said(done.low_s, zone)} to {_said(done.high_s, zone)} in nine cases of ten)"
    )
    return Figure(
        name="boards-dry-by", title="All dry after", value=None if days is None else round(days, 1), doubt=None if half is None else round(half, 1), quantity="plain", unit="days", twin=None, grade="", digits=0,
        words=f"{when}; {told}.", brief="not dry as far as the twin looks" if done.likely_s is None else f"dry by {_said(done.likely_s, zone)}", needs_words=True,
    )  # fmt: skip


def _said(second: float | None, zone: ZoneInfo) -> str:
    if second is None:
        return "later than the twin looks"
    return f"{local_time(zone, second):%d %B}"


def _noted(runs: list[Run], at: Beside) -> Iterator[Told]:
    """What was written down board by board: the meter put right, sample boards by the scale."""
    around = around_trial(at)
    for row in around.rows(METERED):
        group = group_of(row.board, around)
        mc = corrected(row, group).mc
        if row.place == "middle" and mc <= SURE_BELOW:
            twin = _twin_mc(runs, group, _noon_s(at, row.on), row.depth_mm, row.sort == "plate")
            yield Told(twin, mc, BOARD_SHARE * mc, SHARED_SHARE * mc)
    for board, read in boards_mc(around.rows(SECTIONS), around.rows(WEIGHINGS)).items():
        for on, mc in read:
            twin = _twin_mc(runs, group_of(board, around), _noon_s(at, on), math.inf, False)
            yield Told(twin, mc, BOARD_SHARE * mc, OVEN_SHARED_SHARE * mc)


def _noon_s(at: Beside, on: date) -> float:
    return instant_s(at.site.zone, on, "12:00")


def _twin_mc(runs: list[Run], group: BoardGroup, second: float, deep_mm: float | None, plate: bool) -> Array:
    """The twin's moisture of a group under each factor, shape (factors,): at a depth, its mean where that is endless; NaN while it is not in."""
    out = np.full(len(runs), np.nan)
    for k, run in enumerate(runs):
        kept = kept_of(group, run)
        row = None if kept is None else kept.row_at(run, second)
        if kept is not None and row is not None:
            out[k] = felt_mc(group, kept.cells[row], deep_mm, plate)
    return out


def _told(load: LumberCharge, runs: list[Run], reads: list[Read]) -> Iterator[Told]:
    for read in reads:
        told = np.array([twin_reads(load, read.group, run, read.seconds) for run in runs])
        for k, value in enumerate(read.values):
            if value <= SURE_BELOW:
                yield Told(
                    told[:, k],
                    float(value),
                    math.hypot(read.doubt, METER_SHARE * float(value)),
                    SHARED_SHARE * float(value),
                )


def _done(load: LumberCharge, by: narrowed.Weighed, runs: list[Run], end_s: float) -> Array:
    """When all is dry under each factor, seconds since 1970; a day after the end where it is not."""
    stride = max(1, round(EVERY_S / runs[0].weather.dt_s))
    at = runs[0].edge_s[::stride]
    latest = np.full(len(by.fine), at[0])
    for group in load.numbered:
        between = by.between(np.array([_mean(group, run)[::stride] for run in runs]))
        dry = between <= group.target_mc
        latest = np.maximum(latest, np.where(dry.any(axis=1), at[np.argmax(dry, axis=1)], end_s + 86400.0))
    return latest


def _mean(group: BoardGroup, run: Run) -> Array:
    """Its mean moisture; as wet as can be while it is not in."""
    kept = kept_of(group, run)
    return np.full(len(run.edge_s), 9.0) if kept is None else np.nan_to_num(kept.over(run, kept.mean), nan=9.0)
