"""Boards looked at one by one: checks, cup, twist, bow, bleaching, stain; and what painted ends, weights and place were worth."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from typing import Annotated

import numpy as np
from pydantic import Field
from scipy.special import stdtrit

from drylamp.core.arrays import Array
from drylamp.core.builds.sheet import Around, Sheet, SheetLine, SheetPage, begin_with
from drylamp.core.checks import Day, Model, Name, Number, YesNo, require
from drylamp.core.forms import asked
from drylamp.core.loads.lumber.outcome import percent
from drylamp.core.loads.lumber.quality import cup_mm, end_loss_mm, sag_mm
from drylamp.core.loads.lumber.sheets.followed import FOLLOWED, LIES, Followed, charge_of, group_of
from drylamp.core.text import amount, counted

Mm = Annotated[Number, Field(ge=0, le=5000)]
LEAST_EACH = 3
"""Boards on either side, below which nothing is compared."""
TAPE_MM = 2.0
"""A length of check is read to this; common practice, no source."""


class Inspected(Model):
    """One board, looked at."""

    board: Name = Field(title="Board")
    on: Day = Field(title="Looked at on")
    end_check_mm: Mm = Field(default=0.0, title="Longest end check")
    surface_check_mm: Mm = Field(default=0.0, title="Checks on its faces", description="Their lengths together")
    cup_mm: Annotated[Number, Field(ge=0, le=100)] = Field(default=0.0, title="Cup")
    twist_mm: Annotated[Number, Field(ge=0, le=500)] = Field(default=0.0, title="Twist")
    bow_mm: Annotated[Number, Field(ge=0, le=500)] = Field(default=0.0, title="Bow")
    bleached: YesNo = Field(default=False, title="bleached")
    stained: YesNo = Field(default=False, title="stained")
    photo: int | None = Field(
        default=None, ge=1, title="Photo", json_schema_extra=asked(table="photos"), description="One of this trial's"
    )
    words: Annotated[str, Field(max_length=300)] = Field(default="", title="Note")


@dataclass(frozen=True)
class Worth:
    """Two sides of one question: means, the difference with half its 95 % interval, and how many boards on each side."""

    with_it: float
    without: float
    difference: float
    doubt: float
    boards: tuple[int, int]

    @property
    def real(self) -> bool:
        """Whether it exceeds its doubt."""
        return abs(self.difference) > self.doubt


def worth(with_it: Array, without: Array, least: float) -> Worth:
    """Difference of two means with Welch's interval (Welch 1947), and what the tape can tell at least."""
    counts = len(with_it), len(without)
    squares = [float(np.var(side, ddof=1)) / len(side) for side in (with_it, without)]
    error = float(np.sqrt(sum(squares)))
    freedom = sum(squares) ** 2 / max(
        sum(square**2 / (count - 1) for square, count in zip(squares, counts, strict=True)), 1e-12
    )
    half = float(stdtrit(max(freedom, 1.0), 0.975)) * error if error > 0.0 else 0.0
    means = float(np.mean(with_it)), float(np.mean(without))
    return Worth(*means, means[1] - means[0], float(np.hypot(half, least)), counts)


def newest(rows: Sequence[Inspected]) -> dict[str, Inspected]:
    """Each board as it was seen last."""
    out: dict[str, Inspected] = {}
    for row in sorted(rows, key=lambda row: row.on):
        out[row.board] = row
    return out


@dataclass(frozen=True)
class Question:
    """What something was worth: the field that tells, in words, and the boards with it and without."""

    field: str
    measured: str
    with_it: str
    without: str
    has_it: Callable[[Followed], bool]


PAINT = Question("end_check_mm", "Longest end check", "painted ends", "bare ones", lambda row: row.ends != "none")
QUESTIONS = (
    PAINT,
    Question("cup_mm", "Cup", "boards under weights", "the others", lambda row: row.weighted),
    Question("surface_check_mm", "Checks on the faces", "boards in the top layers", "the others", lambda row: row.lies == "top"),
)  # fmt: skip


def compared(rows: Sequence[Inspected], around: Around, question: Question) -> Worth | None:
    """What one thing was worth; none where either side has too few boards."""
    seen, followed = newest(rows), {row.board: row for row in around.rows(FOLLOWED)}
    sides = [
        np.array([getattr(row, question.field) for board, row in seen.items() if board in followed and question.has_it(followed[board]) is side])
        for side in (True, False)
    ]  # fmt: skip
    return None if min(map(len, sides)) < LEAST_EACH else worth(sides[0], sides[1], TAPE_MM)


def _compared_words(rows: Sequence[Inspected], around: Around) -> list[str]:
    said = []
    for question in QUESTIONS:
        found = compared(rows, around, question)
        if found is None:
            continue
        sides = f"{question.measured}: {question.with_it} {amount(round(found.with_it), 'length_mm')} ({found.boards[0]} boards), {question.without} {amount(round(found.without), 'length_mm')} ({found.boards[1]})"
        told = (
            f"a difference of {amount(found.difference, 'length_mm', found.doubt)}, real"
            if found.real
            else f"{amount(found.difference, 'length_mm', found.doubt)}: too small to tell by so few boards"
        )
        said.append(f"{sides}: {told}.")
    return said


