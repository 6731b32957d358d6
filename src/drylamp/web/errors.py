"""Every error leaves in one shape: RFC 9457 problem+json with field paths and plain sentences."""

from __future__ import annotations

import json
import logging

from flask import Flask, Response, request
from pydantic import ValidationError
from werkzeug.exceptions import HTTPException

from drylamp.core.checks import DryLampError, FieldProblem, InputProblem, explain
from drylamp.core.quantities import said_field
from drylamp.core.text import plain
from drylamp.store.database import (
    DiskFullError,
    FileBusyError,
    FileTroubleError,
    NotFoundError,
    StaleWriteError,
    StoreError,
    UnreadableError,
)
from drylamp.web.context import GuestError, MarkUnreadable, PreconditionMissing

log = logging.getLogger("drylamp")

TITLES = {
    400: "That request cannot be read",
    401: "Wrong token",
    403: "Not from here",
    404: "Not found",
    405: "Not allowed here",
    409: "That contradicts what is there",
    412: "Changed elsewhere",
    413: "Too large",
    415: "Wrong kind of content",
    422: "Something given cannot be used",
    431: "Headers too long",
    428: "Say which revision you saw",
    500: "Dry Lamp made a mistake",
    503: "Busy",
    507: "No room",
}


PROBLEM = "application/problem+json"
UNREADABLE = "/problems/unreadable"
"""The sort of problem that the page has a view for; all others have no name."""
TOO_LARGE = "at most 24 MB can be sent at once; split the file, or make the picture smaller"


def problem(status: int, detail: str, fields: list[FieldProblem] | None = None, **more: object) -> Response:
    """Build a problem+json answer; quantities in it are written out in metric units, as programs read it too."""
    return Response(problem_text(status, detail, fields, **more), status=status, mimetype=PROBLEM)


def problem_text(status: int, detail: str, fields: list[FieldProblem] | None = None, **more: object) -> bytes:
    """The body of such an answer."""
    body: dict[str, object] = {
        "type": "about:blank",
        "title": TITLES.get(status, "That did not work"),
        "status": status,
        "detail": plain(detail),
        "current_revision": None,
        "errors": [{"field": f.field, "message": plain(f.message)} for f in fields or []],
        **more,
    }
    return json.dumps(body).encode()


def validation_problem(error: ValidationError) -> Response:
    """Answer for a body or query that does not fit its model."""
    return problem(422, said(error), explain(error))


def said(error: ValidationError | InputProblem) -> str:
    """What is wrong, the first of it, with the field as a person would call it; its path stands among an answer's errors."""
    found = explain(error)[0]
    return f"{said_field(found.field)}: {found.message}" if found.field else found.message


def register(app: Flask) -> None:
    """Attach the handlers."""
    app.register_error_handler(InputProblem, lambda e: problem(422, said(e), explain(e)))
    app.register_error_handler(PreconditionMissing, lambda e: problem(428, said(e), explain(e)))
    app.register_error_handler(MarkUnreadable, lambda e: problem(400, said(e), explain(e)))
    app.register_error_handler(ValidationError, validation_problem)
    app.register_error_handler(NotFoundError, lambda e: problem(404, str(e)))
    app.register_error_handler(StaleWriteError, lambda e: problem(412, str(e), current_revision=e.current))
    app.register_error_handler(StoreError, lambda e: problem(409, str(e)))
    app.register_error_handler(FileTroubleError, _file_trouble)
    app.register_error_handler(UnreadableError, lambda e: problem(409, str(e), type=UNREADABLE))
    app.register_error_handler(GuestError, lambda e: problem(403, str(e)))
    app.register_error_handler(DryLampError, lambda e: problem(422, str(e)))
    app.register_error_handler(
        MemoryError,
        lambda _: problem(422, "this takes more memory than one answer may; ask for fewer days or a shorter trial"),
    )
    app.register_error_handler(HTTPException, _http)
    app.register_error_handler(Exception, _unexpected)


def _file_trouble(error: FileTroubleError) -> Response:
    status = 507 if isinstance(error, DiskFullError) else 503
    answer = problem(status, str(error))
    if isinstance(error, FileBusyError):
        answer.headers["Retry-After"] = "5"
    else:
        log.error("data file: %s", error)
    return answer


def _http(error: HTTPException) -> Response:
    status = error.code or 500
    words = {
        404: f"there is nothing at {request.path}",
        413: TOO_LARGE,
        415: "send JSON (Content-Type: application/json)",
        400: "the body is not valid JSON",
    }
    answer = problem(status, words.get(status, error.description or "that did not work"))
    for name, value in error.get_headers():
        if name == "Allow":
            answer.headers[name] = value
    return answer


def _unexpected(error: Exception) -> Response:
    log.exception("unexpected error on %s %s", request.method, request.path)
    return problem(
        500, "this is a fault in Dry Lamp, not in what you typed; nothing was written. The server's log says more."
    )
