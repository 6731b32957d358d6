"""Every refusal is one plain sentence as problem+json, with its own status, and nothing is half done."""

from __future__ import annotations

import base64
import json

import pytest

from drylamp.demo.scenario import OVEN

SPEC = OVEN.model_dump(mode="json")
BODY = {"site_id": 1, "name": "x", "spec": SPEC}


def refused(answer, status: int, *words: str) -> dict:
    assert answer.status_code == status, answer.text[:400]
    assert answer.mimetype == "application/problem+json"
    found = answer.get_json()
    assert found["status"] == status
    assert "\n" not in found["detail"]
    for word in words:
        assert word in found["detail"], found["detail"]
    return found


@pytest.mark.parametrize(("data", "kind", "status", "says"), [
    (b"", "application/json", 400, "the body is empty"),
    (b"   ", "application/json", 400, "nothing was sent"),
    (b"{", "application/json", 400, "not JSON"),
    (b'{"a": NaN}', "application/json", 400, "not JSON"),
    (b'{"a": "\\ud800"}', "application/json", 400, "not JSON"),
    (b"\xff\xfe{\x00", "application/json", 400, "no UTF-8"),
    (b"[" * 100_000, "application/json", 400, "nested deeper than 60"),
    (b"9" * 100_000, "application/json", 400, "not JSON"),
    (json.dumps(BODY).encode(), "text/plain", 415, "send JSON"),
    (json.dumps(BODY).encode(), "", 415, "send JSON"),
    (json.dumps(json.dumps(BODY)).encode(), "application/json", 422, "a text was sent"),
    (b'{"site_id": 1, "name": "a\\u0000b"}', "application/json", 422, "control character (U+0000)"),
    (b'{"site_id": 1e999}', "application/json", 422, "larger than all"),
    (b"[]", "application/json", 422, ""), (b"null", "application/json", 422, ""),
])  # fmt: skip
def test_bodies_that_cannot_be_taken(client, data: bytes, kind: str, status: int, says: str):
    refused(client.post("/api/builds", data=data, content_type=kind), status, says)
    assert client.get("/api/builds").get_json() == []


@pytest.mark.parametrize(("mark", "status", "says"), [
    (None, 428, "is missing"), ("", 428, "is missing"), ("r1", 400, "was given"), ("*", 400, "was given"), ('"r1', 400, "was given"), ('"r1" "r2"', 400, "was given"),
    ('"abc"', 412, "changed elsewhere"), ('"r99999999999999999999"', 412, "changed elsewhere"), ('"r²"', 400, "was given"), ('W/"r7"', 412, "changed elsewhere"),
])  # fmt: skip
def test_marks_that_are_missing_malformed_or_foreign(client, build, mark: str | None, status: int, says: str):
    headers = {} if mark is None else {"If-Match": mark}
    for method, path, body in (
        ("put", "/api/builds/1", {"name": "y", "spec": SPEC}), ("post", "/api/builds/1/put-away", None), ("delete", "/api/builds/1", None),
        ("put", "/api/sites/1", client.get("/api/sites/1").get_json()["site"]),
    ):  # fmt: skip
        refused(getattr(client, method)(path, json=body, headers=headers), status, says)
    assert client.get("/api/builds/1").get_json()["revision"] == 1


def test_a_missing_mark_is_said_before_anything_else(client, build):
    refused(client.put("/api/builds/1", json={"rubbish": True}), 428)


def test_methods_that_are_not_there_name_those_that_are(client):
    answer = client.patch("/api/builds/1")
    refused(answer, 405)
    assert {"GET", "PUT", "DELETE"} <= set(answer.headers["Allow"].replace(" ", "").split(","))


@pytest.mark.parametrize("path", ["/api/places?q=a%00b", "/api/trials/1/compare?control=1&node=%07"])
def test_control_characters_in_an_address(client, path: str):
    refused(client.get(path), 422, "control character")


@pytest.mark.parametrize("value", [1, "yes", "true", 0.0, None])
def test_a_yes_or_no_is_nothing_else(client, trial, value: object):
    refused(client.post("/api/trials/1/end", json={"ended": value}), 422)
    assert client.get("/api/trials/1").get_json()["ended"] is None


def test_a_file_is_sent_as_its_text_or_as_its_bytes(client, trial):
    url = "/api/trials/1/import/preview"
    data = base64.b64encode("time;tray °F\n2025-06-12 12:07;104,5\n".encode("utf-16")).decode()
    found = client.post(url, json={"base64": data}).get_json()["preview"]
    assert found["columns"][0]["unit"] == "F"
    assert found["notes"] == ["The file is written as UTF-16."] or "UTF-16" in str(found["notes"])
    refused(client.post(url, json={"base64": data, "text": "x"}), 422, "both given")
    refused(client.post(url, json={"base64": "§"}), 422, "no base64")
    refused(client.post(url, json={}), 422, "empty")