def _against_forecast(rows: Sequence[Inspected], around: Around) -> list[str]:
    """Bare ends against what was expected of them at the published rate."""
    followed = {row.board: row for row in around.rows(FOLLOWED)}
    bare = [row for board, row in newest(rows).items() if board in followed and followed[board].ends == "none"]
    if len(bare) < LEAST_EACH:
        return []
    expected = float(np.mean([end_loss_mm("none", group_of(row.board, around), 1.0) for row in bare]))
    seen = float(np.mean([row.end_check_mm for row in bare]))
    words = "faster than it bears" if seen > 1.25 * expected else "slower than that" if seen < 0.75 * expected else "as fast"  # fmt: skip
    return [
        f"Bare ends were to lose about {amount(round(expected), 'length_mm')} at the published rate (from memory), they lost {amount(round(seen), 'length_mm')}: the ends dried {words}."
    ]


def _shapes(rows: Sequence[Inspected], around: Around) -> list[str]:
    """Cup and bow against what weights and sticks were to leave of them."""
    seen, load = newest(rows), charge_of(around)
    if len(seen) < LEAST_EACH:
        return []
    groups = [group_of(board, around) for board in seen]
    cup, sag = (
        float(np.mean([cup_mm(load, group, group.target_mc) for group in groups])),
        float(np.mean([sag_mm(load, group) for group in groups])),
    )
    cupped, bowed = (float(np.mean([getattr(row, name) for row in seen.values()])) for name in ("cup_mm", "bow_mm"))
    told = f"Cup {amount(round(cupped, 1), 'length_mm')} where {amount(round(cup, 1), 'length_mm')} were to be expected when dry under these weights"
    more = f"bow {amount(round(bowed, 1), 'length_mm')} where {amount(round(sag, 1), 'length_mm')} of sag between sticks {amount(load.sticker_apart_m, 'length')} apart were"
    worse = (
        " Sticks nearer to one another, one over the other, would help the bow." if bowed > sag + 3.0 * TAPE_MM else ""
    )
    return [f"{told}; {more} (orders of size, from memory).{worse}"]


def _new_since(rows: Sequence[Inspected]) -> list[str]:
    """What grew between the last two days of looking."""
    days = sorted({row.on for row in rows})
    if len(days) < 2:
        return []
    before, last = days[-2:]
    grew = [
        row.board
        for row in rows
        if row.on == last
        and any(old.board == row.board and old.on == before and _worse(row, old) for old in rows)
    ]  # fmt: skip
    if not grew:
        return [f"Nothing grew between {before:%d %b} and {last:%d %b}."]
    return [f"Between {before:%d %b} and {last:%d %b} checks grew in {', '.join(grew)}: shut the vents by half until that stops, and cover their ends."]  # fmt: skip


def _worse(now: Inspected, before: Inspected) -> bool:
    return now.end_check_mm > before.end_check_mm + TAPE_MM or now.surface_check_mm > before.surface_check_mm + TAPE_MM


def _page(rows: Sequence[Inspected], around: Around) -> SheetPage:
    def mm(value: float) -> str:
        return amount(value, "length_mm") if value > 0.0 else "none"

    lines = [
        SheetLine(
            cells=[
                row.board, f"{row.on:%d %b}", mm(row.end_check_mm), mm(row.surface_check_mm), f"{mm(row.cup_mm)}, {mm(row.twist_mm)}, {mm(row.bow_mm)}",
                ", ".join(word for word, seen in (("bleached", row.bleached), ("stained", row.stained)) if seen) or "–", row.words,
            ],
            warning=_unlike(row, around),
        )
        for row in rows
    ]  # fmt: skip
    words = [
        *_new_since(rows),
        *_compared_words(rows, around),
        *_against_forecast(rows, around),
        *_shapes(rows, around),
    ]
    if rows:
        sound = [board for board, row in newest(rows).items() if row.end_check_mm + row.surface_check_mm < TAPE_MM]
        words.append(f"{len(sound)} of {counted(len(newest(rows)), 'board')} without a check.")
    return SheetPage(columns=["board", "looked at", "end check", "face checks", "cup, twist, bow", "colour", "note"], lines=lines, words=words)  # fmt: skip


def _unlike(row: Inspected, around: Around) -> str:
    group = group_of(row.board, around)
    half = 1000.0 * group.length_m / 2.0
    if row.end_check_mm > half:
        return f"an end check longer than half the board, {amount(half, 'length_mm')}: split, it counts as two"
    return ""


def _check(row: Inspected, rows: Sequence[Inspected], around: Around) -> None:
    length = 1000.0 * group_of(row.board, around).length_m
    require(
        row.end_check_mm <= length, "end_check_mm",
        f"{amount(row.end_check_mm, 'length_mm')} was given; the board is {amount(length, 'length_mm')} long",
    )  # fmt: skip


def paint_worth(rows: Sequence[Inspected], around: Around) -> Worth | None:
    """What painted ends were worth."""
    return compared(rows, around, PAINT)


def share_kept(found: Worth, around: Around) -> str:
    """What that comes to in wood: both ends of each board."""
    charge = charge_of(around)
    m3 = sum(group.wood_m3 * 2.0 * found.difference / 1000.0 / group.length_m for group in charge.numbered)
    return f"over the whole charge {amount(m3, 'timber')} of {amount(charge.wood_m3, 'timber')}, {percent(m3 / charge.wood_m3)}"


INSPECTED: Sheet[Inspected] = Sheet(
    "inspected", "Boards looked at", "trial", f"After a windy week, before the vents are opened, when they come out: the same boards, those {LIES['top']} first.", Inspected, _page,
    lambda rows, around: begin_with(Inspected, around.today), _check,
)  # fmt: skip
