"""The API: resources, revisions, errors with field paths, and who may talk to it."""

import json
import re
from datetime import UTC, datetime, timedelta
from pathlib import Path

import pytest

from drylamp.demo.scenario import OVEN, STEW, TERRACE
from drylamp.web.sites.models import YardThing
from drylamp.web.sites.yard import next_five
from tests.wording import read


def oven_body(**changes):
    spec = {**OVEN.model_dump(mode="json"), **changes}
    return {"site_id": 1, "name": "Oven", "spot": "terrace", "spec": spec, "load": STEW.model_dump(mode="json")}


def problem(answer, status: int) -> dict:
    assert answer.status_code == status, answer.text
    assert answer.mimetype == "application/problem+json"
    body = answer.get_json()
    assert body["status"] == status
    assert "Traceback" not in answer.text
    return body


def test_health_and_clock(client):
    health = client.get("/api/health").get_json()
    assert health["status"] == "ok"
    assert health["schema_version"] >= 1
    assert client.get("/api/now").get_json()["now"].startswith("2025-06-12T12:10:00")


def test_openapi_document_names_every_path(client):
    """The one that is kept; that it is what a server gives is seen in the soak, which has to ask for it anyway."""
    document = json.loads(Path("docs/openapi.json").read_text(encoding="utf-8"))
    served = {re.sub(r"<(?:\w+:)?(\w+)>", r"{\1}", str(rule)) for rule in client.application.url_map.iter_rules()}
    wanted = {path for path in served if path.startswith("/api/")} - {"/api/openapi.json"}
    assert set(document["paths"]) == wanted


def test_sites(client):
    assert [s["site"]["name"] for s in client.get("/api/sites").get_json()] == ["Larkspur Terrace"]
    answer = client.get("/api/sites/1")
    assert answer.headers["ETag"] == '"r1"'
    problem(client.get("/api/sites/7"), 404)


def test_latitude_95_names_its_field(client):
    body = {**TERRACE.model_dump(mode="json"), "latitude_deg": 95}
    found = problem(client.post("/api/sites", json=body), 422)
    assert found["errors"] == [
        {"field": "latitude_deg", "message": "95 was given; allowed is less than or equal to 90"}
    ]
    assert len(client.get("/api/sites").get_json()) == 1


def test_changing_a_site_needs_the_revision_seen(client):
    body = {**TERRACE.model_dump(mode="json"), "name": "Terrace two"}
    assert "If-Match" in problem(client.put("/api/sites/1", json=body), 428)["detail"]
    assert (
        client.put("/api/sites/1", json=body, headers={"If-Match": '"r1"'}).get_json()["site"]["name"] == "Terrace two"
    )
    problem(client.put("/api/sites/1", json=body, headers={"If-Match": '"r1"'}), 412)


def test_build_round_trip(client, build):
    answer = client.get(f"/api/builds/{build['id']}")
    assert answer.headers["ETag"] == '"r1"'
    assert answer.get_json()["spec"] == OVEN.model_dump(mode="json")
    assert [b["name"] for b in client.get("/api/builds?site=1").get_json()] == ["Hatbox oven"]
    assert client.get("/api/builds?site=2").get_json() == []


@pytest.mark.parametrize(("changes", "field", "says"), [
    ({"tilt_deg": 120}, "spec.tilt_deg", "120 was given; allowed is less than or equal to 90"),
    ({"tray": "paisley"}, "spec.tray", "'paisley' is not known"),
    ({"tilt_deg": "steep"}, "spec.tilt_deg", "'steep' was given; allowed is a valid number"),
    ({"colour": "red"}, "spec.colour", "not a known field"),
    ({"tilt_deg": None}, "spec.tilt_deg", "valid number"),
    ({"wall": [{"material": "plywood"}]}, "spec.wall.0.thickness_m", "is missing"),
])  # fmt: skip
def test_wrong_fields_are_named(client, changes: dict, field: str, says: str):
    found = problem(client.post("/api/builds", json=oven_body(**changes)), 422)
    assert found["errors"][0]["field"] == field
    assert says in found["errors"][0]["message"]
    assert client.get("/api/builds").get_json() == []


