"""Skylines, spots, days and records."""

from dataclasses import replace
from datetime import date

import numpy as np
import pytest
from pydantic import ValidationError

from drylamp.core.advice.aiming import aim_view
from drylamp.core.checks import GapInWeather, InputProblem
from drylamp.core.sky.dome import hemisphere, is_open, plane_axes, skyline
from drylamp.core.sky.months import ClimateMonth
from drylamp.core.sky.of_span import weather_of
from drylamp.core.sky.plane import dome_share
from drylamp.core.sky.site import HorizonPoint, Obstacle, Site, Spot
from drylamp.core.sky.weather import SKY_INDEX, ClearDay, Records, Span, span_edges_s
from drylamp.core.twin.case import climate_day


def test_hemisphere_is_even():
    up = hemisphere(512)
    assert np.allclose(np.linalg.norm(up, axis=1), 1)
    assert np.abs(up[:, :2].mean(axis=0)).max() < 0.01
    assert (2 / 512 * up[:, 2].sum()) == pytest.approx(1.0, abs=1e-3)
    assert hemisphere(100, upper=False)[:, 2].max() < 0


def test_plane_axes_are_square_and_face_the_right_way():
    across, slope, normal = plane_axes(30.0, 180.0)
    assert across == pytest.approx([1, 0, 0])
    assert normal == pytest.approx([0, -0.5, np.sqrt(0.75)])
    assert slope @ normal == pytest.approx(0)
    assert slope[2] > 0


def test_horizon_is_read_round_the_compass():
    """Points at 350° and 10° meet across north."""
    spot = Spot(
        name="s",
        horizon=[HorizonPoint(azimuth_deg=350, altitude_deg=10), HorizonPoint(azimuth_deg=10, altitude_deg=20)],
    )
    line = skyline(spot)
    assert line[0] == pytest.approx(15)
    assert line[350] == pytest.approx(10)


def test_obstacle_is_as_wide_and_high_as_it_looks():
    spot = Spot(name="s", obstacles=[Obstacle(name="wall", bearing_deg=180, distance_m=10, height_m=10, width_m=20)])
    line = skyline(spot)
    assert line[180] == pytest.approx(45, abs=0.1)
    assert line[136] > 30
    assert line[134] == 0
    assert line[226] == 0


def test_skyline_takes_its_share_of_the_dome():
    flat = np.zeros(360)
    assert dome_share(np.array([0.0, 0, 1]), flat) == pytest.approx(1, abs=2e-3)
    ring = np.full(360, 30.0)  # a ring of hills at 30° leaves cos² 30° of a level plane's dome
    assert dome_share(np.array([0.0, 0, 1]), ring) == pytest.approx(0.75, abs=0.01)
    assert is_open(ring, np.array([[0.0, 1, 0.2]]) / np.hypot(1, 0.2))[0] == 0


def test_spots_compared_by_the_hour(site, june):
    view = aim_view(site, "terrace", 25.0, 180.0, june)
    by_name = {s.spot: s for s in view.spots}
    assert view.best_spot == "flat roof"
    assert by_name["terrace"].wh_m2_by_hour[19] < 0.6 * by_name["flat roof"].wh_m2_by_hour[19]
    assert by_name["orchard edge"].wh_m2_by_hour[8] < by_name["flat roof"].wh_m2_by_hour[8]
    assert sum(by_name["terrace"].wh_m2_by_hour) == pytest.approx(1000 * by_name["terrace"].kwh_m2, abs=1)
    assert view.noon_altitude_deg == pytest.approx(90 - 41.2 + 23.1, abs=0.2)
    assert any(not p.clear_of_skyline for p in view.path)


@pytest.mark.parametrize("sky", ["hazy", "broken", "grey"])
def test_sky_states_scale_the_clear_sky(site, sky):
    clear = weather_of(site, ClearDay(tmin_c=10, tmax_c=20), Span(start=date(2025, 6, 12)))
    other = weather_of(site, ClearDay(tmin_c=10, tmax_c=20, sky=sky), Span(start=date(2025, 6, 12)))
    assert other.ghi_w_m2.sum() / clear.ghi_w_m2.sum() == pytest.approx(SKY_INDEX[sky][0], abs=1e-6)
    assert other.dhi_w_m2.sum() / other.ghi_w_m2.sum() > clear.dhi_w_m2.sum() / clear.ghi_w_m2.sum()
    if sky == "grey":
        assert (other.sky_c > clear.sky_c).mean() > 0.99


