"""A real server in its own process, ended by its id."""

from __future__ import annotations

import os
import re
import signal
import subprocess
import sys
import time
import urllib.request
from pathlib import Path


class Server:
    """``drylamp serve`` or ``demo`` on a free port of the loopback; or a piece of code that serves."""

    def __init__(self, data: Path, command: str = "serve", code: str | None = None, **env: str) -> None:
        self.data = data
        self.process = subprocess.Popen(
            [
                sys.executable,
                *(["-c", code] if code else ["-m", "drylamp.cli", command, "--port", "0", "--data", str(data)]),
            ],
            stdout=subprocess.PIPE,
            text=True,
            env={**os.environ, "PYTHONUNBUFFERED": "1", **env},
        )
        line = self.process.stdout.readline()
        found = re.search(r"http://127\.0\.0\.1:\d+", line)
        assert found, f"the server did not print its address: {line!r}"
        self.url = found.group(0)

    def wait_until_warm(self, seconds: float = 360.0) -> None:
        end = time.monotonic() + seconds
        while time.monotonic() < end:
            with urllib.request.urlopen(f"{self.url}/api/health", timeout=60) as answer:
                if b'"warm":true' in answer.read():
                    return
            time.sleep(0.2)
        raise AssertionError("the server did not warm up")

    def kill(self) -> None:
        """SIGKILL: no time to tidy up."""
        self.process.send_signal(signal.SIGKILL)
        self._reap()

    def end(self) -> None:
        if self.process.poll() is None:
            self.process.terminate()
        self._reap()

    def _reap(self) -> None:
        self.process.wait(90)
        self.process.stdout.close()
