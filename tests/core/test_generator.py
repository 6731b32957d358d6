"""Made-up weather, measured weather, the ground, and the doors by which weather comes in."""

import json
import urllib.error
import urllib.request
from datetime import UTC, date, datetime

import numpy as np
import pytest

from drylamp.core.checks import GapInWeather, InputProblem
from drylamp.core.sky import generator
from drylamp.core.sky.generator import ensemble, made_up_weather
from drylamp.core.sky.ground import ground_c, mains_c
from drylamp.core.sky.measured import Measured, with_measured
from drylamp.core.sky.of_span import weather_of
from drylamp.core.sky.weather import ClearDay, Span
from drylamp.demo.scenario import SOUTHERN, TERRACE
from drylamp.formats.weather_door import ServiceAwayError, ask, check_address
from drylamp.formats.weather_json import read_weather_json
from drylamp.instruments.weather_service import Service, hourly, start_in_background

YEAR = made_up_weather(TERRACE, date(2025, 1, 1), 365, seed=4)
MONTH = np.array([datetime.fromtimestamp(t, UTC).month for t in YEAR.time_s])


def test_same_seed_same_weather_to_the_last_digit():
    again, other = (made_up_weather(TERRACE, date(2025, 6, 1), 20, seed=s) for s in (4, 5))
    once = made_up_weather(TERRACE, date(2025, 6, 1), 20, seed=4)
    assert (once.ghi_w_m2 == again.ghi_w_m2).all()
    assert not (once.ghi_w_m2 == other.ghi_w_m2).all()


@pytest.mark.parametrize("site", [TERRACE, SOUTHERN])
def test_many_years_keep_the_months_means(site):
    """Clearness, air and wind of each month over a dozen Januaries and Julys."""
    for month in (1, 7):
        many = ensemble(site, date(2025, month, 1), 31, members=12)
        edges = np.append(many[0].time_s, many[0].time_s[-1] + 3600)
        _, above = generator._clear_hours(site, edges)
        wanted = site.climate[month - 1]
        clearness = np.mean([r.ghi_w_m2.sum() / above.sum() for r in many])
        assert clearness == pytest.approx(wanted.clearness, abs=0.04)
        assert np.mean([r.air_c.mean() for r in many]) == pytest.approx((wanted.tmin_c + wanted.tmax_c) / 2, abs=1.2)
        assert np.mean([r.wind_m_s.mean() for r in many]) == pytest.approx(wanted.wind_m_s, rel=0.15)
        low = np.mean([r.air_c.reshape(-1, 24).min(axis=1).mean() for r in many])
        assert low == pytest.approx(wanted.tmin_c, abs=1.8)


def test_days_remember_the_day_before():
    """Clearness from day to day: Graham & Hollands 1990 give about 0.29."""
    edges = np.append(YEAR.time_s, YEAR.time_s[-1] + 3600)
    clear, _ = generator._clear_hours(TERRACE, edges)
    shares = []
    for member in range(8):
        sun = made_up_weather(TERRACE, date(2025, 1, 1), 365, member=member).ghi_w_m2
        shares.append(sun.reshape(-1, 24).sum(axis=1) / clear.reshape(-1, 24).sum(axis=1))
    memory = np.mean([np.corrcoef(s[:-1], s[1:])[0, 1] for s in shares])
    assert memory == pytest.approx(0.29, abs=0.08)


def test_sun_stays_below_the_clear_sky_and_the_air_above_its_dew_point():
    edges = np.append(YEAR.time_s, YEAR.time_s[-1] + 3600)
    clear, _ = generator._clear_hours(TERRACE, edges)
    assert (YEAR.ghi_w_m2 <= clear * 1.001 + 0.1).all()
    assert (YEAR.ghi_w_m2 >= 0).all()
    assert (YEAR.rh > 0).all()
    assert (YEAR.rh <= 1).all()
    summer, winter = YEAR.air_c[MONTH == 7].mean(), YEAR.air_c[MONTH == 1].mean()
    assert summer > winter + 10


def test_minutes_hold_the_hours_and_have_clouds_in_them():
    hours = made_up_weather(TERRACE, date(2025, 6, 1), 10, seed=2)
    minutes = made_up_weather(TERRACE, date(2025, 6, 1), 10, seed=2, step_s=60)
    assert minutes.ghi_w_m2.reshape(-1, 60).mean(axis=1).sum() == pytest.approx(hours.ghi_w_m2.sum(), rel=0.03)
    noon = minutes.ghi_w_m2.reshape(-1, 1440)[:, 660:780]
    assert (np.abs(np.diff(noon, axis=1)) > 150).any(axis=1).sum() >= 3


