"""What weighings of trays tell: moisture, curves, how evenly it dries, and when it will be done.

The finish is the twin's, corrected: how fast water comes out of the food is doubtful (its activation energy, its cut, its variety), so the twin is run with several
factors on it, each weighed by how well it meets the weights so far, and the hour of being done is averaged over them. Without a weight the doubt
is the food's own; each weight narrows it.
"""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import dataclass

import numpy as np

from drylamp.core.arrays import Array
from drylamp.core.loads.food_trays.outcome import water_in
from drylamp.core.loads.food_trays.spec import DRYING, PRIOR_SD, FoodOnTray, FoodTrays, node_of
from drylamp.core.trials import narrowed
from drylamp.core.trials.beside import Beside, trial_twins
from drylamp.core.trials.facts import ChannelFacts
from drylamp.core.trials.narrowed import Finish, Told, factors
from drylamp.core.twin.calibration import Calibration
from drylamp.core.twin.run import Run

EVERY = 5
MODEL_SHARE, SHARED_SHARE = 0.04, 0.10
"""By how much of what it has lost the twin misses a tray's weight by itself, and with all the others; from memory."""
AHEAD_S, MOST_AHEAD_S = 4 * 86400.0, 8 * 86400.0
"""How long after the last weighing the twin is run on, and for how long in all."""


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
    tried = [Calibration(parts={DRYING: float(factor)}) for factor in factors(PRIOR_SD)]
    runs = trial_twins(at.site, at.build, at.facts, end, tried)
    by = narrowed.weighed(PRIOR_SD, list(_told(runs, weighed)))
    return by.summed(_done(load, by, runs, end), end)


def _told(runs: list[Run], weighed: list[Weighed]) -> Iterator[Told]:
    """Each weight beside the twin's under each factor."""
    for tray in weighed:
        told = np.array([twin_kg(run, tray) for run in runs])
        for k in range(len(tray.seconds)):
            gone = max(tray.food.kg - float(tray.kg[k]), 0.0)
            yield Told(
                told[:, k], float(tray.kg[k]), math.hypot(tray.doubt_kg, MODEL_SHARE * gone), SHARED_SHARE * gone
            )


def twin_kg(run: Run, tray: Weighed) -> Array:
    """The twin's weights at the weighings, kg; NaN where it never lay in."""
    series = run.mass_kg.get(node_of(tray.food))
    if series is None or np.isnan(series).all():
        return np.full(len(tray.seconds), np.nan)
    good = ~np.isnan(series)
    return np.asarray(np.interp(tray.seconds, run.edge_s[good], series[good]))


def _done(load: FoodTrays, by: narrowed.Weighed, runs: list[Run], end_s: float) -> Array:
    """When all is dry under each factor, seconds since 1970, a day after the end where it is not: the water in between two factors' runs, so that nights stay nights; shape of the fine factors."""
    at = runs[0].edge_s[::EVERY]
    latest = np.full(len(by.fine), at[0])
    for food in load.numbered:
        between = by.between(np.array([_water(food, run)[::EVERY] for run in runs]))
        dry = between <= food.safe_water_kg
        when = np.where(dry.any(axis=1), at[np.argmax(dry, axis=1)], end_s + 86400.0)
        latest = np.maximum(latest, when)
    return latest


def _water(food: FoodOnTray, run: Run) -> Array:
    """Water in a food, kg; as wet as can be while it is not in."""
    held = water_in(food, run)
    return np.full(len(run.edge_s), 2.0 * food.kg) if held is None else np.where(np.isnan(held), food.kg, held)
