"""How things are drawn in a section: boxes that stand in the middle or lie along the floor."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

DrawnAs = Literal["water", "metal", "pale", "glass-line"]


@dataclass(frozen=True)
class Outline:
    """One thing in the section.

    Attributes:
        ink, title: what it is made of, and its name
        wide_m, high_m: its size along the cut and square to the floor
        up: place of the middle of what lies, as a share of the floor from its lower edge; none: it stands in the middle
        closed: whether its top is shut
        open_foot: whether its foot is open, as under a bowl
    """

    ink: DrawnAs
    title: str
    wide_m: float
    high_m: float
    up: float | None = None
    closed: bool = True
    open_foot: bool = False
