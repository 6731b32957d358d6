"""What a head of water drives through a pipe, and what a flow takes of head."""

from __future__ import annotations

import math

from drylamp.core.air.constants import GRAVITY
from drylamp.core.heat.water import LAMINAR_RE, TURBULENT_RE, density_kg_m3, reynolds_number, smooth_friction

ENDS = 1.5
"""Heads of velocity lost where water goes in (0.5) and shoots out (1); Idelchik's handbook."""
MAINS_HEAD_M = 30.0
"""Of a mains at 3 bar; common practice, no source."""
MOST_KG_S = 20.0


def friction_factor(reynolds: float) -> float:
    """Darcy's friction factor of a smooth round pipe.

    References
    ----------
    Laminar 64/Re; turbulent Petukhov 1970, (0.79 ln Re − 1.64)⁻²; a straight line between Re 2,300 and 4,000.
    """
    if reynolds <= LAMINAR_RE:
        return 64.0 / max(reynolds, 1e-9)
    turbulent = float(smooth_friction(max(reynolds, TURBULENT_RE)))
    if reynolds >= TURBULENT_RE:
        return turbulent
    share = (reynolds - LAMINAR_RE) / (TURBULENT_RE - LAMINAR_RE)
    return (1.0 - share) * 64.0 / LAMINAR_RE + share * turbulent


def head_lost_m(kg_s: float, bore_m: float, length_m: float, celsius: float) -> float:
    """Head that a flow takes along a pipe, both ends included, m of water (Darcy–Weisbach)."""
    if kg_s <= 0.0:
        return 0.0
    speed = kg_s / density_kg_m3(celsius) / (math.pi / 4.0 * bore_m * bore_m)
    factor = friction_factor(reynolds_number(kg_s, bore_m, celsius))
    return (factor * length_m / bore_m + ENDS) * speed * speed / (2.0 * GRAVITY)


def driven_kg_s(head_m: float, bore_m: float, length_m: float, celsius: float) -> float:
    """Flow that a head drives through a pipe, kg/s."""
    from scipy.optimize import brentq  # slow to import, and most runs ask for no head

    if head_m <= 0.0:
        return 0.0
    return float(
        brentq(lambda kg_s: head_lost_m(kg_s, bore_m, length_m, celsius) - head_m, 1e-9, MOST_KG_S * (1.0 + head_m))
    )
