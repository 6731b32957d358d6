"""A view on paper: what it says and draws, black on white, and nothing that only works on a screen."""

from __future__ import annotations

import pytest
from playwright.sync_api import expect

from tests.ui.driver import Driver
from tests.ui.test_pages import VIEWS, settle

pytestmark = pytest.mark.ui

A4_PX = {"width": 688, "height": 1000}
"""The width of A4 within its margins of 14 mm, at 96 px to the inch."""
LEFT = """
() => [...document.querySelectorAll("nav, header, .MuiButton-root:not(.printed), [role=dialog], .undo-place, .notices")]
  .filter((one) => one.getClientRects().length > 0).map((one) => one.outerHTML.slice(0, 100))
"""
FOLDED = """
() => [...document.querySelectorAll("main details:not([open]) > :not(summary)")]
  .filter((one) => !one.checkVisibility({ contentVisibilityAuto: true }) && one.getClientRects().length === 0 && one.textContent.trim()).map((one) => one.textContent.slice(0, 80))
"""


@pytest.mark.parametrize("path", [path for k, path in enumerate(VIEWS) if k % 3 == 0 or "/sites/" in path])
def test_a_view_on_paper(looking: Driver, path: str):
    page = looking.page
    page.add_init_script("localStorage.setItem('drylamp.dusk', 'true')")
    settle(looking, path)
    page.emulate_media(media="print")
    page.set_viewport_size(A4_PX)
    expect(page.locator(".print-head")).to_contain_text("Larkspur Terrace")
    expect(page.locator("body")).to_have_css("background-color", "rgb(255, 255, 255)")
    assert page.evaluate(LEFT) == []
    assert page.evaluate(FOLDED) == []
    ink = page.locator("main").evaluate("(one) => getComputedStyle(one).color")
    assert all(int(part) < 100 for part in ink.strip("rgba()").split(",")[:3]), f"{ink} is no ink for white paper"
    assert page.evaluate("document.documentElement.scrollWidth") <= A4_PX["width"] + 1
