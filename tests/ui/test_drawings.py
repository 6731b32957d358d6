"""Every specimen's drawing at three widths: no word is cut off, none covers another; grips answer to keys; the lamp is drawn along smoothly."""

from __future__ import annotations

import itertools

import pytest
from playwright.sync_api import expect

from tests.ui.driver import Driver

pytestmark = pytest.mark.ui
DRAWN = """
() => {
  const sheet = document.querySelector("svg.section").getBoundingClientRect();
  const words = [...document.querySelectorAll("svg.section [data-label]")].map((g) => {
    const b = g.querySelector("text").getBoundingClientRect();
    return { said: g.dataset.label, left: b.left - sheet.left, right: b.right - sheet.left, top: b.top - sheet.top, low: b.bottom - sheet.top };
  });
  return { words, wide: sheet.width, high: sheet.height, arrows: document.querySelectorAll("svg.section .flow").length };
}
"""
FRAMES = """
async () => {
  const slider = document.querySelector("[role=slider][aria-label^=lamp]");
  const box = slider.getBoundingClientRect();
  const at = (type, x) => slider.dispatchEvent(new PointerEvent(type, { bubbles: true, clientX: x, clientY: box.top + 30, pointerId: 1, isPrimary: true }));
  slider.setPointerCapture = () => undefined;
  const frames = [];
  let before = performance.now();
  at("pointerdown", box.left + 200);
  for (let k = 0; k < 60; k++) {
    at("pointermove", box.left + 200 + 8 * k);
    await new Promise((done) => requestAnimationFrame(done));
    frames.push(performance.now() - before);
    before = performance.now();
  }
  at("pointerup", box.left + 680);
  return frames;
}
"""
BUILDS = [1, 2, 3, 5, 6, 7, 8, 9, 10, 11, 12, 13, 14, 15, 16, 17, 18, 19, 20, 21, 22, 23]


def apart(a: dict, b: dict) -> bool:
    return a["right"] <= b["left"] or b["right"] <= a["left"] or a["low"] <= b["top"] or b["low"] <= a["top"]


@pytest.mark.parametrize("build", BUILDS)
def test_words_on_a_drawing_are_whole_and_apart(looking: Driver, build: int):
    looking.open(f"/builds/{build}/make")
    looking.sees("Today with this")
    for wide in (1280, 768, 390):
        looking.page.set_viewport_size({"width": wide, "height": 844})
        looking.page.wait_for_timeout(150)
        found = looking.page.evaluate(DRAWN)
        assert found["words"] or found["arrows"] == 0
        for word in found["words"]:
            assert word["left"] >= 0, (wide, word)
            assert word["top"] >= 0, (wide, word)
            assert word["right"] <= found["wide"] + 0.5, (wide, word)
            assert word["low"] <= found["high"] + 0.5, (wide, word)
        for a, b in itertools.combinations(found["words"], 2):
            assert apart(a, b), (wide, a["said"], b["said"])
        assert len(found["words"]) >= found["arrows"], "every arrow says what it carries"


def test_a_grip_turns_by_key(working: Driver):
    working.open("/builds/1/make")
    working.sees("Today with this")
    grip = working.page.get_by_role("slider", name="tilt of the opening")
    before = int(grip.get_attribute("aria-valuenow"))
    grip.focus()
    for _ in range(3):  # quicker than it is drawn
        grip.press("ArrowUp")
    working.waits_until_headline("aim", f"S, {before + 3}° steep")
    working.page.get_by_role("slider", name="tilt of the opening").press("PageUp")
    working.waits_until_headline("aim", f"S, {before + 13}° steep")


def test_parts_are_reached_by_the_arrows_and_opened_by_enter(looking: Driver):
    looking.open("/builds/1/make")
    looking.sees("Today with this")
    parts = looking.page.locator("svg.section [data-part][tabindex]")
    assert looking.page.locator("svg.section [data-part][tabindex='0']").count() == 1, "one stop for Tab"
    parts.nth(0).focus()
    seen = set()
    for _ in range(parts.count()):
        looking.page.keyboard.press("ArrowRight")
        seen.add(looking.page.evaluate("document.activeElement.dataset.part"))
    assert len(seen) == parts.count()
    looking.page.locator("svg.section [data-part='tray'][tabindex]").focus()
    looking.page.keyboard.press("Enter")
    expect(looking.page.get_by_role("group", name="parts").get_by_role("button", name="Tray")).to_have_attribute(
        "aria-pressed", "true"
    )


def test_the_lamp_is_drawn_along_by_light_that_is_at_hand(looking: Driver):
    """Sixty places of the hand, and hardly a question: the light of all of them is there."""
    came: list[str] = []
    looking.page.on("requestfinished", lambda r: came.append(r.url) if r.url.endswith("/section-day") else None)
    looking.open("/builds/1/make")
    looking.waits_until(lambda: came != [])
    looking.page.wait_for_timeout(300)
    asked: list[str] = []
    looking.page.on("request", lambda r: asked.append(r.url) if "/api/twin/" in r.url else None)
    first = looking.page.locator("svg.section > path").first.get_attribute("d")
    frames = looking.page.evaluate(FRAMES)
    assert len(asked) < len(frames) / 4, "only where the hand rests, as it may on a slow machine, is more asked"
    assert looking.page.locator("svg.section > path").first.get_attribute("d") != first
    print(f"{1000 / sorted(frames)[len(frames) // 2]:.0f} frames a second")


def test_what_is_painted_stays_so_at_dusk(looking: Driver):
    looking.open("/builds/3/make")
    looking.sees("Today with this")
    fills = "() => [...document.querySelectorAll('svg.section [data-part^=sample] > path')].map((p) => getComputedStyle(p).fill)"
    by_day = looking.page.evaluate(fills)
    looking.button("Dusk").click()
    looking.button("Daylight").wait_for()
    assert looking.page.evaluate(fills) == by_day
    assert len(set(by_day)) >= 3
