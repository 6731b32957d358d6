"""Heavy answers: begin one, look at it, stop it."""

from __future__ import annotations

import json

from flask import Flask, Response, current_app

from drylamp.core.checks import InputProblem
from drylamp.web import context
from drylamp.web.jobs.heavy import asked, lane_of, workers
from drylamp.web.jobs.models import JobAsk, JobPath, JobView
from drylamp.web.jobs.workers import Job
from drylamp.web.routed import blueprint

api = blueprint("jobs", "/api/jobs")


@api.post("", responses={202: JobView})
def begin(body: JobAsk) -> Response:
    """Begin a heavy answer."""
    app: Flask = current_app._get_current_object()  # type: ignore[attr-defined]
    lane = lane_of(app, body.method, body.path)
    if lane is None:
        raise InputProblem("path", f"{body.method} {body.path} is no heavy question; ask it directly")
    sent = b"" if body.body is None else json.dumps(body.body).encode()
    return _view(workers().ask(asked(body.method, body.path, sent), lane, body.view), 202)


@api.get("/<string:key>", responses={200: JobView})
def look(path: JobPath) -> Response:
    """Look at a heavy answer."""
    return _view(workers().get(path.key))


@api.post("/<string:key>/stop", responses={200: JobView})
def stop(path: JobPath) -> Response:
    """Stop a heavy answer; what it found until then stays."""
    return _view(workers().stop(path.key))


def _view(job: Job, status: int = 200) -> Response:
    why, answer = job.why, job.answer
    if job.reply is not None and job.state in ("refused", "failed"):
        why = (
            json.loads(job.reply.body).get("detail", "")
            if job.reply.mimetype.endswith("json")
            else job.reply.body.decode()
        )
    made = JobView(
        key=job.key, path=job.ask.path, state=job.state, share=round(job.share, 3), why=why,
        answer=None if answer is None else json.loads(answer),
    )  # fmt: skip
    return context.answer(made, status)
