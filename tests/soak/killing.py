"""Kill the server while loggers write: every acknowledged reading is there afterwards, as it was sent."""

from __future__ import annotations

import http.client
import random
import threading
import time
from dataclasses import dataclass, field
from pathlib import Path

from tests.soak.yard import Forked, Line, as_lines, kept, make_trial, stamped

BATCH = 50


@dataclass
class Tally:
    """What became of a soak."""

    kills: int = 0
    sent: int = 0
    acknowledged: int = 0
    repeated: int = 0
    lost: int = 0
    changed: int = 0
    slowest_s: float = 0.0
    memory_mb: float = 0.0
    numbers: set[int] = field(default_factory=set, repr=False)


class Logger(threading.Thread):
    """Posts batches at a pace, each until it is acknowledged; what was on its way when the server died is sent again."""

    def __init__(self, trial: int, token: str, lane: int, lanes: int, per_s: float) -> None:
        super().__init__(daemon=True)
        self.path, self.headers = (
            f"/api/trials/{trial}/ingest",
            {"Authorization": f"Bearer {token}", "Content-Type": "text/csv"},
        )
        self.next, self.stride = lane * BATCH, lanes * BATCH
        self.pause_s = lanes * BATCH / per_s
        self.port = 0
        self.there, self.over = threading.Event(), threading.Event()
        self.acknowledged: list[int] = []
        self.sent = self.repeated = 0
        self.slowest_s = 0.0

    def run(self) -> None:
        while not self.over.is_set():
            if self.there.wait(0.2):
                self._post(Line(self.port))

    def _post(self, line: Line) -> None:
        due = time.monotonic()
        try:
            while self.there.is_set() and not self.over.is_set():
                self.sent += BATCH
                status, answer = line.ask("POST", self.path, as_lines(self.next, BATCH), **self.headers)
                assert status == 200, answer
                assert answer["written"] + answer["repeated"] == BATCH, answer
                self.repeated += answer["repeated"]
                self.acknowledged.append(self.next)
                self.next += self.stride
                due += self.pause_s
                time.sleep(max(0.0, due - time.monotonic()))
        except (OSError, http.client.HTTPException):
            self.there.clear()
        finally:
            self.slowest_s = max(self.slowest_s, line.slowest_s)
            line.http.close()


def kill_often(folder: Path, kills: int, per_s: float, seed: int = 1, alive_s: tuple[float, float] = (0.15, 0.6), lanes: int = 2) -> Tally:  # fmt: skip
    """Kill a server so often under so many readings a second.

    Parameters
    ----------
    alive_s
        shortest and longest life of a server, seconds
    """
    data, chance, tally = folder / "yard.sqlite3", random.Random(seed), Tally()
    server = Forked(data)
    trial, token = make_trial(server.port)
    loggers = [Logger(trial, token, lane, lanes, per_s) for lane in range(lanes)]
    for logger in loggers:
        logger.start()
    try:
        for _ in range(kills):
            for logger in loggers:
                logger.port = server.port
                logger.there.set()
            time.sleep(chance.uniform(*alive_s))
            tally.memory_mb = max(tally.memory_mb, server.memory_mb())
            server.kill()
            tally.kills += 1
            for logger in loggers:
                logger.there.clear()
            server = Forked(data)
    finally:
        for logger in loggers:
            logger.over.set()
        for logger in loggers:
            logger.join(60)
        server.kill()
    return _counted(tally, loggers, data, trial)


def _counted(tally: Tally, loggers: list[Logger], data: Path, trial: int) -> Tally:
    found = kept(data, trial)
    for logger in loggers:
        assert not logger.is_alive()
        tally.sent += logger.sent
        tally.repeated += logger.repeated
        tally.slowest_s = max(tally.slowest_s, logger.slowest_s)
        for first in logger.acknowledged:
            for number in range(first, first + BATCH):
                tally.acknowledged += 1
                if number not in found:
                    tally.lost += 1
                elif abs(found[number] - stamped(number)[1]) > 1e-6:
                    tally.changed += 1
    return tally
