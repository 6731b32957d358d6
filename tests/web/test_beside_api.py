"""Variants, and builds and trials side by side, over the wire."""

from __future__ import annotations

import io
import re
import zipfile

import pytest
from flask.testing import FlaskClient

DAY = "day=2025-06-12"


@pytest.fixture
def variant(client: FlaskClient, build: dict) -> dict:
    answer = client.post(f"/api/builds/{build['id']}/variants", json={"name": "Hatbox oven, variant"})
    assert answer.status_code == 201, answer.text
    return answer.get_json()


def change(client: FlaskClient, row: dict, **fields: object) -> dict:
    body = {name: row[name] for name in ("name", "spot", "spec", "load")} | {"note": "changed"}
    body["spec"] = {**row["spec"], **fields}
    answer = client.put(f"/api/builds/{row['id']}", json=body, headers={"If-Match": f'"r{row["revision"]}"'})
    assert answer.status_code == 200, answer.text
    return answer.get_json()


def take(client: FlaskClient, build: dict, variant: dict, **more: object):
    mark = {"If-Match": f'"r{build["revision"]}"'}
    return client.post(f"/api/builds/{build['id']}/take-over", json={"variant": variant["id"], **more}, headers=mark)


def test_a_variant_knows_what_it_branched_off(client: FlaskClient, build: dict, variant: dict):
    assert (variant["variant_of"], variant["variant_from"]) == (build["id"], 1)
    assert (variant["spec"], variant["load"], variant["spot"]) == (build["spec"], build["load"], build["spot"])
    assert build["variant_of"] is None
    assert client.post("/api/builds/99/variants", json={"name": "x"}).status_code == 404


def test_it_is_taken_over_put_away_and_may_be_undone(client: FlaskClient, build: dict, variant: dict):
    changed = change(client, variant, tilt_deg=31.0)
    mine = change(client, build, facing_deg=171.0)
    taken = take(client, mine, changed).get_json()
    assert (taken["spec"]["tilt_deg"], taken["spec"]["facing_deg"]) == (31.0, 171.0)
    assert taken["note"] == "taken over from Hatbox oven, variant"
    assert client.get(f"/api/builds/{variant['id']}").get_json()["removed"]
    back = client.post(f"/api/builds/{build['id']}/undo", headers={"If-Match": f'"r{taken["revision"]}"'}).get_json()
    assert back["spec"] == mine["spec"]


def test_what_both_changed_is_asked_about_and_nothing_is_written(client: FlaskClient, build: dict, variant: dict):
    changed, mine = change(client, variant, tilt_deg=31.0), change(client, build, tilt_deg=12.0)
    refused = take(client, mine, changed)
    assert refused.status_code == 422
    assert "both changed tilt of the opening" in refused.get_json()["detail"]
    assert client.get(f"/api/builds/{build['id']}").get_json()["revision"] == mine["revision"]
    assert take(client, mine, changed, anyway=True, put_away=False).get_json()["spec"]["tilt_deg"] == 31.0
    assert not client.get(f"/api/builds/{variant['id']}").get_json()["removed"]


def test_only_a_variant_and_only_the_newest_is_taken_over(client: FlaskClient, build: dict, variant: dict):
    other = client.post("/api/builds", json={"site_id": 1, "name": "other", "spec": build["spec"]}).get_json()
    assert "is no variant of" in take(client, build, other).get_json()["detail"]
    change(client, build, tilt_deg=12.0)
    assert take(client, build, variant).status_code == 412


def test_variants_go_out_and_in_with_the_yard(client: FlaskClient, build: dict, variant: dict):
    packed = client.get("/api/yard/file").data
    assert client.post("/api/yard/take-in", data=packed).status_code == 201
    mine, theirs = (client.get(f"/api/builds?site={site}").get_json() for site in (1, 2))
    assert theirs[1]["variant_of"] == theirs[0]["id"]
    assert theirs[1]["variant_from"] == mine[1]["variant_from"] == 1


