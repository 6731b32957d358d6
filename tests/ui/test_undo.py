"""What was done last, whichever page it was done on, is told and taken back in one place."""

from __future__ import annotations

import pytest
from playwright.sync_api import expect

from tests.ui.driver import Driver

pytestmark = pytest.mark.ui


def sheets(driver: Driver) -> int:
    return driver.page.request.get(f"{driver.url}/api/builds/1").json()["spec"]["cover"]["layers"]


def test_the_last_change_is_told_and_taken_back_from_any_page(working: Driver):
    working.open("/builds/1/make")
    expect(working.undo()).to_have_count(1)  # of an earlier day: what the build would take back of its own past
    before = sheets(working)
    working.button("Sheets: 1").click()
    expect(working.undo()).to_contain_text("Hatbox oven: Sheets: 1")
    working.waits_until(lambda: sheets(working) == 1)
    working.stage("aim")
    working.button("orchard edge").click()
    working.sees("from “orchard edge”")
    expect(working.undo()).not_to_contain_text("Sheets")
    working.page.keyboard.press("u")
    working.sees("from “terrace”")
    working.page.get_by_role("navigation", name="rack").get_by_role("link", name="Yard", exact=True).click()
    working.sees("What the yard can do today")
    expect(working.undo()).to_contain_text("Sheets: 1")
    working.undo().click()
    working.waits_until(lambda: sheets(working) == before)
    expect(working.undo()).to_have_count(0)


def test_a_change_is_taken_back_in_its_own_build_whichever_is_open(working: Driver):
    working.open("/builds/1/make")
    before = sheets(working)
    other = working.page.request.get(f"{working.url}/api/builds/2").json()["revision"]
    working.button("Sheets: 1").click()
    working.waits_until(lambda: sheets(working) == 1)
    working.sees("Last change:")
    lids = working.page.get_by_role("navigation", name="rack").get_by_role("link", name="Tin lids")
    lids.hover()
    working.page.wait_for_load_state("networkidle")
    lids.click()
    expect(working.undo()).to_contain_text("Hatbox oven: Sheets: 1")
    working.stage("make")
    working.sees("As they lie")
    working.sees("Today with this")
    working.page.wait_for_load_state("networkidle")
    expect(working.page.get_by_text("Last change:")).to_have_count(0)
    working.page.keyboard.press("u")
    working.waits_until(lambda: sheets(working) == before)
    assert working.page.request.get(f"{working.url}/api/builds/2").json()["revision"] == other


def test_on_a_phone_it_stands_where_a_thumb_is(working: Driver):
    working.page.set_viewport_size({"width": 390, "height": 844})
    working.open("/trials/4")
    place = working.undo()
    expect(place).to_be_visible()
    box = place.bounding_box()
    assert box["y"] > 760
    assert box["height"] >= 44
    assert box["width"] >= 300
