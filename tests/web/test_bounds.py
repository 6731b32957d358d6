"""Careless and far-off requests: refused with a sentence before anything is written, and the lists go on working."""

from __future__ import annotations

import json

import pytest

from drylamp.demo.scenario import OVEN
from tests.wording import read

YEAR_9999, YEAR_1 = "9999-12-31T23:59:00+00:00", "0001-01-01T00:00:00+00:00"
BEYOND = 2**63


def refused(answer, *words: str) -> None:
    assert 400 <= answer.status_code < 500, answer.text[:300]
    assert answer.mimetype == "application/problem+json"
    for word in words:
        assert word in answer.text


def lists_work(client) -> None:
    for path in ("/api/trials", "/api/builds", "/api/sites/1/yard?day=2025-06-12"):
        assert client.get(path).status_code == 200, path


@pytest.mark.parametrize("started", [YEAR_9999, YEAR_1])
def test_a_trial_far_off_is_refused(client, build, started: str):
    body = {"build_id": 1, "name": "far", "protocol": "quick-look", "started": started}
    refused(client.post("/api/trials", json=body), "started", "1970", "2199")
    assert client.get("/api/trials").get_json() == []
    lists_work(client)


@pytest.mark.parametrize("stamp", [YEAR_9999, YEAR_1])
@pytest.mark.parametrize(
    ("path", "body"),
    [
        ("readings", {"readings": [{"channel": "tray", "value": 50, "time": None}]}),
        ("events", {"kind": "cloud", "time": None}),
        ("readings/withdraw", {"channel": "tray", "time": None}),
    ],
)
def test_stamps_far_off_are_refused(client, trial, stamp: str, path: str, body: dict):
    text = json.dumps(body).replace("null", json.dumps(stamp))
    refused(client.post(f"/api/trials/1/{path}", data=text, content_type="application/json"), "time")
    lists_work(client)
    assert client.get("/api/trials/1").status_code == 200


def test_a_photo_far_off_is_refused(client, trial):
    answer = client.post(
        f"/api/trials/1/photos?time={YEAR_9999.replace('+', '%2B')}", data=b"x", content_type="image/jpeg"
    )
    refused(answer, "time")


@pytest.mark.parametrize("stamp", [YEAR_9999, YEAR_1, "253402300740", "1e300"])
def test_a_logger_far_off_has_its_line_refused_and_the_others_taken(client, trial, stamp: str):
    token = {"Authorization": f"Bearer {trial['token']}"}
    rows = [
        {"channel": "tray", "value": 40, "time": stamp},
        {"channel": "tray", "value": 41, "time": "2025-06-12T10:05:00Z"},
    ]
    answer = client.post("/api/trials/1/ingest", json={"readings": rows}, headers=token).get_json()
    assert answer["written"] == 1
    assert [line["line"] for line in answer["refused"]] == [1]
    lines = f"{stamp},tray,42\n2025-06-12T10:10:00Z,tray,43\n"
    answer = client.post("/api/trials/1/ingest", data=lines, content_type="text/csv", headers=token).get_json()
    assert (answer["written"], len(answer["refused"])) == (1, 1)
    lists_work(client)


def test_a_channel_with_a_long_name_in_the_path_is_refused(client, trial):
    body = {"name": "x", "title": "long", "node": "tray"}
    path = f"/api/trials/1/channels/{'a' * 41}"
    refused(client.put(path, json=body, headers={"If-Match": f'"{trial["channels_mark"]}"'}), "channel")
    assert client.get("/api/trials/1").status_code == 200
    lists_work(client)


def test_an_absurd_infrared_reading_is_kept_flagged_and_shown(client, trial):
    row = {"name": "ir", "title": "shell", "node": "shell", "instrument": "infrared"}
    assert (
        client.put(
            "/api/trials/1/channels/ir", json=row, headers={"If-Match": f'"{trial["channels_mark"]}"'}
        ).status_code
        == 200
    )
    answer = client.post("/api/trials/1/readings", json={"readings": [{"channel": "ir", "value": 1e300}]})
    refused(answer, "value")
    assert client.get("/api/trials/1").status_code == 200
    assert client.get("/api/trials/1/series").status_code == 200
    lists_work(client)


