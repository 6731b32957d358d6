"""Figures of a drying run."""

from __future__ import annotations

from collections.abc import Callable
from datetime import datetime
from typing import cast

import numpy as np

from drylamp.core.checks import InputProblem
from drylamp.core.loads.common.food.mould import NEAR, OVER
from drylamp.core.loads.common.shelves import INTO
from drylamp.core.loads.food_trays.figures.finish import Weighed, finish, twin_kg, weighings
from drylamp.core.loads.food_trays.outcome import way_to_mould
from drylamp.core.loads.food_trays.spec import FoodTrays
from drylamp.core.sky.clock import local_time
from drylamp.core.text import celsius, kilograms
from drylamp.core.trials.figure import Figure, Found
from drylamp.core.trials.thin_layer import thin_layer_fits

LEAST_WEIGHINGS = 4
UNEVEN = 0.12
"""Spread of moisture ratios between trays from which on turning them round is worth it; from memory."""


def _weighed(found: Found) -> tuple[FoodTrays, list[Weighed]]:
    load = cast(FoodTrays, found.at.facts.load)
    return load, weighings(load, found.at.facts.channels)


def drying_curve(found: Found) -> Figure | None:
    """The curve that goes through the weights of the tray weighed most often."""
    _load, trays = _weighed(found)
    trays = sorted(trays, key=lambda tray: -len(tray.seconds))
    if not trays or len(trays[0].seconds) < LEAST_WEIGHINGS:
        return _blank(
            "drying-curve", "Drying curve", f"Drying curve: {LEAST_WEIGHINGS} weighings of one tray are needed."
        )
    tray = trays[0]
    hours = (tray.seconds - tray.seconds[0]) / 3600.0
    ratio = tray.moisture / float(tray.moisture[0])
    try:
        fits = thin_layer_fits(hours, ratio)
    except InputProblem as problem:
        return _blank("drying-curve", "Drying curve", f"Drying curve: {problem.message}.")
    best = fits[0]
    numbers = ", ".join(f"{name} {value:.3g} ± {best.doubts[name]:.2g}" for name, value in best.parameters.items())
    others = "; ".join(f"{fit.title} r² {fit.r2:.3f}" for fit in fits[1:])
    return Figure(
        name="drying-curve", title="Drying curve", value=round(best.r2, 4), doubt=None, quantity="plain", unit="r²", twin=None, grade=best.title, digits=3,
        words=f"{tray.food.title.capitalize()} on tray {tray.food.tray}: {best.title}, {numbers} (hours), r² {best.r2:.3f}; {others}. Hours of night count too.",
    )  # fmt: skip


def dry_by(found: Found) -> Figure | None:
    """When the last tray will be dry, by twin and weights."""
    load, trays = _weighed(found)
    done = finish(found.at, load, trays)
    begun = found.at.facts.started.timestamp()
    zone = found.at.site.zone

    def said(at: float | None) -> str:
        return "later than the twin looks ahead" if at is None else f"{_when(local_time(zone, at))}"

    told = (
        f"water comes out {done.factor:.2f} times as fast as the table says (± {100 * done.spread:.0f} %)"
        if trays
        else "nothing weighed yet"
    )
    hours = None if done.likely_s is None else (done.likely_s - begun) / 3600.0
    half = None if done.low_s is None or done.high_s is None else (done.high_s - done.low_s) / 7200.0
    return Figure(
        name="dry-by", title="All dry", value=None if hours is None else round(hours, 1), doubt=None if half is None else round(half, 1), quantity="hours", twin=None, grade="", digits=1,
        words=f"All dry by {said(done.likely_s)} ({said(done.low_s)} to {said(done.high_s)} in nine cases of ten); {told}.", brief=f"dry by {said(done.likely_s)}", needs_words=True,
    )  # fmt: skip


def _when(at: datetime) -> str:
    return f"{at:%a %H:%M}"


