"""Every view in a language that nobody speaks: nothing stays English, nothing is cut, from the left by day and from the right at dusk."""

from __future__ import annotations

import os
import subprocess
import sys
from collections.abc import Iterator
from functools import partial
from pathlib import Path

import pytest
from playwright.sync_api import Browser, Response, Route, expect

from drylamp.languages import LANGUAGE
from tests.languages.pseudo import pseudo, write_pseudo
from tests.languages.reading import cut, untranslated
from tests.seeded import copy_to
from tests.serving import Server
from tests.ui.driver import patient_context
from tests.ui.test_pages import AT_REST, MORE_VIEWS, VIEWS

pytestmark = pytest.mark.ui

ROOT = Path(__file__).parents[2]
STILL_ENGLISH = ("left", "right", "warm", "mirror", "clear", "summer", "cappings", "water", "gust")
"""Names that code goes by and that a few places still show as they are; each is a word of the catalogue already."""
PHONE, DESK = (390, 844), (1280, 800)


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
    before = os.environ.get(LANGUAGE)
    os.environ[LANGUAGE] = str(folder / "el")
    try:
        server = Server(folder / "yard", "demo")
    finally:
        os.environ.pop(LANGUAGE) if before is None else os.environ.update({LANGUAGE: before})
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


@pytest.mark.parametrize("path", [*VIEWS, *MORE_VIEWS])
def test_a_view_in_another_language(browser: Browser, spoken: str, path: str):
    problems: list[str] = []
    for (width, height), way in ((DESK, "ltr"), (PHONE, "rtl")):
        context = patient_context(browser, viewport={"width": width, "height": height})
        page = context.new_page()
        page.on("response", partial(refusals, problems))
        if way == "rtl":
            page.add_init_script("localStorage.setItem('drylamp.dusk', 'true')")
            page.route(f"{spoken}{path}", mirrored)
        page.goto(spoken + path)
        expect(page.get_by_role("slider").first).to_be_visible()
        page.wait_for_load_state("networkidle")
        page.evaluate(AT_REST)
        problems += [f"English, {way}: {text}" for text in untranslated(page, STILL_ENGLISH)]
        problems += [f"cut, {way}: {text}" for text in cut(page)]
        wide = page.evaluate("document.documentElement.scrollWidth")
        if wide > width:
            problems.append(f"{wide} px wide, {way}")
        context.close()
    assert problems == []


def test_what_is_refused_and_what_keys_do_is_in_it_too(browser: Browser, spoken: str):
    context = patient_context(browser, viewport={"width": 1280, "height": 800})
    page = context.new_page()
    page.goto(f"{spoken}/builds/1/make")
    expect(page.get_by_role("slider").first).to_be_visible()
    page.keyboard.press("?")
    dialog = page.get_by_role("dialog")
    expect(dialog).to_contain_text(pseudo("quick sums"))
    assert untranslated(page, (*STILL_ENGLISH, "enter", "esc", "page", "home", "end")) == []
    page.keyboard.press("Escape")
    answer = page.request.get(f"{spoken}/api/builds/999")
    assert answer.status == 404
    assert "ţ" in answer.text() or "ť" in answer.json()["detail"]
    context.close()
