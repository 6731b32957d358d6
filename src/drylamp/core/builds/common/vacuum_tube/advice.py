"""What is said of evacuated tubes, one or many: winter, their vacuum, their wings, glass that must not be shocked."""

from __future__ import annotations

from collections.abc import Iterator
from datetime import date

import numpy as np

from drylamp.core import tables
from drylamp.core.advice.context import AdviceContext
from drylamp.core.advice.entries import Caution, Change, Found, Option, Rule, Ruling, Saying, School, Seen, flag
from drylamp.core.air.constants import KWH_J
from drylamp.core.builds.common.mirror.advice import brighter_sheets
from drylamp.core.builds.common.vacuum_tube.tubed import Tubed
from drylamp.core.builds.common.vacuum_tube.wings import Wings
from drylamp.core.builds.registry import kind_of
from drylamp.core.loads.load import Load
from drylamp.core.outcome.flag import Flag, Level
from drylamp.core.sky.clock import local_day
from drylamp.core.sky.of_span import weather_of
from drylamp.core.sky.weather import Span
from drylamp.core.text import amount, celsius, kilowatt_hours, metres_per_second
from drylamp.core.twin.case import climate_day
from drylamp.core.twin.run import Run

SHOCK_C = 100.0
"""Glass hotter than this may crack under cold water; from memory."""
AIR_KG_M3, GRAVITY, PLATE_FORCE = 1.2, 9.81, 1.2
"""Force coefficient of a bluff body in the wind; from memory."""
BREEZE_M_S = 12.0
STEP_S = 300
AS_WELL, NEARLY = 0.85, 0.6
"""Winter's heat over summer's from which a tube is said to work as well, and nearly so; from memory."""


def _wing_changes(build: Tubed, load: Load | None) -> Iterator[Change]:
    wings = build.wings_of
    if wings is None:
        made = Wings()
        price = 2.0 * made.sheet_m * build.tube_of.lit_m * build.tubes * (made.row.price_m2 + made.backing_row.price_m2)
        yield Change("half-pipe wings", "mirror", build.with_wings(made), load, price)
        return
    for row in brighter_sheets(wings.row, stiff=False):
        price = 2.0 * wings.sheet_m * build.tube_of.lit_m * build.tubes * row.price_m2
        yield Change(
            f"wings lined with {row.title.lower()}", "mirror", build.with_wings(_lined(wings, row.name)), load, price
        )
    yield Change("no wings", "mirror", build.with_wings(None), load, 0.0)


def _lined(wings: Wings, material: str) -> Wings:
    return wings.model_copy(update={"material": material, "reflectance": None, "slope_error_mrad": None})


def _surfaces(context: AdviceContext, build: Tubed, load: Load | None) -> list[Option]:
    wings = build.wings_of
    if wings is None:
        return []
    names = ("sprayed-mirror-paint", "smooth-foil", "mylar", "mirror-film")
    lined = [
        Option(tables.mirrors()[name].title.lower(), build.with_wings(_lined(wings, name)), load) for name in names
    ]
    return [*lined, Option("no wings", build.with_wings(None), load)]


def _shapes(context: AdviceContext, build: Tubed, load: Load | None) -> list[Option]:
    """Half a pipe, a parabola and a flat strip out of the same width of sheet."""
    wings = build.wings_of
    if wings is None:
        return []
    wide, below = wings.sheet_m, build.tube_of.outer_m / 2.0 + 0.006
    curved = Wings.model_validate(
        {
            **wings.model_dump(),
            "shape": "parabola",
            "focus_m": below,
            "from_m": 0.0,
            "to_m": 0.9 * wide,
            "below_m": below,
        }
    )
    tried = [
        ("half a pipe", wings if wings.shape == "half-pipe" else Wings.model_validate({**wings.model_dump(), "shape": "half-pipe", "radius_m": wide / np.pi, "arc_deg": 180.0})),
        ("bent to a parabola", curved.model_copy(update={"open_deg": curved.level_deg})),
        ("flat", Wings.model_validate({**wings.model_dump(), "shape": "flat", "wide_m": wide})),
    ]  # fmt: skip
    return [Option(title, build.with_wings(made), load) for title, made in tried]


