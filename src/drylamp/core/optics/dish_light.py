"""Light that a true paraboloid with slope errors throws on an upright cylinder at its focus, traced ray by ray.

The mirror is the curve itself and not a net of flat pieces, so that a few thousand rays say as much as a fine net with
many; a test holds it against the net. Axes: z along the dish's axis, its lowest point at the origin.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from drylamp.core.optics.sun_table import SUN_HALF_RAD, ray_samples
from drylamp.core.sky.sun import Array

_NEAR = 1e-9
AT_ONCE = 1 << 20
"""Rays followed in one go, so that memory stays small."""


@dataclass(frozen=True)
class DishShape:
    """Diameter, focal length, specular reflectance and slope error of a dish."""

    diameter_m: float
    focal_m: float
    reflectance: float
    slope_error_rad: float


@dataclass(frozen=True)
class Target:
    """A closed cylinder: middle of its foot, unit vector up its axis, radius and height."""

    foot: Array
    axis: Array
    radius_m: float
    height_m: float

    def shadow_m2(self, toward: Array) -> Array:
        """Area of its shadow square to directions, shape (n,)."""
        along = np.abs(toward @ self.axis)
        return np.asarray(
            np.pi * self.radius_m**2 * along
            + 2 * self.radius_m * self.height_m * np.sqrt(np.maximum(1 - along**2, 0.0))
        )


def on_target(shape: DishShape, target: Target, toward: Array, rays: int) -> Array:
    """Area of beam that reaches the target by way of the mirror, m² per direction.

    Args:
        toward: unit vectors towards the sun, shape (n, 3)
        rays: per direction, a power of two
    """
    out = np.empty(len(toward))
    block = max(1, AT_ONCE // rays)
    for first in range(0, len(toward), block):
        out[first : first + block] = _block(shape, target, toward[first : first + block], rays)
    return out


def mirrored(shape: DishShape, toward: Array, rays: int) -> tuple[Array, Array, Array, Array]:
    """Points of the mirror, directions to the sun from them, directions of the rays thrown on, and each one's area of beam.

    Shapes (rays, 3), (n, rays, 3), (n, rays, 3), (n, rays).
    """
    u = ray_samples(rays)
    radius, turn = shape.diameter_m / 2 * np.sqrt(u[:, 0]), 2 * np.pi * u[:, 1]
    x, y = radius * np.cos(turn), radius * np.sin(turn)
    points = np.stack([x, y, radius**2 / (4 * shape.focal_m)], axis=1)
    true = np.stack([-x, -y, np.full(rays, 2 * shape.focal_m)], axis=1)
    true /= np.linalg.norm(true, axis=1, keepdims=True)
    side, other = _square(true)
    error = shape.slope_error_rad
    normal = true + error * (u[:, 4:5] * side + u[:, 5:6] * other)
    normal /= np.linalg.norm(normal, axis=1, keepdims=True)
    a, b = _square(toward)
    sun = toward[:, None] + SUN_HALF_RAD * (u[None, :, 2:3] * a[:, None] + u[None, :, 3:4] * b[:, None])
    facing = np.einsum("nrk,rk->nr", sun, normal)
    onward = 2 * facing[..., None] * normal[None] - sun
    on_mirror = np.maximum(toward @ true.T, 0.0) / true[:, 2] * np.pi * shape.diameter_m**2 / 4 / rays
    return points, sun, onward, np.where(facing > 0, on_mirror * shape.reflectance, 0.0)


def _block(shape: DishShape, target: Target, toward: Array, rays: int) -> Array:
    points, sun, onward, worth = mirrored(shape, toward, rays)
    start = np.broadcast_to(points[None], sun.shape)
    reaches = _meets(start, onward, target) & ~_meets(start, sun, target)
    return np.asarray((worth * reaches).sum(axis=1))


def _meets(start: Array, going: Array, target: Target) -> np.ndarray:
    """Whether rays meet the cylinder ahead of them."""
    off = start - target.foot
    along_d, along_o = going @ target.axis, off @ target.axis
    u, w = going - along_d[..., None] * target.axis, off - along_o[..., None] * target.axis
    a, b = (u * u).sum(axis=-1), (u * w).sum(axis=-1)
    c = (w * w).sum(axis=-1) - target.radius_m**2
    root = np.sqrt(np.maximum(b * b - a * c, 0.0))
    reach = (-b - root) / np.maximum(a, 1e-14)
    height = along_o + reach * along_d
    side = (b * b - a * c >= 0) & (a > 1e-14) & (reach > _NEAR) & (height >= 0) & (height <= target.height_m)
    safe = np.where(np.abs(along_d) < _NEAR, _NEAR, along_d)
    ends = np.zeros_like(side)
    for end in (0.0, target.height_m):
        reach = (end - along_o) / safe
        at = w + reach[..., None] * u
        ends |= (reach > _NEAR) & ((at * at).sum(axis=-1) <= target.radius_m**2)
    return np.asarray(side | ends)


def _square(vectors: Array) -> tuple[Array, Array]:
    """Two unit vectors square to each of the vectors and to each other."""
    helper = np.where(np.abs(vectors[:, 2:3]) > 0.9, [[1.0, 0.0, 0.0]], [[0.0, 0.0, 1.0]])
    first = np.cross(helper, vectors)
    first /= np.linalg.norm(first, axis=1, keepdims=True)
    return first, np.cross(vectors, first)


def spot_radius_m(shape: DishShape, share: float, rays: int = 8192) -> float:
    """Radius round the focus, in the plane square to the axis, that holds a share of what the mirror throws."""
    points, _, onward, worth = mirrored(shape, np.array([[0.0, 0.0, 1.0]]), rays)
    reach = (shape.focal_m - points[:, 2]) / np.where(np.abs(onward[0, :, 2]) < _NEAR, _NEAR, onward[0, :, 2])
    at = points[:, :2] + reach[:, None] * onward[0, :, :2]
    off = np.hypot(at[:, 0], at[:, 1])
    order = np.argsort(off)
    held = np.cumsum(worth[0][order])
    return float(off[order][np.searchsorted(held, share * held[-1])])
