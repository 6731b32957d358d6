"""How much a coil of pipe lets through, and what is said to more."""

from __future__ import annotations

from drylamp.core.checks import InputProblem
from drylamp.core.common.coil import Coil
from drylamp.core.heat.pipe_head import MAINS_HEAD_M, driven_kg_s, head_lost_m
from drylamp.core.loads.load import Load

FLOWING_C = 20.0
SLACK = 1.05
"""A planned flow may be so much over what was worked out: nobody knows his head to the centimetre."""


def most_l_min(load: Load, coil: Coil, tubes: int, length_m: float) -> float:
    """Litres a minute that barrel or mains drive through so many pipes side by side."""
    return 60.0 * tubes * driven_kg_s(_head_m(load), coil.free_mm / 1000.0, length_m, FLOWING_C)


def _head_m(load: Load) -> float:
    return MAINS_HEAD_M if load.barrel_m is None else load.barrel_m


def check_passes(load: Load, coil: Coil, tubes: int, length_m: float) -> None:
    """Refuse a flow that cannot pass.

    Raises
    ------
    InputProblem
        says how much does.
    """
    each_kg_s = load.asked_l_min / SLACK / tubes / 60.0
    if head_lost_m(each_kg_s, coil.free_mm / 1000.0, length_m, FLOWING_C) <= _head_m(load):
        return
    most, head = most_l_min(load, coil, tubes, length_m), load.barrel_m
    driven = f"the mains ({MAINS_HEAD_M / 10:.0f} bar) drive" if head is None else f"{head:g} m of head drive"
    side = f"{tubes} × {length_m:g} m side by side" if tubes > 1 else f"{length_m:g} m"
    raise InputProblem(
        "load",
        f"{load.asked_l_min:g} litres a minute were given; {driven} {most:.1f} through {side} of {coil.free_mm:g} mm bore, so let less run, raise the barrel, "
        "take a wider pipe or lay rows side by side",
    )  # fmt: skip