def test_air_runs_from_its_low_to_its_high(site):
    weather = weather_of(site, ClearDay(tmin_c=8, tmax_c=21), Span(start=date(2025, 6, 12)))
    assert weather.air_c.min() == pytest.approx(8, abs=0.05)
    assert weather.air_c.max() == pytest.approx(21, abs=0.05)
    solar = (weather.sun.time_s / 3600 + site.longitude_deg / 15) % 24
    assert solar[int(np.argmax(weather.air_c))] == pytest.approx(15, abs=0.1)
    assert weather.sky_c.max() < weather.air_c.max()


def test_a_day_with_the_clock_change_has_its_hours(site):
    start, end = span_edges_s(site, Span(start=date(2025, 3, 30)))
    assert end - start == 23 * 3600
    weather = weather_of(site, ClearDay(tmin_c=8, tmax_c=18), Span(start=date(2025, 3, 30)))
    assert weather.steps == 23 * 60


def records(
    step_s: float = 3600.0, hours: int = 24, start: str = "2025-06-12T00:00:00+02:00", hole: int | None = None
) -> Records:
    from datetime import datetime

    begin = datetime.fromisoformat(start).timestamp()
    count = int(hours * 3600 / step_s)
    keep = np.array([k for k in range(count) if k != hole])
    ghi = np.maximum(0, 900 * np.sin((np.arange(count) * step_s / 3600 - 6) / 14 * np.pi))
    return Records(
        time_s=(begin + step_s * np.arange(count))[keep], step_s=step_s, ghi_w_m2=ghi[keep],
        air_c=np.full(len(keep), 20.0), rh=np.full(len(keep), 0.5), wind_m_s=np.full(len(keep), 2.0), dni_w_m2=None,
        dhi_w_m2=None, pressure_pa=None, origin="test file",
    )  # fmt: skip


def test_hourly_records_keep_each_hours_energy_and_are_split(site):
    made = records()
    weather = weather_of(site, made, Span(start=date(2025, 6, 12)))
    assert weather.ghi_w_m2.reshape(24, 60).mean(axis=1) == pytest.approx(made.ghi_w_m2, abs=1e-9)
    assert "split" in weather.origin
    low = weather.ghi_w_m2 - weather.dhi_w_m2 - weather.dni_w_m2 * weather.sun.sin_altitude
    assert np.abs(low[weather.sun.altitude_deg > 5]).max() < 1.0


def test_minute_records_are_averaged_over_longer_steps(site):
    made = records(step_s=60.0)
    weather = weather_of(site, made, Span(start=date(2025, 6, 12), step_s=300))
    assert weather.ghi_w_m2.mean() == pytest.approx(made.ghi_w_m2.mean(), rel=1e-6)


def test_rain_keeps_its_amount_on_any_step(site):
    for step_s in (3600.0, 600.0, 60.0):
        made = records(step_s=step_s)
        rain = np.where(np.arange(len(made.time_s)) % 5 == 0, 2.0, 0.0)
        fallen_mm = rain.sum() * step_s / 3600.0
        weather = weather_of(site, replace(made, rain_mm_h=rain), Span(start=date(2025, 6, 12), step_s=300))
        assert weather.rain_mm_h.sum() * 300.0 / 3600.0 == pytest.approx(fallen_mm, rel=1e-9)
    assert weather_of(site, records(), Span(start=date(2025, 6, 12), step_s=300)).rain_mm_h is None


def test_a_weather_of_other_steps_keeps_their_rain(site):
    made = records()
    weather = weather_of(site, replace(made, rain_mm_h=np.arange(24.0)), Span(start=date(2025, 6, 12), step_s=300))
    back = np.arange(weather.steps)[::-1]
    assert list(weather.like(back).rain_mm_h[:12]) == [23.0] * 12
    dry = weather_of(site, made, Span(start=date(2025, 6, 12), step_s=300))
    assert dry.like(back).rain_mm_h is None


