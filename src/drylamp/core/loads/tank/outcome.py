"""What became of a tank on a loop: its water as of any that is drawn, and what the loop did."""

from __future__ import annotations

from typing import TYPE_CHECKING, cast

from drylamp.core.checks import Model
from drylamp.core.loads.common.kept import outcome as kept
from drylamp.core.loads.common.kept.outcome import WaterResults
from drylamp.core.loads.common.loop.outcome import LoopResults, loop_of, loop_steps
from drylamp.core.loads.common.outcome import LITRES
from drylamp.core.loads.tank.spec import LoopTank
from drylamp.core.outcome.of_load import Headline, LoadOutcome, PlanStep
from drylamp.core.sky.site import Site
from drylamp.core.twin.run import Run

if TYPE_CHECKING:
    from drylamp.core.outcome.summary import Outcome


class TankResults(WaterResults, LoopResults):
    """What became of the tank."""


def results(site: Site, load: LoopTank, run: Run) -> Model:
    """Water and loop."""
    held = cast(WaterResults, kept.results(site, load, run)).water
    return TankResults(water=held, loop=loop_of(site, load, run))


def headline(results: Model) -> Headline | None:
    """Evening and litres, and what the loop brought."""
    found = kept.headline(results)
    loop = cast(TankResults, results).loop
    if found is None or loop is None:
        return found
    return Headline(f"{found.said} {loop.words}", found.brief)


def steps(load: LoopTank, outcome: Outcome, get_ready: str) -> list[PlanStep]:
    """Fill, pump, draw."""
    return sorted([*kept.steps(load, outcome, get_ready), *loop_steps(load, outcome)], key=lambda step: step.time)


OUTCOME: LoadOutcome[LoopTank] = LoadOutcome(
    measure=LITRES, steps=steps, results_model=LoopResults, results=results, headline=headline, score=kept.score, enough=kept.enough,
    counts="litres at the wanted warmth that its heat is worth by the wanted hour",
    done_at=kept.done_at, sizes=kept.sizes, daily=kept.daily, otherwise="Heat the rest another way.",
)  # fmt: skip
