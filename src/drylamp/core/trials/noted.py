"""What was written down beside a trial's readings, as its sheets read it."""

from __future__ import annotations

from drylamp.core.builds.sheet import Around
from drylamp.core.sheets import with_rows
from drylamp.core.sky.clock import local_day
from drylamp.core.trials.beside import Beside


def around_trial(at: Beside) -> Around:
    """A trial with its rows, on the day of its last reading."""
    today = local_day(at.site.zone, at.facts.last_s())
    return with_rows(Around(at.site, today, at.build, at.facts.load), at.facts.sheets)
