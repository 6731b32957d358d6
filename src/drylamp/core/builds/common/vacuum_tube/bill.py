"""What every build of vacuum tubes is made of: tubes, and wings beside each."""

from __future__ import annotations

from drylamp.core.builds.common.vacuum_tube.tubed import Tubed
from drylamp.core.common.bill import Piece, layer_piece, mirror_piece, thing
from drylamp.core.common.wall import WallLayer


def pieces_of(build: Tubed) -> list[Piece]:
    """Tubes, and two wings for each, backing and surface."""
    tube, wings, out = build.tube_of, build.wings_of, list[Piece]()
    out.append(thing("tube", "vacuum-tube", build.tubes, kg=tube.glass_kg))
    if wings is None:
        return out
    row = wings.backing_row
    backing = WallLayer(material=row.name, thickness_m=row.usual_thickness_m)
    many = 2 * build.tubes
    out += layer_piece("mirror", "wing", backing, tube.lit_m, wings.sheet_m, many, "bent or cut from pipe")
    return [*out, mirror_piece("mirror", "wing's surface", wings.row, tube.lit_m, wings.sheet_m, many)]
