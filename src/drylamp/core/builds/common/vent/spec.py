"""Builds with a vent that can be set."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field

from drylamp.core.builds.build import Build
from drylamp.core.checks import Fraction, Number
from drylamp.core.forms import asked


class Vented(Build):
    """A build with a vent."""

    vent_cm2: Annotated[Number, Field(ge=0, le=2000)] = Field(
        default=0.0, title="Vent, all of its opening", description="Nothing: no vent", json_schema_extra=asked("seal")
    )
    vent_open: Fraction = Field(
        default=1.0,
        title="It stands open by",
        description="How far the vent stands open",
        json_schema_extra=asked("seal"),
    )

    @property
    def vent_m2(self) -> float:
        """Open area of the vent as it is set."""
        return self.vent_cm2 / 1e4 * self.vent_open
