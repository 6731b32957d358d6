"""Water that is always there: in its build over nights, shown to sun and air by what holds it, judged where a tap takes it first."""

from __future__ import annotations

from abc import ABC, abstractmethod
from typing import TYPE_CHECKING, Self

import numpy as np
from pydantic import Field, PrivateAttr

from drylamp.core.arrays import Array
from drylamp.core.checks import Hour
from drylamp.core.forms import asked
from drylamp.core.loads.calendar import Calendar
from drylamp.core.loads.common.fed import Fed
from drylamp.core.loads.common.filling import TOP
from drylamp.core.loads.load import Load

if TYPE_CHECKING:
    from drylamp.core.sky.site import Site
    from drylamp.core.sky.weather import Weather


class Tapped(Load, ABC):
    """Water that is drawn or runs."""

    fill_hour: Hour | None = Field(
        default=None, description="Hour of the first day until which it stands dry", json_schema_extra=asked(in_files_only=True)
    )  # fmt: skip
    if TYPE_CHECKING:  # each asks for them in its own words and within its own bounds
        warm_c: float
        mains_c: float | None
    _as_read: Fed | None = PrivateAttr(default=None)

    def fed(self, as_read: Fed) -> Self:
        """The same with flow and inlet as they were read."""
        made = self.model_copy()
        made._as_read = as_read
        return made

    def inlet_c(self, weather: Weather) -> Array | None:
        """As read, where it was; else as typed."""
        read = None if self._as_read is None else self._as_read.came_in_c(weather)
        typed = self.typed_inlet_c
        return np.full(weather.steps, typed) if read is None and typed is not None else read

    @property
    def wanted_c(self) -> float:
        """As warm as it is wanted."""
        return self.warm_c

    @property
    def typed_inlet_c(self) -> float | None:
        """Temperature of the water that comes in, as typed; none: the mains of the season."""
        return self.mains_c

    def flows(self, site: Site, weather: Weather) -> dict[str, Array]:
        """As read, where it was; else as planned."""
        read = self._as_read
        return {self.tap: self.planned_kg_s(site, weather) if read is None else self.read_kg_s(read, weather)}

    @abstractmethod
    def planned_kg_s(self, site: Site, weather: Weather) -> Array:
        """What leaves it by plan, mean of each step, shape (steps,)."""

    @abstractmethod
    def read_kg_s(self, read: Fed, weather: Weather) -> Array:
        """What left it by what was read, mean of each step, shape (steps,)."""

    @property
    def first_in(self) -> str:
        """It is always there, or from the hour on at which it is filled."""
        return self.fill_hour or "00:00"

    @property
    def calendar(self) -> Calendar:
        """It stays over nights."""
        return Calendar("standing", from_hour=self.fill_hour)

    @property
    def judged(self) -> str:
        """The top of a store, or what is in a pipe."""
        return TOP

    def stages(self) -> list[tuple[str, Self]]:
        """All at once."""
        return [(self.first_in, self)]
