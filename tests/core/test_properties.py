"""What must be true of every run (physics.md, part 7), over builds and days drawn at random."""

from __future__ import annotations

from datetime import date

import numpy as np
import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from drylamp.core.builds.box_oven.spec import BoxOven
from drylamp.core.builds.common.cover.spec import GlazedCover
from drylamp.core.builds.common.mirror.spec import FlapMirror
from drylamp.core.common.wall import WallLayer
from drylamp.core.loads.pot.spec import PotLoad
from drylamp.core.sky.of_span import weather_of
from drylamp.core.sky.site import Site
from drylamp.core.sky.weather import ClearDay, Span
from drylamp.core.twin.calibration import Calibration
from tests.posing import simulated

few = settings(max_examples=20, deadline=None, derandomize=True, suppress_health_check=list(HealthCheck))

covers = st.none() | st.builds(
    GlazedCover,
    material=st.sampled_from(["window-glass", "polycarbonate", "pe-film", "oven-bag"]),
    thickness_m=st.floats(0.0001, 0.006),
    layers=st.integers(1, 2),
    gap_m=st.floats(0.005, 0.04),
)
mirrors = st.none() | st.builds(FlapMirror, length_m=st.floats(0.2, 0.9), angle_deg=st.floats(60, 160))
ovens = st.builds(
    BoxOven,
    facing_deg=st.floats(0, 360),
    tilt_deg=st.floats(0, 70),
    width_m=st.floats(0.3, 0.9),
    length_m=st.floats(0.3, 0.9),
    height_m=st.floats(0.15, 0.5),
    wall=st.lists(
        st.builds(
            WallLayer,
            material=st.sampled_from(["plywood", "sheep-wool", "corrugated-card", "pir-foam"]),
            thickness_m=st.floats(0.004, 0.08),
        ),
        min_size=1,
        max_size=3,
    ),
    lining=st.sampled_from(["aluminium-foil", "flat-black-paint", "bare-card"]),
    cover=covers,
    mirror=mirrors,
    seal_gap_mm=st.floats(0, 5),
    vent_cm2=st.floats(0, 60),
)
days = st.builds(
    ClearDay,
    tmin_c=st.floats(-10, 12),
    tmax_c=st.floats(13, 38),
    rh=st.floats(0.1, 0.9),
    wind_m_s=st.floats(0, 9),
    sky=st.sampled_from(["clear", "hazy", "broken", "grey"]),
)


@few
@given(oven=ovens, day=days, latitude=st.floats(-60, 60), month=st.integers(1, 12))
def test_every_empty_run_closes_and_stays_within_bounds(oven: BoxOven, day: ClearDay, latitude: float, month: int):
    site = Site(name="x", latitude_deg=latitude, longitude_deg=10.0, time_zone="UTC")
    weather = weather_of(site, day, Span(start=date(2025, month, 15)))
    run = simulated(site, None, oven, None, weather)
    assert run.energy_closure < 1e-3
    coldest = min(float(weather.sky_c.min()), float(weather.air_c.min()))
    for node, series in run.temperature_c.items():
        assert np.isfinite(series).all(), node
        assert series.min() >= coldest - 0.01, node
        assert series.max() < 400.0, node


@few
@given(
    oven=ovens, day=days, food_kg=st.floats(0.3, 1.2), lid=st.sampled_from(["black", "clear", "none"]),
    goes_in=st.sampled_from(["08:30", "13:00"]),
)  # fmt: skip
def test_every_loaded_run_closes(oven: BoxOven, day: ClearDay, food_kg: float, lid: str, goes_in: str):
    load = PotLoad(food_kg=food_kg, pot_diameter_m=0.2, pot_height_m=0.1, lid=lid, goes_in=goes_in)
    site = Site(name="x", latitude_deg=35.0, longitude_deg=10.0, time_zone="UTC")
    weather = weather_of(site, day, Span(start=date(2025, 7, 1)))
    run = simulated(site, None, oven, load, weather)
    assert run.energy_closure < 1e-3
    contents = run.temperature_c["contents"]
    assert np.nanmax(contents) < 101.5, "water does not pass its boiling point by more than the steam valve's width"
    put = int(goes_in[:2]) * 60 + int(goes_in[3:])
    assert np.isnan(contents[:put]).all()
    assert contents[put] == pytest.approx(load.start_c)