@pytest.mark.parametrize(
    "path",
    ["/api/builds/{}", "/api/sites/{}", "/api/trials/{}", "/api/sites/{}/yard?day=2025-06-12", "/api/builds?site={}",
     "/api/trials?build={}", "/api/trials/1/photos/{}", "/api/trials/{}/series"],
)  # fmt: skip
def test_ids_beyond_the_data_file_are_not_found_or_refused(client, trial, path: str):
    refused(client.get(path.format(BEYOND)))


@pytest.mark.parametrize("field", ["build_id", "site_id"])
def test_ids_in_bodies_are_bounded_too(client, build, field: str):
    path = "/api/trials" if field == "build_id" else "/api/builds"
    body = {field: BEYOND, "name": "x", "protocol": "quick-look"}
    if path == "/api/builds":
        body = {field: BEYOND, "name": "x", "spec": OVEN.model_dump(mode="json")}
    refused(client.post(path, json=body), field)


@pytest.mark.parametrize("path", ["/api/builds", "/api/trials/1/ingest", "/api/sums/boil"])
@pytest.mark.parametrize(("opens", "closes"), [("[", "]"), ('{"a":', "}")])
def test_deep_nesting_is_refused(client, trial, path: str, opens: str, closes: str):
    deep = 100_000
    text = '{"readings":' + opens * deep + "1" + closes * deep + "}"
    answer = client.post(path, data=text, content_type="application/json", headers={"X-Trial-Token": trial["token"]})
    refused(answer, "nested")


@pytest.mark.parametrize("day", ["0001-01-01", "9999-12-31"])
def test_days_far_off_are_refused(client, build, day: str):
    body = {"site_id": 1, "spec": OVEN.model_dump(mode="json"), "day": day}
    for path in ("/api/twin/day", "/api/twin/months", "/api/advice/weakest"):
        refused(client.post(path, json=body), "day")
    for path in (f"/api/sites/1/yard?day={day}", f"/api/sites/1/strip?day={day}"):
        refused(client.get(path), "day")
    body = {"site_id": 1, "tilt_deg": 30, "facing_deg": 180, "day": day}
    refused(client.post("/api/twin/aim", json=body), "day")


def test_an_empty_yard_forecasts_from_rough_means_and_says_so(client):
    bare = {
        "name": "new place",
        "latitude_deg": 47.0,
        "longitude_deg": 8.0,
        "elevation_m": 500,
        "time_zone": "Europe/Zurich",
    }
    site = client.post("/api/sites", json=bare).get_json()
    assert site["climate_is_rough"] is True
    assert len(site["climate"]) == 12
    assert site["site"]["climate"] is None
    body = {"site_id": site["id"], "spec": OVEN.model_dump(mode="json"), "day": "2025-06-12"}
    answer = client.post("/api/twin/day", json=body)
    assert answer.status_code == 200, answer.text
    assert "rough" in read(answer.get_json()["outcome"]["weather"])
    assert any("rough" in read(flag["text"]) for flag in answer.get_json()["outcome"]["flags"])
    client.post("/api/builds", json={"site_id": site["id"], "name": "first", "spec": OVEN.model_dump(mode="json")})
    yard = client.get(f"/api/sites/{site['id']}/yard?day=2025-06-12").get_json()
    assert [line["problem"] for line in yard["lines"]] == [[]]


@pytest.mark.parametrize("angle", [45.0, 62.0, 80.0, 89.0])
def test_next_answers_for_a_box_with_its_mirror_laid_low(client, angle: float):
    spec = OVEN.model_dump(mode="json")
    spec["mirror"]["angle_deg"] = angle
    body = {"site_id": 1, "spec": spec, "day": "2025-06-12"}
    for path in ("weakest", "schools", "sayings", "turning"):
        answer = client.post(f"/api/advice/{path}", json=body)
        assert answer.status_code == 200, f"{path}: {answer.text[:300]}"
