"""Bills over the wire: as JSON, as CSV, and as a workbook that another program opens with numbers as numbers."""

from __future__ import annotations

import csv
import io

import openpyxl
import pytest

from drylamp.core.advice.made_of import made_of
from drylamp.demo.scenario import OVEN

WINDOW = {"name": "=kitchen window", "sort": "pane", "of": "window-glass", "count": 3, "long_m": 0.6, "wide_m": 0.6}


@pytest.fixture
def lying(client, build) -> None:
    answer = client.post("/api/sheets/site/1/pile", json={"content": WINDOW})
    assert answer.status_code == 201, answer.text


def test_a_bill_knows_the_pile_of_its_site(client, build, lying):
    found = client.get("/api/builds/1/bill").get_json()["made"]
    own = made_of(OVEN, [])
    assert found["price"] == pytest.approx(own.price)
    panes = next(k for k, piece in enumerate(found["pieces"]) if piece["title"] == "pane")
    assert found["pile"]["taken"][panes]["count"] == min(3, found["pieces"][panes]["count"])
    assert found["pile"]["buy"] < own.price
    assert found["cuts"]["boards"]


def test_the_csv_has_a_row_a_piece_and_runs_nothing(client, build, lying):
    answer = client.get("/api/builds/1/bill.csv")
    assert answer.mimetype == "text/csv"
    rows = list(csv.DictReader(io.StringIO(answer.text)))
    own = made_of(OVEN, [])
    assert len(rows) == len(own.pieces)
    bought = sum(int(row["count"]) * float(row["price_each"]) for row in rows)
    assert bought == pytest.approx(own.price, abs=0.005 * sum(piece.count for piece in own.pieces))
    assert any("'=kitchen window" in row["cut_from"] for row in rows)
    assert not any(row["cut_from"].startswith("=") for row in rows)


def test_the_workbook_opens_with_types(client, build, lying):
    book = openpyxl.load_workbook(io.BytesIO(client.get("/api/builds/1/bill.xlsx").data))
    assert book.sheetnames == ["bill", "cutting", "sums"]
    rows = list(book["bill"].iter_rows(min_row=2, values_only=True))
    assert len(rows) == len(made_of(OVEN, []).pieces)
    assert all(isinstance(row[2], int) and isinstance(row[7], (int, float)) for row in rows)
    cells = [cell for row in book["bill"].iter_rows() for cell in row if isinstance(cell.value, str)]
    assert all(cell.data_type == "s" for cell in cells)
    sums = dict(book["sums"].iter_rows(min_row=2, values_only=True))
    assert sums["new"] == pytest.approx(made_of(OVEN, []).price, abs=0.006)
    laid = list(book["cutting"].iter_rows(min_row=2, values_only=True))
    assert all(row[8] <= row[3] for row in laid)


def test_a_bill_of_no_build_is_not_found(client):
    for form in ("bill", "bill.csv", "bill.xlsx"):
        assert client.get(f"/api/builds/99/{form}").status_code == 404


def test_a_pane_without_a_side_is_refused_and_said(client, build):
    answer = client.post("/api/sheets/site/1/pile", json={"content": {**WINDOW, "wide_m": None}})
    assert answer.status_code == 422
    assert "a flat piece has two" in answer.text
    assert client.get("/api/sheets/site/1").get_json()[0]["rows"] == []


def test_what_one_build_sets_aside_another_does_not_count_on(client, build, lying):
    other = client.post(
        "/api/builds",
        json={
            "site_id": 1,
            "name": "second",
            "spec": OVEN.model_dump(mode="json"),
            "load": None,
            "spot": None,
            "note": "",
        },
    ).get_json()
    kept = client.post("/api/builds/1/set-aside").get_json()
    assert [(claim["name"], claim["count"]) for claim in kept["kept"]] == [
        ("=kitchen window", len(kept["kept"]) and kept["made"]["pile"]["used"][0]["count"])
    ]
    left = 3 - kept["kept"][0]["count"]
    theirs = client.get(f"/api/builds/{other['id']}/bill").get_json()["made"]["pile"]
    assert sum(used["count"] for used in theirs["used"]) <= left
    again = client.post("/api/builds/1/set-aside").get_json()
    assert again["kept"] == kept["kept"], "setting aside twice keeps nothing twice"
    mine = client.get("/api/builds/1").get_json()
    client.post("/api/builds/1/put-away", headers={"If-Match": f'"r{mine["revision"]}"'})
    freed = client.get(f"/api/builds/{other['id']}/bill").get_json()["made"]["pile"]
    assert sum(used["count"] for used in freed["used"]) >= 1, "what was put away keeps nothing"
    assert client.delete("/api/builds/1/set-aside").get_json()["kept"] == []


def test_the_sheet_to_build_from_and_the_drawing(client, build, lying):
    answer = client.get("/api/builds/1/sheet.html")
    assert answer.mimetype == "text/html"
    assert "attachment" in answer.headers["Content-Disposition"]
    assert "Hatbox oven" in answer.text
    assert "from =kitchen window" in answer.text
    assert "Eyes" in answer.text, "its cautions come along"
    drawing = client.get("/api/builds/1/section.svg")
    assert drawing.mimetype == "image/svg+xml"
    assert drawing.text.startswith("<svg")
    assert client.get("/api/builds/9/sheet.html").status_code == 404
