"""The lid's frame: a strip round the pane, as high as its own inner face, that is the hollow's upper edge."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field

from drylamp.core.checks import Model, Number
from drylamp.core.common.wall import EDGE_SHAPE, Wall, WallLayer, conducts_w_mk, wall_j_m2k, wall_thickness_m

CORNERS = 4


class LidFrame(Model):
    """A frame of its own layers, from the hollow outward."""

    height_m: Annotated[Number, Field(ge=0.005, le=0.3)] = Field(
        default=0.03, title="High", description="Its inner face, wall to pane"
    )
    layers: Wall = Field(
        default=[WallLayer(material="pine-board", thickness_m=0.04)],
        title="Layers",
        description="From the hollow outward",
    )

    @property
    def width_m(self) -> float:
        """All layers together: how wide the frame lies."""
        return wall_thickness_m(self.layers)

    def inward_w_k(self, rim_m: float) -> float:
        """From its inner face to its middle, W/K."""
        return (
            2.0
            * conducts_w_mk(self.layers)
            * (self.height_m / self.width_m * rim_m + CORNERS * EDGE_SHAPE / 2.0 * self.height_m)
        )

    def outward_w_k(self, rim_m: float) -> float:
        """From its middle to its outer face and its upper one, W/K."""
        return self.inward_w_k(rim_m) + 2.0 * conducts_w_mk(self.layers) * self.width_m / self.height_m * rim_m

    def heat_j_k(self, rim_m: float) -> float:
        """Heat capacity, J/K."""
        return wall_j_m2k(self.layers) * self.height_m * (rim_m + CORNERS * self.width_m)

    def outside_m2(self, rim_m: float) -> tuple[float, float]:
        """Outer faces, and the upper one, m²."""
        return (rim_m + 8.0 * self.width_m) * self.height_m, self.width_m * (rim_m + 4.0 * self.width_m)
