"""Sun on the stone and on what lies on it."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from drylamp.core.builds.stone.spec import Stone

from drylamp.core.arrays import Array
from drylamp.core.loads.load import Load
from drylamp.core.optics.power import DiffuseAreas, diffuse_areas_over

STONE = "stone"


def lit_nodes(build: Stone, load: Load | None) -> list[str]:
    """The stone, and each thing on it."""
    return [STONE, *([] if load is None else [body.node for body in load.bodies_on(build.floor_m)])]


@dataclass(frozen=True)
class StoneOptics:
    """Level faces side by side."""

    build: Stone
    load: Load | None

    def along_path(self, toward_world: Array) -> tuple[Array, Array]:
        """Each face takes up its own share of what falls on level ground."""
        level = np.maximum(toward_world[:, 2], 0.0)
        bodies = [] if self.load is None else self.load.bodies_on(self.build.floor_m)
        free = self.build.opening_m2 - sum(body.foot_m2 for body in bodies)
        takes = [free * self.build.row.absorptance, *(body.foot_m2 * body.absorptance for body in bodies)]
        return level[:, None] * np.array(takes), level * self.build.opening_m2

    def diffuse_areas(self, skyline_deg: Array) -> DiffuseAreas:
        """The same from everywhere."""
        return diffuse_areas_over(skyline_deg, self.along_path)
