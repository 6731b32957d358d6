"""Heat between two cylinders, one inside the other: by long-wave, and through air between them."""

from __future__ import annotations

import math


def between_cylinders(emittance: float, other: float, ratio: float) -> float:
    """Exchange factor on the inner of two concentric cylinders: 1/(1/ε₁ + (D₁/D₂)(1/ε₂ − 1)), Incropera & DeWitt."""
    return 1.0 / (1.0 / emittance + ratio * (1.0 / other - 1.0))


def annulus(length_m: float, inner_m: float, outer_m: float) -> tuple[float, float]:
    """What the law of an annulus takes: 2 π L / ln(D₂/D₁), and the cube of its effective length.

    References
    ----------
    Raithby & Hollands 1975, as in Incropera & DeWitt 9.8: L_c = 2 [ln(D₂/D₁)]^(4/3) / (D₁^(−3/5) + D₂^(−3/5))^(5/3), with radii r = D/2.
    """
    wide = math.log(outer_m / inner_m)
    effective = 2.0 * wide ** (4.0 / 3.0) / ((inner_m / 2.0) ** -0.6 + (outer_m / 2.0) ** -0.6) ** (5.0 / 3.0)
    return 2.0 * math.pi * length_m / wide, effective**3
