"""Values of a file: numbers as people write them, and their units."""

from __future__ import annotations

import math
import re
from collections import defaultdict
from collections.abc import Container, Iterator, Sequence
from datetime import datetime

from drylamp.core.checks import MOST_VALUE, InputProblem
from drylamp.core.trials.instruments import UNITS, in_base, number_in
from drylamp.formats.readings.preview import YES, Column, ParsedReading, Question, Reading
from drylamp.formats.table_text import RefusedRow

LONGEST_TYPED = 30
_UNIT = re.compile(r"°?\s*\b([CFcf])\b|([°º])\s*([CFcf])")
_OTHER_UNITS: tuple[tuple[str, str], ...] = (
    (r"w\s*/?\s*m(\^?2|²|-2)", "W/m2"), (r"km\s*/\s*h|kph", "km/h"), (r"\bmph\b", "mph"), (r"\bm\s*/\s*s\b", "m/s"),
    (r"l\s*/\s*min|lpm", "l/min"), (r"gal\s*/\s*min|gpm", "gal/min"), (r"kg\s*/\s*s", "kg/s"), (r"%\s*mc", "% MC"), (r"[\[(\s_]h(ours?)?[\])\s]*$", "h"),
    (r"%|\brh\b|humid", "%"), (r"\bkg\b", "kg"), (r"\blbs?\b", "lb"), (r"[\[(\s_]g[\])\s]*$", "g"),
)  # fmt: skip


_GROUPED = re.compile(r"[-+]?\d{1,3}(,\d{3})+(\.\d+)?")
"""A number whose thousands are parted by commas; only read so where a person said that they are."""


def _plainly(cell: str) -> float | None:
    """A number that stands alone with a point, as most do; none for all else."""
    try:
        value = float(cell)
    except ValueError:
        return None
    return value if math.isfinite(value) and abs(value) <= MOST_VALUE else None


def _row_of(reading: ParsedReading) -> int:
    return reading.row


def _ends(readings: list[ParsedReading]) -> Iterator[tuple[str, float]]:
    """Lowest and highest value in each unit of a column."""
    by_unit: dict[str, list[float]] = defaultdict(list)
    for reading in readings:
        if reading.value is not None:
            by_unit[reading.unit].append(reading.value)
    for unit, values in by_unit.items():
        yield unit, min(values)
        yield unit, max(values)


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


class Values:
    """Reads the values of one file, remembering units."""

    def __init__(self, header: list[str], how: Reading, decimal_comma: bool) -> None:
        self.header, self.how, self.decimal_comma = header, how, decimal_comma
        self.place = {name.lower(): i for i, name in enumerate(header)}
        self.readings: list[ParsedReading] = []
        self.refused: list[RefusedRow] = []
        self.cell_units: dict[str, dict[str, int]] = {}
        self.units = {name: how.units.get(name) or unit_in(name) for name in header}

    def wide_rows(self, rows: Sequence[tuple[int, list[str], datetime]], left_out: Container[int | None]) -> None:
        """Take in rows with a column per channel; columns of plain numbers, which most are, all at once."""
        for index, name in enumerate(self.header):
            if index in left_out:
                continue
            there = [(number, row[index].strip(), moment) for number, row, moment in rows if index < len(row)]
            plain = self._all_plain([cell for _, cell, _ in there])
            if plain is not None:
                unit = self.units[name] or "C"
                self.readings += [ParsedReading(number, name, moment, value, cell, unit) for (number, cell, moment), value in zip(there, plain, strict=True)]  # fmt: skip
                continue
            for number, cell, moment in there:
                if cell:
                    self._take(number, name, moment, cell, None)
        self.readings.sort(key=_row_of)

    def _all_plain(self, cells: list[str]) -> list[float] | None:
        """The numbers of a column in which every cell holds one that stands alone; none where one does not."""
        if max(map(len, cells), default=0) > LONGEST_TYPED:
            return None
        try:
            found = list(map(float, [cell.replace(",", ".") for cell in cells] if self.decimal_comma else cells))
        except ValueError:
            return None
        return found if min(found, default=0.0) >= -MOST_VALUE and max(found, default=0.0) <= MOST_VALUE and not any(map(math.isnan, found)) else None  # fmt: skip

    def tidy_row(self, number: int, row: list[str], moment: datetime) -> None:
        """Take in a row that holds one reading."""
        if len(row) < len(self.header):
            reason = f"has {len(row)} columns, {len(self.header)} are needed"
            self.refused.append(RefusedRow(row=number, reason=reason))
            return
        unit = unit_in(row[self.place["unit"]]) if "unit" in self.place else None
        self._take(number, row[self.place["channel"]].strip(), moment, row[self.place["value"]].strip(), unit)

    def _take(self, number: int, name: str, moment: datetime, cell: str, unit: str | None) -> None:
        if unit is None:
            plainly = _plainly(cell)
            if plainly is not None:
                self._keep(number, name, moment, plainly, cell, None)
                return
        inside = unit or (unit_in(cell) if re.search(r"\d\s*[°º]?\s*[CFcf]\s*$", cell) else None)
        if inside is not None:
            self.cell_units.setdefault(name, {}).setdefault(inside, number)
        plain = re.sub(r"(?<=\d)\s*[°º]?\s*[CFcf]\s*$", "", cell).strip()
        plain = plain.replace(",", ".") if self.decimal_comma else (plain.replace(",", "") if _GROUPED.fullmatch(plain) else plain)  # fmt: skip
        try:
            value = number_in(plain)
        except InputProblem:
            self.refused.append(RefusedRow(row=number, reason=f"{name}: '{cell[:30]}' is no number"))
            return
        self._keep(number, name, moment, value, cell, inside)

    def _keep(self, number: int, name: str, moment: datetime, value: float | None, cell: str, unit: str | None) -> None:
        if name not in self.units:
            self.units[name] = self.how.units.get(name) or unit_in(name)
        used = unit or self.units[name] or "C"
        self.readings.append(ParsedReading(number, name, moment, value, cell[:LONGEST_TYPED], used))

    def columns(self) -> list[Column]:
        """What was found in each column."""
        out = []
        by_name: dict[str, list[ParsedReading]] = defaultdict(list)
        for reading in self.readings:
            by_name[reading.column].append(reading)
        for name, mine in by_name.items():
            unit = mine[0].unit
            quantity = UNITS[unit].quantity
            values = [in_base(v, r_unit, UNITS[r_unit].quantity) for r_unit, v in _ends(mine)]
            seen = unit_in(name) is not None or name in self.cell_units or name in self.how.units
            out.append(
                Column(
                    name=name, unit=unit, unit_seen=seen, quantity=quantity, count=len(mine),
                    low=min(values, default=None), high=max(values, default=None),
                )
            )  # fmt: skip
        return out

    def questions(self) -> list[Question]:
        """What only a person can answer."""
        out = []
        for name, units in self.cell_units.items():
            if len(units) > 1:
                rows = ", ".join(f"{UNITS[u].title} from row {n}" for u, n in units.items())
                text = f"Column {name} mixes units ({rows}). Accept each cell by its own unit, or mend the file."
                out.append(Question(code=f"mixed-units:{name}", text=text, answers=YES))
        return out
