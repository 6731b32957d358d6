"""Readings from a CSV of any shape: what the file seems to say, what must be asked, and which rows cannot be used.

Wide files have a column per channel; tidy ones have ``time, channel, value`` and maybe ``unit``. Delimiter, decimal
comma, units and clock are read off the file; anything doubtful becomes a *question* that a person answers before
the import is committed. Every refused row is listed with its number and reason; odd values are taken in and flagged.
"""

from __future__ import annotations

import csv
import io
import re
from datetime import datetime
from zoneinfo import ZoneInfo

from drylamp.core.checks import InputProblem, require
from drylamp.core.trials.instruments import UNITS
from drylamp.formats.readings.preview import Parsed, Preview, Reading
from drylamp.formats.readings.stamps import TIME_WORDS, Times
from drylamp.formats.readings.values import Values, cell_of

MAX_ROWS = 400_000
DELIMITERS = (";", "\t", ",", "|")


def parse_readings(text: str, zone: ZoneInfo, start: datetime, how: Reading | None = None) -> Parsed:
    """Read a CSV of readings.

    Args:
        zone: the site's clock, for stamps without offset
        start: what minutes in a plain number column count from

    Raises:
        InputProblem: the file is empty, too long, or has no time or no value column, or a named unit is unknown.
    """
    how = how or Reading()
    for name, unit in how.units.items():
        require(unit in UNITS, f"units.{name}", f"'{unit}' is not known; known: {', '.join(UNITS)}")
    rows, delimiter = _rows(text)
    header = [cell.strip() for cell in rows[0]]
    body = [(number, row) for number, row in enumerate(rows[1:], start=2) if any(cell.strip() for cell in row)]
    require(bool(body), "text", "the file has a header and no rows; choose another file")
    decimal_comma = delimiter != "," and _uses_decimal_comma([row for _, row in body])
    lower = [name.lower() for name in header]
    tidy = "value" in lower and "channel" in lower
    times = Times(zone, start, how, decimal_comma)
    time_at = _time_column(header)
    moments = times.read([(number, cell_of(row, time_at)) for number, row in body], ordered=not tidy)
    values = Values(header, how, decimal_comma)
    for (number, row), moment in zip(body, moments, strict=True):
        if moment is not None:
            values.tidy_row(number, row, moment) if tidy else values.wide_row(number, row, moment, time_at)
    preview = Preview(
        shape="tidy" if tidy else "wide",
        delimiter=delimiter,
        decimal_comma=decimal_comma,
        time_column=header[time_at],
        clock=times.clock(),
        clock_open=times.naive,
        columns=values.columns(),
        questions=[*times.questions, *values.questions()],
        notes=times.notes,
        refused=sorted([*times.refused, *values.refused], key=lambda r: r.row),
        readings=len(values.readings),
        first_rows=[[c.strip() for c in row] for _, row in body[:6]],
        header=header,
    )
    return Parsed(preview=preview, readings=values.readings)


def _rows(text: str) -> tuple[list[list[str]], str]:
    text = text.lstrip("\ufeff")
    require(bool(text.strip()), "text", "the file is empty; choose another file")
    first = text.splitlines()[0]
    delimiter = max(DELIMITERS, key=lambda d: (first.count(d), -DELIMITERS.index(d)))
    require(
        delimiter in first, "text", "row 1 has only one column; columns must be split by comma, semicolon, tab or |"
    )
    rows = list(csv.reader(io.StringIO(text), delimiter=delimiter))
    require(len(rows) <= MAX_ROWS, "text", f"the file has {len(rows)} rows; at most {MAX_ROWS} at once, split it")
    return rows, delimiter


def _time_column(header: list[str]) -> int:
    for index, name in enumerate(header):
        if any(word in name.lower() for word in TIME_WORDS):
            return index
    raise InputProblem(
        "text", f"no column is called time or date; the columns are {', '.join(header)}: rename the one with the time"
    )


def _uses_decimal_comma(body: list[list[str]]) -> bool:
    cells = [cell for row in body[:200] for cell in row[1:]]
    return any(re.fullmatch(r"\s*-?\d+,\d+\s*(°?[CF])?\s*", cell) for cell in cells)