def test_other_steps_and_a_part_carry_every_series_and_marks_tell_rain_apart(site):
    """A series that is added to weather and not to those that are carried keeps its old length here."""
    dry = weather_of(site, records(), Span(start=date(2025, 6, 12), step_s=300))
    full = replace(dry, rain_mm_h=np.zeros(dry.steps), over_c=dry.air_c)
    for made, steps in ((full.between(10, 20), np.arange(10, 20)), (full.like(np.arange(10, 20)), np.arange(10, 20))):
        for name, series in vars(full).items():
            if isinstance(series, np.ndarray):
                assert list(getattr(made, name)) == list(series[steps]), name
    part = full.between(10, 20)
    assert part.start_s == full.start_s + 10 * full.dt_s
    assert list(part.sun.time_s) == list(full.sun.time_s[10:20])
    back = full.like(np.arange(full.steps)[::-1])
    assert list(back.sun.time_s) == list(full.sun.time_s)
    assert list(back.sun.altitude_deg) == list(full.sun.altitude_deg[::-1])
    wet = replace(full, rain_mm_h=np.full(dry.steps, 2.0))
    assert len({dry.mark, full.mark, wet.mark}) == 3
    assert replace(full).mark == full.mark


def test_a_gap_is_named_not_filled(site):
    with pytest.raises(GapInWeather, match=r"no rows for 60 steps between 2025-06-12 08:00 UTC"):
        weather_of(site, records(hole=10), Span(start=date(2025, 6, 12)))


def test_a_span_outside_the_file_is_refused(site):
    with pytest.raises(GapInWeather, match="it covers"):
        weather_of(site, records(), Span(start=date(2025, 6, 13)))


def test_usual_days_are_read_between_mid_months(site):
    june, july = climate_day(site, date(2025, 6, 15)), climate_day(site, date(2025, 7, 15))
    between = climate_day(site, date(2025, 6, 30))
    assert june.tmax_c == pytest.approx(26.5, abs=0.05)
    assert june.tmax_c < between.tmax_c < july.tmax_c
    assert climate_day(site, date(2025, 1, 1)).tmax_c == pytest.approx(12.25, abs=0.3)


def test_without_monthly_means_a_day_is_a_rough_guess_that_says_so(open_site):
    day = climate_day(open_site, date(2025, 6, 12))
    assert day.rough
    assert 15 < day.tmax_c < 32


@pytest.mark.parametrize(("field", "value", "says"), [
    ("latitude_deg", 95, "less than or equal to 90"),
    ("longitude_deg", -200, "greater than or equal to -180"),
    ("elevation_m", 20000, "less than or equal to 9000"),
    ("time_zone", "Moon/Base", "no IANA time zone"),
    ("albedo", 1.2, "less than or equal to 1"),
    ("latitude_deg", float("nan"), "finite"),
    ("latitude_deg", True, "valid number"),
])  # fmt: skip
def test_impossible_places_are_refused(field: str, value: object, says: str):
    fields = {"name": "x", "latitude_deg": 41, "longitude_deg": 1, "time_zone": "UTC", field: value}
    with pytest.raises(ValidationError, match=says):
        Site.model_validate(fields)


def test_two_spots_of_one_name_are_refused():
    with pytest.raises(ValidationError, match="same name"):
        Site(name="x", latitude_deg=1, longitude_deg=1, time_zone="UTC", spots=[Spot(name="a"), Spot(name="a")])


def test_high_below_low_is_refused():
    with pytest.raises(ValidationError, match="swap the two"):
        ClimateMonth(tmin_c=20, tmax_c=10, rh=0.5, wind_m_s=1)
    with pytest.raises(ValidationError, match="swap the two"):
        ClearDay(tmin_c=20, tmax_c=10)


def test_unknown_spot_names_the_known_ones(site):
    with pytest.raises(InputProblem, match="terrace, orchard edge, flat roof"):
        site.spot("cellar")
