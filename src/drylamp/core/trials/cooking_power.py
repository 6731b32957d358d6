"""Standardised cooking power from a log of water, air, sun and wind.

References:
    ASAE/ASABE S580.1: powers over 10 minutes, scaled to 700 W/m², regressed on the temperature difference, read at 50 K.
"""

from __future__ import annotations

import csv
from dataclasses import dataclass
from datetime import datetime

import numpy as np
from scipy.special import stdtrit

from drylamp.core.air.constants import CP_WATER_J_KGK
from drylamp.core.arrays import Array
from drylamp.core.checks import InputProblem, Model, YesNo, require
from drylamp.core.text import amount, celsius, metres_per_second, watts_m2

INTERVAL_S, STANDARD_SUN_W_M2, STANDARD_RISE_K = 600.0, 700.0, 50.0
LEAST_POINTS, LEAST_R2 = 30, 0.75
SUN_RANGE_W_M2, SUN_SWING_W_M2 = (450.0, 1100.0), 100.0
AIR_RANGE_C, MOST_WIND_M_S, LOAD_KG_M2 = (20.0, 35.0), 1.0, 7.0
COLUMNS = ("time", "water_c", "ambient_c", "sun_w_m2", "wind_m_s")


@dataclass(frozen=True)
class PowerLog:
    """Readings in rising time; seconds since the first, °C, W/m², m/s, each shape (n,)."""

    second: Array
    water_c: Array
    ambient_c: Array
    sun_w_m2: Array
    wind_m_s: Array


@dataclass(frozen=True)
class PowerPoints:
    """One point for each interval of ten minutes: mean difference water − air (K), scaled power (W), mean sun."""

    difference_k: Array
    power_w: Array
    sun_w_m2: Array
    swing_w_m2: Array
    air_c: Array
    wind_m_s: Array


class CookingPower(Model):
    """The standard's figure with its 95 % interval, and whether the standard would accept the test."""

    standard_power_w: float
    slope_w_k: float
    intercept_w: float
    r2: float
    points: int
    ci_low_w: float
    ci_high_w: float
    valid: YesNo
    reasons: list[str]


def read_log(text: str) -> PowerLog:
    """Read a CSV with the columns COLUMNS, comma or semicolon between.

    Raises
    ------
    InputProblem
        a column is missing, a value is no number, or the times do not rise; names the row.
    """
    lines = text.lstrip("\ufeff").splitlines()
    require(len(lines) > 1, "file", "has no rows; give a header line and readings")
    delimiter = ";" if lines[0].count(";") > lines[0].count(",") else ","
    reader = csv.DictReader(lines, delimiter=delimiter, skipinitialspace=True)
    missing = [name for name in COLUMNS if name not in (reader.fieldnames or [])]
    require(not missing, "file", f"has no column {', '.join(missing)}; needed are {', '.join(COLUMNS)}")
    rows = [_row(number, raw) for number, raw in enumerate(reader, start=2)]
    table = np.array(rows)
    second = table[:, 0] - table[0, 0]
    late = np.flatnonzero(np.diff(second) <= 0)
    require(
        len(late) == 0,
        "file",
        f"row {late[0] + 3 if len(late) else 0}: its time is not after the row before; sort the rows",
    )
    return PowerLog(second, *(table[:, k] for k in range(1, 5)))


def _row(number: int, raw: dict[str, str | None]) -> list[float]:
    try:
        moment = datetime.fromisoformat(str(raw["time"]).strip()).timestamp()
    except ValueError:
        raise InputProblem(
            "file", f"row {number}: '{raw['time']}' is no ISO 8601 time, such as 2025-06-12T11:20:00+02:00"
        ) from None
    out = [moment]
    for name in COLUMNS[1:]:
        try:
            value = float(str(raw[name]).strip().replace(",", "."))
        except ValueError:
            raise InputProblem("file", f"row {number}: {name} '{raw[name]}' is no number") from None
        require(bool(np.isfinite(value)), "file", f"row {number}: {name} '{raw[name]}' is no finite number")
        out.append(value)
    return out


def intervals(log: PowerLog, mass_kg: float) -> PowerPoints:
    """Powers over ten minutes each, end to end; none across a gap in the readings.

    A gap is a pause of more than two and a half usual pauses, or of more than ten minutes.
    """
    pauses = np.diff(log.second)
    gap_s = min(max(2.5 * float(np.median(pauses)), 60.0), INTERVAL_S * 1.05) if len(pauses) else 0.0
    points, first = [], 0
    while first < len(log.second) - 1:
        last = int(np.argmin(np.abs(log.second - (log.second[first] + INTERVAL_S))))
        gaps = np.flatnonzero(pauses[first:last] > gap_s) if last > first else np.array([0])
        if len(gaps):
            first += int(gaps[0]) + 1
            continue
        length = log.second[last] - log.second[first]
        if abs(length - INTERVAL_S) > 0.25 * INTERVAL_S:
            break
        points.append(_point(log, slice(first, last + 1), length, mass_kg))
        first = last
    table = np.array(points).reshape(-1, 6)
    return PowerPoints(*table.T)


