"""What sheets belong to, gathered for the core."""

from __future__ import annotations

import sqlite3
from datetime import date, datetime

from drylamp.core.builds.sheet import Around, Learnt, Of, as_learnt
from drylamp.core.sheets import with_rows
from drylamp.core.sky.clock import local_day
from drylamp.core.sky.site import Site
from drylamp.store import builds, calibrations, sheets, sites, trials
from drylamp.web import context
from drylamp.web.trials.ground import tested


def around_of(db: sqlite3.Connection, of: Of, owner_id: int) -> Around:
    """A trial, a build or a site with the rows of all its sheets.

    Raises:
        NotFoundError: there is none.
    """
    return with_rows(_bare(db, of, owner_id), sheets.contents(db, of, owner_id))


def written(around: Around) -> str:
    """All rows as a text that two only share when they are alike: to keep answers by."""
    return " ".join(row.model_dump_json() for name in sorted(around.others) for row in around.others[name])


def _bare(db: sqlite3.Connection, of: Of, owner_id: int) -> Around:
    if of == "site":
        site = sites.get_site(db, owner_id).site
        return Around(site, _today(site))
    if of == "build":
        row = builds.get_build(db, owner_id)
        site = sites.get_site(db, row.site_id).site
        return Around(site, _today(site), row.spec, row.load, learnt=learnt(db, row.id))
    trial = trials.get_trial(db, owner_id)
    site, build = tested(db, trial)
    return Around(site, _today(site), build.spec, trial.load)


def _today(site: Site) -> date:
    return local_day(site.zone, context.now().timestamp())


def learnt(db: sqlite3.Connection, build_id: int) -> list[Learnt]:
    """What trials taught the twin of a build so far, by the days of those trials."""
    out = []
    for row in calibrations.accepted(db, build_id):
        plain = row.factors.model_dump(exclude={"parts"})
        on = datetime.fromtimestamp(trials.get_trial(db, row.trial_id).started_ms / 1000.0).astimezone()
        told = {name: factor for name, factor in plain.items() if factor != 1.0}
        out.append(as_learnt(on.date(), told, row.factors.parts, row.trial_name))
    return out
