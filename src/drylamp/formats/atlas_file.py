"""Files of an atlas: places in, one tidy table out, and a journal of the years that are done."""

from __future__ import annotations

import csv
import io
import json
from collections.abc import Iterable, Sequence
from pathlib import Path
from typing import TextIO

from pydantic import ValidationError

from drylamp.core.atlas import MonthRow, Place
from drylamp.core.checks import InputProblem, explain, require
from drylamp.core.sky.on_earth import zone_at
from drylamp.core.sky.site import Site
from drylamp.core.sky.weather import WeatherFile
from drylamp.formats.table_text import decode
from drylamp.formats.weather_file import load_weather

NEEDED, OPTIONAL = ("name", "latitude_deg", "longitude_deg"), ("elevation_m", "time_zone", "weather")
KINDS = {".epw": "epw", ".csv": "csv", ".json": "json", ".tm2": "tmy", ".tmy": "tmy"}
MOST_PLACES = 5000
PARQUET = ".parquet"


def read_places(path: Path) -> list[Place]:
    """Places of a CSV: name, latitude_deg, longitude_deg, and if known elevation_m, time_zone, and weather, a file beside it.

    Raises
    ------
    InputProblem
        a column is missing or unknown, or a line cannot be read; says which.
    """
    try:
        text = decode(path.read_bytes())[0]
    except OSError as error:
        raise InputProblem("--sites", f"{path} cannot be read ({error.strerror or error})") from None
    table = csv.DictReader(io.StringIO(text))
    names = [name.strip() for name in table.fieldnames or []]
    missing, strange = [n for n in NEEDED if n not in names], [n for n in names if n not in (*NEEDED, *OPTIONAL)]
    require(
        not missing,
        "--sites",
        f"{path} has no column {', '.join(missing)}; needed are {', '.join(NEEDED)}, allowed besides {', '.join(OPTIONAL)}",
    )
    require(
        not strange,
        "--sites",
        f"{path} has a column '{strange[0] if strange else ''}' that nobody knows; allowed are {', '.join((*NEEDED, *OPTIONAL))}",
    )
    found = [
        _place(dict(zip(names, row.values(), strict=False)), path, number) for number, row in enumerate(table, start=2)
    ]
    require(0 < len(found) <= MOST_PLACES, "--sites", f"{path} has {len(found)} places; allowed are 1 to {MOST_PLACES}")
    return found


def _place(row: dict[str, object], path: Path, number: int) -> Place:
    given = {name: str(value).strip() for name, value in row.items() if value not in (None, "")}
    where = f"line {number} of {path.name}"
    try:
        numbers = {
            name: float(given[name]) for name in ("latitude_deg", "longitude_deg", "elevation_m") if name in given
        }
        require({"latitude_deg", "longitude_deg"} <= set(numbers), "--sites", f"{where} has no latitude or longitude")
        zone = given.get("time_zone") or zone_at(numbers["latitude_deg"], numbers["longitude_deg"])
        site = Site(name=given.get("name", ""), time_zone=zone, **numbers)
    except ValidationError as error:
        first = explain(error)[0]
        raise InputProblem("--sites", f"{where}, {first.field}: {first.message}") from None
    except InputProblem as problem:
        raise InputProblem("--sites", f"{where}: {problem.message}") from None
    except ValueError as error:
        raise InputProblem(
            "--sites", f"{where}: {error}; latitude, longitude and elevation are plain numbers"
        ) from None
    named = given.get("weather")
    if named is None:
        return Place(site)
    kind = KINDS.get(Path(named).suffix.lower())
    require(kind is not None, "--sites", f"{where}: '{named}' is no weather file; allowed are {', '.join(KINDS)}")
    try:
        return Place(site, load_weather(WeatherFile(kind=kind, path=named), path.parent))
    except InputProblem as problem:
        raise InputProblem("--sites", f"{where}: {problem.message}") from None


def write_table(path: Path, rows: Sequence[MonthRow]) -> None:
    """Write a tidy table, one line a month: Parquet where the name ends so, else CSV.

    Raises
    ------
    InputProblem
        Parquet was asked for and pyarrow is not there.
    """
    columns = list(MonthRow.model_fields)
    if path.suffix == PARQUET:
        check_parquet()
        import pyarrow
        import pyarrow.parquet

        table = pyarrow.table({name: [getattr(row, name) for row in rows] for name in columns})
        pyarrow.parquet.write_table(table, path)
        return
    with path.open("w", newline="", encoding="utf-8") as file:
        out = csv.writer(file)
        out.writerow(columns)
        out.writerows([getattr(row, name) for name in columns] for row in rows)


def check_parquet() -> None:
    """Refuse Parquet where it cannot be written."""
    try:
        import pyarrow.parquet  # noqa: F401
    except ImportError:
        raise InputProblem("--out", "Parquet needs pyarrow: pip install 'drylamp[cluster]', or name a .csv") from None


def read_journal(path: Path) -> dict[str, list[MonthRow]]:
    """Years that an earlier run has done, by their pieces' keys; a line that was cut off is left out."""
    found = dict[str, list[MonthRow]]()
    if not path.exists():
        return found
    for line in path.read_text(encoding="utf-8").splitlines():
        try:
            one = json.loads(line)
            found[str(one["key"])] = [MonthRow.model_validate(row) for row in one["rows"]]
        except (ValueError, KeyError, TypeError):
            continue
    return found


def add_to_journal(file: TextIO, key: str, rows: Iterable[MonthRow]) -> None:
    """Note a year that is done, at once."""
    file.write(json.dumps({"key": key, "rows": [row.model_dump() for row in rows]}) + "\n")
    file.flush()
