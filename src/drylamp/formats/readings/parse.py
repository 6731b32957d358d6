"""Readings from a CSV of any shape: what the file seems to say, what must be asked, and which rows cannot be used.

Wide files have a column per channel; tidy ones have ``time, channel, value`` and maybe ``unit``. Delimiter, decimal
comma, units and clock are read off the file; anything doubtful becomes a *question* that a person answers before
the import is committed. Every refused row is listed with its number and reason; odd values are taken in and flagged.
"""

from __future__ import annotations

import re
from dataclasses import dataclass, replace
from datetime import datetime
from zoneinfo import ZoneInfo

from drylamp.core.checks import InputProblem, require
from drylamp.core.trials.far import far_from_rest
from drylamp.core.trials.instruments import UNITS
from drylamp.formats.readings.dates import is_day_alone, is_hour_alone
from drylamp.formats.readings.preview import Answer, Parsed, Preview, Question, Reading
from drylamp.formats.readings.stamps import TIME_WORDS, Times
from drylamp.formats.readings.values import Values
from drylamp.formats.table_text import RefusedRow, Table, cell_of, read_table, surplus_refused

SHOWN_ROWS, SHOWN_REFUSED, LOOKED_AT = 6, 2000, 200
_COMMA = re.compile(r"\s*[-+]?\d+,\d+\s*(°?[CF])?\s*")
_THOUSANDS = re.compile(r"\s*[-+]?\d{1,3}(,\d{3})+\s*")
_WHOLE = re.compile(r"\s*[-+]?\d+\s*")
_TENTHS = re.compile(r"\s*\d+\s*(°?[CF])?\s*")
JOIN = "join-decimals"


@dataclass(frozen=True)
class _When:
    """Where the time stands: one column, or one for the day and one for the hour."""

    at: int
    hour_at: int | None
    name: str

    def cell(self, row: list[str]) -> str:
        first = cell_of(row, self.at)
        return first if self.hour_at is None else f"{first} {cell_of(row, self.hour_at)}".strip()


def parse_readings(text: str, zone: ZoneInfo, start: datetime, how: Reading | None = None, note: str = "") -> Parsed:
    """Read a CSV of readings.

    Args:
        zone: the site's clock, for stamps without offset
        start: what minutes in a plain number column count from
        note: what is to be said of how the file's letters were read

    Raises:
        InputProblem: the file is empty, too long, or has no time or no value column, or a named unit is unknown.
    """
    how = how or Reading()
    for name, unit in how.units.items():
        require(unit in UNITS, f"units.{name}", f"'{unit}' is not known; known: {', '.join(UNITS)}")
    found = read_table(text)
    questions: list[Question] = []
    table = _joined(found, how, questions)
    refused = [*table.refused, *surplus_refused(table)]
    header, body = table.header, table.rows
    require(bool(body or refused), "text", "the file has a header and no rows; choose another file")
    decimal_comma = _decimal_comma([row for _, row in body[:LOOKED_AT]], how, questions)
    lower = [name.lower() for name in header]
    tidy = "value" in lower and "channel" in lower
    when = _time_column(header, body)
    times = Times(zone, start, how, decimal_comma, when.name)
    moments = times.read([(number, when.cell(row)) for number, row in body], ordered=not tidy)
    far: list[Question] = []
    near, gone = _near_ones([number for number, _ in body], moments, how, far, zone)
    if not tidy:
        times.note_gaps(near)
    values = Values(header, how, decimal_comma)
    rows = [(number, row, moment) for (number, row), moment in zip(body, near, strict=True) if moment is not None]
    if tidy:
        for number, row, moment in rows:
            values.tidy_row(number, row, moment)
    else:
        values.wide_rows(rows, {when.at, when.hour_at})
    bad = sorted([*refused, *times.refused, *values.refused, *gone], key=lambda r: r.row)
    preview = Preview(
        shape="tidy" if tidy else "wide",
        delimiter=table.delimiter,
        decimal_comma=decimal_comma,
        time_column=when.name,
        clock=times.clock(),
        clock_open=times.naive,
        columns=values.columns(),
        questions=[*questions, *times.questions, *far, *values.questions()],
        notes=[*([note] if note else []), *table.notes, *times.notes],
        refused=bad[:SHOWN_REFUSED],
        refused_count=len(bad),
        readings=len(values.readings),
        first_rows=[[c.strip() for c in row] for _, row in body[:SHOWN_ROWS]],
        header=header,
    )
    return Parsed(preview=preview, readings=values.readings)