def _point(log: PowerLog, part: slice, length_s: float, mass_kg: float) -> list[float]:
    second = log.second[part]

    def mean(values: Array) -> float:
        return float(np.trapezoid(values[part], second) / length_s)

    sun, air = mean(log.sun_w_m2), mean(log.ambient_c)
    require(sun > 0, "file", f"no sun from second {second[0]:.0f} to {second[-1]:.0f}; leave the dark out")
    rise = log.water_c[part][-1] - log.water_c[part][0]
    power = mass_kg * CP_WATER_J_KGK * rise / length_s * STANDARD_SUN_W_M2 / sun
    return [mean(log.water_c) - air, power, sun, float(np.ptp(log.sun_w_m2[part])), air, mean(log.wind_m_s)]


def cooking_power(points: PowerPoints, mass_kg: float, area_m2: float) -> CookingPower:
    """Fit the standard's line, with the 95 % interval of its value at 50 K.

    Raises
    ------
    InputProblem
        fewer than three intervals, or all at one temperature difference.
    """
    x, y = points.difference_k, points.power_w
    require(len(x) >= 3, "file", f"only {len(x)} intervals of ten minutes without a gap; a line needs three")
    spread = float(((x - x.mean()) ** 2).sum())
    require(spread > 1e-6, "file", "the water stays at one temperature; a line needs a rise")
    slope = float(((x - x.mean()) * (y - y.mean())).sum() / spread)
    intercept = float(y.mean() - slope * x.mean())
    off = y - intercept - slope * x
    total = float(((y - y.mean()) ** 2).sum())
    r2 = 1.0 - float((off**2).sum()) / total if total > 0 else 1.0
    at = intercept + slope * STANDARD_RISE_K
    freedom = len(x) - 2
    scatter = float(np.sqrt((off**2).sum() / freedom))
    wide = float(stdtrit(freedom, 0.975)) * scatter * np.sqrt(1 / len(x) + (STANDARD_RISE_K - x.mean()) ** 2 / spread)
    reasons = _reasons(points, r2, mass_kg, area_m2)
    return CookingPower(
        standard_power_w=at,
        slope_w_k=slope,
        intercept_w=intercept,
        r2=r2,
        points=len(x),
        ci_low_w=at - float(wide),
        ci_high_w=at + float(wide),
        valid=not reasons,
        reasons=reasons,
    )


def _reasons(points: PowerPoints, r2: float, mass_kg: float, area_m2: float) -> list[str]:
    """What the standard would hold against the test; empty when it is valid."""
    low, high = SUN_RANGE_W_M2
    out_of_sun = int(((points.sun_w_m2 < low) | (points.sun_w_m2 > high)).sum())
    unsteady = int((points.swing_w_m2 > SUN_SWING_W_M2).sum())
    windy = int((points.wind_m_s > MOST_WIND_M_S).sum())
    out_of_air = int(((points.air_c < AIR_RANGE_C[0]) | (points.air_c > AIR_RANGE_C[1])).sum())
    load = mass_kg / area_m2
    found = [
        (len(points.sun_w_m2) < LEAST_POINTS, f"{len(points.sun_w_m2)} intervals, the standard wants {LEAST_POINTS}"),
        (r2 <= LEAST_R2, f"r² is {r2:.2f}, the standard wants more than {LEAST_R2:g}"),
        (out_of_sun > 0, f"sun outside {watts_m2(low)} to {watts_m2(high)} in {out_of_sun} intervals"),
        (unsteady > 0, f"sun swings by more than {watts_m2(SUN_SWING_W_M2)} in {unsteady} intervals"),
        (windy > 0, f"wind above {metres_per_second(MOST_WIND_M_S)} in {windy} intervals"),
        (
            out_of_air > 0,
            f"air outside {celsius(AIR_RANGE_C[0])} to {celsius(AIR_RANGE_C[1])} in {out_of_air} intervals",
        ),
        (
            abs(load / LOAD_KG_M2 - 1) > 0.1,
            f"{amount(load, 'mass_area')} of water by opening, the standard wants {amount(LOAD_KG_M2, 'mass_area')}",
        ),
    ]
    return [words for is_so, words in found if is_so]