def test_pot_too_large_for_the_box_is_refused_before_it_is_stored(client):
    found = problem(client.post("/api/builds", json=oven_body(height_m=0.1)), 422)
    assert found["errors"][0]["field"] == "load.pot_height_m"


def test_unknown_spot_is_refused(client):
    found = problem(client.post("/api/builds", json={**oven_body(), "spot": "moon"}), 422)
    assert "terrace, orchard edge" in found["detail"]


@pytest.mark.parametrize("content", [b"{not json", b"", b"[]"])
def test_bodies_that_are_no_build(client, content: bytes):
    answer = client.post("/api/builds", data=content, content_type="application/json")
    assert answer.status_code in (400, 422)
    assert answer.mimetype == "application/problem+json"


def test_nan_in_a_body_is_refused(client):
    text = json.dumps(oven_body()).replace('"tilt_deg": 25.0', '"tilt_deg": NaN')
    answer = client.post("/api/builds", data=text, content_type="application/json")
    assert answer.status_code in (400, 422)
    json.loads(answer.text)


def test_two_tabs_editing_one_build(client, build):
    """The second tab's write is refused and says so; the first tab's stands."""
    url, match = f"/api/builds/{build['id']}", {"If-Match": '"r1"'}
    first = client.put(url, json={k: v for k, v in oven_body(tilt_deg=30).items() if k != "site_id"}, headers=match)
    assert first.get_json()["revision"] == 2
    second = client.put(url, json={k: v for k, v in oven_body(tilt_deg=50).items() if k != "site_id"}, headers=match)
    found = problem(second, 412)
    assert found["current_revision"] == 2
    assert "was not written" in found["detail"]
    assert client.get(url).get_json()["spec"]["tilt_deg"] == 30


def test_undo_over_the_wire(client, build):
    url = f"/api/builds/{build['id']}"
    body = {k: v for k, v in oven_body(tilt_deg=30).items() if k != "site_id"} | {"note": "tilt 30°"}
    assert build["undoes"] is None
    assert client.put(url, json=body, headers={"If-Match": '"r1"'}).get_json()["undoes"] == "tilt 30°"
    undone = client.post(f"{url}/undo", headers={"If-Match": '"r2"'}).get_json()
    assert undone["spec"]["tilt_deg"] == OVEN.tilt_deg
    problem(client.post(f"{url}/undo", headers={"If-Match": '"r3"'}), 409)
    assert [r["revision"] for r in client.get(f"{url}/revisions").get_json()] == [3, 2, 1]


def test_put_away_and_bring_back(client, build):
    url = f"/api/builds/{build['id']}"
    seen = {"If-Match": '"r1"'}
    assert client.post(f"{url}/put-away", headers=seen).get_json()["removed"] is True
    assert client.get("/api/builds").get_json() == []
    assert client.post(f"{url}/bring-back", headers=seen).get_json()["removed"] is False


@pytest.mark.parametrize("what", ["put-away", "bring-back"])
def test_putting_away_needs_the_revision_that_was_seen(client, build, what):
    url = f"/api/builds/{build['id']}/{what}"
    assert "If-Match" in problem(client.post(url), 428)["detail"]
    assert problem(client.post(url, headers={"If-Match": '"r7"'}), 412)["current_revision"] == 1
    assert client.get(f"/api/builds/{build['id']}").get_json()["removed"] is False


def test_build_file_out_and_in(client, build):
    text = client.get(f"/api/builds/{build['id']}/file").text
    made = client.post("/api/builds/from-file", json={"site_id": 1, "name": "b.json", "text": text})
    assert made.status_code == 201
    assert made.get_json()["spec"] == build["spec"]
    newer = text.replace('"format": 1', '"format": 9')
    found = problem(client.post("/api/builds/from-file", json={"site_id": 1, "name": "b.json", "text": newer}), 422)
    assert "format 9 was given" in found["detail"]
    assert len(client.get("/api/builds").get_json()) == 2


def twin_body(**more):
    return {"site_id": 1, "spot": "terrace", "spec": OVEN.model_dump(mode="json"), "load": STEW.model_dump(mode="json"),
            "day": "2025-06-12", **more}  # fmt: skip


