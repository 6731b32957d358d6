"""Rough months against places whose own months are known."""

from __future__ import annotations

import numpy as np
import pvlib
import pytest

from drylamp.core.sky.rough_climate import ROUGH_CLEARNESS, ROUGH_K, rough_climate
from drylamp.demo.scenario import SOUTHERN, TERRACE


def means(latitude: float, elevation: float) -> np.ndarray:
    return np.array([(m.tmin_c + m.tmax_c) / 2 for m in rough_climate(latitude, elevation)])


@pytest.mark.parametrize("site", [TERRACE, SOUTHERN], ids=["north", "south"])
def test_rough_months_follow_the_seasons_of_their_hemisphere(site):
    own = np.array([(m.tmin_c + m.tmax_c) / 2 for m in site.climate])
    rough = means(site.latitude_deg, site.elevation_m)
    assert abs(own - rough).mean() < ROUGH_K
    assert np.corrcoef(own, rough)[0, 1] > 0.95


def test_a_measured_place_lies_within_the_stated_doubt():
    """Greensboro, North Carolina (TMY3 of the National Solar Radiation Data Base, as pvlib ships it): 36.1° N, 273 m."""
    path = pvlib.__path__[0] + "/data/723170TYA.CSV"
    frame, _ = pvlib.iotools.read_tmy3(path, coerce_year=1990, map_variables=True)
    months = frame["temp_air"].groupby(frame.index.month).mean().to_numpy()[:12]
    assert abs(months - means(36.1, 273.0)) == pytest.approx(0.0, abs=ROUGH_K)
    outside = np.maximum(frame["ghi_extra"], 0.0).groupby(frame.index.month).sum().to_numpy()[:12]
    clear = frame["ghi"].groupby(frame.index.month).sum().to_numpy()[:12] / outside
    rough = np.array([m.clearness for m in rough_climate(36.1, 273.0)])
    assert abs(clear - rough).mean() < ROUGH_CLEARNESS


def test_height_cools_and_poles_are_colder():
    assert means(40, 2000).mean() < means(40, 0).mean() - 8
    assert means(70, 0).mean() < means(50, 0).mean() < means(20, 0).mean()
    assert np.ptp(means(0, 0)) == pytest.approx(0.0)


@pytest.mark.parametrize("latitude", [-90.0, -33.5, 0.0, 41.2, 90.0])
def test_every_latitude_has_twelve_months_that_a_forecast_can_use(latitude):
    months = rough_climate(latitude, 0.0)
    assert len(months) == 12
    assert all(0.3 < m.clearness < 0.7 and m.tmax_c > m.tmin_c for m in months)
