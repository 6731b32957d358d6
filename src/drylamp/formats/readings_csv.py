"""Readings from a CSV of any shape: what the file seems to say, what must be asked, and which rows cannot be used.

Wide files have a column per channel; tidy ones have ``time, channel, value`` and maybe ``unit``. Delimiter, decimal
comma, units and clock are read off the file; anything doubtful becomes a *question* that a person answers before
the import is committed. Every refused row is listed with its number and reason; odd values are taken in and flagged.
"""

from __future__ import annotations

import csv
import io
import math
import re
from dataclasses import dataclass, field
from datetime import UTC, datetime, timedelta
from itertools import pairwise
from typing import Literal
from zoneinfo import ZoneInfo

import numpy as np

from drylamp.core.checks import InputProblem, Model, require
from drylamp.core.trials.instruments import UNITS, Quantity, in_base, number_in

MAX_ROWS = 400_000
DELIMITERS = (";", "\t", ",", "|")
TIME_WORDS = ("time", "date", "stamp", "minutes", "hora", "zeit")
DAY_FIRST = ("%d/%m/%Y %H:%M:%S", "%d/%m/%Y %H:%M", "%d.%m.%Y %H:%M:%S", "%d.%m.%Y %H:%M")
_UNIT = re.compile(r"°?\s*\b([CFcf])\b|([°º])\s*([CFcf])")
_OTHER_UNITS: tuple[tuple[str, str], ...] = (
    (r"w\s*/?\s*m(\^?2|²|-2)", "W/m2"), (r"km\s*/\s*h|kph", "km/h"), (r"\bmph\b", "mph"), (r"\bm\s*/\s*s\b", "m/s"),
    (r"l\s*/\s*min|lpm", "l/min"), (r"gal\s*/\s*min|gpm", "gal/min"), (r"kg\s*/\s*s", "kg/s"), (r"%\s*mc", "% MC"),
    (r"%|\brh\b|humid", "%"), (r"\bkg\b", "kg"), (r"\blbs?\b", "lb"), (r"[\[(\s_]g[\])\s]*$", "g"),
)  # fmt: skip
GAP_TIMES, GAP_LEAST_S = 4.0, 300.0

Clock = Literal["site", "standard", "utc"]
CLOCKS: dict[Clock, str] = {
    "site": "the site's clock, summer time and all",
    "standard": "the site's standard time all year",
    "utc": "UTC",
}


SKIPPED = "Some stamps fall into the hour that the site's clock skipped; they were taken as standard time."


class RefusedRow(Model):
    """A row that cannot be used, by its number in the file (the header is row 1)."""

    row: int
    reason: str


class Answer(Model):
    """One way to answer a question."""

    code: str
    title: str


class Question(Model):
    """Something only a person can answer, with the answers there are."""

    code: str
    text: str
    answers: list[Answer]


YES = [Answer(code="yes", title="Take it as it stands")]


class Column(Model):
    """One column of values as it was read; low and high in the quantity's base."""

    name: str
    unit: str
    unit_seen: bool
    quantity: Quantity
    count: int
    low: float | None
    high: float | None


class ParsedReading(Model):
    """One reading out of the file; no value where the sensor gave none."""

    row: int
    column: str
    time: datetime
    value: float | None
    typed: str
    unit: str


class Preview(Model):
    """What an import would do."""

    shape: Literal["wide", "tidy"]
    delimiter: str
    decimal_comma: bool
    time_column: str
    clock: str
    clock_open: bool
    columns: list[Column]
    questions: list[Question]
    notes: list[str]
    refused: list[RefusedRow]
    readings: int
    first_rows: list[list[str]]
    header: list[str]


class Parsed(Model):
    """A preview with its readings."""

    preview: Preview
    readings: list[ParsedReading]


