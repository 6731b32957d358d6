"""What a food dryer is made of: cabinet, trays, collector, the ways of its air."""

from __future__ import annotations

from drylamp.core.builds.common.air_collector import bill as collector_bill
from drylamp.core.builds.common.air_way.bill import driven_fan, duct_pieces
from drylamp.core.builds.common.cover import bill as cover_bill
from drylamp.core.builds.dryer.spec import FoodDryer
from drylamp.core.common.bill import Piece, coat, layer_piece, thing
from drylamp.core.common.wall import nested
from drylamp.core.tables import absorber


def pieces_of(build: FoodDryer) -> list[Piece]:
    """Everything, in the order in which air goes through it."""
    out = [] if build.collector is None else collector_bill.pieces_of(build.collector)
    if build.joint is not None:
        out += duct_pieces("collector", "duct to the cabinet", build.joint)
    out += [thing("inlet", "vent-flap", title="inlet with its screen"), *_cabinet(build), *_trays(build)]
    out += cover_bill.pieces_of(build.cover, build.lid_m2 / build.width_m, build.width_m)
    if build.cover is not None and build.shaded:
        out.append(thing("cover", "shade-cloth", long_m=build.depth_m, wide_m=build.width_m))
    if build.vent.area_cm2 > 0.0:
        out.append(thing("vent", "vent-flap"))
    if build.chimney is not None:
        out += duct_pieces("chimney", "chimney", build.chimney)
        out += coat("chimney", "chimney, outside", absorber(build.chimney.finish), build.chimney.hull_m2)
    if build.fan is not None:
        out += driven_fan("fan", build.fan)
    return out + ([thing("aim", "wheels")] if build.wheels is not None else [])


def _cabinet(build: FoodDryer) -> list[Piece]:
    out = list[Piece]()
    wide, deep, high = build.width_m, build.depth_m, build.cabinet_m
    for k, layer, inside, around in nested(build.wall):
        part = f"wall-{k}"
        out += layer_piece(part, "front and door", layer, high, wide + 2.0 * around, 2, "one of them is the door")
        out += layer_piece(part, "sides", layer, high, deep + 2.0 * inside, 2)
        out += layer_piece(part, "floor", layer, wide + 2.0 * around, deep + 2.0 * around)
        if build.cover is None:
            out += layer_piece(part, "lid", layer, wide + 2.0 * around, deep + 2.0 * around)
    out += coat("wall", "inside of the walls", absorber(build.lining), build.sides_m2)
    out += [thing("seal", "hinges"), thing("seal", "handle"), thing("seal", "seal-strip", long_m=2.0 * (high + wide))]
    return [*out, thing("aim", "batten", 4, long_m=build.stands_m + high, title="leg and corner post")]


def _trays(build: FoodDryer) -> list[Piece]:
    many, wide, deep = build.trays.count, build.width_m, build.depth_m
    return [
        thing("trays", "slat", 2 * many, long_m=wide, title="tray's frame, across"),
        thing("trays", "slat", 2 * many, long_m=deep, title="tray's frame, along"),
        thing("trays", "slat", 2 * many, long_m=deep, title="runner"),
        thing("trays", "tray-mesh", many, long_m=wide, wide_m=deep),
    ]
