"""The whole yard as one file: out, a look at one, and in."""

from __future__ import annotations

import io
import sqlite3

from flask import Response, request

from drylamp.core.checks import InputProblem
from drylamp.formats.yard.reader import YardPreview
from drylamp.web import context
from drylamp.web.routed import as_file, blueprint, takes
from drylamp.web.yard import door
from drylamp.web.yard.models import TakenIn

api = blueprint("yard", "/api/yard")
ZIP = "application/zip"
SENT = {"application/octet-stream": {"type": "string", "format": "binary"}}


@api.get("/file", responses=as_file(ZIP, binary=True))
def out() -> Response:
    """All of the yard as one file: places, builds with their history, trials, readings, photos, sheets, own materials."""
    made = io.BytesIO()
    with context.database() as db:
        door.write(db, made, context.stamp())
    return context.attachment(made.getvalue(), ZIP, f"yard-{context.now():%Y-%m-%d}.zip")


@api.post("/preview", responses={200: YardPreview})
@takes(SENT)
def preview() -> Response:
    """Look at a yard file, sent as the body: what would come in. Nothing is written."""
    with context.database() as db:
        return context.answer(door.preview(db, _sent()))


@api.post("/take-in", responses={201: TakenIn})
@takes(SENT)
def take_in() -> Response:
    """Take a yard file in beside what there is, all of it or nothing."""
    try:
        with context.writing() as db:
            return context.answer(TakenIn(site_ids=door.take_in(db, _sent())), 201)
    except sqlite3.IntegrityError:
        raise InputProblem("file", "two rows in it contradict each other, so nothing was taken in") from None


def _sent() -> io.BytesIO:
    return io.BytesIO(request.get_data())
