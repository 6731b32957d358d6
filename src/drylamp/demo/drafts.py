"""The builds of the made-up yard, as they stand there: for its filling, and for whoever wants one of them in a yard of their own."""

from __future__ import annotations

from drylamp.demo.scenario import (
    APPLES,
    BARN_KILN,
    BARN_LOAD,
    BASIN,
    BASIN_HOSE,
    BISCUITS,
    BLOCKS,
    CAPPINGS,
    CHESTNUT_AND_POPLAR,
    CHESTNUT_KILN,
    CREW_POT,
    DAIRY_FRAME,
    DAIRY_TANK,
    DAIRY_TUBES,
    DAIRY_WASH,
    DISH,
    FIELD_KETTLE,
    FIELD_TEA,
    FIG_DRYER,
    FIGS,
    FILM_KILN,
    FLAT_LOAF,
    FUNNEL,
    GARDEN_POOL,
    GLASS_CABINET,
    HEATER,
    LIDS,
    MELTER,
    OAK,
    OVEN,
    PERGOLA_BARREL,
    PERGOLA_TUBES,
    PLUMS,
    PLUNGE_TUB,
    POOL_COIL,
    SHOWERS,
    SKETCH,
    SKETCH_DRYER,
    STEW,
    TUB_FRAME,
    WORKSHOP,
)
from drylamp.store.builds import Draft

DRAFTS = {
    draft.name: draft
    for draft in (
        Draft("Hatbox oven", "terrace", OVEN, STEW, "second pane added"),
        Draft("Tin lids", "flat roof", LIDS, None, "primed, two coats each"),
        Draft("Blocks under glass", "terrace", BLOCKS, None, ""),
        Draft("Cappings melter", "flat roof", MELTER, CAPPINGS, "old window on top"),
        Draft("Wash-house heater", "terrace", HEATER, SHOWERS, "trough from an old bath"),
        Draft("Basin hose", "terrace", BASIN_HOSE, BASIN, "lies on the flags"),
        Draft("Pergola tubes", "terrace", PERGOLA_TUBES, PERGOLA_BARREL, "bottles from the village feast"),
        Draft("Plunge tub", "terrace", TUB_FRAME, PLUNGE_TUB, "frame on the wash-house wall"),
        Draft("Garden pool", "flat roof", POOL_COIL, GARDEN_POOL, "hose on the shed's roof"),
        Draft("Field kettle", "orchard edge", FIELD_KETTLE, FIELD_TEA, "wings of drain pipe"),
        Draft("Dairy tubes", "flat roof", DAIRY_TUBES, DAIRY_TANK, "plates from the printer behind them"),
        Draft("Fig dryer", "orchard edge", FIG_DRYER, FIGS, "old windows, three layers of fly screen"),
        Draft("Glass-lidded cabinet", "terrace", GLASS_CABINET, APPLES, "lid from an old door"),
        Draft("Sketch dryer", "flat roof", SKETCH_DRYER, PLUMS, "as built, with what was at hand"),
        Draft("The sketch itself", "flat roof", SKETCH, PLUMS, "as it was drawn: 65 degrees promised"),
        Draft(
            "Chestnut kiln", "orchard edge", CHESTNUT_KILN, CHESTNUT_AND_POPLAR, "windows from the barn, film over them"
        ),
        Draft("Film kiln", "terrace", FILM_KILN, OAK, "two films on a frame, boards for walls"),
        Draft("Dairy frame", "flat roof", DAIRY_FRAME, DAIRY_WASH, "two rows under an old pane"),
        Draft("Workshop card box", "terrace", WORKSHOP, BISCUITS, "card, film, one foil flap"),
        Draft("Folding funnel", "terrace", FUNNEL, FLAT_LOAF, "on the tall bucket"),
        Draft("Harvest dish", "orchard edge", DISH, CREW_POT, "repainted pot, washed mirror"),
        Draft("Barn kiln", "terrace", BARN_KILN, BARN_LOAD, "two films over a frame"),
    )
}
"""By name; the spot is one of the made-up yard."""
