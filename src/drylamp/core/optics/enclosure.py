"""View factors of any enclosure of flat pieces with one cylinder in it, from quasi-random rays (the same ones every time)."""

from __future__ import annotations

import numpy as np

from drylamp.core.arrays import Array
from drylamp.core.optics.cavity import RAYS_PER_SURFACE, leaving, sobol
from drylamp.core.optics.geometry import Cylinder, Facet, Geometry
from drylamp.core.optics.trace import first_met
from drylamp.core.optics.vectors import crossed

EVEN_OUT = 200
STANDS_WITHIN_M = 1e-4


def enclosure_views(geometry: Geometry, names: list[str]) -> tuple[Array, Array]:
    """View factors and areas of an enclosure's surfaces.

    Parameters
    ----------
    geometry
        receivers and covers whose fronts look inward; covers count with both sides
    names
        surfaces in the wanted order; those that are not there get area 0

    Returns
    -------
    View factors with rows summing to 1 and areas in reciprocity, shape (n, n), and areas m², shape (n,).
    """
    ready, count = geometry.compiled(), len(names)
    views, areas = np.zeros((count, count)), np.zeros(count)
    number = {name: names.index(name) for name in geometry.receivers}
    intercepted = np.zeros((2, len(geometry.receivers)))
    room = np.zeros(6)
    for name, row in number.items():
        points, directions, area = _emitted(geometry, name)
        free = _uncovered(geometry, points)
        points, directions, areas[row] = points[free], directions[free], area * float(free.mean())
        intercepted[:] = 0.0
        first_met(points, directions, ready.pieces, ready.facets, ready.cylinders, room, intercepted[0])
        for other, column in number.items():
            views[row, column] = intercepted[0, geometry.receivers.index(other)]
    return _reciprocal(views, areas), areas


def _reciprocal(views: Array, areas: Array) -> Array:
    """Scale rows and columns alike until every surface sends out exactly its area."""
    count = len(areas)
    exchange = areas[:, None] * views / np.maximum(views.sum(axis=1, keepdims=True), 1e-12)
    exchange = (exchange + exchange.T) / 2.0
    for _ in range(EVEN_OUT):
        total = exchange.sum(axis=1)
        scale = np.sqrt(np.divide(areas, total, out=np.zeros(count), where=total > 0))
        exchange = exchange * scale[:, None] * scale[None, :]
    return np.asarray(np.divide(exchange, areas[:, None], out=np.zeros((count, count)), where=areas[:, None] > 0))


def _uncovered(geometry: Geometry, points: Array) -> np.ndarray:
    """Points that no cylinder stands on."""
    out = np.ones(len(points), dtype=bool)
    for part in geometry.cylinders:
        axis = part.axis / np.linalg.norm(part.axis)
        off = points - part.base
        along = off @ axis
        out &= (np.abs(along) > STANDS_WITHIN_M) | (np.linalg.norm(off - along[:, None] * axis, axis=1) > part.radius_m)
    return out


def _emitted(geometry: Geometry, name: str) -> tuple[Array, Array, float]:
    """Points spread over a surface, cosine-weighted directions leaving it, and its area."""
    facets = [facet for facet in geometry.facets if facet.name == name]
    cylinders = [part for part in geometry.cylinders if part.name == name]
    u = sobol(RAYS_PER_SURFACE, 4)
    if cylinders:
        points, normals, area = _of_cylinder(cylinders[0], u[:, 2], u[:, 3])
    else:
        points, normals, area = _of_facets(facets, u[:, 2], u[:, 3])
    points, directions = leaving(points, normals, u)
    return np.ascontiguousarray(points), np.ascontiguousarray(directions), area


def _of_facets(facets: list[Facet], a: Array, b: Array) -> tuple[Array, Array, float]:
    """Points of triangles, each with as many as its area is worth; a cover shows its inner side."""
    triangles, normals = [], []
    for facet in facets:
        side = -1.0 if facet.role == "cover" else 1.0
        for k in range(1, len(facet.corners) - 1):
            triangles.append(facet.corners[[0, k, k + 1]])
            normals.append(side * facet.normal)
    corners = np.array(triangles)
    sizes = np.linalg.norm(crossed(corners[:, 1] - corners[:, 0], corners[:, 2] - corners[:, 0]), axis=1) / 2
    edges = np.concatenate([[0.0], np.cumsum(sizes) / sizes.sum()])
    which = np.clip(np.searchsorted(edges, a, side="right") - 1, 0, len(sizes) - 1)
    along = (a - edges[which]) / np.maximum(edges[which + 1] - edges[which], 1e-12)
    root = np.sqrt(along)[:, None]
    t = corners[which]
    points = (1 - root) * t[:, 0] + root * (1 - b[:, None]) * t[:, 1] + root * b[:, None] * t[:, 2]
    return points, np.array(normals)[which], float(sizes.sum())


def _of_cylinder(part: Cylinder, a: Array, b: Array) -> tuple[Array, Array, float]:
    """Points of side and far end; the near end stands on something."""
    length = float(np.linalg.norm(part.axis))
    axis, radius = part.axis / length, part.radius_m
    helper = np.array([1.0, 0.0, 0.0]) if abs(axis[0]) < 0.9 else np.array([0.0, 1.0, 0.0])
    first = crossed(axis, helper)
    first /= np.linalg.norm(first)
    second = crossed(axis, first)
    top_share = radius / (radius + 2 * length)
    on_top, turn = a < top_share, 2 * np.pi * b
    out = np.cos(turn)[:, None] * first + np.sin(turn)[:, None] * second
    r = np.where(on_top, radius * np.sqrt(np.clip(a / top_share, 0, 1)), radius)[:, None]
    h = np.where(on_top, length, length * (a - top_share) / (1 - top_share))[:, None]
    normals = np.where(on_top[:, None], axis, out)
    return part.base + r * out + h * axis, normals, float(np.pi * radius * (radius + 2 * length))
