"""Tidy weather CSV: ``time, ghi_w_m2, dni_w_m2, dhi_w_m2, air_c, rh, wind_m_s, pressure_pa, rain_mm_h``.

A row's time is the start of its interval (ISO 8601 with offset). dni, dhi, rh, wind, pressure and rain may be missing.
"""

from __future__ import annotations

import csv
import io
import math
from datetime import datetime

import numpy as np

from drylamp.core.checks import InputProblem, require
from drylamp.core.sky.weather import Records
from drylamp.core.text import metres_per_second

NEEDED = ("time", "ghi_w_m2", "air_c")
LIMITS = {
    "ghi_w_m2": (-10, 1800), "dni_w_m2": (-10, 1500), "dhi_w_m2": (-10, 1200), "air_c": (-80, 60),
    "rh": (0, 1), "wind_m_s": (0, 80), "pressure_pa": (40000, 115000), "rain_mm_h": (0, 500),
}  # fmt: skip
PAIRED = ("dni_w_m2", "dhi_w_m2")


def read_weather_csv(text: str, name: str = "weather CSV") -> Records:
    """Read tidy weather.

    Raises:
        InputProblem: empty, a needed column is missing, or a row is out of range, out of order or unreadable.
    """
    reader = csv.DictReader(io.StringIO(text))
    columns = [c.strip() for c in reader.fieldnames or []]
    missing = [c for c in NEEDED if c not in columns]
    require(not missing, "weather", f"{name}: column {', '.join(missing)} is missing; needed are {', '.join(NEEDED)}")
    times, values = [], {c: [] for c in LIMITS if c in columns}  # type: ignore[var-annotated]
    for number, row in enumerate(reader, start=2):
        times.append(_time(row["time"], number, name, times))
        for column, into in values.items():
            into.append(_value(row.get(column), column, number, name))
    require(len(times) >= 2, "weather", f"{name}: {len(times)} rows of data; at least 2 are needed")
    steps = np.diff(times)
    arrays = {column: np.array(v) for column, v in values.items()}
    whole = all(column in arrays for column in PAIRED)
    count = len(times)
    return Records(
        time_s=np.array(times),
        step_s=float(np.median(steps)),
        ghi_w_m2=np.maximum(arrays["ghi_w_m2"], 0.0),
        air_c=arrays["air_c"],
        rh=np.clip(arrays.get("rh", np.full(count, 0.5)), 0.01, 1.0),
        wind_m_s=arrays.get("wind_m_s", np.full(count, 2.0)),
        dni_w_m2=np.maximum(arrays["dni_w_m2"], 0.0) if whole else None,
        dhi_w_m2=np.maximum(arrays["dhi_w_m2"], 0.0) if whole else None,
        pressure_pa=arrays.get("pressure_pa"),
        rain_mm_h=arrays.get("rain_mm_h"),
        origin=name
        + "".join(
            f"; no {c}, {v} taken" for c, v in (("rh", "50 %"), ("wind_m_s", metres_per_second(2.0))) if c not in arrays
        ),
    )


def _time(text: str | None, number: int, name: str, before: list[float]) -> float:
    try:
        moment = datetime.fromisoformat((text or "").strip())
    except ValueError:
        raise InputProblem(
            "weather", f"{name}: row {number}: time '{text}' is not ISO 8601, such as 2025-06-12T10:00+02:00"
        ) from None
    require(
        moment.tzinfo is not None,
        "weather",
        f"{name}: row {number}: time '{text}' has no offset; write it as 2025-06-12T10:00+02:00",
    )
    second = moment.timestamp()
    require(
        not before or second > before[-1],
        "weather",
        f"{name}: row {number}: time '{text}' is not after the row before; sort the file",
    )
    return second


def _value(text: str | None, column: str, number: int, name: str) -> float:
    try:
        value = float((text or "").strip())
    except ValueError:
        raise InputProblem("weather", f"{name}: row {number}: {column} '{text}' is no number") from None
    low, high = LIMITS[column]
    require(
        math.isfinite(value) and low <= value <= high,
        "weather",
        f"{name}: row {number}: {column} {value:g} must lie between {low} and {high}",
    )
    return value
