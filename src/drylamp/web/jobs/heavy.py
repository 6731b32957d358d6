"""Which routes are heavy, and their way to a worker."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any, TypeVar, cast

from flask import Flask, Response, current_app, request
from pydantic import BaseModel

from drylamp.core.long import KeptWhole, Long, Step, whole
from drylamp.web import context
from drylamp.web.errors import problem
from drylamp.web.jobs.asking import Ask, Lane, Reply, is_inside, told
from drylamp.web.jobs.workers import BusyError, Job, Workers
from drylamp.web.routed import view_name

_WHOLE = KeptWhole(128)
A = TypeVar("A")
V = TypeVar("V", bound=Callable[..., Any])
_LANES: dict[str, Lane] = {}
"""Lane of each heavy route, by module and name of what answers it."""


def heavy(lane: Lane = "soon") -> Callable[[V], V]:
    """Mark a route's function as heavy; stands below the route."""

    def mark(view: V) -> V:
        _LANES[view_name(view)] = lane
        return view

    return mark


def lane_of_view(view: Callable[..., Any]) -> Lane | None:
    """The lane of a route's function; none where it is not heavy."""
    return _LANES.get(view_name(view))


def lane_of(app: Flask, method: str, path: str) -> Lane | None:
    """The lane of a route; none where it is not heavy, or not there."""
    adapter = app.url_map.bind("localhost")
    try:
        endpoint, _ = adapter.match(path.partition("?")[0], method=method)
    except Exception:  # no such route: whoever asks is told when it is asked
        return None
    return lane_of_view(app.view_functions[endpoint])


def workers() -> Workers:
    """The server's heavy answers."""
    return cast(Workers, current_app.config["WORKERS"])


def in_steps(
    key: str, make: Callable[[], Long[Any]], shown: Callable[[Any], BaseModel] = lambda answer: answer
) -> Response:
    """Answer with the last of several steps; each is told to whoever waits, and the whole is kept by its key."""
    found = None
    for step in _WHOLE.steps(key, make):
        found = Step(step.share, shown(step.answer))
        told(found.share, found.answer)
    assert found is not None, "a long answer has at least one step"
    return context.answer(found.answer)


def kept_whole(key: str, make: Callable[[], Long[A]]) -> A:
    """The same answer, kept by the same key, for a route that makes something else of it."""
    return whole(_WHOLE.steps(key, make))


def asked(method: str, path: str, body: bytes) -> Ask:
    """A question as a worker takes it."""
    kept = [("Content-Type", "application/json"), ("Host", "localhost")]
    mark = request.headers.get("If-Match")
    return Ask(method, path, body, context.now(), tuple(kept + ([("If-Match", mark)] if mark else [])))


def register(app: Flask) -> None:
    """Send heavy requests to a worker where there are any."""

    @app.before_request
    def to_worker() -> Response | None:
        if is_inside() or not app.config["FAR"]:
            return None
        view = app.view_functions.get(request.endpoint or "")
        lane = None if view is None else lane_of_view(view)
        if lane is None:
            return None
        path = request.full_path.removesuffix("?")
        job = workers().ask(asked(request.method, path, request.get_data()), lane)
        job.over.wait()
        return response_of(job)

    app.register_error_handler(BusyError, _busy)


def _busy(error: BusyError) -> Response:
    answer = problem(503, str(error))
    answer.headers["Retry-After"] = "5"
    return answer


def response_of(job: Job) -> Response:
    """What came of a job, as if it had been answered here."""
    reply: Reply | None = job.reply
    if reply is None:
        return problem(409 if job.state == "stopped" else 500, job.why or "it was stopped before it was done")
    return Response(reply.body, reply.status, mimetype=reply.mimetype, headers=list(reply.headers))
