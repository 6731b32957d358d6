"""Where routes hang: blueprints that describe themselves only when the OpenAPI document is being written, and what a route says of itself beside its models.

Describing every route at import would cost seconds at each start, for a document that hardly anybody asks a server for.
"""

from __future__ import annotations

import os
from collections.abc import Callable
from typing import Any, TypeVar

from flask_openapi3 import APIBlueprint

DOCUMENTING = "DRYLAMP_DOCUMENTING"
"""Environment variable that is set while the document is written."""
V = TypeVar("V", bound=Callable[..., Any])
_MARKED: set[str] = set()
_RAW: dict[str, dict[str, Any]] = {}
_ALSO: dict[str, tuple[int, ...]] = {}


def blueprint(name: str, prefix: str) -> APIBlueprint:
    """A resource's blueprint under a prefix."""
    return APIBlueprint(name, __name__, url_prefix=prefix, doc_ui=os.environ.get(DOCUMENTING) == "1")


def view_name(view: Callable[..., Any]) -> str:
    """What a route's function goes by, wrapped or not."""
    return f"{view.__module__}.{view.__qualname__}"


def needs_mark(view: V) -> V:
    """Mark a route's function as one that wants If-Match; stands below the route."""
    _MARKED.add(view_name(view))
    return view


def is_marked(view: Callable[..., Any]) -> bool:
    """Whether it wants If-Match."""
    return view_name(view) in _MARKED


def takes(content: dict[str, Any]) -> Callable[[V], V]:
    """Say what a route takes that reads its body itself: schemas by media type; stands below the route."""

    def mark(view: V) -> V:
        _RAW[view_name(view)] = content
        return view

    return mark


def raw_body(view: Callable[..., Any]) -> dict[str, Any] | None:
    """What a route takes that reads its body itself."""
    return _RAW.get(view_name(view))


def also_refuses(*statuses: int) -> Callable[[V], V]:
    """Say with which statuses a route refuses that others of its shape do not; stands below the route."""

    def mark(view: V) -> V:
        _ALSO[view_name(view)] = statuses
        return view

    return mark


def refuses_too(view: Callable[..., Any]) -> tuple[int, ...]:
    """The statuses with which a route refuses that others of its shape do not."""
    return _ALSO.get(view_name(view), ())


def as_file(media: str, binary: bool = False) -> dict[Any, Any]:
    """An answer that is a file."""
    return {200: {"content": {media: {"schema": {"type": "string", **({"format": "binary"} if binary else {})}}}, "description": "OK"}}  # fmt: skip
