"""Vapour that leaves: with damp air out of a batch box, and off open water; against CoolProp, ASHRAE, and in runs whose heat must balance."""

from __future__ import annotations

from datetime import date

import numpy as np
import pytest
from CoolProp.CoolProp import PropsSI
from CoolProp.HumidAirProp import HAPropsSI

from drylamp.core.builds.common.lid.spec import NightLid
from drylamp.core.engine import weather_for
from drylamp.core.heat.laws import (
    open_water_terms,
    open_water_w,
    radiation_w_k,
    vapour_leak_terms,
    vapour_leak_w,
    wind_w_k,
)
from drylamp.core.loads.common.filling import TOP
from drylamp.core.sky.weather import Span
from drylamp.core.twin.case import usual_case
from drylamp.core.twin.prepared import simulate
from drylamp.core.twin.run import Run
from drylamp.demo.scenario import HEATER, SHOWERS, TERRACE

P = 101325.0
JUNE = date(2025, 6, 12)
STILL = SHOWERS.model_copy(update={"draws": [], "layers": 1, "mains_c": 13.0})


def latent_j_kg(celsius: float, outside_pa: float) -> float:
    """What a kilogram of dry air carries off as vapour, by CoolProp (mixture of Herrmann, Kretzschmar & Gatley 2009)."""
    inside = HAPropsSI("W", "T", celsius + 273.15, "P", P, "R", 1.0)
    outside = 0.62198 * outside_pa / (P - outside_pa)
    return 2.35e6 * (inside - outside)


@pytest.mark.parametrize("celsius", [20.0, 35.0, 50.0, 65.0, 80.0])
def test_saturated_air_carries_what_published_humid_air_does(celsius):
    mine = vapour_leak_w(0.0, 0.2, 1e-3, celsius, 15.0, (2.0, 1000.0, P))
    assert mine == pytest.approx(1e-3 * latent_j_kg(celsius, 1000.0), rel=0.02)


def test_cold_and_dry_inside_carries_nothing_and_near_boiling_stays_finite():
    assert vapour_leak_w(0.0, 0.2, 1e-3, 2.0, 15.0, (2.0, 1500.0, P)) == 0.0
    assert np.isfinite(vapour_leak_w(0.0, 0.2, 1e-3, 120.0, 15.0, (2.0, 1500.0, P)))


def test_its_slope_is_that_of_the_curve():
    air = (2.0, 1000.0, P)
    g, c = vapour_leak_terms(1e-3, 0.2, 0.0, 45.0, 15.0, air)
    assert g * 45.0 + c == pytest.approx(vapour_leak_w(1e-3, 0.2, 0.0, 45.0, 15.0, air))
    assert g * 46.0 + c == pytest.approx(vapour_leak_w(1e-3, 0.2, 0.0, 46.0, 15.0, air), rel=0.01)
    assert g > 0.0


def run_of(**change: object) -> Run:
    case = usual_case(TERRACE, None, HEATER.with_(**change), STILL, JUNE).with_(
        span=Span(start=JUNE, days=2, step_s=300)
    )
    return simulate(case, weather_for(case))


def leaked_kwh(run: Run) -> float:
    return float(run.account_w["leak"].sum() * run.weather.dt_s / 3.6e6)


def warmest(run: Run) -> float:
    return float(np.nanmax(run.temperature_c[STILL.judged]))


def test_a_gasket_keeps_vapour_in_and_water_warmer():
    leaky, sealed = run_of(), run_of(seals_vapour=True)
    assert leaked_kwh(leaky) > 3.0 * leaked_kwh(sealed)
    assert warmest(sealed) > warmest(leaky) + 2.0
    assert max(abs(leaky.energy_closure), abs(sealed.energy_closure)) < 1e-9


def test_a_film_or_a_plate_needs_no_gasket():
    for kept in ({"water_film": True}, {"plate": "flat-black-paint"}):
        with_vapour, without = (warmest(run_of(**kept, seals_vapour=seals)) for seals in (False, True))
        assert without - with_vapour < 1.0


def test_so_much_air_typed_carries_so_much_vapour():
    """From the run's own temperatures: air as damp as the colder of water and pane lets it be, hand-summed step by step."""
    run, sealed = run_of(leak_m3_h=6.0), run_of(leak_m3_h=6.0, seals_vapour=True)
    kg_s = 6.0 / 3600.0 * 1.15

    def mid(node: str) -> np.ndarray:
        series = run.temperature_c[node]
        return (series[:-1] + series[1:]) / 2.0

    colder = np.minimum(mid(STILL.judged if TOP not in run.temperature_c else TOP), mid("cover-1"))
    vapour = np.array([latent_j_kg(c, p) for c, p in zip(colder, run.weather.vapour_pa, strict=True)])
    dry = kg_s * 1006.0 * (mid("inside-air") - run.weather.air_c)
    expected = float((kg_s * np.maximum(vapour, 0.0) + dry).sum() * run.weather.dt_s / 3.6e6)
    assert leaked_kwh(run) == pytest.approx(expected, rel=0.05)
    assert leaked_kwh(sealed) < leaked_kwh(run)


