"""What a network is exposed to, and how its time is cut: parts of a step where something jumps, dark steps taken as one."""

from __future__ import annotations

import math
from dataclasses import dataclass, replace

import numpy as np

from drylamp.core.air.moist import MOLAR_RATIO, boiling_c
from drylamp.core.arrays import Array
from drylamp.core.heat.network import Network
from drylamp.core.heat.parts import VALVE_OVER_PA
from drylamp.core.heat.streams import LOTS_ALONG

GUST_JUMP_M_S, SUN_JUMP_W_M2 = 1.0, 100.0
RESET_S = 300.0
FLUSHES, MOST_FLUSHED, MOST_DRAW_PARTS, STORE_PARTS = 3, 30, 12, 4
"""For how many fillings of a pipe, and steps, a draw is cut finer; into how many parts, and into how many where a store is drawn from."""
CALM_STEPS, CALM_AFTER_S, LONGEST_NAP_S = 10, 1800.0, 900.0
"""Dark steps that may be taken as one, and how long after the last sun."""


@dataclass(frozen=True)
class Drive:
    """What a network is exposed to; arrays are means over the steps.

    Attributes:
        dt_s: length of a step
        air_c, sky_c, wind_m_s, vapour_pa: shape (steps,)
        steam_c: temperature at which water boils here
        pressure_pa: air pressure
        source_w: sun into each node, shape (steps, nodes)
        substeps: parts of each step, shape (steps,)
        ground_c, mains_c: shape (steps,); the run's mean air where not given
        speed: ceiling on each flow path's fan or pump, 0–1, shape (steps, paths); full speed where not given
        opening: how far what is set by the hour stands open in each path, 0–1, shape (steps, paths); open where not given
        on: whether each path's fan or pump may run as its thermostat was left, 0 or 1, shape (paths,); off where not given
        first: where steps of several lengths were merged, the number of ``dt_s`` that each begins at, and last the end of all
        flow_kg_s: through each stream, shape (steps, streams); standing where not given
    """

    dt_s: float
    air_c: Array
    sky_c: Array
    wind_m_s: Array
    vapour_pa: Array
    steam_c: float
    pressure_pa: float
    source_w: Array
    substeps: np.ndarray
    ground_c: Array | None = None
    mains_c: Array | None = None
    speed: Array | None = None
    on: Array | None = None
    first: np.ndarray | None = None
    flow_kg_s: Array | None = None
    opening: Array | None = None

    @property
    def edges(self) -> np.ndarray:
        """Beginning of each step and end of the last, in numbers of ``dt_s``, shape (steps + 1,)."""
        return np.arange(len(self.air_c) + 1) if self.first is None else self.first

    def boundaries(self) -> Array:
        """Temperatures of BOUNDARIES in order, shape (steps, boundaries)."""
        steps = len(self.air_c)
        mean = np.full(steps, float(self.air_c.mean()))
        ground = mean if self.ground_c is None else self.ground_c
        mains = ground if self.mains_c is None else self.mains_c
        steam, valve = np.full(steps, self.steam_c), np.full(steps, boiling_c(self.pressure_pa + VALVE_OVER_PA))
        gram = 1000.0 * MOLAR_RATIO * self.vapour_pa / (self.pressure_pa - self.vapour_pa)
        return np.column_stack([self.air_c, self.sky_c, steam, ground, mains, valve, gram])


def merged(drive: Drive, lit: np.ndarray, nap: int = CALM_STEPS) -> Drive:
    """The drive with calm blocks of so many dark steps taken as one step each, at their means."""
    first = calm_blocks(lit, drive.dt_s, nap)
    size = np.diff(first, append=len(lit))

    def mean(values: Array) -> Array:
        shape = (-1,) + (1,) * (values.ndim - 1)
        return np.asarray(np.add.reduceat(values, first, axis=0) / size.reshape(shape))

    def mean_of(values: Array | None) -> Array | None:
        return None if values is None else mean(values)

    return replace(
        drive,
        air_c=mean(drive.air_c),
        sky_c=mean(drive.sky_c),
        wind_m_s=mean(drive.wind_m_s),
        vapour_pa=mean(drive.vapour_pa),
        source_w=mean(drive.source_w),
        substeps=drive.substeps[first],
        ground_c=mean_of(drive.ground_c),
        mains_c=mean_of(drive.mains_c),
        speed=mean_of(drive.speed),
        opening=mean_of(drive.opening),
        first=np.append(first, len(lit)),
    )


def calm_blocks(lit: np.ndarray, dt_s: float, nap: int = CALM_STEPS) -> np.ndarray:
    """First steps of the blocks that the marcher may take as one: so many dark steps each, single ones elsewhere.

    A block counts as dark when no step of it is lit, nor was any in the half hour before.
    """
    steps = len(lit)
    wake = round(CALM_AFTER_S / dt_s)
    since = np.arange(steps) - np.maximum.accumulate(np.where(lit, np.arange(steps), -steps))
    whole = steps // nap * nap
    dark = (since[:whole] > wake).reshape(-1, nap).all(axis=1)
    starts = np.ones(steps, dtype=bool)
    starts[:whole].reshape(-1, nap)[dark, 1:] = False
    return np.flatnonzero(starts)


def jump_substeps(wind_m_s: Array, sun_w_m2: Array) -> np.ndarray:
    """Two parts in steps where wind or sun jumps, one elsewhere, shape (steps,): a light node follows in seconds."""
    gust = np.abs(np.diff(wind_m_s, prepend=wind_m_s[:1])) > GUST_JUMP_M_S
    cloud = np.abs(np.diff(sun_w_m2, prepend=sun_w_m2[:1])) > SUN_JUMP_W_M2
    return np.where(gust | cloud, 2, 1).astype(np.int64)


def reset_substeps(substeps: np.ndarray, dt_s: float) -> np.ndarray:
    """Eight parts for five minutes after a start or after something cold is put in."""
    out = substeps.copy()
    out[: max(1, round(RESET_S / dt_s))] = 8
    return out


def draw_parts(network: Network, speed: Array | None, flow_kg_s: Array | None, dt_s: float, steps: int) -> np.ndarray:
    """Parts of each step that let a draw's front through: more while a pipe is being flushed, or a store drawn from, shape (steps,)."""
    parts = np.ones(steps, dtype=np.int64)
    for s, stream in enumerate(network.streams):
        if stream.round is not None:
            continue  # nobody stands at its end and waits for a front
        share = np.zeros(steps) if flow_kg_s is None else flow_kg_s[:, s] * dt_s / stream.water_kg
        for n in np.flatnonzero(np.diff(share, prepend=0.0)):
            until = n + FLUSHES * math.ceil(1.0 / share[n]) + 1 if share[n] > 0 else n + 1
            here = slice(n, min(until, n + MOST_FLUSHED))
            parts[here] = np.maximum(parts[here], np.clip(np.ceil(share[here] * LOTS_ALONG / 2), 1, MOST_DRAW_PARTS))
    for f, path in enumerate(network.paths):
        if path.given_kg_s > 0 and not path.led and path.fluid == "water" and speed is not None:
            parts[speed[:, f] > 0] = np.maximum(parts[speed[:, f] > 0], STORE_PARTS)
    return parts
