"""Every page read aloud in both settings of units: one unit for each quantity, none missing, never minus nothing."""

from __future__ import annotations

import re

import pytest
from playwright.sync_api import Page, expect

from tests.ui.driver import Driver
from tests.ui.test_views import VIEWS

pytestmark = pytest.mark.ui

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
MORE_VIEWS = (
    "/builds/3/forecast", "/builds/4/make", "/builds/4/verdict", "/builds/7/forecast", "/builds/7/aim", "/builds/8/aim", "/builds/8/next",
)  # fmt: skip


def read_aloud(page: Page) -> list[str]:
    text = page.evaluate(ALL_TEXT)
    return [line for line in (QUOTED.sub("", line).strip() for line in text.splitlines()) if line]


def settle(driver: Driver, path: str) -> None:
    driver.open(path)
    if path in VIEWS:
        driver.sees(VIEWS[path])
    driver.page.wait_for_load_state("networkidle")
    driver.page.evaluate("document.querySelectorAll('details').forEach((folded) => { folded.open = true; })")


def choose(driver: Driver, preset: str) -> None:
    driver.button("Units").click()
    driver.button(preset, exact=True).click()
    driver.page.keyboard.press("Escape")
    expect(driver.page.get_by_role("dialog")).to_be_hidden()


def test_every_page_in_one_system(looking: Driver):
    found = []
    for path in [*VIEWS, *MORE_VIEWS]:
        settle(looking, path)
        for preset, foreign in FOREIGN.items():
            choose(looking, preset)
            lines = read_aloud(looking.page)
            assert len(lines) > 20, path
            for pattern in (foreign, BROKEN, UNSAID):
                found += [f"{preset}, {path}: {line[:160]}" for line in lines if pattern.search(line)]
    assert not found, "\n".join(sorted(set(found)))


def test_one_unit_may_be_set_apart(looking: Driver):
    looking.open("/builds/1/make")
    looking.button("Units").click()
    looking.page.get_by_label("mass").select_option("lb")
    looking.page.keyboard.press("Escape")
    looking.part("What goes in")
    assert looking.page.get_by_label("How much", exact=True).input_value() == "3.9683"
    looking.type_into("Goes in at", "22")
    looking.sees("mm")
