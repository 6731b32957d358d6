"""What a dish is made of."""

from __future__ import annotations

import math

from drylamp.core.builds.dish.pattern import PETALS
from drylamp.core.builds.dish.spec import Dish
from drylamp.core.common.bill import Piece, mirror_piece, thing


def pieces_of(build: Dish) -> list[Piece]:
    """Petals, a rib under each seam, and the stand."""
    steep = build.diameter_m / (4.0 * build.focal_m)
    along = build.focal_m * (steep * math.sqrt(1.0 + steep**2) + math.asinh(steep))
    return [
        mirror_piece("mirror", "petal", build.mirror_row, along, math.pi * build.diameter_m / PETALS, PETALS, "see the flat pattern"),
        thing("mirror", "slat", PETALS, long_m=along, title="rib, cut to the curve"),
        thing("aim", "dish-stand"),
    ]  # fmt: skip
