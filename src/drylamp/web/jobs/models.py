"""Heavy answers over the wire."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field, JsonValue

from drylamp.core.checks import Model
from drylamp.web.jobs.workers import State


class JobAsk(Model):
    """A heavy question: the route that answers it, what it is sent, and the view that asks; a view's newest question takes the place of its older ones."""

    method: Annotated[str, Field(pattern="^(GET|POST)$")] = "POST"
    path: Annotated[str, Field(max_length=200, pattern="^/api/")]
    body: JsonValue = None
    view: Annotated[str, Field(max_length=80)] = ""


class JobPath(Model):
    """Path of a heavy answer."""

    key: Annotated[str, Field(pattern=r"^[0-9a-f]{24}$")]


class JobView(Model):
    """A heavy answer as it stands; ``answer`` is what its route answers, as far as it is known after the last step."""

    key: str
    path: str
    state: State
    share: float
    why: str
    answer: JsonValue = None
