"""The API asked by schemathesis, on a live server with the demo's yard: every answer as the OpenAPI document says."""

from __future__ import annotations

import json
import subprocess
import sys
import threading
import time
import urllib.request
from collections.abc import Callable
from dataclasses import dataclass, field
from pathlib import Path

from drylamp.commands.shared import DATA_NAME
from tests.serving import Server

CONFIG = Path(__file__).with_name("schemathesis.toml")
LONGEST_ANSWER_S = 600
MOST_EXAMPLES = {True: 12, False: 400}


@dataclass
class Asked:
    """What became of it."""

    document: str = ""
    generated: int = 0
    accepted: int = 0
    refused: int = 0
    not_found: int = 0
    failures: list[str] = field(default_factory=list)
    operations: int = 0
    tested: int = 0
    slowest_health_s: float = 0.0
    memory_mb: float = 0.0


def ask_everything(folder: Path, seconds: int, seed: int = 1, filled: Callable[[Path], object] | None = None) -> Asked:
    """Ask a live server all that its document says, for so long; the same seed asks the same.

    Parameters
    ----------
    filled
        puts the demo's data file where the server looks for it; the server fills its own where there is none
    """
    if filled is not None:
        filled(folder / "yard" / DATA_NAME)
    server = Server(folder / "yard", "demo")
    try:
        server.wait_until_warm()
        document = folder / "openapi.json"
        with urllib.request.urlopen(f"{server.url}/api/openapi.json", timeout=600) as answer:
            document.write_bytes(answer.read())
        probe = Probe(server)
        probe.start()
        report = folder / "report.json"
        done = subprocess.run(
            [str(Path(sys.executable).with_name("st")), "--config-file", str(CONFIG), "run", str(document), "--url", server.url, "--checks", "all",
             "--seed", str(seed), "--max-time", str(seconds), "--phases", "coverage,fuzzing,stateful", "--max-examples", str(MOST_EXAMPLES[seconds < 300]),
             "--no-shrink", "--continue-on-failure", "--suppress-health-check", "all", "--max-response-time", str(LONGEST_ANSWER_S), "--request-timeout", str(LONGEST_ANSWER_S), "--report", "json",
             "--report-json-path", str(report)],
            capture_output=True, text=True, timeout=seconds + 3 * LONGEST_ANSWER_S, check=False, cwd=folder,
        )  # fmt: skip
        probe.over.set()
        probe.join(60)
        assert report.exists(), done.stdout[-4000:] + done.stderr[-2000:]
        out = _counted(json.loads(report.read_text()))
        out.document = document.read_text(encoding="utf-8")
        out.slowest_health_s, out.memory_mb = probe.slowest_s, probe.memory_mb
        if out.failures:
            out.failures.append(done.stdout[-20_000:])
        return out
    finally:
        server.end()


def _counted(report: dict) -> Asked:
    out = Asked(
        generated=report["test_cases"]["generated"], operations=report["operations"]["selected"], tested=report["operations"]["tested"],
    )  # fmt: skip
    for phases in report["valid_rates"].values():
        for rate in phases.values():
            out.accepted += rate["accepted"]
            out.refused += rate["rejected"] + rate["conflicts"]
            out.not_found += rate["unreachable"]
    out.failures = [json.dumps(one)[:2000] for one in [*report["failures"], *report["errors"]]]
    return out


class Probe(threading.Thread):
    """Looks every half second how the server is."""

    def __init__(self, server: Server) -> None:
        super().__init__(daemon=True)
        self.server, self.over = server, threading.Event()
        self.slowest_s = self.memory_mb = 0.0

    def run(self) -> None:
        while not self.over.wait(0.5):
            began = time.perf_counter()
            with urllib.request.urlopen(f"{self.server.url}/api/health", timeout=120) as answer:
                answer.read()
            self.slowest_s = max(self.slowest_s, time.perf_counter() - began)
            for line in Path(f"/proc/{self.server.process.pid}/status").read_text().splitlines():
                if line.startswith("VmRSS"):
                    self.memory_mb = max(self.memory_mb, int(line.split()[1]) / 1024)
