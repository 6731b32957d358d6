"""Readings from a CSV of any shape: what the file seems to say, what must be asked, and which rows cannot be used.

Wide files have a column per channel; tidy ones have ``time, channel, value`` and maybe ``unit``. Delimiter, decimal
comma, unit and clock are read off the file; anything doubtful becomes a *question* that a person answers before
the import is committed. Every refused row is listed with its number and reason.
"""

from __future__ import annotations

import csv
import io
import math
import re
from datetime import UTC, datetime, timedelta
from typing import Literal
from zoneinfo import ZoneInfo

from drylamp.core.checks import Model, require

MAX_ROWS = 400_000
DELIMITERS = (";", "\t", ",", "|")
TIME_WORDS = ("time", "date", "stamp", "minutes", "hora", "zeit")
ROOM_LIMITS_C = (-60.0, 400.0)
DAY_FIRST = ("%d/%m/%Y %H:%M:%S", "%d/%m/%Y %H:%M", "%d.%m.%Y %H:%M:%S", "%d.%m.%Y %H:%M")
_UNIT = re.compile(r"°?\s*\b([CFcf])\b|([°º])\s*([CFcf])")

Unit = Literal["C", "F"]


class RefusedRow(Model):
    """A row that cannot be used, by its number in the file (the header is row 1)."""

    row: int
    reason: str


class Question(Model):
    """Something only a person can answer; ``code`` goes into the commit's accepted list."""

    code: str
    text: str


class Column(Model):
    """One column of values as it was read."""

    name: str
    unit: Unit
    unit_seen: bool
    count: int
    low_c: float | None
    high_c: float | None


class ParsedReading(Model):
    """One reading out of the file."""

    row: int
    column: str
    time: datetime
    value_c: float
    typed: str
    unit: Unit


class Preview(Model):
    """What an import would do."""

    shape: Literal["wide", "tidy"]
    delimiter: str
    decimal_comma: bool
    time_column: str
    clock: str
    columns: list[Column]
    questions: list[Question]
    refused: list[RefusedRow]
    readings: int
    first_rows: list[list[str]]
    header: list[str]


class Parsed(Model):
    """A preview with its readings."""

    preview: Preview
    readings: list[ParsedReading]


def parse_readings(text: str, zone: ZoneInfo, start: datetime, units: dict[str, Unit] | None = None) -> Parsed:
    """Read a CSV of temperatures.

    Args:
        zone: clock of stamps without offset
        start: what minutes in a plain number column count from
        units: a person's answer on the unit of columns, by name

    Raises:
        InputProblem: the file is empty, too long, or has no time or no value column.
    """
    rows, delimiter = _rows(text)
    header = [cell.strip() for cell in rows[0]]
    body = rows[1:]
    require(bool(body), "text", "the file has a header and no rows; choose another file")
    time_at = _time_column(header)
    decimal_comma = delimiter != "," and _uses_decimal_comma(body)
    tidy = "value" in (h.lower() for h in header) and "channel" in (h.lower() for h in header)
    reader = _Reader(header, time_at, decimal_comma, zone, start, units or {})
    readings, refused = reader.tidy(body) if tidy else reader.wide(body)
    preview = Preview(
        shape="tidy" if tidy else "wide",
        delimiter=delimiter,
        decimal_comma=decimal_comma,
        time_column=header[time_at],
        clock=reader.clock(),
        columns=reader.columns(readings),
        questions=reader.questions(),
        refused=refused,
        readings=len(readings),
        first_rows=[[c.strip() for c in row] for row in body[:6]],
        header=header,
    )
    return Parsed(preview=preview, readings=readings)


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
    require(
        False,
        "text",
        f"no column is called time or date; the columns are {', '.join(header)}: rename the one with the time",
    )
    return 0


def _uses_decimal_comma(body: list[list[str]]) -> bool:
    cells = [cell for row in body[:200] for cell in row[1:]]
    return any(re.fullmatch(r"\s*-?\d+,\d+\s*(°?[CF])?\s*", cell) for cell in cells)


def unit_in(text: str) -> Unit | None:
    """The temperature unit that a header or a cell names, if any."""
    found = _UNIT.search(text)
    if not found:
        return "F" if "fahrenheit" in text.lower() else ("C" if "celsius" in text.lower() else None)
    return "F" if (found.group(1) or found.group(3)).upper() == "F" else "C"


def to_celsius(value: float, unit: Unit) -> float:
    """Turn a temperature into °C."""
    return (value - 32.0) / 1.8 if unit == "F" else value


