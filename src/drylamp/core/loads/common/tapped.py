"""Water that is always there: in its build over nights, shown to sun and air by what holds it, judged where a tap takes it first."""

from __future__ import annotations

from abc import ABC
from typing import Self

from drylamp.core.heat.parts import Link, Node
from drylamp.core.loads.calendar import Calendar
from drylamp.core.loads.common.body import Body, Place
from drylamp.core.loads.common.filling import TOP
from drylamp.core.loads.common.outline import Outline
from drylamp.core.loads.load import Load


class Tapped(Load, ABC):
    """Water that is drawn or runs."""

    @property
    def first_in(self) -> str:
        """It is always there."""
        return "00:00"

    @property
    def calendar(self) -> Calendar:
        """It stays over nights."""
        return Calendar("standing")

    @property
    def judged(self) -> str:
        """The top of a store, or what is in a pipe."""
        return TOP

    def bodies_on(self, floor_m: tuple[float, float]) -> list[Body]:
        """Nothing stands or lies: what holds it gives it sun and air."""
        return []

    def outlines(self, floor_m: tuple[float, float]) -> list[Outline]:
        """What holds it draws it."""
        return []

    def stages(self) -> list[tuple[str, Self]]:
        """All at once."""
        return [(self.first_in, self)]

    def inside(self, place: Place) -> tuple[list[Node], list[Link]]:
        """What holds it makes its layers or its stream."""
        return [], []