def test_a_day_of_the_twin(client):
    answer = client.post("/api/twin/day", json=twin_body()).get_json()
    assert answer["outcome"]["days"][0]["enough"] is True
    assert answer["outcome"]["energy_closure"] < 1e-3
    assert [read(s["text"]) for s in answer["plan"]][1] == "put the chickpea stew in"
    again = client.post("/api/twin/day", json=twin_body()).get_json()
    assert again == answer


def test_a_changed_mirror_moves_the_day(client):
    less = {**OVEN.model_dump(mode="json"), "mirror": None}
    with_mirror, without = (
        client.post("/api/twin/day", json=twin_body(**more)).get_json()["outcome"]["stagnation_c"]
        for more in ({}, {"spec": less})
    )
    assert without < with_mirror - 5


def test_a_grey_day_is_no_cooking_day(client):
    outcome = client.post("/api/twin/day", json=twin_body(sky="grey")).get_json()["outcome"]
    assert outcome["days"][0]["enough"] is False
    assert any(f["level"] == "stop" for f in outcome["flags"])


def test_months(client):
    months = client.post("/api/twin/months", json=twin_body()).get_json()["months"]
    assert [m["month"] for m in months] == list(range(1, 13))
    assert months[5]["peak_c"] > months[11]["peak_c"]


def test_section_by_the_hour(client):
    noon = client.post("/api/twin/section", json=twin_body(at="2025-06-12T13:50:00+02:00")).get_json()
    night = client.post("/api/twin/section", json=twin_body(at="2025-06-12T23:50:00+02:00")).get_json()
    assert noon["rays"]
    assert night["rays"] == []
    found = problem(client.post("/api/twin/section", json=twin_body(at="2025-06-12T13:50:00")), 422)
    assert found["errors"][0]["field"] == "at"


def test_aim(client):
    body = {"site_id": 1, "spot": "terrace", "tilt_deg": 25, "facing_deg": 180, "day": "2025-06-12"}
    answer = client.post("/api/twin/aim", json=body).get_json()
    assert len(answer["view"]["skyline_deg"]) == 360
    assert [s["spot"] for s in answer["view"]["spots"]] == ["terrace", "orchard edge", "flat roof"]
    assert answer["schools"]["stock_deg"] == 45


def test_strip(client):
    strip = client.get("/api/sites/1/strip?day=2025-06-12").get_json()
    assert strip["sunrise"] < strip["sunset"]
    assert strip["start"] < strip["sunrise"]
    assert len(strip["times"]) == len(strip["beam_w_m2"]) == len(strip["air_c"])
    problem(client.get("/api/sites/1/strip?day=someday"), 422)


def test_strip_without_monthly_means_and_in_polar_night(client):
    far = {"name": "far", "latitude_deg": 75, "longitude_deg": 20, "time_zone": "UTC"}
    new = client.post("/api/sites", json=far).get_json()["id"]
    strip = client.get(f"/api/sites/{new}/strip?day=2025-12-21").get_json()
    assert strip["sunrise"] is None
    assert max(strip["air_c"]) < 5
    found = client.post("/api/twin/day", json={**twin_body(spot=None), "site_id": new}).get_json()
    assert "rough" in read(found["outcome"]["weather"])


def test_yard(client, build, trial):
    yard = client.get("/api/sites/1/yard?day=2025-06-12").get_json()
    line = yard["lines"][0]
    assert line["build"]["name"] == "Hatbox oven"
    assert line["running"] == [trial["id"]]
    assert yard["next_things"][0]["trial_id"] == trial["id"]
    assert all(a["time"] <= b["time"] for a, b in zip(yard["next_things"], yard["next_things"][1:], strict=False))


def test_a_reading_is_not_crowded_out_of_the_next_five():
    noon = datetime(2025, 6, 12, 12, 0, tzinfo=UTC)
    plans = [YardThing(time=noon + timedelta(minutes=k), text=f"plan {k}", build_id=1) for k in range(7)]
    late = YardThing(time=noon + timedelta(minutes=30), text="read", build_id=2, trial_id=4)
    missed = YardThing(time=noon - timedelta(minutes=30), text="read", build_id=3, trial_id=5)
    found = next_five([*plans, late, missed], noon)
    assert found == [missed, *plans[:3], late]


