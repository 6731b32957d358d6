"""Builds with a vent that can be set."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field

from drylamp.core.builds.build import Build
from drylamp.core.checks import Fraction, Number


class Vented(Build):
    """A build with a vent."""

    vent_cm2: Annotated[Number, Field(ge=0, le=2000)] = Field(default=0.0, description="Vent, all of its opening")
    vent_open: Fraction = Field(default=1.0, description="How far the vent stands open, 0 shut to 1")

    @property
    def vent_m2(self) -> float:
        """Open area of the vent as it is set."""
        return self.vent_cm2 / 1e4 * self.vent_open
