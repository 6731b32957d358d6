"""The sun's place in the sky, from pvlib's NREL algorithm.

Directions are unit vectors (east, north, up) pointing *towards* the sun, so that both hemispheres and
both sides of the zenith need no special case.
"""

from __future__ import annotations

import hashlib
from dataclasses import dataclass

import numpy as np
import pandas as pd
import pvlib

from drylamp.core.arrays import Array
from drylamp.core.kept import Kept
from drylamp.core.sky.site import Site

EARTH_TURNS_DEG_MIN = 0.25
"""How far the sun goes in a minute: 360° in a day of 1440 minutes."""

KNOT_S = 300.0
"""Spacing of exactly computed positions; between them the direction is interpolated (error below 0.002°)."""


@dataclass(frozen=True)
class SunPath:
    """The sun over a run of instants.

    Attributes:
        time_s: seconds since 1970-01-01 UTC, shape (n,)
        direction: towards the refracted (seen) sun, unit vectors east, north, up, shape (n, 3)
        altitude_deg: geometric, without refraction, shape (n,)
        azimuth_deg: clockwise from north, shape (n,)
        extraterrestrial_w_m2: normal to the beam outside the air, shape (n,)
    """

    time_s: Array
    direction: Array
    altitude_deg: Array
    azimuth_deg: Array
    extraterrestrial_w_m2: Array

    @property
    def sin_altitude(self) -> Array:
        """Sine of the seen altitude, zero below the horizon, shape (n,)."""
        return np.maximum(self.direction[:, 2], 0.0)


POINTS = ("N", "NNE", "NE", "ENE", "E", "ESE", "SE", "SSE", "S", "SSW", "SW", "WSW", "W", "WNW", "NW", "NNW")


def compass(azimuth_deg: float) -> str:
    """The point of the compass nearest to an azimuth clockwise from north, such as "SSW"."""
    return POINTS[round(azimuth_deg / 22.5) % 16]


def stamps(time_s: Array) -> pd.DatetimeIndex:
    """Turn seconds since 1970 into the index that pvlib wants."""
    return pd.DatetimeIndex(pd.to_datetime(np.asarray(time_s), unit="s", utc=True))


def unit_vectors(altitude_deg: Array, azimuth_deg: Array) -> Array:
    """Turn altitude and azimuth (deg) into unit vectors east, north, up, shape (n, 3)."""
    altitude, azimuth = np.radians(altitude_deg), np.radians(azimuth_deg)
    level = np.cos(altitude)
    return np.stack([level * np.sin(azimuth), level * np.cos(azimuth), np.sin(altitude)], axis=-1)


def solar_position(
    time_s: Array,
    latitude_deg: float,
    longitude_deg: float,
    elevation_m: float,
    pressure_pa: float | None = None,
    delta_t_s: float | None = None,
    temperature_c: float = 12.0,
) -> pd.DataFrame:
    """Return pvlib's table of exact positions for every instant.

    References
    ----------
    Reda & Andreas 2004, NREL/TP-560-34302.
    """
    table: pd.DataFrame = pvlib.solarposition.spa_python(
        stamps(time_s),
        latitude_deg,
        longitude_deg,
        altitude=elevation_m,
        pressure=101325.0 if pressure_pa is None else pressure_pa,
        temperature=temperature_c,
        delta_t=67.0 if delta_t_s is None else delta_t_s,
    )
    return table


def sun_path(time_s: Array, latitude_deg: float, longitude_deg: float, elevation_m: float = 0.0) -> SunPath:
    """Follow the sun over instants in rising order, exact every five minutes and interpolated between.

    Parameters
    ----------
    time_s
        seconds since 1970-01-01 UTC, rising, shape (n,)
    latitude_deg, longitude_deg
        degrees, north and east positive
    elevation_m
        metres above the sea
    """
    time_s = np.asarray(time_s, dtype=float)
    knots = _knots(time_s)
    table = solar_position(knots, latitude_deg, longitude_deg, elevation_m)
    seen = unit_vectors(table["apparent_elevation"].to_numpy(), table["azimuth"].to_numpy())
    true = unit_vectors(table["elevation"].to_numpy(), table["azimuth"].to_numpy())
    extra = pvlib.irradiance.get_extra_radiation(stamps(knots)).to_numpy()
    seen, true = _between(time_s, knots, seen), _between(time_s, knots, true)
    return SunPath(
        time_s=time_s,
        direction=seen,
        altitude_deg=np.degrees(np.arcsin(np.clip(true[:, 2], -1, 1))),
        azimuth_deg=np.degrees(np.arctan2(true[:, 0], true[:, 1])) % 360.0,
        extraterrestrial_w_m2=np.interp(time_s, knots, extra),
    )


def sun_over(site: Site, time_s: Array) -> SunPath:
    """The same over a site; long paths are kept: each of several weathers of one season asks for the same. To be read only."""
    where = site.latitude_deg, site.longitude_deg, site.elevation_m
    if len(time_s) < KEPT_FROM:
        return sun_path(time_s, *where)
    instants = np.ascontiguousarray(time_s, dtype=float)
    return _PATHS.get((*where, hashlib.sha256(instants.tobytes()).digest()), lambda: sun_path(instants, *where))


KEPT_FROM, MOST_PATHS = 2000, 6
"""Instants from which on a path is kept, and how many: 50 bytes an instant, 5 MB for a year."""
_PATHS: Kept[tuple[float, float, float, bytes], SunPath] = Kept(MOST_PATHS)


def _knots(time_s: Array) -> Array:
    spacing = np.median(np.diff(time_s)) if len(time_s) > 1 else 0.0
    if len(time_s) < 3 or spacing >= KNOT_S:
        return time_s
    return np.arange(time_s[0], time_s[-1] + KNOT_S, KNOT_S)


def _between(time_s: Array, knots: Array, vectors: Array) -> Array:
    if knots is time_s:
        return vectors
    mixed = np.stack([np.interp(time_s, knots, vectors[:, axis]) for axis in range(3)], axis=-1)
    return np.asarray(mixed / np.linalg.norm(mixed, axis=1, keepdims=True))
