"""What is said of samples side by side."""

from __future__ import annotations

from drylamp.core.advice.entries import BuildAdvice, Burns, Caution, LimitWords, Seen, flag
from drylamp.core.builds.samples.spec import Samples
from drylamp.core.loads.load import Load
from drylamp.core.outcome.flag import Flag
from drylamp.core.text import kilograms

HEAVY_KG = 12.0
"""What one person lifts without thinking; from memory."""


def _paint(seen: Seen, build: Samples, load: Load | None) -> list[Flag]:
    return flag(
        "warn", "board",
        "Fumes: spray and cure the samples outdoors, away from flames, and let them air for the days the maker names. "
        "Old paint under the primer may hold lead: do not sand it dry.",
    )  # fmt: skip


def _edges(seen: Seen, build: Samples, load: Load | None) -> list[Flag]:
    return flag(
        "note", "sample-0",
        "Edges: cut sheet and lids are sharp; file them, and wear gloves. An adult does the cutting.",
    )  # fmt: skip


def _weight(seen: Seen, build: Samples, load: Load | None) -> list[Flag]:
    whole = build.samples_kg
    if whole <= HEAVY_KG:
        return []
    return flag(
        "warn", "board",
        f"Weight: the samples come to {kilograms(whole)}. Carry them one by one and brace the board before it is tilted.",
    )  # fmt: skip


ADVICE: BuildAdvice[Samples] = BuildAdvice(
    burns=Burns("board", "Hold the probe by its handle and wear gloves to lift a sample."),
    limits=LimitWords("in this sun", "Look at it after the first hot day"),
    get_ready="lay the samples in their places",
    cautions=(Caution("paint", _paint), Caution("edges", _edges), Caution("weight", _weight)),
)
