"""A loop on the paper: pipes there and back, and the pump between."""

from __future__ import annotations

import math

from drylamp.core.common.drawing import Point, Shape
from drylamp.core.loads.common.loop.ends import LOOP
from drylamp.core.loads.common.loop.spec import Looped

GAP_M, UNDER_M, PUMP_M, CORNERS = 0.35, 0.12, 0.05, 14
PART = "load"


def store_right_m(left_m: float, size_m: float) -> float:
    """Where the right side of a store stands, left of what reaches to ``left_m``, with room for pipes that grows with the drawing."""
    return left_m - max(GAP_M, 0.25 * size_m)


def pipes_drawn(loop: Looped, inlet: Point, outlet: Point, takes: Point, gives: Point, left_m: float) -> list[Shape]:
    """From the store under what the sun heats to its lower edge, and from its upper edge back; the pump on the way there."""
    right = (takes[0] + left_m) / 2.0
    low = min(inlet[1] - UNDER_M, takes[1])
    there = [takes, (right, takes[1]), (right, low), (inlet[0] + UNDER_M, low), (inlet[0] + UNDER_M, inlet[1]), inlet]
    nearer = takes[0] + 0.3 * (left_m - takes[0])
    back = [outlet, (nearer, outlet[1]), (nearer, gives[1]), gives]
    shapes = [
        Shape(part=PART, label="pipe from the store", ink="pipe", outline=there, closed=False),
        Shape(part=PART, label="pipe back to the store", ink="pipe", outline=back, closed=False),
    ]
    if loop.pump is not None:
        radius = max(PUMP_M, 0.12 * (left_m - takes[0]))
        turns = [2.0 * math.pi * c / CORNERS for c in range(CORNERS)]
        ring = [(right + radius * math.cos(a), takes[1] + radius * math.sin(a)) for a in turns]
        shapes.append(Shape(part=PART, label="pump", ink="pipe", outline=ring, runs=LOOP))
    return shapes


def box(left: float, low: float, right: float, high: float) -> list[Point]:
    """An upright rectangle."""
    return [(left, low), (right, low), (right, high), (left, high)]
