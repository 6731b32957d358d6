"""Heat that goes into the ground from something warm that stands on it or in it."""

from __future__ import annotations

import math

from drylamp.core.sky.ground import SOIL_W_MK

INSIDE_M2K_W = 0.01
"""Film of water on its floor and walls: nothing beside soil; from memory."""


def floor_w_m2k(area_m2: float, round_m: float, wall_m2k_w: float) -> float:
    """Loss of a floor on the ground by square metre and kelvin, averaged over it.

    Parameters
    ----------
    area_m2, round_m
        floor, and how far it is round it
    wall_m2k_w
        resistance of what lies between water and soil

    References
    ----------
    EN ISO 13370 (from memory): B = A/(P/2), d = λ R; U = 2λ/(πB + d) ln(πB/d + 1) where d < B, else λ/(0.457 B + d).
    """
    wide, thick = area_m2 / (round_m / 2.0), SOIL_W_MK * (wall_m2k_w + INSIDE_M2K_W)
    if thick < wide:
        return 2.0 * SOIL_W_MK / (math.pi * wide + thick) * math.log(math.pi * wide / thick + 1.0)
    return SOIL_W_MK / (0.457 * wide + thick)


def sunk_wall_w_m2k(depth_m: float, wall_m2k_w: float) -> float:
    """Loss of a wall that goes so deep into the ground by square metre and kelvin; EN ISO 13370, basements, with the floor as thick as the wall."""
    thick = SOIL_W_MK * (wall_m2k_w + INSIDE_M2K_W)
    return (
        2.0
        * SOIL_W_MK
        / (math.pi * depth_m)
        * (1.0 + 0.5 * thick / (thick + depth_m))
        * math.log(depth_m / thick + 1.0)
    )
