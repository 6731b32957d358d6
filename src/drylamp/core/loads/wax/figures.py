"""Figures of a trial with wax."""

from __future__ import annotations

from collections.abc import Callable
from typing import cast

import numpy as np

from drylamp.core.loads.wax.spec import WaxBatch
from drylamp.core.text import kilograms
from drylamp.core.trials.figure import Figure, Found


def clean_wax(found: Found) -> Figure | None:
    """Clean wax by the scale, and beside it what the twin caught by the same time."""
    at, load = found.at, cast(WaxBatch, found.at.facts.load)
    channel = at.facts.of_node("catch", "mass")
    when = at.likely.edge_s[-1] if channel is None else channel.seconds[-1]
    low, twin, high = (
        float(np.interp(when, run.edge_s, np.nan_to_num(run.mass_kg["catch"]))) for run in (at.low, at.likely, at.high)
    )
    value = None if channel is None else channel.values[-1]
    doubt = None if channel is None else channel.doubt
    said = "not weighed yet" if value is None else f"{kilograms(value, doubt)}"
    words = f"Clean wax: {said}; the twin says {kilograms(twin)} ({kilograms(low)} to {kilograms(high)} by the sun's doubt) of {kilograms(load.yield_kg)}."
    return Figure(
        name="clean-wax", title="Clean wax", value=value, doubt=doubt, quantity="mass", twin=round(twin, 3), grade="", words=words, digits=2,
    )  # fmt: skip


FIGURES: dict[str, Callable[[Found], Figure | None]] = {"clean-wax": clean_wax}
