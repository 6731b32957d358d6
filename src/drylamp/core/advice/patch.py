"""Where the light lands on the tray at an instant: the map of the bright patch."""

from __future__ import annotations

import numpy as np

from drylamp.core.builds.box_oven import BoxOven
from drylamp.core.builds.box_oven_scene import FLOOR, POT, WALLS, scene_of
from drylamp.core.builds.kinds import BuildSpec
from drylamp.core.checks import InputProblem, Model
from drylamp.core.loads.load import AnyLoad
from drylamp.core.optics.sun_table import flux_map
from drylamp.core.sky.dome import plane_axes
from drylamp.core.sky.sun import Array

CELLS = 16
CALM_SPREAD = 1.6
"""Brightest spot over mean above which the light counts as a patch; from memory."""


class BrightPatch(Model):
    """Beam on the tray, cell by cell, as a multiple of the beam outside; rows run up the slope, columns to the right.

    Attributes:
        centre_across, centre_up: middle of the light as shares of the tray; None in the dark
        shares: of the beam that comes through the cover, where it lands first
    """

    suns: list[list[float]]
    peak_suns: float
    mean_suns: float
    centre_across: float | None
    centre_up: float | None
    shares: dict[str, float]
    words: str


def bright_patch(build: BuildSpec, load: AnyLoad | None, toward_sun: Array) -> BrightPatch:
    """Trace the beam of one place of the sun, pot in place, and map what reaches the tray.

    Args:
        toward_sun: unit vector east, north, up; below the horizon everything is dark

    Raises:
        InputProblem: the build has no tray.
    """
    if not isinstance(build, BoxOven):
        raise InputProblem("spec.kind", "the bright patch is drawn for boxes with a tray; samples lie in the even sun")
    toward = plane_axes(build.tilt_deg, build.facing_deg) @ np.asarray(toward_sun, dtype=float)
    if toward_sun[2] <= 0:
        dark = [[0.0] * CELLS for _ in range(CELLS)]
        return BrightPatch(
            suns=dark,
            peak_suns=0.0,
            mean_suns=0.0,
            centre_across=None,
            centre_up=None,
            shares={},
            words="The sun is down.",
        )
    scene = scene_of(build, load)
    found = flux_map(scene, FLOOR, toward, CELLS, CELLS)
    inside = {name: found.landed_m2[name] for name in (FLOOR, WALLS, POT) if name in found.landed_m2}
    total = sum(inside.values())
    shares = {name: area / total for name, area in inside.items()} if total > 0 else {}
    mean = float(found.suns.mean())
    across, up = found.centre
    lit = bool(np.isfinite(across))
    return BrightPatch(
        suns=np.round(found.suns.T, 3).tolist(),
        peak_suns=found.peak,
        mean_suns=mean,
        centre_across=across if lit else None,
        centre_up=up if lit else None,
        shares=shares,
        words=_words(found.peak, mean, across, up, shares),
    )


def _words(peak: float, mean: float, across: float, up: float, shares: dict[str, float]) -> str:
    if mean <= 0.01:
        return "No beam reaches the tray: the sun stands behind the box or below its edge."
    said = f"{shares.get(POT, 0.0) * 100:.0f} of 100 W of beam land on the pot, " if POT in shares else ""
    said += f"{shares.get(FLOOR, 0.0) * 100:.0f} on the tray, {shares.get(WALLS, 0.0) * 100:.0f} on the walls. "
    if peak < CALM_SPREAD * mean:
        return said + "The tray is lit evenly."
    side = "to the right" if across > 0.58 else "to the left" if across < 0.42 else "in the middle"
    height = "the upper" if up > 0.58 else "the lower" if up < 0.42 else "the middle"
    return (
        said
        + f"The brightest spot has {peak:.1f} times the beam outside; the light lies {side}, {height} part of the tray."
    )
