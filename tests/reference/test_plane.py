"""Sun on any plane against pvlib's Hay–Davies, both hemispheres."""

from datetime import date

import numpy as np
import pvlib
import pytest

from drylamp.core.sky.of_span import weather_of
from drylamp.core.sky.plane import on_plane, sky_light
from drylamp.core.sky.site import Site
from drylamp.core.sky.weather import ClearDay, Span


@pytest.mark.parametrize("latitude", [52.0, 41.2, 3.0, -33.5])
@pytest.mark.parametrize(("tilt", "facing"), [(0, 180), (30, 180), (60, 140), (45, 0), (90, 270)])
@pytest.mark.parametrize("sky", ["clear", "broken"])
def test_against_pvlib_hay_davies(latitude: float, tilt: float, facing: float, sky: str):
    site = Site(name="x", latitude_deg=latitude, longitude_deg=12.0, time_zone="UTC")
    day = ClearDay(tmin_c=10, tmax_c=20, sky=sky)
    weather = weather_of(site, day, Span(start=date(2025, 4, 20)))
    flat = np.zeros(360)
    light = sky_light(weather.sun, weather.ghi_w_m2, weather.dni_w_m2, weather.dhi_w_m2, site.albedo, flat)
    ours = on_plane(weather.sun, light, tilt, facing, flat)
    zenith = np.degrees(np.arccos(weather.sun.direction[:, 2]))
    theirs = pvlib.irradiance.get_total_irradiance(
        tilt,
        facing,
        zenith,
        weather.sun.azimuth_deg,
        weather.dni_w_m2,
        weather.ghi_w_m2,
        weather.dhi_w_m2,
        dni_extra=weather.sun.extraterrestrial_w_m2,
        albedo=site.albedo,
        model="haydavies",
    )["poa_global"]
    up = zenith < 88.9
    assert np.abs(ours - theirs)[up].max() < 3.0
    assert ours.sum() == pytest.approx(np.nansum(theirs), rel=0.003)


def test_clear_sky_is_pvlibs_ineichen():
    """A clear June noon at this site against pvlib's Location, same turbidity map."""
    site = Site(name="x", latitude_deg=41.2, longitude_deg=1.1, elevation_m=480.0, time_zone="Europe/Madrid")
    weather = weather_of(site, ClearDay(tmin_c=10, tmax_c=20), Span(start=date(2025, 6, 12)))
    from drylamp.core.sky.sun import stamps

    theirs = pvlib.location.Location(41.2, 1.1, altitude=480).get_clearsky(stamps(weather.sun.time_s))
    assert weather.ghi_w_m2.sum() == pytest.approx(theirs["ghi"].sum(), rel=0.005)
    assert weather.dni_w_m2.max() == pytest.approx(theirs["dni"].max(), rel=0.01)
