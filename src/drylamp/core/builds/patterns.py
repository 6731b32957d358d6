"""Flat patterns at true size: the net of a box, its flaps, a funnel's sheet, a dish's petals. Millimetres, cuts and folds."""

from __future__ import annotations

import math
from typing import Literal

import numpy as np

from drylamp.core.builds.box_oven import BoxOven
from drylamp.core.builds.dish import Dish
from drylamp.core.builds.funnel import Funnel
from drylamp.core.builds.kinds import AnyBuild, BuildSpec
from drylamp.core.builds.melter import Melter
from drylamp.core.checks import InputProblem, Model
from drylamp.core.loads.wax import CATCH_SHARE

Dot = tuple[float, float]
TAB_MM = 20.0
"""Tabs to glue or rivet; common practice, no source."""
ARC_STEP_RAD = math.radians(2.0)
PETALS = 16
CATCH_WALL_MM = 40.0
APART_MM = 30.0


class PatternLine(Model):
    """A chain of points to cut or to fold along."""

    kind: Literal["cut", "fold"]
    points: list[Dot]


class PatternPiece(Model):
    """One piece: how many of it, its lines, and what to mind; the outline is closed.

    Attributes:
        width_mm, height_mm: of the sheet that it is cut from
    """

    name: str
    count: int
    lines: list[PatternLine]
    note: str
    width_mm: float
    height_mm: float


class Pattern(Model):
    """All pieces of a build, laid out side by side without touching."""

    title: str
    pieces: list[PatternPiece]
    width_mm: float
    height_mm: float


def pattern_of(build: BuildSpec, title: str) -> Pattern:
    """The flat pattern of a build.

    Raises:
        InputProblem: nothing of this kind of build is folded from a sheet.
    """
    pieces = _pieces(build)
    if not pieces:
        raise InputProblem("spec.kind", "samples are cut square, there is no pattern for them")
    placed, at = [], 0.0
    for piece in pieces:
        placed.append(_moved(piece, at))
        at += piece.width_mm + APART_MM
    return Pattern(
        title=title, pieces=placed, width_mm=round(at - APART_MM, 2), height_mm=max(p.height_mm for p in pieces)
    )


def _pieces(build: AnyBuild) -> list[PatternPiece]:
    if isinstance(build, BoxOven):
        return [_box_net(build), *_flaps(build)]
    if isinstance(build, Melter):
        return [_box_net(build.box), *_flaps(build.box), _catch_tray(build)]
    if isinstance(build, Funnel):
        return _funnel(build)
    return [_petal(build)] if isinstance(build, Dish) else []


def _piece(name: str, count: int, cuts: list[list[Dot]], folds: list[list[Dot]], note: str) -> PatternPiece:
    """A piece moved so that it begins at the origin; each cut is closed."""
    points = np.array([p for chain in cuts for p in chain])
    low, size = points.min(axis=0), np.ptp(points, axis=0)

    def moved(chain: list[Dot], closed: bool) -> list[Dot]:
        shifted = [(round(float(x - low[0]), 3), round(float(y - low[1]), 3)) for x, y in chain]
        return [*shifted, shifted[0]] if closed else shifted

    lines = [PatternLine(kind="cut", points=moved(chain, True)) for chain in cuts]
    lines += [PatternLine(kind="fold", points=moved(chain, False)) for chain in folds]
    return PatternPiece(
        name=name,
        count=count,
        lines=lines,
        note=note,
        width_mm=round(float(size[0]), 2),
        height_mm=round(float(size[1]), 2),
    )


def _moved(piece: PatternPiece, by_mm: float) -> PatternPiece:
    lines = [
        line.model_copy(update={"points": [(round(x + by_mm, 3), y) for x, y in line.points]}) for line in piece.lines
    ]
    return piece.model_copy(update={"lines": lines})


