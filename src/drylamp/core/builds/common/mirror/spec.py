"""Flat mirrors hinged on the edges of an opening."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field

from drylamp.core import tables
from drylamp.core.checks import Model, Number
from drylamp.core.tables import Mirror, MirrorChoice


class FlapMirror(Model):
    """A flat mirror hinged on an edge of the opening, as wide as that edge."""

    material: MirrorChoice = Field(default="kitchen-foil", title="Surface")
    angle_deg: Annotated[Number, Field(ge=45, le=175)] = Field(
        default=110,
        title="Angle to the opening",
        description="90° stands square on the opening, 180° lies in its plane",
    )
    length_m: Annotated[Number, Field(ge=0.05, le=3)] = 0.45

    @property
    def row(self) -> Mirror:
        """Its surface."""
        return tables.mirror(self.material)


class MoreFlaps(Model):
    """Mirrors on the other three edges; left and right as seen by somebody who stands at the lower edge."""

    lower: FlapMirror | None = Field(default=None, title="Lower edge")
    left: FlapMirror | None = Field(default=None, title="Left edge")
    right: FlapMirror | None = Field(default=None, title="Right edge")

    @property
    def any(self) -> bool:
        """Whether there is one."""
        return not (self.lower is None and self.left is None and self.right is None)
