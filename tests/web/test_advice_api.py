"""Advice, patterns and pots over the wire."""

from __future__ import annotations

import pytest
from flask.testing import FlaskClient

from drylamp.core.builds.common.mirror.spec import StandingMirror
from drylamp.core.loads.pool import questions
from drylamp.core.tables import absorber
from drylamp.demo.scenario import (
    BASIN,
    BASIN_HOSE,
    BISCUITS,
    CAPPINGS,
    CREW_POT,
    DAIRY_FRAME,
    DAIRY_WASH,
    DISH,
    FIELD_KETTLE,
    FIELD_TEA,
    FLAT_LOAF,
    FUNNEL,
    HEATER,
    LIDS,
    MELTER,
    OVEN,
    PLUNGE_TUB,
    SHOWERS,
    STEW,
    TUB_FRAME,
    WORKSHOP,
)
from tests.wording import read

AT = "2025-06-12T12:10:00+02:00"


def asked(spec, load, **more) -> dict:
    return {
        "site_id": 1, "spot": None, "spec": spec.model_dump(mode="json"), "load": None if load is None else load.model_dump(mode="json"),
        "day": "2025-06-12", **more,
    }  # fmt: skip


def post(client: FlaskClient, path: str, body: dict, status: int = 200):
    answer = client.post(path, json=body)
    assert answer.status_code == status, answer.text
    return answer.get_json()


@pytest.mark.parametrize(
    ("spec", "load"),
    [
        (OVEN, STEW),
        (FUNNEL, FLAT_LOAF),
        (DISH, CREW_POT),
        (MELTER, CAPPINGS),
        (WORKSHOP, BISCUITS),
        (HEATER, SHOWERS),
        (BASIN_HOSE, BASIN),
    ],
)
def test_every_kind_answers_a_day_a_drawing_and_a_way_to_point(client, spec, load):
    day = post(client, "/api/twin/day", asked(spec, load))
    assert day["outcome"]["energy_closure"] < 1e-6
    assert day["plan"]
    assert post(client, "/api/twin/section", asked(spec, load, at=AT))["rays"]
    aimed = post(client, "/api/advice/pointing", asked(spec, load, at=AT))
    assert aimed["pointing"]["is_up"]
    assert (aimed["flap"] is None) == (getattr(spec, "mirror", None) is None or spec.kind in ("funnel", "dish"))


def test_the_flow_question_is_answered_where_water_runs(client):
    found = post(client, "/api/advice/flow", asked(BASIN_HOSE, BASIN, at=AT))
    watts, outlets = ([point[key] for point in found["points"]] for key in ("gain_w", "out_c"))
    assert watts == sorted(watts)
    assert outlets == sorted(outlets, reverse=True)
    assert found["now"] is None
    assert 0.3 < found["points"][-1]["of_sun_share"] < 0.95
    assert "less heat" in read(found["words"])
    refusal = post(client, "/api/advice/flow", asked(OVEN, STEW, at=AT), 422)
    assert "nothing runs through this" in refusal["detail"]


def test_grey_days_leave_less_each_day(client):
    found = post(client, "/api/advice/grey", asked(HEATER, SHOWERS))
    tops = [day["top_c"] for day in found["days"]]
    assert [day["grey_days"] for day in found["days"]] == [0, 1, 2, 3]
    assert tops == sorted(tops, reverse=True)
    assert tops[0] - tops[1] > 5
    assert all(day["morning_c"] < day["top_c"] for day in found["days"])
    assert "grey day" in read(found["words"])
    refusal = post(client, "/api/advice/grey", asked(OVEN, STEW), 422)
    assert "fill it with water first" in refusal["detail"]


def test_a_loop_is_asked_over_the_wire(client, monkeypatch):
    monkeypatch.setattr(questions, "YEARS", 1)
    tub = asked(TUB_FRAME, PLUNGE_TUB)
    assert len(post(client, "/api/advice/ready-by", tub)["evenings"]) == questions.AHEAD_DAYS
    assert read(post(client, "/api/advice/night", tub)["lines"][0]["title"]) == "as it is"
    assert len(post(client, "/api/advice/timer", tub)["months"]) == 12
    assert post(client, "/api/advice/season", tub)["sizes"][0]["days"] > 5
    assert post(client, "/api/advice/how-many", {**tub, "rise_k": 1.0, "weeks": 1})["lines"]
    assert "weeks" in str(post(client, "/api/advice/how-many", {**tub, "weeks": 0}, 422))
    assert "boiling" in read(post(client, "/api/advice/instead", {**tub, "heater_kw": 6.0})["words"])
    assert "heater_kw" in str(post(client, "/api/advice/instead", {**tub, "heater_kw": 0.0}, 422))
    for path in ("ready-by", "night", "timer", "season", "instead", "how-many"):
        assert "by a loop" in post(client, f"/api/advice/{path}", asked(OVEN, STEW), 422)["detail"]