def day_run(oven, site, june, load=None, **changes):
    return simulated(site, None, oven.model_copy(update=changes), load, june)


def peak(run, node: str = "tray") -> float:
    return float(np.nanmax(run.temperature_c[node]))


def test_ledger_adds_up_to_the_sun_at_the_opening(oven, site, june, stew):
    run = simulated(site, None, oven, stew, june)
    total = sum(series for series in run.account_w.values())
    # A pot put in cold brings its own heat content: only the step it goes in could differ, and it does not.
    assert np.abs(total - run.opening_w).max() < 1e-6


def test_no_sun_relaxes_to_the_surroundings(oven, site, june):
    from dataclasses import replace

    dark = replace(june, ghi_w_m2=0 * june.ghi_w_m2, dni_w_m2=0 * june.dni_w_m2, dhi_w_m2=0 * june.dhi_w_m2)
    run = simulated(site, None, oven, None, dark)
    for series in run.temperature_c.values():
        assert series.max() <= june.air_c.max() + 0.01
    assert run.opening_w.max() == 0


def test_more_cover_never_raises_the_optical_gain(oven, open_site, june):
    from drylamp.core.builds.common.box.optics import BoxOptics
    from drylamp.core.sky.dome import hemisphere

    taken = []
    for cover in (None, GlazedCover(layers=1), GlazedCover(layers=2)):
        parts, _ = BoxOptics.of(oven.model_copy(update={"cover": cover}), None).absorbed_m2(hemisphere(128))
        taken.append(parts[:, :2].sum(axis=1))
    assert (taken[1] <= taken[0] + 1e-12).all()
    assert (taken[2] <= taken[1] + 1e-12).all()


def test_doubling_the_food_halves_its_first_rate(oven, site, june):
    """With the same pot and nothing else stored in it, the rate of the contents goes as 1/mass."""
    small = PotLoad(food_kg=1.0, pot_diameter_m=0.24, pot_height_m=0.14, start_c=20.0)
    rates = []
    for load in (small, small.model_copy(update={"food_kg": 2.0})):
        run = simulated(site, None, oven, load, june)
        powers = run.account_w["food"][630:660].mean()
        contents = run.temperature_c["contents"]
        rates.append(contents[645] - contents[631])
        assert powers > 0
    assert rates[0] / rates[1] == pytest.approx(2.0, rel=0.25)


def test_east_and_west_are_alike_about_solar_noon(open_site):
    """Facing south, under a steady air, morning and afternoon sun on the opening mirror each other."""
    oven = BoxOven(facing_deg=180, tilt_deg=20, wall=[WallLayer(material="plywood", thickness_m=0.01)])
    weather = weather_of(open_site, ClearDay(tmin_c=20, tmax_c=20), Span(start=date(2025, 6, 21)))
    run = simulated(open_site, None, oven, None, weather)
    noon = int(np.argmax(weather.sun.direction[:, 2]))
    reach = 300
    before, after = run.opening_w[noon - reach : noon][::-1], run.opening_w[noon + 1 : noon + 1 + reach]
    assert np.abs(before - after).max() < 0.02 * run.opening_w.max()


def test_facing_east_in_the_morning_is_facing_west_in_the_evening(open_site):
    wall = [WallLayer(material="plywood", thickness_m=0.01)]
    weather = weather_of(open_site, ClearDay(tmin_c=20, tmax_c=20), Span(start=date(2025, 6, 21)))
    east, west = (
        simulated(open_site, None, BoxOven(facing_deg=azimuth, tilt_deg=40, wall=wall), None, weather).opening_w.sum()
        for azimuth in (90, 270)
    )
    assert east == pytest.approx(west, rel=0.02)


