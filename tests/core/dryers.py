"""Dryers as the advice of all kinds is tried on them, and the cases in which each of their cautions speaks."""

from __future__ import annotations

from drylamp.core.common.wall import WallLayer
from drylamp.core.loads.food_trays.spec import FoodOnTray, FoodTrays
from drylamp.demo.scenario import APPLES, FIG_DRYER, FIGS, GLASS_CABINET, SKETCH_DRYER

PAIRS = {"dryer": (FIG_DRYER, FIGS), "glass-cabinet": (GLASS_CABINET, APPLES)}
RULINGS = {
    "dryer": {"hotter-is-faster": ("wrong", "does not matter here", "holds partly"), "cloudy-days": ("wrong", "holds partly"), "humid-air": ("wrong",), "feels-dry": ("wrong", "holds partly")},
    "glass-cabinet": {"cloudy-days": ("wrong", "holds partly"), "tall-stack": ("holds", "holds partly", "does not matter here", "wrong")},
}  # fmt: skip
HEAPED = FoodTrays(foods=[FoodOnTray(tray=k, food="tomato", kg=4.5, slice_mm=40.0) for k in (1, 2, 3, 4, 5)])
JERKY = FoodTrays(foods=[FoodOnTray(tray=1, food="jerky", kg=0.5)])
SHUT_HOT = GLASS_CABINET.with_(
    vent=GLASS_CABINET.vent.model_copy(update={"area_cm2": 8.0}),
    trays=GLASS_CABINET.trays.model_copy(update={"count": 1}),
    lining="flat-black-paint",
)
THIN = FoodTrays(foods=[FoodOnTray(tray=1, food="mint", kg=0.05)])
BARE_FOAM = FIG_DRYER.with_(
    wall=[WallLayer(material="eps-foam", thickness_m=0.03), WallLayer(material="plywood", thickness_m=0.009)]
)
CASES = {
    "mesh": ((FIG_DRYER.with_(trays=FIG_DRYER.trays.model_copy(update={"mesh": "galvanised"})), FIGS), (FIG_DRYER, FIGS), "zinc"),
    "foam": ((BARE_FOAM, FIGS), (FIG_DRYER, FIGS), "sheds"),
    "paint-fumes": ((FIG_DRYER, FIGS), None, "three days"),
    "tips": ((FIG_DRYER, FIGS), None, "Wind tips it"),
    "insects": ((FIG_DRYER, FIGS), None, "freeze dried fruit"),
    "mould": ((FIG_DRYER, FIGS), None, "discard it, jar and all"),
    "meat": ((FIG_DRYER, JERKY), (FIG_DRYER, FIGS), "71 °C"),
    "heat": ((SHUT_HOT, THIN), (FIG_DRYER, FIGS), "hotter than suits it"),
    "keeping": ((SKETCH_DRYER, FIGS), (FIG_DRYER, FoodTrays(foods=[FoodOnTray(tray=1, food="fig")])), "botulism"),
}  # fmt: skip
