"""A tank on the paper: its layers in the colour of their warmth, its lagging round them."""

from __future__ import annotations

import math

from drylamp.core.common.drawing import Arrow, Beside, Dimension, Point, Shape
from drylamp.core.common.wall import wall_thickness_m
from drylamp.core.loads.common.loop.section import PART, box, pipes_drawn, store_right_m
from drylamp.core.loads.tank.spec import STORE, TAPPED, LoopTank

TURNS = 8


def beside(tank: LoopTank, inlet: Point, outlet: Point, left_m: float) -> Beside:
    """To the left of what warms it, at its height."""
    wide, thick = 2.0 * math.sqrt(tank.floor_m2 / math.pi), wall_thickness_m(tank.lagging)
    right = store_right_m(left_m, tank.tall_m) - thick
    left, low = right - wide, inlet[1] + tank.above_m
    high, each = low + tank.tall_m, tank.tall_m / tank.layers
    shapes = [
        Shape(part=PART, label="round the tank", ink="foam", outline=box(left - thick, low - thick, right + thick, high + thick)),
        *(
            Shape(part=PART, label=title, ink="water", node=name, outline=box(left, high - (k + 1) * each, right, high - k * each))
            for k, (name, title) in enumerate(zip(tank.filling.names, tank.filling.titles, strict=True))
        ),
    ]  # fmt: skip
    if tank.exchanger is not None:
        turns = [
            (
                left + (0.2 if k % 2 else 0.8) * wide,
                low + tank.ends.takes_m + (tank.ends.gives_m - tank.ends.takes_m) * k / TURNS,
            )
            for k in range(TURNS + 1)
        ]
        shapes.append(Shape(part=PART, label="coil in the tank", ink="pipe", outline=turns, closed=False))
    takes, gives = (right, low + tank.ends.takes_m), (right, low + tank.ends.gives_m)
    arrows = [
        Arrow(account=STORE, at=(left - thick, (low + high) / 2.0), toward=(-1.0, 0.0)),
        Arrow(account=TAPPED, at=(left + wide / 2.0, high + thick), toward=(0.0, 1.0)),
    ]
    away = left - thick - 0.08
    dimension = Dimension(label="water in the tank", start=(away, low), end=(away, high), value_m=tank.tall_m)
    return Beside([*shapes, *pipes_drawn(tank, inlet, outlet, takes, gives, left_m)], arrows, [dimension])
