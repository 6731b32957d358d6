"""A site's salvage pile: what of it is free, what is set aside for which build."""

from __future__ import annotations

import sqlite3

from drylamp.core.advice.made_of import made_of
from drylamp.core.builds.common.pile.claims import CLAIMS, Claim, unclaimed
from drylamp.core.builds.common.pile.sheet import PILE, Salvaged
from drylamp.store import builds, sheets
from drylamp.store.builds import BuildRow
from drylamp.web.sheets.ground import around_of


def free_pile(db: sqlite3.Connection, site_id: int, for_build: int | None = None) -> list[Salvaged]:
    """The pile without what other builds have set aside; a build that was put away keeps nothing.

    Raises:
        NotFoundError: there is no such site.
    """
    claims = [claim for row in builds.list_builds(db, site_id) if row.id != for_build for claim in claimed(db, row.id)]
    return unclaimed(around_of(db, "site", site_id).rows(PILE), claims)


def claimed(db: sqlite3.Connection, build_id: int) -> list[Claim]:
    """What is set aside for a build."""
    return around_of(db, "build", build_id).rows(CLAIMS)


def free(db: sqlite3.Connection, build_id: int, now: str) -> None:
    """Let go of all that is set aside for a build."""
    for row in sheets.list_rows(db, "build", build_id):
        if row.sheet == CLAIMS.name:
            sheets.withdraw_row(db, row.id, row.revision, now)


def set_aside(db: sqlite3.Connection, build_id: int, claims: list[Claim], now: str) -> None:
    """Keep pieces of the pile for a build, in place of what was kept for it before."""
    free(db, build_id, now)
    for claim in claims:
        sheets.add_row(db, "build", build_id, CLAIMS.name, claim.model_dump_json(), now)


def add_to_pile(db: sqlite3.Connection, site_id: int, rows: list[Salvaged], now: str) -> None:
    """Put pieces on a site's pile that do not lie there yet."""
    there = around_of(db, "site", site_id).rows(PILE)
    for row in rows:
        if row not in there:
            sheets.add_row(db, "site", site_id, PILE.name, row.model_dump_json(), now)


def keep(db: sqlite3.Connection, row: BuildRow, now: str) -> None:
    """Set aside for a build what of the free pile goes into it."""
    made = made_of(row.spec, free_pile(db, row.site_id, row.id))
    set_aside(db, row.id, [Claim(name=one.name, count=one.count) for one in made.pile.used], now)
