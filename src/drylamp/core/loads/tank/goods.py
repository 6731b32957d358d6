"""Warm water in a tank on a loop."""

from __future__ import annotations

from drylamp.core.loads.common.tap.goods import FILLED_SHARE, warm_water
from drylamp.core.loads.goods import Room
from drylamp.core.loads.tank.spec import LoopTank


def _of(load: LoopTank, room: Room, litres: float) -> LoopTank:
    return load.times(FILLED_SHARE * litres / load.fill_l).model_copy(update={"want_l": round(litres, 1), "draws": []})


GOODS = warm_water(_of)
