"""Sheets: write a row, change it, take it back; what is made of them."""

from __future__ import annotations

import json
import sqlite3
from collections.abc import Mapping, Sequence

from flask import Response, request
from pydantic import JsonValue

from drylamp.core.builds.sheet import Around, Of
from drylamp.core.checks import Model
from drylamp.core.sheets import AnySheet, check_row, find_sheet, page_of, read_row, read_rows, sheets_of
from drylamp.formats.photo import read_photo
from drylamp.instruments.ingest import to_ms
from drylamp.store import row_photos, sheets
from drylamp.store.sheets import SheetRow
from drylamp.web import context
from drylamp.web.routed import as_file, blueprint, needs_mark, takes
from drylamp.web.shared import Id, PartPath
from drylamp.web.sheets.ground import around_of
from drylamp.web.sheets.models import (
    NewRow,
    NewRows,
    OwnerPath,
    RowPhotoQuery,
    RowView,
    SetRows,
    SheetList,
    SheetPath,
    SheetView,
)

UNREADABLE = "this row can no longer be read; change it, or take it back"
api = blueprint("sheets", "/api/sheets")
of_rows = blueprint("sheet-rows", "/api/sheet-rows")


@api.get("/<string:of>/<int:owner_id>", responses={200: SheetList})
def list_all(path: OwnerPath) -> Response:
    """List the sheets of a trial, a build or a site, with their rows and what is made of them."""
    with context.database() as db:
        return context.answer(_shown(db, path.of, path.owner_id))


@api.post("/<string:of>/<int:owner_id>/<string:sheet>", responses={201: SheetList})
def add(path: SheetPath, body: NewRow) -> Response:
    """Write a row down."""
    return _add(path, [body.content])


@api.post("/<string:of>/<int:owner_id>/<string:sheet>/many", responses={201: SheetList})
def add_many(path: SheetPath, body: NewRows) -> Response:
    """Write several rows down, all or none."""
    return _add(path, body.rows)


def _add(path: SheetPath, given: Sequence[Mapping[str, JsonValue]]) -> Response:
    with context.writing() as db:
        around = around_of(db, path.of, path.owner_id)
        sheet = find_sheet(path.sheet, path.of, around.build, around.load)
        rows = around.rows(sheet)
        for content in given:
            row = read_row(sheet, content)
            check_row(sheet, row, rows, around)
            rows.append(row)
            sheets.add_row(db, path.of, path.owner_id, sheet.name, row.model_dump_json(), context.stamp())
        return context.answer(_shown(db, path.of, path.owner_id), 201)


@api.post("/<string:of>/<int:owner_id>/<string:sheet>/set", responses={200: SheetList})
def set_all(path: SheetPath, body: SetRows) -> Response:
    """Set fields in every row of a sheet, in all or in none."""
    with context.writing() as db:
        around = around_of(db, path.of, path.owner_id)
        sheet = find_sheet(path.sheet, path.of, around.build, around.load)
        stored = [row for row in sheets.list_rows(db, path.of, path.owner_id) if row.sheet == sheet.name]
        now = read_rows(sheet, (row.content for row in stored))
        for k, kept in enumerate(stored):
            row = read_row(sheet, {**kept.content, **body.changes})
            check_row(sheet, row, [other for other in now[:k] + now[k + 1 :] if other is not None], around)
            now[k] = row
            sheets.change_row(db, kept.id, row.model_dump_json(), kept.revision)
        return context.answer(_shown(db, path.of, path.owner_id))


@of_rows.put("/<int:id>", responses={200: SheetList})
@needs_mark
def change(path: Id, body: NewRow) -> Response:
    """Change a row; needs If-Match."""
    seen = context.seen_revision()
    with context.writing() as db:
        kept = sheets.get_row(db, path.id)
        around = around_of(db, kept.of, kept.owner_id)
        sheet = find_sheet(kept.sheet, kept.of, around.build, around.load)
        row = read_row(sheet, body.content)
        check_row(sheet, row, _others(db, kept, sheet), around)
        sheets.change_row(db, kept.id, row.model_dump_json(), seen)
        return context.answer(_shown(db, kept.of, kept.owner_id))


