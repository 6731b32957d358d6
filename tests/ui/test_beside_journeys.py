"""One skin or two over five years, twelve boxes of a class, and a page that opens anywhere."""

from __future__ import annotations

import json
import re
import urllib.request

import pytest
from playwright.sync_api import expect

from tests.ui.driver import Driver

pytestmark = pytest.mark.ui

NAMES = ["Oda", "Pell", "Nim", "Tove", "Rusk", "Ilan", "Bry", "Senne", "Mako", "Wim", "Lune", "Quill"]
FILM_KILN, CARD_BOX = 22, 5


def test_a_sawyer_compares_one_skin_with_two_and_takes_the_better_over(working: Driver, axe_source: str):
    """The film kiln's variant in one skin of polycarbonate: side by side, why, what each costs over five years; it is taken over, and its sheets stand on the bill."""
    page = working.page
    working.open(f"/builds/{FILM_KILN}/make")
    page.get_by_title("its name, copies and history").click()
    working.button("Copy as a variant").click()
    working.sees("branched off")
    expect(page).to_have_url(re.compile(r"/builds/(?!22/)\d+/make"))
    variant = int(re.search(r"/builds/(\d+)/", page.url)[1])
    made = json.load(urllib.request.urlopen(f"{working.url}/api/builds/{variant}", timeout=90))
    films = made["spec"]["cover"]
    pane = {**films, "layers": 1, "material": "polycarbonate", "thickness_m": 0.003, "more": []}
    body = {name: made[name] for name in ("name", "spot", "load")} | {
        "spec": {**made["spec"], "cover": pane},
        "note": "one skin of polycarbonate",
    }
    asked = urllib.request.Request(
        f"{working.url}/api/builds/{variant}",
        json.dumps(body).encode(),
        {"Content-Type": "application/json", "If-Match": f'"r{made["revision"]}"'},
        method="PUT",
    )
    urllib.request.urlopen(asked, timeout=90)

    working.open(f"/sites/1/beside?of=b{FILM_KILN},b{variant}")
    working.sees(re.compile("does best by"))
    table = page.get_by_role("table", name="figures side by side")
    expect(table.get_by_role("row", name=re.compile("^Price, all new"))).to_be_visible()
    expect(table.get_by_role("row", name=re.compile("^Price over 5 years, what wears renewed"))).to_be_visible()
    working.sees("Polycarbonate sheet")
    working.button("The part of each difference").click()
    working.sees(re.compile("By the twin they make"))
    expect(page.get_by_role("table", name="the part of each")).to_be_visible()
    page.wait_for_load_state("networkidle")
    assert working.axe(axe_source) == []
    text = (
        urllib.request.urlopen(
            page.url.split("/sites")[0] + page.get_by_role("link", name="Save as a page").get_attribute("href"),
            timeout=90,
        )
        .read()
        .decode()
    )
    assert "By the twin they make" in text
    assert "<script" not in text

    page.get_by_role("button", name=re.compile(r"^Take Film kiln, variant over into Film kiln$")).click()
    expect(page).to_have_url(re.compile(f"/builds/{FILM_KILN}/make"))
    working.button("Pieces, weight, price and cuts").click()
    bill = page.get_by_role("region", name="what it is made of")
    expect(bill.get_by_text("Polycarbonate sheet").first).to_be_visible()  # what is to be ordered
    working.undo().click()
    expect(bill.get_by_text("Polycarbonate sheet")).to_have_count(0)


def test_a_teacher_prints_twelve_sheets_and_types_twelve_charts(working: Driver, axe_source: str):
    page = working.page
    working.open(f"/builds/{CARD_BOX}/trials")
    working.button("A class with many boxes").click()
    page.get_by_label("Name", exact=True).fill("Class of June")
    page.get_by_label("Whose boxes, a name on each line").fill("\n".join(NAMES))
    working.sees("12 boxes")
    page.get_by_label("Read in each box").select_option(label="air inside")
    working.button("Start the clock").click()
    expect(page).to_have_url(re.compile(r"/trials/\d+"))
    link = page.get_by_role("link", name="Sheets to print").get_attribute("href")
    sheets = urllib.request.urlopen(working.url + link, timeout=90).read().decode()
    assert [name for name in NAMES if f"<h1>{name}</h1>" not in sheets] == []
    assert sheets.count("an empty chart") == 12

    working.unfold("Type a paper chart")
    for row, at in enumerate(("+10", "+25", "+40"), start=1):
        page.get_by_label(f"time of row {row}").fill(at)
        for k, name in enumerate(NAMES):
            page.get_by_label(f"{name} in row {row}").fill(str(50 + 5 * row + (9 if name == "Nim" else 0) - k % 2))
    page.get_by_role("button", name=re.compile("^Keep (these readings|them all the same)$")).click()
    working.sees("36 readings are kept")
    table = page.get_by_role("table", name="ranking of the class")
    expect(table.get_by_role("row")).to_have_count(13)
    expect(table.get_by_role("row").nth(1)).to_contain_text("Nim")
    working.sees(re.compile("Nim ran hottest"))
    expect(page.get_by_role("img", name="all boxes of the class")).to_be_visible()
    page.wait_for_load_state("networkidle")
    assert working.axe(axe_source) == []


def test_a_finding_has_its_photo(working: Driver):
    import io

    from PIL import Image

    page = working.page
    working.open("/builds/23/next")
    book = page.get_by_role("region", name="Upkeep", exact=True)
    book.get_by_role("button", name=re.compile("Upkeep$")).last.click()
    picture = io.BytesIO()
    Image.new("RGB", (60, 40), (120, 90, 60)).save(picture, "JPEG")
    book.get_by_label(re.compile("^a photo for row")).first.set_input_files(
        files=[{"name": "tear.jpg", "mimeType": "image/jpeg", "buffer": picture.getvalue()}]
    )
    working.sees("Photo kept.")
    expect(book.get_by_role("img", name=re.compile("^photo of row"))).to_be_visible()
    book.get_by_role("button", name=re.compile("^take back photo")).click()
    expect(book.get_by_role("img", name=re.compile("^photo of row"))).to_have_count(0)