def _time_column(header: list[str], body: list[tuple[int, list[str]]]) -> _When:
    timed = [k for k, name in enumerate(header) if any(word in name.lower() for word in TIME_WORDS)]
    if not timed:
        raise InputProblem(
            "text",
            f"no column is called time or date; the columns are {', '.join(header)[:300]}: rename the one with the time",
        )
    some = [row for _, row in body[:LOOKED_AT]]

    def holds(index: int, test: object) -> bool:
        cells = [cell for cell in (cell_of(row, index) for row in some) if cell]
        return bool(cells) and all(test(cell) for cell in cells)  # type: ignore[operator]

    day = next((k for k in timed if holds(k, is_day_alone)), None)
    hour = next((k for k in timed if holds(k, is_hour_alone)), None)
    if day is not None and hour is not None:
        return _When(day, hour, f"{header[day]} and {header[hour]}")
    return _When(timed[0], None, header[timed[0]])


def _joined(table: Table, how: Reading, questions: list[Question]) -> Table:
    """Rows whose surplus cells are the decimals of the numbers before them, put together once a person says so."""
    columns = len(table.header) - 1
    if table.delimiter != "," or table.rows or not table.surplus or columns < 1:
        return table
    pairs = [row for _, row in table.surplus]
    if not all(len(row) == 1 + 2 * columns and _in_pairs(row[1:]) for row in pairs):
        return table
    shown = f"{pairs[0][1]},{pairs[0][2]}"
    questions.append(
        Question(
            code=JOIN, text=f"Every row has twice as many numbers as there are columns, as if decimals were written with a comma: is {shown} one number?",
            answers=[Answer(code="yes", title=f"Yes: {shown.replace(',', '.')}"), Answer(code="no", title="No: refuse these rows")],
        )
    )  # fmt: skip
    if how.answers.get(JOIN, "yes") != "yes":
        return table
    rows = [
        (n, [row[0], *(f"{row[k]}.{row[k + 1].strip()}" for k in range(1, len(row), 2))]) for n, row in table.surplus
    ]
    return replace(table, rows=rows, surplus=[])


def _in_pairs(cells: list[str]) -> bool:
    return all(_WHOLE.fullmatch(a) and _TENTHS.fullmatch(b) for a, b in zip(cells[::2], cells[1::2], strict=True))


def _decimal_comma(body: list[list[str]], how: Reading, questions: list[Question]) -> bool:
    """Whether numbers are written with a comma; asked where it may as well part thousands."""
    commas = [cell for row in body for cell in row[1:] if _COMMA.fullmatch(cell)]
    if commas and all(_THOUSANDS.fullmatch(cell) for cell in commas):
        shown = commas[0].strip()
        questions.append(
            Question(
                code="comma", text=f"What is the comma in {shown}?",
                answers=[Answer(code="decimal", title=f"A decimal comma: {shown.replace(',', '.')}"), Answer(code="thousands", title=f"It parts thousands: {shown.replace(',', '')}")],
            )
        )  # fmt: skip
        return how.answers.get("comma", "decimal") == "decimal"
    return bool(commas)


def _near_ones(
    numbers: list[int], moments: list[datetime | None], how: Reading, questions: list[Question], zone: ZoneInfo
) -> tuple[list[datetime | None], list[RefusedRow]]:
    """Instants of rows, those set aside that lie far from the rest, unless a person says that they are meant."""
    known = [k for k, moment in enumerate(moments) if moment is not None]
    far = [known[k] for k in far_from_rest([m.timestamp() for m in moments if m is not None]).nonzero()[0]]
    if not far:
        return moments, []
    first = moments[far[0]]
    assert first is not None
    many = f"{len(far)} rows lie" if len(far) > 1 else "1 row lies"
    text = f"{many} far from the rest of the file in time (row {numbers[far[0]]}: {first.astimezone(zone):%Y-%m-%d %H:%M}). Is the date right?"
    leave, take = Answer(code="leave-out", title="No: leave them out"), Answer(code="keep", title="Yes: take them as they stand")  # fmt: skip
    questions.append(Question(code="far", text=text, answers=[leave, take]))
    if how.answers.get("far") == "keep":
        return moments, []
    near = list(moments)
    for k in far:
        near[k] = None
    return near, [RefusedRow(row=numbers[k], reason="is stamped far from the rest, and was left out") for k in far]
