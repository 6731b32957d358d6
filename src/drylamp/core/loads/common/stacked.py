"""A stack that a stream of air passes: what a build sees of it, and what the build offers it."""

from __future__ import annotations

from dataclasses import dataclass
from typing import TYPE_CHECKING

if TYPE_CHECKING:
    from drylamp.core.arrays import Array
    from drylamp.core.sky.weather import Weather

CHAMBER, CHAMBER_VAPOUR, ROUND = "chamber", "chamber-vapour", "round"
"""Nodes of the air that comes to a stack, wherever there is one, and the way that it goes round."""
ROOF, SHADES = "cover-1", "baffle"
"""Nodes of the inner sheet of the roof over it, and of what keeps the sun off it where there is something."""


@dataclass(frozen=True)
class Stack:
    """What a build sees of a stack.

    Attributes:
        long_m: its longest piece
        deep_m, high_m: along the air, and with all its layers
        open_m2: between its layers, across the air
        gap_m: of one opening between two layers
        faces_m2: that the air passes
        top_m2: seen from above
        past_share: air that goes past it
        wet_kg, m3: as it goes in
    """

    long_m: float
    deep_m: float
    high_m: float
    open_m2: float
    gap_m: float
    faces_m2: float
    top_m2: float
    past_share: float
    wet_kg: float
    m3: float


@dataclass(frozen=True)
class Layer:
    """One layer of a stack as it is drawn: its node and title, the thickness and width of its boards."""

    node: str
    title: str
    thick_m: float
    wide_m: float


@dataclass(frozen=True)
class StackPlace:
    """What a build offers a stack.

    Attributes:
        air, vapour: nodes of the air that comes to it
        path: the flow path of that air
        full_w_k: what the path carries at full speed, W/K; 0 without a fan
        full_m_s: how fast that goes between the layers; none: as it follows from the openings
    """

    air: str
    vapour: str
    path: str
    full_w_k: float
    full_m_s: float


@dataclass(frozen=True)
class Left:
    """What a run did to boards: moisture of their cells and their warmth at its edges, by node, and the weather that it had."""

    cells: dict[str, Array]
    celsius: dict[str, Array]
    weather: Weather
