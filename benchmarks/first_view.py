"""How long a first look takes in Chromium on a warm server over the loopback, as it is and slowed down four-fold: largest paint, longest task."""

from __future__ import annotations

import tempfile
from pathlib import Path

from playwright.sync_api import sync_playwright
from tests.ui.clocked import clocked_yard
from tests.ui.conftest import CHROMIUM, FLAGS

VIEWS = ("/sites/1/yard", "/builds/1/forecast", "/builds/1/make", "/trials/4")
ENTRIES = """
() => new Promise((done) => {
  const out = { paint_ms: 0, task_ms: 0, moved: 0 };
  const watch = (type, take) => new PerformanceObserver((list) => list.getEntries().forEach(take)).observe({ type, buffered: true });
  watch("largest-contentful-paint", (e) => { out.paint_ms = Math.round(e.startTime); });
  watch("longtask", (e) => { out.task_ms = Math.max(out.task_ms, Math.round(e.duration)); });
  watch("layout-shift", (e) => { if (!e.hadRecentInput) out.moved += e.value; });
  setTimeout(() => done(out), 500);
})
"""


def main() -> None:
    """Print a line for each view and pace."""
    with tempfile.TemporaryDirectory() as folder, clocked_yard(Path(folder), pace=0.0) as (url, _), sync_playwright() as play:
        browser = play.chromium.launch(executable_path=CHROMIUM, args=FLAGS)
        for path in VIEWS:
            for slower in (1, 1, 4):  # the first look warms the server
                context = browser.new_context(viewport={"width": 1280, "height": 800}, service_workers="block")
                page = context.new_page()
                context.new_cdp_session(page).send("Emulation.setCPUThrottlingRate", {"rate": slower})
                page.goto(url + path, wait_until="networkidle")
                page.wait_for_timeout(500)
                found = page.evaluate(ENTRIES)
                print(f"{path:24} {slower}x slower: largest paint {found['paint_ms']} ms, longest task {found['task_ms']} ms, moved {found['moved']:.3f}")
                context.close()
        browser.close()


if __name__ == "__main__":
    main()
