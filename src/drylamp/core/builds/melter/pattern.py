"""The melter's flat pattern: a box's, and the catch tray."""

from __future__ import annotations

from drylamp.core.builds.common.box import pattern
from drylamp.core.builds.common.pattern import Dot, PatternPiece, piece_of
from drylamp.core.builds.melter.spec import Melter
from drylamp.core.loads.common.places import CATCH_SHARE

CATCH_WALL_MM = 40.0


def pieces_of(build: Melter) -> list[PatternPiece]:
    """Box, mirror lid and catch tray."""
    return [*pattern.pieces_of(build), _catch_tray(build)]


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
    return piece_of("catch tray", 1, [outline], folds, "of sheet metal; fold the rims up")
