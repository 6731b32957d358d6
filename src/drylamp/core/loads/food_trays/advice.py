"""What is said of food on trays."""

from __future__ import annotations

from collections.abc import Iterator
from typing import cast

import numpy as np

from drylamp.core.advice.context import AdviceContext
from drylamp.core.advice.entries import Caution, Change, Found, LoadAdvice, Option, Rule, Saying, School, Seen, flag
from drylamp.core.builds.build import Build
from drylamp.core.loads.common.shelves import INTO
from drylamp.core.loads.food_trays.outcome import DryingResults
from drylamp.core.loads.food_trays.questions import basket, batch, instead, nights, weekly
from drylamp.core.loads.food_trays.spec import FoodTrays
from drylamp.core.outcome.flag import Flag
from drylamp.core.text import amount, celsius, kilograms

THINNER, THICKER = 0.7, 1.4
DAMP_RH, GREY_SHARE = 0.9, 0.35
NEAR_MOULD = 0.5


def _cut(load: FoodTrays, times: float) -> FoodTrays:
    foods = [
        food.model_copy(update={"slice_mm": round(min(max(1000.0 * food.thick_m * times, 0.3), 60.0), 2)})
        for food in load.foods
    ]
    return load.model_copy(update={"foods": foods})


def _lighter(load: FoodTrays, times: float) -> FoodTrays:
    return load.model_copy(update={"foods": [food.model_copy(update={"kg": food.kg * times}) for food in load.foods]})


def _changes(build: Build, load: FoodTrays) -> Iterator[Change]:
    yield Change("cut a third thinner", "load", build, _cut(load, THINNER), 0.0)
    yield Change("half as much on each tray", "load", build, _lighter(load, 0.5), 0.0)
    if load.foods[0].goes_in > "08:00":
        early = [food.model_copy(update={"goes_in": "08:00"}) for food in load.foods]
        yield Change("laid in at 08:00", "load", build, load.model_copy(update={"foods": early}), 0.0)


def _thick(context: AdviceContext, build: Build, load: FoodTrays) -> list[Option]:
    return [
        Option("cut thin", build, _cut(load, THINNER)),
        Option("as it is", build, load),
        Option("cut thick", build, _cut(load, THICKER)),
    ]


def _beside(context: AdviceContext, build: Build, load: FoodTrays, other: AdviceContext) -> float:
    """How fast it dries under other weather, as a share of now."""
    now, then = context.score(build, load).value, context.score_under(other, build, load).value
    return then / now if now > 0.0 else 0.0


def _cloudy(context: AdviceContext, build: Build, load: FoodTrays) -> Found | None:
    """A grey sky against the sky of the day."""
    weather = context.weather
    grey = context.on(
        dni_w_m2=weather.dni_w_m2 * 0.05, dhi_w_m2=weather.dhi_w_m2 * 1.1, ghi_w_m2=weather.ghi_w_m2 * GREY_SHARE
    )
    share = _beside(context, build, load, grey)
    words = f"Under a grey sky it still gives up {100 * share:.0f} % of the water of this day; what it does not do is finish."
    return Found(-share, words, "wrong" if share > 0.3 else "holds partly")


def _humid(context: AdviceContext, build: Build, load: FoodTrays) -> Found | None:
    """Air at nine tenths of saturation, heated as now."""
    share = _beside(context, build, load, context.on(rh=np.full(context.weather.steps, DAMP_RH)))
    words = f"In air of 90 % humidity it dries {100 * share:.0f} % as fast as now: once warmed, damp air is dry enough by day. At night it is not."
    return Found(-share, words, "wrong" if share > 0.5 else "holds partly")


def _feels_dry(context: AdviceContext, build: Build, load: FoodTrays) -> Found | None:
    """The surface against the whole, on the first day."""
    run = context.run(build, load)
    if run.damp is None:
        return None
    food = load.numbered[0]
    node = f"food-{food.number}"
    held, wet = run.damp.held_kg[node], run.damp.activity[node]
    dull = np.flatnonzero(wet < 0.6)
    if not len(dull):
        return Found(
            0.0, f"On this day its skin does not even feel dry: {food.title} is wet to the end of it.", "holds partly"
        )
    share = float(held[dull[0]] / (held[dull[0]] + food.dry_kg))
    return Found(
        -share,
        f"The skin of {food.title} feels dry when {100 * share:.0f} % of it is still water; {100 * food.safe:.0f} % keeps. Weigh it, or let it rest in a jar and feel again.",
        "wrong",
    )


