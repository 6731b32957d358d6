"""Long answers in the background: one at a time, each with what it knows so far; finished ones are kept by what they depend on."""

from __future__ import annotations

import hashlib
import logging
import threading
from collections import OrderedDict
from collections.abc import Callable
from concurrent.futures import Executor, ThreadPoolExecutor
from dataclasses import dataclass, field
from typing import Literal

from drylamp.core.checks import InputProblem, Model
from drylamp.core.long import Long
from drylamp.core.text import plain
from drylamp.store.database import NotFoundError

State = Literal["waiting", "running", "done", "stopped", "refused", "failed"]
MOST_KEPT, MOST_WAITING = 24, 8
ENDED: tuple[State, ...] = ("done", "stopped", "refused", "failed")


@dataclass
class Job:
    """A long answer.

    Attributes:
        key: what it depends on, shortened; also its name
        share: how far it is, 0–1
        answer: as it stands; none before the first step
        why: what it was refused for
    """

    key: str
    question: str
    state: State = "waiting"
    share: float = 0.0
    answer: Model | None = None
    why: str = ""
    stop: threading.Event = field(default_factory=threading.Event)


class Jobs:
    """All long answers of a server; safe among threads."""

    def __init__(self, executor: Executor | None = None) -> None:
        self._executor = executor or ThreadPoolExecutor(max_workers=1, thread_name_prefix="long")
        self._jobs: OrderedDict[str, Job] = OrderedDict()
        self._lock = threading.Lock()

    def ask(self, question: str, depends_on: str, make: Callable[[], Long[Model]]) -> Job:
        """The job of a question: the one that runs or is done, or a new one.

        Raises:
            InputProblem: too many wait already.
        """
        key = hashlib.blake2b(f"{question} {depends_on}".encode(), digest_size=12).hexdigest()
        with self._lock:
            found = self._jobs.get(key)
            if found is not None and found.state not in ("stopped", "failed", "refused"):
                self._jobs.move_to_end(key)
                return found
            waiting = sum(job.state == "waiting" for job in self._jobs.values())
            if waiting >= MOST_WAITING:
                raise InputProblem("question", f"{waiting} long answers wait already; stop one, or wait for one to end")
            job = self._jobs[key] = Job(key, question)
            self._jobs.move_to_end(key)
            self._let_go()
        self._executor.submit(_work, job, make)
        return job

    def _let_go(self) -> None:
        """The oldest that ended, where there are too many."""
        for key in [key for key, job in self._jobs.items() if job.state in ENDED][
            : max(len(self._jobs) - MOST_KEPT, 0)
        ]:
            del self._jobs[key]

    def get(self, key: str) -> Job:
        """A job by its name.

        Raises:
            NotFoundError: there is none of that name, or it was let go.
        """
        with self._lock:
            if key not in self._jobs:
                raise NotFoundError(f"there is no long answer {key}; ask again")
            return self._jobs[key]

    def stop(self, key: str) -> Job:
        """Stop a job after its present step; what it found until then stays."""
        job = self.get(key)
        job.stop.set()
        if job.state == "waiting":
            job.state = "stopped"
        return job


def _work(job: Job, make: Callable[[], Long[Model]]) -> None:
    if job.stop.is_set():
        return
    job.state = "running"
    try:
        for step in make():
            job.share, job.answer = step.share, step.answer
            if job.stop.is_set():
                job.state = "stopped"
                return
        job.state = "done"
    except InputProblem as problem:
        job.why, job.state = plain(str(problem)), "refused"
    except Exception:  # said on the page, told in the log
        logging.getLogger("drylamp").exception("a long answer failed")
        job.why, job.state = "it could not be worked out; the server's log says why", "failed"
