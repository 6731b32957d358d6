"""Stamps of a file in their order: zone, summer time, jumps of the clock, gaps."""

from __future__ import annotations

import math
from datetime import UTC, datetime, timedelta
from itertools import pairwise
from zoneinfo import ZoneInfo

import numpy as np

from drylamp.core.checks import InputProblem, within_days
from drylamp.formats.readings.preview import CLOCKS, YES, Answer, Question, Reading, RefusedRow

TIME_WORDS = ("time", "date", "stamp", "minutes", "hora", "zeit")
DAY_FIRST = ("%d/%m/%Y %H:%M:%S", "%d/%m/%Y %H:%M", "%d.%m.%Y %H:%M:%S", "%d.%m.%Y %H:%M")
GAP_TIMES, GAP_LEAST_S = 4.0, 300.0

SKIPPED = "Some stamps fall into the hour that the site's clock skipped; they were taken as standard time."


class Times:
    """Reads the stamps of one file."""

    def __init__(self, zone: ZoneInfo, start: datetime, how: Reading, decimal_comma: bool) -> None:
        self.zone, self.start, self.how, self.decimal_comma = zone, start, how, decimal_comma
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
        if ordered:
            moments = self._mend_jumps([number for number, _ in cells], moments)
            self._note_gaps(moments)
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
        """What the stamps go by, in words."""
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