@pytest.mark.parametrize(
    ("old", "new", "words"),
    [
        ('"variant_of": 1', '"variant_of": 7', "which is not in this file"),
        ('"variant_from": 1', '"variant_from": 5', "which is not in this file"),
        ('"variant_of": 1', '"variant_of": 2', "a variant of itself"),
        ('"key": 2', '"key": 1', "two builds have one key"),
    ],
)
def test_a_yard_whose_variants_hang_in_the_air_is_refused(
    client: FlaskClient, variant: dict, old: str, new: str, words: str
):
    with zipfile.ZipFile(io.BytesIO(client.get("/api/yard/file").data)) as whole:
        parts = {name: whole.read(name) for name in whole.namelist()}
    document = parts["yard.json"].decode()
    assert old in document
    parts["yard.json"] = document.replace(old, new).encode()
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w") as made:
        for name, content in parts.items():
            made.writestr(name, content)
    answer = client.post("/api/yard/preview", data=out.getvalue())
    assert answer.status_code == 422
    assert words in answer.get_json()["detail"]


def test_builds_and_trials_stand_side_by_side(client: FlaskClient, build: dict, variant: dict, trial: dict):
    change(client, variant, tilt_deg=31.0)
    at = "2025-06-12T10:{:02d}:00Z"
    rows = [{"channel": "tray", "value": 40 + k, "time": at.format(5 * k)} for k in range(6)]
    assert (
        client.post(f"/api/trials/{trial['id']}/readings", json={"source": "file", "readings": rows}).status_code == 200
    )
    answer = client.get(f"/api/beside?of=b1,b2,b2r1,t{trial['id']}&{DAY}")
    assert answer.status_code == 200, answer.text
    found = answer.get_json()
    assert [one["name"] for one in found["columns"]] == [
        "Hatbox oven",
        "Hatbox oven, variant",
        "Hatbox oven, variant at revision 1",
        "Noon look",
    ]
    values = {one["title"]: one["values"] for one in found["figures"]}
    done = values["Until it is done"]
    assert done[0] == done[2] < done[1], "on a summer's noon a steeper opening is later"
    heat = values["Heat where it is wanted, a day"]
    assert heat[0] == heat[1], "both bring the same pot to the boil"
    assert all(len(line["values"]) == 4 for line in found["lines"])


def test_why_one_is_not_like_the_other(client: FlaskClient, variant: dict):
    change(client, variant, tilt_deg=31.0, facing_deg=150.0)
    found = client.get(f"/api/beside/apart?one=b2&other=b1&{DAY}&sky=hazy").get_json()
    assert [part["part"] for part in found["parts"]] == ["aim"]
    assert found["parts"][0]["gain"] == pytest.approx(found["together"], abs=0.002)
    alike = client.get(f"/api/beside/apart?one=b1&other=b1&{DAY}").get_json()
    assert alike["parts"] == []
    assert "Nothing differs" in str(alike["words"])


def test_as_a_page_it_opens_anywhere(client: FlaskClient, variant: dict):
    change(client, variant, tilt_deg=31.0)
    page = client.get(f"/api/beside/page.html?of=b1,b2&{DAY}&one_load=true")
    assert page.status_code == 200, page.text
    text = page.text
    assert "<script" not in text
    assert "http://" not in text.replace("http://www.w3.org/2000/svg", "")
    assert text.count("<svg") == 3
    assert "Hatbox oven, variant" in text
    assert "By the twin they make" in text
    assert "⦃" not in text
    assert re.search(r"\d °C", text)


@pytest.mark.parametrize(
    ("query", "status", "words"),
    [
        (f"of=b1&{DAY}", 422, "of"),
        (f"of=b1,b1,b1,b1,b1&{DAY}", 422, "of"),
        (f"of=b1,x2&{DAY}", 422, "of"),
        (f"of=b1,b77&{DAY}", 404, "no build 77"),
        (f"of=b1,b1r9&{DAY}", 404, "revision 9"),
        (f"of=b1,t77&{DAY}", 404, "trial 77"),
        ("of=b1,b1&day=2025-13-01", 422, "day"),
        (f"of=b1,b2&{DAY}&one_load=true", 422, "stack"),
    ],
)
def test_what_cannot_stand_there_is_said(client: FlaskClient, build: dict, query: str, status: int, words: str):
    from drylamp.demo.scenario import FILM_KILN

    client.post("/api/builds", json={"site_id": 1, "name": "a kiln", "spec": FILM_KILN.model_dump(mode="json")})
    answer = client.get(f"/api/beside?{query}")
    assert answer.status_code == status, answer.text
    assert words in answer.text
