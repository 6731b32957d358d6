"""Light that a true paraboloid with slope errors throws on an upright cylinder at its focus, traced ray by ray.

The mirror is the curve itself and not a net of flat pieces, so that a few thousand rays say as much as a fine net with
many; a test holds it against the net. Axes: z along the dish's axis, its lowest point at the origin.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from functools import lru_cache
from typing import NamedTuple

import numpy as np

from drylamp.core.arrays import Array
from drylamp.core.compiled import compiled, woven
from drylamp.core.optics.cavity import square_to
from drylamp.core.optics.sun_table import SUN_HALF_RAD, ray_samples

_NEAR = 1e-9


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

    Parameters
    ----------
    toward
        unit vectors towards the sun, shape (n, 3)
    rays
        per direction, a power of two
    """
    points, normals, worth = _mirror(shape, rays)
    first, second = square_to(toward)
    out, room = np.zeros(len(toward)), np.zeros((2, 6))
    where = np.array([*target.foot, *target.axis, target.radius_m, target.height_m])
    sun_rays = SunRays(np.ascontiguousarray(toward), first, second, ray_samples(rays), SUN_HALF_RAD)
    follow(sun_rays, MirrorRays(points, normals, worth * shape.reflectance), where, room, out)
    return out


@lru_cache(maxsize=32)
def _mirror(shape: DishShape, rays: int) -> tuple[Array, Array, Array]:
    """Points of the mirror, normals with their slope errors, and area of surface that each stands for."""
    u = ray_samples(rays)
    radius, turn = shape.diameter_m / 2 * np.sqrt(u[:, 0]), 2 * np.pi * u[:, 1]
    x, y = radius * np.cos(turn), radius * np.sin(turn)
    points = np.stack([x, y, radius**2 / (4 * shape.focal_m)], axis=1)
    true = np.stack([-x, -y, np.full(rays, 2 * shape.focal_m)], axis=1)
    true /= np.linalg.norm(true, axis=1, keepdims=True)
    side, other = square_to(true)
    normal = true + shape.slope_error_rad * (u[:, 4:5] * side + u[:, 5:6] * other)
    normal /= np.linalg.norm(normal, axis=1, keepdims=True)
    return points, np.ascontiguousarray(normal), np.pi * shape.diameter_m**2 / 4 / rays / true[:, 2]


@woven
def _hits(ray: Array, where: Array) -> bool:
    """Whether a ray (point, direction) meets a closed cylinder ahead of it."""
    ax, ay, az, radius, height = where[3], where[4], where[5], where[6], where[7]
    ox, oy, oz = ray[0] - where[0], ray[1] - where[1], ray[2] - where[2]
    along_d = ray[3] * ax + ray[4] * ay + ray[5] * az
    along_o = ox * ax + oy * ay + oz * az
    ux, uy, uz = ray[3] - along_d * ax, ray[4] - along_d * ay, ray[5] - along_d * az
    wx, wy, wz = ox - along_o * ax, oy - along_o * ay, oz - along_o * az
    a, b = ux * ux + uy * uy + uz * uz, ux * wx + uy * wy + uz * wz
    c = wx * wx + wy * wy + wz * wz - radius * radius
    root = b * b - a * c
    if root < 0.0:
        return False
    if a > 1e-14:
        away = (-b - math.sqrt(root)) / a
        at = along_o + away * along_d
        if away > _NEAR and 0.0 <= at <= height:
            return True
    if along_d != 0.0:
        for end in range(2):
            away = ((height if end == 1 else 0.0) - along_o) / along_d
            x, y, z = wx + away * ux, wy + away * uy, wz + away * uz
            if away > _NEAR and x * x + y * y + z * z <= radius * radius:
                return True
    return False


class SunRays(NamedTuple):
    """Rays of the sun.

    Attributes:
        toward, first, second: towards the sun, and two unit vectors square to it, shape (n, 3)
        samples: as ``ray_samples`` makes them; places on the sun's disc stand in columns 2 and 3
        disc_rad: half the width of the sun's disc
    """

    toward: Array
    first: Array
    second: Array
    samples: Array
    disc_rad: float


class MirrorRays(NamedTuple):
    """Places of a mirror: points and normals, shape (rays, 3), and the reflecting area of each, shape (rays,)."""

    points: Array
    normals: Array
    worth: Array


@compiled
def follow(sun_rays: SunRays, mirror: MirrorRays, where: Array, room: Array, out: Array) -> None:
    """Throw rays on from a mirror and add up what of them meets the cylinder, its own shadow left out.

    Parameters
    ----------
    sun_rays, mirror
        the sun's rays, and the places of the mirror that they meet
    where
        foot, axis, radius and height of the cylinder, shape (8,)
    room
        to work in, shape (2, 6)
    out
        adds up, shape (n,)
    """
    toward, first, second, samples, sun_rad = sun_rays
    points, normals, worth = mirror
    ray, back = room[0], room[1]
    for i in range(toward.shape[0]):
        for s in range(points.shape[0]):
            facing = 0.0
            for k in range(3):
                sun = toward[i, k] + sun_rad * (samples[s, 2] * first[i, k] + samples[s, 3] * second[i, k])
                back[k], back[3 + k] = points[s, k], sun
                facing += sun * normals[s, k]
            if facing <= 0.0:
                continue
            for k in range(3):
                ray[k], ray[3 + k] = points[s, k], 2.0 * facing * normals[s, k] - back[3 + k]
            if _hits(ray, where) and not _hits(back, where):
                out[i] += worth[s] * facing


def spot_radius_m(shape: DishShape, share: float, rays: int = 8192) -> float:
    """Radius round the focus, in the plane square to the axis, that holds a share of what the mirror throws."""
    points, normals, worth = _mirror(shape, rays)
    u = ray_samples(rays)
    sun = np.stack([SUN_HALF_RAD * u[:, 2], SUN_HALF_RAD * u[:, 3], np.ones(rays)], axis=1)
    facing = (sun * normals).sum(axis=1)
    onward = 2 * facing[:, None] * normals - sun
    reach = (shape.focal_m - points[:, 2]) / np.where(np.abs(onward[:, 2]) < _NEAR, _NEAR, onward[:, 2])
    at = points[:, :2] + reach[:, None] * onward[:, :2]
    off = np.hypot(at[:, 0], at[:, 1])
    order = np.argsort(off)
    held = np.cumsum((worth * facing)[order])
    return float(off[order][np.searchsorted(held, share * held[-1])])
