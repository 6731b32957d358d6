"""Rough monthly means for a place of which only latitude, height and distance from the sea are known: a start, marked as a guess wherever it is used."""

from __future__ import annotations

import math
from itertools import pairwise

from drylamp.core.sky.months import ClimateMonth
from drylamp.core.sky.on_earth import sea_km
from drylamp.core.text import kelvin

ROUGH_K = 6.0
"""How far a month's mean may be off, winds and currents being left out: five measured years in six keep it in every month, the sixth nearly (tests)."""
ROUGH_CLEARNESS = 0.10
"""How far a month's clearness may be off; from memory."""
LAPSE_K_M = 0.005
"""Fall of temperature with height along the ground, gentler than in free air (0.0065); from memory."""
LATEST_MONTH = 6.7
"""Middle of the warmest time, months from 1 January, north of the equator: a month behind the sun; common practice, no source."""
CONTINENTAL_AT_SEA, CONTINENTAL_INLAND, CONTINENTAL_KM = 5.0, 37.0, 200.0
"""Gorczyński's index at a coast, what it gains far inland, and the way on which most of that happens: between the six measured
years of pvlib and diyepw (all of North America, where winters are hard) and the milder west of continents, from memory."""
HALF_DAY_AT_SEA_K, HALF_DAY_INLAND_K, HALF_DAY_KM = 3.2, 2.6, 60.0
"""Half the rise from night to day at a coast, and what it gains inland; the same."""
RH, WIND_M_S = 0.65, 2.5
"""Mean humidity and wind near the ground; common practice, no source."""
ROUGH_SAID = f"Usual weather here is a rough guess from latitude, height and distance from the sea (zonal means after Hartmann, ± {kelvin(ROUGH_K)}, clearness ± {ROUGH_CLEARNESS:.2f})."
"""How a person is told."""
_NORTHERN_C = (
    (0, 26.0),
    (10, 26.5),
    (20, 25.0),
    (30, 20.5),
    (40, 14.0),
    (50, 7.0),
    (60, -0.5),
    (70, -9.0),
    (90, -20.0),
)
_SOUTHERN_C = (
    (0, 26.0),
    (10, 25.5),
    (20, 23.0),
    (30, 18.5),
    (40, 12.5),
    (50, 6.0),
    (60, -1.0),
    (70, -12.0),
    (90, -45.0),
)
"""Yearly mean at sea level by latitude, °C."""
_CLEARNESS = ((0.0, 0.50), (10.0, 0.53), (25.0, 0.58), (35.0, 0.54), (45.0, 0.48), (60.0, 0.43), (90.0, 0.45))
"""Yearly mean clearness by latitude (zonal means of satellite years); from memory."""
_SUMMER_CLEARNESS = 0.07
"""Half the change from winter to summer in middle latitudes; from memory."""


def rough_climate(latitude_deg: float, longitude_deg: float, elevation_m: float) -> list[ClimateMonth]:
    """Rough means of the twelve months.

    Parameters
    ----------
    latitude_deg, longitude_deg : float
        North and east positive [°].
    elevation_m : float
        Height over the sea [m].

    Returns
    -------
    list of ClimateMonth
        January to December, clearness included.

    References
    ----------
    Zonal means of surface air temperature: Hartmann, Global Physical Climatology, ch. 1, read from memory. Yearly range A of
    a place from how continental it is: Gorczyński 1920, K = 1.7 A / sin(latitude) − 20.4, from memory.
    """
    x = math.sin(math.radians(latitude_deg))
    inland_km = sea_km(round(latitude_deg, 2), round(longitude_deg, 2))
    mean_c = _between(_NORTHERN_C if latitude_deg >= 0 else _SOUTHERN_C, abs(latitude_deg))
    mean_c -= LAPSE_K_M * max(elevation_m, 0.0)
    continental = CONTINENTAL_AT_SEA + CONTINENTAL_INLAND * _far(inland_km, CONTINENTAL_KM)
    swing_k = 0.5 * x * (continental + 20.4) / 1.7
    half_day_k = HALF_DAY_AT_SEA_K + HALF_DAY_INLAND_K * _far(inland_km, HALF_DAY_KM)
    clearness = _between(_CLEARNESS, abs(latitude_deg))
    seasonal = _SUMMER_CLEARNESS * x * min(abs(latitude_deg) / 45.0, 1.0)
    out = []
    for month in range(12):
        wave = math.cos(2.0 * math.pi * (month + 0.5 - LATEST_MONTH) / 12.0)
        here_c = mean_c + swing_k * wave
        out.append(
            ClimateMonth(
                tmin_c=round(here_c - half_day_k, 1), tmax_c=round(here_c + half_day_k, 1), rh=RH, wind_m_s=WIND_M_S,
                clearness=round(clearness + seasonal * wave, 3),
            )
        )  # fmt: skip
    return out


def _far(km: float, scale_km: float) -> float:
    """How far inland, from 0 at the coast to 1."""
    return 1.0 - math.exp(-km / scale_km)


def _between(table: tuple[tuple[float, float], ...], latitude: float) -> float:
    for (low, first), (high, second) in pairwise(table):
        if latitude <= high:
            return first + (second - first) * (latitude - low) / (high - low)
    return table[-1][1]
