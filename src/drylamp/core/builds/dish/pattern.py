"""The dish's flat pattern: petals edge to edge on ribs."""

from __future__ import annotations

import math

import numpy as np

from drylamp.core.builds.common.pattern import PatternPiece, piece_of
from drylamp.core.builds.dish.spec import Dish

PETALS = 16


def pieces_of(build: Dish) -> list[PatternPiece]:
    """One petal, to be cut many times."""
    return [_petal(build)]


def _petal(build: Dish) -> PatternPiece:
    """One of many petals: as long as the curve from the middle to the rim, at each place a share of its circle wide."""
    radius, focal = 500 * build.diameter_m, 1000 * build.focal_m
    r = np.linspace(radius * 0.04, radius, 40)
    slope = r / (2 * focal)
    along = focal * (slope * np.sqrt(1 + slope**2) + np.arcsinh(slope))
    half = math.pi * r / PETALS
    right = [(float(w), float(s)) for w, s in zip(half, along, strict=True)]
    left = [(-x, y) for x, y in reversed(right)]
    return piece_of("petal", PETALS, [[*right, *left]], [], f"{PETALS} of them edge to edge on ribs cut to the curve")
