"""What is said of builds that hold a pot in the open air: a bag or a bowl over it."""

from __future__ import annotations

from collections.abc import Iterator

from drylamp.core.advice.context import AdviceContext
from drylamp.core.advice.entries import Caution, Change, Option, Rule, School, Seen, flag
from drylamp.core.builds.build import Build
from drylamp.core.loads.load import Load
from drylamp.core.outcome.flag import Flag

CLOSE_M, ROOMY_M = (0.03, 0.04), (0.04, 0.05)
"""Room left round a pot under bag or bowl: in diameter, and in height."""


def _enveloped(build: Build, load: Load | None) -> Iterator[Change]:
    if load is None or load.envelope is not None:
        return
    for over in load.enveloped(*ROOMY_M):
        yield Change(f"{over.title} over the pot", "load", build, over.load, over.price)


def _envelopes(context: AdviceContext, build: Build, load: Load | None) -> list[Option]:
    tried = [] if load is None else load.enveloped(*CLOSE_M)
    if load is None or not tried:
        return []
    bare = Option("nothing over the pot", build, load.bare())
    return [bare, *(Option(over.title, build, over.load) for over in tried)]


def _cook(seen: Seen, build: Build, load: Load | None) -> list[Flag]:
    return flag(
        "note", "aim",
        "The cook needs shade, a hat and water too. An adult handles hot parts and mirrors; children watch from the shady side.",
    )  # fmt: skip


ENVELOPED: Rule[Build, Load | None] = Rule("load", _enveloped, 0.1)
ENVELOPES: School[Build, Load | None] = School("envelope", "Bag, bowl or bare?", _envelopes)
COOK: Caution[Build, Load | None] = Caution("cook", _cook)
