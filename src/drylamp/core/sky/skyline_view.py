"""A spot's skyline as one draws it: its line, each obstacle's outline, the sun's paths of the year, and how much of them is hidden."""

from __future__ import annotations

import math
from datetime import date, datetime

import numpy as np

from drylamp.core.arrays import Array
from drylamp.core.checks import Azimuth, Count, Model, Number, require
from drylamp.core.sky.dome import silhouette, skyline, sun_share
from drylamp.core.sky.site import Obstacle, Site, Spot
from drylamp.core.sky.sun import sun_over
from drylamp.core.sky.weather import Span, span_edges_s

STEP_S = 600.0
TURNING_DAYS = ((12, 21), (3, 21), (6, 21))
"""Of the year: the sun's lowest path, the middle one, the highest (turned round in the south)."""
LOWEST_TOP_DEG, HIGHEST_TOP_DEG = 0.5, 80.0


class Grip(Model):
    """An obstacle's top is put to a place of the sky: which one, and where its middle then stands."""

    obstacle: Count
    bearing_deg: Azimuth
    top_deg: Number


class SunTrack(Model):
    """The sun's path of a day, from horizon to horizon, and hours of it in the open and hidden."""

    day: date
    azimuth_deg: list[float]
    altitude_deg: list[float]
    time: list[datetime]
    open_hours: float
    hidden_hours: float


class Outline(Model):
    """An obstacle as it is seen: from its left end to its right, and its top's middle."""

    azimuth_deg: list[float]
    altitude_deg: list[float]
    top_deg: float


class SkylineView(Model):
    """A spot as it is drawn; ``spot`` is it after the grip was moved."""

    spot: Spot
    line_deg: list[float]
    outlines: list[Outline]
    tracks: list[SunTrack]
    middle_azimuth_deg: float


def skyline_view(site: Site, spot: Spot, year: int, grip: Grip | None = None) -> SkylineView:
    """The picture of a spot, stored or not.

    Parameters
    ----------
    year : int
        Of the days whose paths are drawn.
    grip : Grip or None
        Moves an obstacle's top first; it keeps its distance and width.

    Raises
    ------
    InputProblem
        the grip names an obstacle that the spot does not have.
    """
    drawn = spot if grip is None else _gripped(spot, grip)
    line = skyline(drawn)
    return SkylineView(
        spot=drawn,
        line_deg=[round(float(v), 2) for v in line],
        outlines=[_outline(obstacle) for obstacle in drawn.obstacles],
        tracks=[_track(site, date(year, *day), line) for day in TURNING_DAYS],
        middle_azimuth_deg=site.equator_azimuth_deg,
    )


def _gripped(spot: Spot, grip: Grip) -> Spot:
    known = len(spot.obstacles)
    require(
        0 <= grip.obstacle < known, "grip.obstacle", f"{grip.obstacle} was given; “{spot.name}” has {known} obstacles"
    )
    was = spot.obstacles[grip.obstacle]
    top = math.radians(min(max(grip.top_deg, LOWEST_TOP_DEG), HIGHEST_TOP_DEG))
    moved = was.model_copy(
        update={"bearing_deg": round(grip.bearing_deg % 360.0, 1), "height_m": round(was.distance_m * math.tan(top), 2)}
    )
    return spot.model_copy(update={"obstacles": [*spot.obstacles[: grip.obstacle], moved, *spot.obstacles[grip.obstacle + 1 :]]})  # fmt: skip


def _outline(obstacle: Obstacle) -> Outline:
    half = max(math.degrees(math.atan2(obstacle.width_m / 2, obstacle.distance_m)), 0.5)
    azimuth = obstacle.bearing_deg + np.linspace(-half, half, 13)
    top = silhouette(obstacle, azimuth)
    return Outline(azimuth_deg=_rounded(azimuth % 360.0), altitude_deg=_rounded(top), top_deg=round(float(top[6]), 2))


def _track(site: Site, day: date, line: Array) -> SunTrack:
    start, end = span_edges_s(site, Span(start=day))
    at = np.arange(start + STEP_S / 2, end, STEP_S)
    sun = sun_over(site, at)
    up = sun.altitude_deg > 0.0
    seen = sun_share(line, sun.direction[up])
    hour = STEP_S / 3600.0
    return SunTrack(
        day=day,
        azimuth_deg=_rounded(sun.azimuth_deg[up]),
        altitude_deg=_rounded(sun.altitude_deg[up]),
        time=[datetime.fromtimestamp(round(float(s)), site.zone) for s in at[up]],
        open_hours=round(float(seen.sum()) * hour, 1),
        hidden_hours=round(float((1.0 - seen).sum()) * hour, 1),
    )


def _rounded(values: Array) -> list[float]:
    return [round(float(v), 2) for v in values]
