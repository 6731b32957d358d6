"""How the server listens: so many connections, none held open by somebody who says nothing."""

from __future__ import annotations

import resource
from pathlib import Path
from typing import TYPE_CHECKING, Any

from drylamp.web.errors import PROBLEM, TOO_LARGE, problem_text
from drylamp.web.share.gate import silenced

if TYPE_CHECKING:
    from _typeshed.wsgi import WSGIApplication

THREADS = 24
"""Threads that answer: more than there are places in the queue of heavy answers, for those wait in them."""
MOST_CONNECTIONS = 1500
IDLE_S, LOOK_EVERY_S = 30, 10
"""So long a connection may say nothing, and so often that is looked at."""
OTHER_FILES = 200
"""Open files beside connections: the data file's own, the front end's, workers' lines."""
MOST_HEADER_BYTES = 65_536
SAID = {413: TOO_LARGE, 431: f"the headers are longer than {MOST_HEADER_BYTES} bytes; send fewer"}


def listen(app: WSGIApplication, port: int, **otherwise: Any) -> Any:
    """A waitress server on the loopback, bound to its port and not yet running.

    Raises
    ------
    OSError
        the port cannot be used.
    """
    from waitress.server import create_server

    from drylamp.web.settings import MAX_UPLOAD_BYTES

    how = {
        "threads": THREADS, "ident": "drylamp", "connection_limit": connections(), "channel_timeout": IDLE_S, "cleanup_interval": LOOK_EVERY_S,
        "asyncore_use_poll": True, "backlog": 1024, "max_request_body_size": MAX_UPLOAD_BYTES + MOST_HEADER_BYTES, "max_request_header_size": MOST_HEADER_BYTES,
        "map": {},  # sockets of its own: several servers may run in threads of one process
       
    }  # fmt: skip
    server = create_server(
        app, **({"host": "127.0.0.1", "port": port} if "unix_socket" not in otherwise else {}), **{**how, **otherwise}
    )
    server.channel_class = _channel()
    return server


def listen_behind(app: WSGIApplication, socket: Path) -> Any:
    """The same on a Unix socket, behind a listener of the house's network; whoever is to get no answer gets none.

    Raises
    ------
    OSError
        the socket cannot be made.
    """
    from waitress.channel import ClientDisconnected

    return listen(silenced(app, ClientDisconnected), 0, unix_socket=str(socket), unix_socket_perms="600")


def _channel() -> type[Any]:
    """Connections on which even a request that never reaches the app is refused in the app's own shape."""
    from waitress.channel import HTTPChannel
    from waitress.task import ErrorTask

    class Refusal(ErrorTask):  # type: ignore[misc]
        def execute(self) -> None:
            error = self.request.error
            body = problem_text(error.code, SAID.get(error.code, f"this is no request that can be read ({error.body})"))
            self.status = f"{error.code} {error.reason}"
            self.response_headers.append(("Content-Type", PROBLEM))
            self.set_close_on_finish()
            self.content_length = len(body)
            self.write(body)

    class Channel(HTTPChannel):  # type: ignore[misc]
        error_task_class = Refusal

    return Channel


def connections() -> int:
    """How many connections may be open at once: as many as this machine lets a process open, up to a bound."""
    soft, hard = resource.getrlimit(resource.RLIMIT_NOFILE)
    wanted = MOST_CONNECTIONS + OTHER_FILES
    if soft < wanted:
        soft = wanted if hard == resource.RLIM_INFINITY else min(wanted, hard)
        resource.setrlimit(resource.RLIMIT_NOFILE, (soft, hard))
    return max(100, min(MOST_CONNECTIONS, soft - OTHER_FILES))
