"""What a funnel is made of."""

from __future__ import annotations

from drylamp.core.builds.funnel.spec import Funnel
from drylamp.core.common.bill import Piece, coat, layer_piece, mirror_piece, thing
from drylamp.core.tables import absorber


def pieces_of(build: Funnel) -> list[Piece]:
    """A sheet with its mirror, the bottom, trivet and stand; a flat sheet alone."""
    wide, high = build.sheet_width_m, build.sheet_height_m
    out = layer_piece("sheet", "sheet", build.sheet, wide, high)
    base = coat("base", "bottom, blackened", absorber(build.base), build.base_m2)
    if not build.has_mirror:
        return out + base
    out.append(mirror_piece("mirror", "mirror on the sheet", build.mirror_row, wide, high))
    out += base
    if build.trivet_m > 0.0:
        out.append(thing("base", "trivet"))
    return out + ([thing("base", "stand")] if build.stand_m > 0.0 else [])