def test_materials_carry_their_sources(client):
    shelf = client.get("/api/materials").get_json()
    tables = [rows for name, rows in shelf.items() if isinstance(rows, list) and name != "own"]
    assert len(tables) == 9
    assert all(row["source"] for rows in tables for row in rows)


def test_weather_files_are_kept_and_used(client):
    lines = ["time,ghi_w_m2,air_c"]
    for hour in range(26):
        day, clock = 11 + (hour + 22) // 24, (hour + 22) % 24
        lines.append(f"2025-06-{day:02d}T{clock:02d}:00+00:00,{600 if 8 <= clock <= 15 else 0},22")
    body = {"name": "week.csv", "kind": "csv", "text": "\n".join(lines)}
    made = client.post("/api/sites/1/weather-files", json=body)
    assert made.status_code == 201
    assert [f["name"] for f in client.get("/api/sites/1/weather-files").get_json()] == ["week.csv"]
    weather = {"kind": "stored", "id": made.get_json()["id"]}
    outcome = client.post("/api/twin/day", json=twin_body(weather=weather)).get_json()["outcome"]
    assert "week.csv" in read(outcome["weather"])
    found = problem(client.post("/api/twin/day", json={**twin_body(weather=weather), "day": "2025-06-20"}), 422)
    assert "no rows for" in found["detail"]
    broken = problem(
        client.post("/api/sites/1/weather-files", json={**body, "text": "time,ghi_w_m2,air_c\nnoon,1,2\n"}), 422
    )
    assert "row 2" in broken["detail"]


def test_sums_over_the_wire(client):
    listed = client.get("/api/sums").get_json()
    assert len(listed) >= 10
    assert {"name", "title", "formula", "source", "inputs_schema"} <= set(listed[0])
    answer = client.post("/api/sums/mix", json={"hot_l": 15, "hot_c": 62, "cold_c": 13, "want_c": 40}).get_json()
    assert answer["result"]["total_l"] == pytest.approx(27.22, abs=0.01)
    found = problem(
        client.post("/api/sums/sun-position", json={"latitude": 95, "longitude": 0, "time": "2025-01-01T00:00Z"}), 422
    )
    assert found["errors"][0]["field"] == "latitude"
    assert "boil" in problem(client.post("/api/sums/boiling", json={}), 422)["detail"]


@pytest.mark.parametrize("path", ["/api/nothing", "/api/sites/1/nothing"])
def test_unknown_addresses_answer_in_json(client, path: str):
    problem(client.get(path), 404)


def test_wrong_method(client):
    problem(client.delete("/api/health"), 405)


def test_too_large_an_upload_is_refused(client, trial):
    text = "x" * (25 * 1024 * 1024)
    found = problem(
        client.post(f"/api/trials/{trial['id']}/import/preview", json={"name": "big.csv", "text": text}), 413
    )
    assert "24 MB" in found["detail"]


def test_foreign_hosts_and_origins_are_turned_away(client):
    problem(client.get("/api/health", headers={"Host": "evil.example"}), 403)
    problem(client.post("/api/sites", json={}, headers={"Origin": "http://evil.example"}), 403)
    problem(client.post("/api/sites", json={}, headers={"Sec-Fetch-Site": "cross-site"}), 403)
    assert client.get("/api/health", headers={"Host": "[::1]:80"}).status_code == 200


def test_policy_headers(client):
    answer = client.get("/")
    policy = answer.headers["Content-Security-Policy"]
    assert "script-src 'self'" in policy
    assert "unsafe" not in policy
    assert "__NONCE__" not in answer.text
    assert answer.headers["X-Content-Type-Options"] == "nosniff"


def test_a_fault_of_ours_shows_no_trace(client, monkeypatch):
    from drylamp.web.materials import routes as api_materials

    monkeypatch.setattr(api_materials.tables, "absorbers", lambda: 1 / 0)
    found = problem(client.get("/api/materials"), 500)
    assert "fault in Dry Lamp" in found["detail"]
    assert "ZeroDivision" not in json.dumps(found)
