"""What is said of pots of food, in whatever build they stand."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Literal

import numpy as np

from drylamp.core import tables
from drylamp.core.advice.context import AdviceContext, score_of
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
from drylamp.core.loads.pot.spec import PotLoad, in_vessel
from drylamp.core.outcome.flag import Flag
from drylamp.core.text import celsius, kelvin, kilograms
from drylamp.core.twin.run import Run

BLACK_ENOUGH = 0.90
SCORCH_C = 130.0
STEAM_J_KG = 2.35e6
CLOUD_S, CLOUD_AFTER_S = 1800.0, 3 * 3600.0
DANGER_LOW_C, DANGER_HIGH_C, DANGER_HOURS, DANGER_HOURS_HOT, HOT_DAY_C = 5.0, 60.0, 2.0, 1.0, 32.0
"""Time in the danger zone: USDA FSIS (5–60 °C, two hours, one above 32 °C), from memory."""
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
    yield Change("half as much food", "load", build, load.model_copy(update={"food_kg": load.food_kg / 2}), 0.0)


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
    food, pot = (float(np.nanmax(run.temperature_c[node])) for node in ("contents", "pot"))
    steam_kg = float(run.account_w["steam"].sum()) * run.weather.dt_s / STEAM_J_KG
    share = steam_kg / load.food_kg
    ruling: Ruling = "wrong" if pot > SCORCH_C or share > 0.5 else "holds partly" if share > 0.1 else "holds"
    words = f"The pot gets to {celsius(pot)}, the food to {celsius(food)}, and {kilograms(steam_kg)} of water boil off by evening"
    ends = {
        "holds": ": it does not burn.",
        "holds partly": ": it does not burn, but dries.",
        "wrong": ": it can scorch or boil dry.",
    }[ruling]
    return Found(0.0, words + ends, ruling)


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
    falls, later = [], []
    for name in ("thin-enamel", "cast-iron"):
        pot = in_vessel(load, name)
        ready = context.ready(build, pot)
        run, shaded = ready.run(), ready.in_the_dark(at).run()
        ends = shaded.at("contents", np.array([at, at + CLOUD_S]))
        falls.append(float(ends[0] - ends[1]) / max(float(ends[0] - 25.0), 1.0))
        later.append(score_of(context.case.site, build, pot, run).value)
    steadier, slower = (falls[0] - falls[1]) * 100, later[0] - later[1]
    ruling: Ruling = "holds" if steadier > 0.3 else "does not matter here"
    return Found(
        steadier,
        f"Half an hour of cloud takes {falls[0] * 100:.1f} % of its warmth from a thin pot, {falls[1] * 100:.1f} % from cast iron; "
        f"cast iron lags by {kelvin(slower)} on the way up.",
        ruling,
    )


def _pressure(seen: Seen, build: Build, load: PotLoad) -> list[Flag]:
    if not load.is_tight:
        return []
    return flag(
        "stop", "load",
        "Pressure: follow the maker's own rules for this pot. Its valve clean and free, at most two thirds full, never opened "
        "before it has rested in the shade and the pin has dropped by itself; never a closed vessel without a valve.",
    )  # fmt: skip


def _too_cool(seen: Seen, build: Build, load: PotLoad) -> list[Flag]:
    day = seen.day
    if day is None or day.enough is not False:
        return []
    short = "does not reach" if day.target_reached_at is None else "does not hold long enough at"
    return flag(
        "stop", "load",
        f"{load.contents.title} {short} {celsius(load.wanted_c)} on this day (peak {celsius(day.peak_c)}). "
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


def danger_hours(load: PotLoad, run: Run) -> float:
    """Hours from going in until what is judged first passes the danger zone."""
    series = run.temperature_c[load.judged]
    inside = np.flatnonzero(~np.isnan(series))
    if len(inside) == 0:
        return 0.0
    rising = series[inside][: int(np.argmax(series[inside])) + 1]
    return float(np.sum((rising > DANGER_LOW_C) & (rising < DANGER_HIGH_C)) * run.weather.dt_s / 3600.0)


def _danger(seen: Seen, build: Build, load: PotLoad) -> list[Flag]:
    hours = danger_hours(load, seen.run)
    most = DANGER_HOURS_HOT if float(seen.run.weather.air_c.max()) > HOT_DAY_C else DANGER_HOURS
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
    changes=(Rule("load", _changes),),
    schools=(School("lid", "Clear lid or black lid?", _lids), School("pot", "Thin pot or heavy pot?", _pots)),
    sayings=(
        Saying("overcook", "You can't overcook.", _overcook),
        Saying("clear-lid", "A clear lid lets the sun onto the food, so it is quicker.", _clear_lid),
        Saying("pot-colour", "The pot must be black.", _pot_colour),
        Saying("steadier", "A heavy pot is slower but steadier.", _steadier),
    ),
    cautions=(
        Caution("pressure", _pressure), Caution("too-cool", _too_cool), Caution("meat-and-eggs", _meat_and_eggs),
        Caution("danger-zone", _danger), Caution("handling", _handling), Caution("steam", _steam),
    ),
)  # fmt: skip
