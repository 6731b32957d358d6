"""What is told of the house that a build belongs to, of how it is used, and of the pile."""

from __future__ import annotations

import sqlite3

from drylamp.core.advice.season import Household
from drylamp.core.builds.common.house.sheet import HOUSE, House
from drylamp.core.builds.common.house.use import USE, Use
from drylamp.core.builds.sheet import latest
from drylamp.store.builds import BuildRow
from drylamp.web.pile import free_pile
from drylamp.web.sheets.ground import around_of


def household(db: sqlite3.Connection, row: BuildRow) -> Household:
    """House, use and pile of a build; usual ones where nothing was written down."""
    around = around_of(db, "build", row.id)
    use = latest(around.rows(USE)) or Use(on=around.today)
    return Household(house_of(db, row.site_id), use, free_pile(db, row.site_id, row.id))


def house_of(db: sqlite3.Connection, site_id: int) -> House:
    """The house of a site; a usual one where nothing was written down."""
    around = around_of(db, "site", site_id)
    return latest(around.rows(HOUSE)) or House(on=around.today)
