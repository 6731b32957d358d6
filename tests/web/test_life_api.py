"""A build's life: its history in words, variants, put away, deleted and brought back; a trial of yesterday off paper."""

from __future__ import annotations

from itertools import pairwise

import pytest
from flask.testing import FlaskClient

from drylamp.core.differences import differences
from drylamp.demo.drafts import DRAFTS
from drylamp.demo.scenario import FIRST_OVEN, OVEN, STEW
from drylamp.store.builds import Draft
from tests.wording import read


def seen(row: dict) -> dict:
    return {"If-Match": f'"r{row["revision"]}"'}


def test_history_says_what_changed_and_leads_back(client: FlaskClient):
    first = {"site_id": 1, "name": "Box", "spec": FIRST_OVEN.model_dump(mode="json"), "load": None, "note": "begun"}
    one = client.post("/api/builds", json=first).get_json()
    url = f"/api/builds/{one['id']}"
    spec = {**OVEN.model_dump(mode="json"), "tilt_deg": 40.0, "mirror": None}
    body = {"name": "Box II", "spec": spec, "load": STEW.model_dump(mode="json"), "note": "rebuilt"}
    two = client.put(url, json=body, headers=seen(one)).get_json()
    rows = client.get(f"{url}/revisions").get_json()
    assert [row["revision"] for row in rows] == [2, 1]
    assert rows[1]["changed"] == []
    told = [read(words) for words in rows[0]["changed"]]
    assert told[0] == "name: Box → Box II"
    assert "Cover, sheets: 1 → 2" in told
    assert "How it stands, tilt of the opening: 25° → 40°" in told
    assert any("taken off" in words for words in told)
    assert told[-1] == "load put in"
    back = {key: rows[1][key] for key in ("name", "spot", "spec", "load")}
    three = client.put(url, json={**back, "note": "back to revision 1"}, headers=seen(two)).get_json()
    assert (three["name"], three["spec"], three["load"]) == ("Box", rows[1]["spec"], None)
    assert client.get("/api/builds/999/revisions").status_code == 404


def test_differences_of_anything_are_bounded_and_in_words():
    drafts = list(DRAFTS.values())
    for one, other in pairwise(drafts):
        told = differences(one.spec, other.spec, "kind of build")
        assert told == ["another kind of build"] or len(told) <= 13
    assert differences(OVEN, OVEN, "x") == differences(None, None, "x") == []
    assert differences(STEW, None, "load") == ["load taken out"]


def test_deleted_and_put_away_builds_wait_to_be_brought_back(client: FlaskClient, build: dict):
    url, names = (
        f"/api/builds/{build['id']}",
        lambda **q: [b["id"] for b in client.get("/api/builds", query_string=q).get_json()],
    )
    assert client.delete(url).status_code in (422, 428)
    gone = client.delete(url, headers=seen(build)).get_json()
    assert gone["deleted"]
    assert build["id"] not in names()
    assert names(away=True) == [build["id"]]
    assert client.get(url).status_code == 200, "nothing of it is lost"
    assert not client.post(f"{url}/restore", headers=seen(build)).get_json()["deleted"]
    client.post(f"{url}/put-away", headers=seen(build))
    assert names(away=True) == [build["id"]]
    client.post(f"{url}/bring-back", headers=seen(build))
    assert build["id"] in names()
    stale = client.delete(url, headers={"If-Match": '"r9"'})
    assert stale.status_code == 412


def test_the_made_up_yards_builds_can_be_had_in_a_yard_of_ones_own(client: FlaskClient):
    found = client.get("/api/builds/examples").get_json()
    assert len(found) == len(DRAFTS) > 20
    assert isinstance(DRAFTS["Hatbox oven"], Draft)
    for example in found:
        body = {"site_id": 1, "name": example["name"], "spec": example["spec"], "load": example["load"]}
        assert client.post("/api/builds", json=body).status_code == 201, example["name"]


def trial(client: FlaskClient, build: dict, status: int = 201, **more) -> dict:
    channels = [
        {"name": "tray", "title": "tray", "node": "tray", "instrument": "probe"},
        {"name": "air", "title": "air", "node": "air", "instrument": "probe"},
    ]
    answer = client.post(
        "/api/trials", json={"build_id": build["id"], "name": "y", "protocol": "free-log", "channels": channels, **more}
    )
    assert answer.status_code == status, answer.get_json()
    return answer.get_json()


def chart(client: FlaskClient, made: dict, rows: list[tuple], status: int = 200, **more) -> dict:
    body = {"rows": [{"at": at, "values": values} for at, values in rows], **more}
    answer = client.post(f"/api/trials/{made['id']}/paper", json=body)
    assert answer.status_code == status, answer.get_json()
    return answer.get_json()


