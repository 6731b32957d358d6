"""Kinds over the wire: a page can show and ask for one that it has never heard of."""

import json
import subprocess
import sys
from pathlib import Path

import pytest

from drylamp.core.builds.registry import KINDS
from drylamp.core.loads.registry import LOADS
from drylamp.demo.scenario import LIDS, OVEN, STEW

ROOT = Path(__file__).parents[2]


@pytest.fixture
def kinds(client):
    return client.get("/api/kinds").get_json()


def test_every_kind_and_load_is_told_with_all_that_a_page_needs(client, kinds):
    forms = client.get("/api/kinds/forms").get_json()
    assert {form["name"] for form in forms["loads"]} == set(LOADS)
    typed = {form["name"]: {field["part"] for field in form["fields"]} for form in forms["builds"]}
    assert [kind["name"] for kind in kinds["builds"]] == list(KINDS)
    assert {load["name"] for load in kinds["loads"]} == set(LOADS)
    for kind in kinds["builds"]:
        parts = {part["part"] for part in kind["parts"]}
        assert typed[kind["name"]] <= parts
        assert ("load" in parts) == bool(kind["loads"])
        assert kind["accent"]["day"] != kind["accent"]["dusk"]
        assert all(line["short"] for line in kind["accounts"])


def test_what_a_load_is_when_it_is_put_in_can_be_put_in(client, kinds):
    """Each kind's own loads, as the button puts them in, make a day."""
    starters = {s["starter"]["spec"]["kind"]: s["starter"] for s in client.get("/api/sites/1/starters").get_json()}
    begun = {load["name"]: load["begun"] for load in kinds["loads"]}
    for kind in kinds["builds"]:
        for name in kind["loads"]:
            asked = {"site_id": 1, "spec": starters[kind["name"]]["spec"], "load": begun[name], "day": "2025-06-12"}
            assert client.post("/api/twin/day", json=asked).status_code == 200, (kind["name"], name)


def asked(of="spec", **more):
    return {"spec": OVEN.model_dump(mode="json"), "load": STEW.model_dump(mode="json"), "of": of, **more}


def test_a_change_brings_what_follows(client):
    found = client.post(
        "/api/kinds/change", json=asked(path="wall.0.material", how="set", value="glass-wool")
    ).get_json()
    assert found["spec"]["wall"][0]["thickness_m"] != OVEN.wall[0].thickness_m
    assert found["load"] == json.loads(STEW.model_dump_json())
    more = client.post("/api/kinds/change", json=asked("load", path="under", how="add")).get_json()
    assert more["load"]["under"]["material"] == "oven-bag"


@pytest.mark.parametrize(("body", "words"), [
    (asked(path="wall.7.material", how="set", value="cork-board"), "there is no such entry"),
    (asked(path="width_m", how="set", value="wide"), "allowed is a valid number"),
    (asked(path="x" * 200, how="set", value=1), "at most 120"),
    ({**asked("load", path="food", how="set", value="water"), "load": None}, "nothing is in it"),
])  # fmt: skip
def test_what_cannot_be_changed_says_why(client, body, words):
    answer = client.post("/api/kinds/change", json=body)
    assert answer.status_code == 422
    assert words in answer.text


def test_lots_are_drawn_by_seed_and_other_actions_are_named(client):
    spec = LIDS.model_dump(mode="json")
    first, again, other = (
        client.post("/api/kinds/act", json={"spec": spec, "action": "draw-lots", "seed": seed}).get_json()["spec"]
        for seed in (1, 1, 5)
    )
    assert first == again != other
    assert "known: draw-lots" in client.post("/api/kinds/act", json={"spec": spec, "action": "paint"}).text


def test_a_trial_is_offered_what_it_wants_first(client):
    body = {"spec": OVEN.model_dump(mode="json"), "load": STEW.model_dump(mode="json"), "protocol": "quick-look"}
    lines = client.post("/api/trials/lines", json=body).get_json()
    wanted = [line["place"]["channel"]["node"] for line in lines if line["wanted"]]
    assert wanted[0] == "inside-air"
    by_node = {line["place"]["channel"]["node"]: line["place"] for line in lines}
    assert by_node["contents"]["of_load"]
    assert not by_node["air"]["inside"]
    assert by_node["load"]["channel"]["instrument"] == "scale"


def test_the_front_ends_types_and_units_are_those_of_the_core(tmp_path):
    """Regenerated, they are what stands in the tree."""
    subprocess.run([sys.executable, "scripts/write_openapi", str(tmp_path)], cwd=ROOT, check=True)
    for name in ("docs/openapi.json", "frontend/src/api/units.json"):
        assert (tmp_path / name).read_text(encoding="utf-8") == (ROOT / name).read_text(encoding="utf-8"), (
            f"{name}: run make api"
        )
    made = tmp_path / "schema.ts"
    tool = ROOT / "frontend" / "node_modules" / ".bin" / "openapi-typescript"
    command = [str(tool), str(tmp_path / "docs" / "openapi.json"), "-o", str(made), "--default-non-nullable=false"]
    subprocess.run(command, check=True, capture_output=True)
    assert made.read_text(encoding="utf-8") == (ROOT / "frontend/src/api/schema.ts").read_text(encoding="utf-8"), (
        "run make api"
    )


def test_answers_leave_nothing_out_and_requests_may():
    schemas = json.loads((ROOT / "docs/openapi.json").read_text(encoding="utf-8"))["components"]["schemas"]
    given, answered = schemas["BoxOven-Input"], schemas["BoxOven-Output"]
    assert set(answered["required"]) == set(answered["properties"])
    assert set(given["required"]) == {"facing_deg", "wall"}
