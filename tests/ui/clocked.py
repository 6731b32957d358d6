"""A yard whose clock a test can move: the app in this process, on a free port of the loopback."""

from __future__ import annotations

import threading
import time
from collections.abc import Iterator
from contextlib import contextmanager, suppress
from datetime import datetime, timedelta
from functools import cache
from pathlib import Path

from flask import Flask
from waitress import wasyncore
from waitress.server import create_server

from drylamp.demo.scenario import SOUTHERN, TERRACE, demo_now, warm_case
from drylamp.instruments.weather_service import Service, start_in_background
from drylamp.web.app import create_app
from drylamp.web.settings import Settings
from drylamp.web.share.share import Share
from tests import seeded


class Clock:
    """Runs from where it was last put: at true speed, or at a pace that does not mind a slow machine."""

    def __init__(self, start: datetime, pace: float = 1.0) -> None:
        self.pace = pace
        self.put(start)

    app: Flask
    data: Path

    def put(self, moment: datetime) -> None:
        self.base, self.since = moment, time.monotonic()

    def on(self, **by: float) -> None:
        self.put(self.now() + timedelta(**by))

    def now(self) -> datetime:
        return self.base + timedelta(seconds=self.pace * (time.monotonic() - self.since))


_warm = cache(warm_case)


@contextmanager
def clocked_yard(
    folder: Path, start: datetime | None = None, pace: float = 1.0, empty: bool = False, share: Share | None = None
) -> Iterator[tuple[str, Clock]]:
    """Serve the demo yard, or one in which nothing stands; gives its address and its clock."""
    clock = Clock(start or demo_now(), pace)
    data = folder / "yard.sqlite3" if empty else seeded.copy_to(folder / "yard.sqlite3")
    _warm()
    service = start_in_background(Service((TERRACE, SOUTHERN), seed=12))
    app = create_app(Settings(data=data, now=clock.now, is_demo=not empty, weather_service=service, share=share))
    clock.app, clock.data = app, data
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
        # A last answer may wake that thread first: then all is closed already, the trigger, too.
        with suppress(OSError):
            server.trigger.pull_trigger(lambda: wasyncore.close_all(sockets))
        thread.join(30)
        app.config["DATABASE"].close()
        assert not thread.is_alive(), "the yard's server did not end"
