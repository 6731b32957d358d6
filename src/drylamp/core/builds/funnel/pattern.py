"""The funnel's flat pattern: a sector to roll, panels to fold, or a bare sheet."""

from __future__ import annotations

import math

from drylamp.core.builds.common.pattern import TAB_MM, Dot, PatternPiece, arc, piece_of
from drylamp.core.builds.funnel.spec import Funnel


def pieces_of(build: Funnel) -> list[PatternPiece]:
    """The sheet that it is made of, and its bottom."""
    if build.shape == "flat":
        wide, high = 1000 * build.sheet_width_m, 1000 * build.sheet_height_m
        return [
            piece_of("black sheet", 1, [[(0, 0), (wide, 0), (wide, high), (0, high)]], [], "lies flat under the bowl")
        ]
    if build.shape == "panels":
        return [_panels(build)]
    inner, outer = 1000 * build.inner_radius_m, 1000 * (build.inner_radius_m + build.slant_m)
    half = build.sector_rad / 2
    begin, end = math.pi / 2 - half, math.pi / 2 + half
    tab_end = end + TAB_MM / outer
    outline = [*arc(outer, begin, tab_end), *arc(inner, tab_end, begin)]
    fold = [(inner * math.cos(end), inner * math.sin(end)), (outer * math.cos(end), outer * math.sin(end))]
    ring = piece_of("bottom", 1, [arc(500 * build.throat_m, 0, 2 * math.pi)[:-1]], [], "disc for the throat")
    return [
        piece_of("funnel sheet", 1, [outline], [fold], "roll it mirror side in; the tab goes under the other edge"),
        ring,
    ]


def _panels(build: Funnel) -> PatternPiece:
    """Square bottom with four walls; the joints between them stay open and are pinned."""
    side, slant = 1000 * build.throat_m, 1000 * build.slant_m
    out = slant * math.sin(math.radians(build.flare_deg))
    front = slant * build.front_share
    spread = out * build.front_share
    outline: list[Dot] = [
        (0, 0), (-spread, -front), (side + spread, -front), (side, 0), (side + slant, -out), (side + slant, side + out), (side, side),
        (side + out, side + slant), (-out, side + slant), (0, side), (-slant, side + out), (-slant, -out),
    ]  # fmt: skip
    folds: list[list[Dot]] = [
        [(0, 0), (side, 0)],
        [(side, 0), (side, side)],
        [(side, side), (0, side)],
        [(0, side), (0, 0)],
    ]
    return piece_of("panels", 1, [outline], folds, "mirror side in; pin the corners of the walls to one another")
