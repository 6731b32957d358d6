"""Figures of a trial with water for tea."""

from __future__ import annotations

from collections.abc import Callable
from math import hypot
from typing import cast

import numpy as np

from drylamp.core.air.constants import CP_WATER_J_KGK
from drylamp.core.loads.common.filling import TOP
from drylamp.core.loads.kettle.spec import KettleWater
from drylamp.core.text import amount, watts
from drylamp.core.trials.figure import Figure, Found

BELOW_BOILING_C = 95.0
"""Readings above this say nothing of watts: what boils off is not weighed."""


def water_power(found: Found) -> Figure | None:
    """Mean watts into the water while it warmed: litres × rise by minutes; the twin's beside it."""
    load, channel = found.at.facts.load, found.at.facts.of_node(TOP, "temperature")
    if channel is None or load is None:
        return None
    values, at = np.array(channel.values), np.array(channel.seconds)
    warming = np.flatnonzero(values <= BELOW_BOILING_C)
    if len(warming) < 2 or values[warming[-1]] <= values[warming[0]]:
        return None
    first, last = warming[0], warming[-1]
    seconds, held = float(at[last] - at[first]), cast(KettleWater, load).fill_l * CP_WATER_J_KGK
    value = held * float(values[last] - values[first]) / seconds
    doubt = held * hypot(channel.doubt, channel.doubt) / seconds
    twin = held * float(np.diff(found.at.likely.at(TOP, at[[first, last]]))[0]) / seconds
    words = f"The water took up {amount(value, 'power', doubt)} on the mean; the twin says {watts(twin)}."
    return Figure(
        name="water-power", title="Watts into the water", value=round(value, 1), doubt=round(doubt, 1), quantity="power", twin=round(twin, 1), grade="",
        words=words, digits=1,
    )  # fmt: skip


FIGURES: dict[str, Callable[[Found], Figure | None]] = {"water-power": water_power}
