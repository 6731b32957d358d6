"""What is said of water for tea: how much at a time, steam and spitting, boiling dry."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np

from drylamp.core.advice.context import AdviceContext
from drylamp.core.advice.entries import Caution, Change, LoadAdvice, Option, Rule, School, Seen, flag
from drylamp.core.builds.build import Build
from drylamp.core.loads.common.filling import TOP
from drylamp.core.loads.common.scald import SCALD_C, scald_s
from drylamp.core.loads.kettle.outcome import KettleResults, sizes
from drylamp.core.loads.kettle.questions import boils, instead, put_out
from drylamp.core.loads.kettle.spec import KettleWater
from drylamp.core.outcome.flag import Flag
from drylamp.core.text import celsius, litres

DRY_SHARE = 0.5
"""Of its water boiled off from which it is told to be looked after."""
SAFE_C = 65.0


def _less(build: Build, load: KettleWater) -> Iterator[Change]:
    half = load.model_copy(update={"fill_l": load.fill_l / 2.0})
    yield Change(f"{litres(half.fill_l)} at a time instead", "load", build, half, 0.0)


def _fills(context: AdviceContext, build: Build, load: KettleWater) -> list[Option]:
    return [Option(litres(other.fill_l), build, other) for other in sizes(load)]


def _spits(seen: Seen, build: Build, load: KettleWater) -> list[Flag]:
    hottest = float(np.nanmax(seen.run.temperature_c[TOP]))
    if hottest < SCALD_C:
        return []
    seconds = scald_s(hottest)
    said = f"{seconds:.0f} seconds" if seconds >= 1.5 else "a second"
    return flag(
        "stop", "load",
        f"Scald: the water gets to {celsius(hottest)}, which burns in {said}. A tube boils in bursts and spits from its mouth: nobody in front of it, never look in, gloves to "
        "pour, and children away.",
    )  # fmt: skip


def _dry(seen: Seen, build: Build, load: KettleWater) -> list[Flag]:
    told = seen.results
    assert isinstance(told, KettleResults)
    assert told.kettle is not None
    lost = max((fill.steam_l for day in told.kettle.days for fill in day.fills), default=0.0)
    if lost < DRY_SHARE * load.fill_l:
        return []
    return flag(
        "warn", "load",
        f"Left alone it boils off {litres(min(lost, load.fill_l))} of {litres(load.fill_l)}: then it stands dry and hot. Pour it out when it is ready, or fold the wings shut.",
    )  # fmt: skip


def _drinking(seen: Seen, build: Build, load: KettleWater) -> list[Flag]:
    return flag(
        "note", "load",
        f"Drinking: clear water that held {celsius(SAFE_C)} for some minutes is pasteurised (WHO, from memory); neither sun nor heat takes out metals or salts. Use a tube that held nothing "
        "else.",
    )  # fmt: skip


ADVICE: LoadAdvice[KettleWater] = LoadAdvice(
    changes=(Rule("load", _less),),
    schools=(School("kettle-fill", "Filled up, or half full twice?", _fills),),
    cautions=(Caution("kettle-scald", _spits), Caution("kettle-dry", _dry), Caution("kettle-drinking", _drinking)),
    instead=instead,
    put_out=put_out,
    boils=boils,
)  # fmt: skip
