"""Where the light lands on a box's tray at an instant."""

from __future__ import annotations

import numpy as np

from drylamp.core.arrays import Array
from drylamp.core.builds.common.box.geometry import FLOOR, STANDING, WALLS, geometry_of, lying, standing
from drylamp.core.builds.common.box.spec import Box
from drylamp.core.builds.common.bright_patch import BrightPatch, SpotLight
from drylamp.core.loads.common.body import Body
from drylamp.core.loads.load import Load
from drylamp.core.optics.sun_table import flux_map
from drylamp.core.sky.dome import plane_axes

CELLS = 16
RAYS_A_CELL = 256
UNEVEN = 1.25
"""Light on one thing over light on another above which they are no longer alike; from memory."""
CALM_SPREAD = 1.6
"""Brightest spot over mean above which the light counts as a patch; from memory."""


def bright_patch(
    build: Box, load: Load | None, toward_sun: Array, cells: int = CELLS, floor: str = "tray"
) -> BrightPatch:
    """Trace the beam of one place of the sun, pot in place, and map what reaches the tray.

    Parameters
    ----------
    toward_sun
        unit vector east, north, up; below the horizon everything is dark
    cells
        of the map along each side, a power of two: its rays grow with its area
    floor
        what light falls on there, in words
    """
    toward = plane_axes(build.tilt_deg, build.facing_deg) @ np.asarray(toward_sun, dtype=float)
    on_floor = standing(build, load)
    size = {
        "width_m": build.width_m, "length_m": build.floor_length_m, "standing_m": None if on_floor is None else on_floor[0],
    }  # fmt: skip
    if toward_sun[2] <= 0:
        dark = [[0.0] * cells for _ in range(cells)]
        return BrightPatch(
            suns=dark,
            peak_suns=0.0,
            mean_suns=0.0,
            **size,
            centre_across=None,
            centre_up=None,
            shares={},
            spots=[],
            words="The sun is down.",
            floor=floor,
        )
    geometry = geometry_of(build, load)
    found = flux_map(geometry, FLOOR, toward, cells, cells, RAYS_A_CELL * cells * cells)
    inside = {name: found.landed_m2[name] for name in (FLOOR, WALLS, STANDING) if name in found.landed_m2}
    total = sum(inside.values())
    shares = {name: area / total for name, area in inside.items()} if total > 0 else {}
    mean = float(found.suns.mean())
    across, up = found.centre
    lit = bool(np.isfinite(across))
    brightest = _brightest(found.suns, found.peak, mean)
    spots = [_spot(build, body, found.suns) for body in lying(build, load)]
    return BrightPatch(
        suns=np.round(found.suns.T, 3).tolist(),
        peak_suns=found.peak,
        mean_suns=mean,
        **size,
        centre_across=across if lit else None,
        centre_up=up if lit else None,
        shares=shares,
        spots=spots,
        floor=floor,
        words=_words(found.peak, mean, *brightest, shares, floor) + _spot_words(spots),
    )


def _brightest(suns: Array, peak: float, mean: float) -> tuple[float, float]:
    """Middle of what is nearer to the peak than to the mean, as shares across and up."""
    weight = np.where(suns > (peak + mean) / 2.0, suns, 0.0)
    total = float(weight.sum())
    if total == 0.0:
        return 0.5, 0.5
    middles = [(np.arange(count) + 0.5) / count for count in suns.shape]
    return float(middles[0] @ weight.sum(axis=1) / total), float(middles[1] @ weight.sum(axis=0) / total)


def _words(peak: float, mean: float, across: float, up: float, shares: dict[str, float], floor: str) -> str:
    if mean <= 0.01:
        return f"No beam reaches the {floor}: the sun stands behind the box or below its edge."
    said = (
        f"{shares.get(STANDING, 0.0) * 100:.0f} of 100 parts of the beam land on the pot, "
        if STANDING in shares
        else ""
    )
    said += f"{shares.get(FLOOR, 0.0) * 100:.0f} on the {floor}, {shares.get(WALLS, 0.0) * 100:.0f} on the walls. "
    if peak < CALM_SPREAD * mean:
        return said + f"The {floor} is lit evenly."
    side = "to the right" if across > 0.58 else "to the left" if across < 0.42 else "in the middle"
    height = "the upper" if up > 0.58 else "the lower" if up < 0.42 else "the middle"
    return (
        said
        + f"The brightest spot has {peak:.1f} times the beam outside; it lies {side}, {height} part of the {floor}."
    )


def _spot(build: Box, body: Body, suns: Array) -> SpotLight:
    """Beam on what lies on the tray: mean of the cells that it covers."""
    wide, long = body.wide_m / build.width_m, body.long_m / build.floor_length_m
    columns, rows = (_cells(at, size, len(suns)) for at, size in ((body.across, wide), (body.up, long)))
    return SpotLight(
        node=body.node, title=body.title, across=body.across, up=body.up, wide=wide, long=long,
        suns=round(float(suns[columns, rows].mean()), 2), path=body.path,
    )  # fmt: skip


def _cells(at: float, size: float, count: int) -> slice:
    low, high = (at - size / 2) * count, (at + size / 2) * count
    first = int(np.clip(np.floor(low), 0, count - 1))
    return slice(first, max(int(np.clip(np.ceil(high), 1, count)), first + 1))


def _spot_words(spots: list[SpotLight]) -> str:
    """Which of several things lies in the patch and which does not."""
    if len(spots) < 2:
        return ""
    best, worst = max(spots, key=lambda s: s.suns), min(spots, key=lambda s: s.suns)
    if best.suns < UNEVEN * max(worst.suns, 0.05):
        return " Everything on the tray gets about the same light."
    return f" {best.title} lies in the patch with {best.suns:.1f} suns, {worst.title} gets {worst.suns:.1f}: turn the flap or move it."
