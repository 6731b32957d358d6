"""How long it takes to begin, as ratios to importing numpy, scipy, pandas, numba and pvlib in the same run; medians of three."""

from __future__ import annotations

import os
import signal
import statistics
import subprocess
import sys
import tempfile
import time
import urllib.request
from pathlib import Path

ROOT = Path(__file__).parent.parent
DRYLAMP = [sys.executable, "-m", "drylamp.cli"]
YARDSTICK = [sys.executable, "-c", "import numpy, scipy, pandas, numba, pvlib"]
TIMES = 3
WANTED = {"first page of drylamp serve": 0.8, "drylamp run of a box oven": 1.3, "drylamp --help": 0.15}


def seconds(command: list[str]) -> float:
    begun = time.perf_counter()
    subprocess.run(command, check=True, stdout=subprocess.DEVNULL, cwd=ROOT)
    return time.perf_counter() - begun


def first_page(path: str = "/") -> float:
    """From the start of the server to the whole answer."""
    with tempfile.TemporaryDirectory() as data:
        begun = time.perf_counter()
        server = subprocess.Popen(
            [*DRYLAMP, "serve", "--port", "0", "--data", data], stdout=subprocess.PIPE, text=True,
            env={**os.environ, "PYTHONUNBUFFERED": "1"},
        )  # fmt: skip
        try:
            url = next(word for word in server.stdout.readline().split() if word.startswith("http")).rstrip("/")
            with urllib.request.urlopen(url + path, timeout=120) as answer:
                answer.read()
            return time.perf_counter() - begun
        finally:
            server.send_signal(signal.SIGTERM)
            server.wait(30)
            server.stdout.close()


def main() -> None:
    seconds(YARDSTICK)  # files into the system's cache
    seconds([*DRYLAMP, "run", "examples/oven-box.json"])
    tries = {
        "yardstick": lambda: seconds(YARDSTICK),
        "first page of drylamp serve": first_page,
        "first answer of the API": lambda: first_page("/api/kinds"),
        "drylamp run of a box oven": lambda: seconds([*DRYLAMP, "run", "examples/oven-box.json"]),
        "drylamp --help": lambda: seconds([*DRYLAMP, "--help"]),
    }
    taken = {name: statistics.median(once() for _ in range(TIMES)) for name, once in tries.items()}
    print(f"numpy, scipy, pandas, numba and pvlib imported in {taken['yardstick']:.2f} s")
    for name, spent in list(taken.items())[1:]:
        wanted = f", wanted {WANTED[name]:g}" if name in WANTED else ""
        print(f"{name}: {spent / taken['yardstick']:.2f} of that{wanted}")


if __name__ == "__main__":
    main()
