"""What a network of heat is put together from, as a recipe or a load writes it down; nothing here computes."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

import numpy as np

from drylamp.core.arrays import Array
from drylamp.core.heat.law import Law

AIR, SKY, STEAM, GROUND, MAINS, VALVE = "air", "sky", "steam", "ground", "mains", "valve"
BOUNDARIES = (AIR, SKY, STEAM, GROUND, MAINS, VALVE)


@dataclass(frozen=True)
class Melting:
    """Something in a node that softens and melts, beside the node's own heat capacity.

    Attributes:
        mass_kg: at the start
        cp_j_kgk, latent_j_kg: solid and liquid alike; latent heat, taken up evenly over the range
        low_c, high_c: the melting range
        drips_to: another melting node, or nothing
        rate_per_s: share of the free liquid that drips each second
        keeps_kg: liquid that never leaves
    """

    mass_kg: float
    cp_j_kgk: float
    latent_j_kg: float
    low_c: float
    high_c: float
    drips_to: str = ""
    rate_per_s: float = 0.0
    keeps_kg: float = 0.0

    def heat_j(self, celsius: Array, mass_kg: Array) -> Array:
        """Enthalpy above 0 °C of so much of it, J."""
        return np.asarray(mass_kg * (self.cp_j_kgk * celsius + self.latent_j_kg * self.melted(celsius)))

    def melted(self, celsius: Array) -> Array:
        """Melted share at temperatures, 0–1."""
        return np.asarray(np.clip((celsius - self.low_c) / (self.high_c - self.low_c), 0.0, 1.0))


Role = Literal["wanted", "core", "caught", "vessel", "absorber", "air", "pane", "wall", "several", "inner"]
"""What a node is there for: what is wanted hot and the core of it, what is caught, what holds it; what takes up the sun; air, panes
and walls; one of several like things; inner ones are nobody's to read."""


@dataclass(frozen=True)
class Node:
    """Something with one temperature: its name, heat capacity (J/K), plain words, what melts in it, and what it is there for."""

    name: str
    capacity_j_k: float
    title: str
    melts: Melting | None = None
    role: Role = "inner"


@dataclass(frozen=True)
class Link:
    """A way for heat from ``start`` to ``end``; ``account`` is the ledger's line that it belongs to.

    A link by ``Law.CARRIED`` names the flow ``path`` that carries the heat; ``calibrated_by`` names the
    factor of the calibration that scales the link. A link by ``Law.VAPOUR_LEAK`` looks at the node ``beside`` its start, too.
    """

    name: str
    law: Law
    start: str
    end: str
    params: tuple[float, ...]
    account: str = ""
    path: str = ""
    beside: str = ""
    calibrated_by: str = ""
