"""Figures of a trial with it."""

from __future__ import annotations

from collections.abc import Callable

from drylamp.core.loads.common.loop.figures import pump_hours
from drylamp.core.loads.common.tap.figures import tap_power
from drylamp.core.trials.figure import Figure, Found

FIGURES: dict[str, Callable[[Found], Figure | None]] = {"tap-power": tap_power, "pump-hours": pump_hours}
