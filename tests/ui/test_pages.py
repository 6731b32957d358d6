"""Every page, opened once: no console error, axe by day and at dusk, and read aloud in both settings of units:
one unit for each quantity, none missing, never minus nothing."""

from __future__ import annotations

import re

import pytest
from playwright.sync_api import Page, expect

from tests.ui.driver import AT_REST, Driver

pytestmark = pytest.mark.ui

VIEWS = {
    "/sites/1/yard": "What the yard can do today",
    "/sites/1/new": "What do you want to build?",
    "/sites/1/place": "Usual days by month",
    "/sites/1/shelf": "Flat black stove paint",
    "/sites/1/beside?of=b1,b5": "does best by",
    "/builds/1/aim": "Schools of tilt",
    "/builds/1/make": "Today with this",
    "/builds/1/forecast": "Plan of the day",
    "/builds/1/trials": "Trials of Hatbox oven",
    "/builds/1/verdict?trial=1": "How sure",
    "/trials/4": "Readings from a file",
    "/builds/1/next": "Sayings, put to the twin",
    "/builds/5/make": "The bright patch",
    "/builds/5/aim": "What turning is worth",
    "/builds/6/make": "Flare, wall from axis",
    "/builds/6/forecast": "Plan the meal",
    "/builds/6/aim": "never turning it costs",
    "/builds/7/make": "Focal length",
    "/builds/7/next": "Which mirror sheet?",
    "/builds/8/make": "Mirror lid",
    "/builds/8/forecast": "Melt today",
    "/builds/8/verdict": "Clean wax",
    "/builds/9/make": "On the water",
    "/builds/9/aim": "What turning is worth",
    "/builds/9/forecast": "short showers",
    "/builds/9/verdict?trial=8": "Night loss",
    "/builds/9/verdict?trial=11": "Heat at the tap",
    "/builds/11/verdict": "Carried off by the water",
    "/builds/10/make": "Dark sheet",
    "/builds/10/forecast": "How much flow?",
    "/builds/10/next": "What goes over the hose?",
    "/builds/2/make": "As they lie",
    "/builds/2/forecast": "Samples only want reading",
    "/builds/2/trials": "Trials of Tin lids",
    "/builds/2/verdict": "rounds counted",
    "/builds/3/make": "As they lie",
    "/builds/3/verdict": "Scaled to a wall",
    "/trials/5": "Ended",
    "/sites/1/stacks": "3 stacks waiting",
    "/builds/23/verdict": "Broken",
    "/builds/23/next": "What to mend first",
}
"""Main views, each with words that are there once it has what it asked for."""
MORE_VIEWS = (
    "/builds/3/forecast", "/builds/4/make", "/builds/4/verdict", "/builds/7/forecast", "/builds/7/aim", "/builds/8/aim", "/builds/8/next",
)  # fmt: skip
"""More of what stands on the same views, read aloud only."""

NUMBER = r"(?<![\w.])[−-]?\d[\d.,]*(?: ± \d[\d.]*)? ?"
OF_METRIC = r"(?:°C|K|mm|cm|m|kg|g|W|m/s|W/m²|kWh|kWh/m²|m²|cm²|L|kg/h|kg/m²|kg/m³|W/m·K|J/kg·K|€)"
OF_INCHES = r"(?:°F|in|ft|lb|oz|BTU|BTU/h|mph|gal|ft²|in²|lb/h|lb/ft²|lb/ft³|\$)"
FOREIGN = {
    "metric": re.compile(rf"{NUMBER}{OF_INCHES}(?![\w/·²³])"),
    "inch-pound": re.compile(rf"{NUMBER}{OF_METRIC}(?![\w/·²³])"),
}
BROKEN = re.compile(r"(?<![\d.,])[−-]0(?![.,]?\d)|undefined|NaN|\[object|⦃|\bnull\b|Infinity")
UNSAID = re.compile(r"(\d+ ?°[CF])[^.]*\bnot\b[^.]*\1")
QUOTED = re.compile(r"Source: [^\n]*|“[^”]*”|\b(?:ASAE|ASABE|ASTM)[^\n.]*")
"""Where a number came from is quoted as it was written, and so are names."""

