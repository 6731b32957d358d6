"""Watts of sun in a row of evacuated tubes: its two ends and one between are traced; all between are like that one."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property

import numpy as np

from drylamp.core.arrays import Array
from drylamp.core.builds.common.vacuum_tube.optics import TracedTubes, cylinders, received_once, taken_up
from drylamp.core.builds.tube_row.spec import TubeRow
from drylamp.core.kept import Kept
from drylamp.core.loads.load import Load
from drylamp.core.optics.geometry import Cylinder, Facet, Geometry, rectangle
from drylamp.core.sky.dome import plane_axes

PIECES = 6
GLASS = "glass"
ENDS, BETWEEN = "at an end", "between"
_GEOMETRY: Kept[str, Geometry] = Kept(64)


def pieces(build: TubeRow) -> int:
    """Groups of tubes, from the header's inlet on; with U-pipes the water meets all tubes at once."""
    return 1 if build.inside == "u-pipe" else min(PIECES, build.count)


def coat_nodes(build: TubeRow) -> list[str]:
    """Their coats."""
    return [f"coat-{k + 1}" for k in range(pieces(build))]


def lit_nodes(build: TubeRow, load: Load | None) -> list[str]:
    """Parts that take up sun, in the order of the areas."""
    return [*coat_nodes(build), GLASS]


def geometry_of(build: TubeRow) -> Geometry:
    """At most three tubes with what mirrors behind or beside them: x across the row, y along the tubes, z towards the sky."""
    drawn = min(build.count, 3)
    at = [(k - (drawn - 1) / 2.0) * build.pitch_m for k in range(drawn)]
    facets, tubes = list[Facet](), list[Cylinder]()
    for k, x in enumerate(at):
        tubes += cylinders(build.tube, BETWEEN if drawn == 3 and k == 1 else ENDS, x, capped=False)
        if build.wings is not None:
            facets += build.wings.facets(0.0, build.tube.lit_m, x)
    if build.behind is not None:
        half, row = build.pitch_m * drawn / 2.0, build.behind.row
        low = np.array([-half, 0.0, -build.behind.away_m])
        across, along = np.array([2.0 * half, 0.0, 0.0]), np.array([0.0, build.tube.lit_m, 0.0])
        facets.append(
            rectangle(
                "sheet",
                low,
                across,
                along,
                "mirror",
                reflectance=row.reflectance,
                slope_error_mrad=row.slope_error_mrad,
            )
        )
    return Geometry(tuple(facets), tuple(tubes), made_by_rule=True)


@dataclass(frozen=True)
class RowOptics(TracedTubes):
    """Optics of a row, ready for any direction."""

    build: TubeRow

    @classmethod
    def of(cls, build: TubeRow, load: Load | None) -> RowOptics:
        """Nothing needs to be worked out before."""
        return cls(build)

    @cached_property
    def _key(self) -> str:
        """What light meets is the same whichever way it stands, and however many lie between its ends."""
        level = {"facing_deg": 0.0, "tilt_deg": 0.0, "turned_minutes": None, "count": min(self.build.count, 3)}
        return self.build.with_(**level).model_dump_json()

    @cached_property
    def geometry(self) -> Geometry:
        """What light meets."""
        return _GEOMETRY.get(self._key, lambda: geometry_of(self.build))

    def taken_m2(self, toward: Array, rays: int) -> tuple[Array, Array]:
        """Power in each part, and power meeting the row, per W/m² of beam from each direction in the row's axes."""
        build = self.build
        received = received_once(self._key, self.geometry, toward, rays)
        order = self.geometry.receivers
        each = received[:, order.index(ENDS)]
        if BETWEEN in order:
            each = each + (build.count - 2) * received[:, order.index(BETWEEN)]
        coat, glass = taken_up(build.tube, each, np.sqrt(np.clip(1.0 - toward[:, 1] ** 2, 0.0, 1.0)))
        count = pieces(build)
        out = np.column_stack([*([coat / count] * count), glass])
        facing = build.opening_m2 * np.maximum(toward[:, 2], 0.0)
        return out, np.maximum(np.maximum(each.sum(axis=1), facing), out.sum(axis=1))

    @property
    def axes(self) -> Array:
        """Across the row, along the tubes, and outward."""
        return plane_axes(self.build.tilt_deg, self.build.facing_deg)