def test_southern_hemisphere_faces_north():
    site = Site(name="s", latitude_deg=-33.5, longitude_deg=150.0, time_zone="Australia/Sydney")
    wall = [WallLayer(material="sheep-wool", thickness_m=0.05)]
    weather = weather_of(site, ClearDay(tmin_c=5, tmax_c=18), Span(start=date(2025, 6, 21)))
    north, south = (
        peak(simulated(site, None, BoxOven(facing_deg=azimuth, tilt_deg=40, wall=wall, mirror=None), None, weather))
        for azimuth in (0, 180)
    )
    assert north > south + 30
    assert site.equator_azimuth_deg == 0


def test_halving_the_step_moves_no_node_by_a_fifth_of_a_kelvin(oven, site, stew):
    runs = []
    for step in (60, 30):
        weather = weather_of(site, ClearDay(tmin_c=15, tmax_c=26), Span(start=date(2025, 6, 12), step_s=step))
        runs.append(simulated(site, None, oven, stew, weather))
    for node, fine in runs[1].temperature_c.items():
        apart = np.abs(runs[0].temperature_c[node] - fine[::2])
        assert np.nanmax(apart) < 0.2, node


def test_each_single_change_moves_the_tray_the_way_it_should(oven, site, june):
    base = peak(day_run(oven, site, june))
    thick = [WallLayer(material="sheep-wool", thickness_m=0.12)]
    assert peak(day_run(oven, site, june, wall=thick)) > base
    assert peak(day_run(oven, site, june, mirror=None)) < base - 5
    assert peak(day_run(oven, site, june, cover=GlazedCover(layers=1))) < base - 3
    assert peak(day_run(oven, site, june, seal_gap_mm=4.0)) < base - 5
    assert peak(day_run(oven, site, june, vent_cm2=80.0)) < base - 5
    half, shut = (peak(day_run(oven, site, june, vent_cm2=80.0, vent_open=share)) for share in (0.5, 0.0))
    assert peak(day_run(oven, site, june, vent_cm2=80.0)) < half < shut == base
    assert day_run(oven, site, june, vent_cm2=80.0).account_w["vent"].sum() > 0
    assert peak(day_run(oven, site, june, tray="bare-aluminium")) < base - 15
    assert peak(day_run(oven, site, june, cover=None)) < base - 25


def test_film_leaks_heat_that_glass_keeps(oven, site, june):
    """Thin PE lets long-wave through: less hot than glass though it lets in more sun."""
    glass = peak(day_run(oven, site, june, cover=GlazedCover(material="window-glass", layers=1)))
    film = peak(day_run(oven, site, june, cover=GlazedCover(material="pe-film", thickness_m=0.0002, layers=1)))
    assert film < glass - 8


def test_heavy_pot_is_slower_but_steadier(oven, site, june):
    light = PotLoad(food_kg=1.5, pot_kg=0.5, pot_diameter_m=0.22)
    heavy = light.model_copy(update={"pot_kg": 5.0})
    runs = [simulated(site, None, oven, load, june) for load in (light, heavy)]
    at_noon = [run.temperature_c["contents"][780] for run in runs]
    at_night = [run.temperature_c["contents"][1300] for run in runs]
    assert at_noon[1] < at_noon[0] - 3
    assert at_night[1] > at_night[0] + 1


def test_calibration_factors_move_the_right_account(oven, site, june):
    base = simulated(site, None, oven, None, june)
    leaky = simulated(site, None, oven, None, june, Calibration(leak=5.0))
    dirty = simulated(site, None, oven, None, june, Calibration(optical=0.8))
    assert leaky.account_w["leak"].sum() > 2 * base.account_w["leak"].sum()
    assert dirty.account_w["mirrored"].sum() > 1.5 * base.account_w["mirrored"].sum()
    assert leaky.energy_closure < 1e-3
    assert dirty.energy_closure < 1e-3


def test_above_the_polar_circle_in_winter():
    site = Site(name="n", latitude_deg=69.0, longitude_deg=20.0, time_zone="UTC")
    weather = weather_of(site, ClearDay(tmin_c=-15, tmax_c=-8), Span(start=date(2025, 12, 21)))
    oven = BoxOven(facing_deg=180, wall=[WallLayer(material="plywood", thickness_m=0.01)])
    run = simulated(site, None, oven, None, weather)
    assert run.opening_w.max() == 0
    assert run.energy_closure == 0
