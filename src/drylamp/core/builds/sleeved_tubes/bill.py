"""What tubes in bottle sleeves are made of."""

from __future__ import annotations

import math

from drylamp.core.builds.sleeved_tubes.spec import SleevedTubes
from drylamp.core.common.bill import Piece, coat, pipe_run, thing
from drylamp.core.tables import absorber

FITTINGS_A_TUBE = 2


def pieces_of(build: SleevedTubes) -> list[Piece]:
    """Tubes, their bottles and elbows, a frame as wide as the rows."""
    pipe, across = build.pipe, build.rows * build.pitch_m
    out = [pipe_run("tubes", "tube", pipe.row, pipe.wall_kg_m, build.cut_m, build.rows)]
    if build.joined == "parallel":
        out.append(pipe_run("tubes", "pipe along the tubes' ends", pipe.row, pipe.wall_kg_m, across, 2))
    out += [
        thing("tubes", "fitting", FITTINGS_A_TUBE * build.rows),
        thing("bottles", "bottle", build.bottles_needed),
        thing("tubes", "batten", 3, long_m=across, title="bar under the tubes"),
    ]
    if build.finish is not None:
        out += coat(
            "tubes", "tubes, painted", absorber(build.finish), math.pi * build.diameter_m * build.lit_m * build.rows
        )
    if build.bottles.card is not None:
        out += coat(
            "bottles", "card in the bottles", absorber(build.bottles.card), build.sleeve_m * build.lit_m * build.rows
        )
    if build.pre_heat is not None:
        coil = build.pre_heat.coil
        out.append(pipe_run("pre_heat", "pre-heating coil", coil.row, coil.wall_kg_m, coil.pipe_m))
    return out
