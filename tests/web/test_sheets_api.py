"""Sheets over the wire: forms and rows, refusals in sentences, nothing half written, nothing lost."""

from __future__ import annotations

import io

import pytest
from flask.testing import FlaskClient
from PIL import Image

from drylamp.demo.scenario import FILM_KILN, OAK
from tests.web.test_advice_api import asked, post
from tests.wording import read


@pytest.fixture
def kiln(client: FlaskClient) -> int:
    body = {"site_id": 1, "name": "Kiln", "spot": None, "spec": FILM_KILN.model_dump(mode="json"), "load": OAK.model_dump(mode="json")}  # fmt: skip
    return int(post(client, "/api/builds", body, 201)["id"])


@pytest.fixture
def charge(client: FlaskClient, kiln: int) -> int:
    return int(post(client, "/api/trials", {"build_id": kiln, "name": "Oak", "protocol": "charge-check"}, 201)["id"])


def sheet(client: FlaskClient, path: str, name: str) -> dict:
    return next(one for one in client.get(f"/api/sheets/{path}").get_json() if one["name"] == name)


def write(client: FlaskClient, path: str, sheet_name: str, status: int = 201, **content: object):
    return post(client, f"/api/sheets/{path}/{sheet_name}", {"content": content}, status)


def test_a_trial_of_boards_lists_its_sheets_with_forms(client: FlaskClient, charge: int):
    names = [one["name"] for one in client.get(f"/api/sheets/trial/{charge}").get_json()]
    assert names == ["followed", "sections", "weighings", "metered", "inspected", "stack-read"]
    metered = sheet(client, f"trial/{charge}", "metered")
    by_name = {field["name"]: field for field in metered["fields"]}
    assert by_name["gravity"]["only_with"] == {"sort": ["plate"]}
    assert by_name["reading_mc"]["quantity"] == "share"
    assert metered["blank"]["on"] == "2025-06-12"
    assert metered["rows"] == []
    photo = {field["name"]: field for field in sheet(client, f"trial/{charge}", "inspected")["fields"]}["photo"]
    assert photo["family"] == "photos"


def test_rows_are_written_shown_changed_taken_back_and_brought_back(client: FlaskClient, charge: int):
    path = f"trial/{charge}"
    write(client, path, "metered", board="O1", on="2025-06-12", reading_mc=0.21, sort="plate", gravity=0.40)
    row = sheet(client, path, "metered")["rows"][0]
    assert read(row["cells"][3]) == "21.0 %"
    assert "gravity set to 0.40" in read(row["warning"])
    mark = {"If-Match": f'"r{row["revision"]}"'}
    right = {**row["content"], "gravity": None}
    answer = client.put(f"/api/sheet-rows/{row['id']}", json={"content": right}, headers=mark)
    assert answer.status_code == 200
    assert read(sheet(client, path, "metered")["rows"][0]["warning"]) == ""
    assert client.put(f"/api/sheet-rows/{row['id']}", json={"content": right}, headers=mark).status_code == 412
    without = client.put(f"/api/sheet-rows/{row['id']}", json={"content": right})
    assert "If-Match" in without.get_json()["detail"]
    newest = {"If-Match": '"r2"'}
    assert client.post(f"/api/sheet-rows/{row['id']}/withdraw", headers=newest).status_code == 200
    assert sheet(client, path, "metered")["rows"] == []
    assert client.post(f"/api/sheet-rows/{row['id']}/restore", headers={"If-Match": '"r3"'}).status_code == 200
    assert len(sheet(client, path, "metered")["rows"]) == 1


