"""Sun that a load takes up itself, apart from the build that it is in."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

from drylamp.core.arrays import Array


@dataclass(frozen=True)
class Sunlit:
    """A level surface under the open sky.

    Attributes:
        node: that its sun goes into
        area_m2: under the sky; what is shaded for good is left out
        taken_up: share that is kept, by the cosine of incidence, shape of the cosines
    """

    node: str
    area_m2: float
    taken_up: Callable[[Array], Array]

    def areas(self, directions: Array) -> tuple[Array, Array]:
        """Area by which it takes up a beam, shape (n, 1), and area that meets it, shape (n,), m², by unit vectors towards the sun."""
        cosine = directions[:, 2].clip(0.0, 1.0)
        met = self.area_m2 * cosine
        return (met * self.taken_up(cosine))[:, None], met
