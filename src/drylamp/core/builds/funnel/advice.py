"""What is said of funnels, panels and bare sheets."""

from __future__ import annotations

from collections.abc import Iterator

from drylamp.core import tables
from drylamp.core.advice.context import AdviceContext
from drylamp.core.advice.entries import BuildAdvice, Burns, Change, Found, LimitWords, Option, Rule, Saying, School
from drylamp.core.builds.common.fumes.advice import fumes
from drylamp.core.builds.common.heating import advice as heating
from drylamp.core.builds.common.mirror import advice as mirror
from drylamp.core.builds.common.open_air import advice as open_air
from drylamp.core.builds.common.turning import advice as turning
from drylamp.core.builds.funnel.spec import Funnel
from drylamp.core.loads.load import Load
from drylamp.core.tables import Row, absorber
from drylamp.core.text import degrees

BLACK_ENOUGH = 0.91
LARGER = 1.25
FLARES_DEG = (-8.0, 8.0)


def _blacker(build: Funnel, load: Load | None) -> Iterator[Change]:
    if absorber(build.base).absorptance < BLACK_ENOUGH:
        price = tables.absorbers()["flat-black-paint"].price_m2 * build.base_m2
        yield Change("bottom painted black", "base", build.with_(base="flat-black-paint"), load, price)


def _shape(build: Funnel, load: Load | None) -> Iterator[Change]:
    if not build.has_mirror:
        return
    wide, high = build.sheet_width_m * LARGER, build.sheet_height_m * LARGER
    price = build.mirror_row.price_m2 * (wide * high - build.sheet_width_m * build.sheet_height_m)
    larger = build.with_(sheet_width_m=wide, sheet_height_m=high)
    yield Change("a sheet a quarter longer and wider", "mirror", larger, load, price)
    for by in FLARES_DEG:
        flare = min(max(build.flare_deg + by, 15.0), 70.0)
        yield Change(f"walls flared {degrees(flare)}", "mirror", build.with_(flare_deg=flare), load, 0.0)


def _stance(build: Funnel, load: Load | None) -> Iterator[Change]:
    """A flat sheet has no axis and nothing to turn."""
    if build.has_mirror:
        yield from turning.turns_every(30.0, 60.0).changes(build, load)
        yield from turning.TILTED.changes(build, load)


def _tilts(context: AdviceContext, build: Funnel, load: Load | None) -> list[Option]:
    return turning.TILTS.options(context, build, load) if build.has_mirror else []


def _turns(context: AdviceContext, build: Funnel, load: Load | None) -> list[Option]:
    return turning.TURNS.options(context, build, load) if build.has_mirror else []


def _shiny_side(context: AdviceContext, build: Funnel, load: Load | None) -> Found | None:
    dull = build.with_(mirror=mirror.dull(build.mirror_row))
    return mirror.dull_side_words(context, context.between((build, load), (dull, load)))


def _near_food(build: Funnel) -> list[Row]:
    return [absorber(build.base), build.sheet.row]


ADVICE: BuildAdvice[Funnel] = BuildAdvice(
    burns=Burns("load", "Wear dry oven gloves; lift the pot straight up, out of the light."),
    limits=LimitWords(
        "with nothing in it", "Look at it after the first hot day", " or fold the mirror away when nothing stands in it"
    ),
    get_ready="set the stand level and aim by the shadow of the pot",
    changes=(
        Rule("base", _blacker, 0.5), mirror.BRIGHTER, Rule("aim", _stance, 0.1), Rule("mirror", _shape, 2.0), open_air.ENVELOPED,
    ),
    schools=(
        School("tilt", turning.TILTS.question, _tilts), open_air.ENVELOPES, mirror.SURFACES,
        School("turning", turning.TURNS.question, _turns),
    ),
    sayings=(
        Saying("shiny-side", "Shiny side of the foil out.", _shiny_side), heating.PREHEAT, heating.OUTSIDE, heating.EFFICIENT,
    ),
    cautions=(mirror.EYES, mirror.WIND, fumes(_near_food), open_air.COOK),
)  # fmt: skip
