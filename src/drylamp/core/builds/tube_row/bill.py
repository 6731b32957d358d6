"""What a row of vacuum tubes is made of."""

from __future__ import annotations

from drylamp.core.builds.common.vacuum_tube import bill
from drylamp.core.builds.tube_row.spec import TubeRow
from drylamp.core.common.bill import Piece, mirror_piece, pipe_run, thing


def pieces_of(build: TubeRow) -> list[Piece]:
    """Tubes and what is in them, the header in its wool, the frame, a sheet behind."""
    header, across = build.header, build.count * build.pitch_m
    out = bill.pieces_of(build)
    out.append(pipe_run("header", "header", header.row, header.wall_kg_m, across))
    if build.lagging_mm > 0.0:
        out.append(thing("header", "lagging", long_m=across))
    if build.inside == "heat-pipe":
        out.append(thing("tube", "heat-pipe", build.count))
    if build.inside == "u-pipe":
        pipe = build.u_pipe
        out.append(pipe_run("header", "U-pipe", pipe.row, pipe.wall_kg_m, 2.0 * build.tube.length_m, build.count))
    out.append(thing("aim", "batten", 2, long_m=across, title="bar under the tubes"))
    if build.behind is not None:
        out.append(mirror_piece("mirror", "sheet behind", build.behind.row, build.tube.lit_m, across))
    return out
