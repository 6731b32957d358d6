"""Long answers over the wire: begun, looked at, stopped, kept by what they depend on."""

from __future__ import annotations

import threading
import time
from collections.abc import Iterator

import pytest
from flask.testing import FlaskClient

from drylamp.core.advice.chance import Chance
from drylamp.core.checks import InputProblem
from drylamp.core.long import Step
from drylamp.demo.scenario import FILM_KILN, OAK, OVEN, STEW
from drylamp.store.database import NotFoundError
from drylamp.web.jobs.runner import ENDED, MOST_WAITING, Job, Jobs
from tests.core.kilns import boards, charge
from tests.web.test_advice_api import asked, post

PINE = charge(boards("scots-pine", 27.0, 0.3, start="measured", start_mc=0.2, target_mc=0.12, length_m=2.4))


def ended(client: FlaskClient, key: str) -> dict:
    for _ in range(2400):
        found = client.get(f"/api/jobs/{key}").get_json()
        if found["state"] in ENDED:
            return found
        time.sleep(0.05)
    raise AssertionError("it never ended")


def test_chance_is_begun_looked_at_and_kept(client: FlaskClient):
    body = asked(FILM_KILN, PINE, years=4)
    begun = post(client, "/api/jobs/chance", body, 202)
    assert begun["question"] == "chance"
    found = ended(client, begun["key"])
    assert (found["state"], found["share"]) == ("done", 1.0)
    assert len(found["chance"]["members"]) == 4
    assert found["queue"] is None
    again = post(client, "/api/jobs/chance", body, 202)
    assert again["key"] == begun["key"]
    assert again["state"] == "done", "kept by what it depends on"
    assert post(client, "/api/jobs/chance", asked(FILM_KILN, PINE, years=3), 202)["key"] != begun["key"]


def test_a_queue_without_stacks_is_refused_in_a_sentence(client: FlaskClient):
    begun = post(client, "/api/jobs/queue", asked(FILM_KILN, OAK), 202)
    found = ended(client, begun["key"])
    assert found["state"] == "refused"
    assert "no stack waits" in found["why"]
    assert "boards stacked in it" in post(client, "/api/jobs/queue", asked(OVEN, STEW), 422)["detail"]


def test_unknown_keys_and_years_out_of_range(client: FlaskClient):
    assert client.get(f"/api/jobs/{'0' * 24}").status_code == 404
    assert client.get("/api/jobs/nonsense").status_code == 422
    post(client, "/api/jobs/chance", asked(FILM_KILN, PINE, years=100000), 422)


# --- the runner by itself ---


def answer(k: int) -> Chance:
    return Chance(counts="x", quantity="count", years=9, members=[float(k)], low=None, likely=None, high=None, never=0.0, words="x")  # fmt: skip


class Gate:
    """A long answer that goes on a step at a time."""

    def __init__(self) -> None:
        self.open, self.at = threading.Event(), threading.Event()
        self.steps = 0

    def make(self) -> Iterator[Step[Chance]]:
        for k in range(5):
            self.steps += 1
            yield Step((k + 1) / 5, answer(k))
            self.at.set()
            assert self.open.wait(20.0)


def wait(job: Job, *states: str) -> None:
    for _ in range(400):
        if job.state in states:
            return
        time.sleep(0.02)
    raise AssertionError(job.state)


def test_stopping_keeps_what_was_found_and_works_no_further():
    jobs, gate = Jobs(), Gate()
    job = jobs.ask("chance", "a", gate.make)
    assert gate.at.wait(20.0) or job.answer is not None
    jobs.stop(job.key)
    gate.open.set()
    wait(job, "stopped")
    assert job.answer is not None
    assert gate.steps <= 2
    assert jobs.ask("chance", "a", Gate().make) is not job, "asked anew after it was stopped"


def test_one_at_a_time_the_same_question_once_and_few_wait():
    jobs, gate = Jobs(), Gate()
    first = jobs.ask("chance", "a", gate.make)
    assert jobs.ask("chance", "a", gate.make) is first
    wait(first, "running")
    waiting = [jobs.ask("chance", f"w{k}", gate.make) for k in range(MOST_WAITING)]
    assert all(job.state == "waiting" for job in waiting)
    with pytest.raises(InputProblem, match="long answers wait already"):
        jobs.ask("chance", "one too many", gate.make)
    jobs.stop(waiting[0].key)
    assert waiting[0].state == "stopped"
    gate.open.set()
    wait(first, "done")
    wait(waiting[-1], "done")


def test_what_cannot_be_is_said_and_what_breaks_is_not_told_as_a_trace():
    def refused() -> Iterator[Step[Chance]]:
        raise InputProblem("load", "nothing is in it")
        yield Step(1.0, answer(0))

    def breaks() -> Iterator[Step[Chance]]:
        yield Step(0.5, answer(0))
        raise ZeroDivisionError

    jobs = Jobs()
    no, bad = jobs.ask("chance", "no", refused), jobs.ask("chance", "bad", breaks)
    wait(no, "refused")
    wait(bad, "failed")
    assert "nothing is in it" in no.why
    assert "ZeroDivision" not in bad.why
    assert bad.answer is not None
    with pytest.raises(NotFoundError, match="ask again"):
        jobs.get("nothing")
