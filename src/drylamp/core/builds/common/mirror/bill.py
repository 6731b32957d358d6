"""What a mirror hinged on an edge is made of."""

from __future__ import annotations

from drylamp.core.builds.common.mirror.spec import FlapMirror
from drylamp.core.common.bill import Piece, mirror_piece, thing


def flap_pieces(title: str, flap: FlapMirror, along_m: float) -> list[Piece]:
    """The mirror, its hinges, and what holds it at its angle."""
    return [
        mirror_piece("mirror", title, flap.row, along_m, flap.length_m),
        thing("mirror", "hinges"),
        thing("mirror", "prop"),
    ]
