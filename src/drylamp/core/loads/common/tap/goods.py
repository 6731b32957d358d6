"""Warm water at a tap, whatever it is kept in."""

from __future__ import annotations

from collections.abc import Callable
from typing import TypeVar

from drylamp.core.loads.common.kept.spec import BATH_L, SHOWER_L
from drylamp.core.loads.goods import Good, Room
from drylamp.core.loads.load import Load

L = TypeVar("L", bound=Load)
VERBS = ("warm", "heat", "shower", "wash", "bathe")
WORDS = ("warm water", "hot water", "water", "shower", "wash water", "dish water", "bath water", "washing water")
USUAL_L = 3.0 * SHOWER_L
FILLED_SHARE = 0.75
"""Of what is wanted at the tap that is filled in, hotter; common practice, no source."""
WASHING_UP_L = 15.0
"""From memory."""


def warm_water(of: Callable[[L, Room, float], L], days: int = 1) -> tuple[Good[L], ...]:
    """Litres at a warmth, showers or baths."""

    def warm(load: L, celsius: float) -> L:
        return load.model_copy(update={"warm_c": celsius})

    each = {"shower": SHOWER_L, "bath": BATH_L, "person": SHOWER_L, "people": SHOWER_L, "wash": WASHING_UP_L}
    return (Good("warm-water", "warm water", VERBS, WORDS, "volume", USUAL_L, of, each, warm, days),)
