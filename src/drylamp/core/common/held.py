"""What somebody holds in hand: the groups in which quick sums are looked for."""

from __future__ import annotations

from typing import Literal

Held = Literal["sun", "heat", "water", "air", "wood", "food", "money"]
