"""What is dried on trays."""

from __future__ import annotations

from drylamp.core.loads.food_trays.spec import FoodOnTray, FoodTrays
from drylamp.core.loads.goods import Good, Room, word_of
from drylamp.core.tables import Produce, produce

VERBS = ("dry", "dehydrate", "preserve")
ALSO = {"jerky": ("meat", "jerky"), "pepper": ("pepper",), "chilli": ("chili",), "nettle": ("nettle",), "grape": ("raisin", "grape"), "mushroom": ("cep",), "mint": ("herb",)}  # fmt: skip
USUAL_KG, LOOKED_DAYS = 3.0, 9


def _good(row: Produce) -> Good[FoodTrays]:
    def of(load: FoodTrays, room: Room, kg: float) -> FoodTrays:
        trays = max(room.levels, 1)
        laid = [FoodOnTray(tray=k + 1, food=row.name, kg=round(kg / trays, 4)) for k in range(trays)]
        return load.model_copy(update={"foods": laid, "swaps": []})

    title = word_of(row.title)
    words = (title, row.name.replace("-", " "), *ALSO.get(row.name, ()))
    return Good(row.name, title, VERBS, words, "mass", USUAL_KG, of, days=LOOKED_DAYS)


GOODS = tuple(_good(row) for row in produce().values())
