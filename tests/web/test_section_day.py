"""The drawing through a day: the same light as hour by hour, from before the sun comes till after it is gone."""

import itertools
from datetime import datetime

import pytest

from tests.kinds.specimens import specimen


def asked(kind: str, **more: object) -> dict:
    build, load = specimen(kind)
    spec = {**build.model_dump(mode="json"), **more}
    return {
        "site_id": 1,
        "spot": "terrace",
        "spec": spec,
        "load": load and load.model_dump(mode="json"),
        "day": "2025-06-12",
    }


@pytest.fixture
def steps(client, build):
    return lambda body: client.post("/api/twin/section-day", json=body).get_json()["steps"]


def test_it_is_the_light_of_each_instant(client, steps):
    body = asked("box-oven")
    found = steps(body)
    assert 40 < len(found) < 56
    assert found[0]["rays"] == [] == found[-1]["rays"]
    for step in found[10:40:10]:
        alone = client.post("/api/twin/section", json={**body, "at": step["at"]}).get_json()
        assert step["rays"] == alone["rays"]
    assert [step["sheet"] is not None for step in found] == [True] + [False] * (len(found) - 1), "it stands still"
    at = [datetime.fromisoformat(step["at"]) for step in found]
    assert {(b - a).total_seconds() for a, b in itertools.pairwise(at)} == {1200.0}


def test_what_is_turned_is_drawn_anew_at_each_turn(steps):
    found = steps(asked("dish", turned_minutes=60))
    anew = sum(step["sheet"] is not None for step in found)
    assert 5 < anew < len(found)


def test_where_the_sun_never_comes_there_is_no_step(client, build):
    polar = {**client.get("/api/sites").get_json()[0]["site"], "name": "Polar", "latitude_deg": 78.0}
    client.post("/api/sites", json=polar)
    body = {**asked("box-oven"), "site_id": 2, "day": "2025-12-20"}
    assert client.post("/api/twin/section-day", json=body).get_json() == {"steps": []}
