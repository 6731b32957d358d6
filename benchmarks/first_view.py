"""How long a first look takes in Chromium on a warm server over the loopback, as it is and slowed down four-fold: largest paint, longest task."""

from __future__ import annotations

import tempfile
from pathlib import Path

from playwright.sync_api import sync_playwright
from tests.ui.chromium import CHROMIUM, FLAGS
from tests.ui.clocked import clocked_yard

MOST = {"paint_ms": (1, 1200), "task_ms": (4, 200), "moved": (1, 0.02)}
"""Wanted: at most so much, at that pace; of a server that is warm."""
LOOKS = (1, 1, 1, 4, 4)
"""Paces of the looks at each view; the first warms the server and does not count."""
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
    with (
        tempfile.TemporaryDirectory() as folder,
        clocked_yard(Path(folder), pace=0.0) as (url, _),
        sync_playwright() as play,
    ):
        browser = play.chromium.launch(executable_path=CHROMIUM, args=FLAGS)
        over: list[tuple[str, int, str, float]] = []
        for path in VIEWS:
            for look, slower in enumerate(LOOKS):
                context = browser.new_context(viewport={"width": 1280, "height": 800}, service_workers="block")
                page = context.new_page()
                context.new_cdp_session(page).send("Emulation.setCPUThrottlingRate", {"rate": slower})
                page.goto(url + path, wait_until="networkidle")
                page.wait_for_timeout(500)
                found = page.evaluate(ENTRIES)
                print(
                    f"{path:24} {slower}x slower: largest paint {found['paint_ms']} ms, longest task {found['task_ms']} ms, moved {found['moved']:.3f}"
                )
                if look > 0:
                    over += [
                        (path, slower, what, found[what])
                        for what, (pace, most) in MOST.items()
                        if pace == slower and found[what] > most
                    ]
                context.close()
        browser.close()
        print(
            "\n".join(f"over: {path} at {slower}x, {what} {found}" for path, slower, what, found in over)
            or "all within"
        )


if __name__ == "__main__":
    main()