def test_gaps_of_a_weather_file_are_said_when_it_comes_in(client):
    rows = "".join(f"2025-06-12T{h:02d}:00Z,{h * 10},20\n" for h in (6, 7, 8, 9, 12, 13))
    body = {"kind": "csv", "name": "mast.csv", "text": "time,ghi_w_m2,air_c\n" + rows}
    made = client.post("/api/sites/1/weather-files", json=body).get_json()
    assert len(made["notes"]) == 1
    assert "1 gap in this file" in str(made["notes"][0])
    whole = {**body, "text": body["text"].replace("T12", "T10").replace("T13", "T11")}
    assert client.post("/api/sites/1/weather-files", json=whole).get_json()["notes"] == []


@pytest.mark.parametrize(("text", "says"), [
    ("time,ghi_w_m2,air_c\n2025-06-12T10:00Z,500,20,5\n2025-06-12T11:00Z,500,20\n", "row 2 has 4 cells"),
    ("time,ghi_w_m2,air_c,air_c\n2025-06-12T10:00Z,500,20,5\n2025-06-12T11:00Z,500,20,5\n", "Two columns are called air_c"),
    ('time,ghi_w_m2,air_c\n2025-06-12T10:00Z,500,"20\n2025-06-12T11:00Z,500,20\n', "row 2 has a quote"),
])  # fmt: skip
def test_a_weather_file_loses_no_row_in_silence(client, text: str, says: str):
    refused(client.post("/api/sites/1/weather-files", json={"kind": "csv", "text": text}), 422, says)
    assert client.get("/api/sites/1/weather-files").get_json() == []


def test_weather_by_semicolons_and_decimal_commas(client):
    text = "time;ghi_w_m2;air_c\r2025-06-12T10:00Z;500,5;20,5\r2025-06-12T11:00Z;600;21\r"
    made = client.post("/api/sites/1/weather-files", json={"kind": "csv", "text": text})
    assert made.status_code == 201, made.text


def test_a_stray_year_is_set_aside_with_a_question(client, trial):
    rows = [{"channel": "tray", "value": 30 + 3 * k, "time": f"2025-06-12T10:{5 * k:02d}:00Z"} for k in range(10)]
    rows.append({"channel": "tray", "value": 70, "time": "2026-06-12T10:05:00Z"})
    body = {"readings": rows, "ahead": True}
    assert client.post("/api/trials/1/readings", json=body).get_json()["written"] == 11
    chart = client.get("/api/trials/1/series").get_json()
    assert chart["far"] == 1
    assert chart["end"].startswith("2025-06-12")
    found = client.get("/api/trials/1/verdict").get_json()
    assert [s["kind"] for s in found["suspicions"]][:1] == ["far"]
    assert found["times"][-1].startswith("2025-06-12")
    key = {"channel": found["suspicions"][0]["channels"][0], "time": found["suspicions"][0]["time"]}
    assert client.post("/api/trials/1/readings/withdraw", json=key).status_code == 200
    assert client.get("/api/trials/1/series").get_json()["far"] == 0


def test_exports_have_a_budget(client, trial, monkeypatch):
    rows = [{"channel": "tray", "value": 1.0, "time": f"2025-06-12T10:00:{k:02d}Z"} for k in range(6)]
    client.post("/api/trials/1/readings", json={"readings": rows, "source": "file"})
    monkeypatch.setattr("drylamp.web.trials.routes.MOST_EXPORTED", 5)
    refused(client.get("/api/trials/1/export.csv"), 422, "6 readings, and one file takes 5")
    monkeypatch.setattr("drylamp.web.trials.ground.MOST_READINGS", 5)
    refused(client.get("/api/trials/1/verdict"), 422, "6 readings, and 5 can be looked at")
    refused(client.get("/api/trials/1/series"), 422, "6 readings")


def test_two_columns_go_to_two_channels_or_are_refused(client, trial):
    text = "time,tray,tray\n2025-06-12T12:07+02:00,44,45\n"
    found = client.post("/api/trials/1/import/preview", json={"text": text}).get_json()
    assert found["goes_to"] == {"tray": "have:tray", "tray (2)": "skip"}
    channel = {"name": "tray", "title": "tray", "node": "tray"}
    body = {"text": text, "columns": [{"column": name, "channel": channel} for name in ("tray", "tray (2)")]}
    refused(client.post("/api/trials/1/import", json=body), 422, "would all go to 'tray'")
    assert client.get("/api/trials/1").get_json()["reading_count"] == 0
