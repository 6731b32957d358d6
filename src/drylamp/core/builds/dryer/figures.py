"""Figures of a dryer's own trials."""

from __future__ import annotations

from collections.abc import Callable

import numpy as np

from drylamp.core.air.constants import CP_AIR
from drylamp.core.builds.common.air_collector.links import air_nodes
from drylamp.core.text import kelvin
from drylamp.core.trials.figure import Figure, Found


def collector_efficiency(found: Found) -> Figure | None:
    """Heat that the air took, of the sun on the glass, at the last reading of what comes out of the collector."""
    at = found.at
    out = at.facts.of_node(air_nodes()[-1])
    if out is None or not len(out.values):
        return None
    run, second = at.likely, float(out.seconds[-1])
    step = int(np.clip((second - run.weather.start_s) // run.weather.dt_s, 0, run.weather.steps - 1))
    opening = float(run.opening_w[step])
    if opening < 50.0 or run.damp is None:
        return None
    moved = next(iter(run.damp.moved_kg.values()))[step] / run.weather.dt_s
    air = float(at.air_at(np.array([second]))[0])
    value = moved * CP_AIR * (float(out.values[-1]) - air) / opening
    twin = moved * CP_AIR * (float(run.at(air_nodes()[-1], np.array([second]))[0]) - air) / opening
    doubt = moved * CP_AIR * out.doubt / opening
    return Figure(
        name="collector-efficiency", title="Collector", value=round(value, 3), doubt=round(doubt, 3), quantity="plain", unit="of the sun", twin=round(twin, 3), grade="", digits=2,
        words=f"Collector: {100 * value:.0f} ± {100 * doubt:.0f} % of the sun on the glass with the twin's own flow; {kelvin(float(out.values[-1]) - air)} warmer than outside. The twin says {100 * twin:.0f} %.",
    )  # fmt: skip


FIGURES: dict[str, Callable[[Found], Figure | None]] = {"collector-efficiency": collector_efficiency}
