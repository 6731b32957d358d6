"""Names of a loop's parts, and a store as a loop sees it."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from drylamp.core.heat.pipes import Piece

LOOP, LOOP_BACK = "loop", "loop-back"
THERE, BACK = "run-there", "run-back"
PIPES, PUMPED = "pipes", "pumped"
"""Accounts: what the pipes there and back lose, and what the pump gives."""


@dataclass(frozen=True)
class StoreEnds:
    """A store as a loop sees it.

    Attributes:
        layers: its nodes from the top down
        tall_m: how high its water stands
        takes_m, gives_m: how high over its bottom water is taken out, and comes back
        inside: pieces of a coil in it, from above down, where the loop's water stays apart; ``layers`` is then what that water swells into
        gives: links by which the coil gives its heat to the store
        feeler: node that a switch by two temperatures feels; empty: where water is taken out
    """

    layers: Sequence[str]
    tall_m: float
    takes_m: float
    gives_m: float
    inside: tuple[Piece, ...] = ()
    gives: tuple[str, ...] = ()
    feeler: str = ""

    def _layer_at(self, height_m: float) -> int:
        count = len(self.layers)
        return min(max(int((1.0 - height_m / self.tall_m) * count), 0), count - 1)

    @property
    def way(self) -> list[str]:
        """Its layers from where water comes back to where it is taken out."""
        first, last = self._layer_at(self.gives_m), self._layer_at(self.takes_m)
        step = 1 if last >= first else -1
        return [self.layers[k] for k in range(first, last + step, step)]

    @property
    def column(self) -> tuple[tuple[str, float], ...]:
        """Each of them with how much the water rises along it."""
        up, way = 0.0 if self.inside else self.takes_m - self.gives_m, self.way
        return tuple((name, up / len(way)) for name in way)
