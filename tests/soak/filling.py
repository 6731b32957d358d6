"""Fill the disk under the server: what was acknowledged stays, what was not is said, and with room again it goes on."""

from __future__ import annotations

import subprocess
from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import dataclass
from pathlib import Path

from tests.soak.killing import BATCH
from tests.soak.yard import Forked, Line, as_lines, kept, make_trial

FILLER = "filler"


@contextmanager
def small_disk(folder: Path, megabytes: int) -> Iterator[Path]:
    """A disk of so many megabytes in memory.

    Raises
    ------
    PermissionError
        this user may not make one.
    """
    done = subprocess.run(
        ["mount", "-t", "tmpfs", "-o", f"size={megabytes}m", "tmpfs", str(folder)], capture_output=True, check=False
    )
    if done.returncode:
        raise PermissionError(done.stderr.decode())
    try:
        yield folder
    finally:
        subprocess.run(["umount", "-l", str(folder)], check=True)


@dataclass
class Filled:
    """What became of it."""

    acknowledged: int = 0
    refused: int = 0
    lost: int = 0
    said: str = ""
    went_on: bool = False
    lists_worked: bool = False


def fill_up(folder: Path, rounds: int = 1) -> Filled:
    """Write into a folder on a small disk until it is full, look at what is said, make room, and write on."""
    out = Filled(went_on=True, lists_worked=True)
    server = Forked(folder / "yard.sqlite3")
    trial, token = make_trial(server.port)
    how = {"Authorization": f"Bearer {token}", "Content-Type": "text/csv"}
    line, path, number, good = Line(server.port), f"/api/trials/{trial}/ingest", 0, []
    try:
        for _ in range(rounds):
            _fill_rest(folder)
            for _ in range(2000):
                status, answer = line.ask("POST", path, as_lines(number, BATCH), **how)
                if status != 200:
                    break
                good.append(number)
                number += BATCH
            assert status == 507, answer
            out.refused += 1
            out.said = answer["detail"]
            out.lists_worked &= line.ask("GET", "/api/trials")[0] == 200
            (folder / FILLER).unlink()
            status, answer = line.ask("POST", path, as_lines(number, BATCH), **how)
            went_on = status == 200 and answer["written"] == BATCH
            out.went_on &= went_on
            if went_on:
                good.append(number)
                number += BATCH
    finally:
        server.kill()
    found = kept(folder / "yard.sqlite3", trial)
    out.acknowledged = len(good) * BATCH
    out.lost = sum(n not in found for first in good for n in range(first, first + BATCH))
    return out


def _fill_rest(folder: Path) -> None:
    """Leave so little room that a few batches fill it."""
    with (folder / FILLER).open("wb", buffering=0) as file:
        try:
            while True:
                file.write(b"\0" * 65536)
        except OSError:
            pass
        file.truncate(max(0, file.tell() - 400_000))
