"""Rows that cannot be read: what they are, and how they are mended."""

from __future__ import annotations

import sqlite3

from flask import Response

from drylamp.formats.json_text import check_content, read_json
from drylamp.store import unreadable
from drylamp.web import context
from drylamp.web.routed import blueprint
from drylamp.web.unreadable.models import Mended, UnreadableList, UnreadablePath, UnreadableView

api = blueprint("unreadable", "/api/unreadable")


@api.get("", responses={200: UnreadableList})
def list_all() -> Response:
    """List what cannot be read and is therefore left out of all other lists."""
    with context.database() as db:
        return _shown(db)


@api.put("/<string:what>/<string:key>", responses={200: UnreadableList})
def mend(path: UnreadablePath, body: Mended) -> Response:
    """Write anew what cannot be read; what can be read is not touched."""
    check_content(read_json(body.text, "text"), "text")
    with context.writing() as db:
        unreadable.mend(db, path.what, path.key.replace("~", "/"), body.text)
        return _shown(db)


def _shown(db: sqlite3.Connection) -> Response:
    return context.answer(UnreadableList([UnreadableView(**{**one.__dict__, "key": one.key.replace("/", "~")}) for one in unreadable.find(db)]))  # fmt: skip
