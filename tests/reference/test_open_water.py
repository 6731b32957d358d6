"""Sun in water by its depth, and heat into the ground under it, against published values."""

from __future__ import annotations

import math

import numpy as np
import pytest

from drylamp.core.optics.water import left_at, let_in, taken_up
from drylamp.core.sky.in_ground import floor_w_m2k, sunk_wall_w_m2k


# Hull 1954's measured transmission of clear water, as Rabl & Nielsen 1975 plot it (from memory): about 0.55 at 0.1 m, 0.4 at 1 m, 0.3 at 2–3 m
@pytest.mark.parametrize(("metres", "share"), [(0.1, 0.55), (1.0, 0.37), (2.5, 0.28)])
def test_sun_left_in_water(metres, share):
    assert float(left_at(np.array(metres))) == pytest.approx(share, abs=0.07)


def test_the_surface_lets_in_what_fresnel_says():
    """2 % back at normal incidence, 6 % at 60°, all of it grazing (Fresnel, n 1.33)."""
    back = 1.0 - let_in(np.cos(np.radians([0.0, 60.0, 89.9])))
    assert back == pytest.approx([0.020, 0.060, 0.99], abs=0.01)


def test_deeper_and_darker_water_keeps_more():
    cosine = np.array([0.9])
    shares = [
        float(taken_up(cosine, depth, dark)[0]) for depth, dark in ((0.1, 0.3), (0.5, 0.3), (2.0, 0.3), (0.5, 0.95))
    ]
    assert shares[0] < shares[1] < shares[2] < 0.98
    assert shares[1] < shares[3] < 0.981


def test_floor_on_the_ground():
    """EN ISO 13370 with λ 1.5: B' = 5 m, no insulation but its film: 2λ/(πB + d) ln(πB/d + 1), by hand."""
    d = 1.5 * 0.01
    by_hand = 3.0 / (math.pi * 5.0 + d) * math.log(math.pi * 5.0 / d + 1.0)
    assert floor_w_m2k(100.0, 40.0, 0.0) == pytest.approx(by_hand)
    assert floor_w_m2k(100.0, 40.0, 6.0) == pytest.approx(1.5 / (0.457 * 5.0 + 1.5 * 6.01))
    assert floor_w_m2k(400.0, 80.0, 0.5) < floor_w_m2k(100.0, 40.0, 0.5)


def test_sunk_walls_lose_less_the_deeper_they_go():
    assert sunk_wall_w_m2k(0.5, 0.3) > sunk_wall_w_m2k(2.0, 0.3) > 0.0
    assert sunk_wall_w_m2k(0.01, 0.3) == pytest.approx(1.0 / 0.31, rel=0.1)
