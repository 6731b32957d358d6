"""All that a data file holds, row by row, to be written as a yard file and read back; plain records, the file's form is not known here."""

from __future__ import annotations

import json
import secrets
import sqlite3
from collections.abc import Callable, Iterable, Iterator
from dataclasses import dataclass, field
from typing import Any

from drylamp.core.checks import Model
from drylamp.core.sky.site import Site
from drylamp.core.sky.weather import ClearDay
from drylamp.store.database import atomic

Record = dict[str, Any]
READING = "channel, time_ms, value, doubt, typed, unit, source, flag_code, flag_text, withdrawn_at, import_id"


@dataclass
class _Notes:
    """What is noted as a yard is written: what was left out, and which row each named file holds; names count from 1, so that alike yards are alike."""

    left: list[str] = field(default_factory=list)
    rows: dict[str, int] = field(default_factory=dict)
    keys: dict[int, int] = field(default_factory=dict)
    builds: dict[int, int] = field(default_factory=dict)
    pictured: int = 0

    def pictured_row(self) -> int:
        """A number for a row of a sheet that has photos."""
        self.pictured += 1
        return self.pictured

    def file(self, name: str, row_id: int) -> str:
        """Name a file that holds a row."""
        self.rows[name] = row_id
        return name

    def build(self, build_id: int | None) -> int | None:
        """A build's number in the file."""
        return None if build_id is None else self.builds.setdefault(build_id, len(self.builds) + 1)

    def key(self, trial_id: int) -> int:
        """A trial's number in the file."""
        return self.keys.setdefault(trial_id, len(self.keys) + 1)


def dump(db: sqlite3.Connection, made_at: str) -> tuple[Record, dict[str, int]]:
    """Everything but readings, photos and weather files themselves, whose files it names, and the row that each of those holds; rows that hold no JSON any more are left out and named."""
    notes = _Notes()
    left = notes.left
    materials = [
        {"family": row["family"], "name": row["name"], "doc": doc, "revision": row["revision"]}
        for row in db.execute("SELECT * FROM material WHERE removed_at IS NULL ORDER BY family, name")
        if (doc := _json(row["doc"], f"material {row['name']}", left)) is not None
    ]
    sites = [
        _site(db, row, k + 1, notes) for k, row in enumerate(db.execute("SELECT * FROM site ORDER BY id").fetchall())
    ]
    found = {
        "format": 1,
        "made_at": made_at,
        "materials": materials,
        "sites": [one for one in sites if one is not None],
    }
    return {**found, "left_out": left}, notes.rows


def _json(text: str | None, what: str, left: list[str]) -> Any:
    try:
        return None if text is None else json.loads(text)
    except ValueError:
        left.append(what)
        return None


def _is(model: type[Model], doc: Any, what: str, left: list[str]) -> bool:
    """Whether a document is what it is to be; noted where it is not."""
    try:
        model.model_validate(doc)
    except ValueError:
        if what not in left:
            left.append(what)
        return False
    return True


def _site(db: sqlite3.Connection, row: sqlite3.Row, number: int, notes: _Notes) -> Record | None:
    left = notes.left
    doc = _json(row["doc"], f"site {row['id']}", left)
    if doc is None or not _is(Site, doc, f"site {row['id']}", left):
        return None
    of = {"id": row["id"]}
    days = db.execute("SELECT day, doc FROM day_weather WHERE site_id = :id ORDER BY day", of).fetchall()
    weather = db.execute("SELECT * FROM weather_file WHERE site_id = :id ORDER BY id", of).fetchall()
    builds = db.execute("SELECT * FROM build WHERE site_id = :id ORDER BY id", of).fetchall()
    made = [one for build in builds if (one := _build(db, build, notes)) is not None]
    here = {one["key"] for one in made}
    for one in made:
        base = notes.builds.get(one["variant_of"])
        one.update({"variant_of": base} if base in here else {"variant_of": None, "variant_from": None})
        for box in (box for trial in one["trials"] for box in trial["boxes"] if box["build"] not in here):
            box.update({"build": None, "build_revision": None})
    return {
        "revision": row["revision"], "site": doc, "days": {day["day"]: found for day in days if _is(ClearDay, found := _json(day["doc"], f"day {day['day']}", left), f"day {day['day']}", left)},
        "weather": [{"name": one["name"], "kind": one["kind"], "added_at": one["added_at"], "file": notes.file(f"weather/{number}-{k + 1}.txt", one["id"])} for k, one in enumerate(weather)],
        "sheets": _sheets(db, "site_id", row["id"], notes), "builds": made,
    }  # fmt: skip


