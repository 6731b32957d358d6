"""Typical years as TMY3 (with a line of names) and TMY2 (columns of fixed width), read by pvlib."""

from __future__ import annotations

import io
import tempfile
from datetime import UTC, datetime, timedelta
from pathlib import Path
from typing import Any

import numpy as np

from drylamp.core.checks import InputProblem, require
from drylamp.core.sky.weather import Records

WHOLE_YEAR = 8760
NAMED = "Date (MM/DD/YYYY)"
COLUMNS_3 = {"ghi": "ghi", "dni": "dni", "dhi": "dhi", "air": "temp_air", "rh": "relative_humidity", "wind": "wind_speed", "pressure": "pressure"}  # fmt: skip
COLUMNS_2 = {"ghi": "GHI", "dni": "DNI", "dhi": "DHI", "air": "DryBulb", "rh": "RHum", "wind": "Wspd", "pressure": "Pressure"}  # fmt: skip
TENTHS = 10.0
MILLIBAR_PA = 100.0


def is_tmy3(text: str) -> bool:
    """Whether a comma file is a TMY3: its second line begins with its own name for the date."""
    return text.split("\n", 2)[1:2] != [] and text.split("\n", 2)[1].startswith(NAMED)


def read_tmy(text: str, name: str = "TMY file") -> Records:
    """Read a TMY3 or TMY2 file's text.

    Raises
    ------
    InputProblem
        it is neither, cut short, or misses values.
    """
    import pvlib

    try:
        if is_tmy3(text):
            table, about = pvlib.iotools.read_tmy3(io.StringIO(text), coerce_year=2023, map_variables=True)
            found, tenths = {key: table[column] for key, column in COLUMNS_3.items()}, 1.0
        else:
            table, about = _tmy2(text)
            found, tenths = {key: table[column] for key, column in COLUMNS_2.items()}, TENTHS
        offset_h = float(about["TZ"])
    except (ValueError, KeyError, IndexError, TypeError, AttributeError, NameError) as error:
        raise InputProblem("weather", f"{name}: it is no TMY3 or TMY2 file ({error}); choose another") from None
    require(
        len(table) == WHOLE_YEAR,
        "weather",
        f"{name} has {len(table)} hours where {WHOLE_YEAR} are needed; download it again",
    )
    columns = {key: np.asarray(series, dtype=float) for key, series in found.items()}
    for key, values in columns.items():
        gone = np.flatnonzero(np.isnan(values) | (values <= -9000))
        require(
            len(gone) == 0,
            "weather",
            f"{name}: hour {gone[0] + 1 if len(gone) else 0} of the year has no {key}; choose another file",
        )
    air = columns["air"] / tenths
    return Records(
        time_s=_starts(len(table), offset_h),
        step_s=3600.0,
        ghi_w_m2=columns["ghi"],
        # Dry bulb is read at the hour's end: the hour's mean lies between two readings.
        air_c=(air + np.roll(air, 1)) / 2.0,
        rh=np.clip(columns["rh"] / 100.0, 0.01, 1.0),
        wind_m_s=columns["wind"] / tenths,
        dni_w_m2=columns["dni"],
        dhi_w_m2=columns["dhi"],
        pressure_pa=columns["pressure"] * MILLIBAR_PA,
        origin=name,
        typical_year=True,
    )


def _tmy2(text: str) -> Any:
    """Read by pvlib, which wants a file of its own."""
    import pvlib

    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / "year.tm2"
        path.write_text(text, encoding="utf-8")
        return pvlib.iotools.read_tmy2(str(path))


def _starts(hours: int, offset_h: float) -> np.ndarray:
    """UTC start of every hour, all laid into one common year; rows stand in the order of the year."""
    first = datetime(2023, 1, 1, tzinfo=UTC) - timedelta(hours=offset_h)
    return np.asarray(first.timestamp() + 3600.0 * np.arange(hours))
