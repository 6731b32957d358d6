"""Wishes over the wire: reading one, proposals for it, what the pile allows."""

from __future__ import annotations

import sqlite3

from flask import Response

from drylamp.core.builds.common.pile.sheet import Salvaged
from drylamp.core.builds.registry import kind_of
from drylamp.core.builds.starters import cut_open
from drylamp.core.long import Long, Step
from drylamp.core.sky.of_span import weather_of
from drylamp.core.sky.site import Site
from drylamp.core.text import plain
from drylamp.core.twin.calibration import TEXTBOOK
from drylamp.core.twin.case import usual_case
from drylamp.core.wish.could import CouldBuild, could_build
from drylamp.core.wish.goods import offers
from drylamp.core.wish.propose import Proposals, propose
from drylamp.core.wish.sentence import Wish, read_wish, said
from drylamp.core.wish.today import Standing, Today, today
from drylamp.store import builds, calibrations, sites
from drylamp.store.builds import BuildRow, Draft
from drylamp.store.unreadable import readable
from drylamp.web import context
from drylamp.web.builds.models import BuildView
from drylamp.web.builds.present import build_view
from drylamp.web.jobs.heavy import heavy, in_steps
from drylamp.web.pile import add_to_pile, free_pile, keep
from drylamp.web.routed import blueprint
from drylamp.web.wishes.models import (
    BeginWish,
    CouldView,
    DrawnCould,
    DrawnProposal,
    PileOn,
    ProposalsView,
    VerbWords,
    WishOn,
    WishText,
    WishWords,
    WordOf,
)

api = blueprint("wishes", "/api/wishes")


@api.get("/words", responses={200: WishWords})
def words() -> Response:
    """Verbs, each with what it may be done to."""
    by_verb = dict[str, dict[str, WordOf]]()
    for offer in offers():
        good = offer.good
        word = WordOf(name=good.name, title=good.title, quantity=good.quantity, usual=good.usual)
        by_verb.setdefault(good.verbs[0], {}).setdefault(good.name, word)
    found = [VerbWords(verb=verb, goods=sorted(of.values(), key=lambda one: one.title)) for verb, of in by_verb.items()]
    return context.answer(WishWords(found))


@api.post("/read", responses={200: Wish})
def read(body: WishText) -> Response:
    """Read a wish: what was understood, what was not, what to say yet."""
    return context.answer(read_wish(body.text, _ground(body.site_id)[0].latitude_deg < 0.0))


@api.post("/proposals", responses={200: ProposalsView})
@heavy()
def proposals(body: WishOn) -> Response:
    """Two or three builds that bring a wish off, the first after a moment."""
    site, pile = _ground(body.site_id)
    wish = read_wish(body.text, site.latitude_deg < 0.0)
    key = f"propose {site.model_dump_json()} {body.day:%Y-%m} {wish.model_dump_json()} {_said(pile)}"

    def shown(found: Proposals) -> ProposalsView:
        drawn = [DrawnProposal(proposal=one, drawn=cut_open(site, one.spec, one.load)) for one in found.proposals]
        return ProposalsView(said=found.said, month=found.month, proposals=drawn, words=found.words)

    return in_steps(key, lambda: propose(site, wish, pile, body.day), shown)


@api.post("/could", responses={200: CouldView})
@heavy()
def could(body: PileOn) -> Response:
    """What could be built from the pile, the most worth first."""
    site, pile = _ground(body.site_id)
    key = f"could {site.model_dump_json()} {body.day:%Y-%m} {_said(pile)}"

    def steps() -> Long[CouldBuild]:
        yield Step(1.0, could_build(site, pile, body.day))

    def shown(found: CouldBuild) -> CouldView:
        drawn = [DrawnCould(could=one, drawn=cut_open(site, one.spec, one.load)) for one in found.found]
        return CouldView(found=drawn, words=found.words)

    return in_steps(key, steps, shown)


@api.post("/today", responses={200: Today})
@heavy()
def can_do_today(body: PileOn) -> Response:
    """What every build of the yard can do on a day, done by when, and how often on days like it."""
    with context.database() as db:
        site = sites.get_site(db, body.site_id).site
        rows = builds.list_builds(db, body.site_id)
        yard = readable(rows, lambda row: _standing(db, site, row, body))
    key = f"today {' '.join(one.case.key for one in yard)}"
    return in_steps(key, lambda: today(yard))


def _standing(db: sqlite3.Connection, site: Site, row: BuildRow, body: PileOn) -> Standing:
    learnt = calibrations.in_force(db, row.id)
    sky = sites.weather_on(db, row.site_id, site, body.day, None)
    case = usual_case(site, row.spot, row.spec, row.load, body.day).with_(weather=sky)
    case = case.with_(calibration=learnt.factors if learnt else TEXTBOOK)
    return Standing(row.id, row.name, case, weather_of(site, sky, case.span))


@api.post("/begin", responses={201: BuildView})
def begin(body: BeginWish) -> Response:
    """Make a build of a proposal: what the wish said to have goes on the pile, what of it the build takes is set aside for it."""
    kind_of(body.spec).check_fit(body.spec, body.load)
    with context.writing() as db:
        site = sites.get_site(db, body.site_id).site
        wish = read_wish(body.text, site.latitude_deg < 0.0)
        add_to_pile(db, body.site_id, wish.have, context.stamp())
        draft = Draft(body.name, site.spots[0].name if site.spots else None, body.spec, body.load, plain(said(wish)))
        row = builds.add_build(db, body.site_id, draft, context.stamp())
        keep(db, row, context.stamp())
        return context.answer(build_view(db, row), 201, row.revision)


def _ground(site_id: int) -> tuple[Site, list[Salvaged]]:
    """A site, and what of its pile is free."""
    with context.database() as db:
        return sites.get_site(db, site_id).site, free_pile(db, site_id)


def _said(pile: list[Salvaged]) -> str:
    return " ".join(row.model_dump_json() for row in pile)