def test_made_up_weather_drives_the_twin_without_a_gap():
    weather = weather_of(TERRACE, YEAR, Span(start=date(2025, 6, 12), days=3))
    assert weather.steps == 3 * 1440
    assert "made-up weather, seed 4" in weather.origin


def test_polar_winter_has_weather_and_no_sun():
    north = TERRACE.model_copy(update={"latitude_deg": 78.0, "longitude_deg": 15.0})
    dark = made_up_weather(north, date(2025, 12, 10), 10)
    assert dark.ghi_w_m2.max() == 0.0
    assert np.isfinite(dark.air_c).all()


def test_no_means_no_weather():
    dim = TERRACE.model_copy(update={"climate": [m.model_copy(update={"clearness": None}) for m in TERRACE.climate]})
    with pytest.raises(InputProblem, match="without clearness"):
        made_up_weather(dim, date(2025, 1, 1), 2)
    with pytest.raises(InputProblem, match="days: 0 was given"):
        made_up_weather(TERRACE, date(2025, 1, 1), 0)


def assumed():
    return weather_of(TERRACE, ClearDay(tmin_c=12, tmax_c=24), Span(start=date(2025, 6, 12)))


def test_readings_take_the_place_of_assumptions_where_there_are_some():
    base = assumed()
    at = base.start_s + 3600.0 * np.arange(10, 15)
    air = Measured(at, np.array([30.0, 31, 32, 33, 34]))
    sun = Measured(at, np.array([600.0, 650, 300, 650, 600]))
    wind = Measured(at, np.full(5, 4.0))
    damp = Measured(at, np.full(5, 0.35))
    own = with_measured(base, sun, air, damp, wind)
    inside = (base.sun.time_s >= at[0]) & (base.sun.time_s <= at[-1])
    assert (own.air_c[~inside] == base.air_c[~inside]).all()
    assert own.air_c[inside].min() >= 30.0
    assert own.ghi_w_m2[inside] == pytest.approx(np.interp(base.sun.time_s[inside], at, sun.value))
    sine = base.sun.direction[inside, 2]
    assert own.dni_w_m2[inside] * sine + own.dhi_w_m2[inside] == pytest.approx(own.ghi_w_m2[inside], rel=0.02)
    assert own.wind_m_s[inside] == pytest.approx(4.0)
    assert own.rh[inside] == pytest.approx(0.35)
    assert "sun as measured" in own.origin
    assert "wind as measured" in own.origin


def test_measured_air_leaves_the_vapour_alone():
    base = assumed()
    at = base.start_s + 3600.0 * np.arange(8, 20)
    own = with_measured(base, air_c=Measured(at, np.full(12, 28.0)))
    inside = (base.sun.time_s >= at[0]) & (base.sun.time_s <= at[-1])
    assert own.vapour_pa[inside] == pytest.approx(base.vapour_pa[inside], rel=0.02)


def test_gap_or_nonsense_in_the_readings_is_refused():
    base = assumed()
    at = base.start_s + np.array([10.0, 10.5, 13.0]) * 3600
    with pytest.raises(GapInWeather, match="150 minutes apart"):
        with_measured(base, air_c=Measured(at, np.array([20.0, 20, 20])))
    with pytest.raises(InputProblem, match="air: a reading of 85 was given"):
        with_measured(base, air_c=Measured(at[:2], np.array([20.0, 85.0])))
    with pytest.raises(InputProblem, match="at least two"):
        with_measured(base, wind_m_s=Measured(at[:1], np.array([2.0])))


# Kusuda & Achenbach 1965: the wave sinks with depth and comes later; at ten metres only the mean is left.
def test_ground_follows_the_year_weaker_and_later():
    days = 1735689600.0 + 86400.0 * np.arange(365)
    top, one, deep = (ground_c(TERRACE, days, z) for z in (0.0, 1.0, 10.0))
    assert top.mean() == pytest.approx(one.mean(), abs=0.1)
    assert np.ptp(deep) < 0.1 * np.ptp(top)
    assert 10 < np.argmax(one) - np.argmax(top) < 60
    assert mains_c(TERRACE, days) == pytest.approx(one)
    south = ground_c(SOUTHERN, days, 1.0)
    assert abs(int(np.argmax(south)) - int(np.argmax(one))) > 120
    rough = ground_c(TERRACE.model_copy(update={"climate": None}), days, 1.0)
    assert rough == pytest.approx(ground_c(TERRACE, days, 1.0), abs=8.0)


