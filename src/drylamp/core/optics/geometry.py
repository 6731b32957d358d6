r"""A build as light sees it: flat facets and upright or lying cylinders, each with what it does to a ray.

Axes are the caller's own (a box uses those of its opening: x across, y up the slope, z outward). A facet's front is
the side from which its corners run anticlockwise::

        3 ────── 2          normal n = (1 → 2) × (1 → 0 …), towards the reader
        │   n ⊙  │
        0 ────── 1

Mirrors reflect and receivers receive at their front and are boards at their back; covers count on both sides.
"""

from __future__ import annotations

from dataclasses import dataclass, field
from functools import cached_property
from itertools import combinations
from typing import Literal

import numpy as np

from drylamp.core.arrays import Array
from drylamp.core.checks import require
from drylamp.core.optics.covers import Pane, stack
from drylamp.core.optics.vectors import crossed

Role = Literal["mirror", "receiver", "opaque", "cover"]
ROLES: tuple[Role, ...] = ("opaque", "mirror", "receiver", "cover")
COSINE_STEPS = 64
"""Steps of a cover's transmittance over the cosine of incidence, 0–1."""
CROSSING_CHECK_MOST = 120
"""Above this many facets (a dish of fine facets, made by a function) pairs are no longer tested for crossing."""


@dataclass(frozen=True)
class Facet:
    """A flat convex piece.

    Attributes:
        name: for messages, drawings and results; several facets of one name count together
        corners: in order round the edge, metres, shape (n, 3), n ≥ 3
        role: what a ray does there; a receiver ends it and counts it
        reflectance, slope_error_mrad: of a mirror; the error is the standard deviation of its normal in each direction
        panes: of a cover, outermost first
    """

    name: str
    corners: Array
    role: Role = "opaque"
    reflectance: float = 0.0
    slope_error_mrad: float = 0.0
    panes: tuple[Pane, ...] = ()

    def __post_init__(self) -> None:
        """Refuse what is no flat convex piece.

        Raises
        ------
        InputProblem
            too few corners, no area, not flat, edges that cross, a dent, or a number out of range.
        """
        corners = np.asarray(self.corners, dtype=float)
        object.__setattr__(self, "corners", corners)
        where = f"facet.{self.name}"
        good = corners.ndim == 2 and corners.shape[0] >= 3 and corners.shape[1] == 3 and np.isfinite(corners).all()
        require(bool(good), where, "needs three or more corners of three finite numbers each")
        normal = _area_vector(corners)
        area, size = float(np.linalg.norm(normal)), float(np.ptp(corners, axis=0).max())
        require(
            not _edges_cross(corners), where, "its edges cross each other; give the corners in order round the edge"
        )
        require(
            area > 1e-9 * max(size, 1e-6) ** 2 and area > 1e-10, where, "has no area; give corners that are not in line"
        )
        off = np.abs((corners - corners[0]) @ (normal / area)).max()
        require(
            off <= 1e-3 * size, where, f"is not flat (one corner is {off * 1000:.1f} mm off); split it into triangles"
        )
        require(not _has_dent(corners, normal), where, "has a dent; split it into convex pieces")
        require(
            0 <= self.reflectance <= 1, f"{where}.reflectance", f"{self.reflectance:g} was given; allowed is 0 to 1"
        )
        error = self.slope_error_mrad
        require(0 <= error <= 100, f"{where}.slope_error_mrad", f"{error:g} was given; allowed is 0 to 100")

    @property
    def area_m2(self) -> float:
        """Its area."""
        return float(np.linalg.norm(_area_vector(self.corners)))

    @cached_property
    def normal(self) -> Array:
        """Unit vector out of its front."""
        vector = _area_vector(self.corners)
        return np.asarray(vector / np.linalg.norm(vector))


@dataclass(frozen=True)
class Cylinder:
    """A closed cylinder: a pot, a tube, a drum.

    Attributes:
        base: middle of one end, metres, shape (3,)
        axis: from that end to the other; its length is the cylinder's, shape (3,)
        radius_m: its radius
        role: receiver or opaque
    """

    name: str
    base: Array
    axis: Array
    radius_m: float
    role: Literal["receiver", "opaque"] = "receiver"

    def __post_init__(self) -> None:
        """Refuse a radius or a length of nothing."""
        object.__setattr__(self, "base", np.asarray(self.base, dtype=float))
        object.__setattr__(self, "axis", np.asarray(self.axis, dtype=float))
        where = f"cylinder.{self.name}"
        require(self.radius_m > 0, f"{where}.radius_m", f"{self.radius_m:g} was given; allowed is above 0")
        require(float(np.linalg.norm(self.axis)) > 0, f"{where}.axis", "has no length; give its two ends apart")


