"""The gate of the shared address: whoever is not paired meets the pairing page and nothing else.

It stands before the whole app as a WSGI application. A logger that brings a trial's token passes to that one route, which
looks at the token itself.
"""

from __future__ import annotations

import re
from collections.abc import Callable, Iterable
from pathlib import Path
from typing import TYPE_CHECKING

from flask import Flask, Response, g, make_response, redirect, render_template_string, request
from werkzeug.http import parse_cookie

from drylamp.core.checks import InputProblem
from drylamp.store.database import Database
from drylamp.store.devices import DeviceRow
from drylamp.web import security
from drylamp.web.share.asker import DEVICE, LOGGER
from drylamp.web.share.pairing import Silence, tidy
from drylamp.web.share.share import COOKIE, LASTS_S, Share

if TYPE_CHECKING:
    from _typeshed.wsgi import StartResponse, WSGIApplication, WSGIEnvironment

PAGE = (Path(__file__).parent / "pair.html").read_text(encoding="utf-8")
INGEST = re.compile(r"/api/trials/[0-9]{1,15}/ingest")
LONGEST_FORM = 4096
WRONG = "That code opens nothing. It works once, and for ten minutes: make a new one."


def takes_readings(environ: WSGIEnvironment) -> bool:
    """Whether a logger posts readings, whatever its token is worth."""
    return environ.get("REQUEST_METHOD") == "POST" and INGEST.fullmatch(str(environ.get("PATH_INFO", ""))) is not None


class Gate:
    """A WSGI application that lets paired devices through to another."""

    def __init__(self, inner: WSGIApplication, share: Share, data: Database) -> None:
        self._inner, self._share, self._data = inner, share, data
        self._page = _pairing_page(share, data)

    def __call__(self, environ: WSGIEnvironment, start_response: StartResponse) -> Iterable[bytes]:
        """Answer a request.

        Raises
        ------
        Silence
            somebody guesses codes.
        """
        environ.pop(DEVICE, None)
        environ["wsgi.url_scheme"] = "https"
        if str(environ.get("HTTP_HOST", "")).lower() not in self._share.hosts():
            return Response(status=421)(environ, start_response)
        if takes_readings(environ):
            environ[DEVICE] = LOGGER
            return self._inner(environ, start_response)
        if environ.get("PATH_INFO") == "/pair":
            return self._page(environ, start_response)
        device = self._device(environ)
        if device is None:
            return _to_the_page(environ)(environ, start_response)
        environ[DEVICE] = device
        return self._inner(environ, start_response)

    def _device(self, environ: WSGIEnvironment) -> DeviceRow | None:
        cookie = parse_cookie(environ).get(COOKIE)
        if not cookie:
            return None
        with self._data.session() as db:
            return self._share.device_of(db, cookie)


class IngestOnly:
    """A WSGI application that passes on what loggers post, and nothing else: for those that know no TLS."""

    def __init__(self, inner: WSGIApplication) -> None:
        self._inner = inner

    def __call__(self, environ: WSGIEnvironment, start_response: StartResponse) -> Iterable[bytes]:
        """Answer a request."""
        if not takes_readings(environ):
            return Response(status=404)(environ, start_response)
        environ[DEVICE] = LOGGER
        return self._inner(environ, start_response)


def _to_the_page(environ: WSGIEnvironment) -> Response:
    """To the pairing page for whoever looks, nothing for whatever else asks."""
    looks = environ.get("REQUEST_METHOD") == "GET" and "text/html" in str(environ.get("HTTP_ACCEPT", ""))
    return make_redirect() if looks else Response(status=403)


def make_redirect() -> Response:
    """Off to the pairing page."""
    answer = Response(status=303, headers={"Location": "/pair"})
    answer.headers["Cache-Control"] = "no-store"
    return answer


def _pairing_page(share: Share, data: Database) -> Flask:
    """The pairing page and what its form does; its own small app, so that nothing of the whole one is reached."""
    app = Flask("drylamp.pairing", static_folder=None)
    app.config["MAX_CONTENT_LENGTH"] = LONGEST_FORM
    security.register(app, share.names)

    def page(wrong: str = "", status: int = 200) -> Response:
        code, name = tidy(request.values.get("code", "")), request.values.get("name", "")[:60]
        text = render_template_string(
            PAGE, nonce=g.nonce, wrong=wrong, code=code, name=name or _called(), fingerprint=share.identity.fingerprint
        )
        answer = make_response(text, status)
        answer.headers["Cache-Control"] = "no-store"
        return answer

    @app.get("/pair")
    def look() -> Response:
        return page()

    @app.post("/pair")
    def pair() -> Response:
        found = share.pairing.try_code(request.form.get("code", ""))
        if found is None:
            return page(WRONG, 403)
        try:
            with data.session() as db:
                cookie = share.let_in(db, found, request.form.get("name", ""))
        except InputProblem as error:
            return page(str(error), 409)
        answer = make_response(redirect("/", 303))
        answer.set_cookie(COOKIE, cookie, max_age=LASTS_S, secure=True, httponly=True, samesite="Lax", path="/")
        return answer

    app.config["PROPAGATE_EXCEPTIONS"] = True  # silence is no page
    return app


def _called() -> str:
    """A first name for a device, from what its browser says of itself."""
    agent = request.headers.get("User-Agent", "")
    known: Iterable[tuple[str, str]] = (("iPhone", "iPhone"), ("iPad", "iPad"), ("Android", "Android phone"))
    return next((name for word, name in known if word in agent), "")


def silenced(app: WSGIApplication, silent: Callable[[], BaseException]) -> WSGIApplication:
    """The same application, with silence said as the server understands it."""

    def answer(environ: WSGIEnvironment, start_response: StartResponse) -> Iterable[bytes]:
        try:
            return app(environ, start_response)
        except Silence:
            raise silent() from None

    return answer
