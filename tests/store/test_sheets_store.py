"""Rows of sheets in the data file: written, changed by who saw the newest, taken back and brought back."""

from __future__ import annotations

import sqlite3

import pytest

from drylamp.demo.scenario import OVEN, TERRACE
from drylamp.store import builds, sheets, sites
from drylamp.store.builds import Draft
from drylamp.store.database import Database, NotFoundError, StaleWriteError

NOW = "2025-06-12T10:00:00+00:00"


@pytest.fixture
def db(database: Database):
    with database.session() as connection:
        site = sites.add_site(connection, TERRACE)
        builds.add_build(connection, site, Draft("Oven", "terrace", OVEN, None), NOW)
        yield connection


def test_rows_belong_to_one_and_come_back_in_their_order(db):
    first = sheets.add_row(db, "site", 1, "waiting", '{"name": "a"}', NOW)
    sheets.add_row(db, "build", 1, "upkeep", '{"check": "fan"}', NOW)
    second = sheets.add_row(db, "site", 1, "waiting", '{"name": "b"}', NOW)
    assert [row.id for row in sheets.list_rows(db, "site", 1)] == [first, second]
    assert sheets.contents(db, "site", 1) == {"waiting": [{"name": "a"}, {"name": "b"}]}
    assert sheets.contents(db, "build", 1) == {"upkeep": [{"check": "fan"}]}
    assert sheets.contents(db, "trial", 1) == {}


def test_a_change_wants_the_newest_revision(db):
    number = sheets.add_row(db, "site", 1, "waiting", '{"name": "a"}', NOW)
    sheets.change_row(db, number, '{"name": "b"}', 1)
    assert sheets.get_row(db, number).revision == 2
    with pytest.raises(StaleWriteError, match=r"you saw revision 1, it is now 2"):
        sheets.change_row(db, number, '{"name": "c"}', 1)
    assert sheets.get_row(db, number).content == {"name": "b"}


def test_taken_back_and_brought_back(db):
    number = sheets.add_row(db, "site", 1, "waiting", '{"name": "a"}', NOW)
    sheets.withdraw_row(db, number, 1, NOW)
    assert sheets.list_rows(db, "site", 1) == []
    assert sheets.get_row(db, number).withdrawn
    sheets.withdraw_row(db, number, 2, None)
    assert [row.revision for row in sheets.list_rows(db, "site", 1)] == [3]
    with pytest.raises(NotFoundError, match="there is no row 99"):
        sheets.withdraw_row(db, 99, 1, NOW)


def test_a_row_of_nobody_cannot_be_stored(db):
    with pytest.raises(sqlite3.IntegrityError):
        sheets.add_row(db, "build", 77, "upkeep", "{}", NOW)
    with pytest.raises(sqlite3.IntegrityError):
        db.execute("INSERT INTO sheet_row (sheet, content, written_at) VALUES ('x', '{}', 'now')")
