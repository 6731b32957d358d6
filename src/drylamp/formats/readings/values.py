"""Values of a file: numbers as people write them, and their units."""

from __future__ import annotations

import re
from datetime import datetime

from drylamp.core.checks import InputProblem
from drylamp.core.trials.instruments import UNITS, in_base, number_in
from drylamp.formats.readings.preview import YES, Column, ParsedReading, Question, Reading, RefusedRow

_UNIT = re.compile(r"°?\s*\b([CFcf])\b|([°º])\s*([CFcf])")
_OTHER_UNITS: tuple[tuple[str, str], ...] = (
    (r"w\s*/?\s*m(\^?2|²|-2)", "W/m2"), (r"km\s*/\s*h|kph", "km/h"), (r"\bmph\b", "mph"), (r"\bm\s*/\s*s\b", "m/s"),
    (r"l\s*/\s*min|lpm", "l/min"), (r"gal\s*/\s*min|gpm", "gal/min"), (r"kg\s*/\s*s", "kg/s"), (r"%\s*mc", "% MC"), (r"[\[(\s_]h(ours?)?[\])\s]*$", "h"),
    (r"%|\brh\b|humid", "%"), (r"\bkg\b", "kg"), (r"\blbs?\b", "lb"), (r"[\[(\s_]g[\])\s]*$", "g"),
)  # fmt: skip


def cell_of(row: list[str], index: int) -> str:
    """A row's cell, empty where the row ends before it."""
    return row[index].strip() if index < len(row) else ""


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

    def wide_row(self, number: int, row: list[str], moment: datetime, time_at: int) -> None:
        """Take in a row with a column per channel."""
        for index, name in enumerate(self.header):
            cell = cell_of(row, index)
            if index != time_at and name and cell:
                self._take(number, name, moment, cell, None)

    def tidy_row(self, number: int, row: list[str], moment: datetime) -> None:
        """Take in a row that holds one reading."""
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
        """What was found in each column."""
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
        """What only a person can answer."""
        out = []
        for name, units in self.cell_units.items():
            if len(units) > 1:
                rows = ", ".join(f"{UNITS[u].title} from row {n}" for u, n in units.items())
                text = f"Column {name} mixes units ({rows}). Accept each cell by its own unit, or mend the file."
                out.append(Question(code=f"mixed-units:{name}", text=text, answers=YES))
        return out
