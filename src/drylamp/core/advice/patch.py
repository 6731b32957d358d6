"""The bright patch of any build that has a tray: at an instant, and hour by hour."""

from __future__ import annotations

from datetime import date, datetime

import numpy as np

from drylamp.core.arrays import Array
from drylamp.core.builds.build import Build
from drylamp.core.builds.common.bright_patch import BrightPatch, PatchDay, PatchHour
from drylamp.core.builds.kind import Patch
from drylamp.core.builds.registry import kind_of
from drylamp.core.checks import InputProblem
from drylamp.core.loads.load import Load
from drylamp.core.sky.clock import day_edges_s, local_time
from drylamp.core.sky.site import Site
from drylamp.core.sky.sun import sun_over
from drylamp.core.twin.placements import between_turns

HOUR_S = 3600.0
COARSE = 8
"""Cells along each side of an hour's small map."""
LOW_SUN = 0.05
"""Sine of the height under which an hour is left out: hardly any light comes in, and none of it matters."""
FAINT_SUNS = 0.05
"""Beam so weak that a share of it says nothing."""
WORTH_SAYING = 0.02


def bright_patch(build: Build, load: Load | None, toward_sun: Array) -> BrightPatch:
    """Where the light lands on the tray.

    Parameters
    ----------
    toward_sun
        unit vector east, north, up; below the horizon everything is dark

    Raises
    ------
    InputProblem
        the build has no tray.
    """
    return _map_of(build)(build, load, toward_sun)


def patch_day(site: Site, build: Build, load: Load | None, day: date) -> PatchDay:
    """Where it lands at every full hour of a day, as it stands then.

    Raises
    ------
    InputProblem
        the build has no tray.
    """
    made, at_s = _map_of(build), np.arange(*day_edges_s(site.zone, day), HOUR_S)
    toward = sun_over(site, at_s).direction
    lit = np.flatnonzero(toward[:, 2] > LOW_SUN)
    hours = [_hour(made, site, build, load, float(at_s[k]), toward[k]) for k in lit]
    floor = made(build, load, np.array([0.0, 0.0, -1.0])).floor
    return PatchDay(hours=hours, floor=floor, words=_day_words(site, hours, floor))


def _map_of(build: Build) -> Patch[Build]:
    made = kind_of(build).patch
    if made is None:
        raise InputProblem("spec.kind", "the bright patch is drawn for boxes with a tray; this kind has none")
    return made


def _hour(made: Patch[Build], site: Site, build: Build, load: Load | None, at_s: float, toward: Array) -> PatchHour:
    stands = between_turns(site, build, at_s)
    found = made(stands, load, toward, COARSE)
    bare = found if stands.largest_mirror_m2 == 0.0 else made(stands.without_mirrors(), load, toward, COARSE)
    share = (found.mean_suns - bare.mean_suns) / found.mean_suns if found.mean_suns > FAINT_SUNS else 0.0
    return PatchHour(
        at=local_time(site.zone, at_s), suns=found.suns, peak_suns=found.peak_suns, mean_suns=found.mean_suns, mirror_share=round(share, 4),
    )  # fmt: skip


def _day_words(site: Site, hours: list[PatchHour], floor: str) -> str:
    """When a mirror brings most, and when it stands in its own light."""
    lit = [hour for hour in hours if hour.mean_suns > FAINT_SUNS]
    if not lit:
        return f"No beam reaches the {floor} on this day."
    best, worst = (pick(lit, key=lambda hour: hour.mirror_share) for pick in (max, min))
    if max(best.mirror_share, -worst.mirror_share) < WORTH_SAYING:
        return f"No mirror throws light on the {floor} on this day."
    said = f"Of the beam on the {floor}, {100 * best.mirror_share:.0f} % comes by the mirror at {_clock(best.at)}"
    if worst.mirror_share < -WORTH_SAYING:
        return f"{said}; at {_clock(worst.at)} it stands before the sun and takes {-100 * worst.mirror_share:.0f} %."
    return f"{said} and {100 * max(worst.mirror_share, 0.0):.0f} % at {_clock(worst.at)}."


def _clock(at: datetime) -> str:
    return f"{at:%H:%M}"
