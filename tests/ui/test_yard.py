"""The yard at a glance: what to do first, low lanes, words that never collide."""

import itertools
import re

import pytest
from playwright.sync_api import expect

from tests.ui.driver import Driver

pytestmark = pytest.mark.ui

BOXES = """
() => [...document.querySelectorAll(".lane")].map((lane) => ({
  high: lane.getBoundingClientRect().height,
  said: [...lane.querySelectorAll("svg text")].map((t) => { const b = t.getBoundingClientRect(); return [b.left, b.right]; }),
  wide: document.documentElement.clientWidth,
  clauses: [...lane.querySelectorAll(".lane-said > span")].map((one) => {
    const [line, box] = [one.parentElement.getBoundingClientRect(), one.getBoundingClientRect()];
    return { shown: box.top < line.bottom - 2, whole: one.scrollWidth <= one.clientWidth + 1 && box.right <= line.right + 1 };
  }),
}))
"""


@pytest.mark.parametrize("wide", [1280, 768, 390])
def test_lanes_are_low_and_their_words_apart(looking: Driver, wide: int):
    looking.page.set_viewport_size({"width": wide, "height": 800})
    looking.open("/sites/1/yard")
    looking.sees("90 °C at 13:09")
    expect(looking.page.get_by_text("✓").first).to_be_attached()
    lanes = looking.page.evaluate(BOXES)
    assert len(lanes) > 20
    for lane in lanes:
        assert lane["high"] <= 56
        words = sorted(lane["said"])
        assert all(left >= 0 and right <= lane["wide"] for left, right in words)
        assert all(before[1] < after[0] for before, after in itertools.pairwise(words))
        first, *more = lane["clauses"]
        assert first["shown"]
        assert all(clause["whole"] for clause in more if clause["shown"]), "a clause is told whole or not at all"
    assert looking.page.evaluate("document.documentElement.scrollWidth <= document.documentElement.clientWidth")


def test_what_to_do_next_stands_above_all_else_and_the_arrows_read_a_lane(looking: Driver):
    looking.open("/sites/1/yard")
    first = looking.page.get_by_role("region", name="next things to do").bounding_box()
    lane = looking.page.get_by_role("article", name="Hatbox oven")
    assert first["y"] + first["height"] <= lane.bounding_box()["y"]
    marks = lane.get_by_role("group", name="what to do with Hatbox oven")
    marks.get_by_role("button").first.focus()
    expect(
        lane.get_by_text("10:00 open the mirror and let the empty box warm", exact=True).filter(visible=True).first
    ).to_be_visible()
    looking.page.keyboard.press("ArrowRight")
    expect(lane.locator(".lane-shown")).to_have_text(re.compile("put the chickpea stew in"))
    tabs = marks.get_by_role("button").evaluate_all("all => all.filter((b) => b.tabIndex === 0).length")
    assert tabs == 1, "one stop for Tab in each lane"


def test_what_stays_over_days_says_where_it_stands(looking: Driver):
    looking.open("/sites/1/yard")
    expect(looking.page.get_by_role("article", name="Fig dryer").locator(".lane-days")).to_have_text(
        re.compile(r"Thu 89 % water.*dry ✓")
    )
    expect(looking.page.get_by_role("article", name="Chestnut kiln")).to_have_text(re.compile("Day 52"))