def _sheets(db: sqlite3.Connection, column: str, owner: int, notes: _Notes) -> list[Record]:
    rows = db.execute(f"SELECT * FROM sheet_row WHERE {column} = :id ORDER BY id", {"id": owner}).fetchall()
    return [
        {"sheet": row["sheet"], "revision": row["revision"], "content": content, "written_at": row["written_at"], "withdrawn_at": row["withdrawn_at"], "photos": _row_photos(db, row["id"], notes)}
        for row in rows
        if isinstance(content := _json(row["content"], f"row {row['id']} of {row['sheet']}", notes.left), dict)
    ]  # fmt: skip


def _row_photos(db: sqlite3.Connection, row_id: int, notes: _Notes) -> list[Record]:
    rows = db.execute(
        "SELECT id, time_ms, width, height, uid, withdrawn_at FROM row_photo WHERE row_id = :id ORDER BY id",
        {"id": row_id},
    ).fetchall()
    number = notes.pictured_row() if rows else 0
    return [
        {**{name: one[name] for name in ("time_ms", "width", "height", "uid", "withdrawn_at")}, "file": notes.file(f"pictures/{number}-{k + 1}.jpg", one["id"])}
        for k, one in enumerate(rows)
    ]  # fmt: skip


def _build(db: sqlite3.Connection, row: sqlite3.Row, notes: _Notes) -> Record | None:
    left = notes.left
    of, called = {"id": row["id"]}, f"build {row['id']}"
    before = len(left)
    revisions = [
        {
            "number": one["number"], "name": one["name"], "spot": one["spot"], "spec": _json(one["spec"], called, left), "load": _json(one["load"], called, left), "note": one["note"],
            "undo_to": one["undo_to"], "created_at": one["created_at"],
        }
        for one in db.execute("SELECT * FROM build_revision WHERE build_id = :id ORDER BY number", of)
    ]  # fmt: skip
    if len(left) > before or not revisions:
        return None
    trials = [
        _trial(db, one, notes)
        for one in db.execute("SELECT * FROM trial WHERE build_id = :id ORDER BY id", of).fetchall()
    ]
    kept = [one for one in trials if one is not None]
    keys = {one["key"] for one in kept}
    calibrations = [
        {"build_revision": one["build_revision"], "trial": notes.key(one["trial_id"]), "adjustments": _json(one["adjustments"], called, left), "words": one["words"], "accepted_at": one["accepted_at"], "withdrawn_at": one["withdrawn_at"]}
        for one in db.execute("SELECT * FROM calibration WHERE build_id = :id ORDER BY id", of)
        if notes.keys.get(one["trial_id"]) in keys
    ]  # fmt: skip
    mappings = [
        {"header": json.loads(one["header"]), "mapping": json.loads(one["mapping"])}
        for one in db.execute("SELECT * FROM import_mapping WHERE build_id = :id ORDER BY header", of)
    ]
    return {
        "key": notes.build(row["id"]), "variant_of": row["variant_of"], "variant_from": row["variant_from"],
        "revision": row["revision"], "removed_at": row["removed_at"], "deleted_at": row["deleted_at"], "revisions": revisions, "trials": kept,
        "calibrations": [one for one in calibrations if one["adjustments"] is not None], "sheets": _sheets(db, "build_id", row["id"], notes), "mappings": mappings,
    }  # fmt: skip


