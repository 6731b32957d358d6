"""Where a build stands and which way it looks in the course of a run, turned after the sun as often as it says."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from drylamp.core.builds.build import Build
from drylamp.core.sky.site import Site
from drylamp.core.sky.sun import sun_over
from drylamp.core.sky.weather import Weather

TURNED_FROM_DEG = 5.0
"""Height of the sun from which on anybody turns anything; common practice, no source."""
LONG_S, COARSE_DEG = 15 * 86400.0, 1.0
"""In longer runs the lean of an axis is rounded to so much, which is how well a hand sets it: each lean is traced."""


@dataclass(frozen=True)
class Placement:
    """Where a build stands from an instant on: its spot, and the way it faces and leans when it was turned."""

    from_s: float
    spot: str | None
    facing_deg: float | None = None
    tilt_deg: float | None = None


def toward_sun(build: Build, spot: str | None, from_s: float, altitude_deg: float, azimuth_deg: float) -> Placement:
    """A placement from an instant on, turned to where the sun stands: about the upright, after its height where the build can."""
    tilt = 90.0 - altitude_deg if build.tracking == "both" else None
    return Placement(from_s, spot, azimuth_deg, tilt)


def toward_sun_of(site: Site, build: Build, spot: str | None, at_s: float) -> Placement:
    """A placement turned to the sun of its own instant."""
    sun = sun_over(site, np.array([at_s]))
    return toward_sun(build, spot, at_s, float(sun.altitude_deg[0]), float(sun.azimuth_deg[0]))


def between_turns(site: Site, build: Build, at_s: float) -> Build:
    """The build as it stands half-way between two turns at an instant; as it is where nobody turns it or the sun is low."""
    every = build.turns_every_minutes
    if every is None:
        return build
    then = at_s - 30.0 * every
    sun = sun_over(site, np.array([then]))
    if sun.altitude_deg[0] < TURNED_FROM_DEG:
        return build
    at = toward_sun(build, None, then, float(sun.altitude_deg[0]), float(sun.azimuth_deg[0]))
    return build.turned_to(round(at.facing_deg or 0.0, 2), None if at.tilt_deg is None else round(at.tilt_deg, 2))


def placements_of(spot: str | None, build: Build, weather: Weather) -> list[Placement]:
    """Where a build stands through a run, turned to the sun as often as it says.

    The first turn of a day is for the sun as it stands a little above the ground.
    """
    first = Placement(weather.start_s, spot)
    every = build.turns_every_minutes
    if every is None:
        return [first]
    sun, coarse = weather.sun, weather.steps * weather.dt_s > LONG_S
    out, due = [first], -np.inf
    for k in np.flatnonzero(sun.altitude_deg > TURNED_FROM_DEG):
        if sun.time_s[k] >= due:
            height = float(sun.altitude_deg[k])
            height = round(height / COARSE_DEG) * COARSE_DEG if coarse else height
            begins = float(sun.time_s[k]) - weather.dt_s / 2
            out.append(toward_sun(build, spot, begins, height, float(sun.azimuth_deg[k])))
            due = sun.time_s[k] + 60.0 * every
        if k + 1 < len(sun.time_s) and sun.altitude_deg[k + 1] <= TURNED_FROM_DEG:
            due = -np.inf  # the next morning begins afresh
    return out