def _useful_kwh(build: Tubed, load: Load, run: Run) -> float:
    """What its water carried off or its loop brought; of water that stands in it what it took up, steam included."""
    stood = run.account_w[kind_of(build).useful_account] + run.account_w.get("steam", 0.0)
    watts = run.carried_w(load.tap) if load.tap else stood
    return float(np.sum(np.maximum(watts, 0.0))) * run.weather.dt_s / KWH_J


def _winter(context: AdviceContext, build: Tubed, load: Load | None) -> Found | None:
    """The same on a clear day at midwinter and at midsummer."""
    if load is None:
        return None
    case, year = context.case, local_day(context.case.site.zone, context.weather.start_s).year
    north = case.site.latitude_deg >= 0.0
    heat = list[float]()
    for day in (date(year, 12 if north else 6, 21), date(year, 6 if north else 12, 21)):
        weather = weather_of(case.site, climate_day(case.site, day, "clear"), Span(start=day, step_s=STEP_S))
        heat.append(_useful_kwh(build, load, AdviceContext(case, weather).run(build, load)))
    winter, summer = heat
    if summer <= 0.0:
        return None
    share = winter / summer
    ruling: Ruling = "holds" if share >= AS_WELL else "holds partly" if share >= NEARLY else "wrong"
    words = (
        f"As it stands it brings {kilowatt_hours(winter)} on a clear midwinter day and {kilowatt_hours(summer)} at midsummer: {amount(share, 'share')}. The vacuum "
        "keeps the heat, but it cannot make the sun higher or the day longer."
    )
    return Found(winter - summer, words, ruling)


def _vacuum(seen: Seen, build: Tubed, load: Load | None) -> list[Flag]:
    if build.tube_of.sound:
        return []
    return flag(
        "warn", "tube",
        "Its vacuum is gone: a white spot at the closed end. It loses heat as a jar does, its outer glass gets hot, and no cleaning mends it; take another tube.",
    )  # fmt: skip


def _shock(seen: Seen, build: Tubed, load: Load | None) -> list[Flag]:
    hottest = float(np.nanmax(seen.empty.temperature_c[kind_of(build).stagnation_node(build)]))
    if hottest < SHOCK_C:
        return []
    return flag(
        "stop", "tube",
        f"Empty in the sun it gets to {celsius(hottest)}. Never pour water into a hot dry tube: the glass cracks and throws splinters and steam. Fill it in the shade, "
        "before the sun is on it, and wear glasses and gloves.",
    )  # fmt: skip


def tips_at_m_s(area_m2: float, middle_m: float, feet_m: float, mass_kg: float) -> float:
    """Wind at which something tips over its feet: ½ ρ v² C A h = m g b/2."""
    return float(np.sqrt(mass_kg * GRAVITY * feet_m / (AIR_KG_M3 * PLATE_FORCE * area_m2 * middle_m)))


def tipping(area_m2: float, middle_m: float, feet_m: float, mass_kg: float) -> list[Flag]:
    """At which wind it goes over."""
    speed = tips_at_m_s(area_m2, middle_m, feet_m, mass_kg)
    level: Level = "warn" if speed < BREEZE_M_S else "note"
    said = f"Wind: it tips at about {metres_per_second(speed)}, hot water and all"
    return flag(level, "feet", f"{said}. Peg its feet down, set them wider, or fold the wings shut when gusts come.")


WINGS: Rule[Tubed, Load | None] = Rule("mirror", _wing_changes)
SURFACES: School[Tubed, Load | None] = School("wing-sheet", "What to line the wings with?", _surfaces)
SHAPES: School[Tubed, Load | None] = School("wing-shape", "Half a pipe, a parabola, or flat?", _shapes)
WINTER: Saying[Tubed, Load | None] = Saying("tubes-winter", "Vacuum tubes work as well in winter", _winter)
VACUUM: Caution[Tubed, Load | None] = Caution("vacuum", _vacuum)
SHOCK: Caution[Tubed, Load | None] = Caution("glass-shock", _shock)
