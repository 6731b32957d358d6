"""What a moisture meter shows on a board: pins at their depth, a plate over what it feels, by the species or gravity it is set to and the wood's warmth."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from drylamp.core.arrays import Array
from drylamp.core.heat.cells import FIBRE_SATURATION, SHARES
from drylamp.core.loads.common.wood import pin_meter_mc
from drylamp.core.loads.lumber.group import BoardGroup
from drylamp.core.loads.lumber.spec import Meter
from drylamp.core.tables import Species, species

PLATE_M = 0.02
"""A plate feels so deep; from memory."""
HALVINGS = 50
USUAL_DEPTH = 0.25
"""Of the thickness: about the mean of a board that dries."""


@dataclass(frozen=True)
class Reading:
    """What a meter shows, and how it is said where that was read."""

    shown_mc: float
    felt_mc: float
    unsure: bool


def meter_reads(meter: Meter, group: BoardGroup, cells: Array, celsius: float) -> Reading:
    """What a meter shows on boards of these cells at a temperature: pins at their depth, a plate over what it feels."""
    row = group.row
    half = group.thickness_mm / 2000.0
    if meter.sort == "plate":
        return _plate(meter, group, cells, half)
    depth = min(meter.depth_share * group.thickness_mm / 1000.0, half)
    felt = _at_depth(cells, depth / half)
    set_to = row if meter.set_to is None else species()[meter.set_to]
    return Reading(_shown_by_pins(felt, row, set_to, celsius), felt, felt > FIBRE_SATURATION)


def felt_at(meter: Meter, group: BoardGroup, shown_mc: float, celsius: float) -> float:
    """What the wood holds where its meter shows a moisture, by the meter's setting and the wood's warmth."""
    own = group.row
    if meter.sort == "plate":
        by = meter.gravity or (own if meter.set_to is None else species()[meter.set_to]).basic_specific_gravity
        return shown_mc * by / own.basic_specific_gravity
    return pin_meter_mc(shown_mc, own, own if meter.set_to is None else species()[meter.set_to], celsius)


def felt_mc(group: BoardGroup, cells: Array, deep_mm: float | None, plate: bool) -> float:
    """Moisture where a meter feels it: over a plate's field, at a depth of pins (none: a quarter of the thickness), the mean where the depth is endless."""
    half = group.thickness_mm / 2000.0
    if plate:
        return _over_plate(cells, half)
    deep = USUAL_DEPTH * 2.0 * half if deep_mm is None else deep_mm / 1000.0
    return float(SHARES @ cells) if np.isinf(deep) else _at_depth(cells, min(deep, half) / half)


def _over_plate(cells: Array, half: float) -> float:
    near = np.clip((PLATE_M - half * _depths()) / half, 0.0, None)
    weights = SHARES * np.minimum(near, 1.0)
    weights = weights if weights.sum() > 0.0 else SHARES
    return float(weights @ cells / weights.sum())


def _plate(meter: Meter, group: BoardGroup, cells: Array, half: float) -> Reading:
    felt = _over_plate(cells, half)
    own = group.row.basic_specific_gravity
    by = meter.gravity or (own if meter.set_to is None else species()[meter.set_to].basic_specific_gravity)
    return Reading(felt * own / by, felt, felt > FIBRE_SATURATION)


def _depths() -> Array:
    """Middles of cells under the face, in half thicknesses, from the core."""
    return 1.0 - (np.cumsum(SHARES) - SHARES / 2.0)


def _at_depth(cells: Array, depth: float) -> float:
    """Moisture at a depth under the face, in half thicknesses."""
    return float(np.interp(depth, _depths()[::-1], cells[::-1]))


def _shown_by_pins(felt: float, row: Species, set_to: Species, celsius: float) -> float:
    """The reading that stands for a moisture: ``pin_meter_mc`` the other way round."""
    low, high = 0.0, 1.5
    for _ in range(HALVINGS):
        middle = 0.5 * (low + high)
        low, high = (middle, high) if pin_meter_mc(middle, row, set_to, celsius) < felt else (low, middle)
    return 0.5 * (low + high)
