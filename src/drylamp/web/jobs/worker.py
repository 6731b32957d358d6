"""A worker: the same app on the same data file in a process of its own, answering one heavy question after the other."""

from __future__ import annotations

import os
import resource
import signal
from multiprocessing.connection import Connection
from multiprocessing.synchronize import Event
from pathlib import Path

from drylamp.web.jobs.asking import Ask, Reply, StoppedError, reply_to

NICE = 10
"""So far behind the rest of the app a worker stands in line for the machine."""


MOST_BYTES = 12 * 1024**3
"""Room that a worker may take, most of which is address space that libraries set aside; more is a runaway."""


def _bound_memory() -> None:
    _, hard = resource.getrlimit(resource.RLIMIT_AS)
    most = MOST_BYTES if hard == resource.RLIM_INFINITY else min(MOST_BYTES, hard)
    resource.setrlimit(resource.RLIMIT_AS, (most, hard))


def work(data: Path, line: Connection, stop: Event) -> None:
    """Answer questions from a line until it is closed; each step goes back along it, then the whole."""
    from drylamp.web.app import create_app
    from drylamp.web.settings import Settings

    signal.signal(signal.SIGINT, signal.SIG_IGN)  # Ctrl-C ends the server; the line then ends here
    os.nice(NICE)
    _bound_memory()
    app = create_app(Settings(data=data))

    def report(share: float, answer: bytes) -> None:
        line.send(("step", share, answer))
        if stop.is_set():
            raise StoppedError

    while True:
        try:
            ask: Ask = line.recv()
        except (EOFError, OSError):
            return
        try:
            line.send(("done", reply_to(app, ask, report)))
        except StoppedError:
            line.send(("stopped", None))
        except Exception as trouble:  # told in the log where it was caught, said on the page
            line.send(("done", Reply(500, str(trouble).encode(), "text/plain")))
