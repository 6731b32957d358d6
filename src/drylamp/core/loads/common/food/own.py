"""A food by its own numbers: its diffusivity from the hours that it takes in moving air of a temperature, as of a dehydrator."""

from __future__ import annotations

import math
from functools import lru_cache

from scipy.optimize import brentq

from drylamp.core.air.moist import saturation_pressure_pa
from drylamp.core.checks import require
from drylamp.core.loads.common.food.piece import GROUPS, Piece, Stuff, dry_basis, equilibrium, hours_to
from drylamp.core.loads.common.food.typed import OwnFood

DEHYDRATOR_W_M2K, KITCHEN_C, KITCHEN_RH = 20.0, 20.0, 0.5
"""Film of a dehydrator's fan, and the air that it heats; as in ``scripts/calibrate_drying``."""
SLOWEST, FASTEST = 1e-13, 1e-7
WATER_KG_M3 = 1000.0


def piece_of_own(own: OwnFood, thick_m: float) -> Piece:
    """Its pieces.

    Raises
    ------
    InputProblem
        its isotherm does not reach down to what is safe, or no diffusivity gives the hours.
    """
    sides = 2.0 if own.m2_per_kg is None else own.m2_per_kg * WATER_KG_M3 * own.thick_m
    known = GROUPS[own.group]
    isotherm = (
        (known.monolayer, known.bound, known.multi)
        if own.isotherm is None
        else (own.isotherm.monolayer, own.isotherm.bound, own.isotherm.multi)
    )
    found = _diffusivity(own.fresh_wb, own.safe_wb, own.thick_m, own.hours, own.at_c, sides, isotherm)
    return Piece(Stuff(found, *isotherm), dry_basis(own.fresh_wb), dry_basis(own.safe_wb), thick_m, sides)


@lru_cache(maxsize=256)
def _diffusivity(
    fresh_wb: float, safe_wb: float, thick_m: float, hours: float, at_c: float, sides: float, isotherm: tuple[float, float, float]
) -> float:  # fmt: skip
    rh = KITCHEN_RH * float(saturation_pressure_pa(KITCHEN_C)) / float(saturation_pressure_pa(at_c))
    stuff = Stuff(1e-10, *isotherm)
    rests = float(equilibrium(stuff, rh))
    require(
        rests < dry_basis(safe_wb), "own.isotherm",
        f"by it the food rests at {rests / (1.0 + rests):.3f} water in such air, above the {safe_wb:g} it is to be dried to; give an isotherm that reaches lower, or dry it less",
    )  # fmt: skip

    def late(power: float) -> float:
        piece = Piece(Stuff(10.0**power, *isotherm), dry_basis(fresh_wb), dry_basis(safe_wb), thick_m, sides)
        found = hours_to(piece, piece.safe, at_c, rh, DEHYDRATOR_W_M2K, most_h=4.0 * hours + 24.0)
        return (found if math.isfinite(found) else 8.0 * hours + 48.0) - hours

    low, high = math.log10(SLOWEST), math.log10(FASTEST)
    require(
        late(high) < 0.0 < late(low), "own.hours",
        f"{hours:g} hours were given; with pieces of {1000.0 * thick_m:g} mm the air alone takes longer, so give more hours or thinner pieces",
    )  # fmt: skip
    return float(10.0 ** brentq(late, low, high, xtol=1e-3))
