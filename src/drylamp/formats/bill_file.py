"""A bill of material as CSV and as a workbook: one row for each sort of piece, numbers as numbers."""

from __future__ import annotations

import csv
import io
from typing import Any

from drylamp.core.advice.made_of import MadeOf
from drylamp.core.text import plain
from drylamp.formats.cells import inert
from drylamp.formats.workbook import write_book

COLUMNS = (
    "what", "of", "count", "long_mm", "wide_mm", "thick_mm", "kg_each", "price_each", "hours_each", "from_pile", "cut_from", "to_buy", "note",
)  # fmt: skip
CUTS = (
    "board",
    "of",
    "thick_mm",
    "board_long_mm",
    "board_wide_mm",
    "piece",
    "from_left_mm",
    "from_below_mm",
    "long_mm",
    "wide_mm",
)


def bill_rows(made: MadeOf) -> list[tuple[Any, ...]]:
    """A row for each sort of piece; sizes in whole millimetres, money to the cent."""
    out = []
    for piece, taken in zip(made.pieces, made.pile.taken, strict=True):
        sizes = [round(1000.0 * side, 1) for side in (piece.long_m, piece.wide_m, piece.thick_m)]
        out.append(
            (
                piece.title, piece.of, piece.count, *sizes, round(piece.kg, 3), round(piece.price, 2), round(piece.hours, 2), taken.count,
                ", ".join(taken.names), round(taken.price, 2), plain(piece.note),
            )
        )  # fmt: skip
    return out


def cut_rows(made: MadeOf) -> list[tuple[Any, ...]]:
    """A row for each piece on its board."""
    return [
        (
            k, board.of, round(1000.0 * board.thick_m, 1), round(1000.0 * board.long_m), round(1000.0 * board.wide_m), laid.title,
            *(round(1000.0 * side) for side in (laid.x_m, laid.y_m, laid.long_m, laid.wide_m)),
        )
        for k, board in enumerate(made.cuts.boards, start=1)
        for laid in board.laid
    ]  # fmt: skip


def to_csv(made: MadeOf) -> str:
    """The bill as CSV."""
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\n")
    writer.writerow(COLUMNS)
    writer.writerows([inert(cell) for cell in row] for row in bill_rows(made))
    return out.getvalue()


def to_xlsx(made: MadeOf) -> bytes:
    """The bill and its cutting plan as a workbook."""
    sums = (("weight, kg", round(made.kg, 2)), ("new", round(made.price, 2)), ("to buy", round(made.pile.buy, 2)), ("work, hours", round(made.hours, 1)))  # fmt: skip
    return write_book(
        (("bill", COLUMNS, bill_rows(made)), ("cutting", CUTS, cut_rows(made)), ("sums", ("what", "comes to"), sums))
    )
