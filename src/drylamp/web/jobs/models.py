"""Long answers over the wire."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field

from drylamp.core.advice.chance import MOST_YEARS, YEARS, Chance
from drylamp.core.advice.lumber import Queue
from drylamp.core.checks import Count, Model
from drylamp.web.jobs.runner import State
from drylamp.web.twin.models import TwinRequest


class ChanceRequest(TwinRequest):
    """A build on a day, and how many made-up years."""

    years: Annotated[Count, Field(ge=1, le=MOST_YEARS)] = YEARS


class JobPath(Model):
    """Path of a long answer."""

    key: Annotated[str, Field(pattern=r"^[0-9a-f]{24}$")]


class JobView(Model):
    """A long answer as it stands: the one that its question has is filled once its first step is done."""

    key: str
    question: str
    state: State
    share: float
    why: str
    chance: Chance | None = None
    queue: Queue | None = None
