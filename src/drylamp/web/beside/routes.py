"""Builds, variants and trials side by side on one sun, why two of them differ, and both as one page."""

from __future__ import annotations

import re
import sqlite3
from dataclasses import dataclass
from datetime import datetime, timedelta

import numpy as np
from flask import Response

from drylamp.core.advice.compared import MOST, Abreast, Compared, compared
from drylamp.core.advice.context import AdviceContext
from drylamp.core.advice.explained import Explained, State, explained
from drylamp.core.builds.registry import kind_of
from drylamp.core.checks import InputProblem
from drylamp.core.engine import weather_for
from drylamp.core.sky.clock import local_day
from drylamp.core.sky.site import Site
from drylamp.core.sky.weather import ClearDay, Span
from drylamp.core.trials.facts import ChannelFacts, TrialFacts
from drylamp.core.trials.thin import thin_by_means
from drylamp.core.twin.calibration import TEXTBOOK, Calibration
from drylamp.core.twin.case import Case
from drylamp.core.twin.stood import stood
from drylamp.formats.compared_page import to_html
from drylamp.store import builds, calibrations, sites, trials
from drylamp.store.builds import BuildRow
from drylamp.web import context
from drylamp.web.beside.models import ApartQuery, BesideQuery
from drylamp.web.cases import ADVICE_STEP_S
from drylamp.web.jobs.heavy import heavy
from drylamp.web.pile import free_pile
from drylamp.web.routed import also_refuses, as_file, blueprint
from drylamp.web.shared import DayQuery
from drylamp.web.trials.ground import ground

api = blueprint("beside", "/api/beside")
NAMED = re.compile(r"([bt])(\d+)(?:r(\d+))?")
MOST_DAYS, MOST_POINTS = 120, 200


@dataclass(frozen=True)
class _Named:
    """One that was named: the build at its revision, what is in it, where it stood, what is known of its twin, and a trial's facts."""

    name: str
    build: BuildRow
    site: Site
    facts: TrialFacts | None
    calibration: Calibration


@api.get("", responses={200: Compared})
@also_refuses(404)
@heavy()
def side_by_side(query: BesideQuery) -> Response:
    """Builds, variants or trials on one sun: drawings, curves, figures with their doubt, cost, what differs."""
    return context.answer(_compared(query))


@api.get("/page.html", responses=as_file("text/html"))
@also_refuses(404)
@heavy()
def as_page(query: BesideQuery) -> Response:
    """The same as one page that opens anywhere and prints; of two of one kind it says what explains their difference."""
    names = query.of.split(",")
    found = _compared(query)
    why = _why(query, names) if len(names) == 2 else []
    said = query.sky or "the usual sky"
    text = to_html(found, f"{context.now():%Y-%m-%d}", query.day.isoformat(), said, why)
    return context.attachment(text, "text/html", f"side-by-side-{'-'.join(names)}.html")


@api.get("/apart", responses={200: Explained})
@also_refuses(404)
@heavy()
def told_apart(query: ApartQuery) -> Response:
    """Why one is not like another: the part of each thing that differs, by the twin, on one sun."""
    return context.answer(_apart(query, query.one, query.other))


def _why(query: DayQuery, names: list[str]) -> list[str]:
    """What explains a difference, where it can be told."""
    try:
        return [_apart(query, names[1], names[0]).words]
    except InputProblem:  # of two kinds, or alike
        return []


def _apart(query: DayQuery, one: str, other: str) -> Explained:
    with context.database() as db:
        mine, theirs = (_named(db, name) for name in (one, other))
        weather = _weather(db, query, mine)
    after, before = (_context(query, named, mine.site, weather, None) for named in (mine, theirs))
    return explained(after, State.of(before))


