"""Wishes over the wire."""

from __future__ import annotations

WISH = "melt 1 kg of cappings in June, I have two panes 60 × 90, up to 40 €"


def test_words_to_pick_from(client):
    words = client.get("/api/wishes/words").get_json()
    assert {"dry", "cook", "melt", "warm"} <= {word["verb"] for word in words}
    assert any(good["name"] == "fig" for word in words for good in word["goods"])


def test_a_wish_is_read_and_what_is_strange_is_told(client, build):
    wish = client.post("/api/wishes/read", json={"site_id": 1, "text": f"{WISH}, for my walrus"}).get_json()
    assert (wish["good"], wish["amount"], wish["months"], wish["budget"]) == ("cappings-wax", 1.0, [6], 40.0)
    assert wish["not_understood"] == ["walrus"]
    assert client.post("/api/wishes/read", json={"site_id": 1, "text": "x" * 601}).status_code == 422
    assert client.post("/api/wishes/read", json={"site_id": 99, "text": "x"}).status_code == 404


def test_a_proposal_becomes_a_build_with_its_panes(client, build):
    asked = {"site_id": 1, "day": "2025-06-12", "text": WISH}
    answer = client.post("/api/wishes/proposals", json=asked)
    assert answer.status_code == 200, answer.text
    first = answer.get_json()["proposals"][0]
    assert first["drawn"]["shapes"]
    made = client.post(
        "/api/wishes/begin",
        json={
            "site_id": 1,
            "text": WISH,
            "name": "From a wish",
            **{key: first["proposal"][key] for key in ("spec", "load")},
        },
    )
    assert made.status_code == 201, made.text
    build = made.get_json()
    assert build["note"].startswith("Melt 1 kg of cappings")
    pile = client.get("/api/sheets/site/1").get_json()
    rows = next(sheet for sheet in pile if sheet["name"] == "pile")["rows"]
    assert [row["content"]["name"] for row in rows] == ["pane"]
    bill = client.get(f"/api/builds/{build['id']}/bill").get_json()
    assert [claim["name"] for claim in bill["kept"]] == ["pane"]


def test_a_wish_for_nothing_is_refused_at_its_field(client, build):
    answer = client.post("/api/wishes/proposals", json={"site_id": 1, "day": "2025-06-12", "text": "knit"})
    assert answer.status_code == 422
    assert answer.get_json()["errors"][0]["field"] == "good"


def test_an_empty_pile_says_so(client, build):
    found = client.post("/api/wishes/could", json={"site_id": 1, "day": "2025-06-12"}).get_json()
    assert found["found"] == []
    assert "Nothing is on the pile" in str(found["words"])
