"""What is said of tubs and pools on a loop."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np

from drylamp.core.advice.context import AdviceContext
from drylamp.core.advice.entries import Caution, Change, Found, LoadAdvice, Option, Rule, Saying, School, Seen, flag
from drylamp.core.builds.build import Build
from drylamp.core.loads.common.filling import TOP
from drylamp.core.loads.common.loop import advice as loop
from drylamp.core.loads.common.loop.questions import instead, timer_year
from drylamp.core.loads.pool.questions import how_many, night_cooling, ready_by, season
from drylamp.core.loads.pool.spec import OnWater, Pool
from drylamp.core.outcome.flag import Flag
from drylamp.core.outcome.registry import measure_of
from drylamp.core.tables import pool_covers
from drylamp.core.text import celsius, kilograms

HOT_TUB_C = 40.0
"""Above this a bath strains the heart (usual guidance of spa standards, from memory)."""
WARM_STANDING_C = (20.0, 45.0)
COVERS = ("bubble-film", "insulated-lid")


def _covered(load: Pool, name: str) -> Pool:
    hours = {} if load.on_water is None else load.on_water.model_dump(include={"on_at", "off_at", "all_day"})
    return load.model_copy(update={"on_water": OnWater(material=name, **hours)})


def _changes(build: Build, load: Pool) -> Iterator[Change]:
    for name in COVERS:
        row = pool_covers()[name]
        if load.on_water is None or load.on_water.row is not row:
            yield Change(
                f"{row.title.lower()} over night", "load", build, _covered(load, name), row.price_m2 * load.surface_m2
            )
    if load.on_water is not None and not load.on_water.all_day:
        stays = load.model_copy(update={"on_water": load.on_water.model_copy(update={"all_day": True})})
        yield Change("cover on all day", "load", build, stays, 0.0)
    if load.shelter_share < 0.7:
        yield Change(
            "a hedge or screen against the wind", "load", build, load.model_copy(update={"shelter_share": 0.8}), 60.0
        )


def _cover_options(context: AdviceContext, build: Build, load: Pool) -> list[Option]:
    bare = Option("never covered", build, load.model_copy(update={"on_water": None}))
    return [bare, *(Option(pool_covers()[name].title.lower(), build, _covered(load, name)) for name in COVERS)]


def _first_options(context: AdviceContext, build: Build, load: Pool) -> list[Option]:
    """A cover on what is bare, or more to heat it with, from the warmth that is wanted on: cold water loses nothing yet."""
    bare = load.model_copy(update={"on_water": None, "start_c": load.warm_c})
    more = build.larger()
    if more is None:
        return []
    return [
        Option("neither", build, bare),
        Option("the cover", build, _covered(load, "bubble-film")),
        Option("one more coil", more, bare),
    ]


def _cover_first(context: AdviceContext, build: Build, load: Pool) -> Found | None:
    options = _first_options(context, build, load)
    if not options:
        return None
    bare, cover, coil = ((option.build, option.load) for option in options)
    by_cover, by_coil = context.between(cover, bare), context.between(coil, bare)
    measure = measure_of(load)
    words = f"Once it is as warm as wanted, a bubble film over night is worth {measure.signed(by_cover)} a day to the bare water, one more coil {measure.signed(by_coil)}."
    return Found(by_cover - by_coil, words)


def _too_hot(seen: Seen, build: Build, load: Pool) -> list[Flag]:
    hottest = float(np.nanmax(seen.run.temperature_c[TOP]))
    if hottest <= HOT_TUB_C:
        return []
    return flag(
        "stop", "load",
        f"Too hot to bathe: the water gets to {celsius(hottest)}; over {celsius(HOT_TUB_C)} a bath strains heart and head, children much sooner. Let the pump stop "
        "before, or cover the coil.",
    )  # fmt: skip


def _germs(seen: Seen, build: Build, load: Pool) -> list[Flag]:
    low, high = WARM_STANDING_C
    series = seen.run.temperature_c[TOP]
    if not bool(((series > low) & (series < high)).mean() > 0.5):
        return []
    return flag(
        "warn", "load",
        f"Germs: it stands between {celsius(low)} and {celsius(high)}, where legionella and others grow. Filter and disinfect by the maker's instructions or renew it; "
        "local health codes come first.",
    )  # fmt: skip


def _children(seen: Seen, build: Build, load: Pool) -> list[Flag]:
    return flag(
        "stop",
        "load",
        "Drowning: open water with small children about needs a fence or a lid that bears them; a film on the water does not. Local codes decide.",
    )


def _weight(seen: Seen, build: Build, load: Pool) -> list[Flag]:
    if load.sunk_share > 0.5:
        return []
    return flag(
        "note", "load",
        f"Weight: {kilograms(load.fill_l)} of water, {kilograms(1000.0 * load.depth_m)} on each square metre of what it stands on. On a deck or a roof a qualified person decides.",
    )  # fmt: skip


ADVICE: LoadAdvice[Pool] = LoadAdvice(
    changes=(Rule("load", _changes), *loop.CHANGES),
    schools=(
        School("pool-cover", "What goes over the water at night?", _cover_options), School("cover-first", "Once it is warm: a cover first, or another coil?", _first_options), *loop.SCHOOLS,
    ),
    timer=timer_year,
    instead=lambda context, load, kilowatts, price: instead(context, load, load.fill_l, load.start_c, kilowatts, price),
    ready_by=ready_by,
    season=season,
    how_many=how_many,
    night=night_cooling,
    sayings=(Saying("cover-first", "Cover the water before you heat it", _cover_first), *loop.SAYINGS),
    cautions=(
        Caution("tub-hot", _too_hot), Caution("pool-germs", _germs), Caution("pool-children", _children), Caution("pool-weight", _weight), *loop.CAUTIONS,
    ),
)  # fmt: skip
