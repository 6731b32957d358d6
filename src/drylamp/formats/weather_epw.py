"""EPW weather files: a typical year of hours."""

from __future__ import annotations

import io
from datetime import UTC, datetime, timedelta

import numpy as np

from drylamp.core.checks import InputProblem, require
from drylamp.core.sky.weather import Records
from drylamp.formats.table_text import lines_of

HEADER_LINES = 8
WHOLE_YEARS = (8760, 8784)
MISSING = {"ghi": 9999.0, "dni": 9999.0, "dhi": 9999.0, "temp_air": 99.9, "relative_humidity": 999.0}


def read_epw(text: str, name: str = "EPW file") -> Records:
    """Read an EPW file's text.

    Raises:
        InputProblem: it is no EPW, cut short, has a broken header, or misses values.
    """
    import pvlib

    lines = lines_of(text)
    require(
        bool(lines) and lines[0].upper().startswith("LOCATION,"), "weather", f"{name}: line 1 is no EPW LOCATION line"
    )
    offset_h = _time_zone(lines[0], name)
    rows = [line for line in lines[HEADER_LINES:] if line.strip()]
    _check_length(rows, name)
    try:
        table, _ = pvlib.iotools.read_epw(io.StringIO("\n".join(lines[:HEADER_LINES] + rows) + "\n"))
    except (ValueError, KeyError, IndexError) as error:
        raise InputProblem("weather", f"{name}: a row cannot be read ({error}); download the file again") from None
    columns = {key: table[key].to_numpy(dtype=float) for key in MISSING}
    for key, mark in MISSING.items():
        gone = np.flatnonzero((columns[key] >= mark) | np.isnan(columns[key]))
        if len(gone):
            raise InputProblem(
                "weather",
                f"{name}: row {gone[0] + HEADER_LINES + 1} has no {key.replace('_', ' ')}; choose another file",
            )
    air = columns["temp_air"]
    return Records(
        time_s=_starts(table, offset_h),
        step_s=3600.0,
        ghi_w_m2=columns["ghi"],
        # Dry bulb is read at the hour's end: the hour's mean lies between two readings.
        air_c=(air + np.roll(air, 1)) / 2.0,
        rh=np.clip(columns["relative_humidity"] / 100.0, 0.01, 1.0),
        wind_m_s=table["wind_speed"].to_numpy(dtype=float),
        dni_w_m2=columns["dni"],
        dhi_w_m2=columns["dhi"],
        pressure_pa=table["atmospheric_pressure"].to_numpy(dtype=float),
        origin=name,
        typical_year=True,
    )


def _time_zone(header: str, name: str) -> float:
    parts = header.split(",")
    require(
        len(parts) >= 10,
        "weather",
        f"{name}: line 1 has {len(parts)} fields, 10 are needed (a decimal comma splits one field in two)",
    )
    require(
        len(parts) == 10, "weather", f"{name}: line 1 has {len(parts)} fields, 10 are allowed; look for a decimal comma"
    )
    try:
        offset = float(parts[8])
    except ValueError:
        raise InputProblem("weather", f"{name}: time zone '{parts[8]}' in line 1 is no number of hours") from None
    require(-12 <= offset <= 14, "weather", f"{name}: time zone {offset:g} in line 1 must lie between -12 and 14 hours")
    return offset


def _check_length(rows: list[str], name: str) -> None:
    if len(rows) in WHOLE_YEARS and len(rows[-1].split(",")) >= 30:
        return
    last = rows[-1].split(",") if rows else []
    when = f"month {last[1]} day {last[2]} hour {last[3]}" if len(last) > 3 else "before the first hour"
    raise InputProblem(
        "weather",
        f"{name} is cut short: {len(rows)} rows of hours where 8760 are needed; it ends at {when} "
        f"(row {HEADER_LINES + len(rows)} of the file). Download it again",
    )


def _starts(table: object, offset_h: float) -> np.ndarray:
    """UTC start of every hour, all laid into one common year (files mix years)."""
    out = []
    for month, day, hour in zip(table["month"], table["day"], table["hour"], strict=True):  # type: ignore[index]
        moment = datetime(2023, int(month), min(int(day), 28) if int(month) == 2 else int(day), tzinfo=UTC)
        out.append((moment + timedelta(hours=int(hour) - 1 - offset_h)).timestamp())
    return np.array(out)
