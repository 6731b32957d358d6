"""Where somebody is: towns by name, coordinates, the day as typed, the skyline as drawn, months out of a file."""

from __future__ import annotations

from pathlib import Path

import pvlib
import pytest
from flask.testing import FlaskClient

from drylamp.demo.scenario import OVEN, STEW
from drylamp.store import gazetteer
from tests.web.test_advice_api import asked, post
from tests.wording import read


def places(client: FlaskClient, q: str, status: int = 200):
    answer = client.get("/api/places", query_string={"q": q})
    assert answer.status_code == status, answer.get_json()
    return answer.get_json()


def test_a_town_brings_its_clock_height_and_coordinates(client: FlaskClient):
    town = places(client, "reus")[0]
    assert town["title"] == "Reus, Spain"
    assert (town["latitude_deg"], town["longitude_deg"]) == pytest.approx((41.156, 1.107), abs=0.01)
    assert town["time_zone"] == "Europe/Madrid"
    assert town["elevation_m"] == pytest.approx(117.0, abs=town["elevation_doubt_m"])
    assert "± 6" in read(town["rough"])
    assert places(client, "Paris, Texas")[0]["time_zone"] == "America/Chicago"
    assert places(client, "Київ")[0]["title"] == places(client, "kiev")[0]["title"] == "Kyiv, Ukraine"
    assert places(client, "ZURICH")[0]["title"] == "Zürich, Switzerland"
    assert places(client, "") == places(client, "qqqqqq") == []


def test_coordinates_are_one_place_near_a_town(client: FlaskClient):
    (place,) = places(client, "41° 12' N, 1° 6' E")
    assert (place["latitude_deg"], place["longitude_deg"]) == (41.2, 1.1)
    assert place["name"].startswith("near ")
    assert places(client, "0, -30")[0]["name"] == "My yard"
    assert "more than one way" in places(client, "50,30", 422)["detail"]
    places(client, "x" * 200, 422)


def test_a_place_makes_a_site_that_forecasts_and_has_chances(client: FlaskClient):
    place = places(client, "Almoster")[0]
    site = {name: place[name] for name in ("name", "latitude_deg", "longitude_deg", "elevation_m", "time_zone")}
    made = client.post("/api/sites", json=site).get_json()
    assert made["climate_is_rough"]
    assert all(month["clearness"] for month in made["climate"])
    body = {**asked(OVEN, STEW), "site_id": made["id"], "spot": None, "day": "2025-12-12"}
    assert post(client, "/api/twin/day", body)["outcome"]["days"][0]["peak_doubt_k"] > 0
    assert len(post(client, "/api/advice/chance", {**body, "years": 2})["members"]) == 2


def test_the_table_of_towns_is_made_once_and_whole(tmp_path: Path, monkeypatch: pytest.MonkeyPatch):
    def short(db) -> None:
        db.execute("INSERT INTO town VALUES (1, 'Upper Thing', '', 'Nowhere', 10, 20, 1500)")
        db.execute("INSERT INTO called VALUES ('upperthing', 1)")

    monkeypatch.setattr(gazetteer, "_fill", short)
    assert [town.title for town in gazetteer.find("Upper th", tmp_path)] == ["Upper Thing, Nowhere"]
    monkeypatch.setattr(gazetteer, "_fill", lambda db: 1 / 0)
    assert gazetteer.find("upper", tmp_path), "it is not made again"
    with pytest.raises(ZeroDivisionError):
        gazetteer.find("upper", tmp_path / "other")
    assert list((tmp_path / "other").iterdir()) == [], "half a table is not left lying"
    assert gazetteer.nearest(10.1, 20.1, tmp_path).name == "Upper Thing"
    assert gazetteer.nearest(50.0, 20.1, tmp_path) is None