def _others(db: sqlite3.Connection, kept: SheetRow, sheet: AnySheet) -> list[Model]:
    """Readable rows of a sheet beside one."""
    rows = [
        row for row in sheets.list_rows(db, kept.of, kept.owner_id) if row.sheet == kept.sheet and row.id != kept.id
    ]
    return [row for row in read_rows(sheet, (row.content for row in rows)) if row is not None]


@of_rows.post("/<int:id>/withdraw", responses={200: SheetList})
@needs_mark
def withdraw(path: Id) -> Response:
    """Take a row back; needs If-Match."""
    return _away(path.id, context.stamp())


@of_rows.post("/<int:id>/restore", responses={200: SheetList})
@needs_mark
def restore(path: Id) -> Response:
    """Bring a row back; needs If-Match."""
    return _away(path.id, None)


@of_rows.post("/<int:id>/photos", responses={201: SheetList})
@takes({f"image/{kind}": {"type": "string", "format": "binary"} for kind in ("jpeg", "png", "webp")})
def add_photo(path: Id, query: RowPhotoQuery) -> Response:
    """Keep a photo of what a row tells of, sent as the body; it is made smaller and stripped of where it was taken."""
    photo = read_photo(request.get_data())
    with context.writing() as db:
        kept = sheets.get_row(db, path.id)
        at = to_ms(query.time or context.now())
        new = row_photos.NewRowPhoto(at, photo.width, photo.height, photo.content, query.uid)
        row_photos.add_photo(db, path.id, new)
        return context.answer(_shown(db, kept.of, kept.owner_id), 201)


@of_rows.get("/<int:id>/photos/<int:part_id>", responses=as_file("image/jpeg", binary=True))
def photo(path: PartPath) -> Response:
    """Give a photo of a row."""
    with context.database() as db:
        content = row_photos.OF_ROW.content(db, path.id, path.part_id)
    return Response(content, mimetype="image/jpeg")


@of_rows.post("/<int:id>/photos/<int:part_id>/withdraw", responses={200: SheetList})
def withdraw_photo(path: PartPath) -> Response:
    """Take a photo of a row back."""
    return _photo_away(path, context.stamp())


@of_rows.post("/<int:id>/photos/<int:part_id>/restore", responses={200: SheetList})
def restore_photo(path: PartPath) -> Response:
    """Bring a photo of a row back."""
    return _photo_away(path, None)


def _photo_away(path: PartPath, when: str | None) -> Response:
    with context.writing() as db:
        kept = sheets.get_row(db, path.id)
        row_photos.OF_ROW.withdraw(db, path.id, path.part_id, when)
        return context.answer(_shown(db, kept.of, kept.owner_id))


def _away(row_id: int, when: str | None) -> Response:
    seen = context.seen_revision()
    with context.writing() as db:
        kept = sheets.get_row(db, row_id)
        sheets.withdraw_row(db, row_id, seen, when)
        return context.answer(_shown(db, kept.of, kept.owner_id))


def _shown(db: sqlite3.Connection, of: Of, owner_id: int) -> SheetList:
    around = around_of(db, of, owner_id)
    stored, pictures = sheets.list_rows(db, of, owner_id), row_photos.by_row(db, of, owner_id)
    return SheetList(
        [
            _view(sheet, [row for row in stored if row.sheet == sheet.name], around, pictures)
            for sheet in sheets_of(of, around.build, around.load)
        ]
    )


def _view(sheet: AnySheet, stored: Sequence[SheetRow], around: Around, pictures: Mapping[int, list[int]]) -> SheetView:
    read = read_rows(sheet, (row.content for row in stored))
    good = [row for row in read if row is not None]
    page = page_of(sheet, good, around)
    lines = iter(page.lines)
    rows = []
    for kept, row in zip(stored, read, strict=True):
        line = None if row is None else next(lines)
        rows.append(
            RowView(id=kept.id, revision=kept.revision, content=kept.content if row is None else row.model_dump(mode="json"), cells=[] if line is None else line.cells, warning=UNREADABLE if line is None else line.warning, photos=pictures.get(kept.id, []))
        )  # fmt: skip
    blank = json.loads(json.dumps(sheet.fresh(good, around)))
    return SheetView(
        name=sheet.name, title=sheet.title, purpose=sheet.purpose, fields=sheet.form(around), blank=blank, columns=page.columns, rows=rows, words=page.words, bars=page.bars,
    )  # fmt: skip
