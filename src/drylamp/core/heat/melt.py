"""What melts within a step, and where it drips.

Something that melts changes its heat capacity as it does. Each step takes the secant of its enthalpy over the step as
predicted, and puts its temperature right afterwards from the enthalpy that it really took up (Voller 1990's correction,
from memory), so that the ledger closes with latent heat too. What has melted may drip to another node, enthalpy and all.
"""

from __future__ import annotations

import numpy as np

from drylamp.core.arrays import Array
from drylamp.core.compiled import woven

MELT_NEAR_K, MELT_PARTS = 0.7, 4
"""How near to the ends of a melting range a step is cut finer, and into how many parts."""
MELTING_WIDTH = 8
"""Numbers of a melting row: node, cp, latent heat, low and high end of the range, row it drips to (−1 none), share that
drips each second, kilograms that never do."""


@woven
def melt_parts(melting: Array, now: Array, parts: int) -> int:
    """Parts of this step: more where something is about to begin or end melting."""
    for r in range(melting.shape[0]):
        at = now[np.uint64(melting[r, 0])]
        if abs(at - melting[r, 3]) < MELT_NEAR_K or abs(at - melting[r, 4]) < MELT_NEAR_K:
            parts = max(parts, MELT_PARTS)
    return parts


@woven
def _enthalpy(fixed: float, mass: float, melting: Array, r: int, celsius: float) -> float:
    """J above 0 °C of a node with a fixed heat capacity and something in it that melts."""
    low, high = melting[r, 3], melting[r, 4]
    melted = min(max((celsius - low) / (high - low), 0.0), 1.0)
    return float((fixed + mass * melting[r, 1]) * celsius + mass * melting[r, 2] * melted)


@woven
def _of_enthalpy(fixed: float, mass: float, melting: Array, r: int, joules: float) -> float:
    """The temperature that belongs to an enthalpy, °C."""
    sensible, latent = fixed + mass * melting[r, 1], mass * melting[r, 2]
    low, high = melting[r, 3], melting[r, 4]
    if joules <= sensible * low:
        return float(joules / sensible)
    if joules >= sensible * high + latent:
        return float((joules - latent) / sensible)
    return float(low + (joules - sensible * low) / (sensible + latent / (high - low)))


@woven
def secants(melting: Array, fixed: Array, mass: Array, now: Array, ahead: Array, capacity: Array) -> None:
    """Heat capacities of melting nodes over the step that leads from ``now`` through its middle ``ahead``."""
    for r in range(melting.shape[0]):
        i = np.uint64(melting[r, 0])
        rise = 2.0 * (ahead[i] - now[i])
        if abs(rise) < 1e-6:
            rise = 1e-6
        gain = _enthalpy(fixed[i], mass[r], melting, r, now[i] + rise)
        gain -= _enthalpy(fixed[i], mass[r], melting, r, now[i])
        capacity[i] = gain / rise


@woven
def put_right(melting: Array, fixed: Array, mass: Array, before: Array, capacity: Array, now: Array) -> None:
    """Set melting nodes to the temperature of the enthalpy that they took up with frozen heat capacities."""
    for r in range(melting.shape[0]):
        i = np.uint64(melting[r, 0])
        joules = _enthalpy(fixed[i], mass[r], melting, r, before[i]) + capacity[i] * (now[i] - before[i])
        now[i] = _of_enthalpy(fixed[i], mass[r], melting, r, joules)


@woven
def drip(melting: Array, fixed: Array, mass: Array, now: Array, h: float) -> None:
    """Move what has melted on to where it drips, with its enthalpy."""
    for r in range(melting.shape[0]):
        to = int(melting[r, 5])
        if to < 0 or mass[r] <= 0.0:
            continue
        i = np.uint64(melting[r, 0])
        melted = min(max((now[i] - melting[r, 3]) / (melting[r, 4] - melting[r, 3]), 0.0), 1.0)
        free = melted * mass[r] - melting[r, 7]
        if free <= 0.0:
            continue
        moved = free * (1.0 - np.exp(-melting[r, 6] * h))
        j = np.uint64(melting[to, 0])
        carried = moved * (melting[r, 1] * now[i] + melting[r, 2])
        here = _enthalpy(fixed[i], mass[r], melting, r, now[i]) - carried
        there = _enthalpy(fixed[j], mass[to], melting, to, now[j]) + carried
        mass[r] -= moved
        mass[to] += moved
        now[i] = _of_enthalpy(fixed[i], mass[r], melting, r, here)
        now[j] = _of_enthalpy(fixed[j], mass[to], melting, to, there)
