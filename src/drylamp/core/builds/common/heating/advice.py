"""What is said of everything that heats a load: preheating, the air outside, and what of the sun is useful."""

from __future__ import annotations

import numpy as np

from drylamp.core.advice.context import AdviceContext, score_of
from drylamp.core.advice.entries import Found, Saying
from drylamp.core.builds.build import Build
from drylamp.core.builds.registry import kind_of
from drylamp.core.loads.load import Load
from drylamp.core.text import kelvin

PREHEAT_S = 1800.0
COLD_K = 15.0
FELT = 4.0
"""So many kelvin less under colder air are felt in any kitchen; from memory."""


def _preheat(context: AdviceContext, build: Build, load: Load | None) -> Found | None:
    if load is None:
        return None
    begun, ready = context.put_in_s(), context.ready(build, load)
    warm, cold = (
        score_of(context.case.site, build, load, ready.uncovered(at).run()) for at in (begun - PREHEAT_S, begun)
    )
    effect = warm.value - cold.value
    both = warm.minutes is not None and cold.minutes is not None
    sooner = f", target {(cold.minutes or 0) - (warm.minutes or 0):.0f} min sooner" if both else ""
    said = context.measure.signed(effect)
    return Found(effect, f"Half an hour of sun on it before the load goes in: {said}{sooner}.")


def _outside_air(context: AdviceContext, build: Build, load: Load | None) -> Found | None:
    colder = context.on(air_c=context.weather.air_c - COLD_K)
    effect = context.score(build, load).value - colder.score(build, load).value
    measure = context.measure
    small = effect < measure.least_worth
    partly = effect < FELT and measure.quantity == "difference"
    return Found(
        -effect,
        f"The same sun with {kelvin(COLD_K)} colder air: {measure.signed(-effect)}.",
        "does not matter here" if small else "holds partly" if partly else "wrong",
    )


def _efficient(context: AdviceContext, build: Build, load: Load | None) -> Found | None:
    if load is None:
        return None
    run = context.run(build, load)
    lit = run.opening_w > 1.0
    useful = float(np.maximum(run.account_w[kind_of(build).useful_account][lit], 0.0).sum() / run.opening_w[lit].sum())
    return Found(
        0.0,
        f"Of 100 parts of the sun on the opening {useful * 100:.0f} end in the load here, however black it is: cover, walls and mirrors take the rest.",
        "wrong",
    )


PREHEAT: Saying[Build, Load | None] = Saying("preheat", "Preheat half an hour.", _preheat)
OUTSIDE: Saying[Build, Load | None] = Saying("outside", "The outside temperature does not matter.", _outside_air)
EFFICIENT: Saying[Build, Load | None] = Saying(
    "efficient", "A coating that absorbs 95 % makes it 95 % efficient.", _efficient
)