@pytest.fixture(scope="module")
def service() -> str:
    return start_in_background(Service((TERRACE, SOUTHERN), seed=3))


def test_service_answers_hourly_json_that_reads_back(service):
    records = read_weather_json(ask(service, TERRACE, date(2025, 6, 11), 4))
    same = made_up_weather(TERRACE, date(2025, 6, 11), 4, seed=3)
    assert records.ghi_w_m2 == pytest.approx(same.ghi_w_m2, abs=0.06)
    assert records.step_s == 3600
    assert weather_of(TERRACE, records, Span(start=date(2025, 6, 12), days=2)).steps == 2880
    other = read_weather_json(ask(service, TERRACE, date(2025, 6, 11), 4, member=2))
    assert not np.allclose(other.ghi_w_m2, records.ghi_w_m2)


def test_service_says_what_is_wrong_with_a_question(service):
    far = TERRACE.model_copy(update={"latitude_deg": 10.0})
    with pytest.raises(InputProblem, match="is no place this service knows"):
        ask(service, far, date(2025, 6, 11), 4)
    for query, words in (("hourly?latitude=x", "'x' was given; needed is a number"), ("daily", "allowed is /hourly")):
        with pytest.raises(urllib.error.HTTPError) as caught:
            urllib.request.urlopen(f"{service}/{query}", timeout=5)
        assert words in json.load(caught.value)["detail"]


def test_lost_hours_show_as_a_gap():
    text = json.dumps(hourly(Service((TERRACE,), drop_out=0.3), 41.2, 1.1, date(2025, 6, 11), 4))
    with pytest.raises(GapInWeather, match="has no rows for"):
        weather_of(TERRACE, read_weather_json(text), Span(start=date(2025, 6, 12)))


@pytest.mark.parametrize(
    "url", ["https://127.0.0.1:1", "ftp://x", "http://192.168.1.5:80", "http://weather.example:80"]
)
def test_only_this_machine_is_asked(url):
    with pytest.raises(InputProblem, match="weather: "):
        check_address(url)


def test_service_that_points_elsewhere_is_not_followed():
    import threading
    from http.server import BaseHTTPRequestHandler, HTTPServer

    class Elsewhere(BaseHTTPRequestHandler):
        def do_GET(self) -> None:
            self.send_response(302)
            self.send_header("Location", "http://192.0.2.1/hourly")
            self.end_headers()

        def log_message(self, *_: object) -> None: ...

    server = HTTPServer(("127.0.0.1", 0), Elsewhere)
    threading.Thread(target=server.handle_request, daemon=True).start()
    with pytest.raises(InputProblem, match=r"refused \(302\)"):
        ask(f"http://127.0.0.1:{server.server_address[1]}", TERRACE, date(2025, 6, 1), 1)
    server.server_close()


def test_service_that_is_away_is_said_so():
    with pytest.raises(ServiceAwayError, match="does not answer"):
        ask("http://127.0.0.1:9", TERRACE, date(2025, 6, 1), 1)


@pytest.mark.parametrize(("change", "says"), [
    ({"air_c": 99}, "hours.0.air_c"), ({"time": "2025-06-12T10:00:00"}, "has no offset"), ({"rain": 1}, "not a known field"),
    ({"ghi_w_m2": -5}, "hours.0.ghi_w_m2"), ({"rh": None}, "hours.0.rh"),
])  # fmt: skip
def test_hourly_json_out_of_range_is_refused_by_field(change, says):
    good = hourly(Service((TERRACE,)), 41.2, 1.1, date(2025, 6, 11), 1)
    good["hours"][0] |= change
    with pytest.raises(InputProblem, match=says):
        read_weather_json(json.dumps(good))


def test_hours_out_of_order_are_refused():
    good = hourly(Service((TERRACE,)), 41.2, 1.1, date(2025, 6, 11), 1)
    good["hours"].reverse()
    with pytest.raises(InputProblem, match="is not after the hour before"):
        read_weather_json(json.dumps(good))
