"""What a glazed cover is made of."""

from __future__ import annotations

from drylamp.core import tables
from drylamp.core.builds.common.cover.spec import GlazedCover
from drylamp.core.common.bill import Piece, pane_piece
from drylamp.core.common.panes import REST_M


def pieces_of(
    cover: GlazedCover | None, long_m: float, wide_m: float, part: str = "cover", title: str = "pane", count: int = 1
) -> list[Piece]:
    """Panes over an opening, with what lies on the frame."""
    if cover is None:
        return []
    long, wide = long_m + 2.0 * REST_M, wide_m + 2.0 * REST_M
    inner = pane_piece(part, title, cover.row, cover.thickness_m, long, wide, count * cover.layers)
    outside = [
        pane_piece(part, f"{title}, outside it", tables.cover(sheet.material), sheet.thickness_m, long, wide, count)
        for sheet in cover.more
    ]
    return [inner, *outside]
