"""A small photovoltaic panel that drives a fan or pump: flow follows sun."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from drylamp.core.checks import require

MATCH = 0.75
"""Share of its best power that a panel gives a motor coupled straight to it; from memory (0.6–0.9)."""


@dataclass(frozen=True)
class PanelDrive:
    """A panel and the motor on it.

    Attributes:
        peak_w: the panel's power in 1000 W/m²
        motor_w: what the motor takes at full speed
        starts_w_m2: sun on the panel below which the motor does not turn
    """

    peak_w: float
    motor_w: float
    starts_w_m2: float = 100.0

    def __post_init__(self) -> None:
        """Refuse powers of nothing."""
        require(self.peak_w > 0, "panel.peak_w", f"{self.peak_w:g} was given; allowed is above 0")
        require(self.motor_w > 0, "panel.motor_w", f"{self.motor_w:g} was given; allowed is above 0")
        require(self.starts_w_m2 >= 0, "panel.starts_w_m2", f"{self.starts_w_m2:g} was given; allowed is 0 or more")

    def speed(self, sun_w_m2: NDArray[np.float64]) -> NDArray[np.float64]:
        """Speed as a share of full speed, 0–1, shape of the sun on the panel.

        References
        ----------
        Fan laws: power grows with the cube of speed (ASHRAE Handbook, HVAC Systems and Equipment, fans), so
        speed = (panel's power / motor's power)^⅓.
        """
        given = MATCH * self.peak_w * np.asarray(sun_w_m2, dtype=float) / 1000.0
        turning = np.asarray(sun_w_m2) >= max(self.starts_w_m2, 1e-9)
        return np.asarray(np.where(turning, np.minimum(given / self.motor_w, 1.0) ** (1.0 / 3.0), 0.0))
