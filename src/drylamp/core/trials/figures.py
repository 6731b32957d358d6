"""Figures that a trial yields."""

from __future__ import annotations

import math

from drylamp.core.checks import require
from drylamp.core.text import celsius, watts_m2

F1_GRADE_A, F1_GRADE_B, F2_PASS = 0.12, 0.11, 0.40
"""Mullick, Kandpal & Saxena 1987; IS 13429 (from memory)."""


def first_figure_m2k_w(plate_c: float, ambient_c: float, sun_w_m2: float) -> float:
    """F1 = (plate − ambient) / sun at stagnation, m²K/W (Mullick et al. 1987).

    Raises
    ------
    InputProblem
        there is no sun.
    """
    require(sun_w_m2 > 0, "sun_w_m2", f"{sun_w_m2:g} was given; must be above 0")
    return (plate_c - ambient_c) / sun_w_m2


def grade_of(f1: float) -> str:
    """Published grade of a first figure: A, B, or below B."""
    if f1 >= F1_GRADE_A:
        return "A"
    return "B" if f1 >= F1_GRADE_B else "below B"


def second_figure(
    f1: float, mass_kg: float, area_m2: float, start_c: float, end_c: float, seconds: float, ambient_c: float,
    sun_w_m2: float, cp_j_kgk: float = 4186.0,
) -> float:  # fmt: skip
    """F2 = F1 (M c)/(A t) ln{[1 − (start − Ta)/(F1 G)] / [1 − (end − Ta)/(F1 G)]} (Mullick et al. 1987).

    Raises
    ------
    InputProblem
        the end lies at or above what stagnation allows in this sun.
    """
    low = 1.0 - (start_c - ambient_c) / (f1 * sun_w_m2)
    high = 1.0 - (end_c - ambient_c) / (f1 * sun_w_m2)
    require(
        high > 0 and low > 0,
        "water_end_c",
        f"{celsius(end_c)} is above what F1 = {f1:.3f} allows in {watts_m2(sun_w_m2)}",
    )
    return f1 * mass_kg * cp_j_kgk / (area_m2 * seconds) * math.log(low / high)


def boil_minutes(
    f1: float,
    f2: float,
    mass_kg: float,
    area_m2: float,
    ambient_c: float,
    sun_w_m2: float,
    cp_j_kgk: float = 4186.0,
) -> float | None:
    """Minutes from ambient to 100 °C in steady sun; None where this sun never boils it (Mullick et al. 1987)."""
    rest = 1.0 - (100.0 - ambient_c) / (f1 * sun_w_m2)
    if rest <= 0 or f2 <= 0:
        return None
    return -f1 * mass_kg * cp_j_kgk / (f2 * area_m2) * math.log(rest) / 60.0
