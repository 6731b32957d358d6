"""What is said of water that is heated to be drawn."""

from __future__ import annotations

from collections.abc import Iterator
from typing import cast

import numpy as np

from drylamp.core.advice.context import AdviceContext
from drylamp.core.advice.entries import Caution, Change, LoadAdvice, Option, Rule, School, Seen, flag
from drylamp.core.advice.grey import GreyDay, GreyDays, grey_runs
from drylamp.core.builds.build import Build
from drylamp.core.loads.common.filling import TOP
from drylamp.core.loads.common.kept.outcome import MORNING, WaterDay, WaterResults, results, sizes
from drylamp.core.loads.common.kept.spec import KeptWater
from drylamp.core.loads.common.outcome import at_hour
from drylamp.core.loads.common.scald import SCALD_C, scald_s
from drylamp.core.outcome.flag import Flag
from drylamp.core.sky.site import Site
from drylamp.core.text import celsius, kilograms, litres
from drylamp.core.twin.run import Run

GROWS_C = (20.0, 45.0)
"""Between these legionella grows (usual plumbing guidance, from memory)."""
GROWS_FROM_H = 4.0
DEPTHS = (0.75, 1.25)


def _depths(build: Build, load: KeptWater) -> Iterator[Change]:
    for share in DEPTHS:
        other = load.times(share)
        yield Change(f"{litres(other.fill_l)} in it instead", "load", build, other, 0.0)


def _depth_options(context: AdviceContext, build: Build, load: KeptWater) -> list[Option]:
    return [Option(litres(other.fill_l), build, other) for other in sizes(load)]


def _scald(seen: Seen, build: Build, load: KeptWater) -> list[Flag]:
    hottest = float(np.nanmax(seen.run.temperature_c[TOP]))
    if hottest < SCALD_C:
        return []
    seconds = scald_s(hottest)
    said = f"{seconds:.0f} seconds" if seconds < 120 else f"{seconds / 60:.0f} minutes"
    return flag(
        "warn", "load",
        f"Scald: the water gets to {celsius(hottest)}, which burns in about {said}. Mix it down at the tap by a mixing valve, and feel it "
        "before children do.",
    )  # fmt: skip


def _grows(seen: Seen, build: Build, load: KeptWater) -> list[Flag]:
    series = seen.run.temperature_c[TOP]
    low, high = GROWS_C
    hours = float(((series >= low) & (series <= high)).sum()) * seen.run.weather.dt_s / 3600.0
    if hours < GROWS_FROM_H:
        return []
    return flag(
        "warn", "load",
        f"Germs: {hours:.0f} hours between {celsius(low)} and {celsius(high)}, in which legionella grows. Use it up the same day or heat it to "
        f"{celsius(60.0)}, flush what stood, and do not spray it; local health codes come first.",
    )  # fmt: skip


def _weight(seen: Seen, build: Build, load: KeptWater) -> list[Flag]:
    return flag(
        "note", "load",
        f"Weight: {kilograms(load.fill_l)} of water, {kilograms(load.fill_l / 4)} on each of four legs, beside the box itself. On a roof or a "
        "balcony a qualified person decides.",
    )  # fmt: skip


def _freezes(seen: Seen, build: Build, load: KeptWater) -> list[Flag]:
    coldest = float(np.nanmin(seen.run.temperature_c[TOP]))
    if coldest > 1.0 and float(np.min(seen.run.weather.air_c)) > 0.0:
        return []
    return flag(
        "stop", "load",
        "Frost: the air falls below freezing in this run. Drain box, pipes and tap before such a night; water that freezes bursts what holds it.",
    )  # fmt: skip


def _not_to_drink(seen: Seen, build: Build, load: KeptWater) -> list[Flag]:
    return flag(
        "note", "load",
        "Not for drinking: warm water that stood in paint, rubber or film is for washing. On the mains it needs a backflow preventer; local "
        "codes and a licensed plumber decide how.",
    )  # fmt: skip


def _grey_days(context: AdviceContext, load: KeptWater) -> GreyDays:
    """Evenings of the last day of sun and of the grey days after it."""
    fair, grey = grey_runs(context)
    site = context.case.site
    last, *_ = reversed(_days_of(site, load, fair))
    after = _days_of(site, load, grey)[:-1]
    morning = at_hour(grey, grey.temperature_c[TOP], MORNING)
    days = [
        _grey_day(last.model_copy(update={"morning_c": morning}), 0),
        *(_grey_day(day, k + 1) for k, day in enumerate(after)),
    ]
    return GreyDays(warm_c=load.warm_c, days=days, words=_grey_words(load, days))


def _days_of(site: Site, load: KeptWater, run: Run) -> list[WaterDay]:
    found = cast(WaterResults, results(site, load, run)).water
    assert found is not None
    return found.days


def _grey_day(day: WaterDay, count: int) -> GreyDay:
    return GreyDay(
        evening=day.evening, grey_days=count, top_c=day.top_c, bottom_c=day.bottom_c, warm_l=day.warm_l, morning_c=day.morning_c
    )  # fmt: skip


def _grey_words(load: KeptWater, days: list[GreyDay]) -> str:
    begun, *grey = days
    told = ", ".join(f"{celsius(day.top_c)} after {day.grey_days}" for day in grey)
    said = f"After a run of sun it is {celsius(begun.top_c)} at {load.want_at}; it is {told} grey days."
    short = next((day for day in days if day.warm_l < load.want_l), None)
    if short is None:
        return f"{said} There are {litres(load.want_l)} at {celsius(load.warm_c)} on all of them."
    if short.grey_days == 0:
        return f"{said} Even in sun it does not make {litres(load.want_l)} at {celsius(load.warm_c)}."
    which = {1: "first", 2: "second"}.get(short.grey_days, "third")
    return f"{said} On the {which} grey day it no longer makes {litres(load.want_l)} at {celsius(load.warm_c)}: heat the rest another way."


ADVICE: LoadAdvice[KeptWater] = LoadAdvice(
    changes=(Rule("load", _depths),),
    schools=(School("depth", "How much water in it?", _depth_options),),
    cautions=(
        Caution("scald", _scald), Caution("germs", _grows), Caution("water-weight", _weight), Caution("frost", _freezes),
        Caution("not-to-drink", _not_to_drink),
    ),
    grey_days=_grey_days,
)  # fmt: skip
