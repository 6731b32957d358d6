"""Long answers: begin one, look at it, stop it."""

from __future__ import annotations

from dataclasses import replace
from typing import cast

from flask import Response, current_app

from drylamp.core.advice.chance import chance
from drylamp.core.advice.registry import advice_of_load
from drylamp.core.checks import InputProblem
from drylamp.web import context
from drylamp.web.cases import advice_context
from drylamp.web.jobs.models import ChanceRequest, JobPath, JobView
from drylamp.web.jobs.runner import Job, Jobs
from drylamp.web.routed import blueprint
from drylamp.web.sheets.ground import around_of, written
from drylamp.web.twin.models import TwinRequest

NO_QUEUE = "nothing waits for this kind of build; ask it of one with boards stacked in it"
api = blueprint("jobs", "/api/jobs")


def _jobs() -> Jobs:
    return cast(Jobs, current_app.config["JOBS"])


@api.post("/chance", responses={202: JobView})
def begin_chance(body: ChanceRequest) -> Response:
    """Run a load through many made-up years."""
    on = advice_context(body)
    return _view(_jobs().ask("chance", f"{on.case.key} {body.years}", lambda: chance(on, body.years)), 202)


@api.post("/queue", responses={202: JobView})
def begin_queue(body: TwinRequest) -> Response:
    """Propose what of the site's stacks goes into a build when, for a year."""
    on = advice_context(body)
    asked = advice_of_load(on.load).longer.get("queue")
    if asked is None:
        raise InputProblem("load", NO_QUEUE)
    with context.database() as db:
        around = replace(around_of(db, "site", body.site_id), today=body.day)
    depends = f"{on.case.key} {body.day} {written(around)}"
    return _view(_jobs().ask("queue", depends, lambda: asked(on, on.load, around)), 202)


@api.get("/<string:key>", responses={200: JobView})
def look(path: JobPath) -> Response:
    """Look at a long answer."""
    return _view(_jobs().get(path.key))


@api.post("/<string:key>/stop", responses={200: JobView})
def stop(path: JobPath) -> Response:
    """Stop a long answer; what it found until then stays."""
    return _view(_jobs().stop(path.key))


def _view(job: Job, status: int = 200) -> Response:
    made = JobView.model_validate(
        {"key": job.key, "question": job.question, "state": job.state, "share": round(job.share, 3), "why": job.why, job.question: job.answer}
    )  # fmt: skip
    return context.answer(made, status)
