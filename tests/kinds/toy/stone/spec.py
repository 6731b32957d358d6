"""The stone's spec."""

from __future__ import annotations

import math
from typing import Annotated, Literal

from pydantic import Field

from drylamp.core.builds.build import Build
from drylamp.core.checks import Number
from drylamp.core.common.wall import WallLayer
from drylamp.core.forms import asked
from drylamp.core.tables import Absorber, FinishChoice, absorber


class Stone(Build):
    """A flat round stone lying on the ground."""

    kind: Literal["stone"] = "stone"
    diameter_m: Annotated[Number, Field(ge=0.05, le=2)] = Field(default=0.4, json_schema_extra=asked("stone"))
    of: WallLayer = Field(default=WallLayer(material="brick-layer", thickness_m=0.06), json_schema_extra=asked("stone"))
    finish: FinishChoice = Field(default="flat-black-paint", json_schema_extra=asked("stone"))

    @property
    def row(self) -> Absorber:
        """Its surface."""
        return absorber(self.finish)

    @property
    def opening_m2(self) -> float:
        """Its upper face."""
        return math.pi / 4 * self.diameter_m**2

    @property
    def floor_m(self) -> tuple[float, float]:
        """The square that fits on its upper face."""
        side = self.diameter_m / math.sqrt(2)
        return (side, side)
