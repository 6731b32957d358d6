"""A trial's own sun, air, humidity and wind, laid over the weather that was assumed for it."""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np

from drylamp.core.arrays import Array
from drylamp.core.checks import GapInWeather, require
from drylamp.core.sky.clear import split_global
from drylamp.core.sky.weather import Weather, saturation_pressures

LONGEST_GAP_S = 3600.0


@dataclass(frozen=True)
class Measured:
    """Readings of one thing: seconds since 1970 UTC, rising, and values; shape (n,)."""

    time_s: Array
    value: Array


def with_measured(
    weather: Weather,
    level_sun_w_m2: Measured | None = None,
    air_c: Measured | None = None,
    rh: Measured | None = None,
    wind_m_s: Measured | None = None,
) -> Weather:
    """Weather in which readings stand in place of assumptions, from the first reading to the last.

    Before the first and after the last reading the assumed weather stays, and the origin says so. Sun is global on
    level ground; beam and diffuse are split from it (Erbs).

    Raises
    ------
    GapInWeather
        two readings inside the run are more than an hour apart.
    InputProblem
        a reading is out of range.
    """
    at, out = weather.sun.time_s, weather
    if level_sun_w_m2 is not None:
        ghi = np.maximum(_laid(weather.ghi_w_m2, at, level_sun_w_m2, "sun", 0.0, 1800.0), 0.0)
        dni, dhi = split_global(ghi, weather.sun)
        inside = _inside(at, level_sun_w_m2)
        dni, dhi = np.where(inside, dni, weather.dni_w_m2), np.where(inside, dhi, weather.dhi_w_m2)
        out = replace(
            out, ghi_w_m2=ghi, dni_w_m2=dni, dhi_w_m2=dhi, origin=f"{out.origin}; sun as measured, split by Erbs"
        )
    if air_c is not None:
        air = _laid(weather.air_c, at, air_c, "air", -80.0, 60.0)
        # the vapour in the air does not change because a thermometer was read
        damp = np.clip(weather.vapour_pa / saturation_pressures(air), 0.0, 1.0)
        out = replace(out, air_c=air, rh=damp, origin=f"{out.origin}; air as measured")
    if rh is not None:
        damp = _laid(out.rh, at, rh, "humidity", 0.0, 1.0)
        out = replace(out, rh=damp, origin=f"{out.origin}; humidity as measured")
    if wind_m_s is not None:
        wind = _laid(weather.wind_m_s, at, wind_m_s, "wind", 0.0, 80.0)
        out = replace(out, wind_m_s=wind, origin=f"{out.origin}; wind as measured")
    return out


def _inside(at: Array, readings: Measured) -> Array:
    return np.asarray((at >= readings.time_s[0]) & (at <= readings.time_s[-1]))


def _laid(assumed: Array, at: Array, readings: Measured, name: str, low: float, high: float) -> Array:
    require(len(readings.time_s) >= 2, name, f"{len(readings.time_s)} readings; at least two are needed")
    bad = np.flatnonzero(~((readings.value >= low) & (readings.value <= high)))
    first = readings.value[bad[0]] if len(bad) else 0.0
    require(len(bad) == 0, name, f"a reading of {first:g} was given; allowed is {low:g} to {high:g}")
    within = _inside(at, readings)
    near = (readings.time_s[1:] >= at[0]) & (readings.time_s[:-1] <= at[-1])
    widest = float(np.max(np.diff(readings.time_s)[near], initial=0.0))
    if widest > LONGEST_GAP_S:
        raise GapInWeather(name, f"two readings are {widest / 60:.0f} minutes apart; at most 60 can be bridged")
    return np.where(within, np.interp(at, readings.time_s, readings.value), assumed)
