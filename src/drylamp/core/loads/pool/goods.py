"""A tub or a pool."""

from __future__ import annotations

from drylamp.core.loads.goods import Good, Room
from drylamp.core.loads.pool.spec import Pool

VERBS = ("warm", "heat", "bathe", "swim")
TUB_L, POOL_L, LOOKED_DAYS = 700.0, 15000.0, 7


def _of(load: Pool, room: Room, litres: float) -> Pool:
    surface = load.surface_m2 * (litres / load.fill_l) ** (2.0 / 3.0)
    return load.model_copy(update={"fill_l": round(litres, 1), "surface_m2": round(surface, 3)})


def _warm(load: Pool, celsius: float) -> Pool:
    return load.model_copy(update={"warm_c": celsius})


def _good(name: str, words: tuple[str, ...], usual_l: float) -> Good[Pool]:
    return Good(name, name, VERBS, (name, *words), "volume", usual_l, _of, {}, _warm, LOOKED_DAYS)


GOODS = (_good("tub", ("hot tub", "plunge tub"), TUB_L), _good("pool", ("swimming pool", "garden pool"), POOL_L))
