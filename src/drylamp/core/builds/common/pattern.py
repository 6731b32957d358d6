"""Flat patterns at true size: what a piece is, and how pieces are laid out. Millimetres, cuts and folds."""

from __future__ import annotations

import math
from typing import Literal

import numpy as np

from drylamp.core.checks import InputProblem, Model

Dot = tuple[float, float]
TAB_MM = 20.0
"""Tabs to glue or rivet; common practice, no source."""
ARC_STEP_RAD = math.radians(2.0)
APART_MM = 30.0


class PatternLine(Model):
    """A chain of points to cut or to fold along."""

    kind: Literal["cut", "fold"]
    points: list[Dot]

    @property
    def is_closed(self) -> bool:
        """Whether it ends where it begins."""
        return self.points[0] == self.points[-1]


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


def laid_out(title: str, pieces: list[PatternPiece]) -> Pattern:
    """Pieces side by side.

    Raises
    ------
    InputProblem
        there is none: nothing of this kind of build is cut from a sheet by a pattern.
    """
    if not pieces:
        raise InputProblem(
            "spec.kind", "nothing of this kind is folded or bent from a sheet, there is no pattern for it"
        )
    placed, at = [], 0.0
    for piece in pieces:
        placed.append(_moved(piece, at))
        at += piece.width_mm + APART_MM
    return Pattern(
        title=title, pieces=placed, width_mm=round(at - APART_MM, 2), height_mm=max(p.height_mm for p in pieces)
    )


def piece_of(name: str, count: int, cuts: list[list[Dot]], folds: list[list[Dot]], note: str) -> PatternPiece:
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


def arc(radius: float, start: float, end: float) -> list[Dot]:
    """Points along an arc round the origin, mm."""
    steps = max(2, math.ceil(abs(end - start) / ARC_STEP_RAD) + 1)
    return [(radius * math.cos(t), radius * math.sin(t)) for t in np.linspace(start, end, steps)]
