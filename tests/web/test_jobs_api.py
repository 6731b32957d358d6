"""Heavy answers: begun, looked at, stopped, replaced by newer ones of their view; worked out by processes of their own."""

from __future__ import annotations

import json
import os
import threading
import time
from collections.abc import Callable, Iterator
from datetime import UTC, datetime
from pathlib import Path

import pytest
from flask.testing import FlaskClient

from drylamp.core.long import KeptWhole, Step, whole
from drylamp.demo.scenario import CAPPINGS, FILM_KILN, MELTER, OAK, OVEN, STEW, TERRACE, demo_now
from drylamp.store.database import NotFoundError
from drylamp.web.advice import routes as advice
from drylamp.web.app import create_app
from drylamp.web.jobs.asking import Ask, Reply
from drylamp.web.jobs.workers import ENDED, MOST_WAITING, BusyError, Job, Workers
from drylamp.web.settings import Settings
from drylamp.web.twin import routes as twin
from tests.core.kilns import boards, charge
from tests.web.test_advice_api import asked, post

PINE = charge(boards("scots-pine", 27.0, 0.3, start="measured", start_mc=0.2, target_mc=0.12, length_m=2.4))


def begin(client: FlaskClient, path: str, body: dict, status: int = 202, view: str = "") -> dict:
    return post(client, "/api/jobs", {"path": path, "body": body, "view": view}, status)


def ended(client: FlaskClient, key: str) -> dict:
    for _ in range(2400):
        found = client.get(f"/api/jobs/{key}").get_json()
        if found["state"] in ENDED:
            return found
        time.sleep(0.05)
    raise AssertionError("it never ended")


def test_a_heavy_answer_is_begun_looked_at_and_the_same_as_asked_directly(client: FlaskClient):
    body = asked(FILM_KILN, PINE, years=4)
    found = ended(client, begin(client, "/api/advice/chance", body)["key"])
    assert (found["state"], found["share"]) == ("done", 1.0)
    assert len(found["answer"]["members"]) == 4
    assert found["answer"] == post(client, "/api/advice/chance", body)


@pytest.mark.parametrize("path", ["advice/weakest", "advice/schools", "advice/sayings", "advice/turning", "advice/year", "twin/months"])  # fmt: skip
def test_the_slow_ones_answer_in_steps(client: FlaskClient, path: str, monkeypatch: pytest.MonkeyPatch):
    monkeypatch.setattr("drylamp.web.jobs.heavy._WHOLE", KeptWhole(8))
    steps = list[tuple[float, dict]]()
    mark = Job.step
    monkeypatch.setattr(
        Job, "step", lambda job, share, answer: (steps.append((share, json.loads(answer))), mark(job, share, answer))[1]
    )
    found = ended(client, begin(client, f"/api/{path}", asked(OVEN, STEW))["key"])
    assert found["state"] == "done"
    shares = [share for share, _ in steps]
    assert len(shares) > 3
    assert shares == sorted(shares)
    sizes = [len(json.dumps(answer)) for _, answer in steps]
    assert sizes[0] < sizes[-1], "it grows"


def test_a_year_and_its_months_are_worked_out_once(client: FlaskClient, monkeypatch: pytest.MonkeyPatch):
    """For the page of the year and for what is made of it, on whichever day of it one stands."""
    monkeypatch.setattr("drylamp.web.jobs.heavy._WHOLE", KeptWhole(8))
    made = list[str]()
    for module, name in ((advice, "year_steps"), (twin, "_months")):
        steps = getattr(module, name)
        monkeypatch.setattr(module, name, lambda *a, name=name, steps=steps: (made.append(name), steps(*a))[1])
    body = asked(MELTER, CAPPINGS)
    for other in (body, {**body, "day": "2025-07-02"}):
        post(client, "/api/advice/year", other)
        post(client, "/api/advice/stock", {**other, "stock_kg": 8.0, "until": "2025-09-22"})
        post(client, "/api/twin/months", other)
    assert made == ["year_steps", "_months"]


def test_what_is_refused_says_why_and_what_is_not_heavy_is_sent_away(client: FlaskClient):
    refused = ended(client, begin(client, "/api/advice/queue", asked(FILM_KILN, OAK))["key"])
    assert (refused["state"], refused["answer"]) == ("refused", None)
    assert "no stack waits" in refused["why"]
    assert "boards stacked in it" in post(client, "/api/advice/queue", asked(OVEN, STEW), 422)["detail"]
    assert (
        ended(client, begin(client, "/api/advice/chance", asked(OVEN, STEW, years=100000))["key"])["state"] == "refused"
    )
    for path in ("/api/sites", "/api/nothing", "/api/twin/day"):
        assert "no heavy question" in begin(client, path, {}, 422)["detail"]
    assert client.get(f"/api/jobs/{'0' * 24}").status_code == 404
    assert client.get("/api/jobs/nonsense").status_code == 422


def test_the_whole_is_kept_by_what_it_depends_on():
    made = list[str]()

    def steps(name: str) -> Callable[[], Iterator[Step[str]]]:
        def make() -> Iterator[Step[str]]:
            made.append(name)
            yield Step(0.5, name[:1])
            yield Step(1.0, name)

        return make

    kept = KeptWhole(2)
    assert [step.answer for step in kept.steps("a", steps("first"))] == ["f", "first"]
    assert [step.answer for step in kept.steps("a", steps("again"))] == ["first"]
    next(kept.steps("b", steps("second")))
    assert whole(kept.steps("b", steps("second"))) == "second", "one that was left half-way is not kept"
    whole(kept.steps("c", steps("third")))
    whole(kept.steps("a", steps("first")))
    assert made == ["first", "second", "second", "third", "first"]


# --- the queue by itself ---


