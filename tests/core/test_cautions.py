"""Cautions: each speaks where it applies and is silent elsewhere; none declares anything safe."""

from __future__ import annotations

import pytest

from drylamp.core.advice.cautions import OF_EVERY_BUILD, cautions, named
from drylamp.core.advice.entries import Seen
from drylamp.core.advice.limits import material_flags
from drylamp.core.builds.common.cover.spec import GlazedCover
from drylamp.core.builds.dish.advice import focus_suns
from drylamp.core.common.coil import Coil
from drylamp.core.common.wall import WallLayer
from drylamp.core.loads.common.envelope import Envelope
from drylamp.core.loads.common.loop.spec import PipeRun, Pump
from drylamp.core.loads.pot.spec import PotLoad, in_vessel
from drylamp.core.loads.running.spec import RunningWater
from drylamp.core.sky.of_span import weather_of
from drylamp.core.sky.weather import ClearDay, Span
from drylamp.demo.scenario import (
    BASIN_HOSE,
    BISCUITS,
    CAPPINGS,
    CREW_POT,
    DISH,
    FLAT_LOAF,
    FUNNEL,
    HEATER,
    LIDS,
    MELTER,
    OVEN,
    PLUNGE_TUB,
    SHOWERS,
    STEW,
    TERRACE,
    TUB_FRAME,
    WORKSHOP,
)
from tests.core import dryers, kilns
from tests.core.advised import BARREL, BARREL_COIL, DAY, JUNE, KETTLE, PAIRS, ROW, ROW_TANK, RUNS, TEA, TUBES, names_of
from tests.posing import forecasted, posed, simulated
from tests.wording import read


def seen(build, load, weather=DAY):
    outcome, run = forecasted(TERRACE, None, build, load, weather)
    empty = simulated(TERRACE, None, build, None, weather)
    return Seen(posed(TERRACE, None, build, load), empty, run, outcome.days[0])


def texts(build, load, *weather, name):
    return [read(flag.text) for entry, flag in named(seen(build, load, *weather)) if entry == name]


