"""A switch by two temperatures, as a recipe writes it down; the march compares them."""

from __future__ import annotations

from dataclasses import dataclass

from drylamp.core.checks import require


@dataclass(frozen=True)
class Stop:
    """What a thermostat stops at: a node that is warm enough, or cool enough."""

    node: str
    at_c: float
    above: bool = True


@dataclass(frozen=True)
class Thermostat:
    """A switch by two temperatures: on when ``warm`` is so much over ``cool``, off when it is hardly any more.

    Attributes:
        warm, cool: nodes or boundaries
        on_k, off_k: differences at which it switches on and off; the second below the first
        stop: a temperature beyond which it stays off whatever the difference
    """

    warm: str
    cool: str
    on_k: float
    off_k: float
    stop: Stop | None = None

    def __post_init__(self) -> None:
        """Refuse one that would switch at every step."""
        require(self.off_k < self.on_k, "thermostat.off_k", f"{self.off_k:g} was given; allowed is below {self.on_k:g}")
