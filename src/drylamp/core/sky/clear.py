"""The cloudless sky, and the split of global sun into beam and diffuse."""

from __future__ import annotations

from functools import lru_cache

import numpy as np
import pvlib

from drylamp.core.arrays import Array
from drylamp.core.sky.site import Site, standard_pressure_pa
from drylamp.core.sky.sun import SunPath, stamps


@lru_cache(maxsize=64)
def _world_turbidity(latitude_deg: float, longitude_deg: float) -> tuple[float, ...]:
    middles = stamps(
        np.array([np.datetime64(f"2001-{m:02d}-15").astype("datetime64[s]").astype(float) for m in range(1, 13)])
    )
    table = pvlib.clearsky.lookup_linke_turbidity(middles, latitude_deg, longitude_deg, interp_turbidity=False)
    return tuple(float(value) for value in table)


def linke_turbidity(site: Site) -> tuple[float, ...]:
    """Linke turbidity of January to December: the site's own, else pvlib's world map."""
    if site.linke_turbidity is not None:
        return tuple(site.linke_turbidity)
    return _world_turbidity(site.latitude_deg, site.longitude_deg)


def clear_sky(site: Site, sun: SunPath) -> tuple[Array, Array, Array]:
    """Global horizontal, direct normal and diffuse horizontal sun of a cloudless sky, W/m², each shape (n,).

    References
    ----------
    Ineichen & Perez 2002, as in pvlib.clearsky.ineichen; turbidity is interpolated between mid-months.
    """
    turbidity = _turbidity_at(site, sun.time_s)
    zenith = np.degrees(np.arccos(np.clip(sun.direction[:, 2], -1, 1)))
    relative = pvlib.atmosphere.get_relative_airmass(zenith)
    absolute = pvlib.atmosphere.get_absolute_airmass(relative, standard_pressure_pa(site.elevation_m))
    with np.errstate(divide="ignore"):  # pvlib divides by the air mass of a sun below the horizon
        sky = pvlib.clearsky.ineichen(
            zenith, absolute, turbidity, altitude=site.elevation_m, dni_extra=sun.extraterrestrial_w_m2
        )
    ghi, dni, dhi = (np.nan_to_num(np.asarray(sky[key], dtype=float)) for key in ("ghi", "dni", "dhi"))
    return ghi, dni, dhi


def _turbidity_at(site: Site, time_s: Array) -> Array:
    day = (time_s / 86400.0) % 365.2425
    middles = np.arange(12) * 30.4369 + 15.2
    return np.asarray(np.interp(day, middles, np.array(linke_turbidity(site)), period=365.2425), dtype=float)


def split_global(ghi_w_m2: Array, sun: SunPath) -> tuple[Array, Array]:
    """Split global horizontal sun into direct normal and diffuse horizontal, W/m².

    References
    ----------
    Erbs, Klein & Duffie 1982, as in pvlib.irradiance.erbs.
    """
    zenith = np.degrees(np.arccos(np.clip(sun.direction[:, 2], -1, 1)))
    parts = pvlib.irradiance.erbs(ghi_w_m2, zenith, stamps(sun.time_s))
    dni = np.nan_to_num(np.asarray(parts["dni"], dtype=float))
    dhi = np.nan_to_num(np.asarray(parts["dhi"], dtype=float))
    return dni, dhi
