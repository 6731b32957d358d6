"""What a batch water heater is made of."""

from __future__ import annotations

from drylamp.core.builds.batch_box.spec import BatchBox
from drylamp.core.builds.common.box import bill
from drylamp.core.common.bill import Piece, coat, layer_piece, pipe_run, thing
from drylamp.core.tables import absorber


def pieces_of(build: BatchBox) -> list[Piece]:
    """A box, its night lid, the coil and the plate in its water."""
    out = bill.pieces_of(build)
    if build.lid is not None:
        out += [*layer_piece("lid", "night lid", build.lid, build.length_m, build.width_m), thing("lid", "handle")]
    if build.coil is not None:
        out.append(pipe_run("coil", "coil in the water", build.coil.row, build.coil.wall_kg_m, build.coil.pipe_m))
    if build.plate is not None:
        out += layer_piece("plate", "plate on the water", build.tray_sheet, build.length_m, build.width_m)
        out += coat("plate", "plate, painted", absorber(build.plate), build.floor_m2)
    return out
