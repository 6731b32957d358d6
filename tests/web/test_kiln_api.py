"""Kilns over the wire: a charge over a day, what is asked of it, and what is refused."""

from __future__ import annotations

from datetime import date

import pytest
from flask.testing import FlaskClient

from drylamp.demo.scenario import CHESTNUT_AND_POPLAR, CHESTNUT_KILN, FILM_KILN, OAK, OVEN, STEW
from tests.web.test_advice_api import asked, post
from tests.wording import read

DAY = {"day": "2025-06-12"}


def test_a_day_tells_groups_peaks_and_both_closures(client: FlaskClient):
    outcome = post(client, "/api/twin/day", asked(FILM_KILN, OAK) | DAY)["outcome"]
    assert outcome["energy_closure"] < 1e-9
    assert outcome["water_closure"] < 1e-9
    assert outcome["target_c"] is None, "no temperature is wanted of wood"
    assert [(wet["node"], wet["of_dry"]) for wet in outcome["wet"]] == [("boards-1", True), ("boards-2", True)]
    lumber = outcome["results"]["lumber"]
    oak, pine = lumber["groups"]
    assert oak["safe_per_day"] == pytest.approx(0.025, abs=0.002)
    assert pine["safe_per_day"] is None
    assert 0.0 < lumber["days"][0]["vapour_share"] < 0.7
    assert lumber["days"][0]["peak_c"] > 25.0
    assert len(lumber["times"]) == len(oak["mean_mc"]) == len(oak["cells_mc"])


def test_a_charge_in_since_april_is_shown_as_it_stands_today(client: FlaskClient):
    lumber = post(client, "/api/twin/day", asked(CHESTNUT_KILN, CHESTNUT_AND_POPLAR) | DAY)["outcome"]["results"][
        "lumber"
    ]
    chestnut, poplar = lumber["groups"]
    assert chestnut["start_mc"] < 0.30 < 0.42, "seven weeks have dried it"
    assert poplar["start_mc"] < 0.5
    assert chestnut["outside_mc"][0] > chestnut["start_mc"], "the stack outside is behind it"
    words = read(lumber["words"])
    assert "Sweet chestnut of 54 mm" in words
    assert "at the end of the day" in words
    assert "1 days" not in words


@pytest.mark.parametrize(
    "path",
    ["twin/day", "twin/ahead", "advice/weakest", "advice/schools", "advice/sayings", "advice/charge", "advice/today"],
)
def test_before_anything_goes_in_the_kiln_stands_empty(client: FlaskClient, path: str):
    later = OAK.model_copy(update={"groups": [g.model_copy(update={"in_on": date(2026, 3, 1)}) for g in OAK.groups]})
    answer = client.post(f"/api/{path}", json=asked(FILM_KILN, later) | DAY)
    assert answer.status_code in (200, 422), answer.get_json()
    if path.startswith("twin"):
        assert answer.status_code == 200


def in_the_yard(client: FlaskClient, in_on: date) -> tuple[dict, dict]:
    """A kiln's lane, and where its boards stand, that went in on a day."""
    groups = [g.model_copy(update={"in_on": in_on}) for g in CHESTNUT_AND_POPLAR.groups]
    load = CHESTNUT_AND_POPLAR.model_copy(update={"groups": groups})
    kiln = {"spec": CHESTNUT_KILN.model_dump(mode="json"), "load": load.model_dump(mode="json")}
    post(client, "/api/builds", {"site_id": 1, "name": "Kiln", **kiln}, status=201)
    (line,) = client.get("/api/sites/1/yard?day=2025-06-12").get_json()["lines"]
    (standing,) = post(client, "/api/sites/1/yard/standing", DAY)["lines"]
    return line, standing


@pytest.mark.parametrize(
    ("in_on", "shown", "stands"),
    [
        (date(2025, 4, 22), False, "Day 52; "),
        (date(2025, 2, 1), False, "Day 132; "),
        (date(2025, 6, 14), True, "It goes in on Sat 14 Jun; "),
        (date(2025, 7, 1), True, "It goes in on Tue 01 Jul."),
    ],
)
def test_the_yard_leaves_what_stands_for_weeks_to_where_it_stands(
    client: FlaskClient, in_on: date, shown: bool, stands: str
):
    line, standing = in_the_yard(client, in_on)
    assert line["over_days"]
    assert line["problem"] == standing["problem"] == []
    assert (line["outcome"] is not None) == shown, "a day of its own is no day of boards that went in before"
    assert read(standing["standing"]["said"]).startswith(stands)


def test_what_cannot_stand_is_said_in_the_yard_as_a_person_would(client: FlaskClient):
    _, standing = in_the_yard(client, date(2023, 1, 1))
    assert read(standing["problem"]).startswith("Groups: the first went in on 2023-01-01")


