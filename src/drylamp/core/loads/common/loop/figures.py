"""Figures of a trial with a loop: what its hour meter counted, beside what its switch should have let it run."""

from __future__ import annotations

from math import hypot
from typing import cast

from drylamp.core.air.constants import KWH_J
from drylamp.core.builds.protocol import PUMP
from drylamp.core.loads.common.loop.spec import Looped
from drylamp.core.text import amount, kilowatt_hours
from drylamp.core.trials.figure import Figure, Found

LEAST_SHARE, LEAST_H = 0.15, 0.3
"""So far may switch and twin be apart, as a share of what the twin says or in hours, before a pump is suspected."""


def pump_hours(found: Found) -> Figure | None:
    """Hours between the first and the last reading of its meter."""
    load, at = found.at.facts.load, found.at
    channel = at.facts.of_node(PUMP, "hours")
    if channel is None or len(channel.values) < 2 or load is None or not load.pumped:
        return None
    pump = cast(Looped, load).pump
    begun, ended = channel.seconds[0], channel.seconds[-1]
    inside = (at.likely.edge_s[:-1] >= begun - 1.0) & (at.likely.edge_s[:-1] < ended - 1.0)
    value = float(channel.values[-1] - channel.values[0])
    twin, low, high = (float(run.ran_s[load.pumped][inside].sum()) / 3600.0 for run in (at.likely, at.low, at.high))
    doubt = hypot(channel.doubt, channel.doubt)
    kwh = value * (0.0 if pump is None else pump.motor_w) * 3600.0 / KWH_J
    apart = value - twin
    loose = max(LEAST_SHARE * twin, LEAST_H, doubt, abs(high - low))
    words = f"The pump ran {amount(value, 'hours', doubt)} in {amount((ended - begun) / 3600.0, 'hours')} and drew {kilowatt_hours(kwh)}; by its switch the twin lets it run {amount(twin, 'hours')}."
    fault, cure = ("", "") if abs(apart) <= loose else _off(apart)
    return Figure(
        name="pump-hours", title="Hours of the pump", value=round(value, 2), doubt=round(doubt, 2), quantity="hours", twin=round(twin, 2), digits=1, grade="", words=words,
        passed=not fault, fault=fault, cure=cure,
    )  # fmt: skip


def _off(apart_h: float) -> tuple[str, str]:
    """What is wrong with a pump that ran so much longer, or less, than it should have, and what to do about it."""
    if apart_h < 0:
        cure = "look at its switch, its feelers and its plug; one that hums and moves nothing is dry or blocked"
        return f"the pump ran {amount(-apart_h, 'hours')} less than its switch should have let it", cure
    return (
        f"the pump ran {amount(apart_h, 'hours')} longer than its switch should have let it",
        "look where its feelers sit, and whether its clock tells the time",
    )