@dataclass(frozen=True)
class Geometry:
    """All that light can meet, checked as a whole; what a rule made cannot cut through itself and is not tested for it.

    Raises
    ------
    InputProblem
        there is nothing in it, nothing to receive light, or two facets cut through each other.
    """

    facets: tuple[Facet, ...]
    cylinders: tuple[Cylinder, ...] = ()
    made_by_rule: bool = False
    receivers: tuple[str, ...] = field(init=False)

    def __post_init__(self) -> None:
        """Number the receivers and test the set."""
        require(bool(self.facets or self.cylinders), "geometry", "is empty; give at least one facet or cylinder")
        names = [facet.name for facet in self.facets if facet.role in ("receiver", "cover")]
        names += [part.name for part in self.cylinders if part.role == "receiver"]
        require(bool(names), "geometry", "nothing in it receives light; make one part a receiver")
        object.__setattr__(self, "receivers", tuple(dict.fromkeys(names)))
        if len(self.facets) <= CROSSING_CHECK_MOST and not self.made_by_rule:
            for one, other in combinations(self.facets, 2):
                require(
                    not _cut_through(one, other),
                    f"facet.{one.name}",
                    f"cuts through facet '{other.name}'; move one of them or split them where they meet",
                )

    @cached_property
    def cloud(self) -> Array:
        """Points whose hull holds everything, shape (n, 3)."""
        points = [facet.corners for facet in self.facets]
        for part in self.cylinders:
            reach = part.radius_m * np.array([[i, j, k] for i in (-1, 1) for j in (-1, 1) for k in (-1, 1)])
            points += [part.base + reach, part.base + part.axis + reach]
        return np.ascontiguousarray(np.unique(np.vstack(points), axis=0))

    def compiled(self) -> CompiledGeometry:
        """The geometry as the compiled tracer wants it, made once."""
        return self._compiled

    @cached_property
    def _compiled(self) -> CompiledGeometry:
        rows, pieces = [], []
        tables: list[Array] = []
        for facet in self.facets:
            receiver = self.receivers.index(facet.name) if facet.role in ("receiver", "cover") else 0
            table = 0
            if facet.role == "cover":
                tables.append(transmittance_table(facet.panes))
                table = len(tables) - 1
            row = [ROLES.index(facet.role), facet.reflectance, facet.slope_error_mrad / 1000, receiver, table]
            for piece in _pieces(facet.corners):
                rows.append(row)
                pieces.append(piece)
        cylinders = []
        for part in self.cylinders:
            length = float(np.linalg.norm(part.axis))
            receiver = self.receivers.index(part.name) if part.role == "receiver" else 0
            axis = part.axis / length
            cylinders.append([*part.base, *axis, part.radius_m, length, ROLES.index(part.role), receiver])
        return CompiledGeometry(
            pieces=np.array(pieces).reshape(-1, 14),
            facets=np.array(rows).reshape(-1, 5),
            cylinders=np.array(cylinders).reshape(-1, 10),
            tables=np.array(tables) if tables else np.ones((1, COSINE_STEPS + 1)),
            receivers=len(self.receivers),
        )


@dataclass(frozen=True)
class CompiledGeometry:
    """Arrays for the tracer.

    Attributes:
        pieces: triangles and parallelograms: corner, normal, two dual vectors, offset, is triangle; shape (n, 14)
        facets: of each piece: role, reflectance, slope error (rad), receiver, cover table; shape (n, 5)
        cylinders: base, axis, radius, length, role, receiver; shape (m, 10)
        tables: transmittance over cosine, shape (covers, COSINE_STEPS + 1)
        receivers: how many
    """

    pieces: Array
    facets: Array
    cylinders: Array
    tables: Array
    receivers: int


def transmittance_table(panes: tuple[Pane, ...]) -> Array:
    """Transmittance of a cover at even steps of the cosine of incidence, shape (COSINE_STEPS + 1,)."""
    return stack(list(panes), np.linspace(0.0, 1.0, COSINE_STEPS + 1)).transmittance


