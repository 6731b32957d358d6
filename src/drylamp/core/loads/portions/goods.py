"""Small portions that lie on a tray."""

from __future__ import annotations

from drylamp.core.loads.goods import Good, Room, word_of
from drylamp.core.loads.portions.spec import Portions
from drylamp.core.tables import Sweet, sweets

VERBS = ("melt", "toast", "soften", "warm")
ALSO = {
    "milk-chocolate": ("chocolate",),
    "marshmallow-biscuit": ("sweet",),
    "wax-crayon": ("wax stick",),
    "cheese": ("cheese",),
}
USUAL_KG = 0.04


def _good(row: Sweet) -> Good[Portions]:
    def of(load: Portions, room: Room, kg: float) -> Portions:
        each = round(kg / len(load.portions), 4)
        change = {"what": row.name, "mass_kg": each, "thickness_m": None, "layers": []}
        return load.model_copy(update={"portions": [one.model_copy(update=change) for one in load.portions]})

    return Good(row.name, word_of(row.title), VERBS, (word_of(row.title), *ALSO.get(row.name, ())), "mass", USUAL_KG, of, {"portion": 0.02, "piece": 0.02})  # fmt: skip


GOODS = tuple(_good(row) for row in sweets().values())
