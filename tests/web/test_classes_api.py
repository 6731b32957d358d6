"""A trial over many boxes, over the wire."""

from __future__ import annotations

import pytest
from flask.testing import FlaskClient

NAMES = ["Oda", "Pell", "Nim", "Tove", "Rusk", "Ilan", "Bry", "Senne", "Mako", "Wim", "Lune", "Quill"]


@pytest.fixture
def variant(client: FlaskClient, build: dict) -> dict:
    made = client.post(f"/api/builds/{build['id']}/variants", json={"name": "without its mirror"}).get_json()
    spec = {**made["spec"], "mirror": None}
    body = {"name": made["name"], "spot": made["spot"], "spec": spec, "load": made["load"]}
    return client.put(f"/api/builds/{made['id']}", json=body, headers={"If-Match": '"r1"'}).get_json()


@pytest.fixture
def a_class(client: FlaskClient, build: dict, variant: dict) -> dict:
    boxes = [{"name": name, "like": variant["id"] if k % 2 else None} for k, name in enumerate(NAMES)]
    answer = client.post(
        "/api/classes", json={"build_id": build["id"], "name": "Class of June", "node": "inside-air", "boxes": boxes}
    )
    assert answer.status_code == 201, answer.text
    return answer.get_json()


def typed(client: FlaskClient, trial: dict) -> None:
    """Four rows of the table: children of boxes with a mirror read 9 K more, Nim another 8."""
    rows = [
        {
            "at": f"12:{30 + 10 * row}",
            "values": {f"box-{k + 1}": str(60 + 4 * row - 9 * (k % 2) + 8 * (k == 2)) for k in range(12)},
        }
        for row in range(3)
    ]
    answer = client.post(f"/api/trials/{trial['id']}/paper", json={"rows": rows, "write": True, "ahead": True})
    assert answer.status_code == 200, answer.text
    assert answer.get_json()["written"]["written"] == 36


def test_a_class_is_one_trial_with_a_channel_for_each(client: FlaskClient, a_class: dict):
    assert [channel["title"] for channel in a_class["channels"]] == NAMES
    assert {channel["node"] for channel in a_class["channels"]} == {"inside-air"}
    assert a_class["boxes"] == 12
    found = client.get(f"/api/classes/{a_class['id']}").get_json()
    assert "Nobody's box" in str(found["words"][0])


def test_typed_in_one_table_it_is_ranked_with_why(client: FlaskClient, a_class: dict):
    typed(client, a_class)
    found = client.get(f"/api/classes/{a_class['id']}").get_json()
    first = found["lines"][0]
    assert (first["name"], first["rank"], first["hands_real"]) == ("Nim", 1, True)
    mirrorless = [line for line in found["lines"] if line["differs"]]
    assert len(mirrorless) == 6
    assert all(line["explained_k"] < 0 for line in mirrorless)
    assert client.get(f"/api/trials/{a_class['id']}/verdict").status_code == 200


def test_a_sheet_for_each_child(client: FlaskClient, a_class: dict):
    page = client.get(f"/api/classes/{a_class['id']}/sheets.html?begins=10:00&every=20&minutes=120")
    assert page.status_code == 200, page.text
    for name in NAMES:
        assert f"<h1>{name}</h1>" in page.text
    assert page.text.count("an empty chart") == 12
    assert "<td>10:20</td>" in page.text
    assert "<td>12:00</td>" in page.text
    assert "like without its mirror" in page.text
    assert "<script" not in page.text


def test_it_moves_with_the_yard(client: FlaskClient, a_class: dict):
    packed = client.get("/api/yard/file").data
    answer = client.post("/api/yard/take-in", data=packed)
    assert answer.status_code == 201, answer.text
    newest = client.get("/api/trials").get_json()
    copy = next(row for row in newest if row["name"] == "Class of June" and row["id"] != a_class["id"])
    found = client.get(f"/api/classes/{copy['id']}").get_json()
    assert sum(bool(line["differs"]) for line in found["lines"]) == 6


@pytest.mark.parametrize(
    ("change", "words"),
    [
        ({"boxes": []}, "boxes"),
        ({"boxes": [{"name": f"child {k}"} for k in range(25)]}, "boxes"),
        ({"node": "nowhere"}, "node"),
        ({"boxes": [{"name": "Oda", "like": 3}]}, "of another kind"),
        ({"boxes": [{"name": "Oda", "like": 99}]}, "no build 99"),
        ({"instrument": "wand"}, "instrument"),
    ],
)
def test_what_cannot_be_is_said_and_nothing_is_begun(
    client: FlaskClient, build: dict, variant: dict, change: dict, words: str
):
    from drylamp.demo.scenario import FUNNEL

    client.post("/api/builds", json={"site_id": 1, "name": "funnel", "spec": FUNNEL.model_dump(mode="json")})
    body = {"build_id": build["id"], "name": "c", "node": "inside-air", "boxes": [{"name": "Oda"}], **change}
    answer = client.post("/api/classes", json=body)
    assert answer.status_code in (404, 422), answer.text
    assert words in answer.text
    assert client.get("/api/trials").get_json() == []


def test_a_trial_of_one_build_is_no_class(client: FlaskClient, trial: dict):
    answer = client.get(f"/api/classes/{trial['id']}")
    assert answer.status_code == 404
    assert "is not over many boxes" in answer.get_json()["detail"]
    assert trial["boxes"] == 0
