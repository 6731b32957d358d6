"""Temperature of the ground, and of water that comes through it."""

from __future__ import annotations

import numpy as np

from drylamp.core.arrays import Array
from drylamp.core.sky.site import Site

DIFFUSIVITY_M2_S = 5.5e-7
"""Of ordinary soil, from memory (3–9e-7)."""
MAINS_DEPTH_M = 1.0
"""Depth at which mains pipes lie; common practice, no source."""
GROUND_DEPTH_M = 0.3
"""Depth of the ground that a build stands on or in; from memory."""
SOIL_W_MK = 1.5
"""Of ordinary damp soil; from memory (0.5 dry sand to 2.5 wet clay)."""
YEAR_S = 365.2425 * 86400.0


def ground_c(site: Site, time_s: Array, depth_m: float) -> Array:
    """Temperature of the ground at a depth, °C, shape of the times.

    Parameters
    ----------
    time_s
        seconds since 1970 UTC

    Returns
    -------
    Air's yearly wave, weaker and later with depth.

    References
    ----------
    Kusuda & Achenbach 1965: T = mean − A e^(−z √(ω/2α)) cos(ω (t − t_coldest) − z √(ω/2α)).
    """
    months = np.array([(month.tmin_c + month.tmax_c) / 2 for month in site.months])
    omega = 2 * np.pi / YEAR_S
    at = (np.arange(12) + 0.5) / 12 * YEAR_S
    first = complex((months * np.exp(-1j * omega * at)).mean() * 2)
    sink = depth_m * np.sqrt(omega / (2 * DIFFUSIVITY_M2_S))
    wave = np.real(first * np.exp(1j * (omega * (np.asarray(time_s) % YEAR_S) - sink)))
    return np.asarray(months.mean() + np.exp(-sink) * wave)


def mains_c(site: Site, time_s: Array) -> Array:
    """Temperature of mains water, °C, shape of the times: that of the ground round the pipe."""
    return ground_c(site, time_s, MAINS_DEPTH_M)
