"""Kilns and charges that tests share, and the weather that they stand in."""

from __future__ import annotations

from datetime import date
from functools import cache

from drylamp.core.builds.common.cover.spec import GlazedCover
from drylamp.core.builds.kiln.spec import AirChanges, Baffle, Heater, KilnFan, KilnVents, LumberKiln
from drylamp.core.common.wall import WallLayer
from drylamp.core.loads.lumber.group import BoardGroup
from drylamp.core.loads.lumber.outcome import LumberResult, LumberResults
from drylamp.core.loads.lumber.spec import LumberCharge
from drylamp.core.outcome.registry import results_of
from drylamp.core.sky.of_span import usual_weather_of, weather_of
from drylamp.core.sky.weather import Span, Weather
from drylamp.core.twin.case import Case, climate_day
from drylamp.core.twin.prepared import simulate
from drylamp.core.twin.run import Run
from drylamp.demo.scenario import TERRACE

BOARD_FEET_M3 = 0.002359737
RULE_BF_M2 = 107.6
"""Ten board feet on a square foot of roof: the rule of the trade."""

THIN = LumberKiln(
    facing_deg=180, tilt_deg=40, length_m=3.6, depth_m=2.0, front_m=0.9, roof_m=2.4, cover=GlazedCover(material="thermic-pe-film", thickness_m=0.0002, layers=2, gap_m=0.03),
    wall=[WallLayer(material="pine-board", thickness_m=0.02)], floor=[WallLayer(material="pine-board", thickness_m=0.025)], changes=AirChanges(calm_per_h=4.0, per_m_s=1.0),
    baffle=Baffle(share=0.95, gap_m=0.12), fan=KilnFan(count=1, driven="sun"), vents=KilnVents(open_share=0.0),
)  # fmt: skip
"""Two thin greenhouse films, bare boards for walls."""
TIGHT = LumberKiln(
    facing_deg=180, tilt_deg=40, length_m=3.6, depth_m=2.0, front_m=0.9, roof_m=2.4, cover=GlazedCover(material="twin-wall-10", thickness_m=0.0007, layers=1),
    wall=[WallLayer(material="plywood", thickness_m=0.009), WallLayer(material="eps-foam", thickness_m=0.04), WallLayer(material="plywood", thickness_m=0.009)],
    floor=[WallLayer(material="plywood", thickness_m=0.018), WallLayer(material="eps-foam", thickness_m=0.04)], changes=AirChanges(calm_per_h=3.0, per_m_s=0.5),
    baffle=Baffle(share=0.95, gap_m=0.12), fan=KilnFan(count=1, driven="sun"), vents=KilnVents(open_share=0.1),
)  # fmt: skip
"""Twin-wall sheet, foam all round, tight."""


def boards(species: str, thick_mm: float, m3: float, **more: object) -> BoardGroup:
    """A group of boards that any of these kilns takes."""
    return BoardGroup.model_validate(
        {"species": species, "thickness_mm": thick_mm, "width_mm": 150, "length_m": 3.0, "wood_m3": m3, **more}
    )


def charge(*groups: BoardGroup, **more: object) -> LumberCharge:
    """A charge of them."""
    return LumberCharge.model_validate({"groups": [group.model_dump() for group in groups], **more})


VENTED = TIGHT.with_(changes=None, leak_cm2=60.0, vents=KilnVents(low_cm2=500.0, high_cm2=500.0, open_share=0.3))
"""The tight one by its gaps and vents."""
POPLAR = charge(boards("poplar", 27.0, 0.7, start="green-heart", target_mc=0.12), stack_deep_m=1.2)
MIXED = charge(
    boards("sweet-chestnut", 54.0, 0.4, start="measured", start_mc=0.30, target_mc=0.14),
    boards("poplar", 27.0, 0.3, start="measured", start_mc=0.6, target_mc=0.14),
)
DRY_PINE = charge(boards("eastern-white-pine", 25.4, 0.3, start="measured", start_mc=0.14, target_mc=0.07))
GREEN_PINE = charge(boards("scots-pine", 27.0, 1.3, start="green-sap"))
FEW_OAK = charge(boards("white-oak", 25.4, 0.08, start="green-heart"))

