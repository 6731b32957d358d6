"""Sheets of a workbook."""

from __future__ import annotations

import io
from collections.abc import Iterable, Sequence
from typing import TYPE_CHECKING, Any

if TYPE_CHECKING:
    from openpyxl import Workbook

XLSX = "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet"
"""What a workbook is called on its way."""


Page = tuple[str, Sequence[str], Iterable[Sequence[Any]]]
"""A sheet: its title, the names of its columns, its rows."""


def write_book(pages: Iterable[Page]) -> bytes:
    """A workbook of these sheets."""
    from openpyxl import Workbook

    book = Workbook(write_only=True)
    for title, names, rows in pages:
        _add_sheet(book, title, names, rows)
    out = io.BytesIO()
    book.save(out)
    return out.getvalue()


def _add_sheet(book: Workbook, title: str, names: Sequence[str], rows: Iterable[Sequence[Any]]) -> None:
    """Add a sheet with its column names frozen on top; text is typed as text, so that nothing in it runs."""
    sheet = book.create_sheet(title)
    sheet.freeze_panes = "A2"
    sheet.append([_cell(sheet, name) for name in names])
    for row in rows:
        sheet.append([_cell(sheet, value) for value in row])


def _cell(sheet: Any, value: Any) -> Any:
    """A cell; text is said to be text, whatever it begins with."""
    from openpyxl.cell import WriteOnlyCell

    if not isinstance(value, str):
        return value
    cell = WriteOnlyCell(sheet, value="")
    cell.data_type, cell._value = "s", value
    return cell