def test_a_thicker_group_that_goes_in_later_is_waited_for(client: FlaskClient):
    pine, oak = OAK.groups[1], OAK.groups[0].model_copy(update={"thickness_mm": 54.0, "in_on": date(2025, 8, 1)})
    later = OAK.model_copy(update={"groups": [pine, oak]})
    lumber = post(client, "/api/twin/day", asked(FILM_KILN, later) | DAY)["outcome"]["results"]["lumber"]
    assert [group["species"] for group in lumber["groups"]] == ["Scots pine"]
    assert post(client, "/api/advice/charge", asked(FILM_KILN, later) | DAY)["groups"]


def test_days_ahead_of_a_charge_are_a_fortnight_and_of_an_oven_a_week(client: FlaskClient):
    ahead = post(client, "/api/twin/ahead", asked(CHESTNUT_KILN, CHESTNUT_AND_POPLAR) | DAY)
    assert len(ahead["days"]) == 14
    assert all("of water out" in read(day["words"]) for day in ahead["days"])
    assert ahead["energy_closure"] < 1e-9
    assert len(post(client, "/api/twin/ahead", asked(OVEN, STEW) | DAY)["days"]) == 7
    assert len(post(client, "/api/twin/ahead", asked(FILM_KILN, OAK) | DAY | {"days": 3})["days"]) == 3


@pytest.mark.parametrize(
    ("path", "has"),
    [
        ("charge", "Dry after"),
        ("today", "Over the fortnight"),
        ("weeks", "Begin with the vents"),
        ("charge-sizes", "the rule of the trade says"),
        ("charge-links", "."),
        ("saw", "green"),
    ],
)
def test_what_is_asked_of_a_charge_is_answered(client: FlaskClient, path: str, has: str):
    assert has in read(post(client, f"/api/advice/{path}", asked(FILM_KILN, OAK) | DAY)["words"])


@pytest.mark.parametrize("path", ["charge", "today", "weeks", "charge-sizes", "charge-links", "saw"])
def test_nothing_of_the_sort_is_asked_of_an_oven(client: FlaskClient, path: str):
    answer = client.post(f"/api/advice/{path}", json=asked(OVEN, STEW) | DAY)
    assert answer.status_code == 422
    assert "no boards are stacked in this" in answer.get_json()["errors"][0]["message"]


@pytest.mark.parametrize(
    ("group", "field", "said"),
    [
        ({"start": "measured", "start_mc": 3.0}, "start_mc", "2.6"), ({"species": "shagbark-hickory"}, "groups.0", "is not known; choose a wood like it"),
        ({"length_m": 9.0}, "groups", "long inside"), ({"wood_m3": 20.0}, "groups", "fits"),
    ],
)  # fmt: skip
def test_bad_charges_are_refused_where_they_stand(client: FlaskClient, group: dict, field: str, said: str):
    load = OAK.model_dump(mode="json")
    load["groups"][0] |= group
    answer = client.post("/api/twin/day", json=asked(FILM_KILN, None) | DAY | {"load": load})
    assert answer.status_code == 422
    error = answer.get_json()["errors"][0]
    assert field in error["field"]
    assert said in read(error["message"])


def test_dates_and_choices_are_asked_for_as_such(client: FlaskClient):
    load = next(row for row in client.get("/api/kinds/forms").get_json()["loads"] if row["name"] == "lumber-charge")
    groups = next(field for field in load["fields"] if field["name"] == "groups")
    sorts = {field["name"]: field["sort"] for field in groups["fields"]}
    assert sorts["in_on"] == sorts["out_on"] == "day"
    assert sorts["species"] == "choice"
    assert next(field["quantity"] for field in groups["fields"] if field["name"] == "wood_m3") == "timber"


def test_quantities_in_a_refusal_are_written_out(client: FlaskClient):
    """A board longer than the kiln: no mark of a quantity reaches a person, at the field or in the sentence."""
    long = OAK.model_copy(update={"groups": [OAK.groups[0].model_copy(update={"length_m": 9.0})]})
    answer = client.post("/api/twin/day", json=asked(FILM_KILN, long) | DAY)
    assert answer.status_code == 422
    assert "a board of 9000 mm was given; the kiln is 3000 mm long inside" in answer.get_json()["detail"]
    assert "⦃" not in answer.get_data(as_text=True)
    wide = FILM_KILN.model_copy(update={"vents": FILM_KILN.vents.model_copy(update={"low_cm2": 49000.0})})
    refused = client.post("/api/twin/day", json=asked(wide, None) | DAY)
    assert "4.9 m² was given; the back wall is" in refused.get_json()["detail"]
    assert "⦃" not in refused.get_data(as_text=True)
