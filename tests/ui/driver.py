"""A driver that speaks a person's actions."""

from __future__ import annotations

import os
import re
import time
from collections.abc import Callable
from typing import TypeVar

from playwright.sync_api import Browser, BrowserContext, Locator, Page, Route, expect

PATIENCE_S = float(os.environ.get("DRYLAMP_PATIENCE_S", "180"))
"""So long an expectation waits: a machine may be four times slower than the one that a test was written on."""
TRY_AGAIN_S = 8.0
"""So long a drag has to show before the hand tries again."""
expect.set_options(timeout=1000 * PATIENCE_S)
Seen = TypeVar("Seen")


def patient_context(browser: Browser, **context: object) -> BrowserContext:
    """A new context of the browser whose every action waits as long as an expectation does."""
    made = browser.new_context(**{"service_workers": "block", "reduced_motion": "reduce", **context})
    made.set_default_timeout(1000 * PATIENCE_S)
    return made


AT_REST = """
() => Promise.race([
  new Promise((drawn) => requestAnimationFrame(() => requestAnimationFrame(drawn))).then(() => Promise.allSettled(document.getAnimations().filter((one) => one.effect.getComputedTiming().iterations !== Infinity).map((one) => one.finished))),
  new Promise((done) => setTimeout(done, 2000)),
]).then(() => true)
"""
MOST_LOOKS, LOOK_AGAIN_MS = 100, 150


def at_last(page: Page, look: Callable[[], Seen]) -> Seen:
    """What a look finds once nothing moves or fades any more, however slow the machine: two in a row are alike."""
    found = look()
    for _ in range(MOST_LOOKS):
        page.evaluate(AT_REST)
        page.wait_for_timeout(LOOK_AGAIN_MS)
        before, found = found, look()
        if found == before:
            return found
    raise AssertionError("the page never comes to rest")


class HeldBack:
    """What a page asks of an address, without an answer until it is let go."""

    def __init__(self, page: Page, address: str) -> None:
        self.asked: list[Route] = []
        self._holds = True
        page.route(address, self._meets)

    def _meets(self, route: Route) -> None:
        if self._holds:
            self.asked.append(route)
        else:
            route.fallback()

    def let_go(self) -> None:
        self._holds = False
        for route in self.asked:
            route.fallback()


class Driver:
    """One person at one screen."""

    def __init__(self, page: Page, url: str) -> None:
        self.page, self.url = page, url

    def open(self, path: str) -> None:
        self.page.goto(self.url + path)
        expect(self.page.get_by_role("slider", name="lamp")).to_be_visible()

    def stage(self, name: str) -> None:
        self.page.get_by_role("navigation", name="stages").get_by_role("link", name=re.compile(f"^{name}")).click()

    def part(self, title: str | re.Pattern[str]) -> None:
        self.page.get_by_role("group", name="parts").get_by_role("button", name=title).click()

    def type_into(self, label: str, text: str) -> None:
        field = self.page.get_by_label(label, exact=True)
        field.fill(text)
        field.press("Enter")

    def begin_with(self, title: str) -> None:
        """Take one of the doors to a new build."""
        self.page.get_by_role("region", name=title, exact=True).get_by_role("button", name="Begin with this").click()

    def button(self, name: str, exact: bool = False) -> Locator:
        return self.page.get_by_role("button", name=name, exact=exact)

    def undo(self) -> Locator:
        """What says what was done last, and takes it back."""
        return self.page.get_by_role("complementary", name="undo").get_by_role("button")

    def unfold(self, words: str) -> None:
        """Open a fold by its key, not by a place on a page that may still be moving."""
        fold = self.page.locator("summary").filter(has_text=words).first
        fold.press("Enter")
        expect(self.page.locator("details[open]").filter(has_text=words).first).to_be_visible()

    def unfold_cautions(self) -> None:
        """Open all that is to be minded; what stops stands open."""
        group = self.page.get_by_role("group", name="cautions")
        group.first.wait_for()
        for fold in group.locator("summary").all():
            fold.press("Enter")

    def drags(self, grip: Locator, right: float, down: float, moved: Callable[[], bool]) -> None:
        """Take a grip by its middle and let it go so many pixels off; again if the page moved under the hand, as a person would."""
        end = time.monotonic() + PATIENCE_S
        while True:
            grip.hover()  # waits until it stands still and can be reached
            box = grip.bounding_box()
            assert box is not None
            x, y = box["x"] + box["width"] / 2, box["y"] + box["height"] / 2
            self.page.mouse.move(x, y)
            self.page.mouse.down()
            self.page.mouse.move(x + right, y + down, steps=6)
            self.page.mouse.up()
            tried = time.monotonic()
            while time.monotonic() - tried < TRY_AGAIN_S:
                if moved():
                    return
                self.page.wait_for_timeout(100)
            assert time.monotonic() < end, "dragged in vain"

    def sees(self, text: str | re.Pattern[str]) -> None:
        """Only what can be seen counts: a chart's titles carry the same words, hidden, and may come first in the page."""
        expect(self.page.get_by_text(text).filter(visible=True).first).to_be_visible()

    def headline(self, station: str) -> str:
        """What a station of the path says now."""
        link = self.page.get_by_role("navigation", name="stages").get_by_role("link", name=re.compile(f"^{station}"))
        return link.inner_text().split("\n")[-1]

    def waits_until_headline(self, station: str, pattern: str) -> None:
        link = self.page.get_by_role("navigation", name="stages").get_by_role("link", name=re.compile(f"^{station}"))
        expect(link).to_have_text(re.compile(pattern))

    def waits_until_headline_changes(self, station: str, before: str) -> None:
        link = self.page.get_by_role("navigation", name="stages").get_by_role("link", name=re.compile(f"^{station}"))
        expect(link).not_to_have_text(re.compile(re.escape(before)))

    def waits_until(self, holds: Callable[[], bool]) -> None:
        """Wait for what no element shows; the page itself may not be asked to wait, its policy lets no text become code."""
        end = time.monotonic() + PATIENCE_S
        while not holds():
            assert time.monotonic() < end, "waited in vain"
            self.page.wait_for_timeout(200)

    def axe(self, source: str, colours_only: bool = False) -> list[str]:
        """Accessibility faults of the page as it stands; only those of its colours where nothing else has changed."""
        if not self.page.evaluate("'axe' in window"):
            self.page.evaluate(source)
        # Text at 7:1, not only at 4.5:1: it is read in the sun.
        only = "runOnly: { type: 'tag', values: ['cat.color'] }, " if colours_only else ""
        found = self.page.evaluate(
            f"axe.run(document, {{ resultTypes: ['violations'], {only}rules: {{ 'color-contrast-enhanced': {{ enabled: true }} }} }})"
        )
        return [f"{v['id']}: {v['nodes'][0]['html'][:160]}" for v in found["violations"]]
