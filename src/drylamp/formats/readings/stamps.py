"""Stamps of a file in their order: zone, summer time, jumps of the clock, gaps."""

from __future__ import annotations

import math
import re
from collections.abc import Callable
from datetime import UTC, datetime, timedelta
from itertools import pairwise
from zoneinfo import ZoneInfo

import numpy as np

from drylamp.core.checks import InputProblem, within_days
from drylamp.formats.readings.dates import (
    SHEET_DAYS,
    SHEET_ZERO,
    Order,
    Stamp,
    days_of_sheet,
    is_day_alone,
    orders_seen,
    read_stamp,
    since_1970,
)
from drylamp.formats.readings.preview import CLOCKS, YES, Answer, Question, Reading
from drylamp.formats.table_text import RefusedRow

TIME_WORDS = ("time", "date", "stamp", "minutes", "hora", "zeit", "fecha", "datum")
COUNTS: dict[str, tuple[float, str]] = {
    "minutes": (60.0, "minutes"),
    "seconds": (1.0, "seconds"),
    "hours": (3600.0, "hours"),
}
"""What a plain number in the time column may count from the trial's start, in seconds."""
COUNT_WORDS = (("minutes", r"min"), ("seconds", r"sec|[(\[]s[)\]]"), ("hours", r"hour|[(\[]h[)\]]"))
NO_HOUR: dict[str, float] = {"midnight": 0.0, "noon": 12.0}
GAP_TIMES, GAP_LEAST_S = 4.0, 300.0

MOST_HOURS = 40_000
"""Files over more hours than these, some four years, are read stamp by stamp."""
_PLAIN = re.compile(r"\d{4}-\d\d-\d\d[ T]\d\d:\d\d(:\d\d)?$")
SKIPPED = "Some stamps fall into the hour that the site's clock skipped; they were taken as standard time."


