"""Aim: spots compared by the hour, tilt schools, and the sun's path with the spot's skyline."""

from __future__ import annotations

import math
from datetime import datetime

import numpy as np

from drylamp.core.arrays import Array
from drylamp.core.checks import Model, YesNo
from drylamp.core.sky.clear import clear_sky
from drylamp.core.sky.dome import skyline
from drylamp.core.sky.plane import SkyLight, on_plane, sky_light
from drylamp.core.sky.site import Site
from drylamp.core.sky.sun import SunPath, sun_path
from drylamp.core.sky.weather import Weather


class SpotHours(Model):
    """Sun on the opening's plane at one spot."""

    spot: str
    wh_m2_by_hour: list[float]
    kwh_m2: float


class PathPoint(Model):
    """The sun at one time."""

    time: datetime
    altitude_deg: float
    azimuth_deg: float
    clear_of_skyline: YesNo


class AimView(Model):
    """Everything the aim stage draws; the view looks towards the equator."""

    path: list[PathPoint]
    solar_noon: datetime
    noon_altitude_deg: float
    noon_azimuth_deg: float
    middle_azimuth_deg: float
    skyline_deg: list[float]
    spots: list[SpotHours]
    best_spot: str


class TiltSchools(Model):
    """What people set the tilt to, and the best over the year under clear skies."""

    latitude_rule_deg: float
    stock_deg: float
    summer_deg: float
    equinox_deg: float
    winter_deg: float
    best_year_deg: float


def aim_view(site: Site, spot_name: str | None, tilt_deg: float, facing_deg: float, weather: Weather) -> AimView:
    """The sun's path of one day over a spot's skyline, and the day's sun at every spot by hour."""
    sun, line = weather.sun, skyline(site.spot(spot_name))
    noon = int(np.argmax(sun.direction[:, 2]))
    spots = [_spot_hours(site, name, tilt_deg, facing_deg, weather) for name in (spot.name for spot in site.spots)]
    edge = np.interp(sun.azimuth_deg, np.arange(360.0), line, period=360.0)
    every = range(0, weather.steps, max(1, round(600.0 / weather.dt_s)))
    path = [
        PathPoint(
            time=datetime.fromtimestamp(round(float(sun.time_s[i])), site.zone),
            altitude_deg=round(float(sun.altitude_deg[i]), 2),
            azimuth_deg=round(float(sun.azimuth_deg[i]), 2),
            clear_of_skyline=bool(sun.altitude_deg[i] > edge[i]),
        )
        for i in every
        if sun.altitude_deg[i] > -1.0
    ]
    return AimView(
        path=path,
        solar_noon=datetime.fromtimestamp(round(float(sun.time_s[noon])), site.zone),
        noon_altitude_deg=round(float(sun.altitude_deg[noon]), 2),
        noon_azimuth_deg=round(float(sun.azimuth_deg[noon]), 2),
        middle_azimuth_deg=site.equator_azimuth_deg,
        skyline_deg=[round(float(v), 2) for v in line],
        spots=spots,
        best_spot=max(spots, key=lambda s: s.kwh_m2).spot,
    )


def _spot_hours(site: Site, name: str, tilt_deg: float, facing_deg: float, weather: Weather) -> SpotHours:
    line = skyline(site.spot(name))
    light = sky_light(weather.sun, weather.ghi_w_m2, weather.dni_w_m2, weather.dhi_w_m2, site.albedo, line)
    plane = on_plane(weather.sun, light, tilt_deg, facing_deg, line)
    hour = np.array([datetime.fromtimestamp(float(s), site.zone).hour for s in weather.sun.time_s[::5]])
    hour = np.repeat(hour, 5)[: weather.steps]
    by_hour = np.bincount(hour, weights=plane, minlength=24) * weather.dt_s / 3600.0
    return SpotHours(
        spot=name,
        wh_m2_by_hour=[round(float(v), 1) for v in by_hour],
        kwh_m2=round(float(by_hour.sum()) / 1000.0, 3),
    )


def tilt_schools(latitude_deg: float, longitude_deg: float, elevation_m: float) -> TiltSchools:
    """The schools of tilt, and the tilt with most clear-sky energy in a year facing the equator."""
    around = abs(latitude_deg)

    def kept(tilt: float) -> float:
        return min(max(tilt, 0.0), 90.0)

    return TiltSchools(
        latitude_rule_deg=around,
        stock_deg=45.0,
        summer_deg=kept(around - 15.0),
        equinox_deg=kept(around),
        winter_deg=kept(around + 15.0),
        best_year_deg=_best_year_tilt(latitude_deg, longitude_deg, elevation_m),
    )


def _best_year_tilt(latitude_deg: float, longitude_deg: float, elevation_m: float) -> float:
    """Search whole degrees, then fit a parabola through the best three."""
    site = Site(
        name="anywhere",
        latitude_deg=latitude_deg,
        longitude_deg=longitude_deg,
        elevation_m=elevation_m,
        time_zone="UTC",
    )
    year = datetime.fromisoformat("2023-01-01T00:00:00+00:00").timestamp()
    half_hours = np.asarray(year + 900.0 + 1800.0 * np.arange(365 * 48), dtype=float)
    sun = sun_path(half_hours, latitude_deg, longitude_deg, elevation_m)
    ghi, dni, dhi = clear_sky(site, sun)
    line = np.zeros(360)
    light = sky_light(sun, ghi, dni, dhi, site.albedo, line)
    tilts = np.arange(0.0, 91.0, 5.0)
    best = float(tilts[int(np.argmax([_year(sun, light, t, site) for t in tilts]))])
    fine = np.arange(max(best - 5.0, 0.0), min(best + 5.0, 90.0) + 0.5)
    sums = np.array([_year(sun, light, t, site) for t in fine])
    i = int(np.argmax(sums))
    if 0 < i < len(fine) - 1:
        bend = sums[i - 1] - 2 * sums[i] + sums[i + 1]
        return float(fine[i] + 0.5 * (sums[i - 1] - sums[i + 1]) / bend)
    return float(fine[i])


def _year(sun: SunPath, light: SkyLight, tilt_deg: float, site: Site) -> float:
    """Energy of an open plane; the dome's share in closed form, so that the search is smooth."""
    azimuth, tilt = math.radians(site.equator_azimuth_deg), math.radians(tilt_deg)
    normal = np.array([math.sin(tilt) * math.sin(azimuth), math.sin(tilt) * math.cos(azimuth), math.cos(tilt)])
    beam: Array = light.beam_w_m2 * np.maximum(sun.direction @ normal, 0.0)
    dome = light.dome_w_m2 * (1 + math.cos(tilt)) / 2 + light.ground_w_m2 * (1 - math.cos(tilt)) / 2
    return float((beam + dome).sum())
