"""The stack outside that a charge is held against: its own sawing date, thickness and place, and what the meter reads on it."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Annotated

from pydantic import Field, JsonValue

from drylamp.core.builds.sheet import Around, Sheet, SheetLine, SheetPage, begin_with
from drylamp.core.checks import Count, Day, Model, Number, require
from drylamp.core.forms import asked
from drylamp.core.loads.lumber.group import GREEN, MOST_GROUPS, GreenStart
from drylamp.core.loads.lumber.outcome import percent
from drylamp.core.loads.lumber.outside import OLDEST_DAYS
from drylamp.core.loads.lumber.sheets.followed import charge_of, known_group
from drylamp.core.loads.lumber.spec import SHELTERS, Shelter
from drylamp.core.text import amount


class StackRead(Model):
    """A reading of the stack outside."""

    on: Day = Field(title="Read on")
    group: Annotated[Count, Field(ge=1, le=MOST_GROUPS)] = Field(default=1, title="Beside group")
    mc: Annotated[Number, Field(ge=0.02, le=2.6)] = Field(title="Stack is at", description="Put right for its setting")
    sawn_on: Day = Field(title="Its boards were sawn on")
    thickness_mm: Annotated[Number, Field(ge=6, le=150)] = Field(title="They are thick")
    stands: Shelter = Field(default="roof", title="It stands", json_schema_extra=asked(options=SHELTERS))
    start: GreenStart = Field(default="green-heart", title="Sawn", json_schema_extra=asked(options=GREEN))


def _page(rows: Sequence[StackRead], around: Around) -> SheetPage:
    lines = [
        SheetLine(cells=[f"{row.on:%d %b}", percent(row.mc), f"{row.sawn_on:%d %b %Y}", amount(row.thickness_mm, "length_mm"), SHELTERS[row.stands]])
        for row in rows
    ]  # fmt: skip
    words = ["What remains of the difference, once age and thickness are taken off, stands on the verdict."] if rows else []  # fmt: skip
    return SheetPage(columns=["read", "stack at", "sawn", "thick", "stands"], lines=lines, words=words)


def _check(row: StackRead, rows: Sequence[StackRead], around: Around) -> None:
    known_group(row.group, around)
    require(row.sawn_on < row.on, "sawn_on", f"{row.sawn_on} was given; allowed is a day before it was read, {row.on}")
    days = (row.on - row.sawn_on).days
    require(days <= OLDEST_DAYS, "sawn_on", f"{row.sawn_on} is {days} days before it was read; up to three years are reckoned")  # fmt: skip


def _fresh(rows: Sequence[StackRead], around: Around) -> dict[str, JsonValue]:
    thick_mm, last = charge_of(around).groups[0].thickness_mm, rows[-1] if rows else None
    blank = begin_with(StackRead, around.today, last, "group", "sawn_on", "thickness_mm", "stands", "start")
    return blank if last else {**blank, "thickness_mm": thick_mm, "sawn_on": around.today.isoformat()}


STACK_READ: Sheet[StackRead] = Sheet(
    "stack-read", "The stack outside", "trial", "The control: the same wood left outside, with when it was sawn and how thick it is.", StackRead, _page, _fresh, _check,
)  # fmt: skip