def test_a_kettle_is_asked_over_the_wire(client):
    kettle = asked(FIELD_KETTLE, FIELD_TEA)
    rows = post(client, "/api/advice/put-out", kettle)["rows"]
    assert len(rows) == 2
    assert all(row["tilt_deg"] in (20.0, 45.0, 60.0) for row in rows)
    year = post(client, "/api/advice/boils", kettle)
    assert year["marks_deg"] == [20.0, 45.0, 60.0]
    assert [m["month"] for m in year["months"]] == list(range(1, 13))
    assert "kitchen kettle" in read(post(client, "/api/advice/instead", {**kettle, "heater_kw": 2.0})["words"])
    assert len(post(client, "/api/advice/tilt-year", kettle)["months"]) == 12
    for path in ("put-out", "boils"):
        assert "pour some in first" in post(client, f"/api/advice/{path}", asked(OVEN, STEW), 422)["detail"]


def test_the_weakest_link_can_be_tried_as_it_comes(client, build):
    found = post(client, "/api/advice/weakest", asked(OVEN, STEW))
    best = found["lines"][0]
    body = {
        "name": "Hatbox oven",
        "spot": "terrace",
        "spec": best["spec"],
        "load": best["load"],
        "note": read(best["title"]),
    }
    answer = client.put(f"/api/builds/{build['id']}", json=body, headers={"If-Match": '"r1"'})
    assert answer.status_code == 200, answer.text
    assert answer.get_json()["revision"] == 2


def test_schools_and_sayings_come_as_lists(client):
    schools = post(client, "/api/advice/schools", asked(OVEN, STEW))
    sayings = post(client, "/api/advice/sayings", asked(OVEN, STEW))
    assert {"tilt", "cover"} <= {school["name"] for school in schools}
    assert {line["ruling"] for line in sayings} <= {"holds", "holds partly", "does not matter here", "wrong"}


def test_what_is_asked_straight_out_can_be_tried_as_it_comes(client, build):
    found = post(client, "/api/advice/direct", asked(OVEN, STEW))
    answers = {answer["name"]: answer for answer in found["answers"]}
    assert {"preheat", "how-long", "pot", "flap-angle", "tilt", "turning"} <= set(answers)
    assert read(found["counts"])
    assert all(read(answer["words"]).endswith((".", "!")) for answer in answers.values())
    tried = next(answer for answer in answers.values() if answer["spec"] is not None)
    body = {"name": "Hatbox oven", "spot": "terrace", "spec": tried["spec"], "load": tried["load"], "note": "tried"}
    assert client.put(f"/api/builds/{build['id']}", json=body, headers={"If-Match": '"r1"'}).status_code == 200
    empty = post(client, "/api/advice/direct", asked(OVEN, None))
    assert "preheat" not in {answer["name"] for answer in empty["answers"]}


def test_turning_and_meal_and_year(client):
    assert len(post(client, "/api/advice/turning", asked(DISH, CREW_POT))["lines"]) == 5
    meal = post(client, "/api/advice/meal", asked(DISH, CREW_POT, wanted="13:00"))
    assert meal["latest"]["chance"] >= 0.8
    year = post(client, "/api/advice/year", asked(MELTER, CAPPINGS))
    assert [m["month"] for m in year["months"]] == list(range(1, 13))
    stock = post(client, "/api/advice/stock", asked(MELTER, CAPPINGS, stock_kg=8.0, until="2025-09-22"))
    assert stock["enough"]
    assert "by 22 September: all of it" in read(stock["words"])


