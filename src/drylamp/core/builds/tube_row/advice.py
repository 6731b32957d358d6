"""What is said of rows of evacuated tubes."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Literal, get_args

import numpy as np

from drylamp.core.advice.context import AdviceContext
from drylamp.core.advice.entries import (
    BuildAdvice,
    Burns,
    Caution,
    Change,
    Found,
    LimitWords,
    Option,
    Rule,
    Saying,
    School,
    Seen,
    flag,
)
from drylamp.core.builds.common.heating import advice as heating
from drylamp.core.builds.common.mirror import advice as mirror
from drylamp.core.builds.common.turning import advice as turning
from drylamp.core.builds.common.vacuum_tube import advice as tubes
from drylamp.core.builds.tube_row.recipe import header_nodes
from drylamp.core.builds.tube_row.spec import SheetBehind, TubeRow
from drylamp.core.loads.load import Load
from drylamp.core.outcome.flag import Flag
from drylamp.core.outcome.registry import measure_of
from drylamp.core.text import celsius, kilograms

TUBE_PRICE, FULL_MM, WOOL_PRICE_M = 18.0, 50.0, 6.0
"""A tube with its heat pipe, and wool; from memory."""
Inside = Literal["heat-pipe", "u-pipe", "filled"]
WAYS = {"heat-pipe": "heat pipes", "u-pipe": "U-pipes", "filled": "filled with water"}
HOT_C, FREEZES_C = 95.0, 0.0


def _more(build: TubeRow, load: Load | None) -> Iterator[Change]:
    more = build.larger()
    if more is not None:
        yield Change(
            f"{more.count - build.count} more tubes", "tube", more, load, TUBE_PRICE * (more.count - build.count)
        )


def _behind(build: TubeRow, load: Load | None) -> Iterator[Change]:
    if build.behind is None and build.wings is None:
        sheet = SheetBehind()
        yield Change(
            "a mirror sheet behind them",
            "mirror",
            build.with_(behind=sheet),
            load,
            sheet.row.price_m2 * build.header_m * build.tube.lit_m,
        )


def _wool(build: TubeRow, load: Load | None) -> Iterator[Change]:
    if build.lagging_mm < FULL_MM:
        yield Change(
            "more wool round the header", "header", build.with_(lagging_mm=FULL_MM), load, WOOL_PRICE_M * build.header_m
        )


def _ways(context: AdviceContext, build: TubeRow, load: Load | None) -> list[Option]:
    return [Option(WAYS[way], build.with_(inside=way), load) for way in get_args(Inside)]


def _sheets(context: AdviceContext, build: TubeRow, load: Load | None) -> list[Option]:
    bare = build.without_mirrors()
    return [
        Option("nothing behind", bare, load),
        Option("a sheet of foil behind", bare.with_(behind=SheetBehind()), load),
        Option("a sheet of mirror film behind", bare.with_(behind=SheetBehind(material="mirror-film")), load),
    ]


def _one_way(context: AdviceContext, build: TubeRow, load: Load | None) -> Found | None:
    """Heat pipes beside U-pipes on the same loop: what the night takes back."""
    if load is None:
        return None
    gain = context.between((build.with_(inside="heat-pipe"), load), (build.with_(inside="u-pipe"), load))
    words = (
        f"Heat pipes are {measure_of(load).signed(gain)} against U-pipes here. A heat pipe carries heat up and hardly any down: what runs backwards at night cools "
        "only the header, not the tubes."
    )
    return Found(gain, words)


def _relief(seen: Seen, build: TubeRow, load: Load | None) -> list[Flag]:
    hottest = max(float(np.nanmax(seen.empty.temperature_c[name])) for name in header_nodes(build))
    if hottest < HOT_C:
        return []
    return flag(
        "stop", "header",
        f"Steam: when the pump fails in the sun the header gets to {celsius(hottest)}. It needs a relief valve and an open vent or room for the steam, metal pipes for the first "
        "metres, and no valve that could shut it in; a licensed plumber decides.",
    )  # fmt: skip


def _freezes(seen: Seen, build: TubeRow, load: Load | None) -> list[Flag]:
    coldest = float(np.min(seen.run.weather.air_c))
    if build.inside != "filled" or load is None or coldest > FREEZES_C:
        return []
    return flag(
        "stop", "tube",
        f"Frost: the air falls to {celsius(coldest)}. Water in a tube keeps long behind its vacuum, but one that freezes bursts; drain them before such nights, or take heat pipes.",
    )  # fmt: skip


def _weight(seen: Seen, build: TubeRow, load: Load | None) -> list[Flag]:
    whole = (
        build.count * (build.tube.glass_kg + (build.tube.holds_l if build.inside == "filled" else 0.5))
        + 2.0 * build.header_m
    )
    return flag(
        "note",
        "aim",
        f"Weight: {kilograms(whole)} of tubes and header as they work, beside the frame. On a roof a qualified person decides.",
    )


ADVICE: BuildAdvice[TubeRow] = BuildAdvice(
    burns=Burns("tube", "The glass stays cool while coat and header burn: cover the tubes before you work on them."),
    limits=LimitWords("dry in full sun", "Cover the tubes while no water runs", " or cover the tubes while they stand dry"),
    get_ready="fill the header, let the air out of it, look at every tube's spot",
    changes=(Rule("tube", _more), Rule("mirror", _behind), tubes.WINGS, Rule("header", _wool), turning.TILTED),
    schools=(School("tube-inside", "Heat pipe, U-pipe or filled?", _ways), School("tube-sheet", "A sheet behind the tubes?", _sheets), turning.TILTS),
    sayings=(tubes.WINTER, Saying("heat-pipe-valve", "Heat pipes win what the night takes back", _one_way), heating.EFFICIENT, heating.RATED),
    cautions=(tubes.VACUUM, tubes.SHOCK, Caution("tubes-relief", _relief), Caution("tubes-frost", _freezes), Caution("row-weight", _weight), mirror.EYES),
)  # fmt: skip
