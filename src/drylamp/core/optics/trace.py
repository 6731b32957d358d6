"""The compiled ray tracer: parallel light from any direction through a geometry of facets and cylinders.

Rays start on a rectangle square to the sun that just covers the geometry, at quasi-random points, the same for every
direction and every run. Each follows mirrors (with slope error) and covers until it is received, stopped or gone.
"""

from __future__ import annotations

import math
from typing import NamedTuple

from drylamp.core.arrays import Array
from drylamp.core.compiled import compiled, woven

MOST_BOUNCES = 24
FAINT = 1e-4
INCIDENCE_BINS = 20
"""Bins of the incidence, even in its cosine: fine at grazing light, where a cover's transmittance falls fast."""
_FAR, _NEAR = 1e30, 1e-9
_MIRROR, _RECEIVER, _COVER = 1, 2, 3


@woven
def _nearest_piece(ray: Array, pieces: Array) -> tuple[int, float]:
    """Number of the first piece that a ray (point, direction) meets, and how far it is; −1 for none."""
    best, found = _FAR, -1
    px, py, pz, dx, dy, dz = ray[0], ray[1], ray[2], ray[3], ray[4], ray[5]
    for k in range(pieces.shape[0]):
        facing = pieces[k, 3] * dx + pieces[k, 4] * dy + pieces[k, 5] * dz
        if facing == 0.0:
            continue
        away = (pieces[k, 12] - pieces[k, 3] * px - pieces[k, 4] * py - pieces[k, 5] * pz) / facing
        if away <= _NEAR or away >= best:
            continue
        x, y, z = px + away * dx - pieces[k, 0], py + away * dy - pieces[k, 1], pz + away * dz - pieces[k, 2]
        a = x * pieces[k, 6] + y * pieces[k, 7] + z * pieces[k, 8]
        b = x * pieces[k, 9] + y * pieces[k, 10] + z * pieces[k, 11]
        if a < 0.0 or b < 0.0:
            continue
        if pieces[k, 13] > 0.0:
            if a + b > 1.0:
                continue
        elif a > 1.0 or b > 1.0:
            continue
        best, found = away, k
    return found, best


@woven
def _cylinder_hit(ray: Array, cylinders: Array, m: int) -> tuple[float, float]:
    """Distance to a closed cylinder from outside, and the cosine of incidence; huge when missed."""
    ox, oy, oz = ray[0] - cylinders[m, 0], ray[1] - cylinders[m, 1], ray[2] - cylinders[m, 2]
    ax, ay, az = cylinders[m, 3], cylinders[m, 4], cylinders[m, 5]
    radius, length = cylinders[m, 6], cylinders[m, 7]
    along_d = ray[3] * ax + ray[4] * ay + ray[5] * az
    along_o = ox * ax + oy * ay + oz * az
    ux, uy, uz = ray[3] - along_d * ax, ray[4] - along_d * ay, ray[5] - along_d * az
    wx, wy, wz = ox - along_o * ax, oy - along_o * ay, oz - along_o * az
    a, b = ux * ux + uy * uy + uz * uz, ux * wx + uy * wy + uz * wz
    c = wx * wx + wy * wy + wz * wz - radius * radius
    best, cosine = _FAR, 0.0
    root = b * b - a * c
    if a > 1e-14 and root >= 0.0:
        away = (-b - math.sqrt(root)) / a
        height = along_o + away * along_d
        if away > _NEAR and 0.0 <= height <= length:
            best = away
            cosine = math.sqrt(root) / radius
    if along_d != 0.0:
        for end in range(2):
            away = ((length if end == 1 else 0.0) - along_o) / along_d
            x, y, z = wx + away * ux, wy + away * uy, wz + away * uz
            if _NEAR < away < best and x * x + y * y + z * z <= radius * radius:
                best, cosine = away, abs(along_d)
    return best, cosine


@woven
def _nearest_cylinder(ray: Array, cylinders: Array, best: float) -> tuple[int, float, float]:
    """Number, distance and cosine of the first cylinder nearer than ``best``; −1 for none."""
    found, cosine = -1, 0.0
    for m in range(cylinders.shape[0]):
        distance, at = _cylinder_hit(ray, cylinders, m)
        if distance < best:
            found, best, cosine = m, distance, at
    return found, best, cosine


