"""What of the pile is set aside for a build: no other counts on it until that build is put away."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterable, Sequence
from typing import Annotated

from pydantic import Field

from drylamp.core.builds.common.pile.sheet import Salvaged
from drylamp.core.builds.sheet import Around, Sheet, SheetLine, SheetPage, begin_with
from drylamp.core.checks import Count, Model, Name


class Claim(Model):
    """So many pieces of one row of the pile."""

    name: Name = Field(title="What it is", description="As it is called on the pile")
    count: Annotated[Count, Field(ge=1, le=10000)] = Field(default=1, title="How many")


def unclaimed(pile: Iterable[Salvaged], claims: Iterable[Claim]) -> list[Salvaged]:
    """The pile without what is set aside; rows of one name give in their order."""
    wanted = Counter[str]()
    for claim in claims:
        wanted[claim.name] += claim.count
    out = list[Salvaged]()
    for row in pile:
        given = min(row.count, wanted[row.name])
        wanted[row.name] -= given
        if row.count > given:
            out.append(row.model_copy(update={"count": row.count - given}))
    return out


def _page(rows: Sequence[Claim], around: Around) -> SheetPage:
    lines = [SheetLine(cells=[row.name, str(row.count)]) for row in rows]
    words = ["No other build counts on these until this one is put away."] if rows else []
    return SheetPage(columns=["what", "how many"], lines=lines, words=words)


CLAIMS: Sheet[Claim] = Sheet(
    "claims", "Set aside of the pile", "build", "What of the salvage pile is kept for this build.", Claim, _page,
    lambda rows, around: begin_with(Claim, around.today),
)  # fmt: skip
