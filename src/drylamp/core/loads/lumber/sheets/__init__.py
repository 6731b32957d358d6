"""Sheets that go with boards."""

from __future__ import annotations

from drylamp.core.builds.sheet import Sheet
from drylamp.core.loads.lumber.sheets.followed import FOLLOWED
from drylamp.core.loads.lumber.sheets.inspected import INSPECTED
from drylamp.core.loads.lumber.sheets.metered import METERED
from drylamp.core.loads.lumber.sheets.prices import PRICES
from drylamp.core.loads.lumber.sheets.stack import STACK_READ
from drylamp.core.loads.lumber.sheets.waiting import WAITING
from drylamp.core.loads.lumber.sheets.weighed import SECTIONS, WEIGHINGS

SHEETS: tuple[Sheet, ...] = (FOLLOWED, SECTIONS, WEIGHINGS, METERED, INSPECTED, STACK_READ, WAITING, PRICES)  # type: ignore[type-arg]
