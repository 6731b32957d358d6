"""What is said of everything that heats a load: preheating, the air outside, and what of the sun is useful."""

from __future__ import annotations

import numpy as np

from drylamp.core.advice.context import AdviceContext
from drylamp.core.advice.entries import Found, Ruling, Saying
from drylamp.core.air.constants import CP_WATER_J_KGK, KWH_J
from drylamp.core.arrays import Array
from drylamp.core.builds.build import Build
from drylamp.core.builds.registry import kind_of
from drylamp.core.loads.load import Load
from drylamp.core.text import amount, kelvin
from drylamp.core.twin.run import Run

PREHEAT_S = 1800.0
COLD_K = 15.0
HARDLY_LESS = 0.9
"""Heat over claim from which a claim may stand; from memory."""
NO_SOONER_MIN, MUCH_SOONER_MIN = 3.0, 10.0
"""Minutes that nobody notices over a meal, and that anybody does; from memory."""
LIT_SHARE, NEARLY_ALL = 0.1, 0.85
"""Of the day's strongest sun on the opening, from where on there is sun; a share that would come near to 95 %."""
FELT_SHARE = 0.1
FELT = 4.0
"""So many kelvin less under colder air are felt in any kitchen; from memory."""


def _preheat(context: AdviceContext, build: Build, load: Load | None) -> Found | None:
    if load is None:
        return None
    begun, ready = context.put_in_s(), context.ready(build, load)
    warm, cold = (context.score_of(build, load, ready.uncovered(at).run()) for at in (begun - PREHEAT_S, begun))
    effect = warm.value - cold.value
    words = f"Half an hour of sun on it before the load goes in makes {context.measure.signed(effect)}"
    if warm.minutes is None or cold.minutes is None:
        return Found(effect, f"{words}.")
    sooner = cold.minutes - warm.minutes
    ruling: Ruling = (
        "does not matter here"
        if abs(sooner) < NO_SOONER_MIN
        else "wrong"
        if sooner < 0
        else "holds"
        if sooner > MUCH_SOONER_MIN
        else "holds partly"
    )
    return Found(
        sooner,
        f"{words}, and brings it to its target {sooner:.0f} min {'sooner' if sooner > 0 else 'later'}.",
        ruling,
        "minutes",
        "minutes to the target",
    )


def _outside_air(context: AdviceContext, build: Build, load: Load | None) -> Found | None:
    colder = context.on(air_c=context.weather.air_c - COLD_K)
    now = context.score(build, load).value
    effect = now - context.score_under(colder, build, load).value
    measure, whole = context.measure, abs(now)
    small = effect < measure.least_worth
    partly = effect < (FELT if measure.quantity == "difference" else FELT_SHARE * whole)
    return Found(
        -effect,
        f"The same sun with {kelvin(COLD_K)} colder air makes {measure.signed(-effect)}.",
        "does not matter here" if small else "holds partly" if partly else "wrong",
    )


def _efficient(context: AdviceContext, build: Build, load: Load | None) -> Found | None:
    if load is None:
        return None
    run = context.run(build, load)
    lit = run.opening_w > LIT_SHARE * run.opening_w.max()
    useful = float(_useful_w(build, run)[lit].sum() / run.opening_w[lit].sum())
    near = useful > NEARLY_ALL
    return Found(
        0.0,
        f"In the hours with sun on the opening {useful * 100:.0f} of 100 parts of it end in the load here, steam counted: cover, walls and mirrors take the rest.",
        "holds" if near else "wrong", counts="heat into the load over sun on the opening, while there is sun",
    )  # fmt: skip


def _useful_w(build: Build, run: Run) -> Array:
    """Heat that the load takes up in each step, what is drawn of it and what leaves as its steam included, W, shape (steps,)."""
    steam = run.account_w["steam"] if run.steamed_kg else 0.0
    return np.asarray(
        run.account_w[kind_of(build).useful_account] + run.drawn_kg_k * CP_WATER_J_KGK / run.weather.dt_s + steam
    )


def _rated(context: AdviceContext, build: Build, load: Load | None) -> Found | None:
    """Power of its best hour times hours of daylight, beside the heat that it delivers."""
    if load is None:
        return None
    run = context.run(build, load)
    dt_s, useful = run.weather.dt_s, _useful_w(build, run)
    hour = max(1, round(3600.0 / dt_s))
    best_w = float(np.convolve(useful, np.full(hour, 1.0 / hour), mode="valid").max())
    hours = float((run.weather.sun.direction[:, 2] > 0.0).sum()) * dt_s / 3600.0
    claimed, real = best_w * hours / 1000.0, float(useful.sum()) * dt_s / KWH_J
    words = (
        f"Its best hour is {amount(best_w, 'power')}; times {hours:.0f} hours of daylight that would be {amount(claimed, 'energy')}, and "
        f"{amount(real, 'energy')} arrive. Count what comes out of the tap, never a rating times hours."
    )
    return Found(0.0, words, "wrong" if real < HARDLY_LESS * claimed else "holds partly")


PREHEAT: Saying[Build, Load | None] = Saying("preheat", "Preheat half an hour.", _preheat)
OUTSIDE: Saying[Build, Load | None] = Saying("outside", "The outside temperature does not matter.", _outside_air)
EFFICIENT: Saying[Build, Load | None] = Saying(
    "efficient", "A coating that absorbs 95 % makes it 95 % efficient.", _efficient
)
RATED: Saying[Build, Load | None] = Saying(
    "rated", "What it is rated for times the hours of sun is what I get.", _rated
)
