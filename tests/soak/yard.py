"""A server in a process of its own that is there at once: forked from one that has loaded everything."""

from __future__ import annotations

import http.client
import json
import os
import signal
import sqlite3
import time
from contextlib import suppress
from pathlib import Path

from drylamp.demo.scenario import OVEN, TERRACE, demo_now
from drylamp.web.app import create_app
from drylamp.web.serving import listen
from drylamp.web.settings import Settings

CHANNEL = "tray"


class Forked:
    """The whole app on a data file, in a child process on a free port."""

    def __init__(self, data: Path) -> None:
        self.data = data
        told, tell = os.pipe()
        self.pid = os.fork()
        if self.pid == 0:
            _serve(data, tell)
        os.close(tell)
        with os.fdopen(told) as line:
            said = line.readline()
        assert said, "the server did not come up"
        self.port = int(said)

    def memory_mb(self) -> float:
        """What it holds now."""
        with suppress(OSError):
            for line in Path(f"/proc/{self.pid}/status").read_text().splitlines():
                if line.startswith("VmRSS"):
                    return int(line.split()[1]) / 1024
        return 0.0

    def kill(self) -> None:
        """SIGKILL, by its own id: no time to tidy up."""
        os.kill(self.pid, signal.SIGKILL)
        os.waitpid(self.pid, 0)


def _serve(data: Path, tell: int) -> None:
    try:
        app = create_app(Settings(data=data, now=demo_now))
        server = listen(app, 0, threads=4)
        os.write(tell, f"{server.effective_port}\n".encode())
        os.close(tell)
        server.run()
    finally:
        os._exit(1)


class Line:
    """One kept connection to a server."""

    def __init__(self, port: int) -> None:
        self.http = http.client.HTTPConnection("127.0.0.1", port, timeout=60)
        self.slowest_s = 0.0

    def ask(self, method: str, path: str, body: bytes | None = None, **headers: str) -> tuple[int, dict]:
        began = time.perf_counter()
        self.http.request(method, path, body, headers)
        answer = self.http.getresponse()
        text = answer.read()
        self.slowest_s = max(self.slowest_s, time.perf_counter() - began)
        return answer.status, json.loads(text)

    def post(self, path: str, body: dict) -> dict:
        status, found = self.ask("POST", path, json.dumps(body).encode(), **{"Content-Type": "application/json"})
        assert status in (200, 201), found
        return found


def make_trial(port: int) -> tuple[int, str]:
    """A trial that a logger may post to: its number and token."""
    line = Line(port)
    line.post("/api/sites", TERRACE.model_dump(mode="json"))
    line.post("/api/builds", {"site_id": 1, "name": "Oven", "spec": OVEN.model_dump(mode="json")})
    channel = {"name": CHANNEL, "title": "tray", "node": "tray", "instrument": "logger"}
    trial = line.post("/api/trials", {"build_id": 1, "name": "soak", "protocol": "free-log", "channels": [channel]})
    return trial["id"], trial["token"]


BEGAN_S = demo_now().timestamp()


def stamped(number: int) -> tuple[float, float]:
    """When a reading was taken and what it was: one a millisecond."""
    return BEGAN_S + number / 1000.0, 20.0 + number % 700 / 10.0


def as_lines(first: int, count: int) -> bytes:
    """Readings as a logger posts them."""
    rows = (stamped(number) for number in range(first, first + count))
    return "".join(f"{at:.3f},{CHANNEL},{value:.1f}\n" for at, value in rows).encode()


def kept(data: Path, trial: int) -> dict[int, float]:
    """Readings in the data file by their number, and whether the file is sound."""
    db = sqlite3.connect(data)
    try:
        assert db.execute("PRAGMA integrity_check").fetchone()[0] == "ok"
        assert db.execute("PRAGMA foreign_key_check").fetchall() == []
        rows = db.execute("SELECT time_ms, value FROM reading WHERE trial_id = ?", (trial,)).fetchall()
    finally:
        db.close()
    return {round(ms - BEGAN_S * 1000.0): value for ms, value in rows}