@pytest.mark.parametrize(
    ("name", "content", "field", "said"),
    [
        ("sections", {"board": "O1", "on": "2025-06-12", "wet_kg": 0.1, "dry_kg": 0.2}, "dry_kg", "no section gets heavier in the oven"),
        ("metered", {"board": "O1", "on": "2025-06-12", "reading_mc": 3.0}, "reading_mc", "less than or equal to 2"),
        ("metered", {"board": "O1", "on": "2025-06-12"}, "reading_mc", ""),
        ("metered", {"board": "O1", "on": "2025-06-12", "reading_mc": 0.1, "set_to": "okk"}, "set_to", "'okk' is not known"),
        ("followed", {"board": "O1", "group": 5}, "group", "this charge has 1"),
        ("weighings", {"board": "O1", "on": "2025-06-12", "kg": 3.0}, "board", "write its sections first"),
        ("inspected", {"board": "O1", "on": "2025-06-12", "end_check_mm": 4000.0}, "end_check_mm", "the board is"),
        ("stack-read", {"on": "2025-06-12", "mc": 0.2, "sawn_on": "2025-06-20", "thickness_mm": 30.0}, "sawn_on", "a day before it was read"),
        ("stack-read", {"on": "2025-06-12", "mc": 0.2, "sawn_on": "1999-06-20", "thickness_mm": 30.0}, "sawn_on", "up to three years"),
        ("metered", {"board": "O1", "on": "2201-06-12", "reading_mc": 0.1}, "on", ""),
        ("metered", {"board": "x" * 300, "on": "2025-06-12", "reading_mc": 0.1}, "board", "40"),
        ("metered", {"board": "O1", "on": "2025-06-12", "reading_mc": 0.1, "colour": "red"}, "colour", ""),
    ],
)  # fmt: skip
def test_a_row_that_cannot_be_is_refused_at_its_field_and_not_written(
    client: FlaskClient, charge: int, name: str, content: dict, field: str, said: str
):
    answer = write(client, f"trial/{charge}", name, 422, **content)
    about = [
        one for one in answer["errors"] if one["field"].split(".")[-1] == field or one["message"].startswith(field)
    ]
    assert any(said in one["message"] for one in about), answer
    assert "⦃" not in answer["detail"], "quantities are written out"
    assert sheet(client, f"trial/{charge}", name)["rows"] == []


def test_many_are_written_all_or_none(client: FlaskClient, charge: int):
    rows = [{"board": f"O{k}", "on": "2025-06-12", "reading_mc": 0.1 + 0.01 * k} for k in range(6)]
    path = f"/api/sheets/trial/{charge}/metered/many"
    post(client, path, {"rows": [*rows, {"board": "O7", "on": "2025-06-12", "reading_mc": 9.0}]}, 422)
    assert sheet(client, f"trial/{charge}", "metered")["rows"] == []
    post(client, path, {"rows": rows}, 201)
    found = sheet(client, f"trial/{charge}", "metered")
    assert len(found["rows"]) == 6
    assert found["bars"] is not None
    post(client, f"/api/sheets/trial/{charge}/metered/set", {"changes": {"sort": "plate", "gravity": 5.0}}, 422)
    post(client, f"/api/sheets/trial/{charge}/metered/set", {"changes": {"sort": "plate", "gravity": 0.45}})
    changed = sheet(client, f"trial/{charge}", "metered")["rows"]
    assert all(row["content"]["gravity"] == 0.45 and row["revision"] == 2 for row in changed)
    post(client, f"/api/sheets/trial/{charge}/metered/set", {"changes": {}}, 422)


def test_what_is_written_is_judged_and_changes_the_trials_mark(client: FlaskClient, charge: int):
    before = client.get(f"/api/trials/{charge}").get_json()
    assert not before["can_judge"]
    write(client, f"trial/{charge}", "metered", board="O1", on="2025-06-12", reading_mc=0.25)
    after = client.get(f"/api/trials/{charge}").get_json()
    assert after["can_judge"]
    assert after["mark"] != before["mark"]
    verdict = client.get(f"/api/trials/{charge}/verdict").get_json()
    assert "wettest-board" in [figure["name"] for figure in verdict["figures"]]
    whole = client.get(f"/api/trials/{charge}/export.json").get_json()
    assert whole["sheets"]["metered"][0]["board"] == "O1"


def test_one_row_that_cannot_be_read_blanks_nothing(client: FlaskClient, charge: int):
    write(client, f"trial/{charge}", "metered", board="O1", on="2025-06-12", reading_mc=0.25)
    store = client.application.config["DATABASE"]
    with store.session() as db:
        db.execute("INSERT INTO sheet_row (sheet, trial_id, content, written_at) VALUES ('metered', ?, '{\"board\": 3}', 'x')", (charge,))  # fmt: skip
    rows = sheet(client, f"trial/{charge}", "metered")["rows"]
    assert [bool(row["cells"]) for row in rows] == [True, False]
    assert "can no longer be read" in read(rows[1]["warning"])
    assert client.get(f"/api/trials/{charge}/verdict").status_code == 200


