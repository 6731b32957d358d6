"""The small queue in front of the workers: two lanes, one for what takes seconds and one for what takes longer.

Questions that are alike share one answer. The newest question of a view takes the place of its older ones; whoever
wants to stop one stops it at its next step, or loses the worker's process with it.
"""

from __future__ import annotations

import contextlib
import logging
import multiprocessing
import threading
import time
from collections import OrderedDict, deque
from dataclasses import dataclass, field
from multiprocessing.connection import Connection
from multiprocessing.process import BaseProcess
from pathlib import Path
from typing import Literal, Protocol, get_args

from flask import Flask

from drylamp.core.checks import DryLampError
from drylamp.store.database import NotFoundError
from drylamp.web.jobs.asking import Ask, Lane, Reply, StoppedError, reply_to
from drylamp.web.jobs.worker import work

State = Literal["waiting", "running", "done", "stopped", "refused", "failed"]
ENDED: tuple[State, ...] = ("done", "stopped", "refused", "failed")
MOST_KEPT, MOST_WAITING = 48, 12
PATIENCE_S = 2.0
"""So long a stopped question may take to come to its next step before its process is ended."""
LONGEST_S: dict[Lane, float] = {"soon": 600.0, "long": 5400.0}
"""So long one answer of a lane may take before it is given up, on a machine four times as slow as it was made on."""
TOO_LONG = "it was given up after {minutes:.0f} minutes; ask for fewer days or a shorter trial"
BUSY = "{n} heavy answers wait already; stop one, or wait for one to end"
REPLACED = "a newer question of the same view took this one's place"


class BusyError(DryLampError):
    """Too many heavy answers wait already."""


@dataclass
class Job:
    """A heavy answer on its way.

    Attributes:
        share: how far it is, 0–1
        answer: as it stands, JSON; none before the first step
        views: views that wait for it
    """

    ask: Ask
    lane: Lane
    state: State = "waiting"
    share: float = 0.0
    answer: bytes | None = None
    reply: Reply | None = None
    why: str = ""
    views: set[str] = field(default_factory=set)
    stop: threading.Event = field(default_factory=threading.Event)
    over: threading.Event = field(default_factory=threading.Event)

    @property
    def key(self) -> str:
        """Its name."""
        return self.ask.key

    def step(self, share: float, answer: bytes) -> None:
        """Put down how far it is."""
        self.share, self.answer = share, answer

    def end(self, state: State, reply: Reply | None = None, why: str = "") -> None:
        """It is over; whoever waits is told."""
        if not self.over.is_set():
            self.state, self.reply, self.why = state, reply, why
            self.over.set()


class Runner(Protocol):
    """What runs a job to its end, and can be told to let it go."""

    def begin(self) -> None:
        """Get ready."""

    def run(self, job: Job) -> None:
        """Run it; returns when it is over."""

    def give_up(self, job: Job) -> None:
        """Let it go, whatever it takes."""

    def close(self) -> None:
        """End what was begun."""


class Here:
    """Runs jobs in this process: for tests, and inside of workers."""

    def __init__(self, app: Flask) -> None:
        self._app = app

    def begin(self) -> None:
        """It is ready."""

    def run(self, job: Job) -> None:
        """Run it in this thread."""

        def report(share: float, answer: bytes) -> None:
            job.step(share, answer)
            if job.stop.is_set():
                raise StoppedError

        try:
            _close(job, reply_to(self._app, job.ask, report))
        except StoppedError:
            job.end("stopped")

    def give_up(self, job: Job) -> None:
        """It stops at its next step."""

    def close(self) -> None:
        """Nothing was begun."""


class Process:
    """Runs jobs in a process that is begun when it is first needed, and anew where it was ended.

    Processes are forked from one that has loaded and warmed all that they need, so that a new one costs no seconds.
    """

    def __init__(self, data: Path, longest_s: float = LONGEST_S["soon"]) -> None:
        self._data, self._longest_s = data, longest_s
        self._context = multiprocessing.get_context("forkserver")
        self._context.set_forkserver_preload(["drylamp.web.jobs.warm"])
        self._number = 0
        self._stopper: Connection | None = None
        self._process: BaseProcess | None = None
        self._line: Connection | None = None
        self._now: Job | None = None
        self._lock = threading.Lock()

    def begin(self) -> None:
        """Begin the process, so that the first question need not wait for it."""
        self._begun()

    def run(self, job: Job) -> None:
        """Hand it to the process and listen until it is over."""
        line = self._begun()
        self._now = job
        self._number += 1
        try:
            line.send((self._number, job.ask))
            until = time.monotonic() + self._longest_s
            while not job.over.is_set():
                if not line.poll(max(0.0, until - time.monotonic())):
                    job.end("failed", why=TOO_LONG.format(minutes=self._longest_s / 60.0))
                    self._end()
                    self._lost()
                    return
                self._heard(job, line.recv())
        except (EOFError, OSError):
            if job.stop.is_set():
                job.end("stopped")
            else:
                job.end("failed", why="the process that worked it out has ended; ask again")
            self._lost()
        finally:
            self._now = None

    def _heard(self, job: Job, told: tuple[object, ...]) -> None:
        if told[0] == "step":
            job.step(told[1], told[2])  # type: ignore[arg-type]
            if job.stop.is_set():
                self._ask_to_stop()
        elif told[0] == "stopped":
            job.end("stopped")
        else:
            _close(job, told[1])  # type: ignore[arg-type]

    def give_up(self, job: Job) -> None:
        """Ask it to stop at its next step; if that takes too long, end the process."""
        if self._now is job:
            self._ask_to_stop()
        if not job.over.wait(PATIENCE_S) and self._now is job:
            self._end()

    def _ask_to_stop(self) -> None:
        """Tell the process which answer is no longer wanted; it looks at each of its steps."""
        stopper = self._stopper
        if stopper is not None:
            with contextlib.suppress(OSError):  # it has ended already
                stopper.send(self._number)

    def close(self) -> None:
        """End the process."""
        self._end()

    def _begun(self) -> Connection:
        with self._lock:
            if self._process is None or not self._process.is_alive() or self._line is None:
                mine, other = self._context.Pipe()
                heard, self._stopper = self._context.Pipe(
                    duplex=False
                )  # a pipe, not a semaphore, which would outlive a killed server
                self._process = self._context.Process(target=work, args=(self._data, other, heard), daemon=True, name="drylamp-worker")  # fmt: skip
                self._process.start()
                other.close()
                heard.close()
                self._line = mine
            return self._line

    def _end(self) -> None:
        process = self._process
        if process is not None and process.is_alive():
            process.terminate()
            process.join(5.0)
            if process.is_alive():
                process.kill()

    def _lost(self) -> None:
        with self._lock:
            for end in (self._line, self._stopper):
                if end is not None:
                    end.close()
            self._process = self._line = self._stopper = None


