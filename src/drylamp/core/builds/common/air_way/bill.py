"""What air is led through and driven by: shafts and ducts, fans, panels."""

from __future__ import annotations

import math

from drylamp.core.builds.common.air_way.spec import Fan, RoundDuct
from drylamp.core.common.bill import Piece, layer_piece, thing
from drylamp.core.common.wall import nested

SMALL_M3_H, SMALL_W = 200.0, 20.0


def duct_pieces(part: str, title: str, duct: RoundDuct) -> list[Piece]:
    """Sheets rolled to a pipe, each layer round the one inside it."""
    wide = duct.diameter_mm / 1000.0
    return [
        piece
        for _, layer, inside, around in nested(duct.wall)
        for piece in layer_piece(
            part, title, layer, duct.run_m, math.pi * (wide + inside + around), note="rolled to a pipe"
        )
    ]


def fan_pieces(part: str, free_m3_h: float, count: int = 1) -> list[Piece]:
    """Fans of a size."""
    return [thing(part, "small-fan" if free_m3_h <= SMALL_M3_H else "large-fan", count)]


def panel_piece(part: str, panel_w: float) -> Piece:
    """A panel of a size."""
    return thing(part, "small-panel" if panel_w <= SMALL_W else "large-panel")


def driven_fan(part: str, fan: Fan) -> list[Piece]:
    """A fan with what drives it."""
    drive = panel_piece(part, fan.panel_w) if fan.driven == "panel" else thing(part, "battery")
    return [*fan_pieces(part, fan.free_m3_h), drive]
