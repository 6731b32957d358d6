"""How the server listens: a thousand silent connections, headers and bodies beyond bounds, HEAD."""

from __future__ import annotations

import http.client
import json
import socket
import threading
import time
from collections.abc import Iterator

import pytest

from drylamp.demo.scenario import TERRACE, demo_now
from drylamp.web.app import create_app
from drylamp.web.serving import connections, listen
from drylamp.web.settings import Settings

SILENT = 1000


@pytest.fixture
def port(tmp_path) -> Iterator[int]:
    """A server that lets silent connections go after a few seconds: not before it could read what they said, or they would be reset, not closed."""
    app = create_app(Settings(data=tmp_path / "yard.sqlite3", now=demo_now))
    app.test_client().post("/api/sites", json=TERRACE.model_dump(mode="json"))
    server = listen(app, 0, channel_timeout=5, cleanup_interval=1)
    running = threading.Thread(target=server.run, daemon=True)
    running.start()
    yield server.effective_port
    server.close()
    running.join(10)
    app.config["DATABASE"].close()


def ask(port: int, method: str, path: str, body: bytes | None = None, **headers: str) -> tuple[int, str, bytes]:
    line = http.client.HTTPConnection("127.0.0.1", port, timeout=60)
    line.request(method, path, body, headers)
    answer = line.getresponse()
    found = answer.status, answer.headers["Content-Type"], answer.read()
    line.close()
    return found


def test_a_thousand_half_open_connections_keep_nobody_out_and_are_closed(port: int):
    assert connections() >= SILENT + 100
    silent = []
    for _ in range(SILENT):
        line = socket.create_connection(("127.0.0.1", port), timeout=60)
        line.sendall(b"POST /api/builds HTTP/1.1\r\nHost: localhost\r\nContent-Length: 10\r\n\r\n{")
        silent.append(line)
    assert ask(port, "GET", "/api/health")[0] == 200
    patience = time.monotonic() + 60
    while silent and time.monotonic() < patience:
        silent[0].settimeout(60)
        assert silent[0].recv(1) == b""
        silent.pop(0).close()
    assert silent == []
    assert ask(port, "GET", "/api/health")[0] == 200


@pytest.mark.parametrize(("path", "media"), [
    ("/", "text/html"), ("/api/health", "application/json"), ("/api/sites", "application/json"), ("/builds/1/make", "text/html"),
])  # fmt: skip
def test_head_answers_as_get_does_without_a_body(port: int, path: str, media: str):
    status, kind, body = ask(port, "HEAD", path)
    assert (status, kind.split(";")[0], body) == (200, media, b"")
    assert ask(port, "GET", path)[0] == 200


def test_what_never_reaches_the_app_is_refused_in_the_same_shape(port: int):
    for answer in (
        ask(port, "GET", "/api/health", **{"X-Long": "a" * 70_000}),
        ask(port, "POST", "/api/builds", None, **{"Content-Length": str(10**9)}),
        ask(port, "POST", "/api/builds", b"{}", **{"Content-Length": "-5"}),
    ):
        status, kind, body = answer
        assert 400 <= status < 500
        assert kind == "application/problem+json"
        assert json.loads(body)["detail"]
