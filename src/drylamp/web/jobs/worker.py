"""A worker: the same app on the same data file in a process of its own, answering one heavy question after the other."""

from __future__ import annotations

import os
import resource
import signal
from multiprocessing.connection import Connection
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


def work(data: Path, line: Connection, stop: Connection) -> None:
    """Answer numbered questions from a line until it is closed; each step goes back along it, then the whole. ``stop`` names those that are no longer wanted."""
    from drylamp.web.app import create_app
    from drylamp.web.settings import Settings

    signal.signal(signal.SIGINT, signal.SIG_IGN)  # Ctrl-C ends the server; the line then ends here
    os.nice(NICE)
    _bound_memory()
    app = create_app(Settings(data=data))

    unwanted = number = 0

    def report(share: float, answer: bytes) -> None:
        nonlocal unwanted
        try:
            line.send(("step", share, answer))
            while stop.poll():
                unwanted = max(unwanted, stop.recv())
        except (EOFError, OSError):  # the server is gone, and nobody waits
            os._exit(0)
        if unwanted >= number:
            raise StoppedError

    while True:
        try:
            asked: tuple[int, Ask] = line.recv()
            number, ask = asked
        except (EOFError, OSError):
            return
        try:
            line.send(("done", reply_to(app, ask, report)))
        except StoppedError:
            line.send(("stopped", None))
        except Exception as trouble:  # told in the log where it was caught, said on the page
            line.send(("done", Reply(500, str(trouble).encode(), "text/plain")))