@woven
def _square_axes(away: Array) -> None:
    """Fill away[3:6] and away[6:9] with unit vectors square to away[0:3] and to each other."""
    x, y, z = away[0], away[1], away[2]
    if abs(z) < 0.9:
        hx, hy, hz = -y, x, 0.0
    else:
        hx, hy, hz = 0.0, -z, y
    size = 1.0 / math.sqrt(hx * hx + hy * hy + hz * hz)
    hx, hy, hz = hx * size, hy * size, hz * size
    away[3], away[4], away[5] = hx, hy, hz
    away[6], away[7], away[8] = y * hz - z * hy, z * hx - x * hz, x * hy - y * hx


@woven
def _aside(x: float, y: float, z: float, first: float, second: float, out: Array) -> None:
    """A unit vector tilted by two small angles about axes square to it, into the first three of ``out``."""
    out[0], out[1], out[2] = x, y, z
    _square_axes(out)
    nx = x + first * out[3] + second * out[6]
    ny = y + first * out[4] + second * out[7]
    nz = z + first * out[5] + second * out[8]
    size = 1.0 / math.sqrt(nx * nx + ny * ny + nz * nz)
    out[0], out[1], out[2] = nx * size, ny * size, nz * size


@woven
def _interpolated(tables: Array, table: int, cosine: float) -> float:
    place = min(max(cosine, 0.0), 1.0) * (tables.shape[1] - 1)
    low = min(int(place), tables.shape[1] - 2)
    share = place - low
    return float(tables[table, low] * (1.0 - share) + tables[table, low + 1] * share)


@woven
def _book(received: Array, receiver: int, cosine: float, weight: float) -> None:
    slot = min(int(cosine * INCIDENCE_BINS), INCIDENCE_BINS - 1)
    received[receiver, slot] += weight


@woven
def _cover(cloud: Array, away: Array, window: Array) -> None:
    """The rectangle square to the sun that holds all points: low and high along both axes, and the farthest out."""
    window[0] = window[2] = 1e30
    window[1] = window[3] = window[4] = -1e30
    for p in range(cloud.shape[0]):
        for axis in range(3):
            at = 0.0
            for k in range(3):
                at += cloud[p, k] * away[3 * axis + k]
            if axis == 0:
                window[4] = max(window[4], at)
            else:
                window[2 * axis - 2] = min(window[2 * axis - 2], at)
                window[2 * axis - 1] = max(window[2 * axis - 1], at)


@woven
def _start(ray: Array, samples: Array, s: int, away: Array, sun_rad: float, window: Array) -> None:
    """Put ray number s on the rectangle square to the sun, pointing into the geometry."""
    a = window[0] + samples[s, 0] * (window[1] - window[0])
    b = window[2] + samples[s, 1] * (window[3] - window[2])
    for k in range(3):
        ray[k] = (window[4] + 0.01) * away[k] + a * away[3 + k] + b * away[6 + k]
        # the sun is so small that the slant's length need not be set right again
        ray[3 + k] = sun_rad * (samples[s, 2] * away[3 + k] + samples[s, 3] * away[6 + k]) - away[k]


@woven
def _step(ray: Array, away: float) -> None:
    for k in range(3):
        ray[k] += away * ray[3 + k]


@woven
def _mirrored(ray: Array, pieces: Array, k: int, error: float, first: float, second: float, turned: Array) -> bool:
    """Turn a ray in a mirror whose normal is off by two small angles; False when it would go into the mirror."""
    nx, ny, nz = pieces[k, 3], pieces[k, 4], pieces[k, 5]
    if error > 0.0:
        _aside(nx, ny, nz, error * first, error * second, turned)
        nx, ny, nz = turned[0], turned[1], turned[2]
    facing = nx * ray[3] + ny * ray[4] + nz * ray[5]
    ray[3] -= 2.0 * facing * nx
    ray[4] -= 2.0 * facing * ny
    ray[5] -= 2.0 * facing * nz
    return bool(facing < 0.0)


