"""Flat mirrors hinged on the edges of an opening."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field

from drylamp.core import tables
from drylamp.core.checks import Model, Number
from drylamp.core.tables import Mirror, MirrorChoice


class FlapMirror(Model):
    """A flat mirror hinged on an edge of the opening, as wide as that edge."""

    material: MirrorChoice = "kitchen-foil"
    length_m: Annotated[Number, Field(ge=0.05, le=3)] = 0.45
    angle_deg: Annotated[Number, Field(ge=45, le=175)] = Field(
        default=110,
        description="Between opening and mirror; 90 stands square on the opening, 180 lies in its plane",
    )

    @property
    def row(self) -> Mirror:
        """Its surface."""
        return tables.mirror(self.material)


class MoreFlaps(Model):
    """Mirrors on the other three edges; left and right as seen by somebody who stands at the lower edge."""

    lower: FlapMirror | None = None
    left: FlapMirror | None = None
    right: FlapMirror | None = None

    @property
    def any(self) -> bool:
        """Whether there is one."""
        return not (self.lower is None and self.left is None and self.right is None)