@pytest.mark.parametrize(
    ("path", "body", "field", "words"),
    [
        ("meal", asked(OVEN, None), "load", "nothing goes in"),
        ("year", asked(OVEN, None), "load", "nothing goes in"),
        ("meal", asked(OVEN, STEW, wanted="5:00"), "wanted", "pattern"),
        ("meal", asked(OVEN, STEW, wanted="04:00"), "wanted", "the sun needs its time"),
        ("weakest", asked(OVEN, CAPPINGS), "load", "melter"),
        ("weakest", asked(MELTER, STEW), "load", "batch of wax"),
        ("turning", asked(DISH, BISCUITS), "load", "heats a pot"),
        ("stock", asked(MELTER, CAPPINGS, stock_kg=-1.0, until="2025-09-22"), "stock_kg", "greater than 0"),
    ],
)
def test_what_cannot_be_answered_says_why(client, path, body, field, words):
    found = post(client, f"/api/advice/{path}", body, 422)
    assert any(e["field"].endswith(field) and words in e["message"] for e in found["errors"]), found


def test_a_patch_of_a_funnel_is_refused_in_words(client):
    found = post(client, "/api/twin/patch", asked(FUNNEL, FLAT_LOAF, at=AT), 422)
    assert "this kind has none" in found["detail"]


def test_a_load_that_does_not_belong_is_not_stored(client):
    body = {"site_id": 1, "name": "x", "spec": MELTER.model_dump(mode="json"), "load": STEW.model_dump(mode="json")}
    assert "batch of wax" in post(client, "/api/builds", body, 422)["detail"]
    assert client.get("/api/builds").get_json() == []


def test_unknown_kinds_name_the_allowed_ones(client):
    found = post(client, "/api/twin/day", asked(OVEN, STEW) | {"spec": {"kind": "kettle", "facing_deg": 0}}, 422)
    assert (
        "batch-box, box-oven, dish, food-dryer, funnel, hose-coil, lumber-kiln, melter, samples, sleeved-tubes, tube-kettle and tube-row"
        in found["detail"]
    )


def test_a_pot_of_another_kind_brings_its_own_numbers(client):
    change = {
        "spec": OVEN.model_dump(mode="json"), "load": STEW.model_dump(mode="json"), "of": "load", "path": "vessel", "how": "set",
    }  # fmt: skip
    made = post(client, "/api/kinds/change", change | {"value": "cast-iron"})["load"]
    assert made["pot_kg"] > 3
    assert made["pot_finish"] == "cast-iron"
    found = post(client, "/api/kinds/change", change | {"value": "urn"}, 422)
    assert "'urn' is not known" in found["detail"]


@pytest.mark.parametrize(("form", "kind", "first"), [("svg", "image/svg+xml", "<svg"), ("dxf", "image/vnd.dxf", "  0")])
def test_patterns_are_downloads(client, build, form, kind, first):
    answer = client.get(f"/api/builds/{build['id']}/pattern.{form}")
    assert answer.status_code == 200
    assert answer.mimetype == kind
    assert f"pattern-{build['id']}.{form}" in answer.headers["Content-Disposition"]
    assert answer.text.startswith(first)


def test_samples_have_no_pattern(client):
    body = {"site_id": 1, "name": "lids", "spec": LIDS.model_dump(mode="json"), "load": None}
    made = post(client, "/api/builds", body, 201)
    assert client.get(f"/api/builds/{made['id']}/pattern.svg").status_code == 422


def test_the_shelf_lists_pots_sweets_and_waxes(client):
    shelf = client.get("/api/materials").get_json()
    assert {"pressure-pot", "dark-tin"} <= {row["name"] for row in shelf["vessels"]}
    assert {"milk-chocolate", "wax-crayon"} <= {row["name"] for row in shelf["sweets"]}
    assert {"beeswax", "paraffin", "crayons"} <= {row["name"] for row in shelf["waxes"]}
    assert all(row["source"] for family in ("vessels", "sweets", "waxes") for row in shelf[family])


def start(client, build_id: int, protocol: str, load) -> dict:
    body = {
        "build_id": build_id,
        "name": "t",
        "protocol": protocol,
        "load": None if load is None else load.model_dump(mode="json"),
    }
    return post(client, "/api/trials", body, 201)


def stored(client, spec, load) -> int:
    body = {
        "site_id": 1,
        "name": spec.kind,
        "spot": "terrace",
        "spec": spec.model_dump(mode="json"),
        "load": load.model_dump(mode="json"),
    }
    return post(client, "/api/builds", body, 201)["id"]


