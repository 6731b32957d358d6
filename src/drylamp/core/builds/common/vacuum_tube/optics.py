"""Light through the outer glass of a tube onto the coat on the inner one.

A ray is counted where it meets the inner glass, at a cosine c of incidence. Square to the axis it came in sin ψ of the inner radius from it, c = s √(1 − sin²ψ)
with s the sine between ray and axis; the outer glass it met at s √(1 − (R_i/R_o)² sin²ψ). What the thin glass moves a ray aside is left out, and so is its
weakening where it passes between both glasses on to a mirror.

References:
    Sheets by ``optics.covers``; what the coat throws back comes again from the glass: τα = τ α / (1 − (1 − α) ρ_d), Duffie & Beckman 5.5.1.
"""

from __future__ import annotations

from abc import ABC, abstractmethod
from functools import cached_property

import numpy as np

from drylamp.core.arrays import Array
from drylamp.core.builds.common.vacuum_tube.spec import VacuumTube
from drylamp.core.kept import Kept
from drylamp.core.optics.covers import stack
from drylamp.core.optics.geometry import Cylinder, Geometry
from drylamp.core.optics.power import DiffuseAreas, diffuse_areas_of
from drylamp.core.optics.sun_table import BIN_MIDDLE_COS, received_m2
from drylamp.core.sky.dome import DOME_DIRECTIONS, GROUND_DIRECTIONS, hemisphere

DIFFUSE_BACK = 0.15
"""What a single glass throws back of diffuse light (Duffie & Beckman 5.5, usual value)."""
CAP_M = 0.02
PATH_RAYS, DOME_RAYS = 512, 64


_RECEIVED: Kept[tuple[str, bytes, int], Array] = Kept(64)


def received_once(key: str, geometry: Geometry, toward: Array, rays: int) -> Array:
    """What ``received_m2`` finds, traced once for the same geometry (by its key) and directions: a build is run empty and filled."""
    directions = np.ascontiguousarray(toward)
    return _RECEIVED.get((key, directions.tobytes(), rays), lambda: received_m2(geometry, directions, rays))


def cylinders(tube: VacuumTube, name: str, across_m: float = 0.0, capped: bool = True) -> tuple[Cylinder, ...]:
    """The lit part of the inner glass along y from 0 on, foot and holder at its ends."""
    lit = Cylinder(name, np.array([across_m, 0.0, 0.0]), np.array([0.0, tube.lit_m, 0.0]), tube.inner_m / 2.0)
    if not capped:
        return (lit,)
    thick = np.array([0.0, CAP_M, 0.0])
    ends = (np.array([across_m, -CAP_M - 1e-4, 0.0]), np.array([across_m, tube.lit_m + 1e-4, 0.0]))
    return (lit, *(Cylinder("cap", at, thick, tube.outer_m / 2.0, "opaque") for at in ends))


def taken_up(tube: VacuumTube, received_m2: Array, axis_sine: Array) -> tuple[Array, Array]:
    """Areas that the coat and the outer glass take up of what meets the inner glass.

    Parameters
    ----------
    received_m2
        by bin of incidence, shape (n, bins)
    axis_sine
        sine between each direction and the axis, shape (n,)

    Returns
    -------
    m² each, shape (n,).
    """
    sine = np.maximum(axis_sine, 1e-6)[:, None]
    across = np.clip(1.0 - (BIN_MIDDLE_COS[None, :] / sine) ** 2, 0.0, 1.0)
    at_glass = sine * np.sqrt(1.0 - (tube.inner_m / tube.outer_m) ** 2 * across)
    sheet = stack([tube.pane], at_glass)
    alpha = tube.coat_row.absorptance
    coat = sheet.transmittance * alpha / (1.0 - (1.0 - alpha) * DIFFUSE_BACK)
    return (received_m2 * coat).sum(axis=1), (received_m2 * sheet.absorptance[0]).sum(axis=1)


class TracedTubes(ABC):
    """Optics of tubes and what mirrors beside them, traced in axes of their own: across, along, towards the sky."""

    @property
    @abstractmethod
    def axes(self) -> Array:
        """Those axes in the world, as rows, shape (3, 3)."""

    @abstractmethod
    def taken_m2(self, toward: Array, rays: int) -> tuple[Array, Array]:
        """Power in each part, and power met, per W/m² of beam from each direction in those axes, by so many rays; shapes (n, parts) and (n,), m²."""

    def along_path(self, toward_world: Array) -> tuple[Array, Array]:
        """The same along the sun's path."""
        return self.taken_m2(toward_world @ self.axes.T, PATH_RAYS)

    @cached_property
    def _dome(self) -> tuple[Array, Array]:
        """From sky and ground, each with what was met last."""
        sky, ground = hemisphere(DOME_DIRECTIONS), hemisphere(GROUND_DIRECTIONS, upper=False)
        from_sky, from_ground = (np.column_stack(self.taken_m2(d @ self.axes.T, DOME_RAYS)) for d in (sky, ground))
        return from_sky, from_ground

    def diffuse_areas(self, skyline_deg: Array) -> DiffuseAreas:
        """Areas for the diffuse sky and the ground."""
        return diffuse_areas_of(skyline_deg, *self._dome)
