"""What is sent, looked at before any route sees it: that it is the kind of text it says, and can be shown again."""

from __future__ import annotations

import inspect
from typing import Any

from flask import Flask, Response, request
from flask.json.provider import DefaultJSONProvider

from drylamp.core.checks import DryLampError, InputProblem
from drylamp.formats.json_text import check_content, check_line, read_json
from drylamp.web import context
from drylamp.web.errors import problem
from drylamp.web.routed import is_marked

FOR_JSON = "send JSON (Content-Type: application/json)"


class UnreadBodyError(DryLampError):
    """A body is no JSON that can be taken; no ValueError, which Flask would say in its own words."""


class StrictJson(DefaultJSONProvider):
    """JSON as the standard has it, not nested without end, and nothing in it that cannot be shown."""

    def loads(self, s: str | bytes, **kwargs: Any) -> Any:
        """Read JSON text.

        Raises:
            UnreadBodyError: it cannot be taken; the sentence says where.
        """
        return _read(s)


def takes_json(app: Flask, endpoint: str | None) -> bool:
    """Whether a route takes a JSON body."""
    view = app.view_functions.get(endpoint or "")
    return view is not None and "body" in inspect.signature(view).parameters


def register(app: Flask) -> None:
    """Look at paths, queries and bodies before any route does."""
    json_routes: dict[str | None, bool] = {}
    app.register_error_handler(UnreadBodyError, lambda e: problem(400, str(e)))

    @app.before_request
    def looked_at() -> Response | None:
        for given in (request.path, *request.args.keys(), *request.args.values()):
            check_line(given, "address")
        endpoint = request.endpoint
        view = app.view_functions.get(endpoint or "")
        if view is not None and is_marked(view):
            context.require_mark()
        if endpoint not in json_routes:
            json_routes[endpoint] = takes_json(app, endpoint)
        if not json_routes[endpoint]:
            return None
        if not request.get_data(cache=True):
            return problem(400, f"the body is empty; {FOR_JSON}")
        if not request.is_json:
            return problem(415, f"'{request.mimetype[:60]}' was sent; {FOR_JSON}")
        found = request.get_json()
        if isinstance(found, str):
            return problem(422, "a text was sent; send a JSON object")
        check_content(found)
        return None


def read_loosely() -> Any:
    """This request's body as JSON, whatever type it says, NaN and all: as small loggers send it.

    Raises:
        UnreadBodyError: it is no JSON.
    """
    return _read(request.get_data(), no_numbers=True)


def _read(given: str | bytes, no_numbers: bool = False) -> Any:
    try:
        return read_json(given, no_numbers=no_numbers)
    except InputProblem as trouble:
        raise UnreadBodyError(str(trouble)) from None