def evenness(found: Found) -> Figure | None:
    """How far apart the trays are, by their last weights, and by the twin at the same hour."""
    _load, trays = _weighed(found)
    if len(trays) < 2:
        return _blank("evenness", "Trays apart", "Trays apart: weigh two of them at least.")
    left = {tray.food.tray: float(tray.moisture[-1] / tray.moisture[0]) for tray in trays}
    told = []
    for tray in trays:
        kg = float(twin_kg(found.at.likely, tray)[-1])
        if not np.isnan(kg):
            told.append((kg / tray.food.dry_kg - 1.0) / float(tray.moisture[0]))
    apart = max(left.values()) - min(left.values())
    wet, dry = max(left, key=lambda k: left[k]), min(left, key=lambda k: left[k])
    twin = None if len(told) < 2 else round(max(told) - min(told), 3)
    uneven = apart > UNEVEN
    words = f"Tray {dry} is ahead, tray {wet} behind: {100 * left[dry]:.0f} and {100 * left[wet]:.0f} % of their water left."
    cure = f"Let trays {dry} and {wet} change places" if uneven else ""
    return Figure(
        name="evenness", title="Trays apart", value=round(apart, 3), doubt=None, quantity="plain", unit="of the water", twin=twin, grade="uneven" if uneven else "even",
        words=words, passed=not uneven, digits=2, fault="Trays dry unevenly" if uneven else "", cure=cure,
    )  # fmt: skip


def drying_air(found: Found) -> Figure | None:
    """How warm the air at the trays was, at its warmest."""
    at, load = found.at, cast(FoodTrays, found.at.facts.load)
    low, high = max(f.row.low_c for f in load.foods), min(f.row.high_c for f in load.foods)
    read = [
        c
        for c in at.facts.channels
        if c.quantity == "temperature" and not c.is_control and (c.node == INTO or c.node.startswith("tray-"))
    ]
    twin = float(np.nanmax(at.likely.temperature_c[INTO]))
    channel = next((c for c in read if c.node == INTO), read[0] if read else None)
    value = None if channel is None or not len(channel.values) else float(max(channel.values))
    doubt = None if channel is None else channel.doubt
    wanted = f"{celsius(low)} to {celsius(high)} suit this food"
    words = f"Air to the trays: {'not read' if value is None else celsius(value, doubt)} at its warmest; the twin says {celsius(twin)}; {wanted}."
    passed = None if value is None else low <= value <= high + 3.0
    return Figure(
        name="drying-air",
        title="Drying air",
        value=value,
        doubt=doubt,
        quantity="temperature",
        twin=round(twin, 2),
        grade="",
        words=words,
        passed=passed,
        digits=1,
    )


def mould_near(found: Found) -> Figure | None:
    """How near the wettest tray came to mould, by the twin corrected by nothing."""
    load, run = cast(FoodTrays, found.at.facts.load), found.at.likely
    if run.damp is None:
        return None
    worst, tray = 0.0, ""
    for food in load.numbered:
        share = float(way_to_mould(food, run)[-1])
        if share > worst:
            worst, tray = share, f"{food.title} on tray {food.tray}"
    said = "Discard what shows any" if worst >= OVER else "Dry that tray first, warm" if worst >= NEAR else ""
    return Figure(
        name="mould-near", title="Way to mould", value=round(100.0 * worst, 0), doubt=None, quantity="plain", unit="%", twin=None, grade="", passed=worst < NEAR,
        words=f"Way to visible mould, by the twin: {100 * worst:.0f} %{f' for {tray}' if tray else ''}.{f' {said}.' if said else ''}", fault="A tray comes near mould" if worst >= NEAR else "", cure=said,
    )  # fmt: skip


def water_out(found: Found) -> Figure | None:
    """Water driven out so far, by the scale."""
    _load, trays = _weighed(found)
    if not trays:
        return _blank("water-out", "Water out", "Water out: nothing weighed yet.")
    gone = sum(float(tray.kg[0] - tray.kg[-1]) for tray in trays)
    doubt = float(np.sqrt(sum(2.0 * tray.doubt_kg**2 for tray in trays)))
    told = [twin_kg(found.at.likely, tray) for tray in trays]
    twin = float(np.nansum([kg[0] - kg[-1] for kg in told]))
    return Figure(
        name="water-out", title="Water out", value=round(gone, 4), doubt=round(doubt, 4), quantity="mass", twin=round(twin, 3), grade="", digits=2,
        words=f"Water out: {kilograms(gone, doubt)}; the twin says {kilograms(twin)}.",
    )  # fmt: skip


def _blank(name: str, title: str, words: str) -> Figure:
    return Figure(name=name, title=title, value=None, doubt=None, quantity="plain", twin=None, grade="", words=words)


FIGURES: dict[str, Callable[[Found], Figure | None]] = {
    "drying-curve": drying_curve, "dry-by": dry_by, "evenness": evenness, "drying-air": drying_air, "mould-near": mould_near, "water-out": water_out,
}  # fmt: skip
