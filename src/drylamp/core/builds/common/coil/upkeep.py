"""What keeps flowing water going, year by year: words on a part's card."""

from __future__ import annotations

PLUMBING = (
    "Each spring: strainer and pump clean, joints dry, air out at the highest bend; each autumn before the first frost: drained with the valves open. "
    "Hard water: a litre of vinegar left in it over a day takes lime out (common practice, no source)."
)
"""For the card of the water: pump, priming, joints, scale."""
