"""Light at points of a floor under an opening with flat mirrors: straight in, and once by way of each mirror.

Traced backwards, from the point towards the sun and towards its image in each mirror, so that a small thing gets as
sharp an answer as a large one. Light by way of two mirrors is left out.
"""

from __future__ import annotations

from collections.abc import Callable

import numpy as np

from drylamp.core.arrays import Array
from drylamp.core.optics.geometry import Facet

_EDGE = 1e-9


def light_at(
    points: Array, normal: Array, toward: Array, opening: tuple[Array, Array, Array], mirrors: list[Facet],
    transmittance: Callable[[Array], Array],
) -> Array:  # fmt: skip
    """Beam on each point for each direction of the sun, per W/m² of beam.

    Parameters
    ----------
    points
        on the floor, shape (s, 3)
    normal
        of the floor, shape (3,)
    toward
        unit vectors to the sun, shape (n, 3)
    opening
        one corner of the opening and its two edges, in order so that across × up points outward
    mirrors
        rectangles above it, reflecting at their fronts
    transmittance
        of the cover over the cosine of incidence

    Returns
    -------
    Shape (n, s).
    """
    corner, across, up = opening
    outward = np.cross(across, up)
    outward = outward / np.linalg.norm(outward)
    out = np.zeros((len(toward), len(points)))

    def arriving(seen: Array) -> Array:
        """cos θ τ where the line of sight goes through the opening, else 0."""
        rise = seen @ outward
        reach = (corner - points) @ outward / np.maximum(rise, _EDGE)[:, None]
        at = points[None] + reach[..., None] * seen[:, None] - corner
        a, b = at @ across / (across @ across), at @ up / (up @ up)
        inside = (rise > _EDGE)[:, None] & (reach > 0) & (a >= 0) & (a <= 1) & (b >= 0) & (b <= 1)
        worth = np.maximum(seen @ normal, 0.0) * transmittance(np.clip(rise, 0.0, 1.0))
        return np.where(inside, worth[:, None], 0.0)

    starts = np.broadcast_to(points[None], (len(toward), len(points), 3))
    out += np.where(_blocked(starts, toward, mirrors), 0.0, arriving(toward))
    for mirror in mirrors:
        facing = toward @ mirror.normal
        seen = toward - 2 * facing[:, None] * mirror.normal
        hit, at = _meets(starts, seen, mirror)
        others = [other for other in mirrors if other is not mirror]
        free = hit & (facing > _EDGE)[:, None] & ~_blocked(at, toward, others) & ~_before(starts, seen, at, others)
        out += mirror.reflectance * np.where(free, arriving(seen), 0.0)
    return out


def _meets(starts: Array, going: Array, facet: Facet) -> tuple[np.ndarray, Array]:
    """Whether lines of sight meet a rectangle ahead of them, and where; shapes (n, s) and (n, s, 3)."""
    corner, along, up = facet.corners[0], facet.corners[1] - facet.corners[0], facet.corners[3] - facet.corners[0]
    facing = going @ facet.normal
    safe = np.where(np.abs(facing) < _EDGE, _EDGE, facing)
    reach = ((corner - starts) @ facet.normal) / safe[:, None]
    at = starts + reach[..., None] * going[:, None]
    a, b = (at - corner) @ along / (along @ along), (at - corner) @ up / (up @ up)
    hit = (np.abs(facing) >= _EDGE)[:, None] & (reach > 1e-6) & (a >= 0) & (a <= 1) & (b >= 0) & (b <= 1)
    return hit, at


def _blocked(starts: Array, going: Array, mirrors: list[Facet]) -> np.ndarray:
    """Whether a mirror stands in the way to the sun, shape (n, s)."""
    out = np.zeros(starts.shape[:2], dtype=bool)
    for mirror in mirrors:
        out |= _meets(starts, going, mirror)[0]
    return out


def _before(starts: Array, going: Array, at: Array, mirrors: list[Facet]) -> np.ndarray:
    """Whether another mirror stands between the points and where they see the sun's image."""
    out = np.zeros(starts.shape[:2], dtype=bool)
    far = np.linalg.norm(at - starts, axis=-1)
    for mirror in mirrors:
        hit, there = _meets(starts, going, mirror)
        out |= hit & (np.linalg.norm(there - starts, axis=-1) < far)
    return out
