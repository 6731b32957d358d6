r"""One flat mirror hinged on the upper edge of an opening: closed form.

Axes of the opening: x across (along the hinge), y up the slope, z outward. The opening is |x| ≤ W/2, 0 ≤ y ≤ L::

        z
        |      / mirror, length M, as wide as the opening
        |     /
        |    /  ψ = angle between opening and mirror (0: lying on the opening)
        +---+---- y
        0   L (hinge)

Seen along a direction u, the mirror's point at a share t of its length lands on the opening plane at
y = L + t M a and x = x₀ − t M b, with a = m_y − u_y m_z/u_z and b = u_x m_z/u_z. That patch is the mirror's *shadow*
when u points to the sun from behind the mirror, and its *bright patch* when u points to the sun's image.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from drylamp.core.arrays import Array

_GRAZING = 1e-6


@dataclass(frozen=True)
class HingedMirror:
    """A mirror on the upper edge: its length, angle to the opening and reflectance (a board: 0)."""

    length_m: float
    angle_deg: float
    reflectance: float

    @property
    def along(self) -> Array:
        """From hinge to tip, in the opening's axes."""
        angle = np.radians(self.angle_deg)
        return np.array([0.0, -np.cos(angle), np.sin(angle)])

    @property
    def normal(self) -> Array:
        """Out of the bright face, in the opening's axes."""
        angle = np.radians(self.angle_deg)
        return np.array([0.0, -np.sin(angle), -np.cos(angle)])


@dataclass(frozen=True)
class Patch:
    """Where light by way of a direction meets the opening plane; each shape (n,).

    Attributes:
        toward: direction the light comes from, unit vectors in the opening's axes, shape (n, 3)
        area_m2: area of the opening that the mirror covers (shadow or bright patch)
        reach: patch depth below the hinge per metre of mirror (−a); 0 when there is no patch
        skew: sideways shift per metre of mirror (b)
    """

    toward: Array
    area_m2: Array
    reach: Array
    skew: Array


def image(mirror: HingedMirror, toward: Array) -> Array:
    """Directions to the image of a far source in the mirror, shape (n, 3)."""
    return np.asarray(toward - 2.0 * (toward @ mirror.normal)[:, None] * mirror.normal[None, :])


def patch(mirror: HingedMirror, width_m: float, length_m: float, toward: Array) -> Patch:
    """The mirror's patch on the opening for light arriving from each direction."""
    up = toward[:, 2]
    lit = up > _GRAZING
    safe = np.where(lit, up, 1.0)
    along = mirror.along
    reach = np.where(lit, -(along[1] - toward[:, 1] * along[2] / safe), 0.0)
    reach = np.maximum(reach, 0.0)
    skew = np.where(lit, toward[:, 0] * along[2] / safe, 0.0)
    return Patch(toward, _overlap_m2(mirror.length_m, width_m, length_m, reach, skew), reach, skew)


def both_lights(mirror: HingedMirror | None, width_m: float, length_m: float, toward: Array) -> list[Patch]:
    """The opening's direct beam and the beam by way of its mirror: directions, lit areas in its plane, and where they lie.

    Of the direct beam ``area_m2`` is what the mirror leaves lit, and ``reach`` and ``skew`` are those of its shadow; of the mirror's the share
    that the mirror keeps is taken off.

    Parameters
    ----------
    toward
        unit vectors to the source in the opening's axes, shape (n, 3)
    """
    opening, none = np.full(len(toward), width_m * length_m), np.zeros(len(toward))
    if mirror is None:
        return [Patch(toward, opening, none, none)]
    shadow, behind = patch(mirror, width_m, length_m, toward), toward @ mirror.normal < 0
    direct = opening - np.where(behind, shadow.area_m2, 0.0)
    seen = np.ascontiguousarray(image(mirror, toward))
    bright = patch(mirror, width_m, length_m, seen)
    by_mirror = np.where(behind, 0.0, bright.area_m2) * mirror.reflectance
    return [
        Patch(toward, direct, np.where(behind, shadow.reach, 0.0), shadow.skew), Patch(seen, by_mirror, bright.reach, bright.skew),
    ]  # fmt: skip


def _overlap_m2(mirror_m: float, width_m: float, length_m: float, reach: Array, skew: Array) -> Array:
    """Area of a parallelogram, hung from the hinge and sheared by the skew, that lies inside the opening."""
    per_share = mirror_m * reach
    sideways = mirror_m * np.abs(skew)
    share = np.minimum(1.0, length_m / np.maximum(per_share, _GRAZING))
    share = np.minimum(share, width_m / np.maximum(sideways, _GRAZING))
    return np.asarray(per_share * (width_m * share - sideways * share**2 / 2.0))
