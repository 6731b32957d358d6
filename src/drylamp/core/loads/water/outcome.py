"""What became of water in a box: what is said of all water that is kept."""

from __future__ import annotations

from drylamp.core.loads.common.kept.outcome import (
    WaterResults,
    daily,
    done_at,
    enough,
    headline,
    results,
    score,
    sizes,
    steps,
)
from drylamp.core.loads.common.outcome import LITRES
from drylamp.core.loads.water.spec import HotWater
from drylamp.core.outcome.of_load import LoadOutcome

OUTCOME: LoadOutcome[HotWater] = LoadOutcome(
    measure=LITRES, steps=steps, results_model=WaterResults, results=results, headline=headline, score=score, enough=enough,
    counts="litres at the wanted warmth that its heat is worth by the wanted hour",
    done_at=done_at, sizes=sizes, daily=daily, otherwise="Heat the rest another way.",
)  # fmt: skip
