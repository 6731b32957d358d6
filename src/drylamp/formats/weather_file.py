"""A weather file by its name: EPW, TMY, tidy CSV or hourly JSON."""

from __future__ import annotations

from functools import lru_cache
from pathlib import Path

from drylamp.core.checks import InputProblem, require
from drylamp.core.sky.weather import Records, WeatherFile
from drylamp.formats.table_text import decode
from drylamp.formats.weather_csv import read_weather_csv
from drylamp.formats.weather_epw import read_epw
from drylamp.formats.weather_json import read_weather_json
from drylamp.formats.weather_tmy import is_tmy3, read_tmy

READERS = {"epw": read_epw, "csv": read_weather_csv, "json": read_weather_json, "tmy": read_tmy}


MOST_BYTES = 100_000_000


@lru_cache(maxsize=8)
def read_weather(kind: str, text: str, name: str) -> Records:
    """Read weather of a known kind; the last few files stay in memory."""
    return READERS["tmy" if kind == "csv" and is_tmy3(text) else kind](text, name)


def load_weather(source: WeatherFile, beside: Path) -> Records:
    """Read the weather file that a case names, relative to the case's own folder.

    Raises:
        InputProblem: the file is not there or cannot be read.
    """
    path = beside / source.path
    try:
        data = path.read_bytes()
    except OSError as error:
        raise InputProblem("weather.path", f"'{source.path}' cannot be read ({error}); check the path") from None
    require(len(data) <= MOST_BYTES, "weather.path", f"'{source.path}' has {len(data) / 1e6:.0f} MB; at most {MOST_BYTES / 1e6:.0f} MB are read")  # fmt: skip
    return read_weather(source.kind, decode(data)[0], path.name)