def test_a_trial_of_yesterday_is_typed_off_its_paper(client: FlaskClient, build: dict):
    client.put("/api/sites/1/days/2025-06-11", json={"tmin_c": 11.0, "tmax_c": 22.0, "sky": "hazy", "wind_m_s": 3.0})
    made = trial(client, build, begun={"day": "2025-06-11", "hour": "23:50"})
    assert made["started"] == "2025-06-11T21:50:00Z"
    assert (made["weather"]["tmax_c"], made["weather"]["sky"]) == (22.0, "hazy"), (
        "the weather of that day as it was typed"
    )
    rows = [
        ("23:50", {"tray": "21,5"}),
        ("11:55 pm", {"tray": "100 F", "air": "20"}),
        ("0:05", {"tray": "30.5"}),
        ("+25", {"tray": "31"}),
        ("", {}),
        ("2025-06-12 09:00", {"air": "17"}),
    ]
    rows = [row for row in rows if row[0]]
    looked = chart(client, made, rows)
    assert looked["written"] is None
    assert [line["time"] for line in looked["lines"]][1:4] == [
        "2025-06-11T23:55:00+02:00",
        "2025-06-12T00:05:00+02:00",
        "2025-06-12T00:15:00+02:00",
    ]
    done = chart(client, made, rows, write=True)
    assert done["written"]["written"] == 6
    kept = client.get(f"/api/trials/{made['id']}").get_json()["readings"]
    assert [round(r["value"], 1) for r in kept if r["channel"] == "tray"] == [21.5, 37.8, 30.5, 31.0]
    assert chart(client, made, rows, write=True)["written"]["repeated"] == 6
    ended = client.post(f"/api/trials/{made['id']}/end", json={"ended": True}).get_json()
    assert ended["ended"] is not None


def test_a_chart_is_written_whole_or_not_at_all(client: FlaskClient, build: dict):
    made = trial(client, build, begun={"day": "2025-06-11", "hour": "10:00"})
    rows = [
        ("10:00", {"tray": "20"}),
        ("half past", {"tray": "21"}),
        ("10", {"tray": "x", "nothing": "3"}),
        ("25:00", {"tray": "30 kg"}),
        ("2031-01-01 10:00", {"tray": "5"}),
    ]
    found = chart(client, made, rows, write=True)
    assert found["written"] is None
    said = [line["problems"] for line in found["lines"]]
    assert said[0] == {}
    assert "no time of day" in said[1][""]
    assert set(said[2]) == {"", "tray", "nothing"}
    assert "°F" in said[3]["tray"], "the units that it may have"
    assert "three years" in said[4][""]
    assert client.get(f"/api/trials/{made['id']}").get_json()["readings"] == []
    ahead = [("2025-06-12 23:00", {"tray": "20"})]
    assert chart(client, made, ahead, write=True) == {
        "lines": [{**chart(client, made, ahead)["lines"][0], "ahead": True}],
        "written": None,
    }
    assert chart(client, made, ahead, write=True, ahead=True)["written"]["written"] == 1
    assert chart(client, made, [("10:00", {"tray": "1"})] * 401, 422)
    chart(client, made, [("10:00", {"tray": "1"})], 422, units={"tray": "kg"})


def test_starts_and_stamps_ahead_of_the_clock_are_asked_about(client: FlaskClient, build: dict):
    late = {"day": "2025-06-13", "hour": "10:00"}
    assert "ahead of this machine's clock" in trial(client, build, 422, begun=late)["detail"]
    assert trial(client, build, begun=late, ahead=True)["started"].startswith("2025-06-13T08:00")
    trial(client, build, 422, begun={"day": "2300-01-01", "hour": "10:00"})
    made = trial(client, build)
    url = f"/api/trials/{made['id']}"
    one = {"channel": "tray", "value": 20, "time": "2025-06-12T18:00:00Z"}
    assert "send it with ahead" in client.post(f"{url}/readings", json={"readings": [one]}).get_json()["detail"]
    assert client.post(f"{url}/readings", json={"readings": [one], "ahead": True}).get_json()["written"] == 1
    far = {**one, "time": "2029-06-12T18:00:00Z"}
    assert "three years" in client.post(f"{url}/readings", json={"readings": [far], "ahead": True}).get_json()["detail"]
    assert (
        "three years"
        in client.post(f"{url}/events", json={"kind": "cloud", "time": "2015-06-12T18:00:00Z"}).get_json()["detail"]
    )


@pytest.mark.parametrize("given", ["shift:nan", "shift:inf", "shift:1e300", "shift:soon"])
def test_an_answer_about_a_clock_is_a_finite_number(client: FlaskClient, build: dict, given: str):
    made = trial(client, build)
    text = "time,tray\n2025-06-12 12:00,30\n2025-06-12 12:01,31\n2025-06-12 12:02,32\n"
    answer = client.post(
        f"/api/trials/{made['id']}/import/preview",
        json={"name": "a.csv", "text": text, "answers": {"clock-off": given}},
    )
    assert answer.status_code == 422, answer.get_json()
    assert "shift:MINUTES" in answer.get_json()["detail"]
