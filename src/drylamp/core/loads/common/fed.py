"""What was measured where water comes in and goes out, which leads the twin of a trial."""

from __future__ import annotations

from dataclasses import dataclass
from typing import TYPE_CHECKING

import numpy as np

from drylamp.core.arrays import Array

if TYPE_CHECKING:
    from drylamp.core.sky.weather import Weather


@dataclass(frozen=True)
class Fed:
    """Flow and inlet as they were read.

    Attributes:
        time_s, l_min: readings of the flow, in rising time; it runs on between them
        begins_s, ends_s: between which instants water is known to have run
        inlet_s, inlet_c: readings of what came in, in rising time; none where nobody read it
    """

    time_s: tuple[float, ...]
    l_min: tuple[float, ...]
    begins_s: float
    ends_s: float
    inlet_s: tuple[float, ...] = ()
    inlet_c: tuple[float, ...] = ()

    def came_in_c(self, weather: Weather) -> Array | None:
        """What came in, mean of each step, shape (steps,): what is read has come in since the reading before."""
        if not self.inlet_s:
            return None
        at = np.searchsorted(self.inlet_s, weather.sun.time_s)
        return np.array(self.inlet_c)[np.minimum(at, len(self.inlet_c) - 1)]

    def always_kg_s(self, weather: Weather) -> Array:
        """Of water that runs before and after as well, mean of each step, shape (steps,)."""
        return np.asarray(np.interp(weather.sun.time_s, self.time_s, self.l_min) / 60.0, dtype=float)

    def while_it_ran_kg_s(self, weather: Weather) -> Array:
        """Of water that ran between two instants only, mean of each step, shape (steps,)."""
        edges = weather.start_s + weather.dt_s * np.arange(weather.steps + 1)
        lasts = np.clip(np.minimum(edges[1:], self.ends_s) - np.maximum(edges[:-1], self.begins_s), 0.0, None)
        return np.asarray(self.always_kg_s(weather) * lasts / weather.dt_s, dtype=float)
