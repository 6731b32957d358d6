"""Wax by what it comes as."""

from __future__ import annotations

from drylamp.core.loads.goods import Good, Room
from drylamp.core.loads.wax.spec import WaxBatch

VERBS = ("melt", "render", "clean", "cast")
KINDS: tuple[tuple[str, str, str, tuple[str, ...]], ...] = (
    ("cappings", "beeswax", "cappings", ("wax", "beeswax", "capping")), ("old-comb", "beeswax", "old-comb", ("old comb", "comb", "brood comb")),
    ("candle-wax", "paraffin", "blocks", ("candle wax", "candle", "paraffin")), ("crayons", "crayons", "blocks", ("crayon", "old crayon")),
)  # fmt: skip
USUAL_KG = 1.5


def _good(name: str, material: str, form: str, words: tuple[str, ...]) -> Good[WaxBatch]:
    def of(load: WaxBatch, room: Room, kg: float) -> WaxBatch:
        return load.model_copy(update={"material": material, "form": form, "wax_share": None, "batch_kg": round(kg, 3)})

    return Good(f"{name}-wax", name.replace("-", " "), VERBS, (name.replace("-", " "), *words), "mass", USUAL_KG, of)


GOODS = tuple(_good(*kind) for kind in KINDS)
