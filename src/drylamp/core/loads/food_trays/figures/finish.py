"""What weighings of trays tell: moisture, curves, how evenly it dries, and when it will be done.

The finish is the twin's, corrected: how fast water comes out of the food is doubtful (its activation energy, its cut, its variety), so the twin is run with several
factors on it, each weighed by how well it meets the weights so far, and the hour of being done is averaged over them. Without a weight the doubt
is the food's own; each weight narrows it.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np

from drylamp.core.arrays import Array
from drylamp.core.loads.food_trays.outcome import water_in
from drylamp.core.loads.food_trays.spec import DRYING, PRIOR_SD, FoodOnTray, FoodTrays, node_of
from drylamp.core.trials.beside import Beside, trial_twin
from drylamp.core.trials.facts import ChannelFacts
from drylamp.core.twin.calibration import Calibration
from drylamp.core.twin.run import Run

FACTORS = np.exp(PRIOR_SD * np.array([-2.5, -1.5, -0.75, 0.0, 0.75, 1.5, 2.5]))
GRID, EVERY = 241, 5
MODEL_SHARE, SHARED_SHARE = 0.04, 0.10
"""By how much of what it has lost the twin misses a tray's weight by itself, and with all the others; from memory."""
AHEAD_S, MOST_AHEAD_S = 4 * 86400.0, 8 * 86400.0
"""How long after the last weighing the twin is run on, and for how long in all."""
P_LOW, P_HIGH = 0.05, 0.95


@dataclass(frozen=True)
class Weighed:
    """One tray's weights."""

    food: FoodOnTray
    seconds: Array
    kg: Array
    doubt_kg: float

    @property
    def moisture(self) -> Array:
        """Dry basis."""
        return np.asarray(self.kg / self.food.dry_kg - 1.0)


@dataclass(frozen=True)
class Finish:
    """When the last tray is dry, seconds since 1970: likely, and the ends between which it is in nine cases of ten; none where the twin never gets there.

    ``factor`` is how fast water comes out against the table, with its standard deviation of the logarithm.
    """

    likely_s: float | None
    low_s: float | None
    high_s: float | None
    factor: float
    spread: float
    chance: float


def weighings(load: FoodTrays, channels: list[ChannelFacts]) -> list[Weighed]:
    """Trays that were weighed."""
    return [
        Weighed(food, channel.seconds, np.array(channel.values), channel.doubt)
        for food in load.numbered
        for channel in channels
        if channel.node == node_of(food) and channel.quantity == "mass" and len(channel.values)
    ]


def finish(at: Beside, load: FoodTrays, weighed: list[Weighed]) -> Finish:
    """When it will be done, by the twin under every factor and the weights so far."""
    begun = at.facts.started.timestamp()
    last = max((float(w.seconds[-1]) for w in weighed), default=begun)
    end = min(last + AHEAD_S, begun + MOST_AHEAD_S)
    runs = [trial_twin(at.site, at.build, at.facts, end, Calibration(parts={DRYING: float(f)})) for f in FACTORS]
    logs = np.log(FACTORS)
    fine = np.linspace(logs[0], logs[-1], GRID)
    weight = -0.5 * (fine / PRIOR_SD) ** 2 - 0.5 * _missed(fine, logs, runs, weighed)
    share = np.exp(weight - weight.max())
    share /= share.sum()
    return _summed(fine, share, _done(load, logs, runs, fine, end), end)


def _missed(fine: Array, logs: Array, runs: list[Run], weighed: list[Weighed]) -> Array:
    """χ² of the weights under each factor; what the twin misses in common (sun, damp air, the cut) is one error shared by all of them (Sherman & Morrison 1950)."""
    off, sd, lost = list[Array](), list[float](), list[float]()
    for tray in weighed:
        told = np.array([twin_kg(run, tray) for run in runs])
        for k in range(len(tray.seconds)):
            if np.isfinite(told[:, k]).all():
                gone = max(tray.food.kg - float(tray.kg[k]), 0.0)
                off.append(np.interp(fine, logs, told[:, k]) - float(tray.kg[k]))
                sd.append(math.hypot(tray.doubt_kg, MODEL_SHARE * gone))
                lost.append(SHARED_SHARE * gone)
    if not off:
        return np.zeros(len(fine))
    residual, spread, shared = np.array(off), np.array(sd)[:, None], np.array(lost)[:, None]
    plain = ((residual / spread) ** 2).sum(axis=0)
    along = (shared * residual / spread**2).sum(axis=0)
    return np.asarray(plain - along**2 / (1.0 + float(((shared / spread) ** 2).sum())))


def _summed(fine: Array, share: Array, done: Array, end_s: float) -> Finish:
    order = np.argsort(done)
    summed = np.cumsum(share[order])
    mean, spread = float((fine * share).sum()), 0.0
    spread = float(np.sqrt((share * (fine - mean) ** 2).sum()))
    low, middle, high = (float(np.interp(p, summed, done[order])) for p in (P_LOW, 0.5, P_HIGH))
    chance = float(share[done <= end_s].sum())
    return Finish(
        middle if middle <= end_s else None, low if low <= end_s else None, high if high <= end_s else None, math.exp(mean), spread, chance
    )  # fmt: skip


def twin_kg(run: Run, tray: Weighed) -> Array:
    """The twin's weights at the weighings, kg; NaN where it never lay in."""
    series = run.mass_kg.get(node_of(tray.food))
    if series is None or np.isnan(series).all():
        return np.full(len(tray.seconds), np.nan)
    good = ~np.isnan(series)
    return np.asarray(np.interp(tray.seconds, run.edge_s[good], series[good]))


def _done(load: FoodTrays, logs: Array, runs: list[Run], fine: Array, end_s: float) -> Array:
    """When all is dry under each factor, seconds since 1970, a day after the end where it is not: the water in between two factors' runs, so that nights stay nights; shape of ``fine``."""
    at = runs[0].edge_s[::EVERY]
    latest = np.full(len(fine), at[0])
    below = np.clip(np.searchsorted(logs, fine) - 1, 0, len(logs) - 2)
    part = (fine - logs[below]) / (logs[below + 1] - logs[below])
    for food in load.numbered:
        wet = np.array([_water(food, run)[::EVERY] for run in runs])
        between = wet[below] * (1.0 - part)[:, None] + wet[below + 1] * part[:, None]
        dry = between <= food.safe_water_kg
        when = np.where(dry.any(axis=1), at[np.argmax(dry, axis=1)], end_s + 86400.0)
        latest = np.maximum(latest, when)
    return latest


def _water(food: FoodOnTray, run: Run) -> Array:
    """Water in a food, kg; as wet as can be while it is not in."""
    held = water_in(food, run)
    return np.full(len(run.edge_s), 2.0 * food.kg) if held is None else np.where(np.isnan(held), food.kg, held)
