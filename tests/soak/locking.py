"""Another program holds the data file: writes wait, then are refused in a sentence, reading goes on, nothing is lost."""

from __future__ import annotations

import sqlite3
import time
from dataclasses import dataclass
from pathlib import Path

from drylamp.store import database
from tests.soak.killing import BATCH
from tests.soak.yard import Forked, Line, as_lines, kept, make_trial


@dataclass
class Held:
    """What became of it."""

    refused: int = 0
    acknowledged: int = 0
    lost: int = 0
    said: str = ""
    slowest_read_s: float = 0.0


def hold_often(folder: Path, times: int, patience_s: float = 0.2) -> Held:
    """Take the lock of the data file so often, write meanwhile, and let it go."""
    usual, database.PATIENCE_S = database.PATIENCE_S, patience_s  # the forked server inherits it
    data, out = folder / "yard.sqlite3", Held()
    try:
        server = Forked(data)
    finally:
        database.PATIENCE_S = usual
    trial, token = make_trial(server.port)
    how = {"Authorization": f"Bearer {token}", "Content-Type": "text/csv"}
    line, path, number, good = Line(server.port), f"/api/trials/{trial}/ingest", 0, []
    thief = sqlite3.connect(data, isolation_level=None)
    try:
        for _ in range(times):
            thief.execute("BEGIN IMMEDIATE")
            status, answer = line.ask("POST", path, as_lines(number, BATCH), **how)
            assert status == 503, answer
            out.refused += 1
            out.said = answer["detail"]
            began = time.perf_counter()
            assert line.ask("GET", "/api/trials")[0] == 200
            out.slowest_read_s = max(out.slowest_read_s, time.perf_counter() - began)
            thief.execute("ROLLBACK")
            status, answer = line.ask("POST", path, as_lines(number, BATCH), **how)
            assert (status, answer["written"]) == (200, BATCH), answer
            good.append(number)
            number += BATCH
    finally:
        thief.close()
        server.kill()
    found = kept(data, trial)
    out.acknowledged = len(good) * BATCH
    out.lost = sum(n not in found for first in good for n in range(first, first + BATCH))
    return out