def _found(seen: Seen, load: FoodTrays) -> DryingResults:
    return cast(DryingResults, seen.results)


def _mould(seen: Seen, build: Build, load: FoodTrays) -> list[Flag]:
    drying = _found(seen, load).drying
    worst = max(drying.trays, key=lambda tray: tray.mould_share, default=None) if drying is not None else None
    if worst is None or worst.mould_share < NEAR_MOULD:
        return flag("note", "load", "Mould or an off smell: discard it, jar and all; do not cut round it.")
    return flag(
        "stop" if worst.mould_share >= 1.0 else "warn",
        "load",
        f"{worst.title}: {100 * worst.mould_share:.0f} % of the way to mould before it is dry. Lay it thinner, dry it first, or finish it indoors; what shows mould is discarded.",
    )


def _meat(seen: Seen, build: Build, load: FoodTrays) -> list[Flag]:
    if not any(food.row.group == "meat" for food in load.foods):
        return []
    return flag(
        "stop",
        "load",
        "Meat: heat it to 71 °C right through (poultry 74 °C) before it is dried or in an oven after; no sun dryer does that. Probe the thickest strip.",
    )


def _heat(seen: Seen, build: Build, load: FoodTrays) -> list[Flag]:
    drying = _found(seen, load).drying
    if drying is None:
        return []
    out = list[Flag]()
    hot = [tray for tray in drying.trays if tray.hot_minutes > 60.0]
    if hot:
        worst = max(hot, key=lambda tray: tray.hot_minutes)
        out += flag(
            "warn",
            "load",
            f"{worst.title} is hotter than suits it for {amount(worst.hot_minutes, 'minutes')} ({celsius(worst.hottest_c)} at most): it browns and loses scent. Open the vent, or shade the glass.",
        )
    hard = [tray.title for tray in drying.trays if tray.hardened]
    if hard:
        out += flag(
            "warn",
            "load",
            f"{', '.join(hard)}: the skin dries much faster than the core, and hardens over it. Less heat at first, more air, thinner slices.",
        )
    back = sum(tray.regained_g for tray in drying.trays)
    if back > 20.0:
        out += flag(
            "note",
            "load",
            f"At night it takes {kilograms(back / 1000.0)} of water back: shut the vents, or take the trays in.",
        )
    over = [tray.title for tray in drying.trays if tray.over_dried]
    if over:
        out += flag(
            "note", "load", f"{', '.join(over)} end drier than they need to be: take them out when the scale says so."
        )
    return out


def _keeping(seen: Seen, build: Build, load: FoodTrays) -> list[Flag]:
    low = [food for food in load.foods if food.row.group in ("vegetable", "mushroom", "leaf")]
    oil = (
        " Never lay dried vegetables or herbs in oil at room temperature: botulism grows there without a sign."
        if low
        else ""
    )
    window = max(food.row.low_c for food in load.foods)
    warm = float(np.nanmax(seen.run.temperature_c[INTO]))
    short = (
        f" The air gets {celsius(warm)}, {celsius(window)} are wanted for this food: keep an eye and a nose on it."
        if warm < window - 5.0
        else ""
    )
    return flag(
        "note",
        "load",
        f"Clean hands, knife and trays; cut away what is bruised. Light bleaches it and takes vitamins: keep it dark.{short}{oil}",
    )


ADVICE: LoadAdvice[FoodTrays] = LoadAdvice(
    changes=(Rule("load", _changes),),
    schools=(School("slices", "Slices thin or thick?", _thick),),
    sayings=(
        Saying("cloudy-days", "Cloudy days dry nothing.", _cloudy), Saying("humid-air", "Humid air cannot dry.", _humid), Saying("feels-dry", "It is done when it feels dry.", _feels_dry),
    ),
    cautions=(Caution("mould", _mould), Caution("meat", _meat), Caution("heat", _heat), Caution("keeping", _keeping)),
    batch=batch, nights=nights, weekly=weekly, basket=basket, instead=instead,
)  # fmt: skip
