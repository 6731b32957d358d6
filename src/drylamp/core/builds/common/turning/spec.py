"""Builds that somebody turns after the sun."""

from __future__ import annotations

from typing import Annotated, Any, ClassVar

from pydantic import Field

from drylamp.core.builds.build import Build, Tracking
from drylamp.core.checks import Number
from drylamp.core.forms import asked

MINUTES = Annotated[Number, Field(ge=5, le=600)]


def turned_every(minutes: float | None) -> Any:
    """The field that says how often it is turned."""
    return Field(
        default=minutes,
        title="Turned every",
        description="To the sun; empty: left as it stands",
        json_schema_extra=asked("aim"),
    )


class Turned(Build):
    """A build that may be turned about the upright every so often."""

    tracking: ClassVar[Tracking] = "upright"

    turned_minutes: MINUTES | None = turned_every(None)

    @property
    def turns_every_minutes(self) -> float | None:
        """How often it is turned to the sun."""
        return self.turned_minutes
