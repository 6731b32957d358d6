"""The real interface in headless Chromium, on the demo yard; any console error fails the test."""

from __future__ import annotations

from collections.abc import Iterator
from pathlib import Path

import pytest
from playwright.sync_api import Browser, Page

from tests.ui.chromium import CHROMIUM, FLAGS
from tests.ui.clocked import clocked_yard
from tests.ui.driver import Driver, patient_context

NO_WORKER = "Service Worker registration blocked by Playwright"
"""A test that is not about the worker has none: it would fetch the whole program anew each time."""


@pytest.fixture(scope="session")
def browser_type_launch_args(browser_type_launch_args: dict) -> dict:
    return {**browser_type_launch_args, "executable_path": CHROMIUM, "args": FLAGS}


@pytest.fixture(scope="session")
def shared_yard(tmp_path_factory: pytest.TempPathFactory) -> Iterator[str]:
    """Address of one demo yard for tests that only look; its clock stands, so a slow machine sees the same noon."""
    with clocked_yard(tmp_path_factory.mktemp("demo"), pace=0.0) as (url, _):
        yield url


@pytest.fixture(scope="module")
def own_yard(tmp_path_factory: pytest.TempPathFactory) -> Iterator[str]:
    """Address of a demo yard of the module's own, for tests that change things."""
    with clocked_yard(tmp_path_factory.mktemp("own")) as (url, _):
        yield url


def drive(browser: Browser, url: str, expected_errors: bool = False, **context: object) -> Iterator[Driver]:
    made = patient_context(browser, viewport={"width": 1280, "height": 800}, **context)
    page: Page = made.new_page()
    problems: list[str] = []
    refused_by: list[str] = []
    page.on(
        "console",
        lambda m: (
            problems.append(f"{m.type}: {m.text}")
            if m.type in ("error", "warning") and NO_WORKER not in m.text
            else None
        ),
    )
    page.on(
        "response",
        lambda r: (
            refused_by.append(f"{r.status} {r.request.method} {r.url}: {r.text()[:300]}")
            if 400 <= r.status < 500
            else None
        ),
    )
    page.on("pageerror", lambda e: problems.append(f"uncaught: {e}"))
    page.on(
        "requestfailed",
        lambda r: problems.append(f"failed: {r.url} {r.failure}") if "ABORTED" not in (r.failure or "") else None,
    )
    page.on("request", lambda r: problems.append(f"outside: {r.url}") if not r.url.startswith((url, "data:")) else None)
    yield Driver(page, url)
    refused = [p for p in problems if "the server responded with a status of 4" in p]
    made.close()
    assert [p for p in problems if p not in refused] == []
    assert expected_errors or refused == [], refused_by


@pytest.fixture
def looking(browser: Browser, shared_yard: str) -> Iterator[Driver]:
    yield from drive(browser, shared_yard)


@pytest.fixture
def working(browser: Browser, own_yard: str) -> Iterator[Driver]:
    yield from drive(browser, own_yard)


@pytest.fixture
def refused(browser: Browser, own_yard: str) -> Iterator[Driver]:
    """For tests that type what the server will refuse: its 4xx answers are expected."""
    yield from drive(browser, own_yard, expected_errors=True)


@pytest.fixture(scope="session")
def axe_source() -> str:
    path = Path(__file__).parents[2] / "frontend" / "node_modules" / "axe-core" / "axe.min.js"
    return path.read_text(encoding="utf-8")
