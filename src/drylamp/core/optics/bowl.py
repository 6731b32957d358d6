"""A bag or bowl over something flat: what of the beam from a direction reaches its foot, and what it takes up itself.

It is taken as half an ellipsoid, as wide and as high as it is. Light on a spot of the foot met the hull where the line from there towards the sun
leaves it, and at the angle that the hull has there: under the middle of a round bowl it always comes in square. What
goes out again through the shaded side is left out. References: Fresnel and Bouguer by ``optics.covers``.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from drylamp.core.arrays import Array
from drylamp.core.optics.covers import Pane, stack

ROUND, DEEP = 24, 12
"""Steps round and up by which a hull is summed, and half as many of each for spots of the foot."""


@dataclass(frozen=True)
class BowlLight:
    """Shares and areas by direction, shape (n,): of beam on the foot that comes through, and m² of hull's worth that it takes up per W/m²."""

    through: Array
    soaked_m2: Array


def bowl_light(pane: Pane, diameter_m: float, height_m: float, within_m: float, toward: Array) -> BowlLight:
    """What a bowl does with beam.

    Parameters
    ----------
    pane
        what it is made of
    diameter_m, height_m
        of the bowl
    within_m
        radius of the round part of its foot that ``through`` is the mean over
    toward
        unit vectors towards the source, the third number square out of the foot, shape (n, 3)
    """
    half = np.array([diameter_m / 2, diameter_m / 2, height_m])
    facing = np.maximum(_normals(_spots(min(within_m, 0.999 * diameter_m / 2)), half, toward), 0.0)
    through = stack([pane], facing).transmittance.mean(axis=0)
    patches, area = _hull(half)
    met = np.maximum(patches @ toward.T, 0.0)
    soaked = (stack([pane], met).absorptance[0] * met * area[:, None]).sum(axis=0)
    up = toward[:, 2] > 0.0
    return BowlLight(np.where(up, through, 0.0), np.where(up, soaked, 0.0))


def _spots(radius_m: float) -> Array:
    """Spots of equal area within a circle, shape (spots, 3)."""
    out = radius_m * np.sqrt((np.arange(DEEP // 2) + 0.5) / (DEEP // 2))
    turn = 2 * np.pi * (np.arange(ROUND // 2) + 0.5) / (ROUND // 2)
    far, angle = (grid.ravel() for grid in np.meshgrid(out, turn))
    return np.column_stack([far * np.cos(angle), far * np.sin(angle), np.zeros_like(far)])


def _normals(spots: Array, half: Array, toward: Array) -> Array:
    """Cosines at which lines from spots of the foot leave the hull, shape (spots, n)."""
    start, way = spots / half, toward / half
    square = (way**2).sum(axis=1)
    along = start @ way.T
    inside = 1.0 - (start**2).sum(axis=1)
    far = (-along + np.sqrt(along**2 + square * inside[:, None])) / square
    at = start[:, None, :] + far[..., None] * way[None, :, :]
    normal = at / half
    normal /= np.linalg.norm(normal, axis=-1, keepdims=True)
    return np.asarray((normal * toward[None, :, :]).sum(axis=-1))


def _hull(half: Array) -> tuple[Array, Array]:
    """Unit normals and areas of patches of the hull, shapes (patches, 3) and (patches,)."""
    turn = 2 * np.pi * (np.arange(ROUND) + 0.5) / ROUND
    high = (np.arange(DEEP) + 0.5) / DEEP
    angle, level = (grid.ravel() for grid in np.meshgrid(turn, high))
    ring = np.sqrt(1.0 - level**2)
    normal = np.column_stack([ring * np.cos(angle), ring * np.sin(angle), level]) / half
    size = np.linalg.norm(normal, axis=1)
    return normal / size[:, None], half.prod() * size * 2 * np.pi / (ROUND * DEEP)
