"""What is said of mirrors, whatever they hang on: brighter sheets, the shiny side of foil, eyes and wind."""

from __future__ import annotations

from collections.abc import Iterator

from drylamp.core import tables
from drylamp.core.advice.context import AdviceContext
from drylamp.core.advice.entries import Caution, Change, Found, Option, Rule, School, Seen, flag
from drylamp.core.builds.build import Build
from drylamp.core.builds.common.mirror.sheet import MirrorSheet
from drylamp.core.loads.load import Load
from drylamp.core.outcome.flag import Flag
from drylamp.core.tables import Mirror
from drylamp.core.text import kilograms, metres_per_second

DULL_SIDE_MRAD = 60.0
"""The dull side of foil throws back as much as the shiny one but scatters it: a slope error of this size; from memory."""
BRIGHTER_BY = 0.02
STIFF_SHEETS = ("glass-mirror",)
"""Sheets that cannot be bent or folded."""
CUT_SHARE = 1.3
"""Sheet bought for each area of mouth that a bent or folded mirror has; from memory."""
GALE_M_S, AIR_KG_M3 = 15.0, 1.2
FLAT_PLATE_FORCE = 1.3
"""Force coefficient of a flat plate square to the wind, from memory."""


def brighter_sheets(now: Mirror, stiff: bool) -> list[Mirror]:
    """Sheets that can be had and throw back more; stiff ones only where nothing is bent."""
    rows = [tables.mirrors()[name] for name in ("mylar", "glass-mirror", "mirror-film")]
    return [
        row
        for row in rows
        if row.reflectance > now.reflectance + BRIGHTER_BY and (stiff or row.name not in STIFF_SHEETS)
    ]


def dull(row: Mirror) -> Mirror:
    """The dull side of a sheet."""
    return row.model_copy(update={"name": "dull-side", "slope_error_mrad": DULL_SIDE_MRAD})


def dull_side_words(context: AdviceContext, effect: float) -> Found:
    """What it means that the shiny side out is so much better."""
    return Found(
        effect,
        f"The dull side out instead of the shiny makes {context.measure.signed(-effect)}. On a mirror it blurs the patch; as a lining, "
        "which scatters anyway, it changes nothing.",
    )


def _brighter(build: MirrorSheet, load: Load | None) -> Iterator[Change]:
    if not build.has_mirror:
        return
    for row in brighter_sheets(build.mirror_row, stiff=False):
        price = row.price_m2 * CUT_SHARE * build.opening_m2
        yield Change(f"mirror of {row.title.lower()}", "mirror", build.with_(mirror=row.name), load, price)


def _surfaces(context: AdviceContext, build: MirrorSheet, load: Load | None) -> list[Option]:
    if not build.has_mirror:
        return []
    names = ("kitchen-foil", "smooth-foil", "mylar", "anodised-sheet", "mirror-film")
    return [Option(tables.mirrors()[name].title.lower(), build.with_(mirror=name), load) for name in names]


def _eyes(seen: Seen, build: Build, load: Load | None) -> list[Flag]:
    if build.largest_mirror_m2 == 0.0:
        return []
    return flag(
        "warn", "mirror",
        "Eyes: never look at the sun or its image in the mirror. Wear dark glasses, aim by the bright patch on the pot, "
        "and turn or cover the mirror when nobody is there.",
    )  # fmt: skip


def _wind(seen: Seen, build: Build, load: Load | None) -> list[Flag]:
    area = build.largest_mirror_m2
    if area == 0.0:
        return []
    force = 0.5 * AIR_KG_M3 * GALE_M_S**2 * FLAT_PLATE_FORCE * area
    return flag(
        "note", "mirror",
        f"Wind: a gale of {metres_per_second(GALE_M_S)} pushes the largest mirror as {kilograms(round(force / 9.81, 1))} would. "
        "Lock the stays and weigh it down.",
    )  # fmt: skip


BRIGHTER: Rule[MirrorSheet, Load | None] = Rule("mirror", _brighter, 2.0)
SURFACES: School[MirrorSheet, Load | None] = School("mirror", "Which mirror sheet?", _surfaces)
EYES: Caution[Build, Load | None] = Caution("eyes", _eyes)
WIND: Caution[Build, Load | None] = Caution("wind", _wind)
