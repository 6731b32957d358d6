"""How pieces are held: with what, how far apart, and what to leave them to move; common practice, no source."""

from __future__ import annotations

import math
from collections.abc import Iterable
from dataclasses import dataclass

from drylamp.core.checks import Count, Model
from drylamp.core.common.bill import Piece
from drylamp.core.text import Sentence

WOOD = frozenset(("plywood", "osb", "pine-board", "hardwood-board", "hardboard"))
CARD = frozenset(("corrugated-card", "crumpled-paper", "paper-sheets"))
METAL = frozenset(("sheet-steel", "sheet-aluminium", "sheet-copper", "tinplate"))
PLASTIC = frozenset(("polycarbonate", "acrylic", "twin-wall-6", "twin-wall-10", "corrugated-grp"))
FILM_M = 0.001
"""What is thinner is film."""


@dataclass(frozen=True)
class Way:
    """A way to hold something: with what, every so many metres of its edge (none: not counted), and what to mind."""

    by: str
    apart_m: float | None
    mind: Sentence


SCREWS = Way("wood screws, pre-drilled", 0.15, "Glue the joints too where they never come apart again.")
GLUE = Way("water-based glue", None, "Hold it with clips until it is dry.")
RIVETS = Way("pop rivets or short screws", 0.10, "Turn or file every edge that a hand can meet.")
TAPE = Way("foil tape on the joints", None, "Boards on both sides hold it; solvent glue eats foam.")
STRIPS = Way(
    "cover strips over a soft seal, screwed beside the glass",
    0.25,
    "Leave 3 mm of play all round: no screw and no metal touches glass.",
)
WASHERS = Way(
    "screws with wide washers", 0.30, "Drill holes 3 mm too wide for each metre: it grows that much over 40 K."
)
BATTENS = Way("battens stapled over it", 0.10, "Stretch it on a warm day, or it hangs when it is hot.")
MIRROR = Way(
    "mirror adhesive or wide double-sided tape", None, "Smooth foil from the middle out; a wrinkle loses its light."
)
CLIPS = Way("pipe clips", 0.30, "Leave room to grow at every bend.")


class Fastening(Model):
    """What holds pieces of one sort: with what, how many in all where they are counted, what to mind."""

    what: str
    by: str
    count: Count | None
    mind: Sentence


def way_of(piece: Piece) -> Way | None:
    """How a piece is held; none of what holds by itself, or comes with its own."""
    if piece.family == "pane":
        if piece.thick_m < FILM_M:
            return BATTENS
        return WASHERS if piece.stuff in PLASTIC else STRIPS
    if piece.family == "sheet":
        named = ((WOOD, SCREWS), (CARD, GLUE), (METAL, RIVETS))
        return next((way for names, way in named if piece.stuff in names), TAPE)
    return {"mirror": MIRROR, "pipe": CLIPS}.get(piece.family)


def fastenings(pieces: Iterable[Piece]) -> list[Fastening]:
    """What a bill wants to be held with, in the order of its pieces, alike ones together."""
    counts, whats = dict[Way, int](), dict[Way, list[str]]()
    for piece in pieces:
        way = way_of(piece)
        if way is None:
            continue
        whats.setdefault(way, []).append(piece.of.lower())
        counts[way] = counts.get(way, 0) + _count(piece, way)
    return [
        Fastening(what=", ".join(dict.fromkeys(whats[way])), by=way.by, count=count if way.apart_m else None, mind=way.mind)
        for way, count in counts.items()
    ]  # fmt: skip


def _count(piece: Piece, way: Way) -> int:
    """Along all edges of what is flat, along the length of what is not."""
    if way.apart_m is None:
        return 0
    edge_m = 2.0 * (piece.long_m + piece.wide_m) if piece.wide_m > 0.0 else piece.long_m
    return piece.count * max(math.ceil(edge_m / way.apart_m), 2)
