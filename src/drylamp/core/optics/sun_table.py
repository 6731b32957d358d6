"""What a geometry receives from every direction of the sky: a table, what the dome adds up to, and where light lands.

Directions stand on an octahedral grid over the whole sphere (no pole, no seam above): the octahedron
|x| + |y| + |z| = 1 unfolded into a square, between whose nodes a table is read by straight lines.

References:
    Octahedral map of the sphere: Praun & Hoppe 2003. Sobol points: scipy.stats.qmc.
"""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache

import numpy as np
from scipy.special import ndtri

from drylamp.core.arrays import Array
from drylamp.core.checks import require
from drylamp.core.optics.geometry import CompiledGeometry, Geometry
from drylamp.core.optics.points import sobol
from drylamp.core.optics.trace import INCIDENCE_BINS, Noting, Solids, trace

SUN_HALF_RAD = np.radians(0.533 / 2)
SLOPE_PAIRS = 4
GRID = 49
"""Nodes along each side of the octahedral grid; odd, so that straight up is a node. About 4° apart."""
RAYS = 1024
BIN_MIDDLE_COS = (np.arange(INCIDENCE_BINS) + 0.5) / INCIDENCE_BINS


@lru_cache(maxsize=8)
def ray_samples(rays: int) -> Array:
    """Sobol points for places, sun disc and slope errors, the same ones every time; shape (rays, 4 + 2·SLOPE_PAIRS)."""
    require(rays >= 16 and rays & (rays - 1) == 0, "rays", f"{rays} was given; allowed are powers of two from 16")
    points = sobol(41, 4 + 2 * SLOPE_PAIRS, rays)
    reach, turn = np.sqrt(points[:, 2]), 2 * np.pi * points[:, 3]
    points[:, 2], points[:, 3] = reach * np.cos(turn), reach * np.sin(turn)
    points[:, 4:] = ndtri(np.clip(points[:, 4:], 1e-6, 1 - 1e-6))
    points.setflags(write=False)
    return np.asarray(points)


def received_m2(geometry: Geometry, toward: Array, rays: int = RAYS, sun_half_rad: float = SUN_HALF_RAD) -> Array:
    """Area of beam that each receiver takes up, by bin of incidence, m² per direction.

    Parameters
    ----------
    geometry
        facets and cylinders
    toward
        unit vectors towards the sun in the geometry's axes, shape (n, 3)
    rays
        per direction, a power of two
    sun_half_rad
        half the width of the sun's disc

    Returns
    -------
    Shape (n, receivers, INCIDENCE_BINS); times the beam (W/m²) it is watts.
    """
    ready = geometry.compiled()
    toward = np.ascontiguousarray(np.atleast_2d(toward), dtype=float)
    out = np.zeros((len(toward), ready.receivers, INCIDENCE_BINS))
    nothing = Noting(-1, np.empty((0, 4)))
    trace(toward, ray_samples(rays), sun_half_rad, _solids(geometry, ready), nothing, out, np.empty((4, 9)))
    return out


def _solids(geometry: Geometry, ready: CompiledGeometry) -> Solids:
    return Solids(geometry.cloud, ready.pieces, ready.facets, ready.cylinders, ready.tables)


def grid_directions(nodes: int = GRID) -> Array:
    """Directions of the octahedral grid, unit vectors, shape (nodes, nodes, 3)."""
    side = np.linspace(-1.0, 1.0, nodes)
    u, v = np.meshgrid(side, side, indexing="ij")
    z = 1.0 - np.abs(u) - np.abs(v)
    fold = np.maximum(-z, 0.0)
    x, y = u - np.sign(u) * fold, v - np.sign(v) * fold
    vectors = np.stack([x, y, z], axis=-1)
    return np.asarray(vectors / np.linalg.norm(vectors, axis=-1, keepdims=True))


def grid_place(toward: Array, nodes: int = GRID) -> tuple[Array, Array]:
    """Where directions lie on the grid, as fractional node numbers along both sides; shape (n,) each."""
    flat = toward / np.abs(toward).sum(axis=-1, keepdims=True)
    x, y, below = flat[..., 0], flat[..., 1], flat[..., 2] < 0
    sign_x, sign_y = np.where(x >= 0, 1.0, -1.0), np.where(y >= 0, 1.0, -1.0)
    u = np.where(below, sign_x * (1.0 - np.abs(y)), x)
    v = np.where(below, sign_y * (1.0 - np.abs(x)), y)
    return (u + 1.0) * (nodes - 1) / 2, (v + 1.0) * (nodes - 1) / 2


