"""Own materials on the shelf, the weather service's door, and the map of the bright patch."""

from datetime import date

import pytest

from drylamp.core.optics.covers import normal_transmittance
from drylamp.core.tables import covers
from drylamp.demo.scenario import OVEN, STEW, TERRACE, demo_now
from drylamp.instruments.weather_service import Service, start_in_background
from drylamp.web.app import create_app
from drylamp.web.settings import Settings
from tests.core.test_builds import OWN_TIN
from tests.web.test_api import oven_body, problem
from tests.wording import read

OWN_PANE = {
    "name": "greenhouse-pane", "title": "Old greenhouse pane", "index": 1.526, "extinction_per_m": 45.0,
    "longwave_transmittance": 0.0, "emittance": 0.88, "density_kg_m3": 2500.0, "cp_j_kgk": 840.0, "conductivity_w_mk": 1.0,
    "usual_thickness_m": 0.003, "top_service_c": 90.0, "food_safe": True, "price_m2": 0.0, "source": "off the shed, guessed",
}  # fmt: skip


def shelf_of(client) -> dict:
    return client.get("/api/materials").get_json()


def test_shelf_lists_all_families_with_their_sources(client):
    shelf = shelf_of(client)
    assert {name: len(shelf[name]) for name in ("absorbers", "covers", "mirrors", "layers")}["absorbers"] >= 20
    assert all(row["source"] for name in ("absorbers", "covers", "mirrors", "layers") for row in shelf[name])
    glass = next(row for row in shelf["covers"] if row["name"] == "low-iron-glass")
    through = shelf["lets_through"][glass["name"]]
    assert through == pytest.approx(normal_transmittance(covers()["low-iron-glass"]))
    assert 0.89 < through < 0.93
    assert "Source: " in read(shelf["says"]["cover/low-iron-glass"])


def test_own_material_from_first_to_last(client):
    made = client.post("/api/materials", json={"cover": OWN_PANE})
    assert made.status_code == 201, made.text
    own = made.get_json()
    assert own == {"id": 1, "family": "cover", "name": "greenhouse-pane", "revision": 1}
    assert shelf_of(client)["covers"][-1]["title"] == "Old greenhouse pane"
    better = {**OWN_PANE, "extinction_per_m": 20.0}
    changed = client.put("/api/materials/1", json={"cover": better}, headers={"If-Match": '"r1"'})
    assert changed.get_json()["revision"] == 2
    problem(client.put("/api/materials/1", json={"cover": better}, headers={"If-Match": '"r1"'}), 412)
    problem(client.put("/api/materials/1", json={"cover": better}), 428)
    assert client.delete("/api/materials/1", headers={"If-Match": '"r2"'}).status_code == 200
    assert shelf_of(client)["own"] == []
    assert client.post("/api/materials/1/restore").status_code == 200
    assert shelf_of(client)["own"] == [{"id": 1, "family": "cover", "name": "greenhouse-pane", "revision": 2}]


def test_build_carries_its_own_material_and_the_twin_runs_on_it(client):
    spec = {**OVEN.model_dump(mode="json"), "lining": OWN_TIN}
    made = client.post("/api/builds", json=oven_body(lining=OWN_TIN))
    assert made.status_code == 201, made.text
    assert made.get_json()["spec"]["lining"]["title"] == "Inside of a tea tin"
    body = {"site_id": 1, "spot": "terrace", "spec": spec, "load": STEW.model_dump(mode="json"), "day": "2025-06-12"}
    day = client.post("/api/twin/day", json=body)
    assert day.status_code == 200, day.text
    assert abs(day.get_json()["outcome"]["energy_closure"]) < 1e-9


@pytest.mark.parametrize(("body", "field", "words"), [
    ({"cover": {**OWN_PANE, "name": "window-glass"}}, "name", "is a listed cover"),
    ({"cover": {**OWN_PANE, "index": 9.0}}, "cover.index", "9.0 was given"),
    ({"cover": {**OWN_PANE, "emittance": 1.4}}, "cover.emittance", "1.4 was given"),
    ({"absorber": {**OWN_TIN, "source": ""}}, "absorber.source", "at least 1 character"),
    ({"cover": OWN_PANE, "absorber": OWN_TIN}, "", "give one of absorber, cover, mirror, layer"),
    ({}, "", "give one of"),
])  # fmt: skip
def test_impossible_materials_are_refused_by_field(client, body, field, words):
    found = problem(client.post("/api/materials", json=body), 422)
    assert any(e["field"] == field and words in e["message"] for e in found["errors"]), found
    assert shelf_of(client)["own"] == []


