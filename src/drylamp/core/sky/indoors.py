"""What a greenhouse or a room makes of the weather for what stands in it."""

from __future__ import annotations

from dataclasses import replace

import numpy as np

from drylamp.core.sky.site import Spot, Surroundings
from drylamp.core.sky.weather import Weather, saturation_pressures
from drylamp.core.text import kelvin

STILL_M_S = 0.2
"""Air that moves indoors by itself; from memory."""
FULL_SUN_W_M2 = 800.0
"""Sun on level ground by which a greenhouse's warmth is told."""
WINDOW_DEG = 80.0
"""How far beside the window's own direction the sun still comes in."""


def surrounded(spot: Spot, weather: Weather) -> Weather:
    """Weather as it is at a spot: in the open as it comes, under a roof of glass or behind a window as that lets it be.

    A greenhouse is warmer than outside in step with the sun, a room as warm as it is kept; there is no wind, and what shines
    on a build from above is the glass, half-way between the air on both sides, or the room. Weather that was measured
    indoors stays as it is.
    """
    around = spot.around
    if around is None or weather.indoors:
        return weather
    share = around.sun_share * _through(around, weather)
    air = _air_c(around, weather)
    glass = air if around.kind == "room" else (air + weather.air_c) / 2.0
    return replace(
        weather,
        ghi_w_m2=weather.dhi_w_m2 * around.sun_share + (weather.ghi_w_m2 - weather.dhi_w_m2) * share,
        dni_w_m2=weather.dni_w_m2 * share,
        dhi_w_m2=weather.dhi_w_m2 * around.sun_share,
        air_c=air,
        rh=np.clip(weather.vapour_pa / saturation_pressures(air), 0.0, 1.0),
        wind_m_s=np.full(weather.steps, STILL_M_S),
        rain_mm_h=None,
        over_c=glass,
        indoors=True,
        origin=f"{weather.origin}; {_said(around)}",
    )


def _through(around: Surroundings, weather: Weather) -> np.ndarray:
    """1 while the beam comes in, 0 while it falls on walls."""
    if around.kind == "greenhouse":
        return np.ones(weather.steps)
    off = (weather.sun.azimuth_deg - around.window_deg + 180.0) % 360.0 - 180.0
    return np.asarray(np.abs(off) < WINDOW_DEG, dtype=float)


def _air_c(around: Surroundings, weather: Weather) -> np.ndarray:
    if around.kind == "room":
        return np.full(weather.steps, around.kept_c)
    return np.asarray(weather.air_c + around.warmer_k * weather.ghi_w_m2 / FULL_SUN_W_M2)


def _said(around: Surroundings) -> str:
    passes = f"{100.0 * around.sun_share:.0f} % of the sun"
    if around.kind == "room":
        return f"behind a window that lets in {passes}"
    return f"in a greenhouse that lets in {passes} and is {kelvin(around.warmer_k)} warmer in full sun"
