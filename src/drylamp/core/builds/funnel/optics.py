"""Watts of sun in the pot and the bottom of a funnel, per watt of beam from any direction; and who sees how much of the sky."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property

import numpy as np

from drylamp.core.arrays import Array
from drylamp.core.builds.funnel.spec import Funnel
from drylamp.core.kept import Kept
from drylamp.core.loads.common.body import BOWL, Body, inside_shares
from drylamp.core.loads.load import Load, standing_on
from drylamp.core.optics.covers import stack
from drylamp.core.optics.geometry import Cylinder, Facet, Geometry
from drylamp.core.optics.power import DiffuseAreas, diffuse_areas_of
from drylamp.core.optics.sun_table import BIN_MIDDLE_COS, received_m2
from drylamp.core.sky.dome import DOME_DIRECTIONS, GROUND_DIRECTIONS, hemisphere, plane_axes
from drylamp.core.tables import absorber

BASE, STANDING = "base", "standing"
SIDES = 16
PATH_RAYS, DOME_RAYS = 256, 64


def lit_nodes(build: Funnel, load: Load | None) -> list[str]:
    """Parts that take up sun, in the order of the absorbed areas."""
    if load is None:
        return [BASE]
    bodies = [body.node for body in load.bodies_on(build.floor_m)]
    return [BASE, *bodies, *([BOWL] if load.envelope is not None else [])]


def standing(build: Funnel, load: Load | None) -> tuple[float, float] | None:
    """Diameter and height of what stands in the throat: bag or bowl where there is one, else the pot."""
    return standing_on(load, build.floor_m)


def trivet_of(build: Funnel, load: Load | None) -> float:
    """Height of what stands over the bottom: a bowl over something lying stands on the bottom itself."""
    if load is None or not load.takes_trivet:
        return 0.001
    return max(build.trivet_m, 0.001)


def ring(build: Funnel, radius_m: float, height_m: float) -> Array:
    """Corners round the axis at a height, anticlockwise seen from the mouth, front (lower) side first; shape (sides, 3)."""
    if build.shape == "panels":
        half = radius_m
        return np.array(
            [[-half, -half, height_m], [half, -half, height_m], [half, half, height_m], [-half, half, height_m]]
        )
    turn = 2 * np.pi * (np.arange(SIDES) + 0.5) / SIDES - np.pi / 2
    return np.stack([radius_m * np.cos(turn), radius_m * np.sin(turn), np.full(SIDES, height_m)], axis=1)


def geometry_of(build: Funnel, load: Load | None) -> Geometry:
    """Walls, bottom and what stands in it; x across, y up the slope of the mouth, z along the axis, 0 at the bottom."""
    low = ring(build, build.throat_m / 2, 0.0)
    if build.shape == "flat":
        x, y = build.sheet_width_m / 2, build.sheet_height_m / 2
        low = np.array([[-x, -y, 0.0], [x, -y, 0.0], [x, y, 0.0], [-x, y, 0.0]])
    facets = [Facet(BASE, low, "receiver"), *_walls(build, low)]
    stands = standing(build, load)
    if stands is None:
        return Geometry(tuple(facets), made_by_rule=True)
    up = plane_axes(build.lean_deg, 0.0)[:, 2]
    lean = stands[0] / 2 * float(np.sqrt(max(1 - up[2] ** 2, 0.0)))
    foot = np.array([0.0, 0.0, trivet_of(build, load) + lean])
    return Geometry(tuple(facets), (Cylinder(STANDING, foot, stands[1] * up, stands[0] / 2),), made_by_rule=True)


def _walls(build: Funnel, low: Array) -> list[Facet]:
    if build.shape == "flat":
        return []
    row, slant = build.mirror_row, build.slant_m
    flare = np.radians(build.flare_deg)
    high = ring(build, build.throat_m / 2 + slant * float(np.sin(flare)), slant * float(np.cos(flare)))
    out = []
    for k in range(len(low)):
        j = (k + 1) % len(low)
        corners = np.array([low[k], high[k], high[j], low[j]])
        if build.shape == "panels" and k == 0:  # the front panel is shorter
            corners[1:3] = corners[[0, 3]] + build.front_share * (corners[1:3] - corners[[0, 3]])
        out.append(Facet("wall", corners, "mirror", row.reflectance, row.slope_error_mrad))
    return out


_GEOMETRY: Kept[tuple[str, str], Geometry] = Kept(64)


@dataclass(frozen=True)
class FunnelOptics:
    """Optics of one funnel with one load, ready for any direction.

    Light that the pot throws back is counted as lost; a bag or bowl is met at the angle at which its own cylinder is.
    """

    build: Funnel
    load: Load | None

    @classmethod
    def of(cls, build: Funnel, load: Load | None) -> FunnelOptics:
        """Nothing needs to be worked out before."""
        return cls(build, load)

    @cached_property
    def geometry(self) -> Geometry:
        """The funnel as facets."""
        level = self.build.with_(facing_deg=0.0, turned_minutes=None)  # the same whichever way it faces
        key = level.model_dump_json(), "" if self.load is None else self.load.model_dump_json()
        return _GEOMETRY.get(key, lambda: geometry_of(level, self.load))

    @property
    def bodies(self) -> list[Body]:
        """What stands or lies in it."""
        return [] if self.load is None else self.load.bodies_on(self.build.floor_m)

    @property
    def axes(self) -> Array:
        """The mouth's axes in the world, as rows; a flat sheet lies level."""
        return plane_axes(self.build.lean_deg, self.build.facing_deg)

    def along_path(self, toward_world: Array) -> tuple[Array, Array]:
        """Power in each part, and power meeting the mouth, per W/m² of beam from each direction."""
        toward = np.ascontiguousarray(toward_world @ self.axes.T)
        return self._taken(toward, received_m2(self.geometry, toward, PATH_RAYS))

    def _taken(self, toward: Array, received: Array) -> tuple[Array, Array]:
        """What parts take up of what the receivers meet."""
        order = self.geometry.receivers
        on_base = received[:, order.index(BASE)].sum(axis=1)
        names = lit_nodes(self.build, self.load)
        out = np.zeros((len(toward), len(names)))
        black = absorber(self.build.base).absorptance
        lies = [body for body in self.bodies if not body.stands]
        under = None if self.load is None else self.load.envelope
        if under is None:
            area = self.build.base_m2
            foot = sum(body.foot_m2 for body in lies)
            out[:, 0] = on_base * black * max(1 - foot / area, 0.0)
            for body in lies:
                out[:, names.index(body.node)] = on_base * body.absorptance * body.foot_m2 / area
        else:
            out[:, 0] = on_base * black
        if STANDING in order:
            intercepted = received[:, order.index(STANDING)]
            if under is None or self.load is None:
                out[:, names.index(self.bodies[0].node)] = intercepted.sum(axis=1) * self.bodies[0].absorptance
            else:
                sheet = stack([under.pane], BIN_MIDDLE_COS)
                out[:, names.index(BOWL)] = intercepted @ sheet.absorptance[0]
                for name, share in self._inside(black).items():
                    out[:, names.index(name)] += share * self.load.clear_share * (intercepted @ sheet.transmittance)
        facing = self.build.opening_m2 * np.maximum(toward[:, 2], 0.0)
        return out, np.maximum(facing, out.sum(axis=1))

    def _inside(self, floor_absorptance: float) -> dict[str, float]:
        """Shares of what comes through the bowl that its inside takes up; what a pale pot throws back is lost."""
        assert self.load is not None
        assert self.load.envelope is not None
        shares = inside_shares(self.bodies, self.load.envelope, floor_absorptance)
        free = max(self.load.envelope.foot_m2 - sum(b.foot_m2 for b in self.bodies), 0.0)
        hulls = sum(b.hull_m2 for b in self.bodies)
        mean = (sum(b.hull_m2 * b.absorptance for b in self.bodies) + free * floor_absorptance) / (hulls + free)
        return {(BASE if name == "floor" else name): share * mean for name, share in shares.items()}

    @cached_property
    def _dome(self) -> tuple[Array, Array]:
        """Directions of the dome in the mouth's axes, and what the receivers meet of each."""
        toward = np.ascontiguousarray(hemisphere(DOME_DIRECTIONS) @ self.axes.T)
        return toward, received_m2(self.geometry, toward, DOME_RAYS)

    @property
    def sky_m2(self) -> dict[str, float]:
        """Area with which bottom and standing body see the sky, by way of the mirrors too (they mirror long-wave as well), m².

        By reciprocity it is what they would take up of a uniform sky.
        """
        seen = 2.0 / DOME_DIRECTIONS * self._dome[1].sum(axis=(0, 2))
        return dict(zip(self.geometry.receivers, seen.tolist(), strict=True))

    def diffuse_areas(self, skyline_deg: Array) -> DiffuseAreas:
        """Areas for the diffuse sky and the ground."""
        below = np.ascontiguousarray(hemisphere(GROUND_DIRECTIONS, upper=False) @ self.axes.T)
        from_ground = self._taken(below, received_m2(self.geometry, below, DOME_RAYS))
        return diffuse_areas_of(skyline_deg, np.column_stack(self._taken(*self._dome)), np.column_stack(from_ground))