ALL_TEXT = """
() => {
  const out = [document.body.innerText];
  for (const e of document.querySelectorAll("[aria-label], [title]"))
    out.push(e.getAttribute("aria-label") ?? "", e.getAttribute("title") ?? "");
  for (const e of document.querySelectorAll("svg text, svg title, option, .MuiInputAdornment-root")) out.push(e.textContent ?? "");
  for (const e of document.querySelectorAll("input:not([type=file]):not([type=checkbox])")) {
    const unit = e.parentElement?.querySelector(".MuiInputAdornment-root")?.textContent ?? "";
    if (unit) out.push(`${e.value} ${unit}`);
  }
  return out.join("\\n");
}
"""


def read_aloud(page: Page) -> list[str]:
    text = page.evaluate(ALL_TEXT)
    return [line for line in (QUOTED.sub("", line).strip() for line in text.splitlines()) if line]


def settle(driver: Driver, path: str) -> None:
    driver.open(path)
    if path in VIEWS:
        driver.sees(VIEWS[path])
    driver.page.wait_for_load_state("networkidle")


def unfold_all(page: Page) -> None:
    page.evaluate("document.querySelectorAll('details').forEach((folded) => { folded.open = true; })")


def choose(driver: Driver, preset: str) -> None:
    driver.button("Units").click()
    driver.button(preset, exact=True).click()
    driver.page.keyboard.press("Escape")
    expect(driver.page.get_by_role("dialog")).to_be_hidden()


STOPS = """
() => {
  const seen = (one) => one.checkVisibility({ visibilityProperty: true }) && one.getClientRects().length > 0;
  const all = [...document.querySelectorAll("a[href], button, input:not([type=hidden]), select, textarea, summary, [tabindex]")];
  const stops = all.filter((one) => one.tabIndex >= 0 && !one.disabled && seen(one) && !one.closest("[inert], [hidden]"));
  window.__left = new Set(stops);
  window.__unmarked = [];
  document.addEventListener("focusin", ({ target }) => {
    window.__left.delete(target);
    const about = target.closest(".MuiInputBase-root") ?? target;
    const marked = [target, about].some((one) => getComputedStyle(one).outlineStyle !== "none" || one.matches(".Mui-focused"));
    if (!marked) window.__unmarked.push(target.outerHTML.slice(0, 120));
  });
  return stops.length;
}
"""
PARTS_OF_A_DATE = 8
"""A field for a day or an hour is several stops of its own."""


def out_of_reach(driver: Driver) -> list[str]:
    """What Tab does not come to, and what it comes to without a mark that can be seen."""
    page = driver.page
    page.evaluate("document.activeElement?.blur()")
    presses = page.evaluate(STOPS) + PARTS_OF_A_DATE
    for _ in range(3):  # a date's own stops and regions that scroll come on top
        for _ in range(presses):
            page.keyboard.down("Tab")  # held, as one does who goes far
        page.keyboard.up("Tab")
        if page.evaluate("window.__left.size") == 0:
            break
        presses = PARTS_OF_A_DATE
    left = page.evaluate(
        "[...window.__left].filter((one) => one.isConnected).map((one) => one.outerHTML.slice(0, 120))"
    )
    return [f"out of reach: {one}" for one in left] + [f"no mark: {one}" for one in page.evaluate("window.__unmarked")]


def misread(driver: Driver) -> list[str]:
    """What is wrong with the page's words and numbers in either setting of units; a page begins in the first."""
    found = []
    for k, (preset, foreign) in enumerate(FOREIGN.items()):
        if k > 0:
            choose(driver, preset)
        lines = read_aloud(driver.page)
        assert len(lines) > 20
        for pattern in (foreign, BROKEN, UNSAID):
            found += [f"{preset}: {line[:160]}" for line in lines if pattern.search(line)]
    return sorted(set(found))


@pytest.mark.parametrize("path", VIEWS)
def test_a_page(looking: Driver, axe_source: str, path: str):
    settle(looking, path)
    by_day = [*looking.axe(axe_source), *out_of_reach(looking)]
    looking.button("Dusk").click()
    expect(looking.button("Daylight")).to_be_visible()
    looking.page.evaluate(AT_REST)
    at_dusk = looking.axe(axe_source, colours_only=True)
    unfold_all(looking.page)
    assert (by_day, at_dusk, misread(looking)) == ([], [], [])


@pytest.mark.parametrize("path", MORE_VIEWS)
def test_a_page_read_aloud(looking: Driver, path: str):
    settle(looking, path)
    unfold_all(looking.page)
    assert misread(looking) == []
