"""Warm water that runs through."""

from __future__ import annotations

from drylamp.core.loads.common.tap.goods import warm_water
from drylamp.core.loads.goods import Room
from drylamp.core.loads.running.spec import RunningWater


def _of(load: RunningWater, room: Room, litres: float) -> RunningWater:
    return load.model_copy(update={"want_l": round(litres, 1)})


GOODS = warm_water(_of)
