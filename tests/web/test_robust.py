"""The API under odd and crowded conditions: nothing lost, nothing leaked, no 500."""

from __future__ import annotations

import json
import threading
from datetime import datetime, timedelta

import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from drylamp.demo.scenario import OVEN, demo_now
from drylamp.store.database import Database
from drylamp.web.app import create_app, warm_up
from drylamp.web.settings import Settings, wall_clock

JSON = st.recursive(
    st.none() | st.booleans() | st.integers(-(10**6), 10**6) | st.floats(-1e6, 1e6) | st.text(max_size=8),
    lambda inner: st.lists(inner, max_size=3) | st.dictionaries(st.text(max_size=8), inner, max_size=3),
    max_leaves=8,
)
few = settings(max_examples=40, deadline=None, derandomize=True, suppress_health_check=list(HealthCheck))
FIELDS = list(OVEN.model_dump())


@few
@given(field=st.sampled_from(FIELDS), value=JSON)
def test_no_field_of_an_oven_can_break_the_server(client, field: str, value: object):
    """Whatever a field holds, the answer is the stored build or a problem that names a field of the spec."""
    spec = {**OVEN.model_dump(mode="json"), field: value}
    answer = client.post("/api/builds", json={"site_id": 1, "name": "x", "spec": spec})
    assert answer.status_code in (201, 422), answer.text
    if answer.status_code == 422:
        errors = answer.get_json()["errors"]
        assert errors
        assert all(e["field"].startswith(("spec", "load")) for e in errors)


@few
@given(body=JSON)
@pytest.mark.parametrize(
    "path", ["/api/sites", "/api/builds", "/api/trials", "/api/twin/day", "/api/sums/boil", "/api/builds/from-file"]
)
def test_no_body_can_break_the_server(client, path: str, body: object):
    answer = client.post(path, json=body)
    assert 400 <= answer.status_code < 500
    assert answer.mimetype == "application/problem+json"
    json.loads(answer.text)


def test_eight_writers_lose_nothing(client, trial):
    """Batches that overlap, from several threads at once: every reading once."""
    app = client.application
    begin = demo_now()

    def write(lane: int) -> None:
        with app.test_client() as mine:
            for k in range(10):
                times = [begin + timedelta(seconds=10 * k + m + 5 * (lane % 2)) for m in range(10)]
                rows = [{"channel": "tray", "time": t.isoformat(), "value": 40 + t.second / 10} for t in times]
                answer = mine.post(f"/api/trials/{trial['id']}/readings", json={"source": "logger", "readings": rows})
                assert answer.status_code == 200

    threads = [threading.Thread(target=write, args=(lane,)) for lane in range(8)]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()
    kept = client.get(f"/api/trials/{trial['id']}").get_json()["readings"]
    times = [datetime.fromisoformat(r["time"]) for r in kept]
    assert len(set(times)) == len(times) == 105
    assert times == sorted(times)


def test_two_apps_on_one_file_see_each_other(tmp_path):
    settings_ = Settings(data=tmp_path / "one.sqlite3", now=demo_now)
    one, two = create_app(settings_), create_app(settings_)
    site = {"name": "s", "latitude_deg": 1, "longitude_deg": 1, "time_zone": "UTC"}
    assert one.test_client().post("/api/sites", json=site).status_code == 201
    assert len(two.test_client().get("/api/sites").get_json()) == 1
    for app in (one, two):
        app.config["DATABASE"].close()


def test_warming_up_is_reported_and_survives_a_fault(tmp_path):
    app = create_app(Settings(data=tmp_path / "w.sqlite3"))
    assert app.test_client().get("/api/health").get_json()["warm"] is False

    def fault() -> None:
        raise RuntimeError("cold")

    warm_up(app, fault).join(10)
    assert app.test_client().get("/api/health").get_json()["warm"] is True
    assert wall_clock().tzinfo is not None
    app.config["DATABASE"].close()


def test_page_is_served_for_any_view_and_assets_are_not_pages(client):
    for path in ("/", "/builds/1/make", "/anything/else"):
        assert client.get(path).mimetype == "text/html"
    assert client.get("/assets/none.js").status_code == 404
    assert client.get("/assets/../app.py").status_code == 404


def test_a_folder_that_holds_no_data_is_made(tmp_path):
    made = Database(tmp_path / "deep" / "er" / "yard.sqlite3")
    assert made.path.exists()
    made.close()