def test_air_under_a_lid_and_a_bright_face_keep_more():
    """At night only; foil matters where there is air under it (Hollands 1976 for the gap, grey plates for the glow)."""

    def morning(**lid: object) -> float:
        run = run_of(seals_vapour=True, lid=NightLid(thickness_m=0.02, **lid))
        return float(run.at(STILL.judged, np.array([run.edge_s[0] + 86400.0 + 3600.0 * 8]))[0])

    lies, over, bright = morning(), morning(gap_m=0.03), morning(gap_m=0.03, inner="aluminium-foil")
    assert lies < over < bright
    assert bright - over > 0.1


# --- open water ---


def vapour_pa(celsius: float, rh: float) -> float:
    return rh * PropsSI("P", "T", celsius + 273.15, "Q", 0, "Water")


@pytest.mark.parametrize("wind", [0.5, 1.5, 3.0, 5.0])
@pytest.mark.parametrize("celsius", [22.0, 28.0, 34.0])
def test_a_quiet_pool_loses_as_ashrae_says(wind, celsius):
    """Half of (89 + 78.2 V) W/m²kPa (ASHRAE Handbook Applications, natatoriums; Carrier 1918; activity factor 0.5 of a quiet pool)."""
    air = (wind, vapour_pa(20.0, 0.5), P)
    apart = (vapour_pa(celsius, 1.0) - air[1]) / 1000.0
    assert open_water_w(1.0, 0.0, celsius, 20.0, air) == pytest.approx(0.5 * (89.0 + 78.2 * wind) * apart, rel=0.35)


def shares(celsius: float, air_c: float, rh: float, open_share: float = 1.0) -> tuple[float, float]:
    """Share of vapour in what open water loses at night, and all of it, W/m²: wind 2 m/s, sky 12 K under the air."""
    vapour = open_water_w(open_share, 0.0, celsius, air_c, (2.0, vapour_pa(air_c, rh), P))
    warm = wind_w_k(1.0, 2.0, celsius, air_c) * (celsius - air_c)
    glow = radiation_w_k(0.95, celsius, air_c - 12.0) * (celsius - air_c + 12.0)
    return vapour / (vapour + warm + glow), vapour + warm + glow


def test_an_open_pool_in_dry_mild_air_loses_most_by_evaporation():
    """Seven to eight tenths are printed for heated pools in the open (U.S. Department of Energy's pool pages, from memory: 70 %)."""
    dry, damp = shares(26.0, 20.0, 0.4), shares(26.0, 25.0, 0.85)
    assert 0.6 < dry[0] < 0.8
    assert damp[0] < dry[0]
    assert damp[1] < 0.6 * dry[1]
    assert shares(26.0, 20.0, 0.4, 0.05)[1] < 0.5 * dry[1], "a cover that floats cuts it by most"


def test_water_under_damp_air_gains_nothing_by_this_law_and_its_slope_is_the_curves():
    assert open_water_w(1.0, 0.0, 10.0, 25.0, (2.0, vapour_pa(25.0, 0.9), P)) == 0.0
    air = (2.0, vapour_pa(20.0, 0.5), P)
    g, c = open_water_terms(2.0, 0.3, 30.0, 20.0, air)
    assert g * 31.0 + c == pytest.approx(open_water_w(2.0, 0.3, 31.0, 20.0, air), rel=0.01)
    assert open_water_w(2.0, 0.3, 30.0, 20.0, air) < open_water_w(2.0, 0.0, 30.0, 20.0, air), "shelter"


def test_a_trough_without_a_cover_is_cooled_by_the_wind_that_dries_it():
    calm, windy = (open_trough(wind) for wind in (0.2, 6.0))
    assert warmest(windy) < warmest(calm) - 5.0
    assert max(abs(calm.energy_closure), abs(windy.energy_closure)) < 1e-9


def open_trough(wind: float) -> Run:
    case = usual_case(TERRACE, None, HEATER.with_(cover=None, lid=None), STILL, JUNE)
    case = case.with_(weather=case.weather.model_copy(update={"wind_m_s": wind}), span=Span(start=JUNE, step_s=300))
    return simulate(case, weather_for(case))
