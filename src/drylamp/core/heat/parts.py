"""What a network of heat is put together from, as a recipe or a load writes it down; nothing here computes."""

from __future__ import annotations

import math
from dataclasses import dataclass, replace
from typing import Literal

import numpy as np

from drylamp.core.arrays import Array
from drylamp.core.heat.law import Law

AIR, SKY, STEAM, GROUND, MAINS, VALVE = "air", "sky", "steam", "ground", "mains", "valve"
VALVE_OVER_PA = 1.0e5
"""What the valve of a pressure pot holds over the air before it lets go; from memory."""
HUMIDITY = "humidity"
"""Of the air outside: humidity ratio in g/kg, as a vapour node has it."""
BOUNDARIES = (AIR, SKY, STEAM, GROUND, MAINS, VALVE, HUMIDITY)


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


@dataclass(frozen=True)
class Boiling:
    """Water in a node beside its own heat capacity: it leaves as vapour, and as steam above a boiling point (``heat.boil``).

    Attributes:
        at: boundary whose temperature it boils at
        water_kg: at the start; endless where what holds it is filled up, and then its heat is the node's own
    """

    at: str
    water_kg: float = math.inf

    @property
    def runs_out(self) -> bool:
        """Whether its water is counted, and may all be gone."""
        return math.isfinite(self.water_kg)


@dataclass(frozen=True)
class Pile:
    """Boards of one sort in a stack (``heat.boards``).

    Attributes:
        board: the BOARD_WIDTH numbers of one
        cells: moisture from the core to the face, kg/kg
        face_m2, stack_m2: their own faces in the air, and those of all that the same air passes
        blown_w_m2k, per_flow: film when the air goes as fast as it can, and the share of that for each W/K that its path carries
        spends: whether air has less left to give the farther it has come
    """

    board: tuple[float, float, float, float, float, float, float]
    cells: tuple[float, ...]
    face_m2: float
    stack_m2: float
    blown_w_m2k: float = 0.0
    per_flow: float = 0.0
    spends: bool = True


@dataclass(frozen=True)
class Wet:
    """Water that a node holds beside its own heat capacity, and gives to damp air and takes from it (``heat.damp``).

    Attributes:
        vapour, beside: the vapour's node, and the air's
        water_kg: at the start
        film_w_m2k: of still air on it
        account: the ledger's line for the heat that goes with its water
        dry_kg, piece, activation_j_mol: of food: kilograms of dry matter, the numbers of its pieces (``heat.drying``), and of diffusion in it
        area_m2, holds_kg, runs_to: of a pane or wall: the most that it holds, and the body that the rest drips on; it runs off where that is empty
        path, speed_m_s, long_m: the flow path that blows along it, how fast for each W/K that it carries, and how long it is that way; none: still air
        pile: of boards: what they are and hold; their water is that of its cells
        shines_w_m2k: heat, no water, that it gets beside its film from what is about as warm as the air round it
        calibrated_by: the factor of the calibration that scales how fast water comes out of it
    """

    vapour: str
    beside: str
    water_kg: float
    film_w_m2k: float
    account: str
    dry_kg: float = 0.0
    piece: tuple[float, ...] = ()
    activation_j_mol: float = 0.0
    area_m2: float = 0.0
    holds_kg: float = math.inf
    runs_to: str = ""
    path: str = ""
    speed_m_s: float = 0.0
    long_m: float = 0.04
    shines_w_m2k: float = 0.0
    calibrated_by: str = ""
    pile: Pile | None = None

    def quicker(self, factor: float) -> Wet:
        """The same whose water comes out so many times as fast."""
        if self.pile is not None:
            m = self.pile.board
            return replace(self, pile=replace(self.pile, board=(m[0], m[1] * factor, m[2], m[3], m[4], m[5], m[6])))
        if not self.piece:
            return self
        before = (*self.piece[:DIFFUSIVITY], self.piece[DIFFUSIVITY] * factor, *self.piece[DIFFUSIVITY + 1 :])
        return replace(self, piece=before)


DIFFUSIVITY = 3
"""Place of the diffusivity among the numbers of a piece (``heat.drying``)."""


Role = Literal[
    "wanted", "core", "caught", "vessel", "absorber", "air", "pane", "wall", "several", "level", "inner", "vapour"
]
"""What a node is there for: what is wanted hot and the core of it, what is caught, what holds it; what takes up the sun; air, panes
and walls; one of several like things; air at one of several levels; inner ones are nobody's to read; vapour is the water in some air, in g/kg for °C."""


@dataclass(frozen=True)
class Node:
    """Something with one temperature: its name, heat capacity (J/K), plain words, what melts in it, what it is there for, and the water that it holds.

    ``sun_account`` names the loss that sun on it lessens, where what it takes up did not come through the opening.
    """

    name: str
    capacity_j_k: float
    title: str
    melts: Melting | None = None
    role: Role = "inner"
    wet: Wet | None = None
    sun_account: str = ""
    boils: Boiling | None = None


@dataclass(frozen=True)
class Link:
    """A way for heat from ``start`` to ``end``; ``account`` is the ledger's line that it belongs to.

    A link by ``Law.CARRIED`` names the flow ``path`` that carries the heat; ``calibrated_by`` names the
    factor of the calibration that scales the link. A link by ``Law.VAPOUR_LEAK`` looks at the node ``beside`` its start, too;
    laws of a closed space at one more (``also``).
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
    also: str = ""