def _trial(db: sqlite3.Connection, row: sqlite3.Row, notes: _Notes) -> Record | None:
    left = notes.left
    of, called = {"id": row["id"]}, f"trial {row['name']}"
    before = len(left)
    docs = {name: _json(row[name], called, left) for name in ("weather", "load", "goal")}
    if len(left) > before:
        return None
    key = notes.key(row["id"])
    channels = [
        {**{name: one[name] for name in ("name", "title", "node", "instrument", "doubt", "place", "quantity", "device", "set_to")}, "is_control": bool(one["is_control"]), "calibration": _json(one["calibration"], called, left)}
        for one in db.execute("SELECT * FROM channel WHERE trial_id = :id ORDER BY place, name", of)
    ]  # fmt: skip
    events = [dict(one) for one in db.execute("SELECT kind, time_ms, note, channel, uid, withdrawn_at FROM event WHERE trial_id = :id ORDER BY id", of)]  # fmt: skip
    photos = [
        {**{name: one[name] for name in ("time_ms", "note", "channel", "width", "height", "uid", "withdrawn_at")}, "file": notes.file(f"photos/{key}-{k + 1}.jpg", one["id"])}
        for k, one in enumerate(db.execute("SELECT id, time_ms, note, channel, width, height, uid, withdrawn_at FROM photo WHERE trial_id = :id ORDER BY id", of))
    ]  # fmt: skip
    has = db.execute("SELECT 1 FROM reading WHERE trial_id = :id LIMIT 1", of).fetchone() is not None
    plain = {
        name: row[name]
        for name in ("build_revision", "name", "protocol", "spot", "preheated", "started_ms", "ended_ms", "remarks")
    }
    return {
        "key": key, **plain, **docs, "channels": channels, "events": events, "photos": photos, "sheets": _sheets(db, "trial_id", row["id"], notes),
        "readings": notes.file(f"readings/{key}.csv", row["id"]) if has else None,
        "boxes": [
            {"channel": one["channel"], "build": notes.build(one["build_id"]), "build_revision": one["build_revision"]}
            for one in db.execute("SELECT * FROM class_box WHERE trial_id = :id ORDER BY channel", of)
        ],
    }  # fmt: skip


def readings_of(db: sqlite3.Connection, trial_id: int) -> Iterator[tuple[Any, ...]]:
    """Rows of a trial, those taken back too."""
    rows = db.execute(f"SELECT {READING} FROM reading WHERE trial_id = :id ORDER BY channel, time_ms", {"id": trial_id})
    return (tuple(row) for row in rows)


def photo_of(db: sqlite3.Connection, file: str, photo_id: int) -> bytes:
    """A photo of a trial, or of a sheet's row, by the folder that its file stands in."""
    table = "row_photo" if file.startswith("pictures/") else "photo"
    return bytes(db.execute(f"SELECT content FROM {table} WHERE id = :id", {"id": photo_id}).fetchone()[0])


def weather_of(db: sqlite3.Connection, file_id: int) -> str:
    """A weather file's text."""
    return str(db.execute("SELECT content FROM weather_file WHERE id = :id", {"id": file_id}).fetchone()[0])


class Parts:
    """Where the large parts come from as a yard is taken in."""

    def __init__(
        self,
        readings: Callable[[Record], Iterable[tuple[Any, ...]]],
        photo: Callable[[str], bytes],
        weather: Callable[[str], str],
    ) -> None:
        self.readings, self.photo, self.weather = readings, photo, weather


def take_in(db: sqlite3.Connection, yard: Record, parts: Parts) -> list[int]:
    """Write a whole yard beside what there is, all of it or nothing; return the new sites' ids. A material that stands here under its name stays as it is here."""
    with atomic(db):
        for material in yard["materials"]:
            db.execute(
                "INSERT INTO material (family, name, doc, revision) VALUES (:family, :name, :doc, :revision) ON CONFLICT DO NOTHING",
                {**material, "doc": json.dumps(material["doc"])},
            )
        return [_take_site(db, site, parts) for site in yard["sites"]]


def _insert(db: sqlite3.Connection, table: str, record: Record) -> int:
    """A record as a row; what is nested becomes JSON."""
    flat = {name: json.dumps(value) if isinstance(value, dict | list) else value for name, value in record.items()}
    names = ", ".join(flat)
    cursor = db.execute(f"INSERT INTO {table} ({names}) VALUES ({', '.join(f':{name}' for name in flat)})", flat)
    return int(cursor.lastrowid or 0)


