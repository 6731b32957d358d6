"""The OpenAPI document, with requests and answers apart: what may be left out of a request is always there in an answer."""

from __future__ import annotations

import json
import os
import re
import subprocess
import sys
import tempfile
from collections.abc import Callable, Iterator
from copy import deepcopy
from functools import cache
from pathlib import Path
from typing import Any, Literal

from flask_openapi3 import OpenAPI
from pydantic import BaseModel
from pydantic.json_schema import models_json_schema

from drylamp.web.errors import PROBLEM, TITLES
from drylamp.web.routed import DOCUMENTING, is_marked, raw_body, refuses_too

PLACE = "#/components/schemas/"
Mode = Literal["validation", "serialization"]
MARK = {
    "name": "If-Match", "in": "header", "required": True, "description": "The ETag of what was seen, in quotes",
    "schema": {"type": "string", "pattern": r'^"[!#-~]{1,40}"$'},
}  # fmt: skip
ALWAYS = (403, 409, 500, 503)
"""Statuses with which any route may refuse: a stranger, a row that cannot be read, a fault, a file that is busy."""


@cache
def document_text() -> str:
    """The document as JSON, written by a process of its own whose routes describe themselves."""
    done = subprocess.run(
        [sys.executable, "-m", "drylamp.web.document"], capture_output=True, text=True, check=True,
        env={**os.environ, DOCUMENTING: "1"},
    )  # fmt: skip
    return done.stdout


def api_document(app: OpenAPI) -> dict[str, Any]:
    """The document of an app's API."""
    document: dict[str, Any] = dict(app.api_doc)
    known = _models()
    views = _views(app)
    for path, operations in document["paths"].items():
        for method, operation in operations.items():
            _complete(operation, method, path, views[path, method])
    refusals = {f"Refused{status}": _refusal(status) for status in TITLES}
    refs = [*_refs(document["paths"]), *((answer["content"][PROBLEM]["schema"], "serialization") for answer in refusals.values())]  # fmt: skip
    asked = {(known[ref["$ref"].removeprefix(PLACE)], mode) for ref, mode in refs}
    ordered = sorted(asked, key=lambda pair: (pair[0].__name__, pair[1]))
    found, definitions = models_json_schema(ordered, ref_template=PLACE + "{model}")
    for ref, mode in refs:
        ref["$ref"] = found[known[ref["$ref"].removeprefix(PLACE)], mode]["$ref"]
    document["components"] = {**document["components"], "schemas": definitions["$defs"], "responses": refusals}
    return document


def _views(app: OpenAPI) -> dict[tuple[str, str], Callable[..., Any]]:
    """The function of each route, by its path as the document writes it and its method."""
    return {
        (re.sub(r"<(?:\w+:)?(\w+)>", r"{\1}", rule.rule), method.lower()): app.view_functions[rule.endpoint]
        for rule in app.url_map.iter_rules()
        for method in rule.methods or ()
    }


def _complete(operation: dict[str, Any], method: str, path: str, view: Callable[..., Any]) -> None:
    """What a route's models do not say: its If-Match, the raw body that it takes, every status with which it may refuse."""
    if is_marked(view):
        operation.setdefault("parameters", []).append(deepcopy(MARK))
    raw = raw_body(view)
    if raw is not None:
        content = {media: {"schema": schema} for media, schema in raw.items()}
        operation["requestBody"] = {"content": content, "required": True}
    operation["responses"].pop("422", None)
    for status in sorted(_refusals(operation, method, path, view)):
        operation["responses"].setdefault(str(status), {"$ref": f"#/components/responses/Refused{status}"})


def _refusals(operation: dict[str, Any], method: str, path: str, view: Callable[..., Any]) -> set[int]:
    out = {400, 422, *ALWAYS}
    if "{" in path or "requestBody" in operation:
        out.add(404)
    if "requestBody" in operation:
        out |= {413, 415}
    if method != "get":
        out.add(507)
    if is_marked(view):
        out |= {412, 428}
    return out | set(refuses_too(view))


def _refusal(status: int) -> dict[str, Any]:
    return {
        "description": TITLES[status],
        "content": {PROBLEM: {"schema": {"$ref": PLACE + "ProblemView"}}},
    }


def _refs(paths: dict[str, Any]) -> Iterator[tuple[dict[str, Any], Mode]]:
    """Every reference to a model, with whether it stands in a request or an answer."""
    for operation in _operations(paths):
        for content in operation.get("requestBody", {}).get("content", {}).values():
            if "$ref" in content["schema"]:
                yield content["schema"], "validation"
        for answer in operation["responses"].values():
            for content in answer.get("content", {}).values():
                if "$ref" in content.get("schema", {}):
                    yield content["schema"], "serialization"


def _operations(paths: dict[str, Any]) -> Iterator[dict[str, Any]]:
    for operations in paths.values():
        yield from operations.values()


def _models() -> dict[str, type[BaseModel]]:
    """Every model of ours by its name; those of the web hide others of the same name."""
    out: dict[str, type[BaseModel]] = {}
    waiting: list[type[BaseModel]] = [BaseModel]
    while waiting:
        for model in waiting.pop().__subclasses__():
            waiting.append(model)
            known = out.get(model.__name__)
            if model.__module__.startswith("drylamp.") and (
                known is None or not known.__module__.startswith("drylamp.web")
            ):
                out[model.__name__] = model
    return out


def _write() -> None:
    from drylamp.web.app import create_app
    from drylamp.web.settings import Settings

    with tempfile.TemporaryDirectory() as folder:
        document = api_document(create_app(Settings(data=Path(folder) / "none.sqlite3")))
    sys.stdout.write(json.dumps(document, indent=1, sort_keys=True, ensure_ascii=False) + "\n")


if __name__ == "__main__":
    _write()
