"""The app served on this machine, with your own yard or the made-up one."""

from __future__ import annotations

import os
import signal
import sys
import time
from collections.abc import Callable
from datetime import datetime, timedelta
from pathlib import Path
from typing import TYPE_CHECKING, NoReturn

import click

from drylamp.commands.shared import DATA, PORT, data_file, fail, plain_errors

if TYPE_CHECKING:
    from _typeshed.wsgi import WSGIApplication

    from drylamp.web.settings import Settings


@click.command()
@PORT
@DATA
@click.option("--weather", metavar="URL", help="A weather service on this machine, such as http://127.0.0.1:8412.")
def serve(port: int, data: Path | None, weather: str | None) -> None:
    """Serve your own yard on this machine."""
    with plain_errors():
        service = None if weather is None else _local_service(weather)
    path = data_file(data)

    def load() -> WSGIApplication:
        from drylamp.web.settings import Settings

        return _warmed(Settings(data=path, weather_service=service, workers="processes"))

    _serve(path, port, load)


def _local_service(address: str) -> str:
    from drylamp.formats.weather_door import check_address

    return check_address(address)


@click.command()
@PORT
@DATA
def demo(port: int, data: Path | None) -> None:
    """Serve the made-up yard, with a clock of its own that starts on a June noon."""
    path = data_file(data, demo=True)

    def load() -> WSGIApplication:
        from drylamp.demo.scenario import SOUTHERN, TERRACE, demo_now
        from drylamp.demo.seed import fill, latest_activity
        from drylamp.instruments.weather_service import Service, start_in_background
        from drylamp.store.database import Database
        from drylamp.web.settings import Settings

        store = Database(path)
        fill(store)
        last = latest_activity(store)
        begin = max(demo_now(), last + timedelta(minutes=1)) if last else demo_now()
        service = start_in_background(Service((TERRACE, SOUTHERN), seed=12))
        return _warmed(
            Settings(data=path, now=running_clock(begin), is_demo=True, weather_service=service, workers="processes")
        )

    _serve(path, port, load)


def running_clock(begin: datetime) -> Callable[[], datetime]:
    """A clock that shows ``begin`` now and runs at true speed."""
    zero = time.monotonic()
    return lambda: begin + timedelta(seconds=time.monotonic() - zero)


def _warmed(settings: Settings) -> WSGIApplication:
    """The whole app, with the first run begun behind it."""
    from drylamp.demo.scenario import warm_case
    from drylamp.web.app import create_app, warm_up

    app = create_app(settings)
    warm_up(app, warm_case)
    return app


def _serve(data: Path, port: int, load: Callable[[], WSGIApplication]) -> None:
    """Serve the page at once; what computes is loaded behind it."""
    from drylamp.web.door import Door, front
    from drylamp.web.serving import listen
    from drylamp.web.settings import HOSTS, STATIC

    with plain_errors():
        door = Door(front(data, HOSTS, STATIC), load)
    try:
        server = listen(door, port)
    except OSError as error:
        fail(f"port {port} cannot be used ({error.strerror}); choose another with --port")
    click.echo(f"Dry Lamp is at http://127.0.0.1:{server.effective_port}/  (data: {data}; Ctrl-C ends it)")
    sys.stdout.flush()
    door.open()
    signal.signal(signal.SIGTERM, lambda *_: sys.exit(0))  # an end like Ctrl-C
    server.run()
    _leave()


def _leave() -> NoReturn:
    """End in order, workers and all, but do not take Python down: a thread that still compiles the twin would cry out."""
    import atexit

    atexit._run_exitfuncs()
    sys.stdout.flush()
    os._exit(0)