def _compared(query: BesideQuery) -> Compared:
    with context.database() as db:
        found = [_named(db, name) for name in query.of.split(",")[:MOST]]
        weather = _weather(db, query, found[0])
        pile = free_pile(db, found[0].build.site_id)
    days = max(_looked_days(named) for named in found)
    first = found[0] if query.one_load else None
    abreast = [
        Abreast(name, _context(query, named, found[0].site, weather, first, days), _read(named, days))
        for name, named in zip(_apart_by_name(found), found, strict=True)
    ]
    return compared(abreast, pile)


def _apart_by_name(found: list[_Named]) -> list[str]:
    """Their names, told apart by a number where two have one."""
    names = [named.name for named in found]
    return [name if names.count(name) == 1 else f"{name} ({k + 1})" for k, name in enumerate(names)]


def _named(db: sqlite3.Connection, name: str) -> _Named:
    """What a name stands for.

    Raises
    ------
    NotFoundError
        there is none.
    """
    found = NAMED.fullmatch(name)
    assert found is not None
    sort, number, revision = found[1], int(found[2]), found[3]
    if sort == "t":
        trial = trials.get_trial(db, number)
        site, build, facts = ground(db, trial)
        return _Named(trial.name, build, site, facts, _learnt(db, build.id, trial.id))
    build = builds.get_build(db, number, None if revision is None else int(revision))
    called = build.name if revision is None else f"{build.name} at revision {revision}"
    return _Named(called, build, sites.get_site(db, build.site_id).site, None, _learnt(db, build.id, None))


def _learnt(db: sqlite3.Connection, build_id: int, trial_id: int | None) -> Calibration:
    """What a trial taught, or else what is in force, or else the textbook."""
    row = calibrations.in_force(db, build_id)
    return TEXTBOOK if row is None or (trial_id is not None and row.trial_id != trial_id) else row.factors


def _weather(db: sqlite3.Connection, query: DayQuery, first: _Named) -> ClearDay:
    return sites.weather_on(db, first.build.site_id, first.site, query.day, query.sky)


def _looked_days(named: _Named) -> int:
    load = named.build.load if named.facts is None else named.facts.load
    return 1 if load is None else min(load.looked_days, MOST_DAYS)


def _context(
    query: DayQuery, named: _Named, site: Site, weather: ClearDay, lent: _Named | None, days: int | None = None
) -> AdviceContext:
    """One of them on the day that all share, at its own spot where the first one's site has that."""
    load, spot = (named.build.load, named.build.spot) if named.facts is None else (named.facts.load, named.facts.spot)
    if lent is not None:
        load = lent.build.load if lent.facts is None else lent.facts.load
    try:
        kind_of(named.build.spec).check_fit(named.build.spec, load)
    except InputProblem as problem:
        raise InputProblem("one_load", f"{named.name}: {problem.message}") from problem
    known = {one.name for one in site.spots}
    case = Case(
        site=site, spot=spot if spot in known else None, build=named.build.spec, load=load, weather=weather,
        span=Span(start=query.day, days=days or _looked_days(named), step_s=ADVICE_STEP_S), calibration=named.calibration,
    )  # fmt: skip
    case = stood(case)
    return AdviceContext(case, weather_for(case))


def _read(named: _Named, days: int) -> list[tuple[float, float]]:
    """What a trial read of the part that is looked at, by seconds since its own first midnight."""
    if named.facts is None:
        return []
    facts, build = named.facts, named.build.spec
    judged = kind_of(build).judged(build, facts.load)
    channel: ChannelFacts | None = facts.of_node(judged)
    if channel is None:
        return []
    zone = named.site.zone
    first = local_day(zone, facts.started.timestamp())
    midnight = datetime(first.year, first.month, first.day, tzinfo=zone).timestamp()
    seconds, values = thin_by_means(channel.seconds, np.array(channel.values), MOST_POINTS)
    within = timedelta(days=days).total_seconds()
    return [
        (float(s) - midnight, float(v)) for s, v in zip(seconds, values, strict=True) if 0.0 <= s - midnight <= within
    ]