@woven
def _follow(
    ray: Array, weight: float, samples: Array, s: int, pieces: Array, facets: Array, cylinders: Array, tables: Array,
    turned: Array, received: Array,
) -> int:  # fmt: skip
    """Follow a ray to its end and book it; returns the receiver that it met (−1: none), place and weight left in the ray."""
    pairs, faint, last = (samples.shape[1] - 4) // 2, FAINT * weight, -1
    for bounce in range(MOST_BOUNCES):
        k, best = _nearest_piece(ray, pieces)
        m, best, cosine = _nearest_cylinder(ray, cylinders, best)
        if (m < 0 and k < 0) or weight <= faint:
            break
        _step(ray, best)
        if m >= 0:
            role, receiver = int(cylinders[m, 8]), int(cylinders[m, 9])
        else:
            role, receiver = int(facets[k, 0]), int(facets[k, 3])
            cosine = -(pieces[k, 3] * ray[3] + pieces[k, 4] * ray[4] + pieces[k, 5] * ray[5])
        if role == _COVER:
            _book(received, receiver, abs(cosine), weight)
            weight *= _interpolated(tables, int(facets[k, 4]), abs(cosine))
        elif role == _MIRROR and cosine > 0.0:
            pair = 4 + 2 * (bounce % pairs)
            weight *= facets[k, 1]
            if not _mirrored(ray, pieces, k, facets[k, 2], samples[s, pair], samples[s, pair + 1], turned):
                break
        else:
            if role == _RECEIVER and cosine > 0.0:
                _book(received, receiver, cosine, weight)
                ray[6], last = weight, receiver
            break
    return last


class Solids(NamedTuple):
    """What stands in the light, as arrays: see CompiledGeometry; ``cloud``: points whose hull holds it all, shape (p, 3)."""

    cloud: Array
    pieces: Array
    facets: Array
    cylinders: Array
    tables: Array


class Noting(NamedTuple):
    """Receiver whose places are noted (−1: none), and room for place and weight of that many rays, shape (m, 4)."""

    wanted: int
    points: Array


@compiled
def trace(
    toward: Array, samples: Array, sun_rad: float, solids: Solids, noting: Noting, out: Array, room: Array
) -> int:  # fmt: skip
    """Follow light from directions through what stands in it.

    Parameters
    ----------
    toward
        unit vectors towards the sun, shape (n, 3)
    samples
        place on the rectangle (0–1, 0–1), place on the sun's disc (−1–1, −1–1), then standard normal pairs
        for the slope error of each bounce; shape (rays, 4 + 2 b)
    sun_rad
        half the width of the sun's disc
    solids
        what stands in the light
    noting
        which places are noted, and where
    out
        adds up, by direction, receiver and bin of incidence, the area of beam received, m²; shape (n, receivers, bins)
    room
        to work in, shape (4, 9)

    Returns
    -------
    How many places were noted.
    """
    cloud, pieces, facets, cylinders, tables = solids
    wanted, points = noting
    rays = samples.shape[0]
    ray, turned, away, window, noted = room[0], room[1], room[2], room[3], 0
    for i in range(toward.shape[0]):
        away[0], away[1], away[2] = toward[i, 0], toward[i, 1], toward[i, 2]
        _square_axes(away)
        _cover(cloud, away, window)
        worth, received = (window[1] - window[0]) * (window[3] - window[2]) / rays, out[i]
        for s in range(rays):
            _start(ray, samples, s, away, sun_rad, window)
            met = _follow(ray, worth, samples, s, pieces, facets, cylinders, tables, turned, received)
            if met >= 0 and met == wanted and noted < points.shape[0]:
                for k in range(3):
                    points[noted, k] = ray[k]
                points[noted, 3] = ray[6]
                noted += 1
    return noted


@compiled
def first_met(
    points: Array, directions: Array, pieces: Array, facets: Array, cylinders: Array, ray: Array, out: Array
) -> None:
    """Count which receiver or cover each ray meets first.

    Parameters
    ----------
    points, directions
        where rays start and go, shape (rays, 3)
    pieces, facets, cylinders
        as in CompiledGeometry
    ray
        to work in, shape (6,)
    out
        adds up, shape (receivers,)
    """
    for s in range(points.shape[0]):
        for k in range(3):
            ray[k], ray[3 + k] = points[s, k], directions[s, k]
        piece, best = _nearest_piece(ray, pieces)
        part, best, _ = _nearest_cylinder(ray, cylinders, best)
        if part >= 0:
            out[int(cylinders[part, 9])] += 1.0
        elif piece >= 0 and int(facets[piece, 0]) != 0:
            out[int(facets[piece, 3])] += 1.0
