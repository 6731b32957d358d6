"""Sites and the weather files that belong to them."""

from __future__ import annotations

import sqlite3
from dataclasses import dataclass
from datetime import date

from drylamp.core.sky.site import Site
from drylamp.core.sky.weather import ClearDay, SkyState
from drylamp.core.twin.case import climate_day
from drylamp.store.database import NotFoundError, StaleWriteError, atomic
from drylamp.store.unreadable import of_row, readable


@dataclass(frozen=True)
class SiteRow:
    """A stored site."""

    id: int
    revision: int
    site: Site


def add_site(db: sqlite3.Connection, site: Site) -> int:
    """Store a new site; return its id."""
    with atomic(db):
        cursor = db.execute("INSERT INTO site (doc) VALUES (:doc)", {"doc": site.model_dump_json()})
    return int(cursor.lastrowid or 0)


def any_site(db: sqlite3.Connection) -> bool:
    """Whether there is a site at all, readable or not."""
    return bool(db.execute("SELECT EXISTS (SELECT 1 FROM site)").fetchone()[0])


def list_sites(db: sqlite3.Connection) -> list[SiteRow]:
    """All sites, oldest first."""
    return readable(db.execute("SELECT id, revision, doc FROM site ORDER BY id"), _row)


def get_site(db: sqlite3.Connection, site_id: int) -> SiteRow:
    """One site.

    Raises:
        NotFoundError: there is none of that id.
    """
    row = db.execute("SELECT id, revision, doc FROM site WHERE id = :id", {"id": site_id}).fetchone()
    if row is None:
        raise NotFoundError(f"there is no site {site_id}")
    return _row(row)


def change_site(db: sqlite3.Connection, site_id: int, site: Site, seen: int) -> SiteRow:
    """Store a changed site if nobody changed it since revision ``seen``.

    Raises:
        StaleWriteError: somebody did.
    """
    with atomic(db):
        current = get_site(db, site_id)
        if current.revision != seen:
            raise StaleWriteError(
                f"this site was changed elsewhere (you saw revision {seen}, it is {current.revision}); reload and repeat",
                current.revision,
            )
        db.execute(
            "UPDATE site SET doc = :doc, revision = revision + 1 WHERE id = :id",
            {"doc": site.model_dump_json(), "id": site_id},
        )
    return SiteRow(site_id, seen + 1, site)


def day_typed(db: sqlite3.Connection, site_id: int, day: date) -> ClearDay | None:
    """A day's weather as somebody typed it; none where nobody did."""
    row = db.execute(
        "SELECT doc FROM day_weather WHERE site_id = :site AND day = :day", {"site": site_id, "day": day.isoformat()}
    ).fetchone()
    return (
        None
        if row is None
        else of_row("What was typed for", day.isoformat(), lambda: ClearDay.model_validate_json(row["doc"]))
    )


def weather_on(db: sqlite3.Connection, site_id: int, site: Site, day: date, sky: SkyState | None) -> ClearDay:
    """What is known of a day beforehand: the season's usual under a sky that is named, else what was typed for it, else the usual clear one."""
    typed = day_typed(db, site_id, day) if sky is None else None
    return typed or climate_day(site, day, sky or "clear")


def type_day(db: sqlite3.Connection, site_id: int, day: date, weather: ClearDay | None) -> None:
    """Keep a day's weather, or let it go."""
    with atomic(db):
        get_site(db, site_id)
        at = {"site": site_id, "day": day.isoformat()}
        db.execute("DELETE FROM day_weather WHERE site_id = :site AND day = :day", at)
        if weather is not None:
            doc = weather.model_dump_json()
            db.execute("INSERT INTO day_weather (site_id, day, doc) VALUES (:site, :day, :doc)", {**at, "doc": doc})


def _row(row: sqlite3.Row) -> SiteRow:
    return SiteRow(row["id"], row["revision"], of_row("Site", row["id"], lambda: Site.model_validate_json(row["doc"])))


@dataclass(frozen=True)
class WeatherRow:
    """A stored weather file, without its text."""

    id: int
    site_id: int
    name: str
    kind: str


def add_weather(db: sqlite3.Connection, site_id: int, name: str, kind: str, content: str, now: str) -> int:
    """Keep a weather file; return its id."""
    with atomic(db):
        get_site(db, site_id)
        cursor = db.execute(
            """
            INSERT INTO weather_file (site_id, name, kind, content, added_at)
            VALUES (:site, :name, :kind, :content, :now)
            """,
            {"site": site_id, "name": name, "kind": kind, "content": content, "now": now},
        )
    return int(cursor.lastrowid or 0)


def list_weather(db: sqlite3.Connection, site_id: int) -> list[WeatherRow]:
    """Weather files of a site."""
    rows = db.execute("SELECT id, site_id, name, kind FROM weather_file WHERE site_id = :s ORDER BY id", {"s": site_id})
    return [WeatherRow(**dict(row)) for row in rows]


def weather_text(db: sqlite3.Connection, weather_id: int) -> tuple[str, str, str]:
    """Kind, text and name of a weather file.

    Raises:
        NotFoundError: there is none of that id.
    """
    row = db.execute("SELECT kind, content, name FROM weather_file WHERE id = :id", {"id": weather_id}).fetchone()
    if row is None:
        raise NotFoundError(f"there is no weather file {weather_id}")
    return row["kind"], row["content"], row["name"]
