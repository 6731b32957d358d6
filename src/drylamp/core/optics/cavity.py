"""The inside of a box: who sees whom, from quasi-random rays (the same ones every time)."""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache

import numpy as np

from drylamp.core.arrays import Array
from drylamp.core.optics.points import sobol as points_of
from drylamp.core.optics.rays import FLOOR, OPENING, POT, WALLS, view_counts
from drylamp.core.optics.vectors import crossed

RAYS_PER_SURFACE = 4096
ENTRY_SAMPLES = 128


@dataclass(frozen=True)
class Cavity:
    """A box open at the top, with an upright pot on its floor (radius 0: no pot).

    Attributes:
        width_m, length_m, height_m: across, up the slope, floor to opening
        pot_radius_m, pot_height_m: the pot, in the middle of the floor
    """

    width_m: float
    length_m: float
    height_m: float
    pot_radius_m: float = 0.0
    pot_height_m: float = 0.0

    @property
    def box(self) -> Array:
        """Width, length, height for the compiled casts."""
        return np.array([self.width_m, self.length_m, self.height_m])

    @property
    def pot(self) -> Array:
        """Middle, radius and height of the pot for the compiled casts."""
        return np.array([0.0, self.length_m / 2, self.pot_radius_m, self.pot_height_m])

    @property
    def areas_m2(self) -> Array:
        """Free area of FLOOR, WALLS, POT, OPENING."""
        opening = self.width_m * self.length_m
        base = np.pi * self.pot_radius_m**2
        pot = base + 2 * np.pi * self.pot_radius_m * self.pot_height_m
        walls = 2 * (self.width_m + self.length_m) * self.height_m
        return np.array([opening - base, walls, pot, opening])


@lru_cache(maxsize=8)
def sobol(count: int, dimensions: int) -> Array:
    """Points of a scrambled Sobol sequence with a fixed seed, shape (count, dimensions)."""
    points = points_of(20, dimensions, count)
    points.setflags(write=False)
    return np.asarray(points)


@lru_cache(maxsize=256)
def view_factors(cavity: Cavity) -> Array:
    """View factors between FLOOR, WALLS, POT, OPENING; rows sum to 1 and areas obey reciprocity, shape (4, 4)."""
    areas = cavity.areas_m2
    raw = np.zeros((4, 4))
    for surface in (FLOOR, WALLS, POT, OPENING):
        if areas[surface] > 0:
            raw[surface] = view_counts(*_emitted(cavity, surface), cavity.box, cavity.pot) / RAYS_PER_SURFACE
    raw[FLOOR, FLOOR] = raw[OPENING, OPENING] = raw[POT, POT] = 0.0
    exchange = areas[:, None] * raw
    exchange = (exchange + exchange.T) / 2.0
    for _ in range(200):  # scale rows and columns alike until every surface sends out exactly its area
        total = exchange.sum(axis=1)
        scale = np.sqrt(np.divide(areas, total, out=np.zeros(4), where=total > 0))
        exchange = exchange * scale[:, None] * scale[None, :]
    return np.divide(exchange, areas[:, None], out=np.zeros((4, 4)), where=areas[:, None] > 0)


def _emitted(cavity: Cavity, surface: int) -> tuple[Array, Array]:
    """Points spread over a surface and cosine-weighted directions leaving it."""
    u = sobol(RAYS_PER_SURFACE, 4)
    points, normals = _surface_points(cavity, surface, u[:, 2], u[:, 3])
    return leaving(points, normals, u)


def leaving(points: Array, normals: Array, u: Array) -> tuple[Array, Array]:
    """Points a hair off their surface, and directions that leave it by the cosine law; ``u`` holds two numbers 0–1 for each."""
    sine, turn = np.sqrt(u[:, 0]), 2 * np.pi * u[:, 1]
    local = np.stack([sine * np.cos(turn), sine * np.sin(turn), np.sqrt(1 - u[:, 0])], axis=1)
    first, second = square_to(normals)
    directions = local[:, :1] * first + local[:, 1:2] * second + local[:, 2:] * normals
    return points + 1e-7 * normals, directions


def square_to(vectors: Array) -> tuple[Array, Array]:
    """Two unit vectors square to each of some unit vectors and to each other, shapes (n, 3)."""
    helper = np.where(np.abs(vectors[:, 2:3]) > 0.9, np.array([[1.0, 0.0, 0.0]]), np.array([[0.0, 0.0, 1.0]]))
    first = crossed(helper, vectors)
    first /= np.linalg.norm(first, axis=1, keepdims=True)
    return first, crossed(vectors, first)


def _surface_points(cavity: Cavity, surface: int, a: Array, b: Array) -> tuple[Array, Array]:
    width, length, height = cavity.width_m, cavity.length_m, cavity.height_m
    up = np.array([0.0, 0.0, 1.0])
    if surface == FLOOR:
        return _floor_points(cavity, a, b), np.tile(up, (len(a), 1))
    if surface == OPENING:
        return np.stack([(a - 0.5) * width, b * length, np.full_like(a, height)], 1), np.tile(-up, (len(a), 1))
    if surface == POT:
        return _pot_points(cavity, a, b)
    around = a * 2 * (width + length)
    side = np.searchsorted([width, width + length, 2 * width + length], around)
    along = around - np.array([0, width, width + length, 2 * width + length])[side]
    x = np.choose(side, [along - width / 2, np.full_like(a, width / 2), width / 2 - along, np.full_like(a, -width / 2)])
    y = np.choose(side, [np.zeros_like(a), along, np.full_like(a, length), length - along])
    inward = np.array([[0, 1, 0], [-1, 0, 0], [0, -1, 0], [1, 0, 0]], dtype=float)[side]
    return np.stack([x, y, b * height], 1), inward


def _floor_points(cavity: Cavity, a: Array, b: Array) -> Array:
    """Points of the floor outside the pot's foot; points under it are moved out through the pot's middle."""
    x, y = (a - 0.5) * cavity.width_m, b * cavity.length_m
    off_x, off_y = x - cavity.pot[0], y - cavity.pot[1]
    apart = np.hypot(off_x, off_y)
    under = apart < cavity.pot_radius_m
    safe = np.maximum(apart, 1e-9)
    out = np.sqrt(cavity.pot_radius_m**2 + safe**2) / safe
    x = np.where(under, np.clip(cavity.pot[0] + off_x * out, -cavity.width_m / 2, cavity.width_m / 2), x)
    y = np.where(under, np.clip(cavity.pot[1] + off_y * out, 0, cavity.length_m), y)
    return np.stack([x, y, np.zeros_like(x)], 1)


def _pot_points(cavity: Cavity, a: Array, b: Array) -> tuple[Array, Array]:
    radius, height = cavity.pot_radius_m, cavity.pot_height_m
    top_share = radius / (radius + 2 * height)
    on_top = a < top_share
    turn = 2 * np.pi * b
    r = np.where(on_top, radius * np.sqrt(np.clip(a / top_share, 0, 1)), radius)
    z = np.where(on_top, height, height * (a - top_share) / (1 - top_share))
    points = np.stack([cavity.pot[0] + r * np.cos(turn), cavity.pot[1] + r * np.sin(turn), z], 1)
    outward = np.stack([np.cos(turn), np.sin(turn), np.zeros_like(turn)], 1)
    return points, np.where(on_top[:, None], [[0.0, 0.0, 1.0]], outward)