COLD = weather_of(TERRACE, ClearDay(tmin_c=-6, tmax_c=4, wind_m_s=2.0), Span(start=JUNE, step_s=300))
HEAVY = WallLayer(material="brick-layer", thickness_m=0.2)
LEANING = OVEN.model_copy(update={"tilt_deg": 35.0})
FULL = STEW.model_copy(update={"food_kg": 4.0})
LOW = BARREL.model_copy(update={"above_m": -0.4, "start_c": 45.0, "fill_l": 300.0})
HOT_PIPES = BARREL.model_copy(update={"start_c": 70.0, "above_m": 2.0, "run": PipeRun(material="garden-hose")})
GONE = KETTLE.with_(tube=KETTLE.tube.model_copy(update={"getter": "white"}))
HUNTS = ROW_TANK.model_copy(update={"pump": Pump(how="difference", head_m=6.0, free_l_min=40.0, on_k=3.0, off_k=2.5)})
LITTLE_TEA = TEA.model_copy(update={"fill_l": 0.1})
COLD_GREY = weather_of(TERRACE, ClearDay(tmin_c=0, tmax_c=4, sky="grey"), Span(start=JUNE, step_s=300))
BITTER = weather_of(TERRACE, ClearDay(tmin_c=-25, tmax_c=-15, sky="grey"), Span(start=JUNE, step_s=300))
CASES = {
    **dryers.CASES,
    **kilns.CASES,
    "focus": ((DISH, CREW_POT), (OVEN, STEW), "suns"),
    "hot-parts": ((OVEN, STEW), None, "tray"),
    "eyes": ((OVEN, STEW), (OVEN.model_copy(update={"mirror": None}), STEW), "never look"),
    "turning": ((DISH, CREW_POT), (FUNNEL, STEW), "spill past the pot"),
    "wind": ((DISH, CREW_POT), (MELTER, CAPPINGS), "gale"),
    "glass": ((OVEN, STEW), (FUNNEL, STEW), "cold water"),
    "paint": ((LIDS, None), (OVEN, None), "lead"),
    "edges": ((LIDS, None), (OVEN, None), "sharp"),
    "weight": ((LIDS.model_copy(update={"sheet": HEAVY}), None), (LIDS, None), "brace the board"),
    "fumes": ((FUNNEL, STEW), (DISH, CREW_POT), "cure and air"),
    "pressure": ((DISH, CREW_POT), (DISH, in_vessel(CREW_POT, "cast-iron")), "valve"),
    "too-cool": (
        (FUNNEL, PotLoad(food_kg=10.0, pot_diameter_m=0.26, pot_height_m=0.25)),
        (OVEN, STEW),
        "does not reach",
    ),
    "meat-and-eggs": (
        (WORKSHOP, PotLoad(food="egg-dish", food_kg=1.0, pot_height_m=0.1, pot_diameter_m=0.18)),
        (OVEN, STEW),
        "71 °C",
    ),
    "danger-zone": ((OVEN, FULL), (DISH, CREW_POT), "between 5 °C and 60 °C"),
    "handling": ((OVEN, STEW.model_copy(update={"food": "porridge"})), (OVEN, STEW), "stirring"),
    "leaning-pot": ((LEANING, FULL), (LEANING.model_copy(update={"shelf": "level"}), FULL), "runs over the rim"),
    "steam": ((OVEN, STEW), (WORKSHOP, BISCUITS), "away from your face"),
    "height": ((OVEN, STEW.model_copy(update={"target_c": 99.0})), (OVEN, STEW), "or take a pressure pot"),
    "boils-dry": ((DISH, CREW_POT), (OVEN, STEW), "has boiled dry by"),
    "freezes": (
        (OVEN.with_(cover=None), STEW.model_copy(update={"start_c": 0.0}), BITTER),
        (OVEN, STEW),
        "would freeze",
    ),
    "slides": ((LEANING, STEW), (LEANING.model_copy(update={"shelf": "level"}), STEW), "level shelf"),
    "level-floor": ((MELTER.with_(tilt_deg=0.0), CAPPINGS), (MELTER, CAPPINGS), "does not run at all"),
    "wax-fire": ((MELTER, CAPPINGS), (OVEN, STEW), "never with water"),
    "bees": ((MELTER, CAPPINGS), (OVEN, STEW), "comb"),
    "shelter": ((OVEN, STEW), (DISH, CREW_POT), "animals"),
    "dry": ((HEATER, None), (HEATER, SHOWERS), "without water"),
    "relief": ((HEATER.with_(coil=Coil()), SHOWERS), (HEATER, SHOWERS), "relief valve"),
    "scald": (
        (HEATER, SHOWERS.model_copy(update={"fill_l": 25.0, "draws": []})),
        (HEATER, SHOWERS.model_copy(update={"fill_l": 120.0})),
        "burns in about",
    ),
    "germs": ((HEATER, SHOWERS), (OVEN, STEW), "legionella"),
    "water-weight": ((HEATER, SHOWERS), (OVEN, STEW), "four legs"),
    "frost": ((HEATER, SHOWERS.model_copy(update={"start_c": 0.5})), (HEATER, SHOWERS), "Drain box"),
    "not-to-drink": ((HEATER, SHOWERS), (OVEN, STEW), "backflow"),
    "never-shut": ((BASIN_HOSE, RUNS), (HEATER, SHOWERS), "shut at both ends"),
    "hose-weight": ((BASIN_HOSE, RUNS), (HEATER, SHOWERS), "hose and water"),
    "hose-scald": (
        (BASIN_HOSE.with_(cover=GlazedCover(), bed="black-card"), RunningWater(running=[])),
        (BASIN_HOSE, RUNS),
        "first litres",
    ),
    "hose-frost": ((BASIN_HOSE, RUNS, COLD), (BASIN_HOSE, RUNS), "splits it"),
    "hose-not-to-drink": ((BASIN_HOSE, RUNS), (HEATER, SHOWERS), "backflow"),
    "cook": ((DISH, CREW_POT), (OVEN, STEW), "shade"),
    "tubes-never-shut": ((TUBES, BARREL), (BARREL_COIL, BARREL), "shut at both ends"),
    "tubes-weight": ((TUBES, BARREL), (BARREL_COIL, BARREL), "tie the bottles"),
    "tubes-list": ((TUBES, BARREL), (BARREL_COIL, BARREL), "elbows and tees"),
    "loop-electricity": ((TUB_FRAME, PLUNGE_TUB), (BARREL_COIL, BARREL), "residual-current"),
    "loop-frost": ((TUB_FRAME, PLUNGE_TUB, COLD), (TUB_FRAME, PLUNGE_TUB), "drain both"),
    "loop-pipes": ((TUB_FRAME, HOT_PIPES), (TUB_FRAME, PLUNGE_TUB), "lasts to"),
    "loop-backwards": ((BARREL_COIL, LOW), (TUB_FRAME, PLUNGE_TUB), "check valve"),
    "tub-hot": (
        (TUB_FRAME, PLUNGE_TUB.model_copy(update={"fill_l": 120.0, "start_c": 38.0})),
        (TUB_FRAME, PLUNGE_TUB),
        "heart",
    ),
    "pool-germs": (
        (TUB_FRAME, PLUNGE_TUB),
        (TUB_FRAME, PLUNGE_TUB.model_copy(update={"start_c": 8.0, "fill_l": 3000.0})),
        "disinfect",
    ),
    "vacuum": ((GONE, TEA), (KETTLE, TEA), "white spot"),
    "glass-shock": ((KETTLE, TEA), (GONE.with_(wings=None), TEA, COLD), "hot dry tube"),
    "tipping": ((KETTLE, TEA), (ROW, ROW_TANK), "it tips at about"),
    "tubes-relief": ((ROW, ROW_TANK), (TUBES, BARREL), "relief valve and an open vent"),
    "tubes-frost": ((ROW.with_(inside="filled"), ROW_TANK, COLD), (ROW, ROW_TANK, COLD), "one that freezes bursts"),
    "row-weight": ((ROW, ROW_TANK), (TUBES, BARREL), "as they work"),
    "loop-starts": ((ROW, HUNTS), (ROW, ROW_TANK), "Throttle it"),
    "kettle-scald": ((KETTLE, TEA), (KETTLE.with_(wings=None), TEA, COLD_GREY), "boils in bursts"),
    "kettle-dry": ((KETTLE, LITTLE_TEA), (KETTLE, TEA), "stands dry and hot"),
    "kettle-drinking": ((KETTLE, TEA), (OVEN, STEW), "pasteurised"),
    "pool-children": ((TUB_FRAME, PLUNGE_TUB), (BARREL_COIL, BARREL), "fence"),
    "pool-weight": (
        (TUB_FRAME, PLUNGE_TUB),
        (TUB_FRAME, PLUNGE_TUB.model_copy(update={"sunk_share": 1.0})),
        "each square metre",
    ),
}


