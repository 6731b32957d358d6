"""Figures of a charge's trial."""

from __future__ import annotations

from collections.abc import Callable

from drylamp.core.loads.lumber.figures.beside_stack import kiln_against_stack
from drylamp.core.loads.lumber.figures.dry_by import boards_dry_by, boards_now, read_of, twin_reads
from drylamp.core.loads.lumber.figures.noted import end_paint, meter_setting, wettest_board
from drylamp.core.loads.lumber.figures.peaks import climb_back
from drylamp.core.trials.figure import Figure, Found

FIGURES: dict[str, Callable[[Found], Figure | None]] = {
    "boards-now": boards_now, "boards-dry-by": boards_dry_by, "wettest-board": wettest_board, "meter-setting": meter_setting, "end-paint": end_paint, "kiln-against-stack": kiln_against_stack, "climb-back": climb_back,
}  # fmt: skip

__all__ = ["FIGURES", "read_of", "twin_reads"]