@dataclass(frozen=True)
class Reading:
    """How a person wants a file to be read: units by column, the logger's clock, a shift, and answers by question."""

    units: dict[str, str] = field(default_factory=dict)
    clock: Clock = "site"
    shift_minutes: float = 0.0
    answers: dict[str, str] = field(default_factory=dict)


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
    times = _Times(zone, start, how, decimal_comma)
    time_at = _time_column(header)
    moments = times.read([(number, _cell(row, time_at)) for number, row in body], ordered=not tidy)
    values = _Values(header, how, decimal_comma)
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


def _cell(row: list[str], index: int) -> str:
    return row[index].strip() if index < len(row) else ""


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


def unit_in(text: str) -> str | None:
    """The unit that a header or a cell names, if any."""
    lower = text.lower()
    for pattern, unit in _OTHER_UNITS:
        if re.search(pattern, lower):
            return unit
    found = _UNIT.search(text)
    if not found:
        return "F" if "fahrenheit" in lower else ("C" if "celsius" in lower else None)
    return "F" if (found.group(1) or found.group(3)).upper() == "F" else "C"


class _Times:
    """Reads the stamps of a file in their order: zone, summer time, jumps of the clock, gaps."""

    def __init__(self, zone: ZoneInfo, start: datetime, how: Reading, decimal_comma: bool) -> None:
        self.zone, self.start, self.how, self.decimal_comma = zone, start, how, decimal_comma
        self.refused: list[RefusedRow] = []
        self.questions: list[Question] = []
        self.notes: list[str] = []
        self.offsets: list[str] = []
        self.kinds: set[str] = set()
        self.naive = False

    def read(self, cells: list[tuple[int, str]], ordered: bool) -> list[datetime | None]:
        moments: list[datetime | None] = []
        last: datetime | None = None
        for number, cell in cells:
            moment = self._moment(cell, last)
            if moment is None:
                reason = f"time '{cell[:40]}' cannot be read; write 2025-06-12 10:05 or minutes"
                self.refused.append(RefusedRow(row=number, reason=reason))
            else:
                last = moment
            moments.append(moment)
        if len(self.offsets) > 1:
            text = f"The stamps carry more than one time zone ({', '.join(self.offsets)}). Accept them as they are written, or mend the file."
            self.questions.append(Question(code="two-time-zones", text=text, answers=YES))
        if ordered:
            moments = self._mend_jumps([number for number, _ in cells], moments)
            self._note_gaps(moments)
        shift = timedelta(minutes=self.how.shift_minutes)
        return [None if m is None else m + shift for m in moments]

    def _moment(self, cell: str, last: datetime | None) -> datetime | None:
        try:
            minutes = float(cell.replace(",", ".") if self.decimal_comma else cell)
            self.kinds.add("minutes from the trial's start")
            return self.start + timedelta(minutes=minutes) if math.isfinite(minutes) else None
        except (ValueError, OverflowError):
            pass
        moment = _stamp(cell)
        if moment is None:
            return None
        if moment.tzinfo is not None:
            self.kinds.add("stamps with their own offset")
            self._seen(_offset(moment.utcoffset() or timedelta()))
            return moment.astimezone(UTC)
        self.naive = True
        self._seen("none")
        return self._local(moment, last)

    def _seen(self, offset: str) -> None:
        if offset not in self.offsets:
            self.offsets.append(offset)

    def _local(self, moment: datetime, last: datetime | None) -> datetime:
        """A stamp without a zone; of an hour that the clock shows twice, the second where the first is already past."""
        if self.how.clock == "utc":
            return moment.replace(tzinfo=UTC)
        if self.how.clock == "standard":
            return (moment - _standard_offset(self.zone, moment)).replace(tzinfo=UTC)
        first, second = (moment.replace(tzinfo=self.zone, fold=fold).astimezone(UTC) for fold in (0, 1))
        if first != second and last is not None:
            if first < second <= last + timedelta(hours=2) and first <= last:
                self._note("Stamps of the hour that the site's clock showed twice were taken in their order.")
                return second
            if second < first:
                self._note(SKIPPED)
        return first

    def _note(self, text: str) -> None:
        if text not in self.notes:
            self.notes.append(text)

    def _mend_jumps(self, numbers: list[int], moments: list[datetime | None]) -> list[datetime | None]:
        """Ask about every place where the clock goes back; answered, move what follows, keep it, or leave it out."""
        known = [k for k, m in enumerate(moments) if m is not None]
        pause = _usual_pause(moments)
        out, added = list(moments), timedelta()
        furthest: datetime | None = None
        for before, k in pairwise(known):
            earlier, later = moments[before], moments[k]
            assert earlier is not None
            assert later is not None
            back = earlier - later
            if back > timedelta(seconds=1):
                code = self._ask_jump(numbers[k], earlier, later)
                if self.how.answers.get(code) == "shift":
                    added += back + pause
                elif self.how.answers.get(code) == "leave-out":
                    furthest = max(furthest or earlier, earlier)
            out[k] = later + added
            if furthest is not None and later <= furthest:
                out[k] = None
                self.refused.append(
                    RefusedRow(row=numbers[k], reason="is stamped before rows above it, and was left out as answered")
                )
        return out

    def _ask_jump(self, number: int, earlier: datetime, later: datetime) -> str:
        minutes = (earlier - later).total_seconds() / 60.0
        code = f"clock-jump:{number}"
        hint = ""
        if SKIPPED in self.notes and minutes <= 61:
            hint = " The site's clock changed just then: if the logger did not follow, say that it kept standard time."
        self.questions.append(
            Question(
                code=code,
                text=f"At row {number} the clock goes back by {minutes:.0f} min.{hint}",
                answers=[
                    Answer(code="shift", title="It was set back: what follows goes on from there"),
                    Answer(code="keep", title="Take the stamps as they are written"),
                    Answer(code="leave-out", title="Leave out rows stamped before the ones above"),
                ],
            )
        )
        return code

    def _note_gaps(self, moments: list[datetime | None]) -> None:
        seconds = np.array([m.timestamp() for m in moments if m is not None])
        if len(seconds) < 3:
            return
        pauses = np.diff(seconds)
        usual = float(np.median(pauses))
        wide = pauses > max(GAP_TIMES * usual, GAP_LEAST_S)
        if wide.any():
            k = int(np.argmax(pauses))
            since = datetime.fromtimestamp(seconds[k], self.zone)
            self.notes.append(
                f"{int(wide.sum())} gap{'s' if wide.sum() > 1 else ''} in the file, the longest of {pauses[k] / 60:.0f} min "
                f"from {since:%d %b %H:%M}; nothing is filled in."
            )

    def clock(self) -> str:
        kinds = set(self.kinds) | ({f"{CLOCKS[self.how.clock]} ({self.zone.key})"} if self.naive else set())
        moved = f", moved by {self.how.shift_minutes:+g} min" if self.how.shift_minutes else ""
        return (" and ".join(sorted(kinds)) or "unknown") + moved


