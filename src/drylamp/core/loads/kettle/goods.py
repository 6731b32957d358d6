"""Water that is boiled for a drink."""

from __future__ import annotations

from drylamp.core.loads.goods import Good, Room
from drylamp.core.loads.kettle.spec import KettleWater

CUP_L = 0.2


def _of(load: KettleWater, room: Room, litres: float) -> KettleWater:
    return load.model_copy(update={"fill_l": round(litres, 3)})


GOODS = (
    Good[KettleWater](
        "tea", "water for tea", ("boil", "brew", "heat", "cook"), ("tea", "coffee", "water for tea", "tea water", "hot drink"), "volume", 0.6, _of,
        {"cup": CUP_L, "mug": 0.3, "person": CUP_L, "people": CUP_L},
    ),
)  # fmt: skip
