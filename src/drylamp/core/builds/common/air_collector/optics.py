"""Sun in a collector of air, per watt of beam from any direction: absorber, back, and the sheets over them.

What comes through the glass meets the absorber; a plate takes it all, of a mesh each layer takes its share of what the one above let
through and throws half of the rest up again, ducts take their share of the width; what gets past lands on the back, which is painted alike. What
absorber and back throw up again comes back from the glass (Duffie & Beckman 5.5.1).
"""

from __future__ import annotations

import numpy as np

from drylamp.core.arrays import Array
from drylamp.core.builds.common.air_collector.spec import AirCollector
from drylamp.core.builds.common.cover.spec import panes_of
from drylamp.core.optics.covers import DIFFUSE_INCIDENCE_DEG, stack

UP_SHARE = 0.5
"""Of what a strand throws back goes up, and as much down; from memory."""


def taken_shares(collector: AirCollector) -> tuple[float, float]:
    """Shares that absorber and back take of light that reaches the first."""
    alpha = collector.row.absorptance
    if collector.absorber == "plate":
        return alpha, 0.0
    if collector.absorber == "ducts":
        covered = min(1.0, collector.ducts * collector.duct_mm / 1000.0 / collector.width_m)
        return alpha * covered, alpha * (1.0 - covered)
    meets = 1.0 - collector.open_share
    down, taken = 1.0, 0.0
    for _ in range(collector.layers):
        taken += down * meets * alpha
        down *= 1.0 - meets * alpha - UP_SHARE * meets * (1.0 - alpha)
    return taken, down * alpha


def through_glass(collector: AirCollector, cosine: Array, met: Array) -> tuple[Array, Array, list[Array]]:
    """Power into absorber and back, and into each sheet from the innermost out, of power that meets the glass."""
    panes = panes_of(collector.skins)
    over = stack(panes, cosine)
    back = float(stack(panes, np.cos(np.radians(DIFFUSE_INCIDENCE_DEG))).reflectance) if panes else 0.0
    absorber, behind = taken_shares(collector)
    again = 1.0 / (1.0 - (1.0 - absorber - behind) * back)
    clean = met * (1.0 - collector.dirt_share)
    through = clean * over.transmittance * again
    return through * absorber, through * behind, [clean * soaked for soaked in over.absorptance[::-1]]
