"""The front door: the page is served at once, while what computes is still being loaded behind it.

Loading the twin takes seconds; a browser meanwhile fetches the page and its scripts, asks how far things are
(``/api/health``) and waits with whatever else it asks of the API.
"""

from __future__ import annotations

import json
import logging
import threading
from collections.abc import Callable, Iterable
from concurrent.futures import Future
from pathlib import Path
from typing import TYPE_CHECKING, Any

from flask import Flask, Response

from drylamp import __version__, compiles_first
from drylamp.store.database import Database
from drylamp.web import errors, security
from drylamp.web.pages import add_pages

if TYPE_CHECKING:
    from _typeshed.wsgi import StartResponse, WSGIApplication, WSGIEnvironment

LONGEST_WAIT_S = 300.0
"""So long a question waits for what answers it."""


def front(data: Path, hosts: tuple[str, ...], static: Path) -> Flask:
    """The page, and how far loading has come; nothing that computes."""
    app = Flask(__name__, static_folder=None)
    errors.register(app)
    security.register(app, hosts)
    add_pages(app, static)
    schema = Database(data).version()

    @app.get("/api/health")
    def health() -> Response:
        told = {
            "status": "ok", "version": __version__, "schema_version": schema, "warm": False, "state": "loading",
            "compiles": compiles_first(),
        }  # fmt: skip
        return Response(json.dumps(told), mimetype="application/json")

    return app


class Door:
    """A WSGI application that answers with the page until the whole app is there, and with the whole app from then on."""

    def __init__(self, page: WSGIApplication, load: Callable[[], WSGIApplication]) -> None:
        self._page = page
        self._whole: Future[Any] = Future()
        self._load = load

    def open(self) -> threading.Thread:
        """Begin to load behind it."""
        thread = threading.Thread(target=self._work, name="loading", daemon=True)
        thread.start()
        return thread

    def _work(self) -> None:
        try:
            self._whole.set_result(self._load())
        except Exception as trouble:
            logging.getLogger("drylamp").exception("loading failed")
            self._whole.set_exception(trouble)

    def __call__(self, environ: WSGIEnvironment, start_response: StartResponse) -> Iterable[bytes]:
        """Answer a request."""
        path = str(environ.get("PATH_INFO", ""))
        computes = path.startswith("/api/") and path != "/api/health"
        if not computes and not self._whole.done():
            return self._page(environ, start_response)
        try:
            whole: WSGIApplication = self._whole.result(LONGEST_WAIT_S)
        except Exception as trouble:
            answer = errors.problem(500, f"Dry Lamp could not be loaded ({trouble}); the server's log says more")
            return answer(environ, start_response)
        return whole(environ, start_response)
