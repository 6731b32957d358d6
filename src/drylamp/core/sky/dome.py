"""The sky as seen from a standing spot: which parts of the dome are open, which are hidden.

A spot's skyline is one altitude per whole degree of azimuth, the higher of its far horizon and its near
obstacles. Beam is cut when the sun stands below the skyline; the diffuse dome is summed over directions
spread evenly on the hemisphere, the hidden ones counted as dark.
"""

from __future__ import annotations

import math
from functools import cache

import numpy as np

from drylamp.core.arrays import Array
from drylamp.core.sky.site import Obstacle, Spot

SUN_DISC_DEG = 0.533
DOME_DIRECTIONS = 512
GROUND_DIRECTIONS = 192
_GOLDEN = (1.0 + 5.0**0.5) / 2.0


@cache
def hemisphere(count: int, upper: bool = True) -> Array:
    """Directions spread evenly over a half sphere (Fibonacci lattice), each standing for 2π/count sr, shape (count, 3)."""
    index = np.arange(count) + 0.5
    up = index / count
    turn = 2.0 * np.pi * index / _GOLDEN
    level = np.sqrt(1.0 - up**2)
    vectors = np.stack([level * np.sin(turn), level * np.cos(turn), up if upper else -up], axis=-1)
    vectors.setflags(write=False)
    return vectors


def skyline(spot: Spot) -> Array:
    """Altitude (deg) below which nothing is seen, for azimuth 0, 1 … 359, shape (360,)."""
    azimuth = np.arange(360.0)
    line = np.zeros(360)
    if spot.horizon:
        points = sorted(spot.horizon, key=lambda point: point.azimuth_deg)
        line = np.interp(azimuth, [p.azimuth_deg for p in points], [p.altitude_deg for p in points], period=360.0)
    for obstacle in spot.obstacles:
        line = np.maximum(line, silhouette(obstacle, azimuth))
    return line


def silhouette(obstacle: Obstacle, azimuth_deg: Array) -> Array:
    r"""Altitude of a wall's top edge, which sinks towards its ends.

    Seen from above, the wall stands square to its bearing::

            ____wall____
            \    |    /
             \   | d /  d / cos(off)
              \  |  /
               spot
    """
    off = (azimuth_deg - obstacle.bearing_deg + 180.0) % 360.0 - 180.0
    half = np.degrees(np.arctan2(obstacle.width_m / 2, obstacle.distance_m))
    inside = np.abs(off) <= max(float(half), 0.5)
    reach = obstacle.distance_m / np.cos(np.radians(np.where(inside, off, 0.0)))
    return np.where(inside, np.degrees(np.arctan2(obstacle.height_m, reach)), 0.0)


def is_open(skyline_deg: Array, directions: Array) -> Array:
    """1 where a direction clears the skyline, 0 where it is hidden, shape (n,)."""
    azimuth = np.degrees(np.arctan2(directions[:, 0], directions[:, 1])) % 360.0
    altitude = np.degrees(np.arcsin(np.clip(directions[:, 2], -1, 1)))
    edge = np.interp(azimuth, np.arange(360.0), skyline_deg, period=360.0)
    return ((altitude > edge) & (altitude > 0.0)).astype(float)


def sun_share(skyline_deg: Array, directions: Array) -> Array:
    """Share of the sun's disc above the skyline and the horizon, 0–1, shape (n,).

    The disc is 0.53° wide, so that the edge of a shadow takes its two minutes instead of falling at once.
    """
    azimuth = np.degrees(np.arctan2(directions[:, 0], directions[:, 1])) % 360.0
    altitude = np.degrees(np.arcsin(np.clip(directions[:, 2], -1, 1)))
    edge = np.maximum(np.interp(azimuth, np.arange(360.0), skyline_deg, period=360.0), 0.0)
    return np.asarray(np.clip((altitude - edge) / SUN_DISC_DEG + 0.5, 0.0, 1.0))


def plane_axes(tilt_deg: float, azimuth_deg: float) -> Array:
    """Axes of a tilted plane as rows: across (to the right when facing it from above), up the slope, outward normal.

    Parameters
    ----------
    tilt_deg
        from level
    azimuth_deg
        the way the plane looks down its slope, clockwise from north
    """
    tilt, azimuth = math.radians(tilt_deg), math.radians(azimuth_deg)
    (sine, cosine), east, north = (math.sin(tilt), math.cos(tilt)), math.sin(azimuth), math.cos(azimuth)
    return np.array(
        [
            [-north, east, 0.0],
            [-cosine * east, -cosine * north, sine],
            [sine * east, sine * north, cosine],
        ]
    )
