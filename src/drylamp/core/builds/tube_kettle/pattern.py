"""The wings' flat pattern: the sheet that is bent, and the former that it is bent round."""

from __future__ import annotations

from drylamp.core.builds.common.pattern import PatternPiece, piece_of
from drylamp.core.builds.tube_kettle.spec import TubeKettle

MM = 1000.0


def pieces_of(build: TubeKettle) -> list[PatternPiece]:
    """Sheet and former, where there are wings."""
    wings = build.wings
    if wings is None:
        return []
    wide, long = MM * wings.sheet_m, MM * build.tube.lit_m
    sheet = piece_of(
        "wing", 2, [[(0.0, 0.0), (wide, 0.0), (wide, long), (0.0, long)]], [], "mirror side in; hinged on a long edge"
    )
    if wings.shape == "flat":
        return [sheet]
    cut = [(float(MM * x), float(MM * z)) for x, z in wings.cut()]
    return [sheet, piece_of("former", 3, [cut], [], "of stiff board; the curved side carries the sheet")]
