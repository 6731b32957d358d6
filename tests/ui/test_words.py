"""Every view in a language that nobody speaks: nothing stays English, nothing is cut, from the left by day and from the right at dusk."""

from __future__ import annotations

import subprocess
import sys
from collections.abc import Iterator
from functools import partial
from pathlib import Path

import pytest
from playwright.sync_api import Browser, Page, Response, Route, expect

from drylamp.languages import LANGUAGE
from tests.languages.pseudo import pseudo, write_pseudo
from tests.languages.reading import cut, untranslated
from tests.seeded import copy_to
from tests.serving import Server
from tests.ui.driver import AT_REST, at_last, patient_context
from tests.ui.test_pages import MORE_VIEWS, VIEWS

pytestmark = pytest.mark.ui

ROOT = Path(__file__).parents[2]
PHONE, DESK = {"width": 390, "height": 844}, {"width": 1280, "height": 800}


@pytest.fixture(scope="module")
def spoken(tmp_path_factory: pytest.TempPathFactory) -> Iterator[str]:
    """Address of a made-up yard that speaks it."""
    folder = tmp_path_factory.mktemp("spoken")
    write_pseudo(folder / "made.po")
    subprocess.run(
        [sys.executable, str(ROOT / "scripts" / "make_language"), str(folder / "made.po"), str(folder / "el")],
        check=True,
        capture_output=True,
    )
    copy_to(folder / "yard" / "drylamp.sqlite3")
    server = Server(folder / "yard", "demo", **{LANGUAGE: str(folder / "el")})
    try:
        server.wait_until_warm()
        yield server.url
    finally:
        server.end()


def refusals(problems: list[str], answer: Response) -> None:
    if answer.status >= 400:
        problems.append(f"{answer.status} {answer.url}")


def mirrored(route: Route) -> None:
    """The same page as one writes from right to left."""
    answer = route.fetch()
    route.fulfill(response=answer, body=answer.text().replace('<html lang="el">', '<html lang="el" dir="rtl">'))


@pytest.fixture(scope="module")
def page(browser: Browser, spoken: str) -> Iterator[Page]:
    """One browser that goes through all views."""
    context = patient_context(browser, viewport=DESK)
    yield context.new_page()
    context.close()


def open_at(page: Page, address: str) -> None:
    page.goto(address)
    expect(page.get_by_role("slider").first).to_be_visible()
    page.wait_for_load_state("networkidle")
    page.evaluate(AT_REST)


@pytest.mark.parametrize("path", [*VIEWS, *MORE_VIEWS])
def test_a_view_in_another_language(page: Page, spoken: str, path: str):
    problems: list[str] = []
    told = partial(refusals, problems)
    page.on("response", told)
    page.set_viewport_size(DESK)
    open_at(page, spoken + path)
    problems += [f"English: {text}" for text in untranslated(page)]
    problems += [f"cut: {text}" for text in cut(page)]
    page.set_viewport_size(PHONE)
    page.evaluate("document.documentElement.dir = 'rtl'")
    problems += [f"cut, on a phone from the right: {text}" for text in at_last(page, lambda: cut(page))]
    wide = page.evaluate("document.documentElement.scrollWidth")
    problems += [f"{wide} px wide on a phone, from the right"] if wide > PHONE["width"] else []
    page.remove_listener("response", told)
    assert problems == []


@pytest.mark.parametrize("path", ["/sites/1/yard", "/builds/1/make", "/trials/4"])
def test_a_page_begun_from_the_right_is_mirrored(browser: Browser, spoken: str, path: str):
    context = patient_context(browser, viewport=DESK, color_scheme="dark")
    page = context.new_page()
    page.add_init_script("localStorage.setItem('drylamp.dusk', 'true')")
    page.route(f"{spoken}{path}", mirrored)
    open_at(page, spoken + path)
    middle = DESK["width"] / 2
    assert page.locator(".rack").bounding_box()["x"] > middle, "the rack stands at the right"
    label = page.locator(".MuiInputLabel-root").first
    if label.count():
        box, field = label.bounding_box(), label.locator("xpath=..").bounding_box()
        assert box["x"] + box["width"] > field["x"] + field["width"] / 2, "labels begin at the right"
    times = page.locator(".strip svg text").filter(has_text=":00")
    assert times.first.bounding_box()["x"] < times.last.bounding_box()["x"], "time runs to the right all the same"
    context.close()


def test_what_is_refused_and_what_keys_do_is_in_it_too(browser: Browser, spoken: str):
    context = patient_context(browser, viewport={"width": 1280, "height": 800})
    page = context.new_page()
    open_at(page, f"{spoken}/builds/1/make")
    page.keyboard.press("?")
    dialog = page.get_by_role("dialog")
    expect(dialog).to_contain_text(pseudo("quick sums"))
    assert untranslated(page, ("enter", "esc", "page", "home", "end")) == []
    page.keyboard.press("Escape")
    expect(dialog).to_have_count(0)
    page.keyboard.press("=")
    sums = page.locator(".MuiDrawer-paper")
    expect(sums.get_by_role("button", name=pseudo("What warming takes"))).to_be_visible()
    assert untranslated(page) == []
    sums.get_by_role("button", name=pseudo("What warming takes")).click()
    sums.get_by_label(pseudo("power")).fill("600")
    expect(sums.locator("figure circle")).to_be_visible()
    assert untranslated(page, ("optional",)) == []
    page.keyboard.press("Escape")
    answer = page.request.get(f"{spoken}/api/builds/999")
    assert answer.status == 404
    assert "ţ" in answer.text() or "ť" in answer.json()["detail"]
    context.close()
