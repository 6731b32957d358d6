"""How long what wears outdoors lasts, and what a build costs over some years with that renewed; common practice, no source, and sun, wind and fixing matter more than any number."""

from __future__ import annotations

import math
from collections.abc import Sequence

from drylamp.core.common.bill import Piece

LASTS_YEARS = {
    "pe-film": 1.5, "thermic-pe-film": 4.0, "pvc-film": 3.0, "polyester-film": 2.0, "oven-bag": 0.5, "pet-bottle": 2.0, "fep-film": 20.0, "etfe-film": 25.0, "pvf-film": 10.0,
    "acrylic": 15.0, "polycarbonate": 10.0, "twin-wall-6": 12.0, "twin-wall-10": 12.0, "corrugated-grp": 10.0,
    "kitchen-foil": 1.0, "smooth-foil": 2.0, "foil-board": 4.0, "foil-bubble": 3.0, "rescue-blanket": 0.5, "mylar": 1.0, "mirror-film": 8.0, "acrylic-mirror": 6.0, "sprayed-mirror-paint": 2.0, "chrome-tape": 2.0,
    "flat-black-paint": 4.0, "barbecue-black": 4.0, "chalkboard-paint": 3.0, "satin-black-paint": 4.0, "soot": 0.5, "charcoal-paint": 0.5, "black-card": 1.0, "black-cloth": 2.0, "black-shade-cloth": 6.0, "black-screen": 8.0,
    "black-rubber": 8.0, "black-polyethylene": 10.0,
}  # fmt: skip
"""By the row that a piece is made from; what is not named outlasts the builder's plans."""


def renewals(piece: Piece, years: float) -> int:
    """How often a piece is bought again within so many years."""
    lasts = LASTS_YEARS.get(piece.stuff)
    return 0 if lasts is None else max(math.ceil(years / lasts) - 1, 0)


def price_over(pieces: Sequence[Piece], years: float) -> float:
    """What a build costs new and renewed over so many years, work left out."""
    return sum(piece.price * piece.count * (1 + renewals(piece, years)) for piece in pieces)
