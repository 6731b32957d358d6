"""What drying does to boards: stress, checks, cup, sag, ends, bleaching, mould; each with what changes it.

Where nothing is published the size is from memory, an order of it; what each depends on is what a test switches.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

import numpy as np

from drylamp.core.arrays import Array
from drylamp.core.heat.cells import FIBRE_SATURATION
from drylamp.core.loads.common.wood import shrinkage_fraction, total_shrinkage
from drylamp.core.loads.lumber.group import BoardGroup
from drylamp.core.loads.lumber.spec import EndPaint, LumberCharge
from drylamp.core.loads.lumber.stress import stress_mpa

Risk = Literal["none", "watch", "high"]
WATCH, HIGH = 0.75, 1.0
"""Shares of its strength, and of the safe rate, from which a board is watched, and in danger."""
MOULD_RH, MOULD_LOW_C, MOULD_HIGH_C = 0.80, 10.0, 40.0
FREE_CUP, HELD_BY_KG_M2 = 0.35, 60.0
"""Share of a lone board's cup that shows between sticks, and weight over it that halves that; from memory."""
STEPS_S = 3600.0
BENDING_GPA, CREEPS = 12.0, 4.0
"""Along the grain for a specific gravity of 0.6, and how much farther wet wood sags in time; from memory."""
ENDS = {"none": 4.0, "paint": 2.0, "wax-emulsion": 0.6}
"""Length of an end that checks, in thicknesses, at the safe rate; from memory."""
WOOD_FADES_KWH_M2 = 15.0
"""Light past which pale wood yellows and dark wood bleaches; from memory."""


@dataclass(frozen=True)
class Strain:
    """Stress of a group over its time.

    Attributes:
        shell_share, core_share: of what each bears (pulled above nothing), every hour, shape (n,)
        worst_shell, worst_core: the highest of both
        relief_share: mean of what a night takes off the shell's pull, of that at its evening; none where it is never pulled
    """

    shell_share: Array
    core_share: Array
    worst_shell: float
    worst_core: float
    relief_share: float | None


def strained(group: BoardGroup, cells: Array, celsius: Array, dt_s: float) -> Strain:
    """Stress from the moisture of its cells at the run's edges."""
    stride = max(1, round(STEPS_S / dt_s))
    shrinks, gravity = total_shrinkage(group.row, group.cut), group.row.basic_specific_gravity
    shell, core, shell_bears, core_bears = stress_mpa(
        cells[::stride], celsius[::stride], shrinks, gravity, stride * dt_s
    )
    shares = shell / shell_bears, core / core_bears
    return Strain(
        *shares, float(max(shares[0].max(), 0.0)), float(max(shares[1].max(), 0.0)), _relief(shares[0], stride * dt_s)
    )


def _relief(shell: Array, dt_s: float) -> float | None:
    """What a night takes off: the day's highest pull against the lowest until the next noon."""
    day = round(86400.0 / dt_s)
    falls = []
    for k in range(0, len(shell) - 2 * day + 1, day):
        top = k + int(np.argmax(shell[k : k + day]))
        if shell[top] > 0.05:
            falls.append(1.0 - max(float(shell[top : top + day // 2].min()), 0.0) / float(shell[top]))
    return float(np.mean(falls)) if falls else None


def risk_of(share: float) -> Risk:
    """By a share of what is borne."""
    return "high" if share >= HIGH else "watch" if share >= WATCH else "none"


def cup_mm(load: LumberCharge, group: BoardGroup, mean_mc: float) -> float:
    """How hollow its widest boards in the top layers are: w²/8t of the difference between tangential and radial shrinkage, held down by weights."""
    lost = max(FIBRE_SATURATION - min(mean_mc, FIBRE_SATURATION), 0.0) / FIBRE_SATURATION
    apart = abs(group.row.tangential_shrinkage - group.row.radial_shrinkage) * lost
    free = group.width_mm**2 * apart / (8.0 * group.thickness_mm) if group.cut == "flat" else 0.0
    return FREE_CUP * free / (1.0 + load.weights_kg_m2 / HELD_BY_KG_M2)


def sag_mm(load: LumberCharge, group: BoardGroup) -> float:
    """How far it sags between two sticks under the layer above it, wet and creeping: 5 q L⁴/384 E I by the metre of width."""
    row, thick = group.row, group.thickness_mm / 1000.0
    load_n_m2 = 9.81 * (2.0 * thick * 1000.0 * row.basic_specific_gravity * (1.0 + group.mean_mc))
    stiff = BENDING_GPA * 1e9 * row.basic_specific_gravity / 0.6 / CREEPS
    return 1000.0 * 5.0 * load_n_m2 * load.sticker_apart_m**4 / (384.0 * stiff * thick**3 / 12.0)


def end_loss_mm(paint: EndPaint, group: BoardGroup, worst_share: float) -> float:
    """Length of each end that checks: by thickness, and by how near its drying came to what it bears."""
    return ENDS[paint] * group.thickness_mm * min(max(worst_share, 0.0), 1.5)


def mould_hours(celsius: Array, rh: Array, dt_s: float) -> float:
    """Hours of air damper than 80 % between 10 and 40 °C (Wood Handbook, ch. 14; from memory)."""
    grows = (rh > MOULD_RH) & (celsius > MOULD_LOW_C) & (celsius < MOULD_HIGH_C)
    return float(grows.sum()) * dt_s / 3600.0


@dataclass(frozen=True)
class Sawn:
    """A board to be sawn for a planed size: what it shrinks by, what the plane takes, and its size green."""

    wanted_mm: float
    shrinks_mm: float
    planed_mm: float
    sawn_mm: float


def saw_for(
    group: BoardGroup, wanted_mm: float, planed_mm: float, across: Literal["width", "thickness"], uneven_mm: float
) -> Sawn:
    """Green size for a planed one at the target's moisture; flat-sawn boards shrink tangentially in width and radially in thickness."""
    cut = group.cut if across == "width" else ("quarter" if group.cut == "flat" else "flat")
    share = -shrinkage_fraction(group.row, 1.0, group.target_mc, cut)
    dry = wanted_mm + planed_mm + uneven_mm
    return Sawn(wanted_mm, dry * share / (1.0 - share), planed_mm + uneven_mm, dry / (1.0 - share))