def rectangle(name: str, corner: Array, along: Array, up: Array, role: Role = "opaque", **what: object) -> Facet:
    """A facet from one corner and its two edges; its front is along × up."""
    corner, along, up = (np.asarray(v, dtype=float) for v in (corner, along, up))
    return Facet(name, np.array([corner, corner + along, corner + along + up, corner + up]), role, **what)  # type: ignore[arg-type]


def _area_vector(corners: Array) -> Array:
    """Normal with the length of the area (Newell)."""
    return np.asarray(crossed(corners, np.roll(corners, -1, axis=0)).sum(axis=0) / 2)


def _flat(corners: Array) -> Array:
    """Corners in a plane with them, square to their area vector, shape (n, 2); edge on for what has no area."""
    normal = _area_vector(corners)
    size = float(np.linalg.norm(normal))
    normal = normal / size if size > 0 else np.array([0.0, 0.0, 1.0])
    helper = np.array([1.0, 0.0, 0.0]) if abs(normal[0]) < 0.9 else np.array([0.0, 1.0, 0.0])
    across = crossed(helper, normal)
    return np.asarray((corners - corners[0]) @ np.stack([across, crossed(normal, across)]).T)


def _edges_cross(corners: Array) -> bool:
    flat = _flat(corners)
    count = len(flat)
    for i, j in combinations(range(count), 2):
        if j == i + 1 or (i == 0 and j == count - 1):
            continue
        if _segments_cross(flat[i], flat[(i + 1) % count], flat[j], flat[(j + 1) % count]):
            return True
    return False


def _segments_cross(a: Array, b: Array, c: Array, d: Array) -> bool:
    def side(p: Array, q: Array, r: Array) -> float:
        return float((q[0] - p[0]) * (r[1] - p[1]) - (q[1] - p[1]) * (r[0] - p[0]))

    return side(a, b, c) * side(a, b, d) < 0 and side(c, d, a) * side(c, d, b) < 0


def _has_dent(corners: Array, normal: Array) -> bool:
    edges = np.roll(corners, -1, axis=0) - corners
    turns = crossed(edges, np.roll(edges, -1, axis=0)) @ normal
    return bool((turns < -1e-9 * np.abs(turns).max()).any())


def _cut_through(one: Facet, other: Facet) -> bool:
    """Whether two facets share a line inside both (touching along edges is allowed).

    Each facet meets the other's plane in a segment; both segments lie on one line, and the facets cut through each
    other when the segments overlap.
    """
    first, second = _segment_in_plane(one, other), _segment_in_plane(other, one)
    if first is None or second is None:
        return False
    line = first[1] - first[0]
    size = float(np.linalg.norm(line))
    if size == 0:
        return False
    along = [np.sort((segment - first[0]) @ line / size) for segment in (first, second)]
    overlap = min(along[0][1], along[1][1]) - max(along[0][0], along[1][0])
    return bool(overlap > 1e-3 * min(size, float(np.ptp(along[1]))))


def _segment_in_plane(facet: Facet, plane_of: Facet) -> Array | None:
    """Where a facet crosses another one's plane, shape (2, 3); None when it stays on one side of it."""
    height = (facet.corners - plane_of.corners[0]) @ plane_of.normal
    margin = 1e-3 * float(np.ptp(facet.corners, axis=0).max())
    if height.max() < margin or height.min() > -margin:
        return None
    after = np.roll(height, -1)
    ends = []
    for k in np.flatnonzero((height < 0) != (after < 0)):
        share = height[k] / (height[k] - after[k])
        ends.append(facet.corners[k] + share * (facet.corners[(k + 1) % len(height)] - facet.corners[k]))
    return np.array(ends[:2])


def _pieces(corners: Array) -> list[list[float]]:
    """A convex piece as one parallelogram or as a fan of triangles, in the tracer's numbers."""
    if len(corners) == 4 and np.abs(corners[0] + corners[2] - corners[1] - corners[3]).max() < 1e-9:
        return [_piece(corners[0], corners[1], corners[3], False)]
    return [_piece(corners[0], corners[k], corners[k + 1], True) for k in range(1, len(corners) - 1)]


def _piece(origin: Array, first: Array, second: Array, is_triangle: bool) -> list[float]:
    u, v = first - origin, second - origin
    normal = crossed(u, v)
    square = float(normal @ normal)
    across, along = crossed(v, normal) / square, crossed(normal, u) / square
    unit = normal / np.sqrt(square)
    return [*origin, *unit, *across, *along, float(unit @ origin), float(is_triangle)]
