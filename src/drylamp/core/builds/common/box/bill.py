"""What a glazed box is made of: nested layers of walls on the floor, tray, frame, cover, mirrors on its edges, seal."""

from __future__ import annotations

from drylamp.core.builds.common.box.spec import Box
from drylamp.core.builds.common.cover import bill as cover_bill
from drylamp.core.builds.common.mirror.bill import flap_pieces
from drylamp.core.common.bill import Piece, coat, layer_piece, mirror_piece, stacked, thing
from drylamp.core.common.wall import nested
from drylamp.core.tables import absorber
from drylamp.core.text import metres


def pieces_of(build: Box) -> list[Piece]:
    """Everything but what only some boxes have."""
    out = [*_walls(build), *_floor(build), *_tray(build), *_frame(build)]
    out += cover_bill.pieces_of(build.cover, build.length_m, build.width_m)
    if build.cover is not None:
        out += [thing("cover", "hinges"), thing("cover", "handle"), thing("seal", "seal-strip", long_m=build.rim_m)]
    return [*out, *_mirrors(build)]


def _walls(build: Box) -> list[Piece]:
    """Each layer round those inside it: ends as wide as the hollow and both sides, sides between the ends."""
    out = list[Piece]()
    front, back, long = build.height_m, build.back_height_m, build.floor_length_m
    slanting = "" if abs(front - back) < 1e-9 else f"cut slanting, {metres(front)} in front"
    for k, layer, inside, around in nested(build.wall):
        part, wide = f"wall-{k}", build.width_m + 2.0 * around
        if slanting:
            out += layer_piece(part, "front", layer, wide, front) + layer_piece(part, "back", layer, wide, back)
        else:
            out += layer_piece(part, "front and back", layer, wide, front, 2)
        out += layer_piece(part, "sides", layer, long + 2.0 * inside, back, 2, slanting)
    out += coat("lining", "inside of the walls", absorber(build.lining), build.sides_m2)
    outer = 2.0 * (build.width_m + long + 4.0 * build.wall_thickness_m) * (front + back) / 2.0
    return out + coat("wall", "outside of the walls", absorber(build.outside), outer)


def _floor(build: Box) -> list[Piece]:
    more, own = 2.0 * build.wall_thickness_m, bool(build.floor)
    out = stacked("floor", "under the tray", build.under_tray, build.floor_length_m, build.width_m)
    for k, layer in enumerate(build.floor or build.wall):
        part = "floor" if own else f"wall-{k}"
        out += layer_piece(part, "floor", layer, build.floor_length_m + more, build.width_m + more)
    return out


def _tray(build: Box) -> list[Piece]:
    sheet = layer_piece("tray", "tray", build.tray_sheet, build.floor_length_m, build.width_m)
    return sheet + coat("tray", "tray, painted", absorber(build.tray), build.floor_m2)


def _frame(build: Box) -> list[Piece]:
    if build.frame is None:
        return []
    out = list[Piece]()
    for _, layer, inside, around in nested(build.frame.layers):
        out += layer_piece("frame", "frame, across", layer, build.width_m + 2.0 * around, build.frame.height_m, 2)
        out += layer_piece("frame", "frame, along", layer, build.length_m + 2.0 * inside, build.frame.height_m, 2)
    return out


def _mirrors(build: Box) -> list[Piece]:
    out = list[Piece]()
    for edge, flap in build.mirrors.items():
        along = build.width_m if edge in ("upper", "lower") else build.length_m
        out += flap_pieces(f"flap, {edge} edge", flap, along)
    behind = build.mirror_behind
    if behind is not None:
        out.append(mirror_piece("behind", "mirror behind it", behind.row, behind.width_m, behind.height_m))
    return out
