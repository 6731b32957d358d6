"""Trials over many boxes: begin one, rank it, print its sheets."""

from __future__ import annotations

import secrets
import sqlite3
from datetime import timedelta

import numpy as np
from flask import Response

from drylamp.core.builds.registry import kind_of
from drylamp.core.checks import InputProblem, unknown_name
from drylamp.core.sky.clock import instant_s, local_time
from drylamp.core.trials.beside import beside
from drylamp.core.trials.channels import places, read_as
from drylamp.core.trials.class_day import ONE_PROBE, Box, class_day, times_of
from drylamp.core.trials.protocols import find_protocol
from drylamp.formats.class_sheets import ChildSheet, to_html
from drylamp.instruments.ingest import to_ms
from drylamp.store import builds, classes, sites, trials
from drylamp.store.builds import BuildRow
from drylamp.store.classes import BoxRow
from drylamp.store.database import NotFoundError
from drylamp.store.trials import ChannelRow, TrialRow
from drylamp.web import context
from drylamp.web.classes.models import ClassView, NewClass, SheetsQuery
from drylamp.web.jobs.heavy import heavy
from drylamp.web.routed import as_file, blueprint
from drylamp.web.shared import Id
from drylamp.web.trials.ground import ground
from drylamp.web.trials.models import TrialView
from drylamp.web.trials.present import trial_view

api = blueprint("classes", "/api/classes")
PROTOCOL = "free-log"
"""A class is read whenever it is ready; its sheets say when."""
SPAN = timedelta(hours=6)


@api.post("", responses={201: TrialView})
def begin(body: NewClass) -> Response:
    """Begin a trial over many boxes: each is a channel, like the class's own design or like another build of its kind."""
    with context.writing() as db:
        build = builds.get_build(db, body.build_id)
        site = sites.get_site(db, build.site_id).site
        protocol = find_protocol(PROTOCOL, build.spec.kind)
        begun = context.now() if body.begun is None else local_time(site.zone, instant_s(site.zone, body.begun.day, body.begun.hour))  # fmt: skip
        device = ONE_PROBE if body.one_probe else ""
        known = [place.channel.node for place in places(build.spec, None) if place.inside]
        if body.node not in known:
            raise unknown_name("node", body.node, known)
        channels, boxes = list[ChannelRow](), list[BoxRow]()
        for number, box in enumerate(body.boxes, start=1):
            found = read_as(protocol, build.spec, body.node, body.instrument, (None, None, device))
            name = f"box-{number}"
            channels.append(
                ChannelRow(name, box.name, body.node, False, body.instrument, found.doubt, found.quantity, found.device)
            )
            boxes.append(_box(db, build, name, box.like))
        day = begun.astimezone(site.zone).date()
        row = TrialRow(
            id=0, build_id=build.id, build_revision=build.revision, name=body.name, protocol=PROTOCOL, spot=build.spot, weather=sites.weather_on(db, build.site_id, site, day, body.sky),
            load=None, preheated=False, started_ms=to_ms(begun), ended_ms=None, remarks="", channels=channels, token=secrets.token_hex(12),
        )  # fmt: skip
        new = trials.add_trial(db, row)
        classes.add_boxes(db, new, boxes)
        return context.answer(trial_view(db, trials.get_trial(db, new), True, context.now()), 201)


def _box(db: sqlite3.Connection, build: BuildRow, channel: str, like: int | None) -> BoxRow:
    """A box like another build, which must be of the class's kind.

    Raises
    ------
    InputProblem
        it is of another.
    """
    if like is None or like == build.id:
        return BoxRow(channel)
    other = builds.get_build(db, like)
    if not other.spec.is_kin_of(build.spec):
        raise InputProblem("boxes", f"{other.name} is of another kind than {build.name}; choose one of its kind")
    return BoxRow(channel, other.id, other.revision)


@api.get("/<int:id>", responses={200: ClassView})
@heavy()
def ranked(path: Id) -> Response:
    """Whose box ran hottest, and why."""
    with context.database() as db:
        trial = trials.get_trial(db, path.id)
        boxes = _boxes(db, trial)
        site, build, facts = ground(db, trial)
    found = class_day(site, build.spec, facts, boxes)
    return context.answer(ClassView(**dict(found), trial_id=trial.id, name=trial.name))


@api.get("/<int:id>/sheets.html", responses=as_file("text/html"))
@heavy()
def sheets(path: Id, query: SheetsQuery) -> Response:
    """A sheet to print for each child: box, checklist, a table and an empty chart to fill in."""
    with context.database() as db:
        trial = trials.get_trial(db, path.id)
        boxes = _boxes(db, trial)
        site, build, facts = ground(db, trial, with_readings=False)
    titles = {channel.name: channel.title for channel in trial.channels}
    node = trial.channels[0].node
    twin = beside(site, build.spec, facts, facts.started.timestamp() + SPAN.total_seconds()).likely
    top = float(np.nanmax(twin.temperature_c[node])) if node in twin.temperature_c else 100.0
    begins = query.begins or f"{facts.started.astimezone(site.zone):%H:%M}"
    protocol = find_protocol(PROTOCOL)
    made = [
        ChildSheet(titles[box.channel], box.like, kind_of(box.build).section(box.build, None, None)) for box in boxes
    ]
    day = f"{facts.started.astimezone(site.zone):%d %B %Y}"
    text = to_html(
        trial.name, day, made, times_of(begins, query.every, query.minutes), protocol.checklist, protocol.cautions, top
    )
    return context.attachment(text, "text/html", f"class-{trial.id}.html")


def _boxes(db: sqlite3.Connection, trial: TrialRow) -> list[Box]:
    """Boxes of a trial, each as it is built.

    Raises
    ------
    NotFoundError
        it is a trial of one build.
    """
    found = classes.list_boxes(db, trial.id)
    if not found:
        raise NotFoundError(f"trial {trial.id} is not over many boxes; begin one under the trials of a build")
    own = builds.get_build(db, trial.build_id, trial.build_revision)
    out = []
    for box in found:
        like = own if box.build_id is None else builds.get_build(db, box.build_id, box.build_revision)
        out.append(
            Box(box.channel, like.spec, f"like {like.name}" if like.id != own.id else f"as the class's own, {own.name}")
        )
    return out
