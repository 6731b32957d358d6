"""The batch box's optics: a box's, its floor the water, less what fog on the cover keeps back."""

from __future__ import annotations

from dataclasses import dataclass

from drylamp.core.arrays import Array
from drylamp.core.builds.batch_box.spec import BatchBox
from drylamp.core.builds.common.box import optics as box
from drylamp.core.builds.common.box.bright_patch import CELLS, bright_patch
from drylamp.core.builds.common.box.optics import BoxOptics
from drylamp.core.builds.common.bright_patch import BrightPatch
from drylamp.core.loads.common.envelope import FOG_SHARE
from drylamp.core.loads.load import Load
from drylamp.core.optics.power import DiffuseAreas


def lit_nodes(build: BatchBox, load: Load | None) -> list[str]:
    """Bed, walls, sheets and outer faces: water itself lets nearly all of it through to the bed."""
    return box.lit_nodes(build, None)


def patch_on_water(build: BatchBox, load: Load | None, toward_sun: Array, cells: int = CELLS, /) -> BrightPatch:
    """The mirror's spot on the water, or on the dry bed."""
    return bright_patch(build.filled(load), None, toward_sun, cells, "bed" if build.depth_m(load) <= 0.0 else "water")


@dataclass(frozen=True)
class BatchOptics:
    """Optics of a batch box; ``clear`` is the share that fog lets through."""

    box: BoxOptics
    clear: float

    @classmethod
    def of(cls, build: BatchBox, load: Load | None) -> BatchOptics:
        """The box as light meets it, filled."""
        return cls(BoxOptics.of(build.filled(load), None), 1.0 - FOG_SHARE * build.fog_share)

    def along_path(self, toward_world: Array) -> tuple[Array, Array]:
        """Areas by lit node and area intercepted."""
        parts, met = self.box.along_path(toward_world)
        return self._fogged(parts), met

    def diffuse_areas(self, skyline_deg: Array) -> DiffuseAreas:
        """Areas for the diffuse sky and the ground."""
        found = self.box.diffuse_areas(skyline_deg)
        return DiffuseAreas(self._fogged(found.dome), self._fogged(found.ground))

    def _fogged(self, parts: Array) -> Array:
        """Bed and walls get less; the sheets take up what they took."""
        out = parts.copy()
        out[..., :2] *= self.clear
        return out
