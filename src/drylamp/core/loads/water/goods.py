"""Warm water that fills what holds it."""

from __future__ import annotations

from drylamp.core.loads.common.tap.goods import FILLED_SHARE, warm_water
from drylamp.core.loads.goods import Room
from drylamp.core.loads.water.spec import HotWater


def _of(load: HotWater, room: Room, litres: float) -> HotWater:
    return load.model_copy(update={"want_l": round(litres, 1), "fill_l": round(FILLED_SHARE * litres, 1), "draws": []})


GOODS = warm_water(_of)