class Gate:
    """A runner whose jobs go on when they are let."""

    def __init__(self) -> None:
        self.open, self.ran = threading.Event(), list[str]()

    def begin(self) -> None:
        """It is ready."""

    def run(self, job: Job) -> None:
        self.ran.append(job.ask.path)
        job.step(0.5, b"1")
        while not self.open.wait(0.01):
            if job.stop.is_set():
                return job.end("stopped")
        if job.ask.path == "/breaks":
            raise ZeroDivisionError
        return job.end("done", Reply(200, b"2", "application/json"))

    def give_up(self, job: Job) -> None:
        """It looks by itself."""

    def close(self) -> None:
        self.open.set()


def ask(path: str) -> Ask:
    return Ask("POST", path, b"", datetime(2025, 6, 12, tzinfo=UTC))


def wait(job: Job, *states: str) -> None:
    for _ in range(1000):
        if job.state in states:
            return
        time.sleep(0.01)
    raise AssertionError(job.state)


@pytest.fixture
def gate() -> Iterator[tuple[Workers, Gate]]:
    runner = Gate()
    pool = Workers({"soon": runner, "long": runner})
    yield pool, runner
    pool.close()


def test_the_newest_question_of_a_view_takes_the_place_of_its_older_ones(gate: tuple[Workers, Gate]):
    pool, runner = gate
    first = pool.ask(ask("/0"), "soon", "tab next")
    wait(first, "running")
    slider = [pool.ask(ask(f"/{k}"), "soon", "tab next") for k in range(1, 9)]
    other = pool.ask(ask("/5"), "soon", "other tab")
    wait(first, "stopped")
    runner.open.set()
    wait(slider[-1], "done")
    wait(other, "done")
    assert [job.state for job in slider[:-1]] == ["stopped"] * 7
    assert "newer question" in slider[0].why
    assert runner.ran == ["/0", "/8", "/5"]
    assert pool.ask(ask("/8"), "soon") is not slider[-1], "what is over is asked anew; its answer is kept below"


def test_one_at_a_time_the_same_question_once_and_few_wait(gate: tuple[Workers, Gate]):
    pool, runner = gate
    first = pool.ask(ask("/a"), "soon")
    assert pool.ask(ask("/a"), "soon") is first
    wait(first, "running")
    waiting = [pool.ask(ask(f"/w{k}"), "soon") for k in range(MOST_WAITING)]
    with pytest.raises(BusyError, match="heavy answers wait already"):
        pool.ask(ask("/one too many"), "soon")
    assert pool.stop(waiting[0].key).state == "stopped"
    bad = pool.ask(ask("/breaks"), "soon")
    runner.open.set()
    wait(waiting[-1], "done")
    wait(bad, "failed")
    assert "ZeroDivision" not in bad.why
    with pytest.raises(NotFoundError, match="ask again"):
        pool.get("nothing")


def test_a_long_answer_does_not_hold_up_the_short_ones(gate: tuple[Workers, Gate]):
    pool, runner = gate
    long, soon = pool.ask(ask("/long"), "long"), pool.ask(ask("/soon"), "soon")
    wait(long, "running")
    wait(soon, "running")
    assert set(runner.ran) == {"/long", "/soon"}


# --- processes of their own ---


@pytest.fixture
def far(tmp_path: Path) -> Iterator[FlaskClient]:
    app = create_app(Settings(data=tmp_path / "far.sqlite3", now=demo_now, workers="processes"))
    with app.test_client() as made:
        made.post("/api/sites", json=TERRACE.model_dump(mode="json"))
        yield made
    app.config["WORKERS"].close()
    app.config["DATABASE"].close()


def test_a_process_of_its_own_works_it_out_and_may_be_lost(far: FlaskClient):
    """The same answer as here; the app goes on answering meanwhile; a process that is killed is said, and begun anew."""
    body = asked(OVEN, STEW)
    begun = begin(far, "/api/advice/chance", {**body, "years": 150})
    while far.get(f"/api/jobs/{begun['key']}").get_json()["answer"] is None:
        time.sleep(0.1)
    assert far.get("/api/health").status_code == 200
    pool = far.application.config["WORKERS"]
    os.kill(pool._runners["long"]._process.pid, 9)
    lost = ended(far, begun["key"])
    assert lost["state"] == "failed"
    assert "ask again" in lost["why"]
    assert lost["answer"]["members"], "what was known by then stays"
    again = begin(far, "/api/advice/chance", {**body, "years": 150})
    while far.get(f"/api/jobs/{again['key']}").get_json()["answer"] is None:
        time.sleep(0.1)
    assert post(far, f"/api/jobs/{again['key']}/stop", {})["state"] in ("running", "stopped")
    assert ended(far, again["key"])["state"] == "stopped"
    assert len(post(far, "/api/advice/turning", body)["lines"]) > 3, "asked directly, a process answers too"


def test_an_answer_that_takes_too_long_is_given_up_and_files_keep_their_name(far: FlaskClient):
    pool = far.application.config["WORKERS"]
    runner = pool._runners["long"]
    usual, runner._longest_s = runner._longest_s, 0.3
    begun = begin(far, "/api/advice/chance", {**asked(OVEN, STEW), "years": 150})
    late = ended(far, begun["key"])
    runner._longest_s = usual
    assert late["state"] == "failed"
    assert "given up" in late["why"]
    spec = {"site_id": 1, "name": "x", "spec": OVEN.model_dump(mode="json")}
    post(far, "/api/builds", spec, 201)
    post(far, "/api/trials", {"build_id": 1, "name": "t", "protocol": "quick-look"}, 201)
    answer = far.get("/api/trials/1/export.xlsx")
    assert answer.status_code == 200, answer.text
    assert 'filename="trial-1.xlsx"' in answer.headers["Content-Disposition"]