class Times:
    """Reads the stamps of one file."""

    def __init__(self, zone: ZoneInfo, start: datetime, how: Reading, decimal_comma: bool, header: str = "") -> None:
        self.zone, self.start, self.how, self.decimal_comma, self.header = zone, start, how, decimal_comma, header
        self.order: Order = "day"
        self.counted: Callable[[float], datetime] = self._from_start
        self.count_s = 60.0
        self.refused: list[RefusedRow] = []
        self.questions: list[Question] = []
        self.notes: list[str] = []
        self.offsets: list[str] = []
        self.kinds: set[str] = set()
        self.naive = False

    def read(self, cells: list[tuple[int, str]], ordered: bool) -> list[datetime | None]:
        """Instants of the cells, none where a cell is refused; jumps are looked for in files that are in order."""
        moments: list[datetime | None] = []
        last: datetime | None = None
        alike = self._all_alike([cell for _, cell in cells])
        if alike is not None:
            return self._ordered([number for number, _ in cells], list(alike), ordered)
        self._ask_order(cells)
        self._ask_count(cells)
        for number, cell in cells:
            moment, reason = self._within(cell, last)
            if moment is None:
                self.refused.append(RefusedRow(row=number, reason=reason))
            else:
                last = moment
            moments.append(moment)
        if len(self.offsets) > 1:
            text = f"The stamps carry more than one time zone ({', '.join(self.offsets)}). Accept them as they are written, or mend the file."
            self.questions.append(Question(code="two-time-zones", text=text, answers=YES))
        return self._ordered([number for number, _ in cells], moments, ordered)

    def _all_alike(self, cells: list[str]) -> list[datetime] | None:
        """Instants of stamps that are all written as 2025-06-12 10:05(:30), read at once; none where they are not, or a clock was changed among them."""
        if not cells or len(cells[0]) not in (16, 19) or len({len(cell) for cell in cells}) > 1 or not all(map(_PLAIN.match, cells)):  # fmt: skip
            return None
        try:
            local = np.array(cells, dtype="datetime64[s]")
        except ValueError:
            return None
        hours, which = np.unique(local.astype("datetime64[h]"), return_inverse=True)
        if len(hours) > MOST_HOURS:
            return None
        shifts = []
        for hour in hours.astype(object):
            both = {self._offset_at(hour.replace(fold=fold)) for fold in (0, 1)}
            ends = self._offset_at(hour + timedelta(minutes=59, seconds=59))
            if both != {ends}:
                return None
            shifts.append(ends)
        seconds = local.astype(np.int64) - np.array(shifts)[which]
        first, last = (datetime.fromtimestamp(int(s), UTC) for s in (seconds.min(), seconds.max()))
        try:
            within_days(first), within_days(last)
        except ValueError:
            return None
        self.naive = True
        self._seen("none")
        return [datetime.fromtimestamp(s, UTC) for s in seconds.tolist()]

    def _offset_at(self, moment: datetime) -> int:
        """Seconds that the stamps' clock is ahead of UTC."""
        if self.how.clock == "utc":
            return 0
        if self.how.clock == "standard":
            return int(_standard_offset(self.zone, moment).total_seconds())
        return int((moment.replace(tzinfo=self.zone).utcoffset() or timedelta()).total_seconds())

    def _ordered(self, numbers: list[int], moments: list[datetime | None], ordered: bool) -> list[datetime | None]:
        """Instants with jumps of the clock mended as was answered, and moved as was asked."""
        if ordered:
            moments = self._mend_jumps(numbers, moments)
        if not self.how.shift_minutes:
            return moments
        shift = timedelta(minutes=self.how.shift_minutes)
        return [None if m is None else self._shifted(m, shift) for m in moments]

    def _shifted(self, moment: datetime, shift: timedelta) -> datetime:
        try:
            return within_days(moment + shift)
        except (OverflowError, ValueError) as beyond:
            raise InputProblem(
                "shift_minutes",
                f"a shift of {self.how.shift_minutes:g} min leads out of the years there are; give a smaller one",
            ) from beyond

    def _within(self, cell: str, last: datetime | None) -> tuple[datetime | None, str]:
        """A cell's instant, or the reason for refusing it."""
        unread = f"time '{cell[:40]}' cannot be read; write 2025-06-12 10:05 or minutes"
        try:
            moment = self._moment(cell, last)
            return (None, unread) if moment is None else (within_days(moment), "")
        except OverflowError:
            return None, unread
        except ValueError as beyond:
            return None, f"time '{cell[:40]}': {beyond}"

    def _ask_order(self, cells: list[tuple[int, str]]) -> None:
        """Which of day and month comes first in dates with slashes: proven by a number over 12, else asked."""
        proven, slashed = orders_seen(cell for _, cell in cells)
        answer = self.how.answers.get("day-or-month", "")
        if slashed and proven != {"day"} and proven != {"month"}:
            both = "Some dates of the file can only be read with the day first, others only with the month first" if proven else "Every date of the file can be read with the day first or with the month first"  # fmt: skip
            self.questions.append(Question(code="day-or-month", text=f"{both}. Which comes first?", answers=[Answer(code="day", title="The day: 12/6 is 12 June"), Answer(code="month", title="The month: 12/6 is 6 December")]))  # fmt: skip
            self.order = "month" if answer == "month" else "day"
        elif proven:
            self.order = proven.pop()
            self._note(f"In dates with slashes the {self.order} comes first: a number over 12 proves it.")

    def _ask_count(self, cells: list[tuple[int, str]]) -> None:
        """What plain numbers in the time column count: said by its name, else asked."""
        numbers = [n for n in (self._number(cell) for _, cell in cells if not since_1970(cell)) if n is not None]
        if not numbers:
            return
        said = next((name for name, words in COUNT_WORDS if re.search(words, self.header.lower())), "")
        if not said and all(SHEET_DAYS[0] <= n <= SHEET_DAYS[1] for n in numbers):
            self.counted, kind = self._from_sheet, f"days as a spreadsheet counts them, by {CLOCKS[self.how.clock]}"
        else:
            answer = said or self.how.answers.get("count", "minutes")
            self.count_s, word = COUNTS.get(answer, COUNTS["minutes"])
            kind = f"{word} from the trial's start"
            if not said:
                text = f"Column {self.header} holds plain numbers, the largest {max(numbers):g}. What do they count from the trial's start?"
                self.questions.append(Question(code="count", text=text, answers=[Answer(code=name, title=name.capitalize()) for name in COUNTS]))  # fmt: skip
        self.kinds.add(kind)

    def _number(self, cell: str) -> float | None:
        if not cell or not (cell[0].isdigit() or cell[0] in "+-.") or is_day_alone(cell):
            return None
        try:
            return float(cell.replace(",", ".") if self.decimal_comma else cell)
        except ValueError:
            return None

    def _from_start(self, count: float) -> datetime:
        return self.start + timedelta(seconds=count * self.count_s)

    def _from_sheet(self, count: float) -> datetime:
        self.naive = True
        return self._local((SHEET_ZERO + days_of_sheet(count)).replace(tzinfo=None), None)

    def _moment(self, cell: str, last: datetime | None) -> datetime | None:
        counted = since_1970(cell)
        if counted is not None:
            self.kinds.add("seconds since 1970")
            return counted
        number = self._number(cell)
        if number is not None:
            return self.counted(number) if math.isfinite(number) else None
        stamp = read_stamp(cell, self.order)
        if stamp is None:
            return None
        moment = self._at_some_hour(stamp)
        if moment.tzinfo is not None:
            self.kinds.add("stamps with their own offset")
            self._seen(_offset(moment.utcoffset() or timedelta()))
            return moment.astimezone(UTC)
        self.naive = True
        self._seen("none")
        return self._local(moment, last)

    def _at_some_hour(self, stamp: Stamp) -> datetime:
        """A stamp that names a day alone, at the hour that was answered."""
        if stamp.has_hour:
            return stamp.moment
        if not any(q.code == "no-hour" for q in self.questions):
            text = "Some stamps name a day and no hour. At which hour was it read?"
            self.questions.append(Question(code="no-hour", text=text, answers=[Answer(code="midnight", title="At midnight, when the day begins"), Answer(code="noon", title="At noon")]))  # fmt: skip
        return stamp.moment + timedelta(hours=NO_HOUR.get(self.how.answers.get("no-hour", ""), 0.0))

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

    def note_gaps(self, moments: list[datetime | None]) -> None:
        """Say where the file has gaps."""
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
                f"{int(wide.sum())} gap{'s' if wide.sum() > 1 else ''} in the file, the longest of {_long(float(pauses[k]))} "
                f"from {since:%d %b %H:%M}; nothing is filled in."
            )

    def clock(self) -> str:
        """What the stamps go by, in words."""
        kinds = set(self.kinds) | ({f"{CLOCKS[self.how.clock]} ({self.zone.key})"} if self.naive else set())
        moved = f", moved by {self.how.shift_minutes:+g} min" if self.how.shift_minutes else ""
        return (" and ".join(sorted(kinds)) or "unknown") + moved


def _long(seconds: float) -> str:
    """A pause in the unit that people would say it in."""
    if seconds < 3 * 3600.0:
        return f"{seconds / 60.0:.0f} min"
    return f"{seconds / 3600.0:.0f} h" if seconds < 2 * 86_400.0 else f"{seconds / 86_400.0:.0f} days"


def _usual_pause(moments: list[datetime | None]) -> timedelta:
    seconds = np.array([m.timestamp() for m in moments if m is not None])
    pauses = np.diff(seconds)
    return timedelta(seconds=float(np.median(pauses[pauses > 0]))) if (pauses > 0).any() else timedelta(minutes=1)


def _standard_offset(zone: ZoneInfo, moment: datetime) -> timedelta:
    aware = moment.replace(tzinfo=zone)
    return (aware.utcoffset() or timedelta()) - (aware.dst() or timedelta())


def _offset(offset: timedelta) -> str:
    minutes = int(offset.total_seconds() // 60)
    return f"{'-' if minutes < 0 else '+'}{abs(minutes) // 60:02d}:{abs(minutes) % 60:02d}"
