"""What is said of loops, whatever they warm: flow, hours or a switch, valve, lagging; electricity, frost, what the pump eats."""

from __future__ import annotations

from collections.abc import Iterator
from typing import TypeVar

import numpy as np

from drylamp.core.advice.context import AdviceContext
from drylamp.core.advice.entries import Caution, Change, Found, Option, Rule, Ruling, Saying, School, Seen, flag
from drylamp.core.air.constants import KWH_J
from drylamp.core.builds.build import Build
from drylamp.core.loads.common.loop.ends import LOOP
from drylamp.core.loads.common.loop.outcome import starts
from drylamp.core.loads.common.loop.spec import Looped, PipeRun, Pump
from drylamp.core.outcome.flag import Flag
from drylamp.core.outcome.registry import measure_of
from drylamp.core.text import amount, celsius, kilowatt_hours, litres, litres_a_minute

LAGGED_MM, LAGGING_PRICE_M = 19.0, 2.5
SWITCH_PRICE, VALVE_PRICE, PUMP_PRICE = 35.0, 8.0, 40.0
"""New, from memory."""
TRICKLE_L_MIN, FULL_L_MIN = 0.5, 8.0
FREEZES_C, HOT_PIPE_C = 1.0, 60.0
MOST_STARTS, DAY_S = 12.0, 86400.0
"""So many a day wear no pump; common practice, no source."""


L = TypeVar("L", bound=Looped)


def with_pump(load: L, **changes: object) -> L:
    """The same with something else about its pump; a usual pump where there is none."""
    pump = load.pump or Pump()
    return load.model_copy(update={"pump": Pump.model_validate({**pump.model_dump(), **changes})})


def _by_difference(load: L) -> L:
    return with_pump(load, how="difference", on_k=5.0, off_k=2.0, cools=False)


def _lagged(load: L) -> L:
    run = PipeRun.model_validate({**load.run.model_dump(), "lagging_mm": LAGGED_MM})
    return load.model_copy(update={"run": run})


def _changes(build: Build, load: Looped) -> Iterator[Change]:
    length_m = load.run.there_m + load.run.back_m
    if load.run.lagging_mm < LAGGED_MM:
        title = f"{amount(LAGGED_MM / 1000.0, 'length')} of foam round the pipes"
        yield Change(title, "load", build, _lagged(load), LAGGING_PRICE_M * length_m)
    if not load.check_valve:
        yield Change("a check valve", "load", build, load.model_copy(update={"check_valve": True}), VALVE_PRICE)
    if load.pump is None:
        for higher in (0.5, 1.0):
            other = load.model_copy(update={"above_m": load.above_m + higher})
            yield Change(f"store {amount(higher, 'length')} higher", "load", build, other, 0.0)
        yield Change("a pump by two temperatures", "load", build, _by_difference(load), PUMP_PRICE + SWITCH_PRICE)
    elif load.pump.how != "difference":
        yield Change("a controller by two temperatures", "load", build, _by_difference(load), SWITCH_PRICE)


def _flow_options(context: AdviceContext, build: Build, load: Looped) -> list[Option]:
    if load.pump is None:
        return []
    return [
        Option(f"a trickle, {litres_a_minute(TRICKLE_L_MIN)}", build, with_pump(load, l_min=TRICKLE_L_MIN)),
        Option("as it is", build, load),
        Option(f"full flow, {litres_a_minute(FULL_L_MIN)}", build, with_pump(load, l_min=FULL_L_MIN, free_l_min=max(FULL_L_MIN, load.pump.free_l_min))),
    ]  # fmt: skip


def _control_options(context: AdviceContext, build: Build, load: Looped) -> list[Option]:
    if load.pump is None:
        return []
    return [
        Option("by the clock, 10 to 17", build, with_pump(load, how="hours", begins="10:00", ends="17:00")),
        Option("by two temperatures", build, _by_difference(load)),
        Option("day and night", build, with_pump(load, how="always")),
    ]


def _slower_is_hotter(context: AdviceContext, build: Build, load: Looped) -> Found | None:
    if load.pump is None:
        return None
    slow = with_pump(load, l_min=TRICKLE_L_MIN)
    gain = context.between((build, slow), (build, load))
    words = (
        f"At {litres_a_minute(TRICKLE_L_MIN)} the return is hotter to the hand, but what the store has of it in the end changes by "
        f"{measure_of(load).signed(gain)}: a hot coil loses more to the air than a cool one."
    )
    return Found(gain, words)


