"""What a first look costs: so many bytes, and hardly anything jumps. How long it takes is told by `benchmarks/first_view.py`."""

from __future__ import annotations

import gzip

import pytest

from tests.ui.driver import Driver

pytestmark = pytest.mark.ui
MOST_BYTES = 200_000
MOST_SHIFT = 0.02
SHIFTS = """
() => new Promise((done) => {
  let moved = 0;
  new PerformanceObserver((list) => { for (const e of list.getEntries()) if (!e.hadRecentInput) moved += e.value; }).observe({ type: "layout-shift", buffered: true });
  setTimeout(() => done(moved), 400);
})
"""


def test_the_first_view_is_light(looking: Driver):
    sizes: dict[str, int] = {}
    looking.page.on(
        "response",
        lambda r: sizes.update({r.url: len(gzip.compress(r.body()))}) if r.url.endswith((".js", ".css")) else None,
    )
    looking.open("/")
    looking.sees("90 °C at 13:09")
    looking.page.wait_for_load_state("networkidle")
    assert sum(sizes.values()) <= MOST_BYTES, sizes


@pytest.mark.parametrize(
    ("path", "there"),
    [("/sites/1/yard", "90 °C at 13:09"), ("/builds/1/forecast", "Plan of the day"), ("/trials/4", "Readings from a file"), ("/builds/1/make", "Today with this")],
)  # fmt: skip
def test_hardly_anything_jumps(looking: Driver, path: str, there: str):
    looking.open(path)
    looking.sees(there)
    looking.page.wait_for_load_state("networkidle")
    assert looking.page.evaluate(SHIFTS) <= MOST_SHIFT


@pytest.mark.parametrize(
    ("path", "there", "asked"),
    [
        ("/sites/1/yard", "90 °C at 13:09", {"/api/health", "/api/sites/1/yard", "/api/jobs"}),
        ("/builds/1/make", "Today with this", {"/api/health", "/api/materials", "/api/kinds/forms", "/api/trials", "/api/twin", "/api/advice", "/api/jobs", "/api/sites/1/days", "/api/builds/1/"}),
    ],
)  # fmt: skip
def test_what_stands_in_the_page_is_not_asked_for(looking: Driver, path: str, there: str, asked: set[str]):
    """Save what has to be worked out, or is not of the frame."""
    seen: list[str] = []
    looking.page.on("request", lambda r: seen.append(r.url.removeprefix(looking.url)) if "/api/" in r.url else None)
    looking.open(path)
    looking.sees(there)
    assert [one for one in seen if not any(one.startswith(known) for known in asked)] == []


def test_a_view_is_fetched_when_a_pointer_comes_near_its_link(looking: Driver):
    looking.open("/sites/1/yard")
    looking.sees("90 °C at 13:09")
    looking.page.wait_for_load_state("networkidle")
    with looking.page.expect_request("**/api/builds/17"):
        looking.page.get_by_role("navigation", name="rack").get_by_role("link", name="Fig dryer").hover()
