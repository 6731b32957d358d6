"""What views share: the data file, the clock, and answers made from models."""

from __future__ import annotations

import sqlite3
from collections.abc import Iterator
from contextlib import contextmanager
from datetime import datetime

from flask import Response, current_app, has_request_context, request
from pydantic import BaseModel

from drylamp.core.checks import InputProblem
from drylamp.store.database import Database, StaleWriteError
from drylamp.web.jobs.asking import NOW
from drylamp.web.settings import Settings


def settings() -> Settings:
    """The server's settings."""
    found: Settings = current_app.config["DRYLAMP"]
    return found


def now() -> datetime:
    """The server's time (the demo's own in a demo)."""
    told: datetime | None = request.environ.get(NOW) if has_request_context() else None
    return told or settings().now()


def stamp() -> str:
    """The server's time as text for the store."""
    return now().isoformat(timespec="seconds")


@contextmanager
def database() -> Iterator[sqlite3.Connection]:
    """A connection for this request."""
    store: Database = current_app.config["DATABASE"]
    with store.session() as db:
        yield db


def answer(body: BaseModel, status: int = 200, revision: int | None = None) -> Response:
    """A model as JSON, with its revision as ETag when it has one."""
    response = Response(body.model_dump_json(), status=status, mimetype="application/json")
    if revision is not None:
        response.set_etag(f"r{revision}")
    return response


def attachment(text: str, mimetype: str, name: str) -> Response:
    """A text as a file to be kept under a name."""
    response = Response(text, mimetype=mimetype)
    response.headers["Content-Disposition"] = f'attachment; filename="{name}"'
    return response


def _seen() -> list[str]:
    """Marks that a write says it saw (If-Match), without quotes."""
    given = (tag.strip().removeprefix("W/").strip('"') for tag in request.headers.get("If-Match", "").split(","))
    return [tag for tag in given if tag]


def check_mark(current: str, what: str) -> None:
    """Refuse a write whose If-Match is not the current mark of what it changes.

    Raises:
        PreconditionMissing: the header is missing.
        StaleWriteError: it was changed since that mark was seen.
    """
    tags = _seen()
    if not tags:
        raise PreconditionMissing("If-Match", f"is missing; send the mark of {what} that you saw, in quotes")
    if current not in tags:
        raise StaleWriteError(
            f"{what} was changed elsewhere; your change was not written: look at the newer state, then repeat yours",
            current,
        )


class PreconditionMissing(InputProblem):
    """A write came without the revision it saw."""


def seen_revision() -> int:
    """Revision that a write says it saw (If-Match).

    Raises:
        InputProblem: the header is missing or no revision of ours.
    """
    for tag in _seen():
        if tag.startswith("r") and tag[1:].isdigit():
            return int(tag[1:])
    raise PreconditionMissing("If-Match", 'is missing; send the ETag of the revision you saw, such as "r3"')