@pytest.mark.parametrize(
    ("spec", "load", "protocol", "nodes"),
    [
        (WORKSHOP, BISCUITS, "portions", ["portion-left", "portion-right", "inside-air", "outside"]),
        (MELTER, CAPPINGS, "melt-run", ["wax", "inside-air"]),
        (FUNNEL, FLAT_LOAF, "loaf", ["core"]),
        (DISH, CREW_POT, "cooking-power", ["contents", "air", "sun"]),
    ],
)
def test_trials_of_every_kind_bring_their_channels(client, spec, load, protocol, nodes):
    trial = start(client, stored(client, spec, load), protocol, load)
    assert [channel["node"] for channel in trial["channels"]] == nodes


def test_a_protocol_of_another_kind_is_refused(client):
    body = {"build_id": stored(client, DISH, CREW_POT), "name": "t", "protocol": "melt-run"}
    assert "not for this kind of build" in post(client, "/api/trials", body, 422)["detail"]


def test_the_days_ahead_carry_over_what_stands(client: FlaskClient):
    week = post(client, "/api/twin/ahead", {**asked(HEATER, SHOWERS), "days": 3})
    assert [day["day"] for day in week["days"]] == ["2025-06-12", "2025-06-13", "2025-06-14"]
    assert all(day["sun_kwh_m2"] > 5.0 for day in week["days"])
    water = next(curve for curve in week["curves"] if curve["node"] == "water")["temperature_c"]
    assert len(water) == len(week["times"]) == 3 * 48 + 1
    assert water[38 + 48] > water[38] + 2.0, "the second evening begins from a warm morning"
    first, second = (next(p["value"] for p in day["words"] if isinstance(p, dict)) for day in week["days"][:2])
    assert first == pytest.approx(water[38], abs=0.6)
    assert second > first
    assert "next morning" in str(week["days"][0]["words"])
    assert abs(week["energy_closure"]) < 1e-9


def test_days_ahead_of_a_hose_and_of_an_empty_oven(client: FlaskClient):
    hose = post(client, "/api/twin/ahead", {**asked(DAIRY_FRAME, DAIRY_WASH), "days": 1})
    assert "energy" in str(hose["days"][0]["words"])
    oven = post(client, "/api/twin/ahead", {**asked(OVEN, None), "days": 2})
    assert "peak" in str(oven["days"][1]["words"])


def test_more_days_ahead_than_a_fortnight_are_refused(client: FlaskClient):
    refused = client.post("/api/twin/ahead", json={**asked(OVEN, None), "days": 15})
    assert refused.status_code == 422
    assert "days" in refused.text


def test_where_the_light_lies_hour_by_hour(client: FlaskClient):
    fenced = HEATER.with_(behind=StandingMirror(width_m=2.0))
    found = post(client, "/api/twin/patch-day", asked(fenced, SHOWERS))
    assert found["floor"] == "water"
    assert {len(hour["suns"]) for hour in found["hours"]} == {8}
    assert max(hour["mirror_share"] for hour in found["hours"]) > 0.1
    assert "comes by the mirror at" in read(found["words"])
    refused = post(client, "/api/twin/patch-day", asked(FUNNEL, FLAT_LOAF), 422)
    assert "this kind has none" in refused["detail"]


def test_a_mirrors_angle_by_the_month(client: FlaskClient):
    found = post(client, "/api/advice/flap-year", asked(OVEN, STEW))
    assert [m["month"] for m in found["months"]] == list(range(1, 13))
    assert found["path"] == "mirror.angle_deg"
    assert found["months"][5]["best_deg"] > found["months"][11]["best_deg"]
    refused = post(client, "/api/advice/flap-year", asked(HEATER, SHOWERS), 422)
    assert "put one on first" in refused["detail"]


def test_a_finish_of_ones_own_is_tried_with_its_doubt(client: FlaskClient):
    row = absorber("flat-black-paint").model_copy(
        update={"name": "measured-a3", "title": "Lid three, as measured", "absorptance": 0.9, "absorptance_doubt": 0.04}
    )
    plain = post(client, "/api/advice/weakest", asked(HEATER, SHOWERS))
    post(client, "/api/materials", {"absorber": row.model_dump(mode="json")}, 201)
    found = post(client, "/api/advice/weakest", asked(HEATER, SHOWERS))
    titles = {read(line["title"]) for line in found["lines"]} - {read(line["title"]) for line in plain["lines"]}
    assert titles == {
        "trough in lid three, as measured",
        "upper walls in lid three, as measured",
        "wall in lid three, as measured",
    }
    tray = next(
        line
        for line in found["lines"]
        if line["spec"]["tray"] != plain["lines"][0]["spec"]["tray"] and "three" in read(line["title"])
    )
    assert tray["doubt"] > 0
