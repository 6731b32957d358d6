"""Water that fills what holds it: how much, in how many layers, and what they are called."""

from __future__ import annotations

from dataclasses import dataclass

TOP = "water"
"""The uppermost layer, which is what one feels with the hand and what a tap gives first."""
ONE_WORDS = "water"
"""What it is called where all of it is alike."""
DRAWN = "drawn"
"""Name of the path or pipe by which water is drawn."""


@dataclass(frozen=True)
class Filling:
    """So many litres in so many layers; ``names`` from the top down."""

    litres: float
    layers: int

    @property
    def names(self) -> list[str]:
        """Nodes from the top down."""
        return [TOP, *(f"{TOP}-{k}" for k in range(2, self.layers + 1))]

    @property
    def titles(self) -> list[str]:
        """What they are called."""
        if self.layers == 1:
            return [ONE_WORDS]
        return ["water at the top", *("water between",) * (self.layers - 2), "water at the bottom"]
