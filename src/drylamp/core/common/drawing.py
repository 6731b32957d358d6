"""What a section drawing is made of: outlines to scale, traced rays, and places for arrows of heat.

Coordinates are metres in the plane that cuts the build in two along the way it faces: x to the way it faces, y up.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from drylamp.core.checks import Model, YesNo

Point = tuple[float, float]
Ink = Literal[
    "wall",
    "foam",
    "glass",
    "mirror",
    "black",
    "water",
    "metal",
    "lining",
    "ground",
    "beyond",
    "matt",
    "glass-line",
    "pale",
    "strainer",
    "pipe",
]


class Shape(Model):
    """One part's outline. ``part`` names the part that a click opens; closed outlines are filled by their ink, and carry their caption.

    What is told by its warmth names its node; it is tinted by the temperature of the hour. A fan or pump names its path, and is filled while it runs.
    What is painted says which share of the sun its paint takes up: so dark it is drawn, by day and at dusk.
    """

    part: str
    label: str
    ink: Ink
    outline: list[Point]
    closed: YesNo = True
    caption: str = ""
    node: str = ""
    runs: str = ""
    takes_up: float | None = None


class Ray(Model):
    """One traced ray from the sun to where it lands."""

    points: list[Point]
    by_mirror: YesNo
    lands_on: str


class Arrow(Model):
    """Where an arrow of heat starts and which way it points; its width is the ledger's watts for ``account``."""

    account: str
    at: Point
    toward: Point


class Dimension(Model):
    """A measured distance to write beside the drawing, m."""

    label: str
    start: Point
    end: Point
    value_m: float


@dataclass(frozen=True)
class Beside:
    """What one of two that are joined has drawn, as a load beside its build."""

    shapes: list[Shape]
    arrows: list[Arrow]
    dimensions: list[Dimension]


class Handle(Model):
    """A grip that turns one number of the build: where it sits and what it turns about.

    ``sense`` is 1 where the number grows as the grip goes anticlockwise on the paper, as a mirror opens, and −1 where it
    grows clockwise, as an opening's low edge swings down. ``per_deg`` is what the field changes by for a degree: 1 where it holds the angle itself.
    """

    field: str
    title: str
    at: Point
    pivot: Point
    low: float
    high: float
    value: float
    unit: Literal["deg"]
    sense: Literal[-1, 1] = 1
    per_deg: float = 1.0


class Section(Model):
    """The whole drawing."""

    shapes: list[Shape]
    rays: list[Ray]
    arrows: list[Arrow]
    dimensions: list[Dimension]
    handles: list[Handle]
    sun_toward: Point | None
    extent: tuple[Point, Point]
