"""Boards that are followed one by one: which group each is of, where it lies, how its ends are kept."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Annotated, Literal, cast

from pydantic import Field

from drylamp.core.builds.sheet import Around, Sheet, SheetLine, SheetPage, begin_with
from drylamp.core.checks import Count, Model, Name, YesNo, require
from drylamp.core.forms import asked
from drylamp.core.loads.lumber.group import MOST_GROUPS, BoardGroup
from drylamp.core.loads.lumber.spec import END_PAINTS, EndPaint, LumberCharge
from drylamp.core.text import capital, counted

Lies = Literal["top", "middle", "bottom"]
LIES = {"top": "in the top layers", "middle": "in the middle", "bottom": "near the floor"}


class Followed(Model):
    """One board."""

    board: Name = Field(title="Board", description="Its number or mark")
    group: Annotated[Count, Field(ge=1, le=MOST_GROUPS)] = Field(default=1, title="Of group")
    ends: EndPaint = Field(default="none", title="Its ends", json_schema_extra=asked(options=END_PAINTS))
    lies: Lies = Field(default="middle", title="Lies", json_schema_extra=asked(options=LIES))
    weighted: YesNo = Field(default=False, title="under weights")


def charge_of(around: Around) -> LumberCharge:
    """What the trial is of."""
    return cast(LumberCharge, around.load)


def group_of(board: str, around: Around) -> BoardGroup:
    """The group that a board is of; the first where nobody said."""
    charge = charge_of(around)
    number = next((row.group for row in around.rows(FOLLOWED) if row.board == board), 1)
    return charge.of_number(number) or charge.numbered[0]


def known_group(number: int, around: Around) -> None:
    """Refuse a group that the charge does not have.

    Raises
    ------
    InputProblem
        there is none of that number.
    """
    charge = charge_of(around)
    said = ", ".join(f"{group.number} ({group.name})" for group in charge.numbered)
    require(charge.of_number(number) is not None, "group", f"{number} was given; this charge has {said}")


def _check(row: Followed, rows: Sequence[Followed], around: Around) -> None:
    known_group(row.group, around)
    require(
        all(other.board != row.board for other in rows), "board", f"'{row.board}' is followed already; give each board a mark of its own, or change its row"
    )  # fmt: skip


def _page(rows: Sequence[Followed], around: Around) -> SheetPage:
    names = {group.number: group.title for group in charge_of(around).numbered}
    lines = [
        SheetLine(cells=[row.board, capital(names.get(row.group, "–")), END_PAINTS[row.ends], LIES[row.lies] + (", under weights" if row.weighted else "")])
        for row in rows
    ]  # fmt: skip
    painted = sum(row.ends != "none" for row in rows)
    words = []
    if rows and 0 < painted < len(rows):
        words = [
            f"{painted} of {counted(len(rows), 'board')} have their ends painted: a fair trial of what the paint is worth, if they were chosen by lot and not by looks."
        ]
    return SheetPage(columns=["board", "of", "ends", "lies"], lines=lines, words=words)


FOLLOWED: Sheet[Followed] = Sheet(
    "followed", "Boards that are followed", "trial", "A handful from each group, the wettest and the widest among them: each with a mark on its end.", Followed, _page,
    lambda rows, around: begin_with(Followed, around.today, rows[-1] if rows else None, "group", "ends", "lies", "weighted"), _check,
)  # fmt: skip
