"""Sun in open water: what its surface lets in, and what it takes up with depth.

References:
    Surface: Fresnel, index 1.33. Depth: Rabl & Nielsen 1975, four exponentials (from memory): what is left of the sun's light after x metres is
    0.237 e^(−0.032 x) + 0.193 e^(−0.45 x) + 0.167 e^(−3.0 x) + 0.179 e^(−35 x); the rest, in the infrared, goes in the first millimetres.
"""

from __future__ import annotations

import numpy as np

from drylamp.core.arrays import Array

INDEX = 1.33
SHARES = np.array([0.237, 0.193, 0.167, 0.179])
PER_M = np.array([0.032, 0.45, 3.0, 35.0])
UP_LONGER = 1.2
"""How much longer even light's way up is than the depth."""
HELD_BELOW = 0.48
"""Share of even light from below that the surface throws back (Fresnel, total reflection included)."""


def left_at(depth_m: Array) -> Array:
    """Share of the sun's light that is left after a way through water; what is lost at once counts as left of nothing."""
    way = np.asarray(depth_m, dtype=float)[..., None]
    return np.asarray((SHARES * np.exp(-PER_M * way)).sum(axis=-1) + (1.0 - SHARES.sum()) * (way[..., 0] <= 0.0))


def let_in(cosine: Array) -> Array:
    """Share that the surface lets in, by the cosine of incidence."""
    cosine = np.clip(cosine, 1e-4, 1.0)
    bent = np.sqrt(1.0 - (1.0 - cosine**2) / INDEX**2)
    across = ((cosine - INDEX * bent) / (cosine + INDEX * bent)) ** 2
    along = ((bent - INDEX * cosine) / (bent + INDEX * cosine)) ** 2
    return np.asarray(1.0 - (across + along) / 2.0)


def taken_up(cosine: Array, depth_m: float, floor_absorptance: float) -> Array:
    """Share of a beam that water of a depth and its floor keep, by the cosine of its incidence on the level surface.

    What the floor throws back is even light: part of it is taken up on its way, part of the rest is thrown down again.
    """
    bent = np.sqrt(1.0 - (1.0 - np.clip(cosine, 0.0, 1.0) ** 2) / INDEX**2)
    down = left_at(depth_m / bent)
    # light that has come through once has lost its infrared: the way up begins where the way down ended
    up = left_at(depth_m / bent + UP_LONGER * depth_m) / np.maximum(down, 1e-9)
    thrown = 1.0 - floor_absorptance
    escapes = down * thrown * up * (1.0 - HELD_BELOW) / (1.0 - HELD_BELOW * thrown * up**2)
    return np.asarray(let_in(cosine) * (1.0 - escapes))
