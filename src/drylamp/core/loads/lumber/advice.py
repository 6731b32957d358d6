"""What is said of boards."""

from __future__ import annotations

from collections.abc import Iterator
from typing import cast

import numpy as np

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
    Scored,
    Seen,
    flag,
)
from drylamp.core.air.moist import saturation_pressure_pa
from drylamp.core.builds.build import Build
from drylamp.core.heat.cells import FIBRE_SATURATION
from drylamp.core.loads.common.stacked import CHAMBER
from drylamp.core.loads.common.wood import INCH_M, equilibrium_mc
from drylamp.core.loads.lumber.group import AIR_DRIED_MC, Start
from drylamp.core.loads.lumber.meter import felt_at
from drylamp.core.loads.lumber.outcome import LumberResult, LumberResults, kept_of, percent
from drylamp.core.loads.lumber.outside import dried_outside
from drylamp.core.loads.lumber.quality import end_loss_mm
from drylamp.core.loads.lumber.questions import (
    charge,
    links,
    money,
    queue,
    saw,
    sizes,
    today,
    until_dry_by_chance,
    weeks,
)
from drylamp.core.loads.lumber.questions.ahead import driest_fortnight
from drylamp.core.loads.lumber.questions.dried import days_to_dry, first_day
from drylamp.core.loads.lumber.spec import LumberCharge
from drylamp.core.outcome.flag import Flag
from drylamp.core.outcome.of_load import Measure
from drylamp.core.text import amount, capital, kelvin, kilograms

THICK_STICKS_MM = 32.0
SMALLER = 0.6
WARMER_K = 2.0
YEAR_DAYS = 365.0
SAYS_MC, NEAR_MC, LITTLE_END_MM = 0.08, 0.012, 15.0
HEAVY_KG_M2 = 250.0
"""From here on a usual floor wants a look at its joists; from memory: dwellings are built for 200 kg/m² and their own weight."""


# --- changes ---


def _stacking(build: Build, load: LumberCharge) -> Iterator[Change]:
    if not load.baffled:
        yield Change(
            "baffles beside and over the stack", "load", build, load.model_copy(update={"baffled": True}), 10.0
        )
    if load.sticker_mm < THICK_STICKS_MM:
        yield Change(
            f"sticks of {amount(THICK_STICKS_MM, 'length_mm')}",
            "load",
            build,
            load.model_copy(update={"sticker_mm": THICK_STICKS_MM}),
            5.0,
        )
    yield Change("three fifths of it at a time", "load", build, load.times(SMALLER), 0.0)
    if load.stack_deep_m > 0.8:
        yield Change(
            "stacked narrower along the air",
            "load",
            build,
            load.model_copy(update={"stack_deep_m": round(load.stack_deep_m * 0.7, 2)}),
            0.0,
        )


def _mixed(context: AdviceContext, build: Build, load: LumberCharge) -> list[Option]:
    """One thickness at a time or together: each group alone by the whole volume, and all of them."""
    if len(load.groups) < 2:
        return []
    alone = [Option(f"{group.title} alone", build, load.all_of(group)) for group in load.groups[:3]]
    return [*alone, Option("mixed, as it is", build, load)]


HOURS = Measure("hours", 0.0, 24.0, 24.0)


def _air_first(context: AdviceContext, build: Build, load: LumberCharge) -> list[Option]:
    """The same boards green, and as they come in after their time outside; only of what was sawn, not of what was measured."""
    if load.already_in or any(group.row.green_heart_mc <= AIR_DRIED_MC for group in load.groups):
        return []
    fresh = load.afresh()

    def gone_in(start: Start) -> LumberCharge:
        return fresh.model_copy(update={"groups": [group.sawn(start) for group in fresh.groups]})

    return [
        Option("green into the kiln", build, gone_in("green-heart")),
        Option("air-dried first, then the kiln", build, gone_in("air-dried")),
    ]


def _kiln_hours(context: AdviceContext, option: Option) -> float | None:
    """Hours of kiln, less is better: of the thickest by the whole volume."""
    one = cast(LumberCharge, option.load).thickest_alone
    days = days_to_dry(context.case.with_(build=option.build, load=one), first_day(context))
    return None if days is None else -24.0 * days


# --- sayings ---


def _latex(context: AdviceContext, build: Build, load: LumberCharge) -> Found | None:
    """Latex paint against wax emulsion and bare ends, at the published rate."""
    green = [group for group in load.numbered if group.mean_mc > FIBRE_SATURATION]
    if not green:
        return None
    worst = max(green, key=lambda group: group.thickness_mm)
    bare, latex, wax = (end_loss_mm(paint, worst, 1.0) for paint in ("none", "paint", "wax-emulsion"))
    words = f"Ends of {worst.title} lose about {amount(bare, 'length_mm')} bare, {amount(latex, 'length_mm')} under latex, {amount(wax, 'length_mm')} under wax emulsion where they dry at the published rate (from memory)."
    saved, missed = bare - latex, latex - wax
    return Found(saved / 1000.0, words, "holds" if missed < LITTLE_END_MM else "holds partly")


