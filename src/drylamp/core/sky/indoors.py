"""What a greenhouse or a room makes of the weather for what stands in it."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from typing import NamedTuple

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


class _Inside(NamedTuple):
    """What one kind of surroundings makes of the weather.

    Attributes:
        beam: 1 while the beam comes in, 0 while it falls on walls, shape (n,)
        air_c: of its air, shape (n,)
        over_c: what shines on a build from above, from its air and the air outside, shape (n,)
        said: what it is, in words, given what its glass lets in
    """

    beam: Callable[[Surroundings, Weather], np.ndarray]
    air_c: Callable[[Surroundings, Weather], np.ndarray]
    over_c: Callable[[np.ndarray, np.ndarray], np.ndarray]
    said: Callable[[Surroundings, str], str]


def surrounded(spot: Spot, weather: Weather) -> Weather:
    """Weather as it is at a spot: in the open as it comes, under a roof of glass or behind a window as that lets it be.

    A greenhouse is warmer than outside in step with the sun, a room as warm as it is kept; there is no wind, and what shines
    on a build from above is the glass, half-way between the air on both sides, or the room. Weather that was measured
    indoors stays as it is.
    """
    around = spot.around
    if around is None or weather.indoors:
        return weather
    inside = _INSIDE[around.kind]
    share, air = around.sun_share * inside.beam(around, weather), inside.air_c(around, weather)
    passes = f"lets in {100.0 * around.sun_share:.0f} % of the sun"
    return replace(
        weather,
        ghi_w_m2=weather.dhi_w_m2 * around.sun_share + (weather.ghi_w_m2 - weather.dhi_w_m2) * share,
        dni_w_m2=weather.dni_w_m2 * share,
        dhi_w_m2=weather.dhi_w_m2 * around.sun_share,
        air_c=air,
        rh=np.clip(weather.vapour_pa / saturation_pressures(air), 0.0, 1.0),
        wind_m_s=np.full(weather.steps, STILL_M_S),
        rain_mm_h=None,
        over_c=inside.over_c(air, weather.air_c),
        indoors=True,
        origin=f"{weather.origin}; {inside.said(around, passes)}",
    )


def _before_window(around: Surroundings, weather: Weather) -> np.ndarray:
    off = (weather.sun.azimuth_deg - around.window_deg + 180.0) % 360.0 - 180.0
    return np.asarray(np.abs(off) < WINDOW_DEG, dtype=float)


def _warmed(around: Surroundings, weather: Weather) -> np.ndarray:
    return np.asarray(weather.air_c + around.warmer_k * weather.ghi_w_m2 / FULL_SUN_W_M2)


_INSIDE = {
    "greenhouse": _Inside(
        beam=lambda _, weather: np.ones(weather.steps),
        air_c=_warmed,
        over_c=lambda inside_c, outside_c: (inside_c + outside_c) / 2.0,
        said=lambda around, passes: (
            f"in a greenhouse that {passes} and is {kelvin(around.warmer_k)} warmer in full sun"
        ),
    ),
    "room": _Inside(
        beam=_before_window,
        air_c=lambda around, weather: np.full(weather.steps, around.kept_c),
        over_c=lambda inside_c, _: inside_c,
        said=lambda _, passes: f"behind a window that {passes}",
    ),
}
