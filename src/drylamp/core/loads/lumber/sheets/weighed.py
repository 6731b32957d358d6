"""Oven-dry sections and the sample boards between them: the only moisture that needs no meter (ASTM D4442; Dry Kiln Operator's Manual, ch. 6)."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import date
from typing import Annotated

import numpy as np
from pydantic import Field, model_validator

from drylamp.core.builds.sheet import Around, Sheet, SheetLine, SheetPage, begin_with
from drylamp.core.checks import Day, Model, Name, Number, require
from drylamp.core.loads.lumber.outcome import percent
from drylamp.core.loads.lumber.sheets.followed import group_of
from drylamp.core.text import amount, capital, kilograms

Kg = Annotated[Number, Field(gt=0, le=500)]
UNLIKE_MC = 0.10
"""Two sections of one board that differ by more were cut through a wet pocket or a knot, or were mixed up; common practice, no source."""
UNDER_DRY = 0.995
"""A board may weigh so little less than its oven-dry weight by the scale's own error."""


def moisture(wet_kg: float, dry_kg: float) -> float:
    """(wet − dry)/dry, a fraction of the dry weight (ASTM D4442)."""
    return wet_kg / dry_kg - 1.0


class CutSection(Model):
    """A slice cut from a board, weighed fresh and again out of the oven; ``board_kg`` is the sample board right after it was cut."""

    board: Name = Field(title="Sample board")
    on: Day = Field(title="Cut on")
    wet_kg: Kg = Field(title="Section, fresh")
    dry_kg: Kg = Field(
        title="Section, oven-dry", description="103 °C until it loses no more within four hours (ASTM D4442)"
    )
    board_kg: Kg | None = Field(
        default=None, title="Sample board then", description="Weighed within minutes of cutting; empty: on another row"
    )

    @model_validator(mode="after")
    def _dries(self) -> CutSection:
        require(
            self.dry_kg <= self.wet_kg, "dry_kg",
            f"{kilograms(self.dry_kg)} dry is more than {kilograms(self.wet_kg)} fresh: no section gets heavier in the oven; swap the two, or weigh again",
        )  # fmt: skip
        return self

    @property
    def mc(self) -> float:
        """Of the section."""
        return moisture(self.wet_kg, self.dry_kg)


class Weighing(Model):
    """A sample board on the scale."""

    board: Name = Field(title="Sample board")
    on: Day = Field(title="Weighed on")
    kg: Kg = Field(title="Weighs")


def section_mc(sections: Sequence[CutSection], board: str) -> float | None:
    """Mean of the sections cut from a board; none where none was."""
    own = [section.mc for section in sections if section.board == board]
    return float(np.mean(own)) if own else None


def dry_kg(sections: Sequence[CutSection], board: str) -> float | None:
    """A sample board's oven-dry weight, start/(1 + sections' moisture); none until sections and first weight are known."""
    mc = section_mc(sections, board)
    start = next((section.board_kg for section in sections if section.board == board and section.board_kg), None)
    return None if mc is None or start is None else start / (1.0 + mc)


def boards_mc(sections: Sequence[CutSection], weighings: Sequence[Weighing]) -> dict[str, list[tuple[date, float]]]:
    """Moisture of each sample board by its days, oldest first."""
    out: dict[str, list[tuple[date, float]]] = {}
    for section in sections:
        dry = dry_kg(sections, section.board)
        if dry is not None and section.board_kg is not None:
            out.setdefault(section.board, []).append((section.on, section.board_kg / dry - 1.0))
    for weighing in weighings:
        dry = dry_kg(sections, weighing.board)
        if dry is not None:
            out.setdefault(weighing.board, []).append((weighing.on, weighing.kg / dry - 1.0))
    return {board: sorted(read) for board, read in out.items()}


def _sections(rows: Sequence[CutSection], around: Around) -> SheetPage:
    lines = []
    for row in rows:
        mean, dry = section_mc(rows, row.board), dry_kg(rows, row.board)
        unlike = mean is not None and abs(row.mc - mean) > UNLIKE_MC / 2.0
        lines.append(
            SheetLine(
                cells=[row.board, f"{row.on:%d %b}", amount(row.wet_kg, "mass"), amount(row.dry_kg, "mass"), percent(row.mc), "–" if dry is None else kilograms(dry)],
                warning="unlike the other section of this board: a wet pocket, a knot, or two that were mixed up" if unlike else "",
            )
        )  # fmt: skip
    return SheetPage(
        columns=["board", "cut", "fresh", "oven-dry", "moisture", "board would weigh dry"], lines=lines, words=[]
    )


def _weighings(rows: Sequence[Weighing], around: Around) -> SheetPage:
    sections = around.rows(SECTIONS)
    lines = []
    for row in rows:
        dry = dry_kg(sections, row.board)
        group = group_of(row.board, around)
        target = "–" if dry is None else kilograms(dry * (1.0 + group.target_mc))
        lines.append(
            SheetLine(cells=[row.board, f"{row.on:%d %b}", kilograms(row.kg), "–" if dry is None else percent(row.kg / dry - 1.0), target])
        )  # fmt: skip
    words = []
    for board, read in boards_mc(sections, rows).items():
        if len(read) > 1:
            (first, start), (last, now) = read[-2], read[-1]
            days = max((last - first).days, 1)
            safe = group_of(board, around).safe_per_day
            over = "" if safe is None or (start - now) / days <= safe else f", more than the safe {percent(safe)}"
            words.append(
                f"{capital(board)} lost {percent(start - now)} from {first:%d %b} to {last:%d %b}: {percent((start - now) / days)} a day{over}."
            )
    return SheetPage(columns=["board", "weighed", "weighs", "moisture", "dry when it weighs"], lines=lines, words=words)


def _check_weighing(row: Weighing, rows: Sequence[Weighing], around: Around) -> None:
    dry = dry_kg(around.rows(SECTIONS), row.board)
    known = sorted({section.board for section in around.rows(SECTIONS)})
    require(
        dry is not None, "board",
        f"'{row.board}' has no oven-dry section with the board's weight beside it yet" + (f"; known: {', '.join(known)}" if known else "; write its sections first"),
    )  # fmt: skip
    assert dry is not None
    require(
        row.kg >= dry * UNDER_DRY, "kg",
        f"{kilograms(row.kg)} is below the {kilograms(dry)} that it would weigh oven-dry: weigh it again, or look at its sections",
    )  # fmt: skip


SECTIONS: Sheet[CutSection] = Sheet(
    "sections", "Oven-dry sections", "trial", "An inch off each end of a sample board, half a metre in from the log's end: weighed at once, dried at 103 °C, weighed again.", CutSection, _sections,
    lambda rows, around: begin_with(CutSection, around.today, rows[-1] if rows else None, "board"),
)  # fmt: skip
WEIGHINGS: Sheet[Weighing] = Sheet(
    "weighings", "Sample boards on the scale", "trial", "The board between the two sections, its ends sealed, kept in the stack and weighed twice a week.", Weighing, _weighings,
    lambda rows, around: begin_with(Weighing, around.today, rows[-1] if rows else None, "board"), _check_weighing,
)  # fmt: skip