def _pump_eats_it(context: AdviceContext, build: Build, load: Looped) -> Found | None:
    pump = load.pump
    if pump is None:
        return None
    run = context.run(build, load)
    won = float(run.circulated[LOOP].gain_w.sum()) * run.weather.dt_s / KWH_J
    eaten = float(run.ran_s[LOOP].sum()) * pump.motor_w / KWH_J
    if won <= 0.0:
        return Found(eaten, "On this day the loop wins nothing, so all that the pump draws is lost.", "holds")
    share = eaten / won
    words = (
        f"The pump draws {kilowatt_hours(eaten)} on this day and the loop brings {kilowatt_hours(won)} of heat: {amount(share, 'share')} of it. Electricity is "
        "worth some three times as much as heat."
    )
    ruling: Ruling = "wrong" if share < 0.1 else "holds partly" if share < 0.33 else "holds"
    return Found(eaten - won, words, ruling)


def _electricity(seen: Seen, build: Build, load: Looped) -> list[Flag]:
    if load.pump is None or load.pump.motor_w == 0.0:
        return []
    return flag(
        "warn", "load",
        "Electricity by water: a pump in or beside a tub or tank needs a residual-current device and its plug high and dry, low voltage where people "
        "bathe; local codes and a licensed electrician decide.",
    )  # fmt: skip


def _freezes(seen: Seen, build: Build, load: Looped) -> list[Flag]:
    coldest = float(np.min(seen.run.weather.air_c))
    if coldest > FREEZES_C or not load.may_freeze:
        return []
    nights = len({int(t // 86400) for t in seen.run.weather.sun.time_s[seen.run.weather.air_c <= FREEZES_C]})
    return flag(
        "stop", "load",
        f"Frost: the air falls to {celsius(coldest)} in this run, on {nights} of its days. Coil and pipes burst before the store does: drain both, "
        "with the valves open.",
    )  # fmt: skip


def _hot_pipes(seen: Seen, build: Build, load: Looped) -> list[Flag]:
    top = load.run.pipe(1.0).row.top_service_c
    hottest = max(float(np.nanmax(seen.run.temperature_c[name])) for name in ("run-there", "run-back"))
    if hottest < top:
        return []
    return flag(
        "stop", "load",
        f"The pipe back gets to {celsius(hottest)}; {load.run.pipe(1.0).row.title.lower()} lasts to {celsius(top)}. Take another pipe, or let the pump run while the sun is out.",
    )  # fmt: skip


def _backwards(seen: Seen, build: Build, load: Looped) -> list[Flag]:
    back = float(seen.run.circulated[LOOP].back_kg.sum()) if seen.run.circulated else 0.0
    if back < 20.0:
        return []
    return flag(
        "note", "load",
        f"At night {litres(round(back))} run backwards and the coil cools the store. Raise the store's bottom over the coil's upper edge, or fit a check valve.",
    )  # fmt: skip


def _chatters(seen: Seen, build: Build, load: Looped) -> list[Flag]:
    days = max(1, round(seen.run.weather.steps * seen.run.weather.dt_s / DAY_S))
    a_day = starts(seen.run.ran_s[LOOP]) / days if LOOP in seen.run.ran_s else 0.0
    if load.pump is None or a_day <= MOST_STARTS:
        return []
    return flag(
        "note", "load",
        f"The pump starts {a_day:.0f} times a day: what the sun heats is light, and the pump cools it at once. Throttle it, or set the two differences farther apart.",
    )  # fmt: skip


CHANGES = (Rule("load", _changes),)
SCHOOLS = (
    School("loop-flow", "A trickle through the loop, or full flow?", _flow_options),
    School("loop-control", "Timer, controller, or always on?", _control_options),
)
SAYINGS = (
    Saying("slow-water", "Slow the water down to heat it more", _slower_is_hotter),
    Saying("pump-eats", "The pump eats what it wins", _pump_eats_it),
)
CAUTIONS = (
    Caution("loop-electricity", _electricity), Caution("loop-frost", _freezes), Caution("loop-pipes", _hot_pipes), Caution("loop-backwards", _backwards), Caution("loop-starts", _chatters),
)  # fmt: skip