def _says_eight(context: AdviceContext, build: Build, load: LumberCharge) -> Found | None:
    """Whether the meter ever says eight in this air, and what the wood holds when it does."""
    run = context.run(build, load)
    lowest, _ = driest_fortnight(run, context)
    group = min(load.numbered, key=lambda one: one.target_mc)
    warm = float(np.nanmean(run.temperature_c[CHAMBER]))
    held = felt_at(load.meter, group, SAYS_MC, warm)
    if held < lowest:
        return Found(held - lowest, f"The chamber's air brings wood to {percent(lowest)} in these days; the meter says eight at {percent(held)}: it never does.", "wrong")  # fmt: skip
    off = held - group.target_mc
    words = f"When the meter says eight, with wood at {amount(warm, 'temperature')} and set as it is, {group.title} holds {percent(held)}; {percent(group.target_mc)} is wanted."
    ruling: Ruling = "holds" if abs(off) <= NEAR_MC else "holds partly" if off < 0.0 else "wrong"
    return Found(-abs(off), words, ruling)


def _two_kelvin(context: AdviceContext, build: Build, load: LumberCharge) -> Found | None:
    """Air as it is outside, two kelvin warmer: what it would bring wood to, against the target."""
    weather = context.weather
    vapour = float((weather.vapour_pa).mean())
    mean = float(weather.air_c.mean())
    outside = equilibrium_mc(mean, min(float(weather.rh.mean()), 0.99))
    warmer = equilibrium_mc(mean + WARMER_K, min(vapour / float(saturation_pressure_pa(mean + WARMER_K)), 0.99))
    target = min(group.target_mc for group in load.groups)
    words = (
        f"Air like this, {kelvin(WARMER_K)} warmer, brings wood to {percent(warmer)} in place of {percent(outside)}: enough for {percent(target)}."
        if warmer <= target
        else f"Air like this, {kelvin(WARMER_K)} warmer, brings wood to {percent(warmer)} in place of {percent(outside)}: it dries, and stops short of {percent(target)}."
    )
    return Found(
        outside - warmer,
        words,
        "holds" if warmer <= target else "holds partly" if outside - warmer > 0.004 else "wrong",
    )


def _halves(context: AdviceContext, build: Build, load: LumberCharge) -> Found | None:
    """Moisture lost in the kiln against the stack outside, over the same days."""
    run, group = context.run(build, load), load.numbered[0]
    kept = kept_of(group, run)
    if kept is None:
        return None
    out = dried_outside(load, group, context.weather, kept.first).mean_mc
    here, there = float(kept.mean[0] - kept.mean[-1]), float(out[kept.first] - out[kept.last])
    if there <= 1e-5:
        return Found(
            here,
            f"Outside, {group.title} does not dry at all in these days; in the kiln it loses {percent(here)}.",
            "wrong",
        )
    times = here / there
    words = f"Over {(kept.last - kept.first) * run.weather.dt_s / 86400.0:.0f} such days {group.title} loses {percent(here)} in the kiln and {percent(there)} outside: {times:.1f} times as much."
    return Found(times - 2.0, words, "holds" if 1.6 <= times <= 2.6 else "holds partly" if times > 2.6 else "wrong")


def _inch_a_year(context: AdviceContext, build: Build, load: LumberCharge) -> Found | None:
    """Days that a stack outside takes from green to a fifth of water, by its inches."""
    group = max(load.numbered, key=lambda one: one.thickness_mm)
    fresh = group.sawn("green-heart")
    steps = context.weather.steps
    tiled = context.weather.like(
        np.arange(steps * max(1, round(YEAR_DAYS * 86400.0 / (steps * context.weather.dt_s)))) % steps
    )
    mean = dried_outside(load, fresh, tiled, 0).mean_mc
    below = np.flatnonzero(mean <= 0.20)
    inches = group.thickness_mm / 1000.0 / INCH_M
    if not len(below):
        return Found(
            -1.0,
            f"In days like these {group.title} is not at 20 % after a year outside.",
            "wrong" if inches <= 1.0 else "holds",
        )
    days = float(below[0]) * context.weather.dt_s / 86400.0
    share = days / (YEAR_DAYS * inches)
    words = f"In days like these {group.title} is at 20 % after {days:.0f} days outside, {100 * share:.0f} % of a year for each inch; winters take longer, and two inches more than twice one."
    return Found(share - 1.0, words, "holds" if 0.7 <= share <= 1.4 else "holds partly" if share > 0.4 else "wrong")


# --- cautions ---


def _found(seen: Seen, load: LumberCharge) -> LumberResult | None:
    return cast(LumberResults, seen.results).lumber


