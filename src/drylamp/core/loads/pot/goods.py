"""What is cooked in a pot or a tin."""

from __future__ import annotations

from drylamp.core.loads.goods import Good, Room, word_of
from drylamp.core.loads.pot.spec import PotLoad
from drylamp.core.tables import Food, foods

VERBS = ("cook", "bake", "boil", "roast", "stew", "simmer", "steam")
ALSO = {
    "water": ("drinking water", "pasteurised water"), "chickpea-stew": ("stew", "chickpea"), "rice-and-water": ("rice",), "lentil-soup": ("soup", "lentil"),
    "root-vegetables": ("vegetable", "root"), "meat-stew": ("goulash",), "flat-loaf": ("flat bread", "flatbread"), "potatoes": ("potato",), "bean-pot": ("bean",),
    "thick-sauce": ("sauce", "jam"), "chicken-pieces": ("chicken",), "mince-loaf": ("meat loaf", "meatloaf"), "egg-dish": ("egg", "omelette"), "tin-loaf": ("bread", "loaf", "wheat loaf"),
    "flat-cakes": ("pancake", "flat cake"), "roast-nuts": ("nut",), "whole-bird": ("bird", "whole chicken"), "joint": ("joint", "roast", "meat"),
}  # fmt: skip
"""What people call a food beside its name in the table."""
USUAL_PEOPLE = 4
LOAF_KG = {"tin-loaf": 0.9, "flat-loaf": 0.4}
"""From memory."""


def _good(row: Food) -> Good[PotLoad]:
    def of(load: PotLoad, room: Room, kg: float) -> PotLoad:
        other = load.model_copy(update={"food": row.name, "dry_kg": None, "persons": None}).settled("food")
        return other.model_copy(update={"food_kg": round(kg, 3)}).settled("food_kg")

    words = (word_of(row.title), row.name.replace("-", " "), *ALSO.get(row.name, ()))
    each = {
        "person": row.kg_each,
        "people": row.kg_each,
        "portion": row.kg_each,
        "plate": row.kg_each,
        "guest": row.kg_each,
    }
    each["litre"] = row.density_kg_m3 / 1000.0
    if row.name in LOAF_KG:
        each["loaf"] = LOAF_KG[row.name]
    return Good(row.name, word_of(row.title), VERBS, words, "mass", USUAL_PEOPLE * row.kg_each, of, each)  # fmt: skip


GOODS = tuple(_good(row) for row in foods().values())
