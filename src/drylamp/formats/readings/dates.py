"""How people and loggers write an instant: year first, day first, month first, with am and pm, or as a count."""

from __future__ import annotations

import re
from collections.abc import Iterable
from dataclasses import dataclass
from datetime import UTC, datetime, timedelta
from typing import Literal

Order = Literal["day", "month"]
_TIME = r"(?:[T ,]+(?P<h>\d{1,2})[:.h](?P<m>\d{2})(?:[:.](?P<s>\d{2})(?:[.,]\d+)?)?\s*(?P<half>[AaPp]\.?[Mm]\.?)?)?"
_SLASHED = re.compile(r"^(?P<a>\d{1,2})/(?P<b>\d{1,2})/(?P<y>\d{4}|\d{2})" + _TIME + "$")
_DOTTED = re.compile(r"^(?P<a>\d{1,2})\.(?P<b>\d{1,2})\.(?P<y>\d{4}|\d{2})" + _TIME + "$")
_YEAR_FIRST = re.compile(r"^(?P<y>\d{4})[-/.](?P<b>\d{1,2})[-/.](?P<a>\d{1,2})" + _TIME + "$")
_PACKED = re.compile(r"^(19[7-9]\d|2[01]\d\d)(0[1-9]|1[0-2])(0[1-9]|[12]\d|3[01])$")
_DAY_ALONE = re.compile(r"^\d{1,4}[-/.]\d{1,2}[-/.]\d{1,4}$")
_HOUR_ALONE = re.compile(r"^\d{1,2}[:.h]\d{2}([:.]\d{2}([.,]\d+)?)?\s*([AaPp]\.?[Mm]\.?)?$")
_SINCE_1970 = re.compile(r"^\d{9,10}([.,]\d+)?$|^\d{12,13}$")
SHEET_ZERO = datetime(1899, 12, 30, tzinfo=UTC)
"""Spreadsheets count days from here."""
SHEET_DAYS = (20_000.0, 80_000.0)
"""Day counts of a spreadsheet for 1954 to 2118."""


@dataclass(frozen=True)
class Stamp:
    """An instant as it stood in a cell: with or without a zone, and whether it named an hour at all."""

    moment: datetime
    has_hour: bool


def is_day_alone(cell: str) -> bool:
    """Whether a cell names a day and no hour."""
    return bool(_DAY_ALONE.match(cell) or _PACKED.match(cell))


def is_hour_alone(cell: str) -> bool:
    """Whether a cell names an hour and no day."""
    return bool(_HOUR_ALONE.match(cell))


def since_1970(cell: str) -> datetime | None:
    """The instant of a cell that counts seconds or milliseconds since 1970."""
    if not _SINCE_1970.match(cell):
        return None
    count = float(cell.replace(",", "."))
    return datetime.fromtimestamp(count / (1000.0 if count >= 1e11 else 1.0), UTC)


def orders_seen(cells: Iterable[str]) -> tuple[set[Order], bool]:
    """What order of day and month the cells with slashes prove, and whether any of them have slashes at all."""
    proven: set[Order] = set()
    slashed = False
    for cell in cells:
        if "/" not in cell:
            continue
        found = _SLASHED.match(cell)
        if found:
            slashed = True
            if int(found["a"]) > 12:
                proven.add("day")
            if int(found["b"]) > 12:
                proven.add("month")
    return proven, slashed


def read_stamp(cell: str, order: Order) -> Stamp | None:
    """The instant that a cell names; none where it names none.

    Parameters
    ----------
    order
        what stands first in dates with slashes
    """
    if _PACKED.match(cell):
        return _built(int(cell[:4]), int(cell[4:6]), int(cell[6:]), has_hour=False)
    if not cell.isdigit():
        try:
            return Stamp(datetime.fromisoformat(cell), has_hour=len(cell) > 10)
        except ValueError:
            pass
    for form in (_YEAR_FIRST, _DOTTED, _SLASHED):
        found = form.match(cell)
        if found:
            day, month = int(found["a"]), int(found["b"])
            if form is _SLASHED and order == "month":
                day, month = month, day
            return _at(found, int(found["y"]), month, day)
    return None


def _built(*numbers: int, has_hour: bool) -> Stamp | None:
    try:
        return Stamp(datetime(*numbers), has_hour)  # type: ignore[arg-type]
    except ValueError:
        return None


def _at(found: re.Match[str], year: int, month: int, day: int) -> Stamp | None:
    hour, minute, second = (int(found[part] or 0) for part in "hms")
    half = (found["half"] or "").lower()[:1]
    if half:
        if not 1 <= hour <= 12:
            return None
        hour = hour % 12 + (12 if half == "p" else 0)
    return _built(
        2000 + year if year < 100 else year, month, day, hour, minute, second, has_hour=found["h"] is not None
    )


def days_of_sheet(count: float) -> timedelta:
    """A spreadsheet's count of days, to the second."""
    return timedelta(seconds=round(count * 86400.0))
