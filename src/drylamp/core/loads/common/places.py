"""What loads need of their place, and what kinds of build offer: the words in which the two meet."""

from __future__ import annotations

STANDING, LYING, DRAINING = "standing", "lying", "draining"
"""On its foot; flat on a tray; on a slope with a catch tray at its lower end."""
CATCH_SHARE = 0.22
"""Share of a draining floor's length, at its lower end, that the catch tray takes."""
