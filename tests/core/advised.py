"""Builds and loads that advice of every sort is tried on, the day it is given for, and the names of what may be said."""

from __future__ import annotations

from datetime import date

from drylamp.core.advice.context import AdviceContext
from drylamp.core.advice.registry import BUILD_ADVICE, LOAD_ADVICE
from drylamp.core.builds.starters import starters
from drylamp.core.loads.common.draws import Running
from drylamp.core.loads.running.spec import RunningWater
from drylamp.core.sky.of_span import weather_of
from drylamp.core.sky.weather import ClearDay, Span
from drylamp.demo.scenario import (
    BASIN_HOSE,
    BISCUITS,
    CAPPINGS,
    CREW_POT,
    DISH,
    FUNNEL,
    HEATER,
    MELTER,
    OVEN,
    PLUNGE_TUB,
    SHOWERS,
    STEW,
    TERRACE,
    TUB_FRAME,
)
from tests.core import dryers, kilns
from tests.posing import posed

JUNE = date(2025, 6, 12)
DAY = weather_of(TERRACE, ClearDay(tmin_c=15, tmax_c=26, wind_m_s=2.0), Span(start=JUNE, step_s=300))
CONTEXT = AdviceContext(posed(TERRACE, None, OVEN, STEW), DAY)
TWO_COILS = BASIN_HOSE.with_(coils=2, width_m=1.5)
RUNS = RunningWater(running=[Running(begins="10:00", ends="16:00", l_min=1.0)])
TUBES = starters()["sleeved-tubes"][0].spec
BARREL_COIL, BARREL = starters()["hose-coil"][1].spec, starters()["hose-coil"][1].load
KETTLE, TEA = starters()["tube-kettle"][0].spec, starters()["tube-kettle"][0].load
ROW, ROW_TANK = starters()["tube-row"][0].spec, starters()["tube-row"][0].load
BISCUITS_ALONE = BISCUITS.model_copy(update={"portions": [BISCUITS.portions[0].model_copy(update={"layers": []})]})
PAIRS = {
    "box": (OVEN, STEW), "funnel": (FUNNEL, STEW), "dish": (DISH, CREW_POT), "melter": (MELTER, CAPPINGS), "heater": (HEATER, SHOWERS),
    "hose": (TWO_COILS, RUNS), "tub": (TUB_FRAME, PLUNGE_TUB), "barrel": (BARREL_COIL, BARREL), "bottles": (TUBES, BARREL),
    "kettle": (KETTLE, TEA), "row": (ROW, ROW_TANK), **dryers.PAIRS, **kilns.PAIRS,
}  # fmt: skip


def names_of(what: str) -> set[str]:
    """Names of every school, saying or caution (``schools``, ``sayings``, ``cautions``) that lives with a kind or a load."""
    everywhere = (*BUILD_ADVICE.values(), *LOAD_ADVICE.values())
    return {entry.name for advice in everywhere for entry in getattr(advice, what)}