def read_grid(values: Array, toward: Array) -> Array:
    """Values on the grid's nodes, shape (nodes, nodes, …), read for directions by straight lines, shape (n, …)."""
    nodes = values.shape[0]
    u, v = grid_place(toward, nodes)
    i, j = (np.minimum(w.astype(np.int64), nodes - 2) for w in (u, v))
    shape = (-1,) + (1,) * (values.ndim - 2)
    a, b = (u - i).reshape(shape), (v - j).reshape(shape)
    low = values[i, j] * (1 - b) + values[i, j + 1] * b
    high = values[i + 1, j] * (1 - b) + values[i + 1, j + 1] * b
    return np.asarray(low * (1 - a) + high * a)


@dataclass(frozen=True)
class SunTable:
    """What a geometry receives from every direction.

    Attributes:
        receivers: names, in order
        area_m2: by node of the grid, receiver and bin of incidence, shape (nodes, nodes, receivers, bins)
    """

    receivers: tuple[str, ...]
    area_m2: Array

    def at(self, toward: Array) -> Array:
        """Read the table for directions in the geometry's axes, shape (n, receivers, bins)."""
        return read_grid(self.area_m2, np.atleast_2d(toward))

    def from_uniform_sky(self, directions: Array, share_each_sr: float, weight: Array) -> Array:
        """Area that a uniform sky of radiance 1/π per W/m² of level irradiance amounts to, m²; shape (receivers, bins).

        Parameters
        ----------
        directions
            spread evenly, in the geometry's axes, shape (m, 3)
        share_each_sr
            solid angle that each stands for
        weight
            1 where the sky is open, 0 where it is hidden, shape (m,)
        """
        return np.asarray(np.tensordot(weight, self.at(directions), axes=1) * share_each_sr / np.pi)


def table_of(geometry: Geometry, nodes: int = GRID, rays: int = RAYS) -> SunTable:
    """Trace a geometry from every direction of the grid (nodes²·rays rays in all)."""
    directions = grid_directions(nodes)
    area = received_m2(geometry, directions.reshape(-1, 3), rays)
    return SunTable(geometry.receivers, area.reshape(nodes, nodes, len(geometry.receivers), INCIDENCE_BINS))


@dataclass(frozen=True)
class FluxMap:
    """Where light lands on a rectangle.

    Attributes:
        suns: sun on each cell as a multiple of the beam, shape (across, up)
        received_m2: area of beam on the whole rectangle
        centre: middle of the light, as shares of the rectangle's two edges (NaN in the dark)
        landed_m2: area of beam by receiver, all of them, of the same rays
        peak: the brightest spot (mean of three by three cells, so that no single ray counts), same unit as ``suns``
    """

    suns: Array
    received_m2: float
    centre: tuple[float, float]
    peak: float
    landed_m2: dict[str, float]


def flux_map(
    geometry: Geometry, receiver: str, toward: Array, across: int = 24, up: int = 24, rays: int = 65536
) -> FluxMap:
    """Trace one direction and count where light meets a rectangular receiver.

    Raises
    ------
    InputProblem
        the receiver is not in the geometry, or is no single rectangle.
    """
    known = ", ".join(geometry.receivers)
    require(receiver in geometry.receivers, "receiver", f"'{receiver}' is not in the geometry; known: {known}")
    facets = [facet for facet in geometry.facets if facet.name == receiver]
    good = len(facets) == 1 and len(facets[0].corners) == 4
    require(good, "receiver", f"'{receiver}' is no single rectangle; a map needs one")
    corner, first, _, last = facets[0].corners
    places, landed = _places(geometry, geometry.receivers.index(receiver), toward, rays)
    along, rise = first - corner, last - corner
    a = (places[:, :3] - corner) @ along / (along @ along)
    b = (places[:, :3] - corner) @ rise / (rise @ rise)
    weight, box = places[:, 3], ((0.0, 1.0), (0.0, 1.0))
    counted, _, _ = np.histogram2d(a, b, bins=(across, up), range=box, weights=weight)
    suns = counted / (facets[0].area_m2 / (across * up))
    total = float(weight.sum())
    middle = (float((a * weight).sum() / total), float((b * weight).sum() / total)) if total > 0 else (np.nan, np.nan)
    from scipy.ndimage import uniform_filter

    return FluxMap(suns, total, middle, float(uniform_filter(suns, 3, mode="nearest").max()), landed)


def _places(geometry: Geometry, receiver: int, toward: Array, rays: int) -> tuple[Array, dict[str, float]]:
    """Where rays meet one receiver, and what each receiver takes up of them."""
    ready = geometry.compiled()
    out, points = np.zeros((1, ready.receivers, INCIDENCE_BINS)), np.empty((rays, 4))
    one = np.ascontiguousarray(toward, dtype=float).reshape(1, 3)
    noting = Noting(receiver, points)
    noted = trace(one, ray_samples(rays), SUN_HALF_RAD, _solids(geometry, ready), noting, out, np.empty((4, 9)))
    return points[:noted], dict(zip(geometry.receivers, out[0].sum(axis=1).tolist(), strict=True))
