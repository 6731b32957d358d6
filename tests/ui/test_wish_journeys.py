"""From a sentence, or from what lies about, to a build; and a yard moved to another machine."""

from __future__ import annotations

import re
from pathlib import Path

from playwright.sync_api import Browser, expect

from tests.ui.clocked import clocked_yard
from tests.ui.driver import Driver, patient_context


def test_a_beginner_with_two_panes_and_little_money_gets_a_dryer(working: Driver, axe_source: str):
    page = working.page
    working.open("/sites/1/new")
    wish = page.get_by_label("Your wish")
    wish.fill(
        "dry 3 kg of figs a week in September, I have two panes 60 × 110, up to 80 €, a weekend of work, for my walrus"
    )
    understood = page.get_by_role("status", name="understood")
    expect(understood.get_by_text("3 kg: 3 kg")).to_be_visible()
    expect(understood).to_contain_text("Not understood, and left out: “walrus”")
    working.button("Propose").click()
    offered = page.get_by_role("region", name="proposals")
    expect(offered.get_by_text("Dry 3 kg of fig a week in September", exact=False)).to_be_visible()
    expect(page.get_by_role("progressbar", name="Trying what would do it")).to_have_count(0)
    first = offered.get_by_role("region").first
    expect(first).to_contain_text(re.compile(r"it gets done in \d+ of 100 spells"))
    expect(first).to_contain_text("to buy")
    assert working.axe(axe_source) == []
    first.get_by_role("button", name=re.compile("^Begin with this")).click()
    page.wait_for_url("**/make")
    working.button("Pieces, weight, price and cuts").click()
    working.sees(re.compile("Set aside for it: "))
    with page.expect_download() as sheet:
        page.get_by_role("link", name="all of it on one sheet to build from").click()
    assert "The work, in its order" in Path(sheet.value.path()).read_text(encoding="utf-8")
    working.button("Let go of it").click()
    working.sees("other builds may still take it")


def test_a_wish_is_picked_word_by_word_and_too_much_is_said_to_be(working: Driver):
    page = working.page
    working.open("/sites/1/new")
    page.get_by_text("Or pick the words").press("Enter")
    page.get_by_label("Do", exact=True).select_option("cook")
    page.get_by_label("To what").select_option("tin-loaf")
    page.get_by_label("In", exact=True).select_option("December")
    working.type_into("How much", "6 kg")
    expect(page.get_by_label("Your wish")).to_have_value("cook 6 kg of wheat loaf in a tin in December")
    working.button("Propose").click()
    expect(page.get_by_role("region", name="proposals")).to_contain_text("Cook 6 kg of wheat loaf in a tin in December")
    page.get_by_label("Your wish").fill("cook 90 kg of bread")
    working.button("Propose").click()
    working.sees(re.compile("90 kg of wheat loaf in a tin in one go is more than anything here holds"))


def test_a_sentence_that_says_nothing_is_asked_about(looking: Driver):
    looking.open("/sites/1/new")
    looking.page.get_by_label("Your wish").fill("knit two elephants")
    looking.sees("Say what it is to do")
    expect(looking.button("Propose")).to_be_disabled()


def test_what_lies_about_tells_what_could_be_built(working: Driver, axe_source: str):
    page = working.page
    working.open("/sites/1/shelf")
    row = {"name": "black hose", "sort": "pipe", "of": "black-pe", "count": 1, "long_m": 60.0}
    assert page.request.post(f"{working.url}/api/sheets/site/1/pile", data={"content": row}).status == 201
    page.reload()
    working.button("Try the pile on every build").click()
    allowed = page.get_by_role("region", name="what the pile allows")
    expect(allowed.get_by_text("Wound of all 60 m of hose", exact=False).first).to_be_visible()
    assert working.axe(axe_source) == []
    allowed.get_by_role("button", name=re.compile("A hose wound flat")).click()
    page.wait_for_url("**/make")


def test_a_yard_moves_to_another_machine(browser: Browser, working: Driver, tmp_path: Path):
    page = working.page
    working.open("/sites/1/place")
    with page.expect_download() as taken:
        page.get_by_role("link", name="Take the yard along").click()
    file = tmp_path / "yard.zip"
    taken.value.save_as(file)
    with clocked_yard(tmp_path / "other", empty=True) as (url, _):
        _taken_in(browser, url, file)


def _taken_in(browser: Browser, url: str, file: Path) -> None:
    made = patient_context(browser)
    other = Driver(made.new_page(), url)
    body = {"name": "New place", "latitude_deg": 40.0, "longitude_deg": 2.0, "time_zone": "Europe/Madrid"}
    assert other.page.request.post(f"{url}/api/sites", data=body).status == 201
    other.open("/sites/1/place")
    other.page.get_by_label("yard file").set_input_files(file)
    other.sees(re.compile(r"2 places with 2\d builds"))
    other.button("Take all of it in").click()
    other.sees("All of it came in.")
    expect(other.page.get_by_role("combobox", name="site")).to_contain_text("Larkspur Terrace")
    other.page.get_by_label("yard file").set_input_files(
        {"name": "x.zip", "mimeType": "application/zip", "buffer": b"no zip"}
    )
    other.sees("it is no zip")
    made.close()
