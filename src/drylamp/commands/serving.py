"""The app served on this machine, with your own yard or the made-up one."""

from __future__ import annotations

import os
import signal
import sys
import time
from collections.abc import Callable
from datetime import datetime, timedelta
from pathlib import Path
from typing import TYPE_CHECKING, Any, NoReturn

import click

from drylamp.commands.shared import DATA, PORT, SHARING, Sharing, data_file, fail, plain_errors

if TYPE_CHECKING:
    from _typeshed.wsgi import WSGIApplication

    from drylamp.commands.sharing import SharedDoor
    from drylamp.web.settings import Settings
    from drylamp.web.share.share import Share


@click.command()
@PORT
@DATA
@click.option("--weather", metavar="URL", help="A weather service on this machine, such as http://127.0.0.1:8412.")
@SHARING
def serve(port: int, data: Path | None, weather: str | None, **sharing: Any) -> None:
    """Serve your own yard on this machine, and with --share to paired phones of the house's network."""
    with plain_errors():
        service = None if weather is None else _local_service(weather)
    path = data_file(data)
    shared = _shared(path, Sharing(**sharing))

    def load() -> WSGIApplication:
        from drylamp.web.settings import Settings

        return _warmed(Settings(data=path, weather_service=service, workers="processes", share=_door_of(shared)))

    _serve(path, port, load, shared)


def _local_service(address: str) -> str:
    from drylamp.formats.weather_door import check_address

    return check_address(address)


@click.command()
@PORT
@DATA
@SHARING
def demo(port: int, data: Path | None, **sharing: Any) -> None:
    """Serve the made-up yard, with a clock of its own that starts on a June noon."""
    path = data_file(data, demo=True)
    shared = _shared(path, Sharing(**sharing))

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
        settings = Settings(
            data=path, now=running_clock(begin), is_demo=True, weather_service=service, workers="processes", share=_door_of(shared),
        )  # fmt: skip
        return _warmed(settings)

    _serve(path, port, load, shared)


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


def _shared(data: Path, wanted: Sharing) -> SharedDoor | None:
    """The door to the house's network, where one is wanted."""
    if not wanted.share and wanted.ingest_port is None:
        return None
    if not wanted.share:
        fail("--ingest-port needs --share: without it nothing listens on the house's network")
    from drylamp.commands.sharing import prepare

    with plain_errors():
        return prepare(data, wanted)


def _door_of(shared: SharedDoor | None) -> Share | None:
    return None if shared is None else shared.share


def _serve(data: Path, port: int, load: Callable[[], WSGIApplication], shared: SharedDoor | None) -> None:
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
    if shared is not None:
        with plain_errors():
            shared.open(door)
        click.echo(shared.told())
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
