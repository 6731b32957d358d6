"""The compiled ray tracer: parallel light from any direction through a scene of facets and cylinders.

Rays start on a disc square to the sun that covers the whole scene, at quasi-random points, the same for every direction
and every run. Each follows mirrors (with slope error) and covers until it is received, stopped or gone.
"""

from __future__ import annotations

import math

import numpy as np

from drylamp.core.compiled import compiled, inlined
from drylamp.core.sky.sun import Array

MOST_BOUNCES = 24
FAINT = 1e-4
INCIDENCE_BINS = 18
"""Bins of the angle of incidence, 5° each, 0–90°."""
_FAR, _NEAR = 1e30, 1e-9
_OPAQUE, _MIRROR, _RECEIVER, _COVER = 0, 1, 2, 3


@inlined
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


@inlined
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


@inlined
def _aside(ray: Array, x: float, y: float, z: float, first: float, second: float, out: Array) -> None:
    """A unit vector tilted by two small angles about two axes square to it, into ``out``."""
    if abs(z) < 0.9:
        hx, hy, hz = -y, x, 0.0
    else:
        hx, hy, hz = 0.0, -z, y
    size = 1.0 / math.sqrt(hx * hx + hy * hy + hz * hz)
    hx, hy, hz = hx * size, hy * size, hz * size
    kx, ky, kz = y * hz - z * hy, z * hx - x * hz, x * hy - y * hx
    nx, ny, nz = x + first * hx + second * kx, y + first * hy + second * ky, z + first * hz + second * kz
    size = 1.0 / math.sqrt(nx * nx + ny * ny + nz * nz)
    out[0], out[1], out[2] = nx * size, ny * size, nz * size


@inlined
def _interpolated(tables: Array, table: int, cosine: float) -> float:
    place = min(max(cosine, 0.0), 1.0) * (tables.shape[1] - 1)
    low = min(int(place), tables.shape[1] - 2)
    share = place - low
    return tables[table, low] * (1.0 - share) + tables[table, low + 1] * share


@inlined
def _book(out: Array, direction: int, receiver: int, cosine: float, weight: float) -> None:
    degrees = math.degrees(math.acos(min(max(cosine, 0.0), 1.0)))
    slot = min(int(degrees * (INCIDENCE_BINS / 90.0)), INCIDENCE_BINS - 1)
    out[direction, receiver, slot] += weight


@inlined
def _mark(points: Array, count: int, ray: Array, weight: float) -> int:
    """Note where a wanted receiver was met; returns how many are noted."""
    if count < points.shape[0]:
        points[count, 0], points[count, 1], points[count, 2], points[count, 3] = ray[0], ray[1], ray[2], weight
        count += 1
    return count


@compiled
def trace(
    toward: Array, samples: Array, sun_rad: float, middle: Array, radius: float, pieces: Array, facets: Array,
    cylinders: Array, tables: Array, out: Array, wanted: int, points: Array,
) -> int:  # fmt: skip
    """Follow light from directions through a scene.

    Args:
        toward: unit vectors towards the sun, shape (n, 3)
        samples: place on the disc (radius², turn, 0–1), place on the sun's disc (the same), then standard normal pairs
            for the slope error of each bounce; shape (rays, 4 + 2 b)
        sun_rad: half the width of the sun's disc
        middle, radius: ball round the scene
        pieces, facets, cylinders, tables: as in CompiledScene
        out: adds up, by direction, receiver and bin of incidence, the area of beam received, m²; shape (n, receivers, bins)
        wanted: receiver whose places are noted, −1 for none
        points: takes place and weight of up to that many rays that meet it, shape (m, 4)

    Returns:
        How many places were noted.
    """
    rays = samples.shape[0]
    worth = math.pi * radius * radius / rays
    pairs = (samples.shape[1] - 4) // 2
    ray, turned, noted = np.empty(6), np.empty(3), 0
    for i in range(toward.shape[0]):
        tx, ty, tz = toward[i, 0], toward[i, 1], toward[i, 2]
        if abs(tz) < 0.9:
            hx, hy, hz = -ty, tx, 0.0
        else:
            hx, hy, hz = 0.0, -tz, ty
        size = 1.0 / math.sqrt(hx * hx + hy * hy + hz * hz)
        hx, hy, hz = hx * size, hy * size, hz * size
        kx, ky, kz = ty * hz - tz * hy, tz * hx - tx * hz, tx * hy - ty * hx
        for s in range(rays):
            away, turn = radius * math.sqrt(samples[s, 0]), 2.0 * math.pi * samples[s, 1]
            a, b = away * math.cos(turn), away * math.sin(turn)
            ray[0] = middle[0] + 1.01 * radius * tx + a * hx + b * kx
            ray[1] = middle[1] + 1.01 * radius * ty + a * hy + b * ky
            ray[2] = middle[2] + 1.01 * radius * tz + a * hz + b * kz
            ray[3], ray[4], ray[5] = -tx, -ty, -tz
            if sun_rad > 0.0:
                wide, turn = sun_rad * math.sqrt(samples[s, 2]), 2.0 * math.pi * samples[s, 3]
                _aside(ray, -tx, -ty, -tz, wide * math.cos(turn), wide * math.sin(turn), turned)
                ray[3], ray[4], ray[5] = turned[0], turned[1], turned[2]
            weight, bounce = worth, 0
            while bounce < MOST_BOUNCES and weight > FAINT * worth:
                found, best = _nearest_piece(ray, pieces)
                round_one, round_cosine = -1, 0.0
                for m in range(cylinders.shape[0]):
                    distance, cosine = _cylinder_hit(ray, cylinders, m)
                    if distance < best:
                        best, round_one, round_cosine = distance, m, cosine
                if round_one >= 0:
                    ray[0] += best * ray[3]
                    ray[1] += best * ray[4]
                    ray[2] += best * ray[5]
                    if cylinders[round_one, 8] == _RECEIVER:
                        receiver = int(cylinders[round_one, 9])
                        _book(out, i, receiver, round_cosine, weight)
                        if receiver == wanted:
                            noted = _mark(points, noted, ray, weight)
                    break
                if found < 0:
                    break
                ray[0] += best * ray[3]
                ray[1] += best * ray[4]
                ray[2] += best * ray[5]
                nx, ny, nz = pieces[found, 3], pieces[found, 4], pieces[found, 5]
                facing = nx * ray[3] + ny * ray[4] + nz * ray[5]
                role = int(facets[found, 0])
                if role == _RECEIVER or role == _COVER:
                    receiver = int(facets[found, 3])
                    _book(out, i, receiver, abs(facing), weight)
                    if receiver == wanted:
                        noted = _mark(points, noted, ray, weight)
                    if role == _RECEIVER:
                        break
                    weight *= _interpolated(tables, int(facets[found, 4]), abs(facing))
                elif role == _MIRROR and facing < 0.0:
                    weight *= facets[found, 1]
                    if facets[found, 2] > 0.0:
                        pair = 4 + 2 * (bounce % pairs)
                        error = facets[found, 2]
                        _aside(ray, nx, ny, nz, error * samples[s, pair], error * samples[s, pair + 1], turned)
                        nx, ny, nz = turned[0], turned[1], turned[2]
                        facing = nx * ray[3] + ny * ray[4] + nz * ray[5]
                        if facing >= 0.0:
                            break
                    ray[3] -= 2.0 * facing * nx
                    ray[4] -= 2.0 * facing * ny
                    ray[5] -= 2.0 * facing * nz
                else:
                    break
                bounce += 1
    return noted
