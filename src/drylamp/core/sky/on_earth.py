"""What a place on earth brings with it: its clock, its height, and how far the sea is.

The height is read off the five-minute grid that pvlib ships (nine kilometres a cell): good to some tens of metres in
plains, to some hundreds between mountains. Cells without height are sea; great lakes are not.
"""

from __future__ import annotations

from functools import lru_cache
from importlib.resources import files
from typing import Any

import numpy as np
import tzfpy

from drylamp.core.arrays import Array
from drylamp.core.checks import InputProblem

HEIGHT_DOUBT_M = 100.0
"""Of a height off the grid where the land is not steep; from memory."""
STEP_DEG = 1.0 / 12.0
SEA = 255
EARTH_KM = 6371.0
NEAR_DEG, FAR_DEG = 3.0, 25.0
"""Windows in which the sea is looked for, one after the other, half their height."""
FARTHEST_KM = 2500.0


@lru_cache(maxsize=1)
def _grid() -> Any:
    import h5py

    with h5py.File(str(files("pvlib") / "data" / "Altitude.h5"), "r") as kept:
        return kept["Altitude"][:]


def _cell(latitude_deg: float, longitude_deg: float) -> tuple[int, int]:
    grid = _grid()
    row = min(int((90.0 - latitude_deg) / STEP_DEG), len(grid) - 1)
    return row, int((longitude_deg + 180.0) / STEP_DEG) % grid.shape[1]


def height_m(latitude_deg: float, longitude_deg: float) -> float:
    """Height of the ground over the sea, mean of a cell of nine kilometres.

    Returns
    -------
    float
        [m]; 0 at sea. Below the sea it is as low as the grid knows.

    References
    ----------
    The grid that comes with pvlib (``Altitude.h5``, five minutes of arc, steps of 28 m; PVLIB Toolbox, Sandia).
    """
    from pvlib.location import lookup_altitude  # slow to import, and only asked for where a place is new

    return float(lookup_altitude(latitude_deg, longitude_deg))


@lru_cache(maxsize=256)
def sea_km(latitude_deg: float, longitude_deg: float) -> float:
    """How far the nearest sea is, as a bird flies.

    Returns
    -------
    float
        [km], to half a cell; at most FARTHEST_KM.
    """
    for half in (NEAR_DEG, FAR_DEG):
        found = _nearest_km(latitude_deg, longitude_deg, half)
        if found <= 0.9 * np.radians(half) * EARTH_KM:
            return found
    return min(found, FARTHEST_KM)


def _nearest_km(latitude_deg: float, longitude_deg: float, half_deg: float) -> float:
    """Great-circle distance to the nearest sea within a window."""
    grid = _grid()
    top, _ = _cell(min(latitude_deg + half_deg, 90.0), longitude_deg)
    low, middle = _cell(max(latitude_deg - half_deg, -90.0), longitude_deg)
    wide = min(half_deg / max(np.cos(np.radians(latitude_deg)), 0.05), 180.0)
    reach = round(wide / STEP_DEG)
    columns = np.arange(middle - reach, middle + reach) % grid.shape[1]
    rows, cols = np.nonzero(grid[top : low + 1][:, columns] == SEA)
    if not len(rows):
        return FARTHEST_KM
    lat = np.radians(90.0 - (top + rows + 0.5) * STEP_DEG)
    lon = np.radians((columns[cols] + 0.5) * STEP_DEG - 180.0)
    return float(EARTH_KM * _apart(lat, lon, np.radians(latitude_deg), np.radians(longitude_deg)).min())


def _apart(lat: Array, lon: Array, here: float, there: float) -> Array:
    """Angle between places, haversine."""
    half = np.sin((lat - here) / 2.0) ** 2 + np.cos(lat) * np.cos(here) * np.sin((lon - there) / 2.0) ** 2
    return np.asarray(2.0 * np.arcsin(np.sqrt(np.clip(half, 0.0, 1.0))))


def zone_at(latitude_deg: float, longitude_deg: float) -> str:
    """Name of the clock that is kept there, as Europe/Madrid.

    Raises
    ------
    InputProblem
        nobody keeps a clock there.
    """
    name = tzfpy.get_tz(longitude_deg, latitude_deg)
    if not name:
        raise InputProblem(
            "time_zone", f"no clock is known at {latitude_deg:g}°, {longitude_deg:g}°; give one such as Europe/Madrid"
        )
    return str(name)
