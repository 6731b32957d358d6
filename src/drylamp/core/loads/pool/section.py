"""A tub or pool on the paper: its water, walls and floor, what lies on it, and where its heat goes."""

from __future__ import annotations

import math

from drylamp.core.common.drawing import Arrow, Beside, Dimension, Point, Shape
from drylamp.core.common.wall import wall_thickness_m
from drylamp.core.loads.common.filling import TOP
from drylamp.core.loads.common.loop.section import PART, box, pipes_drawn, store_right_m
from drylamp.core.loads.pool.spec import AS_VAPOUR, COVERED, TO_AIR, TO_GROUND, TO_SKY, Pool

RIM_M, LEAST_WALL_M, FILM_M = 0.08, 0.02, 0.02


def beside(pool: Pool, inlet: Point, outlet: Point, left_m: float) -> Beside:
    """To the left of what warms it, at its height."""
    wide, thick = 2.0 * math.sqrt(pool.surface_m2 / math.pi), max(wall_thickness_m(pool.wall), LEAST_WALL_M)
    right = store_right_m(left_m, wide) - thick
    left, low = right - wide, inlet[1] + pool.above_m
    high = low + pool.depth_m
    rim = high + RIM_M
    walls: list[Point] = [
        (left - thick, rim), (left - thick, low - thick), (right + thick, low - thick), (right + thick, rim), (right, rim), (right, low), (left, low), (left, rim),
    ]  # fmt: skip
    shapes = [
        Shape(part=PART, label="walls and floor", ink="wall", outline=walls),
        Shape(part=PART, label="water", ink="water", node=TOP, outline=box(left, low, right, high)),
    ]
    if pool.on_water is not None:
        cover = box(left, high, right, high + FILM_M)
        shapes.append(
            Shape(part=PART, label=pool.on_water.row.title.lower(), ink="glass", outline=cover, runs=f"!{COVERED}")
        )
    takes, gives = (right, low + pool.ends.takes_m), (right, low + pool.ends.gives_m)
    arrows = [
        Arrow(account=AS_VAPOUR, at=(left + 0.35 * wide, high + FILM_M), toward=(-0.35, 0.94)),
        Arrow(account=TO_SKY, at=(left + 0.8 * wide, high + FILM_M), toward=(0.35, 0.94)),
        Arrow(account=TO_AIR, at=(left - thick, rim), toward=(-0.94, 0.35)),
        Arrow(account=TO_GROUND, at=(left + 0.5 * wide, low - thick), toward=(0.0, -1.0)),
    ]
    away = left - thick - 0.08
    dimension = Dimension(
        label="depth of the water", start=(away, low), end=(away, high), value_m=round(pool.depth_m, 2)
    )
    return Beside([*shapes, *pipes_drawn(pool, inlet, outlet, takes, gives, left_m)], arrows, [dimension])