def test_every_caution_has_its_case():
    assert set(CASES) == names_of("cautions") | {entry.name for entry in OF_EVERY_BUILD}


@pytest.mark.parametrize("name", list(CASES))
def test_every_caution_speaks_where_it_applies_and_is_silent_elsewhere(name):
    where, elsewhere, words = CASES[name]
    assert any(words in text for text in texts(*where, name=name))
    if elsewhere is not None:
        assert not any(words in text for text in texts(*elsewhere, name=name))


def test_no_caution_declares_anything_safe():
    for build, load in PAIRS.values():
        for flag in cautions(seen(build, load)):
            assert "is safe" not in flag.text.lower()


def test_a_larger_dish_has_more_suns_on_a_smaller_share():
    small, large = (focus_suns(DISH.model_copy(update={"diameter_m": d})) for d in (0.8, 1.6))
    assert large[0] > small[0]
    assert 50 < focus_suns(DISH)[0] < 2000


def test_a_bag_that_touches_a_hot_pot_is_named():
    bag = Envelope(material="pe-film", thickness_m=0.0002, diameter_m=0.26, height_m=0.17)
    load = STEW.model_copy(update={"under": bag})
    at = seen(FUNNEL, load)
    assert any("Keep it off the pot" in flag.text for flag in material_flags(at.case, at.empty, at.run))


def test_a_funnel_of_card_is_warned_of_its_own_focus():
    at = seen(FUNNEL, FLAT_LOAF)
    assert any(
        flag.part in ("base", "sheet") and "lasts to about" in flag.text
        for flag in material_flags(at.case, at.empty, at.run)
    )