class _Reader:
    """Walks the rows once, remembering what must be asked."""

    def __init__(
        self,
        header: list[str],
        time_at: int,
        decimal_comma: bool,
        zone: ZoneInfo,
        start: datetime,
        units: dict[str, Unit],
    ) -> None:
        self.header, self.time_at, self.decimal_comma = header, time_at, decimal_comma
        self.zone, self.start, self.units = zone, start, units
        self.offsets: dict[timedelta | None, int] = {}
        self.cell_units: dict[str, dict[Unit, int]] = {}
        self.clocks: set[str] = set()
        self.last: datetime | None = None

    def wide(self, body: list[list[str]]) -> tuple[list[ParsedReading], list[RefusedRow]]:
        readings: list[ParsedReading] = []
        refused: list[RefusedRow] = []
        names = [(i, name) for i, name in enumerate(self.header) if i != self.time_at and name]
        for number, row in enumerate(body, start=2):
            if not any(cell.strip() for cell in row):
                continue
            time = self._time(row, number, refused, in_order=True)
            if time is None:
                continue
            for index, name in names:
                cell = row[index].strip() if index < len(row) else ""
                if cell:
                    self._take(readings, refused, number, name, time, cell, None)
        return readings, refused

    def tidy(self, body: list[list[str]]) -> tuple[list[ParsedReading], list[RefusedRow]]:
        readings: list[ParsedReading] = []
        refused: list[RefusedRow] = []
        place = {name.lower(): i for i, name in enumerate(self.header)}
        for number, row in enumerate(body, start=2):
            if not any(cell.strip() for cell in row):
                continue
            time = self._time(row, number, refused, in_order=False)
            if time is None:
                continue
            if len(row) < len(self.header):
                refused.append(RefusedRow(row=number, reason=f"has {len(row)} columns, {len(self.header)} are needed"))
                continue
            unit = unit_in(row[place["unit"]]) if "unit" in place else None
            self._take(
                readings, refused, number, row[place["channel"]].strip(), time, row[place["value"]].strip(), unit
            )
        return readings, refused

    def _take(
        self, readings: list[ParsedReading], refused: list[RefusedRow], number: int, name: str, time: datetime, cell: str,
        unit: Unit | None,
    ) -> None:  # fmt: skip
        inside = unit or (unit_in(cell) if re.search(r"[CFcf]\s*$", cell) else None)
        if inside is not None:
            self.cell_units.setdefault(name, {}).setdefault(inside, number)
        plain = re.sub(r"[°º]?\s*[CFcf]\s*$", "", cell).strip()
        if self.decimal_comma:
            plain = plain.replace(",", ".")
        try:
            value = float(plain)
        except ValueError:
            refused.append(RefusedRow(row=number, reason=f"{name}: '{cell[:30]}' is no number"))
            return
        used = inside or self._unit(name)
        celsius = to_celsius(value, used)
        low, high = ROOM_LIMITS_C
        if not math.isfinite(celsius) or not low <= celsius <= high:
            refused.append(RefusedRow(row=number, reason=f"{name}: {cell[:30]} is outside {low:g} to {high:g} °C"))
            return
        readings.append(ParsedReading(row=number, column=name, time=time, value_c=celsius, typed=cell[:30], unit=used))

    def _unit(self, name: str) -> Unit:
        return self.units.get(name) or unit_in(name) or "C"

    def _time(self, row: list[str], number: int, refused: list[RefusedRow], in_order: bool) -> datetime | None:
        cell = row[self.time_at].strip() if self.time_at < len(row) else ""
        moment = self._moment(cell)
        if moment is None:
            refused.append(
                RefusedRow(row=number, reason=f"time '{cell[:40]}' cannot be read; write 2025-06-12 10:05 or minutes")
            )
            return None
        if in_order and self.last is not None and moment <= self.last:
            refused.append(RefusedRow(row=number, reason=f"time {cell[:40]} is not after the row before it"))
            return None
        self.last = moment
        return moment

    def _moment(self, cell: str) -> datetime | None:
        try:
            minutes = float(cell.replace(",", ".") if self.decimal_comma else cell)
            self.clocks.add("minutes from the trial's start")
            return self.start + timedelta(minutes=minutes) if math.isfinite(minutes) else None
        except (ValueError, OverflowError):
            pass
        moment = _stamp(cell)
        if moment is None:
            return None
        if moment.tzinfo is None:
            self.clocks.add(f"the site's clock ({self.zone.key})")
            self.offsets.setdefault(None, 0)
            return moment.replace(tzinfo=self.zone).astimezone(UTC)
        self.clocks.add("stamps with their own offset")
        self.offsets.setdefault(moment.utcoffset(), 0)
        return moment.astimezone(UTC)

    def clock(self) -> str:
        return " and ".join(sorted(self.clocks)) or "unknown"

    def columns(self, readings: list[ParsedReading]) -> list[Column]:
        names = list(dict.fromkeys(r.column for r in readings))
        out = []
        for name in names:
            values = [r.value_c for r in readings if r.column == name]
            seen = unit_in(name) is not None or name in self.cell_units or name in self.units
            unit = next(r.unit for r in readings if r.column == name)
            out.append(
                Column(name=name, unit=unit, unit_seen=seen, count=len(values), low_c=min(values), high_c=max(values))
            )
        return out

    def questions(self) -> list[Question]:
        out = []
        if len(self.offsets) > 1:
            named = ", ".join("none" if o is None else _offset(o) for o in self.offsets)
            out.append(
                Question(
                    code="two-time-zones",
                    text=f"The stamps carry more than one time zone ({named}). Accept them as they are written, or mend the file.",
                )
            )
        for name, units in self.cell_units.items():
            if len(units) > 1:
                rows = ", ".join(f"°{u} from row {n}" for u, n in units.items())
                out.append(
                    Question(
                        code=f"mixed-units:{name}",
                        text=f"Column {name} mixes units ({rows}). Accept each cell by its own unit, or mend the file.",
                    )
                )
        return out


def _offset(offset: timedelta) -> str:
    minutes = int(offset.total_seconds() // 60)
    return f"{'-' if minutes < 0 else '+'}{abs(minutes) // 60:02d}:{abs(minutes) % 60:02d}"


def _stamp(cell: str) -> datetime | None:
    try:
        return datetime.fromisoformat(cell)
    except ValueError:
        pass
    for form in DAY_FIRST:
        try:
            return datetime.strptime(cell, form)
        except ValueError:
            continue
    return None
