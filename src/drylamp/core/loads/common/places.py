"""What loads need of their place, and what kinds of build offer: the words in which the two meet."""

from __future__ import annotations

import math

STANDING, LYING, DRAINING, FILLING, FLOWING, POURED, LAID, STACKED = (
    "standing",
    "lying",
    "draining",
    "filling",
    "flowing",
    "poured",
    "laid",
    "stacked",
)
"""On its foot; flat on a tray; on a slope with a catch tray at its lower end; water that fills what holds it, runs through it, or is poured into its mouth; laid out on trays in a stream of air; stacked with sticks between so that air passes."""
CATCH_SHARE = 0.22
"""Share of a draining floor's length, at its lower end, that the catch tray takes."""
USUAL_SLOPE_DEG = 20.0
"""From here on a strainer sets the pace of what drains; from memory."""


def runs(slope_deg: float) -> float:
    """How fast liquid runs down a floor, against a usual one: a film's flow goes by the sine of its slope (Nusselt 1916); not at all on a level floor."""
    return min(math.sin(math.radians(slope_deg)) / math.sin(math.radians(USUAL_SLOPE_DEG)), 1.0)
