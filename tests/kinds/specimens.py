"""A specimen of every kind and of every load: what its own folder offers to begin with."""

from __future__ import annotations

from drylamp.core.builds.build import Build
from drylamp.core.builds.registry import KINDS
from drylamp.core.builds.starters import starters
from drylamp.core.loads.load import Load

NAMES = list(KINDS)


def specimen(kind: str) -> tuple[Build, Load | None]:
    """A kind's first starter, on a spot north of the equator."""
    first = starters()[kind][0]
    return first.spec, first.load


def loads() -> dict[str, Load]:
    """One of each load that any starter begins with."""
    every = [starter.load for rows in starters().values() for starter in rows]
    return {load.kind: load for load in every if load is not None}