def _but(record: Record, left: str) -> Record:
    """A record without one of its parts."""
    return {name: value for name, value in record.items() if name != left}


def _take_site(db: sqlite3.Connection, site: Record, parts: Parts) -> int:
    new = _insert(db, "site", {"doc": site["site"], "revision": site["revision"]})
    for day, doc in site["days"].items():
        _insert(db, "day_weather", {"site_id": new, "day": str(day), "doc": doc})
    for one in site["weather"]:
        _insert(
            db,
            "weather_file",
            {
                "site_id": new,
                **{name: one[name] for name in ("name", "kind", "added_at")},
                "content": parts.weather(one["file"]),
            },
        )
    _take_sheets(db, "site_id", new, site["sheets"], parts)
    rows, taken = dict[int, int](), dict[int, int]()
    for build in site["builds"]:
        rows[build["key"]], trials = _take_build(db, new, build, parts)
        taken |= trials
    for trial in (trial for build in site["builds"] for trial in build["trials"]):
        for box in trial["boxes"]:
            _insert(
                db,
                "class_box",
                {
                    "trial_id": taken[trial["key"]],
                    "channel": box["channel"],
                    "build_id": rows.get(box["build"]),
                    "build_revision": box["build_revision"],
                },
            )
    for build in site["builds"]:
        if build["variant_of"] is not None:
            db.execute(
                "UPDATE build SET variant_of = :base, variant_from = :revision WHERE id = :id",
                {"base": rows[build["variant_of"]], "revision": build["variant_from"], "id": rows[build["key"]]},
            )
    return new


def _take_sheets(db: sqlite3.Connection, column: str, owner: int, rows: list[Record], parts: Parts) -> None:
    for row in rows:
        new = _insert(db, "sheet_row", {column: owner, **_but(row, "photos")})
        for photo in row["photos"]:
            content = parts.photo(photo["file"])
            _insert(db, "row_photo", {"row_id": new, **_but(photo, "file"), "content": content})


def _take_build(db: sqlite3.Connection, site_id: int, build: Record, parts: Parts) -> tuple[int, dict[int, int]]:
    new = _insert(
        db, "build", {"site_id": site_id, **{name: build[name] for name in ("revision", "removed_at", "deleted_at")}}
    )
    for revision in build["revisions"]:
        _insert(db, "build_revision", {"build_id": new, **revision})
    keys = {trial["key"]: _take_trial(db, new, trial, parts) for trial in build["trials"]}
    for one in build["calibrations"]:
        _insert(
            db,
            "calibration",
            {
                "build_id": new,
                "trial_id": keys[one["trial"]],
                **_but(one, "trial"),
            },
        )
    _take_sheets(db, "build_id", new, build["sheets"], parts)
    for mapping in build["mappings"]:
        _insert(db, "import_mapping", {"build_id": new, **mapping})
    return new, keys


OF_TRIAL = (
    "build_revision",
    "name",
    "protocol",
    "spot",
    "weather",
    "load",
    "preheated",
    "started_ms",
    "ended_ms",
    "remarks",
    "goal",
)


def _take_trial(db: sqlite3.Connection, build_id: int, trial: Record, parts: Parts) -> int:
    new = _insert(
        db,
        "trial",
        {"build_id": build_id, "token": secrets.token_urlsafe(24), **{name: trial[name] for name in OF_TRIAL}},
    )
    for channel in trial["channels"]:
        _insert(db, "channel", {"trial_id": new, **channel, "is_control": int(channel["is_control"])})
    for event in trial["events"]:
        _insert(db, "event", {"trial_id": new, **event})
    for photo in trial["photos"]:
        content = parts.photo(photo["file"])
        _insert(db, "photo", {"trial_id": new, **_but(photo, "file"), "content": content})
    _take_sheets(db, "trial_id", new, trial["sheets"], parts)
    marks = ", ".join("?" * (len(READING.split(",")) + 1))
    rows = ((new, *row) for row in parts.readings(trial))
    db.executemany(f"INSERT INTO reading (trial_id, {READING}) VALUES ({marks})", rows)
    return new