def _box_net(build: BoxOven) -> PatternPiece:
    """Floor with four sides folded up, tabs on front and back; inside measures, as for the lining or a single-walled box."""
    wide, long = 1000 * build.width_m, 1000 * build.floor_length_m
    front, back = 1000 * build.height_m, 1000 * build.back_height_m
    tab = TAB_MM
    # floor from (0, 0) to (wide, long); front below it, back above it, sides left and right
    outline: list[Dot] = [
        (0, 0), (-tab, -min(tab, front / 4)), (-tab, -front + min(tab, front / 4)), (0, -front), (wide, -front),
        (wide + tab, -front + min(tab, front / 4)), (wide + tab, -min(tab, front / 4)), (wide, 0),
        (wide + front, 0), (wide + back, long), (wide, long), (wide + tab, long + min(tab, back / 4)),
        (wide + tab, long + back - min(tab, back / 4)), (wide, long + back), (0, long + back), (-tab, long + back - min(tab, back / 4)),
        (-tab, long + min(tab, back / 4)), (0, long), (-back, long), (-front, 0),
    ]  # fmt: skip
    folds: list[list[Dot]] = [
        [(0, 0), (wide, 0)], [(0, long), (wide, long)], [(0, 0), (0, long)], [(wide, 0), (wide, long)],
        [(0, 0), (0, -front)], [(wide, 0), (wide, -front)], [(0, long), (0, long + back)], [(wide, long), (wide, long + back)],
    ]  # fmt: skip
    return _piece("box", 1, [outline], folds, "inside measures; add the wall's thickness for each layer outside it")


def _flaps(build: BoxOven) -> list[PatternPiece]:
    """Mirrors with a hinge strip along their foot."""
    out = []
    for edge, flap in build.mirrors.items():
        wide = 1000 * (build.width_m if edge in ("upper", "lower") else build.length_m)
        high = 1000 * flap.length_m
        outline: list[Dot] = [(0, -TAB_MM), (wide, -TAB_MM), (wide, high), (0, high)]
        out.append(
            _piece(f"{edge} flap", 1, [outline], [[(0, 0), (wide, 0)]], "hinge strip at the foot; mirror side up")
        )
    return out


def _catch_tray(build: Melter) -> PatternPiece:
    wide, long, rim = 1000 * build.width_m * 0.96, 1000 * build.length_m * CATCH_SHARE, CATCH_WALL_MM
    outline: list[Dot] = [
        (0, -rim), (wide, -rim), (wide, 0), (wide + rim, 0), (wide + rim, long), (wide, long), (wide, long + rim), (0, long + rim),
        (0, long), (-rim, long), (-rim, 0), (0, 0),
    ]  # fmt: skip
    folds: list[list[Dot]] = [
        [(0, 0), (wide, 0)],
        [(wide, 0), (wide, long)],
        [(wide, long), (0, long)],
        [(0, long), (0, 0)],
    ]
    return _piece("catch tray", 1, [outline], folds, "of sheet metal; fold the rims up")


def _arc(radius: float, start: float, end: float) -> list[Dot]:
    steps = max(2, math.ceil(abs(end - start) / ARC_STEP_RAD) + 1)
    return [(radius * math.cos(t), radius * math.sin(t)) for t in np.linspace(start, end, steps)]


def _funnel(build: Funnel) -> list[PatternPiece]:
    if build.shape == "flat":
        wide, high = 1000 * build.sheet_width_m, 1000 * build.sheet_height_m
        return [
            _piece("black sheet", 1, [[(0, 0), (wide, 0), (wide, high), (0, high)]], [], "lies flat under the bowl")
        ]
    if build.shape == "panels":
        return [_panels(build)]
    inner, outer = 1000 * build.inner_radius_m, 1000 * (build.inner_radius_m + build.slant_m)
    half = build.sector_rad / 2
    begin, end = math.pi / 2 - half, math.pi / 2 + half
    tab_end = end + TAB_MM / outer
    outline = [*_arc(outer, begin, tab_end), *_arc(inner, tab_end, begin)]
    fold = [(inner * math.cos(end), inner * math.sin(end)), (outer * math.cos(end), outer * math.sin(end))]
    ring = _piece("bottom", 1, [_arc(500 * build.throat_m, 0, 2 * math.pi)[:-1]], [], "disc for the throat")
    return [
        _piece("funnel sheet", 1, [outline], [fold], "roll it mirror side in; the tab goes under the other edge"),
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
    return _piece("panels", 1, [outline], folds, "mirror side in; pin the corners of the walls to one another")


def _petal(build: Dish) -> PatternPiece:
    """One of many petals: as long as the curve from the middle to the rim, at each place a share of its circle wide."""
    radius, focal = 500 * build.diameter_m, 1000 * build.focal_m
    r = np.linspace(radius * 0.04, radius, 40)
    slope = r / (2 * focal)
    along = focal * (slope * np.sqrt(1 + slope**2) + np.arcsinh(slope))
    half = math.pi * r / PETALS
    right = [(float(w), float(s)) for w, s in zip(half, along, strict=True)]
    left = [(-x, y) for x, y in reversed(right)]
    return _piece("petal", PETALS, [[*right, *left]], [], f"{PETALS} of them edge to edge on ribs cut to the curve")
