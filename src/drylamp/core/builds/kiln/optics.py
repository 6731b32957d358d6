"""Sun in a kiln, per watt of beam from any direction: through the glazed roof on the baffle, and past it on walls and floor; and what comes in by the outside of walls."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from drylamp.core.arrays import Array
from drylamp.core.builds.common.cover.spec import panes_of
from drylamp.core.builds.kiln.spec import OUTSIDE_W_M2K, LumberKiln
from drylamp.core.loads.common.stacked import SHADES
from drylamp.core.loads.load import Load
from drylamp.core.optics.covers import DIFFUSE_INCIDENCE_DEG, stack
from drylamp.core.optics.power import DiffuseAreas, diffuse_areas_over
from drylamp.core.sky.dome import plane_axes
from drylamp.core.tables import absorber

BAFFLE, WALLS, FLOOR = SHADES, "inner-walls", "floor"


def roof_nodes(build: LumberKiln) -> list[str]:
    """Its sheets from the innermost out."""
    return [f"cover-{k + 1}" for k in range(len(build.skins))]


def lit_nodes(build: LumberKiln, load: Load | None) -> list[str]:
    """Parts that take up sun, in the order of the areas."""
    return [*([BAFFLE] if build.baffle is not None else []), WALLS, FLOOR, *roof_nodes(build)]


@dataclass(frozen=True)
class KilnOptics:
    """Optics of a kiln, ready for any direction."""

    build: LumberKiln

    @classmethod
    def of(cls, build: LumberKiln, load: Load | None) -> KilnOptics:
        """Nothing needs to be worked out before."""
        return cls(build)

    def absorbed_m2(self, toward_world: Array) -> tuple[Array, Array]:
        """Power in each part, and power meeting the roof, per W/m² of beam from each direction; areas in m²."""
        build = self.build
        cosine = np.maximum(toward_world @ plane_axes(build.tilt_deg, build.facing_deg)[2], 0.0)
        met = build.roof_m2 * cosine
        panes = panes_of(build.skins)
        over = stack(panes, cosine)
        back = float(stack(panes, np.cos(np.radians(DIFFUSE_INCIDENCE_DEG))).reflectance)
        clean = met * (1.0 - build.frame_share) * (1.0 - build.dirt_share)
        taken = self._taken_shares()
        again = 1.0 / (1.0 - (1.0 - sum(taken)) * back)
        parts = [clean * over.transmittance * again * share for share in taken]
        through = self._through_walls(toward_world)
        parts[-2] = parts[-2] + through
        return np.column_stack([*parts, *(clean * soaked for soaked in over.absorptance[::-1])]), met + through

    def _through_walls(self, toward_world: Array) -> Array:
        """What comes in of the sun on the outside of walls: as much of what they take up as does not leave by the outer film (sol-air; ASHRAE Handbook Fundamentals)."""
        build = self.build
        gets_in = absorber(build.outer).absorptance * build.through_w_m2k / OUTSIDE_W_M2K
        return sum(
            (m2 * gets_in * np.maximum(toward_world @ plane_axes(tilt, facing)[2], 0.0) for m2, tilt, facing in build.outer_faces()), np.zeros(len(toward_world))
        )  # fmt: skip

    def _taken_shares(self) -> list[float]:
        """Shares that baffle, walls and floor take of light that has come through."""
        build = self.build
        inside = absorber(build.lining).absorptance
        past = 1.0 if build.baffle is None else 1.0 - build.baffle.share
        walls = build.walls_m2 / (build.walls_m2 + build.floor_m2)
        rest = [past * inside * walls, past * inside * (1.0 - walls)]
        return rest if build.baffle is None else [build.baffle.share * build.baffle.row.absorptance, *rest]

    def along_path(self, toward_world: Array) -> tuple[Array, Array]:
        """The same along the sun's path."""
        return self.absorbed_m2(toward_world)

    def diffuse_areas(self, skyline_deg: Array) -> DiffuseAreas:
        """Areas for the diffuse sky and the ground."""
        return diffuse_areas_over(skyline_deg, self.absorbed_m2)