@pytest.mark.parametrize(("path", "status"), [("trial/99", 404), ("build/99", 404), ("site/99", 404), ("moon/1", 422)])
def test_sheets_of_nothing(client: FlaskClient, path: str, status: int):
    assert client.get(f"/api/sheets/{path}").status_code == status


def test_a_sheet_that_is_not_this_ones_is_refused(client: FlaskClient, charge: int):
    answer = write(client, f"trial/{charge}", "upkeep", 422, on="2025-06-12")
    assert "'upkeep' is not known" in answer["detail"]


def test_a_site_keeps_its_stacks_and_a_build_its_upkeep(client: FlaskClient, kiln: int):
    write(client, "site/1", "waiting", name="Treads", species="sweet-chestnut", thickness_mm=54.0, wood_m3=0.3, sawn_on="2024-11-01")  # fmt: skip
    waiting = sheet(client, "site/1", "waiting")
    assert "Treads (sweet chestnut of 54 mm)" in read(waiting["rows"][0]["cells"][0])
    assert "0.3 m³ of wood" in read(waiting["words"][0])
    write(client, f"build/{kiln}", "upkeep", on="2025-06-01", check="torn-film", state="wants-work", words="flaps")
    book = sheet(client, f"build/{kiln}", "upkeep")
    assert "The outer sheet of the roof is torn or gone" in [option["title"] for field in book["fields"] for option in field["options"]]  # fmt: skip
    body = asked(FILM_KILN, OAK) | {"build_id": kiln}
    found = post(client, "/api/advice/repairs", body)
    assert found["lines"][0]["is_repair"] is True
    assert found["lines"][0]["gain"] > 0.0


def test_money_needs_prices_and_says_so(client: FlaskClient, kiln: int):
    body = asked(FILM_KILN, OAK) | {"build_id": kiln}
    assert "no prices are written down" in post(client, "/api/advice/money", body, 422)["detail"]
    write(client, f"build/{kiln}", "prices", on="2025-06-01", kiln_price=400.0, green_price=250.0, dry_price=900.0, charges=6.0)  # fmt: skip
    found = post(client, "/api/advice/money", body)
    assert found["charges"] == 6.0
    assert set(found["parts"]) == {"kiln", "work", "electricity", "lost"}


def test_building_and_backup_are_asked_of_a_kiln_only(client: FlaskClient):
    from drylamp.demo.scenario import OVEN, STEW

    found = post(client, "/api/advice/building", asked(FILM_KILN, OAK) | {"pane_wide_m": 1.0, "pane_high_m": 2.3})
    assert found["panes"]["along"] == 3
    assert post(client, "/api/advice/building", asked(FILM_KILN, OAK))["panes"] is None
    for path in ("building", "backup"):
        assert "lumber kiln" in post(client, f"/api/advice/{path}", asked(OVEN, STEW), 422)["detail"]


def test_a_row_has_photos_that_are_taken_back_and_brought_back(client, build):
    shown = client.post(
        "/api/sheets/build/1/upkeep", json={"content": {"on": "2025-06-01", "words": "a crack"}}
    ).get_json()
    row = next(sheet for sheet in shown if sheet["name"] == "upkeep")["rows"][0]
    assert row["photos"] == []
    picture = io.BytesIO()
    Image.new("RGB", (3000, 20), "red").save(picture, "JPEG")
    path = f"/api/sheet-rows/{row['id']}/photos"
    for _ in range(2):
        answer = client.post(f"{path}?uid=the-same-photo", data=picture.getvalue(), content_type="image/jpeg")
        assert answer.status_code == 201, answer.text

    def photos() -> list[int]:
        return next(s for s in client.get("/api/sheets/build/1").get_json() if s["name"] == "upkeep")["rows"][0][
            "photos"
        ]

    (one,) = photos()
    kept = client.get(f"{path}/{one}")
    assert kept.mimetype == "image/jpeg"
    assert Image.open(io.BytesIO(kept.data)).width <= 1600
    assert client.post(f"{path}/{one}/withdraw").status_code == 200
    assert photos() == []
    assert client.post(f"{path}/{one}/restore").status_code == 200
    assert photos() == [one]
    assert client.get(f"/api/sheet-rows/99/photos/{one}").status_code == 404
    assert (
        client.post("/api/sheet-rows/99/photos", data=picture.getvalue(), content_type="image/jpeg").status_code == 404
    )
    assert client.post(path, data=b"no picture", content_type="image/jpeg").status_code == 422
