"""What is said of water that runs through a pipe in the sun."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np

from drylamp.core.advice.context import AdviceContext
from drylamp.core.advice.entries import Caution, Change, Found, LoadAdvice, Option, Rule, Saying, School, Seen, flag
from drylamp.core.builds.build import Build
from drylamp.core.loads.common.filling import TOP
from drylamp.core.loads.common.scald import SCALD_C, scald_s
from drylamp.core.loads.running.spec import RunningWater
from drylamp.core.outcome.flag import Flag
from drylamp.core.outcome.registry import measure_of
from drylamp.core.text import celsius, counted, litres_a_minute

TRICKLE, FULL = 0.25, 4.0
"""Shares of the flow now that stand for a trickle and for a full stream."""


def _at_flow(load: RunningWater, share: float) -> RunningWater:
    return load.model_copy(
        update={"running": [part.model_copy(update={"l_min": min(part.l_min * share, 100.0)}) for part in load.running]}
    )


def _flows(build: Build, load: RunningWater) -> Iterator[Change]:
    if load.running:
        yield Change("twice the flow", "load", build, _at_flow(load, 2.0), 0.0)
        yield Change("half the flow", "load", build, _at_flow(load, 0.5), 0.0)


def _flow_options(context: AdviceContext, build: Build, load: RunningWater) -> list[Option]:
    if not load.running:
        return []
    return [
        Option(f"a trickle, {litres_a_minute(load.running[0].l_min * TRICKLE)}", build, _at_flow(load, TRICKLE)),
        Option(f"as it is, {litres_a_minute(load.running[0].l_min)}", build, load),
        Option(f"full flow, {litres_a_minute(load.running[0].l_min * FULL)}", build, _at_flow(load, FULL)),
    ]


def _slower_is_hotter(context: AdviceContext, build: Build, load: RunningWater) -> Found | None:
    if not load.running:
        return None
    gain = context.between((build, _at_flow(load, TRICKLE)), (build, load))
    words = (
        f"A quarter of the flow comes out hotter to the hand, but the day's heat changes by {measure_of(load).signed(gain)}: a hot hose loses more "
        "to the air than a cool one."
    )
    return Found(gain, words)


def _scald(seen: Seen, build: Build, load: RunningWater) -> list[Flag]:
    hottest = float(np.nanmax(seen.run.temperature_c[TOP]))
    if hottest < SCALD_C:
        return []
    return flag(
        "warn", "load",
        f"Scald: water in the pipe gets to {celsius(hottest)}, which burns in about {counted(max(round(scald_s(hottest)), 1), 'second')}; the first litres of a hose that "
        "stood in the sun are the hottest. Let them run off, mix them down, keep children away.",
    )  # fmt: skip


def _freezes(seen: Seen, build: Build, load: RunningWater) -> list[Flag]:
    if float(np.min(seen.run.weather.air_c)) > 1.0:
        return []
    return flag(
        "stop",
        "load",
        "Frost: the air falls below freezing in this run. Blow the hose out before such a night; water that freezes splits it.",
    )


def _not_to_drink(seen: Seen, build: Build, load: RunningWater) -> list[Flag]:
    return flag(
        "note", "load",
        "Not for drinking: hoses give off what they are made with when they are hot, and what stood lukewarm grows germs. On the mains it needs a "
        "backflow preventer; local codes and a licensed plumber decide how.",
    )  # fmt: skip


ADVICE: LoadAdvice[RunningWater] = LoadAdvice(
    changes=(Rule("load", _flows),),
    schools=(School("flow", "A trickle, or full flow?", _flow_options),),
    sayings=(Saying("slow-water", "Slow the water down to heat it more", _slower_is_hotter),),
    cautions=(Caution("hose-scald", _scald), Caution("hose-frost", _freezes), Caution("hose-not-to-drink", _not_to_drink)),
)  # fmt: skip
