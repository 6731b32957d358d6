"""What a hose coil is made of."""

from __future__ import annotations

import math

from drylamp.core.builds.common.cover import bill as cover_bill
from drylamp.core.builds.common.mirror.bill import flap_pieces
from drylamp.core.builds.hose_coil.spec import HoseCoil
from drylamp.core.common.bill import Piece, coat, pipe_run, stacked, thing
from drylamp.core.tables import absorber


def pieces_of(build: HoseCoil) -> list[Piece]:
    """Hose on a frame, what it lies on and what lies over it."""
    wide, long, coil = build.width_m, build.length_m, build.coil
    out = [
        pipe_run("hose", "hose of a coil", coil.row, coil.wall_kg_m, coil.pipe_m, build.coils),
        thing("hose", "fitting", 2 * build.coils),
        thing("frame", "batten", 2, long_m=wide, title="frame, across"),
        thing("frame", "batten", 2, long_m=long, title="frame, along"),
    ]
    if build.finish is not None:
        skin = math.pi * build.diameter_m * build.hose_m
        out += coat("hose", "hose, painted", absorber(build.finish), skin)
    out += _bed(build) + cover_bill.pieces_of(build.cover, long, wide)
    if build.sheet is not None:
        out += coat("sheet", "dark sheet on the hose", absorber(build.sheet), wide * long)
    if build.mirror is not None:
        out += flap_pieces("reflector", build.mirror, wide)
    return out


def _bed(build: HoseCoil) -> list[Piece]:
    wide, long = build.width_m, build.length_m
    if build.bed is None:
        return [thing("bed", "slat", 2, long_m=math.hypot(wide, long), title="cross of slats")]
    out = [] if build.on_ground else stacked("bed", "under the bed", build.under, long, wide)
    out += coat("bed", "bed", absorber(build.bed), wide * long)
    if build.mesh is not None:
        out.append(thing("mesh", "wire-mesh", long_m=long, wide_m=wide))
    return out
