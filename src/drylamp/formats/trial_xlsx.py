"""A trial as a workbook: readings, events and what it was; text is typed as text, so that nothing in it runs."""

from __future__ import annotations

import io
from collections.abc import Iterable, Sequence
from datetime import UTC
from typing import TYPE_CHECKING, Any

from drylamp.core.checks import require
from drylamp.formats.trial_file import BASE_NAMES, TrialFile

if TYPE_CHECKING:
    from openpyxl import Workbook

MOST_ROWS = 100_000
"""Some ten seconds of work; a sheet ends at 1,048,576 rows anyway."""


def write_xlsx(trial: TrialFile) -> bytes:
    """Write a trial's workbook.

    Raises
    ------
    InputProblem
        it has more readings than a workbook takes here.
    """
    from openpyxl import Workbook

    require(
        len(trial.readings) <= MOST_ROWS, "trial",
        f"it has {len(trial.readings)} readings, and a workbook takes {MOST_ROWS}; take the CSV",
    )  # fmt: skip
    book = Workbook(write_only=True)
    zone, units = trial.site.zone, {c.name: BASE_NAMES[c.quantity] for c in trial.channels}
    _sheet(
        book, "readings", ("time (site)", "time (UTC)", "channel", "value", "unit", "typed", "source", "flag", "taken back"),
        (
            (r.time.astimezone(zone).replace(tzinfo=None), r.time.astimezone(UTC).replace(tzinfo=None), r.channel, r.value, units[r.channel],
             f"{r.typed} {r.unit}".strip(), r.source, r.flag, "yes" if r.withdrawn else "")
            for r in trial.readings
        ),
    )  # fmt: skip
    _sheet(
        book, "events", ("time (site)", "what", "channel", "note"),
        ((e.time.astimezone(zone).replace(tzinfo=None), e.kind, e.channel, e.note) for e in trial.events),
    )  # fmt: skip
    about = (("trial", trial.name), ("build", trial.build_name), ("revision", trial.build_revision), ("protocol", trial.protocol), ("site", trial.site.name), ("clock", trial.site.time_zone), ("remarks", trial.remarks))  # fmt: skip
    _sheet(book, "trial", ("what", "as it is"), about)
    out = io.BytesIO()
    book.save(out)
    return out.getvalue()


def _sheet(book: Workbook, title: str, names: Sequence[str], rows: Iterable[Sequence[Any]]) -> None:
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