def test_names_on_the_shelf_differ_also_after_putting_back(client):
    client.post("/api/materials", json={"cover": OWN_PANE})
    assert "already on your shelf" in problem(client.post("/api/materials", json={"cover": OWN_PANE}), 422)["detail"]
    client.delete("/api/materials/1", headers={"If-Match": '"r1"'})
    assert client.post("/api/materials", json={"cover": OWN_PANE}).status_code == 201
    assert "already on your shelf" in problem(client.post("/api/materials/1/restore"), 422)["detail"]
    problem(client.delete("/api/materials/9", headers={"If-Match": '"r1"'}), 404)
    turned = client.put("/api/materials/2", json={"absorber": OWN_TIN}, headers={"If-Match": '"r1"'})
    assert "is a cover" in problem(turned, 422)["detail"]


def patch_of(client, hour: int, **changes) -> dict:
    body = {
        "site_id": 1, "spec": {**OVEN.model_dump(mode="json"), **changes}, "load": STEW.model_dump(mode="json"),
        "day": "2025-06-12", "at": f"2025-06-12T{hour:02d}:00:00+02:00",
    }  # fmt: skip
    answer = client.post("/api/twin/patch", json=body)
    assert answer.status_code == 200, answer.text
    return answer.get_json()


def test_bright_patch_moves_across_the_tray_with_the_sun(client):
    """A box that looks south: seen from before it, the morning sun stands on the right and lights the left."""
    morning, noon, evening, night = (patch_of(client, hour) for hour in (10, 14, 18, 2))
    assert sum(noon["shares"].values()) == pytest.approx(1.0)
    assert {"standing", "floor", "walls"} == set(noon["shares"])
    assert morning["centre_across"] < noon["centre_across"] < evening["centre_across"]
    assert len(noon["suns"]) == len(noon["suns"][0]) == 16
    assert noon["peak_suns"] > 0.5
    assert night["centre_across"] is None
    assert read(night["words"]) == "The sun is down."


def test_side_flaps_brighten_the_patch(client):
    flap = {"material": "glass-mirror", "length_m": 0.45, "angle_deg": 110}
    plain, more = patch_of(client, 14), patch_of(client, 14, flaps={"left": flap, "right": flap})
    assert more["peak_suns"] > plain["peak_suns"] * 1.1


@pytest.fixture
def served(tmp_path):
    """A client of an app that knows a weather service."""
    url = start_in_background(Service((TERRACE,), seed=12))
    app = create_app(Settings(data=tmp_path / "s.sqlite3", now=demo_now, weather_service=url))
    with app.test_client() as made:
        made.post("/api/sites", json=TERRACE.model_dump(mode="json"))
        yield made
    app.config["DATABASE"].close()


def test_weather_service_by_the_door_a_real_one_would_use(served):
    assert served.get("/api/now").get_json()["weather_service"]
    made = served.post("/api/sites/1/weather-service", json={"start": "2025-06-12", "days": 3})
    assert made.status_code == 201, made.text
    assert made.get_json()["name"] == "weather service 12 Jun – 14 Jun 2025"
    body = {
        "site_id": 1,
        "spot": "terrace",
        "spec": OVEN.model_dump(mode="json"),
        "weather": {"kind": "stored", "id": 1},
    }
    for day in (12, 13, 14):
        answer = served.post("/api/twin/day", json={**body, "day": date(2025, 6, day).isoformat()})
        assert answer.status_code == 200, answer.text
        assert "stand-in weather service" in read(answer.get_json()["outcome"]["weather"])
    assert "has no rows for" in problem(served.post("/api/twin/day", json={**body, "day": "2025-06-20"}), 422)["detail"]
    problem(served.post("/api/sites/1/weather-service", json={"start": "2025-06-12", "days": 0}), 422)


def test_without_a_service_it_is_said_how_to_name_one(client):
    assert not client.get("/api/now").get_json()["weather_service"]
    found = problem(client.post("/api/sites/1/weather-service", json={"start": "2025-06-12"}), 422)
    assert "--weather" in found["detail"]
