"""Where a load lies that is laid out on several levels in a stream of air: what a build offers of each, and what a load lays there."""

from __future__ import annotations

from dataclasses import dataclass

INTO = "under-trays"
"""Node of the air before the first level, wherever there are several."""


@dataclass(frozen=True)
class Shelf:
    """A level that air passes, the first that it meets being number 0.

    Attributes:
        air, vapour: its nodes
        area_m2: that may be laid on
        path: the flow path of its air
        speed_m_s: how fast that goes past, for each W/K that the path carries
    """

    air: str
    vapour: str
    area_m2: float
    path: str
    speed_m_s: float


@dataclass(frozen=True)
class Laid:
    """What lies on a level.

    Attributes:
        node: its node
        shelf: number of the level
        kg: as laid
        covers_m2: that it covers, seen from above
        absorptance, emittance: of it
    """

    node: str
    shelf: int
    kg: float
    covers_m2: float
    absorptance: float
    emittance: float