# --- as the advice of all kinds is tried on them ---

PAIRS = {"kiln": (VENTED, MIXED)}
RULINGS = {"kiln": {"two-kelvin": ("holds", "holds partly"), "inch-a-year": ("holds",)}}
SHADED = THIN.with_(
    dirt_share=0.6,
    frame_share=0.6,
    outer="pale-paint",
    vents=KilnVents(low_cm2=5000.0, high_cm2=5000.0, open_share=1.0),
)
OLD_SASHES = TIGHT.with_(cover=TIGHT.cover.model_copy(update={"material": "old-window-glass", "thickness_m": 0.003}))
TRAILER = LumberKiln(facing_deg=180, form="trailer", length_m=3.4)
CASES = {
    "kiln-heat": ((VENTED, DRY_PINE), (SHADED, DRY_PINE), "heat exhaustion"),
    "past-80": ((TIGHT, None), (SHADED, None), "foam softens"),
    "kiln-door": ((THIN, POPLAR), None, "open from within"),
    "propped-roof": ((THIN, POPLAR), None, "locked stay"),
    "roof-wind": ((THIN, POPLAR), None, "anchor the kiln"),
    "kiln-wires": ((THIN, POPLAR), (THIN.with_(fan=None), POPLAR), "sawdust near a hot motor"),
    "heater-fire": ((TIGHT.with_(heater=Heater()), POPLAR), (TIGHT, POPLAR), "thermal cut-out"),
    "lead-putty": ((OLD_SASHES, POPLAR), (THIN, POPLAR), "may hold lead"),
    "trailer": ((TRAILER, POPLAR), (THIN, POPLAR), "wheels chocked"),
    "dew-drips": ((THIN.with_(drips="back"), GREEN_PINE), (THIN, GREEN_PINE), "a gutter along the eaves"),
    "safe-rate": ((TIGHT, FEW_OAK), (SHADED, DRY_PINE), "published safe rate"),
    "charge-weight": ((THIN, POPLAR), None, "joists"),
    "stack-weights": ((THIN, POPLAR), (THIN, POPLAR.model_copy(update={"weights_kg_m2": 80.0})), "they cup and twist"),
    "oily-timber": ((THIN, POPLAR), None, "oil, diesel"),
    "board-ends": ((THIN, POPLAR), (THIN, POPLAR.model_copy(update={"end_paint": "wax-emulsion"})), "wax emulsion"),
    "animals": ((THIN, POPLAR), None, "animals shelter"),
}  # fmt: skip


def rule_m3(build: LumberKiln, share: float = 1.0) -> float:
    """A share of the rule's size."""
    return share * RULE_BF_M2 * BOARD_FEET_M3 * build.roof_m2


@cache
def clear(first: date, days: int) -> Weather:
    """Clear days of the season at the terrace, 41.2° N."""
    return weather_of(TERRACE, climate_day(TERRACE, first), Span(start=first, days=days, step_s=300))


@cache
def usual(first: date, days: int, seed: int = 5) -> Weather:
    """Made-up days as they come there."""
    return usual_weather_of(TERRACE, Span(start=first, days=days, step_s=300), seed)


def case_of(build: LumberKiln, load: LumberCharge | None, first: date, days: int) -> Case:
    """A kiln from a day on."""
    return Case(
        site=TERRACE,
        build=build,
        load=load,
        weather=climate_day(TERRACE, first),
        span=Span(start=first, days=days, step_s=300),
    )


def ran(build: LumberKiln, load: LumberCharge | None, weather: Weather) -> Run:
    """March it over all of a weather."""
    days = round(weather.steps * weather.dt_s / 86400.0)
    first = date.fromtimestamp(weather.start_s + 43200.0)
    return simulate(case_of(build, load, first, days), weather)


def found(load: LumberCharge, run: Run) -> LumberResult:
    """What became of it."""
    results = results_of(TERRACE, load, run)
    assert isinstance(results, LumberResults)
    assert results.lumber is not None
    return results.lumber
