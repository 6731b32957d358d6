"""What is told of all water alike: what it is scored in, when one sees to it, an hour of a run's first day."""

from __future__ import annotations

import numpy as np

from drylamp.core.arrays import Array
from drylamp.core.outcome.of_load import Measure
from drylamp.core.twin.run import Run

LITRES = Measure("volume", 0.3, 1.0, 3.0)
READY = "08:00"
"""When one sees to it in the morning; common practice, no source."""


def at_hour(run: Run, series: Array, hour: str) -> float:
    """A series of a run's edges at an hour after its first midnight, at its end where that comes before."""
    hours, minutes = (int(part) for part in hour.split(":"))
    return float(np.interp(float(run.edge_s[0]) + 3600.0 * hours + 60.0 * minutes, run.edge_s, series))