def _safe_rate(seen: Seen, build: Build, load: LumberCharge) -> list[Flag]:
    found, out = _found(seen, load), list[Flag]()
    for group in [] if found is None else found.groups:
        times = group.safe_share
        if times is not None and times > 1.0:
            out += flag(
                "stop" if times > 1.5 else "warn", "load",
                f"{capital(group.title)} loses {percent(group.worst_loss)} in a day, {percent(group.safe_per_day or 0.0)} is the published safe rate: it may check. Shut the vents while it is wet, stop a fan, shade part of the roof, or fill the kiln more.",
            )  # fmt: skip
        elif group.safe_per_day is None and group.checks == "high":
            out += flag(
                "note",
                "load",
                f"{capital(group.title)}: its shell is pulled as much as it bears; no safe rate is published for it. Look at ends and faces in the first week.",
            )
        if group.honeycomb != "none":
            out += flag(
                "warn",
                "load",
                f"{capital(group.title)}: its core is pulled hard while the shell is set: cracks inside that nobody sees. Slow down, and let damp nights relieve it.",
            )
    return out


def _mould(seen: Seen, build: Build, load: LumberCharge) -> list[Flag]:
    found = _found(seen, load)
    if found is None or found.mould_hours < 12.0:
        return []
    return flag(
        "warn",
        "load",
        f"{found.mould_hours:.0f} hours of air damper than 80 % between 10 and 40 °C: mould and blue stain begin on fresh faces within days. Open the vents, run the fan, get it dry at its faces first; wear a mask when you handle mouldy boards.",
    )


def _weight(seen: Seen, build: Build, load: LumberCharge) -> list[Flag]:
    """Weight of a wet charge on the floor that it stands on."""
    stack = load.stacked()
    if stack is None:
        return []
    by_area = stack.wet_kg / max(stack.top_m2, 0.1)
    text = f"The charge weighs {kilograms(stack.wet_kg)} as it goes in, {amount(by_area, 'mass_area')} under the stack: see that floor, joists and, on a trailer, axle and tyres bear it; a builder or the plate on the trailer says what they bear."
    return flag("warn" if by_area > HEAVY_KG_M2 else "note", "load", text)


def _weights(seen: Seen, build: Build, load: LumberCharge) -> list[Flag]:
    if load.weights_kg_m2 <= 0.0:
        return flag(
            "note",
            "load",
            "Nothing weighs the top layers down: they cup and twist as they dry. Stone or concrete on sticks, lifted by two, never stacked loose over head height.",
        )
    return flag(
        "note",
        "load",
        "Weights on the stack: lift with two, tie or wedge them so that none slides off when the stack shrinks.",
    )


def _oily(seen: Seen, build: Build, load: LumberCharge) -> list[Flag]:
    return flag(
        "stop",
        "load",
        "No timber with oil, diesel, tar or paint on it near the heat: it fumes and may catch fire; no treated or salvaged wood of unknown past.",
    )


def _ends(seen: Seen, build: Build, load: LumberCharge) -> list[Flag]:
    found = _found(seen, load)
    green = [] if found is None else [group for group in found.groups if group.start_mc > FIBRE_SATURATION]
    if load.end_paint != "none" or not green:
        return []
    worst = max(load.numbered, key=lambda group: group.thickness_mm)
    return flag(
        "note",
        "load",
        f"Bare ends of green boards check: about {amount(end_loss_mm('none', worst, 1.0), 'length_mm')} of each end of {worst.title} where it dries at the published rate. Paint them on the day they are sawn, best with wax emulsion.",
    )


def _animals(seen: Seen, build: Build, load: LumberCharge) -> list[Flag]:
    warm = float(np.nanmax(seen.run.temperature_c[CHAMBER]))
    return flag(
        "note",
        "chamber",
        f"Look inside before you shut it: animals shelter in it, and it gets {amount(warm, 'temperature')} warm.",
    )


ADVICE: LoadAdvice[LumberCharge] = LoadAdvice(
    changes=(Rule("load", _stacking),),
    schools=(
        School("mixed", "One thickness in a charge, or mixed?", _mixed), School("air-first", "Air-dry first, or green into the kiln? Hours of kiln.", _air_first, Scored(HOURS, _kiln_hours)),
    ),
    sayings=(
        Saying("two-kelvin", "Two degrees warmer than outside already dries.", _two_kelvin), Saying("kiln-halves", "A kiln halves the time.", _halves), Saying("inch-a-year", "A year for each inch.", _inch_a_year),
        Saying("latex-ends", "Paint any latex on the ends.", _latex), Saying("says-eight", "Wait until the meter says eight.", _says_eight),
    ),
    cautions=(
        Caution("safe-rate", _safe_rate), Caution("mould", _mould), Caution("charge-weight", _weight), Caution("stack-weights", _weights), Caution("oily-timber", _oily), Caution("board-ends", _ends),
        Caution("animals", _animals),
    ),
    answers={"charge": charge, "today": today, "weeks": weeks, "sizes": sizes, "links": links, "saw": saw, "money": money},
    year=until_dry_by_chance,
    longer={"queue": queue},
)  # fmt: skip
