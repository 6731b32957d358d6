"""A broken row is told of and mended; it blanks no list."""

from __future__ import annotations

import json
import sqlite3

import pytest

from drylamp.demo.scenario import OVEN, TERRACE
from drylamp.store.unreadable import PLACES


def spoil(client, statement: str, *given: object) -> None:
    path = client.application.config["DRYLAMP"].data
    with sqlite3.connect(path) as db:
        db.execute(statement, given)
    db.close()


def told(client) -> dict[str, dict]:
    return {one["what"]: one for one in client.get("/api/unreadable").get_json()}


def all_lists(client) -> list[int]:
    return [
        len(client.get(path).get_json())
        for path in ("/api/sites", "/api/builds", "/api/trials", "/api/builds?away=true")
    ]


@pytest.fixture
def second(client, build) -> dict:
    body = {"site_id": 1, "name": "Second", "spec": OVEN.model_dump(mode="json")}
    return client.post("/api/builds", json=body).get_json()


@pytest.mark.parametrize("doc", ["", "{", "null", '{"kind": "submarine"}', "\x00", '{"kind": "box-oven", "width_m": 1e999}'])  # fmt: skip
def test_a_broken_build_is_left_out_told_of_and_mended(client, trial, second, doc: str):
    spoil(client, "UPDATE build_revision SET spec = ? WHERE build_id = 1", doc)
    assert all_lists(client) == [1, 1, 0, 0]
    assert [line["build"]["name"] for line in client.get("/api/sites/1/yard?day=2025-06-12").get_json()["lines"]] == [
        "Second"
    ]
    answer = client.get("/api/builds/1")
    assert answer.status_code == 409
    assert "can no longer be read" in answer.get_json()["detail"]
    one = told(client)["build"]
    assert one["text"] == doc
    assert one["name"] == "Hatbox oven, revision 1"
    url = f"/api/unreadable/build/{one['key']}"
    refused = client.put(url, json={"text": '{"kind": "submarine"}'})
    assert refused.status_code == 422
    assert "no such kind" in refused.get_json()["detail"] or "allowed are" in refused.get_json()["detail"]
    assert client.put(url, json={"text": json.dumps(OVEN.model_dump(mode="json"))}).get_json() == []
    assert all_lists(client) == [1, 2, 1, 0]


def test_an_older_revision_is_offered_in_its_place(client, build):
    wider = {
        "name": "Hatbox oven",
        "spot": "terrace",
        "spec": {**OVEN.model_dump(mode="json"), "facing_deg": 170.0},
        "load": build["load"],
    }
    assert client.put("/api/builds/1", json=wider, headers={"If-Match": '"r1"'}).status_code == 200
    spoil(client, "UPDATE build_revision SET spec = '?' WHERE build_id = 1 AND number = 2")
    one = told(client)["build"]
    assert json.loads(one["better"])["facing_deg"] == OVEN.facing_deg
    client.put(f"/api/unreadable/build/{one['key']}", json={"text": one["better"]})
    assert client.get("/api/builds/1").get_json()["spec"]["facing_deg"] == OVEN.facing_deg


@pytest.mark.parametrize(("what", "statement", "good"), [
    ("site", "UPDATE site SET doc = '[]'", TERRACE.model_dump_json()),
    ("load-of-build", "UPDATE build_revision SET load = '{'", None),
    ("weather-of-trial", "UPDATE trial SET weather = '{\"tmin_c\": 900}'", '{"tmin_c": 12, "tmax_c": 20, "rh": 0.5, "wind_m_s": 2}'),
    ("goal-of-trial", "UPDATE trial SET goal = '7'", None),
    ("calibration-of-channel", "UPDATE channel SET calibration = 'x' WHERE name = 'tray'", None),
    ("day", "INSERT INTO day_weather VALUES (1, '2025-06-12', '{}')", '{"tmin_c": 12, "tmax_c": 20, "rh": 0.5, "wind_m_s": 2}'),
    ("own-cover", "INSERT INTO material (family, name, doc) VALUES ('cover', 'old pane', '{}')", None),
    ("calibration", "INSERT INTO calibration (build_id, build_revision, trial_id, adjustments, words, accepted_at) VALUES (1, 1, 1, '-', '', '')", "{}"),
])  # fmt: skip
def test_every_sort_of_document_is_told_of_and_no_list_fails(
    client, trial, what: str, statement: str, good: str | None
):
    assert what in PLACES
    spoil(client, statement)
    for path in ("/api/sites", "/api/builds", "/api/trials", "/api/materials", "/api/unreadable"):
        assert client.get(path).status_code == 200, path
    for path in ("/api/sites/1/yard?day=2025-06-12", "/api/builds/1", "/api/trials/1", "/api/sites/1/days/2025-06-12"):
        assert client.get(path).status_code in (200, 409), path
    one = told(client)[what]
    assert one["why"]
    if good is not None:
        assert client.put(f"/api/unreadable/{what}/{one['key']}", json={"text": good}).get_json() == []


def test_what_can_be_read_is_not_written_over(client, build):
    answer = client.put("/api/unreadable/build/1", json={"text": "{}"})
    assert answer.status_code == 404
    assert client.put("/api/unreadable/moon/1", json={"text": "{}"}).status_code == 404
    assert client.get("/api/builds/1").get_json()["revision"] == 1


def test_a_sheets_row_that_is_no_json_is_shown_as_one(client, build):
    spoil(client, "INSERT INTO sheet_row (sheet, build_id, content, written_at) VALUES ('prices', 1, '{', '')")
    assert client.get("/api/sheets/build/1").status_code == 200
