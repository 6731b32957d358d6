"""The yard's plan as a calendar, ticking it, hours when nobody is there; a build's year over the wire."""

from __future__ import annotations

from datetime import timedelta

import pytest
from icalendar import Calendar

from drylamp.demo.scenario import TERRACE

AWAY = {"on": "2025-06-12", "away_from": "09:00", "away_until": "17:00", "electricity_price": 0.4, "gas_price": 0.1, "wood_price": 0.1, "hour_price": 0.0}  # fmt: skip


@pytest.fixture
def away(client, build) -> None:
    answer = client.post("/api/sheets/site/1/house", json={"content": AWAY})
    assert answer.status_code == 201, answer.text


def events_of(client, query: str = "") -> list:
    answer = client.get(f"/api/sites/1/plan.ics{query}")
    assert answer.mimetype == "text/calendar", answer.text
    book = Calendar.from_ical(answer.text)
    assert book["refresh-interval"].params["VALUE"] == "DURATION"
    return [part for part in book.walk() if part.name == "VEVENT"]


def test_the_plan_is_a_calendar_that_another_program_reads(client, build):
    first = client.get("/api/sites/1/yard?day=2025-06-12").get_json()["lines"][0]["plan"]
    events = events_of(client)
    assert len(events) >= len(first)
    assert {str(one["summary"]).split(":")[0] for one in events} == {"Hatbox oven"}
    days = {one["dtstart"].dt.date().isoformat() for one in events}
    assert days == {"2025-06-12", "2025-06-13"}
    marks = [str(one["uid"]) for one in events]
    assert len(set(marks)) == len(marks)
    assert marks == [str(one["uid"]) for one in events_of(client)], "a second look names them the same"
    assert all(one["dtend"].dt - one["dtstart"].dt == timedelta(minutes=10) for one in events)
    assert all(any(part.name == "VALARM" for part in one.subcomponents) for one in events)


def test_days_may_be_asked_for_within_bounds(client, build):
    days = {one["dtstart"].dt.date().isoformat() for one in events_of(client, "?day=2025-07-01&days=3")}
    assert days == {"2025-07-01", "2025-07-02", "2025-07-03"}
    assert client.get("/api/sites/1/plan.ics?days=8").status_code == 422
    assert client.get("/api/sites/9/plan.ics").status_code == 404


def test_what_falls_into_hours_when_nobody_is_there_is_marked(client, build, away):
    for one in events_of(client):
        gone = "09:00" <= one["dtstart"].dt.strftime("%H:%M") < "17:00"
        assert ("Nobody is there" in str(one.get("description", ""))) == gone
        assert any(part.name == "VALARM" for part in one.subcomponents) != gone
    things = client.get("/api/sites/1/yard?day=2025-06-12").get_json()["next_things"]
    assert any(not thing["somebody_there"] for thing in things)


def test_ticking_writes_the_book_and_the_running_trial(client, build, trial):
    things = client.get("/api/sites/1/yard?day=2025-06-12").get_json()["next_things"]
    thing = next(one for one in things if one["tick"])
    answer = client.post(f"/api/sites/1/yard/{build['id']}/tick", json=thing["tick"])
    assert answer.status_code == 201, answer.text
    assert answer.get_json()["trial_ids"] == [trial["id"]]
    events = client.get(f"/api/trials/{trial['id']}").get_json()["events"]
    assert [event["kind"] for event in events] == ["note"]
    assert thing["tick"]["what"] in events[0]["note"]
    sheets = client.get(f"/api/sheets/build/{build['id']}").get_json()
    rows = next(sheet for sheet in sheets if sheet["name"] == "done")["rows"]
    assert [row["content"]["what"] for row in rows] == [thing["tick"]["what"]]
    left = client.get("/api/sites/1/yard?day=2025-06-12").get_json()["next_things"]
    assert thing["tick"] not in [one["tick"] for one in left]
    assert client.post("/api/sites/2/yard/1/tick", json=thing["tick"]).status_code == 404
    assert client.post("/api/sites/1/yard/1/tick", json={**thing["tick"], "planned": "25:00"}).status_code == 422


def request_of(build: dict) -> dict:
    return {"site_id": 1, "spot": "terrace", "spec": build["spec"], "load": build["load"], "day": "2025-06-12"}


def test_a_year_reads_prices_and_use(client, build, away):
    use = {
        "on": "2025-06-12",
        "week_days": 7.0,
        "instead": "gas",
        "bought_price": 300.0,
        "spent_price": 20.0,
        "upkeep_price": 0.0,
        "lasts_years": 10.0,
    }
    assert client.post("/api/sheets/build/1/use", json={"content": use}).status_code == 201
    found = client.post("/api/advice/whole-year", json={**request_of(build), "build_id": 1}).get_json()
    assert len(found["months"]) == 12
    assert found["spent"] == 20.0
    assert found["against"][0]["saved"] == pytest.approx(found["year_kwh"] * 0.1 / 0.45, abs=0.01)
    assert found["against"][-1]["saved"] == pytest.approx(28.0)


def test_leaving_it_alone_needs_hours_and_answers_by_them(client, build):
    refused = client.post("/api/advice/unattended", json=request_of(build))
    assert refused.status_code == 422
    assert "somebody is there all day" in refused.text
    assert client.post("/api/sheets/site/1/house", json={"content": AWAY}).status_code == 201
    found = client.post("/api/advice/unattended", json=request_of(build)).get_json()
    assert found["best"]["goes_in"] == "09:00"


def test_what_can_be_done_today_over_the_wire(client, build):
    found = client.post("/api/wishes/today", json={"site_id": 1, "day": "2025-06-12"}).get_json()
    assert {line["build"] for line in found["lines"]} == {"Hatbox oven"}
    assert any(line["good"] == "chickpea stew" and line["is_in"] for line in found["lines"])


def test_a_build_is_held_against_itself_at_another_place(client, build):
    south = {
        **TERRACE.model_dump(mode="json"),
        "name": "South",
        "latitude_deg": -34.0,
        "longitude_deg": 18.5,
        "time_zone": "Africa/Johannesburg",
    }
    assert client.post("/api/sites", json=south).status_code == 201
    body = {
        "site_id": 1,
        "spot": build["spot"],
        "spec": build["spec"],
        "load": build["load"],
        "day": "2025-06-12",
        "build_id": build["id"],
    }
    found = client.post("/api/advice/two-places", json={**body, "there": 2}).get_json()
    alone = [
        client.post(
            "/api/advice/whole-year", json={**body, "site_id": site, "spot": None if site == 2 else build["spot"]}
        ).get_json()
        for site in (1, 2)
    ]
    assert [found["here"], found["there"]] == alone
    more = alone[1]["year_kwh"] - alone[0]["year_kwh"]
    assert "South gives" in str(found["words"][0])
    assert ("more" if more > 0 else "less") in str(found["words"][0])
    assert client.post("/api/advice/two-places", json={**body, "there": 99}).status_code == 404
