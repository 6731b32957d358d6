"""Dryers over the wire: a batch over days, what is asked of it, and what is refused."""

from __future__ import annotations

import pytest
from flask.testing import FlaskClient

from drylamp.demo.scenario import APPLES, FIG_DRYER, FIGS, GLASS_CABINET, OVEN, PLUMS, SKETCH, SKETCH_DRYER, STEW
from tests.web.test_advice_api import asked, post
from tests.wording import read

DAY = {"day": "2025-09-10"}


def test_a_day_tells_trays_and_both_closures(client: FlaskClient):
    answer = post(client, "/api/twin/day", asked(FIG_DRYER, FIGS) | DAY)
    outcome = answer["outcome"]
    assert outcome["energy_closure"] < 1e-9
    assert outcome["water_closure"] < 1e-9
    assert [wet["node"] for wet in outcome["wet"]] == [f"food-{k}" for k in range(1, 6)]
    assert len(outcome["wet"][0]["water_wb"]) == len(outcome["times"])
    drying = outcome["results"]["drying"]
    assert len(drying["trays"]) == 5
    assert any("weigh each tray" in read(step["text"]) for step in answer["plan"])
    dry = post(client, "/api/twin/day", asked(OVEN, STEW))["outcome"]
    assert dry["wet"] == []
    assert dry["water_closure"] is None


def test_days_ahead_carry_the_batch_on(client: FlaskClient):
    ahead = post(client, "/api/twin/ahead", asked(FIG_DRYER, FIGS) | DAY | {"days": 4})
    assert len(ahead["days"]) == 4
    assert "of water out" in read(ahead["days"][0]["words"])
    assert ahead["energy_closure"] < 1e-9


@pytest.mark.parametrize(
    ("path", "more", "has"),
    [
        ("batch", {}, "made-up weeks"), ("nights", {}, "take it in"), ("vent", {}, "Dries fastest"),
        ("weekly", {"wanted_kg": 8.0, "month": 7}, "a week in July"), ("basket", {"food": "tomato", "litres": 12.0}, "on the trays"), ("instead", {"heater_kw": 0.5, "price_kwh": 0.3}, "electric dryer"),
    ],
)  # fmt: skip
def test_what_is_asked_of_a_dryer_is_answered(client: FlaskClient, path: str, more: dict, has: str):
    assert has in read(post(client, f"/api/advice/{path}", asked(FIG_DRYER, FIGS, **more) | DAY)["words"])


def test_a_promise_is_taken_apart(client: FlaskClient):
    body = asked(SKETCH_DRYER, PLUMS, other=SKETCH.model_dump(mode="json"), promised_c=65.0) | DAY
    found = post(client, "/api/advice/apart", body)
    assert len(found["shares"]) == 6
    whole = sum(share["share_k"] for share in found["shares"]) + found["rest_k"]
    assert whole == pytest.approx(found["promised_c"] - found["mine_c"], abs=0.1)
    assert {condition["holds"] for condition in found["conditions"]} <= {True, False}
    typed = post(
        client, "/api/advice/apart", asked(SKETCH_DRYER, PLUMS, area_m2=2.0, absorber="mesh", promised_c=65.0) | DAY
    )
    assert [share["part"] for share in typed["shares"]] == ["collector", "collector"]


@pytest.mark.parametrize(
    ("path", "build", "load", "more", "words"),
    [
        ("batch", OVEN, STEW, {}, "no food on its trays"), ("vent", OVEN, STEW, {}, "no vent"), ("apart", OVEN, STEW, {}, "nothing is told apart"), ("vent", FIG_DRYER, None, {}, "trays are bare"),
        ("basket", FIG_DRYER, FIGS, {"food": "figg", "litres": 3.0}, "fig"), ("basket", FIG_DRYER, FIGS, {"food": "fig"}, "neither"), ("apart", GLASS_CABINET, APPLES, {}, "like this one"),
    ],
)  # fmt: skip
def test_what_has_no_answer_is_refused_in_a_sentence(
    client: FlaskClient, path: str, build, load, more: dict, words: str
):
    answer = post(client, f"/api/advice/{path}", asked(build, load, **more), 422)
    assert words in str(answer)


def test_fields_that_cannot_be_are_refused_at_their_place(client: FlaskClient):
    spec = FIG_DRYER.model_dump(mode="json")
    bad = asked(FIG_DRYER, FIGS) | {
        "spec": spec | {"fan": {"shut_off_pa": 20.0, "free_m3_h": 100.0}, "vent": {"area_cm2": 0.0}}
    }
    assert "a vent that never opens" in str(post(client, "/api/twin/day", bad, 422))
    heap = FIGS.model_copy(update={"foods": [FIGS.foods[0].model_copy(update={"kg": 8.0})]})
    assert "kg/m²" in str(post(client, "/api/twin/day", asked(FIG_DRYER, heap), 422))
    far = FIGS.model_copy(update={"foods": [FIGS.foods[0].model_copy(update={"tray": 9})]})
    assert "tray 9" in str(post(client, "/api/twin/day", asked(FIG_DRYER, far), 422))
