"""What loads need of their place, and what kinds of build offer: the words in which the two meet."""

from __future__ import annotations

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
