"""What is said of pots of food, in whatever build they stand."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Literal

import numpy as np

from drylamp.core import tables
from drylamp.core.advice.context import AdviceContext
from drylamp.core.advice.entries import (
    Caution,
    Change,
    Found,
    LoadAdvice,
    Option,
    Rule,
    Ruling,
    Saying,
    School,
    Seen,
    flag,
)
from drylamp.core.builds.build import Build
from drylamp.core.builds.registry import kind_of
from drylamp.core.loads.pot.outcome import danger_hours, danger_most, dry_at, scorched_at
from drylamp.core.loads.pot.spec import PotLoad, in_vessel
from drylamp.core.outcome.flag import Flag
from drylamp.core.sky.clock import local_time
from drylamp.core.text import celsius, kelvin, kilograms, minutes

BLACK_ENOUGH = 0.90
DRIES_SHARE = 0.15
"""Of its water; what loses more is dry to the tongue; from memory."""
CLOUD_S, CLOUD_AFTER_S = 1200.0, 1.5 * 3600.0
"""A cloud that passes, while the food still warms; from memory."""
STEADIER_K = 0.3
HANDLED = {
    "stir": "wants stirring: each time the lid is lifted costs heat and minutes, and steam burns. Cook it on another fire, or accept that it cooks unstirred",
    "flip": "wants turning over half-way: in a slow oven it dries before it browns. Make it thicker and bake it like a loaf, or take another fire",
    "all-in": "goes in all at once, in its water, and stays shut until it is done: measure the water beforehand",
}


def _changes(build: Build, load: PotLoad) -> Iterator[Change]:
    if load.vessel not in ("thin-enamel", "pressure-pot"):
        yield Change("a thin black pot", "load", build, in_vessel(load, "thin-enamel"), 12.0)
    if load.finish.absorptance < BLACK_ENOUGH:
        yield Change(
            "pot blackened outside", "load", build, load.model_copy(update={"pot_finish": "flat-black-paint"}), 1.0
        )
    if not load.is_tight:
        for lid in ("black", "clear"):
            if lid != load.lid:
                yield Change(f"a {lid} lid", "load", build, load.model_copy(update={"lid": lid}), 3.0)
    half = load.model_copy(update={"food_kg": load.food_kg / 2, "persons": None, "dry_kg": None})
    yield Change("half as much food", "load", build, half, 0.0, choice=True)


def _lids(context: AdviceContext, build: Build, load: PotLoad) -> list[Option]:
    if load.is_tight or kind_of(build).concentrates:
        return []
    return [
        Option(f"{lid} lid" if lid != "none" else "no lid", build, load.model_copy(update={"lid": lid}))
        for lid in ("black", "clear", "none")
    ]


def _pots(context: AdviceContext, build: Build, load: PotLoad) -> list[Option]:
    if load.is_tight or kind_of(build).concentrates:
        return []
    rows = {name: tables.vessels()[name] for name in ("thin-enamel", "bright-steel-pot", "cast-iron", "stoneware")}
    return [Option(row.title.lower(), build, in_vessel(load, name)) for name, row in rows.items()]


def _overcook(context: AdviceContext, build: Build, load: PotLoad) -> Found | None:
    run = context.run(build, load)
    outer = "crust" if "crust" in run.temperature_c else "contents"
    hottest, steam_kg = float(np.nanmax(run.temperature_c[outer])), float(run.steam_kg.sum())
    lost = steam_kg / max(load.water_in_kg, 1e-9)
    dry, burnt = dry_at(load, run), scorched_at(load, run)
    zone = context.case.site.zone
    words = f"Left in till evening its {'crust' if outer == 'crust' else 'food'} gets to {celsius(hottest)} and {kilograms(steam_kg)} of its {kilograms(load.water_in_kg)} of water leave"
    if burnt is not None:
        return Found(0.0, f"{words}: it burns from {local_time(zone, burnt):%H:%M} on.", "wrong")
    if dry is not None:
        return Found(0.0, f"{words}: it is dry by {local_time(zone, dry):%H:%M}.", "wrong")
    dries = lost > DRIES_SHARE
    return Found(
        0.0, f"{words}: it does not burn{', but dries' if dries else ''}.", "holds partly" if dries else "holds"
    )


def _pot_colour(context: AdviceContext, build: Build, load: PotLoad) -> Found | None:
    black, bright = (
        load.model_copy(update={"pot_finish": name, "lid": "black"}) for name in ("flat-black-paint", "bright-steel")
    )
    effect = context.between((build, black), (build, bright))
    return Found(effect, f"A black pot and lid instead of bright steel make {context.measure.signed(effect)}.")


def _clear_lid(context: AdviceContext, build: Build, load: PotLoad) -> Found | None:
    if load.is_tight:
        return None
    clear, black = (load.model_copy(update={"lid": lid}) for lid in ("clear", "black"))
    effect = context.between((build, clear), (build, black))
    return Found(effect, f"A clear lid instead of a black one makes {context.measure.signed(effect)}.")


def _steadier(context: AdviceContext, build: Build, load: PotLoad) -> Found | None:
    if load.is_tight or kind_of(build).concentrates:
        return None
    at = context.put_in_s() + CLOUD_AFTER_S
    cloud = (at, at + CLOUD_S)
    falls, scores = [], []
    for name in ("thin-enamel", "cast-iron"):
        pot = in_vessel(load, name)
        ready = context.ready(build, pot)
        run, shaded = ready.run(), ready.shaded_between(*cloud).run()
        after = np.arange(at, at + 2 * CLOUD_S, ready.weather.dt_s)
        falls.append(float((run.at("contents", after) - shaded.at("contents", after)).max()))
        scores.append(context.score_of(build, pot, run).value)
    steadier, slower = falls[0] - falls[1], scores[0] - scores[1]
    ruling: Ruling = "holds" if steadier > STEADIER_K else "does not matter here" if steadier > -STEADIER_K else "wrong"
    return Found(
        steadier,
        f"A cloud of {minutes(CLOUD_S / 60)} leaves the food {kelvin(falls[0])} behind in a thin pot, {kelvin(falls[1])} in cast iron; "
        f"for that cast iron is {context.measure.signed(-slower)} on a clear day.",
        ruling, "difference", "how far a passing cloud throws the food back, in kelvin",
    )  # fmt: skip


def _pressure(seen: Seen, build: Build, load: PotLoad) -> list[Flag]:
    if not load.is_tight:
        return []
    return flag(
        "stop", "load",
        "Pressure: follow the maker's own rules for this pot. Its valve clean and free, at most two thirds full, never opened "
        "before it has rested in the shade and the pin has dropped by itself; never a closed vessel without a valve.",
    )  # fmt: skip


def _height(seen: Seen, build: Build, load: PotLoad) -> list[Flag]:
    """Where water boils under what the food wants."""
    here, usual = load.wanted_where(seen.run.boils_c), load.wanted_c
    if here.celsius >= usual:
        return []
    longer = (
        f" for {minutes(here.minutes)} instead of {minutes(load.wanted_minutes)}" if load.wanted_minutes > 0 else ""
    )
    return flag(
        "note", "load",
        f"Height: water boils at {celsius(seen.run.boils_c)} here, so no open pot brings {load.title} to {celsius(usual)}. "
        f"Hold {celsius(here.celsius)}{longer} (twice and a half as long for each 10 K, from memory), or take a pressure pot.",
    )  # fmt: skip


def _boils_dry(seen: Seen, build: Build, load: PotLoad) -> list[Flag]:
    """When it is dry, and when it burns."""
    zone, dry, burnt = seen.case.site.zone, dry_at(load, seen.run), scorched_at(load, seen.run)
    out = []
    if dry is not None:
        out += flag(
            "stop" if load.is_tight else "warn", "load",
            f"Dry: left as it is, {load.title} has boiled dry by {local_time(zone, dry):%H:%M}. Take it off or turn the light away before, or put more water in.",
        )  # fmt: skip
    if burnt is not None:
        out += flag("warn", "load", f"Scorching: it burns from {local_time(zone, burnt):%H:%M} on. Take it out before.")
    return out


def _freezes(seen: Seen, build: Build, load: PotLoad) -> list[Flag]:
    coldest = float(np.nanmin(seen.run.temperature_c["contents"]))
    if coldest >= 0.0 or not load.is_moist:
        return []
    return flag(
        "note", "load",
        f"Frost: what stays in it gets to {celsius(coldest)}; its water would freeze, which the twin leaves out. Take it in for the night.",
    )  # fmt: skip


def _too_cool(seen: Seen, build: Build, load: PotLoad) -> list[Flag]:
    day = seen.day
    if day is None or day.enough is not False:
        return []
    wanted = load.wanted_where(seen.run.boils_c)
    short = "does not reach" if day.target_reached_at is None else "does not hold long enough at"
    return flag(
        "stop", "load",
        f"{load.contents.title} {short} {celsius(wanted.celsius)} on this day (peak {celsius(day.peak_c)}). "
        "Take less food, start earlier, or plan another way to cook it before you start.",
    )  # fmt: skip


def _meat_and_eggs(seen: Seen, build: Build, load: PotLoad) -> list[Flag]:
    if load.contents.safe_core_c == 0:
        return []
    safe, hottest = load.contents.safe_core_c, float(np.nanmax(seen.run.temperature_c[load.judged]))
    said = f"{load.contents.title}: {celsius(safe)} in the thickest part, read with a probe, before anyone eats (USDA FSIS). "
    if hottest >= safe:
        return flag("warn", "load", said + "The twin gets there on this day; your probe decides, not the twin.")
    return flag(
        "stop", "load",
        said + f"The twin says {celsius(hottest)} on this day: do not cook it here. Take something that needs no safe core.",
    )  # fmt: skip


def _danger(seen: Seen, build: Build, load: PotLoad) -> list[Flag]:
    hours, most = max(danger_hours(load, seen.run, seen.case.site)), danger_most(seen.run)
    if hours <= most:
        return []
    return flag(
        "warn", "load",
        f"Food: it spends {hours:.1f} h between {celsius(5)} and {celsius(60)} before it is hot (advice is under {most:g} h on such a day). "
        "Start with hot water, less food or a preheated box; check the thickest part with a probe.",
    )  # fmt: skip


def _handling(seen: Seen, build: Build, load: PotLoad) -> list[Flag]:
    if load.contents.handling is None:
        return []
    level: Literal["note", "warn"] = "note" if load.contents.handling == "all-in" else "warn"
    return flag(level, "load", f"{load.contents.title} {HANDLED[load.contents.handling]}.")


def _steam(seen: Seen, build: Build, load: PotLoad) -> list[Flag]:
    return flag("note", "load", "Steam: open cover and lid away from your face, gloves on.")


ADVICE: LoadAdvice[PotLoad] = LoadAdvice(
    changes=(Rule("load", _changes, 0.1),),
    schools=(School("lid", "Clear lid or black lid?", _lids), School("pot", "Thin pot or heavy pot?", _pots, straight="Which pot?")),
    sayings=(
        Saying("overcook", "You can't overcook.", _overcook),
        Saying("clear-lid", "A clear lid lets the sun onto the food, so it is quicker.", _clear_lid),
        Saying("pot-colour", "The pot must be black.", _pot_colour),
        Saying("steadier", "A heavy pot is slower but steadier.", _steadier),
    ),
    cautions=(
        Caution("pressure", _pressure), Caution("too-cool", _too_cool), Caution("meat-and-eggs", _meat_and_eggs),
        Caution("danger-zone", _danger), Caution("height", _height), Caution("boils-dry", _boils_dry), Caution("freezes", _freezes), Caution("handling", _handling), Caution("steam", _steam),
    ),
)  # fmt: skip
