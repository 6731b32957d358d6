"""Builds that somebody turns after the sun."""

from __future__ import annotations

from typing import Annotated, ClassVar

from pydantic import Field

from drylamp.core.builds.build import Build, Tracking
from drylamp.core.checks import Number
from drylamp.core.forms import asked

TURNED, LEFT = "Turned every", "To the sun; empty: left as it stands"
MINUTES = Annotated[Number, Field(ge=5, le=600)]


class Turned(Build):
    """A build that may be turned about the upright every so often."""

    tracking: ClassVar[Tracking] = "upright"

    turned_minutes: MINUTES | None = Field(default=None, title=TURNED, description=LEFT, json_schema_extra=asked("aim"))

    @property
    def turns_every_minutes(self) -> float | None:
        """How often it is turned to the sun."""
        return self.turned_minutes
