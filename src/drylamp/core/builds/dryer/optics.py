"""Sun in a food dryer, per watt of beam from any direction: its collector, the glass over its trays and what lies on them, its chimney.

Light that comes through the glass over the trays falls on the topmost tray first; what lies there takes its share, strands of the mesh another,
and the rest falls on the next. What gets past the lowest lights walls and floor.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from drylamp.core.arrays import Array
from drylamp.core.builds.common.air_collector.links import SEGMENTS, absorber_nodes, back_nodes
from drylamp.core.builds.common.air_collector.optics import through_glass
from drylamp.core.builds.common.cover.spec import panes_of
from drylamp.core.builds.dryer.spec import FoodDryer
from drylamp.core.loads.common.shelves import Laid
from drylamp.core.loads.load import Load
from drylamp.core.optics.covers import stack
from drylamp.core.optics.power import DiffuseAreas, diffuse_areas_over
from drylamp.core.sky.dome import plane_axes
from drylamp.core.tables import absorber

WALLS, LID, CHIMNEY = "inner-walls", "lid", "chimney"
MESH_ALPHA = 0.5
"""Of the strands of a tray, and what they take goes to the walls, which is where its heat ends; from memory."""


def laid_in(load: Load | None) -> list[Laid]:
    """What lies on trays; nothing in an empty dryer."""
    return [] if load is None else load.laid()


def lit_nodes(build: FoodDryer, load: Load | None) -> list[str]:
    """Parts that take up sun, in the order of the areas."""
    names: list[str] = []
    if build.collector is not None:
        names += [*absorber_nodes(), *back_nodes(), *(f"cover-{k + 1}" for k in range(len(build.collector.skins)))]
    if build.cover is not None:
        names += [
            *(f"{LID}-{k + 1}" for k in range(len(build.cover.skins))),
            *(laid.node for laid in laid_in(load)),
            WALLS,
        ]
    return names + ([CHIMNEY] if build.chimney is not None else [])


@dataclass(frozen=True)
class DryerOptics:
    """Optics of a dryer, ready for any direction."""

    build: FoodDryer
    laid: tuple[Laid, ...]

    @classmethod
    def of(cls, build: FoodDryer, load: Load | None) -> DryerOptics:
        """Nothing needs to be worked out before."""
        return cls(build, tuple(laid_in(load)))

    def absorbed_m2(self, toward_world: Array) -> tuple[Array, Array]:
        """Power in each part, and power meeting glass and chimney, per W/m² of beam from each direction; areas in m²."""
        found = [
            part
            for part in (self._collector(toward_world), self._over_trays(toward_world), self._chimney(toward_world))
            if part
        ]
        columns = [column for part, _ in found for column in part]
        return np.column_stack(columns), np.sum([met for _, met in found], axis=0)

    def _collector(self, toward_world: Array) -> tuple[list[Array], Array] | None:
        build, made = self.build, self.build.collector
        if made is None:
            return None
        cosine = np.maximum(toward_world @ plane_axes(build.tilt_deg, build.facing_deg)[2], 0.0)
        met = made.area_m2 * cosine
        plate, back, sheets = through_glass(made, cosine, met)
        return [*([plate / SEGMENTS] * SEGMENTS), *([back / SEGMENTS] * SEGMENTS), *sheets], met

    def _over_trays(self, toward_world: Array) -> tuple[list[Array], Array] | None:
        build = self.build
        if build.cover is None:
            return None
        cosine = np.maximum(toward_world @ plane_axes(build.lit_lid_deg, build.facing_deg)[2], 0.0)
        met = build.lid_m2 * cosine
        over = stack(panes_of(build.cover.skins), cosine)
        seen = 0.0 if build.shaded else 1.0
        inside = met * over.transmittance * seen
        food, rest = self._among_trays()
        sheets = [met * soaked * seen for soaked in over.absorptance[::-1]]
        return [*sheets, *(inside * share for share in food), inside * rest], met

    def _among_trays(self) -> tuple[list[float], float]:
        """Shares of light from above that each food takes, and walls and floor."""
        build = self.build
        taken, down, rest = dict[str, float](), 1.0, 0.0
        for tray in reversed(range(build.trays.count)):
            here = [laid for laid in self.laid if laid.shelf == tray]
            covers = [min(laid.covers_m2 / build.floor_m2, 1.0) for laid in here]
            scale = 1.0 / max(sum(covers), 1.0)
            for laid, share in zip(here, covers, strict=True):
                taken[laid.node] = down * share * scale * laid.absorptance
            bare = max(1.0 - sum(covers), 0.0)
            strands = bare * (1.0 - build.trays.open_share)
            rest += down * strands * MESH_ALPHA
            down *= bare - strands
        return [taken[laid.node] for laid in self.laid], rest + down * absorber(build.lining).absorptance

    def _chimney(self, toward_world: Array) -> tuple[list[Array], Array] | None:
        made = self.build.chimney
        if made is None:
            return None
        level = np.sqrt(np.clip(1.0 - toward_world[:, 2] ** 2, 0.0, 1.0)) * (toward_world[:, 2] > 0.0)
        met = made.height_m * made.diameter_mm / 1000.0 * level
        return [met * absorber(made.finish).absorptance], met

    def along_path(self, toward_world: Array) -> tuple[Array, Array]:
        """The same along the sun's path."""
        return self.absorbed_m2(toward_world)

    def diffuse_areas(self, skyline_deg: Array) -> DiffuseAreas:
        """Areas for the diffuse sky and the ground."""
        return diffuse_areas_over(skyline_deg, self.absorbed_m2)
