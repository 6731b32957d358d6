"""What was done of a day's plan: a build's sheet, written by ticking."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Annotated

from pydantic import Field

from drylamp.core.builds.sheet import Around, Sheet, SheetLine, SheetPage, begin_with
from drylamp.core.checks import Day, Hour, Model


class Done(Model):
    """One action of a plan, done."""

    on: Day = Field(title="On")
    planned: Hour = Field(default="12:00", title="Planned at")
    what: Annotated[str, Field(min_length=1, max_length=300)] = Field(title="What")


def _page(rows: Sequence[Done], around: Around) -> SheetPage:
    lines = [SheetLine(cells=[f"{row.on:%d %b %Y}", row.planned, row.what]) for row in rows]
    return SheetPage(columns=["on", "planned at", "done"], lines=lines)


DONE: Sheet[Done] = Sheet(
    "done", "Done of the plan", "build", "What was ticked in the yard; in a running trial it stands as a note too.", Done, _page,
    lambda rows, around: begin_with(Done, around.today),
)  # fmt: skip
