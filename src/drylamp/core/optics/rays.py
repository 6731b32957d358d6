"""Compiled ray casts inside a box with an upright pot on its floor.

Axes as in ``booster``: x across, y up the slope, z outward; here z = 0 is the floor and z = H the opening.
Surfaces are numbered FLOOR, WALLS, POT, OPENING.
"""

from __future__ import annotations

import math

import numpy as np

from drylamp.core.arrays import Array
from drylamp.core.compiled import compiled, inlined

FLOOR, WALLS, POT, OPENING = 0, 1, 2, 3


@inlined
def _pot_distance(
    px: float,
    py: float,
    pz: float,
    dx: float,
    dy: float,
    dz: float,
    cx: float,
    cy: float,
    radius: float,
    height: float,
) -> float:
    """Distance to an upright cylinder, or a huge number."""
    if radius <= 0.0:
        return 1e30
    best = 1e30
    ox, oy = px - cx, py - cy
    a = dx * dx + dy * dy
    b = ox * dx + oy * dy
    c = ox * ox + oy * oy - radius * radius
    root = b * b - a * c
    if a > 1e-12 and root >= 0.0:
        s = (-b - math.sqrt(root)) / a
        z = pz + s * dz
        if s > 1e-9 and 0.0 <= z <= height:
            best = s
    if dz < -1e-12 and pz > height:
        s = (height - pz) / dz
        hx, hy = ox + s * dx, oy + s * dy
        if s > 1e-9 and hx * hx + hy * hy <= radius * radius and s < best:
            best = s
    return best


@inlined
def first_hit(px: float, py: float, pz: float, dx: float, dy: float, dz: float, box: Array, pot: Array) -> int:
    """Number of the surface that a ray from inside meets first. box: W, L, H. pot: x, y, radius, height."""
    half = box[0] / 2.0
    best, hit = 1e29, WALLS
    if dx > 1e-12:
        best = (half - px) / dx
    elif dx < -1e-12:
        best = (-half - px) / dx
    if dy > 1e-12:
        best = min(best, (box[1] - py) / dy)
    elif dy < -1e-12:
        best = min(best, -py / dy)
    if dz < -1e-12 and -pz / dz < best:
        best, hit = -pz / dz, FLOOR
    elif dz > 1e-12 and (box[2] - pz) / dz < best:
        best, hit = (box[2] - pz) / dz, OPENING
    if _pot_distance(px, py, pz, dx, dy, dz, pot[0], pot[1], pot[2], pot[3]) < best:
        hit = POT
    return hit


@compiled
def landing(
    toward: Array,
    reach: Array,
    skew: Array,
    mirror_m: float,
    in_patch: bool,
    samples: Array,
    box: Array,
    pot: Array,
) -> Array:
    """Where light entering the opening from each direction lands first: shares on FLOOR, WALLS, POT, shape (n, 3).

    Only points of the opening inside the mirror's patch are sampled when ``in_patch``, only those outside it when
    not. ``samples`` are points of the unit square, shape (m, 2). A direction that enters nowhere gives zeros.
    """
    out = np.zeros((toward.shape[0], 3))
    for i in range(toward.shape[0]):
        if toward[i, 2] <= 1e-6:
            continue
        entered = 0
        for k in range(samples.shape[0]):
            x = (samples[k, 0] - 0.5) * box[0]
            y = samples[k, 1] * box[1]
            inside = False
            if reach[i] > 0.0 and mirror_m > 0.0:
                share = (box[1] - y) / (mirror_m * reach[i])
                inside = share <= 1.0 and abs(x + share * mirror_m * skew[i]) <= box[0] / 2.0
            if inside != in_patch:
                continue
            entered += 1
            hit = first_hit(x, y, box[2] - 1e-7, -toward[i, 0], -toward[i, 1], -toward[i, 2], box, pot)
            if hit < 3:
                out[i, hit] += 1.0
        if entered > 0:
            for s in range(3):
                out[i, s] /= entered
    return out


@compiled
def view_counts(points: Array, directions: Array, box: Array, pot: Array) -> Array:
    """Count which surface each ray meets, shape (4,)."""
    out = np.zeros(4)
    for i in range(points.shape[0]):
        out[
            first_hit(
                points[i, 0],
                points[i, 1],
                points[i, 2],
                directions[i, 0],
                directions[i, 1],
                directions[i, 2],
                box,
                pot,
            )
        ] += 1.0
    return out
