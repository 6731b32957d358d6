"""A yard whose clock a test can move: the app in this process, on a free port of the loopback."""

from __future__ import annotations

import threading
import time
from collections.abc import Iterator
from contextlib import contextmanager
from datetime import datetime, timedelta
from pathlib import Path

from waitress import wasyncore
from waitress.server import create_server

from drylamp.demo.scenario import demo_now, warm_case
from drylamp.demo.seed import fill
from drylamp.web.app import create_app
from drylamp.web.settings import Settings


class Clock:
    """Runs at true speed from where it was last put."""

    def __init__(self, start: datetime) -> None:
        self.put(start)

    def put(self, moment: datetime) -> None:
        self.base, self.since = moment, time.monotonic()

    def on(self, **by: float) -> None:
        self.put(self.now() + timedelta(**by))

    def now(self) -> datetime:
        return self.base + timedelta(seconds=time.monotonic() - self.since)


@contextmanager
def clocked_yard(folder: Path, start: datetime | None = None) -> Iterator[tuple[str, Clock]]:
    """Serve the demo yard; gives its address and its clock."""
    clock = Clock(start or demo_now())
    app = create_app(Settings(data=folder / "yard.sqlite3", now=clock.now, is_demo=True))
    fill(app.config["DATABASE"])
    warm_case()
    app.config["WARM"].set()
    sockets: dict = {}
    server = create_server(app, host="127.0.0.1", port=0, threads=6, map=sockets)
    thread = threading.Thread(target=server.run, daemon=True)
    thread.start()
    try:
        yield f"http://127.0.0.1:{server.effective_port}", clock
    finally:
        server.task_dispatcher.shutdown(timeout=30)
        # Closed by the thread that waits on them: a socket that goes away under a running select is an error there.
        server.trigger.pull_trigger(lambda: wasyncore.close_all(sockets))
        thread.join(30)
        app.config["DATABASE"].close()
        assert not thread.is_alive(), "the yard's server did not end"
