"""One question for whoever knows what a thing is called and not where it stands."""

from __future__ import annotations

import sqlite3
from collections.abc import Iterator
from functools import cache

from flask import Response

from drylamp.core.advice.registry import said_of
from drylamp.core.builds.registry import kind_of
from drylamp.core.finding import best
from drylamp.core.sums import SUMS
from drylamp.core.tables import absorbers, covers, layers, mirrors
from drylamp.core.text import capital, plain
from drylamp.store import builds, sites, trials
from drylamp.store.builds import BuildRow
from drylamp.web import context
from drylamp.web.find.models import FindQuery, Found, FoundList
from drylamp.web.routed import also_refuses, blueprint

api = blueprint("find", "/api/find")
MOST = 12
Thing = tuple[Found, str]
"""Something that may be found, and the words that it answers to beside its title."""


@api.get("", responses={200: FoundList})
@also_refuses(404)
def find(query: FindQuery) -> Response:
    """Find builds, their parts, trials, quick sums, sayings and materials by what is typed."""
    with context.database() as db:
        sites.get_site(db, query.site_id)
        things = [*_of_yard(db, query.site_id), *_of_the_trade()]
    found = best(query.q, things, lambda thing: (thing[0].title, thing[1]), MOST)
    return context.answer(FoundList([one for one, _ in found]))


def _of_yard(db: sqlite3.Connection, site_id: int) -> Iterator[Thing]:
    rows = builds.list_builds(db, site_id)
    names = {row.id: row.name for row in rows}
    for row in rows:
        kind = kind_of(row.spec)
        yield Found(what="build", title=row.name, hint=kind.title, build_id=row.id), f"{kind.title} {kind.wish}"
        for part, title in kind.parts.items():
            hint = f"part of {row.name}"
            yield Found(what="part", title=capital(title), hint=hint, build_id=row.id, name=part), f"{part} {row.name}"
    yield from _sayings(rows)
    for trial in trials.list_trials(db):
        if trial.build_id in names:
            hint = f"trial of {names[trial.build_id]}"
            yield Found(what="trial", title=trial.name, hint=hint, trial_id=trial.id), f"trial {names[trial.build_id]}"


def _sayings(rows: list[BuildRow]) -> Iterator[Thing]:
    """Each saying once, with the first build that it is said of."""
    seen = set[str]()
    for row in rows:
        for saying in said_of(row.spec, row.load).sayings:
            if saying.name not in seen:
                seen.add(saying.name)
                hint = f"saying, put to {row.name}"
                yield Found(what="saying", title=plain(saying.words), hint=hint, build_id=row.id), "saying"


@cache
def _of_the_trade() -> list[Thing]:
    """What is the same in every yard."""
    sums: list[Thing] = [
        (
            Found(what="sum", title=one.title, hint=f"quick sum, {one.holds}", name=name),
            f"sum {one.holds} {' '.join(one.words)}",
        )
        for name, one in SUMS.items()
    ]
    materials: list[Thing] = [
        (Found(what="material", title=row.title, hint="on the shelf", name=row.name), f"material {row.name}")
        for table in (absorbers(), covers(), mirrors(), layers())
        for row in table.values()
    ]
    return [*sums, *materials]
