"""Pipes as a recipe or a load writes them down: pieces of wall, what runs along them, and where it goes; nothing here computes."""

from __future__ import annotations

import math
from dataclasses import dataclass

from drylamp.core.checks import require
from drylamp.core.heat.parts import Role

MOST_PIECES = 40
LEVEL_M = 1e-6


@dataclass(frozen=True)
class Tube:
    """The inside of a pipe: bore, thickness and conductivity of its wall, and how many run side by side, sharing the flow evenly."""

    bore_m: float
    wall_m: float
    wall_w_mk: float
    tubes: int = 1


@dataclass(frozen=True)
class Piece:
    """A piece of a pipe's wall: its node, its length, how much higher it ends than it begins, and its pipe where it is not its stream's."""

    node: str
    length_m: float
    rise_m: float = 0.0
    tube: Tube | None = None


@dataclass(frozen=True)
class Round:
    """Where the water of a stream goes, if it does not leave.

    Attributes:
        outlet: node that it comes out into; its inlet is a node then, too
        path: flow path that leads it through the store from there to its inlet, and says what a pump moves and what switches it
        back: the same the other way, where it may run backwards; none with a check valve
        column: nodes of the store from outlet to inlet, and how much the water rises along each
        siphons: whether it moves by itself, too, because warm water is light
        zeta: heads of velocity lost in its fittings and ends
        gives: links whose heat is what it brings, where its water stays apart from the store's; none: what comes out less what goes in
    """

    outlet: str
    path: str
    back: str = ""
    column: tuple[tuple[str, float], ...] = ()
    siphons: bool = False
    zeta: float = 5.0
    gives: tuple[str, ...] = ()


@dataclass(frozen=True)
class Stream:
    """A pipe with water in it.

    Attributes:
        name: for flows and records
        pieces: of its wall, from the inlet on; their nodes stand for the outer face and hold the wall's heat
        bore_m, wall_m, wall_w_mk: inside diameter, thickness of the wall, its conductivity
        inlet: the boundary or node that the water comes from
        account: of the ledger, for what it carries off
        role: what the water in it is there for
        tubes: how many run side by side, each of this length, sharing the flow evenly
        title: in plain words
        round: where its water goes; none: it leaves
    """

    name: str
    pieces: tuple[Piece, ...]
    bore_m: float
    wall_m: float
    wall_w_mk: float
    inlet: str
    tubes: int = 1
    title: str = ""
    account: str = ""
    role: Role = "vessel"
    round: Round | None = None

    def __post_init__(self) -> None:
        """Refuse a pipe without a bore, a length or a wall that conducts, and a round that does not end as high as it began."""
        where = f"stream.{self.name}"
        require(
            1 <= len(self.pieces) <= MOST_PIECES,
            where,
            f"{len(self.pieces)} pieces were given; allowed are 1 to {MOST_PIECES}",
        )
        require(all(piece.length_m > 0 for piece in self.pieces), where, "every piece needs a length above 0")
        for tube in {self.tube_of(piece) for piece in self.pieces}:
            require(tube.bore_m > 0, where, f"a bore of {tube.bore_m:g} m was given; allowed is above 0")
            walled = tube.wall_m >= 0 and tube.wall_w_mk > 0
            require(walled, where, "its wall needs a thickness of 0 or more and a conductivity above 0")
            require(tube.tubes >= 1, where, f"{tube.tubes} tubes were given; allowed is 1 or more")
        if self.round is not None:
            up = sum(piece.rise_m for piece in self.pieces) + sum(rise for _, rise in self.round.column)
            require(abs(up) < LEVEL_M, where, f"goes round and ends {up:g} m higher than it began")

    def tube_of(self, piece: Piece) -> Tube:
        """The pipe of a piece: its own, else its stream's."""
        return piece.tube or Tube(self.bore_m, self.wall_m, self.wall_w_mk, self.tubes)

    def kilograms(self, piece: Piece) -> float:
        """What a piece holds, at 1000 kg/m³."""
        tube = self.tube_of(piece)
        return 1000.0 * math.pi / 4.0 * tube.bore_m**2 * piece.length_m * tube.tubes

    @property
    def length_m(self) -> float:
        """Length of one of its tubes, m."""
        return sum(piece.length_m for piece in self.pieces)

    @property
    def water_kg(self) -> float:
        """What it holds, at 1000 kg/m³."""
        return sum(self.kilograms(piece) for piece in self.pieces)
