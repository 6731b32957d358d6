"""Figures of a dryer's own trials."""

from __future__ import annotations

from collections.abc import Callable

import numpy as np

from drylamp.core.air.constants import CP_AIR
from drylamp.core.air.properties import density_kg_m3
from drylamp.core.builds.common.air_collector.links import air_nodes
from drylamp.core.builds.dryer.spec import DRAUGHT
from drylamp.core.text import kelvin
from drylamp.core.trials.figure import Figure, Found

LEAST_SUN_W = 50.0
FLOW_DOUBT, PROFILE_DOUBT = 0.2, 0.1
"""Of the twin's flow, and of one speed in the middle of a vent for all of it; from memory."""


def collector_efficiency(found: Found) -> Figure | None:
    """Heat that the air took, of the sun on the glass, at the last reading of what comes out of the collector; its flow by a wind meter at the vent, or the twin's."""
    at = found.at
    out = at.facts.of_node(air_nodes()[-1])
    if out is None or not len(out.values) or at.likely.damp is None:
        return None
    run, second = at.likely, float(out.seconds[-1])
    step = int(np.clip((second - run.weather.start_s) // run.weather.dt_s, 0, run.weather.steps - 1))
    opening = float(run.opening_w[step])
    if opening < LEAST_SUN_W:
        return None
    assert run.damp is not None
    twins = float(run.damp.moved_kg[DRAUGHT][step]) / run.weather.dt_s
    moved, told, share = _flow_read(found, second) or (twins, "the twin's own flow", FLOW_DOUBT)
    rise = float(out.values[-1]) - float(at.air_at(np.array([second]))[0])
    expected = float(run.at(air_nodes()[-1], np.array([second]))[0]) - float(at.air_at(np.array([second]))[0])
    value, twin = moved * CP_AIR * rise / opening, twins * CP_AIR * expected / opening
    doubt = abs(value) * float(np.hypot(out.doubt / max(abs(rise), 1.0), share))
    return Figure(
        name="collector-efficiency", title="Collector", value=round(value, 3), doubt=round(doubt, 3), quantity="plain", unit="of the sun", twin=round(twin, 3), grade="", digits=2,
        words=f"Collector: {100 * value:.0f} ± {100 * doubt:.0f} % of the sun on the glass, by {told} ({3600.0 * moved:.0f} kg/h); {kelvin(rise)} warmer than outside. The twin says {100 * twin:.0f} %.",
    )  # fmt: skip


def _flow_read(found: Found, second: float) -> tuple[float, str, float] | None:
    """Air that a wind meter tells, kg/s, how that is said, and its doubt as a share; none where nobody held one into it."""
    at = found.at
    path_m2 = at.build.blown_m2
    for channel in at.facts.channels:
        if channel.quantity == "wind" and channel.node in path_m2 and len(channel.values):
            speed = float(np.interp(second, channel.seconds, channel.values))
            warm = float(at.likely.at(channel.node, np.array([second]))[0])
            moved = speed * path_m2[channel.node][1] * float(density_kg_m3(warm, at.likely.weather.pressure_pa))
            return moved, "the wind meter at the vent", float(np.hypot(channel.doubt / max(speed, 0.05), PROFILE_DOUBT))
    return None


FIGURES: dict[str, Callable[[Found], Figure | None]] = {"collector-efficiency": collector_efficiency}