def test_a_day_in_four_numbers_is_kept_and_let_go(client: FlaskClient):
    url = "/api/sites/1/days/2025-06-12"
    usual = client.get(url).get_json()
    assert usual["typed"] is None
    typed = {"tmin_c": 3.0, "tmax_c": 9.0, "sky": "grey", "wind_m_s": 6.0}
    assert client.put(url, json=typed).get_json()["typed"]["sky"] == "grey"
    body = asked(OVEN, STEW)
    cold = post(client, "/api/twin/day", body)["outcome"]
    assert "grey sky" in read(cold["weather"])
    assert "clear sky" in read(post(client, "/api/twin/day", {**body, "sky": "clear"})["outcome"]["weather"]), (
        "a named sky is the usual day"
    )
    assert "clear" in read(post(client, "/api/twin/day", {**body, "day": "2025-06-13"})["outcome"]["weather"])
    assert client.get("/api/sites/1/strip", query_string={"day": "2025-06-12"}).get_json()["wind_m_s"] == 6.0
    swapped = client.put(url, json={**typed, "tmax_c": 1.0})
    assert swapped.status_code == 422
    assert client.get(url).get_json()["typed"]["tmax_c"] == 9.0, "nothing was written"
    assert client.delete(url).get_json() == usual
    assert client.get("/api/sites/1/days/2500-01-01").status_code == 422
    assert client.get("/api/sites/99/days/2025-06-12").status_code == 404


def test_a_skyline_is_drawn_with_what_it_hides(client: FlaskClient):
    tree = {"name": "tree", "bearing_deg": 180.0, "distance_m": 8.0, "height_m": 4.0, "width_m": 4.0}
    spot = {
        "name": "here",
        "horizon": [{"azimuth_deg": a, "altitude_deg": 5.0} for a in (0.0, 120.0, 240.0)],
        "obstacles": [tree],
    }
    body = {"spot": spot, "day": "2025-06-12"}
    view = post(client, "/api/sites/1/skyline", body)
    assert view["line_deg"][0] == 5.0
    assert view["line_deg"][180] == view["outlines"][0]["top_deg"] == pytest.approx(26.57, abs=0.02)
    winter, _, summer = view["tracks"]
    assert winter["hidden_hours"] > summer["hidden_hours"] > 0.0
    moved = post(
        client, "/api/sites/1/skyline", {**body, "grip": {"obstacle": 0, "bearing_deg": 200.0, "top_deg": 45.0}}
    )
    assert moved["spot"]["obstacles"][0]["height_m"] == pytest.approx(8.0, abs=0.01), (
        "as high as it is far at 45 degrees"
    )
    assert moved["spot"]["obstacles"][0]["bearing_deg"] == 200.0
    assert (
        "has 1 obstacles"
        in post(
            client, "/api/sites/1/skyline", {**body, "grip": {"obstacle": 4, "bearing_deg": 0.0, "top_deg": 5.0}}, 422
        )["detail"]
    )


def test_months_are_taken_out_of_a_years_file(client: FlaskClient):
    """TMY3 of Greensboro (National Solar Radiation Data Base), as pvlib ships it: its coldest month is January, its warmest July."""
    text = (Path(pvlib.__path__[0]) / "data" / "723170TYA.CSV").read_text(encoding="utf-8")
    site = {
        "name": "G",
        "latitude_deg": 36.1,
        "longitude_deg": -79.95,
        "elevation_m": 273.0,
        "time_zone": "America/New_York",
    }
    made = client.post("/api/sites", json=site).get_json()
    kept = client.post(
        f"/api/sites/{made['id']}/weather-files", json={"name": "g.csv", "kind": "csv", "text": text}
    ).get_json()
    months = client.get(f"/api/sites/{made['id']}/weather-files/{kept['id']}/months").get_json()
    assert round(months[0]["tmax_c"]) == 5
    assert max(range(12), key=lambda k: months[k]["tmax_c"]) == 6
    assert client.get(f"/api/sites/1/weather-files/{kept['id']}/months").status_code == 404, "of another site"
    for broken in (text[:20000], "nothing\n\n"):
        refused = client.post(
            f"/api/sites/{made['id']}/weather-files", json={"name": "g.csv", "kind": "tmy", "text": broken}
        )
        assert refused.status_code == 422
