"""Boards by their wood."""

from __future__ import annotations

from drylamp.core.loads.goods import Good, Room
from drylamp.core.loads.lumber.spec import LumberCharge
from drylamp.core.tables import Species, species

VERBS = ("dry", "season", "kiln", "cure")
PLAIN = {
    "european-oak": "oak", "sweet-chestnut": "chestnut", "white-ash": "ash", "hard-maple": "maple", "black-walnut": "walnut", "black-cherry": "cherry", "european-beech": "beech",
    "scots-pine": "pine", "norway-spruce": "spruce", "european-larch": "larch", "poplar": "poplar", "yellow-birch": "birch", "american-elm": "elm",
}  # fmt: skip
"""Of several woods of one name the one that the plain name means here; choose another by its full name."""
THINGS = ("board", "plank", "wood", "timber", "lumber", "slab", "log")
"""What somebody speaks of who says which wood."""
USUAL_M3, LOOKED_DAYS, STACK_SHARE = 0.5, 60, 0.6


def _good(row: Species) -> Good[LumberCharge]:
    def of(load: LumberCharge, room: Room, m3: float) -> LumberCharge:
        wide, deep = room.floor_m
        first = load.groups[0].sawn("green-heart")
        group = first.model_copy(
            update={"species": row.name, "wood_m3": round(m3, 4), "length_m": round(min(first.length_m, wide), 2)}
        )
        return load.model_copy(
            update={"groups": [group], "stack_deep_m": round(min(load.stack_deep_m, STACK_SHARE * deep), 2)}
        )

    title = row.title.lower()
    plain = (PLAIN[row.name],) if row.name in PLAIN else ()
    words = tuple(word for name in (title, *plain) for word in (name, *(f"{name} {thing}" for thing in THINGS)))
    return Good(f"{row.name}-boards", f"{title} boards", VERBS, words, "timber", USUAL_M3, of, days=LOOKED_DAYS)


GOODS = tuple(_good(row) for row in species().values() if row.diffusion_m2_s is not None)