def _usual_pause(moments: list[datetime | None]) -> timedelta:
    seconds = np.array([m.timestamp() for m in moments if m is not None])
    pauses = np.diff(seconds)
    return timedelta(seconds=float(np.median(pauses[pauses > 0]))) if (pauses > 0).any() else timedelta(minutes=1)


def _standard_offset(zone: ZoneInfo, moment: datetime) -> timedelta:
    aware = moment.replace(tzinfo=zone)
    return (aware.utcoffset() or timedelta()) - (aware.dst() or timedelta())


class _Values:
    """Reads the values of a file, remembering units."""

    def __init__(self, header: list[str], how: Reading, decimal_comma: bool) -> None:
        self.header, self.how, self.decimal_comma = header, how, decimal_comma
        self.place = {name.lower(): i for i, name in enumerate(header)}
        self.readings: list[ParsedReading] = []
        self.refused: list[RefusedRow] = []
        self.cell_units: dict[str, dict[str, int]] = {}

    def wide_row(self, number: int, row: list[str], moment: datetime, time_at: int) -> None:
        for index, name in enumerate(self.header):
            cell = _cell(row, index)
            if index != time_at and name and cell:
                self._take(number, name, moment, cell, None)

    def tidy_row(self, number: int, row: list[str], moment: datetime) -> None:
        if len(row) < len(self.header):
            reason = f"has {len(row)} columns, {len(self.header)} are needed"
            self.refused.append(RefusedRow(row=number, reason=reason))
            return
        unit = unit_in(row[self.place["unit"]]) if "unit" in self.place else None
        self._take(number, row[self.place["channel"]].strip(), moment, row[self.place["value"]].strip(), unit)

    def _take(self, number: int, name: str, moment: datetime, cell: str, unit: str | None) -> None:
        inside = unit or (unit_in(cell) if re.search(r"\d\s*[°º]?\s*[CFcf]\s*$", cell) else None)
        if inside is not None:
            self.cell_units.setdefault(name, {}).setdefault(inside, number)
        plain = re.sub(r"(?<=\d)\s*[°º]?\s*[CFcf]\s*$", "", cell).strip()
        if self.decimal_comma:
            plain = plain.replace(",", ".")
        try:
            value = number_in(plain)
        except InputProblem:
            self.refused.append(RefusedRow(row=number, reason=f"{name}: '{cell[:30]}' is no number"))
            return
        used = inside or self.how.units.get(name) or unit_in(name) or "C"
        self.readings.append(
            ParsedReading(row=number, column=name, time=moment, value=value, typed=cell[:30], unit=used)
        )

    def columns(self) -> list[Column]:
        out = []
        for name in dict.fromkeys(r.column for r in self.readings):
            mine = [r for r in self.readings if r.column == name]
            unit = mine[0].unit
            quantity = UNITS[unit].quantity
            values = [in_base(r.value, r.unit, UNITS[r.unit].quantity) for r in mine if r.value is not None]
            seen = unit_in(name) is not None or name in self.cell_units or name in self.how.units
            out.append(
                Column(
                    name=name, unit=unit, unit_seen=seen, quantity=quantity, count=len(mine),
                    low=min(values, default=None), high=max(values, default=None),
                )
            )  # fmt: skip
        return out

    def questions(self) -> list[Question]:
        out = []
        for name, units in self.cell_units.items():
            if len(units) > 1:
                rows = ", ".join(f"{UNITS[u].title} from row {n}" for u, n in units.items())
                text = f"Column {name} mixes units ({rows}). Accept each cell by its own unit, or mend the file."
                out.append(Question(code=f"mixed-units:{name}", text=text, answers=YES))
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


NODE_WORDS: tuple[tuple[tuple[str, ...], str], ...] = (
    (("control", "beside"), "outside"),
    (("tray", "plate", "absorber", "floor"), "tray"),
    (("wax", "heap", "comb", "cappings"), "wax"),
    (("pot", "food", "water", "core", "stew", "contents"), "contents"),
    (("out", "outside", "ambient", "shade", "outdoor"), "air"),
    (("wall", "lining"), "walls"),
    (("cover", "glass", "pane"), "cover-1"),
    (("board",), "board"),
    (("inside", "oven", "chamber", "box", "air", "in"), "inside-air"),
)
NODE_OF_QUANTITY: dict[Quantity, str] = {
    "sun": "sun",
    "wind": "wind",
    "humidity": "air",
    "mass": "load",
    "moisture": "load",
    "flow": "loop",
}


def likely_node(column: Column) -> str:
    """The part that a column's name seems to speak of; empty when it says nothing."""
    if column.quantity != "temperature":
        return NODE_OF_QUANTITY[column.quantity]
    words = set(re.findall(r"[a-z]+", column.name.lower()))
    return next((node for names, node in NODE_WORDS if words & set(names)), "")
