"""The OpenAPI document, with requests and answers apart: what may be left out of a request is always there in an answer."""

from __future__ import annotations

import json
import os
import subprocess
import sys
import tempfile
from collections.abc import Iterator
from copy import deepcopy
from functools import cache
from pathlib import Path
from typing import Any, Literal

from flask_openapi3 import OpenAPI
from pydantic import BaseModel
from pydantic.json_schema import models_json_schema

from drylamp.web.routed import DOCUMENTING

PLACE = "#/components/schemas/"
Mode = Literal["validation", "serialization"]
REFUSED: dict[str, Any] = {
    "description": "Something given cannot be used",
    "content": {"application/problem+json": {"schema": {"$ref": PLACE + "ProblemView"}}},
}


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
    for operation in _operations(document["paths"]):
        operation["responses"]["422"] = deepcopy(REFUSED)
    refs = list(_refs(document["paths"]))
    asked = {(known[ref["$ref"].removeprefix(PLACE)], mode) for ref, mode in refs}
    ordered = sorted(asked, key=lambda pair: (pair[0].__name__, pair[1]))
    found, definitions = models_json_schema(ordered, ref_template=PLACE + "{model}")
    for ref, mode in refs:
        ref["$ref"] = found[known[ref["$ref"].removeprefix(PLACE)], mode]["$ref"]
    document["components"] = {**document["components"], "schemas": definitions["$defs"]}
    return document


def _refs(paths: dict[str, Any]) -> Iterator[tuple[dict[str, Any], Mode]]:
    """Every reference to a model, with whether it stands in a request or an answer."""
    for operation in _operations(paths):
        for content in operation.get("requestBody", {}).get("content", {}).values():
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
