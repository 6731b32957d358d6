"""What a lumber kiln is made of: frame, walls, floor, glazed roof, baffle, vents, fans."""

from __future__ import annotations

import math

from drylamp.core.builds.common.air_way.bill import fan_pieces, panel_piece
from drylamp.core.builds.common.cover import bill as cover_bill
from drylamp.core.builds.kiln.spec import LumberKiln
from drylamp.core.common.bill import Piece, coat, layer_piece, stacked, thing
from drylamp.core.common.wall import nested
from drylamp.core.tables import absorber
from drylamp.core.text import metres

WIDEST_PANE_M = 1.05
"""Twin-wall sheets and film are laid in strips so wide; common practice, no source."""


def pieces_of(build: LumberKiln) -> list[Piece]:
    """Everything, from the ground up."""
    return [*_frame(build), *_walls(build), *_floor(build), *_roof(build), *_air(build)]


def _frame(build: LumberKiln) -> list[Piece]:
    long, deep, posts = build.length_m, build.deep_m, 2 * (1 + round(build.length_m / 1.5))
    title = f"of {build.frame.timber.replace('-', ' ')}"
    out = [
        thing("aim", "post", 2, long_m=long, title=f"sill {title}"),
        thing("aim", "post", 2, long_m=deep, title=f"sill across, {title}"),
        thing("aim", "post", posts // 2, long_m=build.front_m, title="post in front"),
        thing("aim", "post", posts // 2, long_m=build.back_m, title="post behind"),
        thing("aim", "post", posts // 2, long_m=build.roof_m, title="rafter"),
    ]
    return [*out, thing("aim", "chassis")] if build.form == "trailer" else out


def _walls(build: LumberKiln) -> list[Piece]:
    out = list[Piece]()
    long, deep, front, back = build.length_m, build.deep_m, build.front_m, build.back_m
    flat, slanting = max(deep - build.run_m, 0.0), f"cut slanting, {metres(front)} in front"
    for k, layer, inside, around in nested(build.wall):
        part, wide = f"wall-{k}", long + 2.0 * around
        out += layer_piece(part, "front wall", layer, wide, front)
        if build.form != "lean-to":
            out += layer_piece(
                part, "back wall", layer, wide, back, note="with the door" if build.door.way == "rear-wall" else ""
            )
        out += layer_piece(part, "end wall", layer, deep + 2.0 * inside, back, 2, slanting)
        out += layer_piece(part, "roof that is not glazed", layer, wide, flat)
    out += coat("wall", "inside of the walls", absorber(build.lining), build.walls_m2)
    out += coat("wall", "outside of the walls", absorber(build.outer), build.walls_m2)
    return [
        *out,
        thing("seal", "hinges", 2),
        thing("seal", "handle"),
        thing("seal", "seal-strip", long_m=2.0 * (long + back)),
    ]


def _floor(build: LumberKiln) -> list[Piece]:
    return stacked("floor", "floor", build.floor, build.length_m, build.deep_m)


def _roof(build: LumberKiln) -> list[Piece]:
    strips = math.ceil(build.length_m / WIDEST_PANE_M)
    out = cover_bill.pieces_of(build.cover, build.roof_m, build.length_m / strips, "cover", "strip of the roof", strips)
    if build.drips == "out":
        out.append(thing("cover", "gutter", long_m=build.length_m))
    if build.baffle is not None:
        made = build.baffle
        out += layer_piece("baffle", "baffle", made.sheet, build.length_m, made.share * build.roof_m)
        out += coat("baffle", "baffle, upper side", made.row, build.baffle_m2)
        out += coat("baffle", "baffle, lower side", absorber(made.under), build.baffle_m2)
    return out


def _air(build: LumberKiln) -> list[Piece]:
    out = []
    if build.vents.low_cm2 > 0.0:
        out.append(thing("vents", "vent-flap", 2, title="low vent"))
    if build.vents.high_cm2 > 0.0:
        out.append(thing("vents", "vent-flap", 2, title="high vent"))
    if build.fan is not None:
        out += fan_pieces("fan", build.fan.free_m3_h, build.fan.count)
        if build.fan.driven in ("panel", "sun"):
            out.append(panel_piece("fan", build.fan.panel_w))
    return out + ([thing("heater", "heater-coil")] if build.heater is not None else [])
