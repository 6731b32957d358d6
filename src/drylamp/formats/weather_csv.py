"""Tidy weather CSV: ``time, ghi_w_m2, dni_w_m2, dhi_w_m2, air_c, rh, wind_m_s, pressure_pa, rain_mm_h``.

A row's time is the start of its interval (ISO 8601 with offset). dni, dhi, rh, wind, pressure and rain may be missing.
"""

from __future__ import annotations

import math
from datetime import datetime

import numpy as np

from drylamp.core.checks import InputProblem, require
from drylamp.core.sky.weather import Records
from drylamp.core.text import metres_per_second
from drylamp.formats.table_text import Table, cell_of, read_table, surplus_refused

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
    table = _table(text, name)
    columns = table.header
    missing = [c for c in NEEDED if c not in columns]
    require(not missing, "weather", f"{name}: column {', '.join(missing)} is missing; needed are {', '.join(NEEDED)}")
    place = {column: columns.index(column) for column in ("time", *LIMITS) if column in columns}
    times, values = [], {c: [] for c in LIMITS if c in columns}  # type: ignore[var-annotated]
    decimal_comma = table.delimiter != ","
    for number, row in table.rows:
        times.append(_time(cell_of(row, place["time"]), number, name, times))
        for column, into in values.items():
            cell = cell_of(row, place[column])
            into.append(_value(cell.replace(",", ".") if decimal_comma else cell, column, number, name))
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


def _table(text: str, name: str) -> Table:
    """The file's table, every row of it; a file that loses a row would have a gap that nobody sees.

    Raises:
        InputProblem: a row cannot be used, or two columns have one name.
    """
    try:
        table = read_table(text)
    except InputProblem as trouble:
        raise InputProblem("weather", f"{name}: {trouble.message}") from None
    gone = sorted([*table.refused, *surplus_refused(table)], key=lambda refused: refused.row)
    require(not gone, "weather", f"{name}: row {gone[0].row} {gone[0].reason}" if gone else "")
    require(not table.notes, "weather", f"{name}: {table.notes[0]} Take one of them out." if table.notes else "")
    return table


def _time(text: str, number: int, name: str, before: list[float]) -> float:
    try:
        moment = datetime.fromisoformat(text)
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


def _value(text: str, column: str, number: int, name: str) -> float:
    try:
        value = float(text)
    except ValueError:
        raise InputProblem("weather", f"{name}: row {number}: {column} '{text}' is no number") from None
    low, high = LIMITS[column]
    require(
        math.isfinite(value) and low <= value <= high,
        "weather",
        f"{name}: row {number}: {column} {value:g} must lie between {low} and {high}",
    )
    return value
