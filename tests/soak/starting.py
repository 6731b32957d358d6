"""Start twice on one folder, at once: both come up on one sound file, and on one port the second says so in one line."""

from __future__ import annotations

import subprocess
import sys
import urllib.request
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass
from pathlib import Path

from tests.serving import Server


@dataclass
class Started:
    """What became of it."""

    pairs: int = 0
    said: str = ""


def start_twice(folder: Path, times: int) -> Started:
    """Start two servers at once on an empty folder, so often."""
    out = Started()
    for k in range(times):
        data = folder / str(k)
        with ThreadPoolExecutor(2) as both:
            servers = list(both.map(lambda _, data=data: Server(data), range(2)))
        try:
            for server in servers:
                with urllib.request.urlopen(f"{server.url}/api/health", timeout=60) as answer:
                    assert answer.status == 200
            port = servers[0].url.rsplit(":", 1)[1]
            third = refused_start(data, port)
            assert third.returncode == 2
            assert third.stderr.count("\n") == 1
            out.said = third.stderr.strip()
        finally:
            for server in servers:
                server.end()
        out.pairs += 1
    return out


def refused_start(data: Path, port: str = "0") -> subprocess.CompletedProcess[str]:
    """A start that is to be refused."""
    return subprocess.run(
        [sys.executable, "-m", "drylamp.cli", "serve", "--port", port, "--data", str(data)],
        capture_output=True, text=True, timeout=120, check=False,
    )  # fmt: skip
