"""Wood as a substance: equilibrium moisture, shrinkage, safe rates, and what a meter reads.

Moisture contents are fractions of the oven-dry mass.
"""

from __future__ import annotations

import math
from typing import Annotated, Literal

import numpy as np

from drylamp.core.arrays import Array
from drylamp.core.checks import InputProblem
from drylamp.core.heat.cells import FIBRE_SATURATION, SHARES, SHELL_CELLS
from drylamp.core.tables import Species, find, named_in, species

ACTIVATION_J_MOL, GROWS, FREE = 48000.0, 6.66, 1.04
"""Of diffusion in boards of every species, as ``scripts/calibrate_boards`` finds them: activation energy (Simpson 1993 has 43.9 kJ/mol for red oak, from memory), how it grows with moisture below fibre saturation, and
free water's over bound water's."""
WETS_BY = 0.92
"""Moisture that wetting wood comes to over that of drying wood, where wood is damped and dried day by day: full loops are at about 0.85 (Wood Handbook ch. 4), daily ones run inside them; from memory."""
INCH_M = 0.0254
DRYING_LATENT_J_KG = 2.38e6
"""Latent heat of water at 50 °C (CoolProp: 2.382e6)."""
WoodName = Annotated[str, named_in(species, "species")]
SetTo = Annotated[str, named_in(species, "set_to")]
"""Name of the wood that a meter is set to."""


def wood(name: str, field: str = "species") -> Species:
    """The species of that name.

    Raises
    ------
    InputProblem
        there is none; the nearest names are given.
    """
    return find(species(), name, field)


def equilibrium_mc(temperature_c: float, rh: float) -> float:
    """Moisture content that wood comes to in air, as a fraction.

    References
    ----------
    Hailwood & Horrobin 1946 with the coefficients of the USDA Forest Products Laboratory, Wood Handbook ch. 4
    (fitted to its table 4-2, −1…132 °C).
    """
    from drylamp.core.heat.boards import emc  # compiled, and a spec that knows its wood needs none of it

    return float(emc(rh, temperature_c)[0])


def equilibrium_mcs(celsius: Array, rh: Array) -> Array:
    """The same of many airs, of those that are all but full as of 99 %."""
    return np.array([equilibrium_mc(float(t), min(float(h), 0.99)) for t, h in zip(celsius, rh, strict=True)])


def shell_mc(cells: Array) -> Array:
    """Mean of the outer twelfth of boards by their cells, shape (…, CELLS)."""
    few = SHARES[-SHELL_CELLS:]
    return np.asarray(cells[..., -SHELL_CELLS:] @ few / few.sum())


def total_shrinkage(kind: Species, cut: str) -> float:
    """From fibre saturation to oven-dry, as a share of the width: tangential in ``flat`` sawn boards, radial in ``quarter`` sawn (Wood Handbook, table 4-3)."""
    return kind.tangential_shrinkage if cut == "flat" else kind.radial_shrinkage


def shrinkage_fraction(kind: Species, from_mc: float, to_mc: float, cut: str) -> float:
    """Change of width as a share of the width; negative when it shrinks.

    Parameters
    ----------
    cut
        ``flat`` (the width runs along the rings: tangential) or ``quarter`` (radial)

    References
    ----------
    Wood Handbook ch. 4: linear in moisture below fibre saturation, total shrinkage from table 4-3.
    """
    total = total_shrinkage(kind, cut)
    start, end = min(from_mc, FIBRE_SATURATION), min(to_mc, FIBRE_SATURATION)
    return total * (end - start) / FIBRE_SATURATION


def safe_loss_per_day(kind: Species, thickness_in: float) -> float:
    """Most moisture content that boards may lose in a day without checks, as a fraction.

    Raises
    ------
    InputProblem
        no rate is known for the species.

    References
    ----------
    USDA Forest Service, Drying Hardwood Lumber (FPL-GTR-118), rates at 1 and 2 inches; a power law through both.
    """
    if kind.safe_1in_per_day is None or kind.safe_2in_per_day is None:
        known = ", ".join(row.name for row in species().values() if row.safe_1in_per_day is not None)
        raise InputProblem(
            "species", f"no safe rate is published for '{kind.name}' (softwoods dry fast without harm); known: {known}"
        )
    power = math.log2(kind.safe_2in_per_day / kind.safe_1in_per_day)
    return float(kind.safe_1in_per_day * thickness_in**power)


def pin_meter_mc(reading_mc: float, kind: Species, set_to: Species, wood_c: float) -> float:
    """Moisture content from a pin (resistance) meter's reading.

    References
    ----------
    Temperature: Pfaff & Garrahan 1986, MC = (R + 0.567 − 0.0260 T + 0.000051 T²)/(0.881 · 1.0056ᵀ), in percent, from
    memory; scaled to change nothing at 20 °C. Species: straight lines against Douglas-fir, order of size from memory.
    """

    def raw(celsius: float) -> float:
        top = reading_mc * 100.0 + 0.567 - 0.0260 * celsius + 0.000051 * celsius**2
        return float(top / (0.881 * 1.0056**celsius))

    at_20 = reading_mc + (raw(wood_c) - raw(20.0)) / 100.0
    as_douglas_fir = (at_20 - set_to.pin_offset) / set_to.pin_slope
    return max(kind.pin_slope * as_douglas_fir + kind.pin_offset, 0.0)


Basis = Literal["green", "12 %", "oven-dry"]
"""What a specific gravity's volume was measured at; its mass is the oven-dry one."""
BASIS_MC: dict[Basis, float] = {"green": FIBRE_SATURATION, "12 %": 0.12, "oven-dry": 0.0}
SHRINKS_BY_GRAVITY = 0.265


def specific_gravity(basic: float, basis: Basis) -> float:
    """Specific gravity on the volume at a moisture, from the basic one (oven-dry mass, green volume).

    References
    ----------
    G = G_b/(1 − 0.265 a G_b), a = (30 − M)/30 (Simpson 1993, FPL-RN-304; Wood Handbook ch. 4; from memory).
    """
    dried = 1.0 - BASIS_MC[basis] / FIBRE_SATURATION
    return basic / (1.0 - SHRINKS_BY_GRAVITY * dried * basic)


def pinless_meter_mc(reading_mc: float, kind: Species, set_to: Species) -> float:
    """Moisture content from a pinless (dielectric) meter's reading: it feels water per volume, so density counts.

    References
    ----------
    Reading × specific gravity set / specific gravity of the wood: common practice, no source.
    """
    return reading_mc * set_to.basic_specific_gravity / kind.basic_specific_gravity