def _close(job: Job, reply: Reply) -> None:
    if reply.status < 400:
        job.step(1.0, reply.body)
        job.end("done", reply)
    else:
        job.end("refused" if reply.status < 500 else "failed", reply)


class Workers:
    """All heavy answers of a server; safe among threads."""

    def __init__(self, runners: dict[Lane, Runner]) -> None:
        self._runners = runners
        self._jobs: OrderedDict[str, Job] = OrderedDict()
        self._waiting: dict[Lane, deque[Job]] = {lane: deque() for lane in get_args(Lane)}
        self._lock = threading.Lock()
        self._more = threading.Condition(self._lock)
        self._threads: dict[Lane, threading.Thread] = {}
        self._closed = False

    def ask(self, ask: Ask, lane: Lane, view: str = "") -> Job:
        """The job of a question: the one that waits or runs already, or a new one.

        Raises
        ------
        BusyError
            too many wait already.
        """
        with self._more:
            key = ask.key
            self._replace(view, key)
            job = self._jobs.get(key)
            if job is None or job.over.is_set() or job.stop.is_set():
                waiting = sum(len(line) for line in self._waiting.values())
                if waiting >= MOST_WAITING:
                    raise BusyError(BUSY.format(n=waiting))
                job = self._jobs[key] = Job(ask, lane)
                self._waiting[lane].append(job)
                self._let_go()
                self._listen(lane)
                self._more.notify_all()
            self._jobs.move_to_end(key)
            if view:
                job.views.add(view)
            return job

    def _replace(self, view: str, key: str) -> None:
        """Older questions of a view give way, where no other view waits for them."""
        if not view:
            return
        for other in [job for name, job in self._jobs.items() if view in job.views and name != key]:
            other.views.discard(view)
            if not other.views and not other.over.is_set():
                other.stop.set()
                if other.state == "waiting":
                    self._waiting[other.lane].remove(other)
                    other.end("stopped", why=REPLACED)

    def _let_go(self) -> None:
        """The oldest that are over, where there are too many."""
        over = [key for key, job in self._jobs.items() if job.over.is_set()]
        for key in over[: max(len(self._jobs) - MOST_KEPT, 0)]:
            del self._jobs[key]

    def _listen(self, lane: Lane) -> None:
        if lane not in self._threads:
            thread = threading.Thread(target=self._work, args=(lane,), name=f"lane-{lane}", daemon=True)
            self._threads[lane] = thread
            thread.start()

    def _work(self, lane: Lane) -> None:
        line, runner = self._waiting[lane], self._runners[lane]
        while True:
            with self._more:
                while not line and not self._closed:
                    self._more.wait()
                if self._closed:
                    return
                job = line.popleft()
                job.state = "running"
            try:
                runner.run(job)
            except Exception:  # said on the page, told in the log
                logging.getLogger("drylamp").exception("a heavy answer failed")
                job.end("failed", why="it could not be worked out; the server's log says why")

    def begin(self) -> None:
        """Begin the process of the quick lane, so that the first question need not wait for it."""
        self._runners["soon"].begin()

    def get(self, key: str) -> Job:
        """A job by its name.

        Raises
        ------
        NotFoundError
            there is none of that name, or it was let go.
        """
        with self._lock:
            if key not in self._jobs:
                raise NotFoundError(f"there is no heavy answer {key}; ask again")
            return self._jobs[key]

    def stop(self, key: str) -> Job:
        """Stop a job; what it found until then stays."""
        job = self.get(key)
        with self._lock:
            job.stop.set()
            if job.state == "waiting" and job in self._waiting[job.lane]:
                self._waiting[job.lane].remove(job)
                job.end("stopped")
        if not job.over.is_set():
            self._runners[job.lane].give_up(job)
        return job

    def close(self) -> None:
        """End the workers; nothing more is answered."""
        with self._more:
            self._closed = True
            self._more.notify_all()
        for runner in self._runners.values():
            runner.close()
