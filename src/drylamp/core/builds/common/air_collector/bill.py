"""What an air collector is made of: back, sides, absorber in its form, glass."""

from __future__ import annotations

import math

from drylamp.core.builds.common.air_collector.spec import AirCollector
from drylamp.core.builds.common.cover import bill as cover_bill
from drylamp.core.common.bill import Piece, coat, layer_piece, pane_piece, stacked, thing

PART = "collector"


def pieces_of(made: AirCollector) -> list[Piece]:
    """A flat box under glass."""
    wide, long = made.width_m, made.length_m
    out = stacked(PART, "back", made.back, long, wide)
    out += [
        thing(PART, "batten", 2, long_m=long, title="side of the collector"),
        thing(PART, "batten", 2, long_m=wide, title="end of the collector"),
    ]
    out += [*_absorber(made), *_glass(made)]
    if made.cover is not None:
        out.append(thing(PART, "seal-strip", long_m=2.0 * (wide + long)))
    return out


def _absorber(made: AirCollector) -> list[Piece]:
    wide, long = made.width_m, made.length_m
    if made.absorber == "ducts":
        around = math.pi * made.duct_mm / 1000.0
        sheet = layer_piece(PART, "duct", made.sheet, long, around, made.ducts, "rolled to a pipe")
        return sheet + coat(PART, "ducts, painted", made.row, around * long * made.ducts)
    layers = made.layers if made.is_porous else 1
    sheet = layer_piece(
        PART, "absorber", made.sheet, long, wide, layers, "perforated or woven" if made.is_porous else ""
    )
    return sheet + coat(PART, "absorber, painted", made.row, wide * long * layers)


def _glass(made: AirCollector) -> list[Piece]:
    if made.panes is None or made.cover is None:
        return cover_bill.pieces_of(made.cover, made.length_m, made.width_m, PART)
    panes, cover = made.panes, made.cover
    return [
        pane_piece(PART, "pane as it comes", cover.row, cover.thickness_m, panes.long_m, panes.wide_m, panes.count * cover.layers)
    ]  # fmt: skip
