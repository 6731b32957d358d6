"""Watts of sun in a kettle's coat, glass and wings, per watt of beam from any direction: wings and tube are traced ray by ray."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property

import numpy as np

from drylamp.core.arrays import Array
from drylamp.core.builds.common.vacuum_tube.optics import TracedTubes, cylinders, received_once, taken_up
from drylamp.core.builds.tube_kettle.spec import TubeKettle
from drylamp.core.kept import Kept
from drylamp.core.loads.load import Load
from drylamp.core.optics.geometry import Geometry
from drylamp.core.optics.power import ring_share_of
from drylamp.core.sky.dome import plane_axes

COAT, DRY, GLASS, WINGS = "coat", "dry", "glass", "wings"
_GEOMETRY: Kept[str, Geometry] = Kept(64)
RING_RAYS = 1024


def wet_share(build: TubeKettle, load: Load | None) -> float:
    """Share of the tube's length that has water behind it; all of an empty one counts as one."""
    if load is None or load.filling is None:
        return 1.0
    return min(load.filling.litres / build.tube.holds_l, 1.0)


def lit_nodes(build: TubeKettle, load: Load | None) -> list[str]:
    """Parts that take up sun, in the order of the areas."""
    dry = [DRY] if wet_share(build, load) < 1.0 else []
    return [COAT, *dry, GLASS, *([] if build.wings is None else [WINGS])]


def geometry_of(build: TubeKettle) -> Geometry:
    """Tube and wings: x across the tube, y along it, z towards the sky."""
    wings = [] if build.wings is None else build.wings.facets(0.0, build.tube.lit_m)
    return Geometry(tuple(wings), cylinders(build.tube, COAT), made_by_rule=True)


@dataclass(frozen=True)
class KettleOptics(TracedTubes):
    """Optics of a kettle, ready for any direction."""

    build: TubeKettle
    wet: float

    @classmethod
    def of(cls, build: TubeKettle, load: Load | None) -> KettleOptics:
        """Nothing needs to be worked out before."""
        return cls(build, wet_share(build, load))

    @cached_property
    def _key(self) -> str:
        """What light meets is the same whichever way it stands."""
        wings = self.build.wings
        return self.build.tube.model_dump_json() + ("" if wings is None else wings.model_dump_json())

    @cached_property
    def geometry(self) -> Geometry:
        """What light meets."""
        return _GEOMETRY.get(self._key, lambda: geometry_of(self.build))

    @property
    def axes(self) -> Array:
        """Across the tube, along it, and outward, in the world, as rows."""
        x, y, z = plane_axes(self.build.tilt_deg, self.build.facing_deg)
        return np.array([x, y, z] if self.build.lies == "up" else [y, -x, z])

    @cached_property
    def ring_share(self) -> float:
        """Of the light round the sun, what its wings throw on the tube with the sun straight before them."""
        if self.build.wings is None:
            return 1.0
        return ring_share_of(lambda toward: self.taken_m2(toward, RING_RAYS)[0][:, 0], np.array([0.0, 0.0, 1.0]))

    def taken_m2(self, toward: Array, rays: int) -> tuple[Array, Array]:
        """Power in each part, and power meeting tube and wings, per W/m² of beam from each direction in the tube's axes."""
        tube, wings = self.build.tube, self.build.wings
        received = received_once(self._key, self.geometry, toward, rays)[:, 0]
        coat, glass = taken_up(tube, received, np.sqrt(np.clip(1.0 - toward[:, 1] ** 2, 0.0, 1.0)))
        columns = [coat * self.wet, *([coat * (1.0 - self.wet)] if self.wet < 1.0 else []), glass]
        met = received.sum(axis=1)
        if wings is not None:
            mouth = self.build.opening_m2 * np.maximum(toward[:, 2], 0.0)
            columns.append(
                (1.0 - wings.thrown_on)
                * np.maximum(mouth - tube.outer_m * tube.lit_m * np.maximum(toward[:, 2], 0.0), 0.0)
            )
            met = np.maximum(met, mouth)
        out = np.column_stack(columns)
        return out, np.maximum(met, out.sum(axis=1))
