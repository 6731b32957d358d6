"""Figures of a kiln's trials: hours of its fan beside the twin's."""

from __future__ import annotations

from collections.abc import Callable

import numpy as np

from drylamp.core.builds.protocol import PUMP
from drylamp.core.loads.common.stacked import ROUND
from drylamp.core.text import amount
from drylamp.core.trials.figure import Figure, Found

HARDLY, SHARE_OFF = 0.5, 0.2
"""Under half of what the twin lets it run a fan is taken to be stuck; a counter and a panel's sun leave a fifth open. From memory."""
LEAST_H = 2.0


def fan_hours(found: Found) -> Figure | None:
    """What the counter went on by, against the hours that panel, timer or mains let it run in the twin."""
    at = found.at
    channel = at.facts.of_node(PUMP, "hours")
    ran = at.likely.ran_s.get(ROUND)
    if channel is None or len(channel.values) < 2 or ran is None:
        return None
    begun, ended = float(channel.seconds[0]), float(channel.seconds[-1])
    value = channel.values[-1] - channel.values[0]
    edges = at.likely.edge_s[:-1]
    twin = float(ran[(edges >= begun) & (edges < ended)].sum()) / 3600.0
    doubt = float(np.hypot(channel.doubt, SHARE_OFF * twin))
    stuck = twin > LEAST_H and value < HARDLY * twin
    words = f"The fan ran {amount(value, 'hours', doubt)} in {amount((ended - begun) / 3600.0, 'hours')}; by what drives it the twin lets it run {amount(twin, 'hours')}."
    return Figure(
        name="fan-hours", title="Hours of the fan", value=round(value, 2), doubt=round(doubt, 2), quantity="hours", twin=round(twin, 2), digits=1, grade="" if not stuck else "hardly runs", words=words, passed=not stuck,
        fault="the fan stands still, or is switched off" if stuck else "", cure="free it, look at its bearings, its fuse and the panel's plug" if stuck else "", needs_words=True,
    )  # fmt: skip


FIGURES: dict[str, Callable[[Found], Figure | None]] = {"fan-hours": fan_hours}
