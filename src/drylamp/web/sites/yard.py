"""A site's yard over the wire: each build's day, the next things to do, their calendar, and ticking them."""

from __future__ import annotations

import sqlite3
from datetime import date, datetime, timedelta
from functools import partial

from flask import Response

from drylamp.core.builds.common.house.done import DONE, Done
from drylamp.core.builds.common.house.sheet import House
from drylamp.core.checks import LAST_DAY, InputProblem
from drylamp.core.engine import weather_for
from drylamp.core.long import Long, Step
from drylamp.core.outcome.of_load import PlanStep
from drylamp.core.outcome.standing import STEP_S, runs_over_days, span_of, standing
from drylamp.core.outcome.summary import Outcome
from drylamp.core.sky.clock import local_day
from drylamp.core.sky.site import Site
from drylamp.core.sky.weather import Span
from drylamp.core.text import plain
from drylamp.core.twin.calibration import TEXTBOOK
from drylamp.core.twin.case import Case, usual_case
from drylamp.core.twin.stood import stood
from drylamp.formats.plan_calendar import PlannedStep, write_plan
from drylamp.instruments.ingest import to_ms
from drylamp.store import builds, calibrations, sheets, sites, trials
from drylamp.store.builds import BuildRow
from drylamp.store.database import NotFoundError, UnreadableError
from drylamp.store.unreadable import readable
from drylamp.web import context
from drylamp.web.builds.present import build_view
from drylamp.web.cases import day_answer
from drylamp.web.errors import said
from drylamp.web.house import house_of
from drylamp.web.jobs.heavy import heavy, in_steps
from drylamp.web.routed import as_file, blueprint
from drylamp.web.shared import Id, PartPath
from drylamp.web.sheets.ground import around_of
from drylamp.web.sites.models import (
    Glance,
    PlanQuery,
    StandingLine,
    StandingYard,
    Tick,
    Ticked,
    Yard,
    YardLine,
    YardQuery,
    YardThing,
)
from drylamp.web.trials.present import trial_view
from drylamp.web.twin.models import DayAnswer

api = blueprint("yards", "/api/sites")
MOST_THINGS = 5
EVERY = 2
"""Of a day's samples a lane shows every second."""


@api.get("/<int:id>/yard", responses={200: Yard})
def yard(path: Id, query: YardQuery) -> Response:
    """Everything at a site: each build's day, what is running, and the next five things to do."""
    now = context.now()
    with context.database() as db:
        site, house = sites.get_site(db, path.id).site, house_of(db, path.id)
        found = readable(builds.list_builds(db, path.id), lambda row: _line(db, site, house, row, query, now))
    lines = [line for line, _ in found]
    things = [thing for _, of_line in found for thing in of_line]
    return context.answer(Yard(lines=lines, next_things=next_five(things, now)))


def _thing(row: BuildRow, step: PlanStep, house: House, ticked: list[Done]) -> YardThing | None:
    """A step of a plan as something to do; none where it was ticked."""
    hour, what = f"{step.time:%H:%M}", plain(step.text)[:300]
    if any((done.on, done.what) == (step.time.date(), what) for done in ticked):
        return None
    tick = Tick(day=step.time.date(), planned=hour, what=what)
    return YardThing(
        time=step.time,
        text=f"{row.name}: {step.text}",
        build_id=row.id,
        somebody_there=not house.is_away(hour),
        tick=tick,
    )


@api.post("/<int:id>/yard/standing", responses={200: StandingYard})
@heavy()
def standing_yard(path: Id, body: YardQuery) -> Response:
    """Where everything that stays over days stands, evening by evening."""
    with context.database() as db:
        site = sites.get_site(db, path.id).site
        rows = [row for row in builds.list_builds(db, path.id) if runs_over_days(row.load)]
        asked = readable(rows, lambda row: (row.id, _over_days(db, site, row, body)))
    key = f"standing {body.day} {' '.join(case.key for _, case in asked)}"
    return in_steps(key, lambda: _stand(asked, body.day), lambda lines: StandingYard(lines=lines))


def _over_days(db: sqlite3.Connection, site: Site, row: BuildRow, query: YardQuery) -> Case:
    """A build's run of days, begun when its load went in."""
    case = _case(db, site, row, query)
    assert case.load is not None
    first, days = span_of(case.load, query.day)
    return case.with_(span=Span(start=first, days=days, step_s=STEP_S))


def _stand(asked: list[tuple[int, Case]], day: date) -> Long[list[StandingLine]]:
    lines = list[StandingLine]()
    for k, (build, case) in enumerate(asked):
        try:
            lines.append(StandingLine(build_id=build, standing=standing(case, day, weather_for)))
        except InputProblem as error:
            lines.append(StandingLine(build_id=build, standing=None, problem=said(error)))
        yield Step((k + 1) / len(asked), list(lines))
    if not asked:
        yield Step(1.0, [])


@api.get("/<int:id>/plan.ics", responses=as_file("text/calendar"))
def plan_calendar(path: Id, query: PlanQuery) -> Response:
    """The plans of all builds over some days as a calendar; the same address may be subscribed to."""
    now = context.now()
    with context.database() as db:
        site, house = sites.get_site(db, path.id).site, house_of(db, path.id)
        first = query.day or local_day(site.zone, now.timestamp())
        steps = list[PlannedStep]()
        for day in (first + timedelta(days=k) for k in range(min(query.days, (LAST_DAY - first).days + 1))):
            for line, _ in readable(
                builds.list_builds(db, path.id), partial(_line, db, site, house, query=YardQuery(day=day), now=now)
            ):
                steps += [
                    PlannedStep(line.build.name, one.time, plain(one.text), not house.is_away(f"{one.time:%H:%M}"))
                    for one in line.plan
                ]
    return context.attachment(write_plan(f"Plan of {site.name}", steps, now), "text/calendar", f"plan-{path.id}.ics")


@api.post("/<int:id>/yard/<int:part_id>/tick", responses={201: Ticked})
def tick(path: PartPath, body: Tick) -> Response:
    """Mark a step of a build's plan as done; in its running trials it stands as a note."""
    now = context.now()
    with context.writing() as db:
        row = builds.get_build(db, path.part_id)
        if row.site_id != path.id:
            raise NotFoundError(f"site {path.id} has no build {path.part_id}")
        done = Done(on=body.day, planned=body.planned, what=body.what)
        new = sheets.add_row(db, "build", row.id, DONE.name, done.model_dump_json(), context.stamp())
        running = [trial for trial in trials.list_trials(db, row.id) if trial.ended_ms is None]
        for trial in running:
            trials.add_event(db, trial.id, "note", to_ms(now), f"done: {body.what}")
        return context.answer(Ticked(row_id=new, trial_ids=[trial.id for trial in running]), 201)


def next_five(things: list[YardThing], now: datetime) -> list[YardThing]:
    """The next five by their time; a reading is never crowded out by plans: what is not read then is lost."""
    ahead = [t for t in things if t.trial_id is not None or t.time >= now]
    first = sorted(ahead, key=lambda t: (t.trial_id is None, t.time))[:MOST_THINGS]
    return sorted(first, key=lambda t: t.time)


def _case(db: sqlite3.Connection, site: Site, row: BuildRow, query: YardQuery) -> Case:
    """A build's day as it was calibrated, under the sky that is known of it."""
    learnt = calibrations.in_force(db, row.id)
    sky = sites.weather_on(db, row.site_id, site, query.day, query.sky)
    case = usual_case(site, row.spot, row.spec, row.load, query.day)
    return case.with_(weather=sky, calibration=learnt.factors if learnt else TEXTBOOK)


def _day(case: Case) -> DayAnswer | None:
    """A day of its own; none of what has stood since before, whose days are run one after the other."""
    began = None if case.load is None else case.load.begins_on
    return None if began is not None and began < case.span.start else day_answer(stood(case))


def _glance(outcome: Outcome) -> Glance:
    """What a lane of the yard shows of a day; the whole of it is for the build's own page."""
    curve = next((c for c in outcome.curves if c.node == outcome.judged), None)
    return Glance(
        said=outcome.said, days=outcome.days, target_c=outcome.target_c, stagnation_c=outcome.stagnation_c,
        judged="" if curve is None else curve.title, start=outcome.times[0], step_s=outcome.step_s * EVERY,
        temperature_c=[] if curve is None else [None if c is None else round(c, 1) for c in curve.temperature_c[::EVERY]],
    )  # fmt: skip


def _line(
    db: sqlite3.Connection, site: Site, house: House, row: BuildRow, query: YardQuery, now: datetime
) -> tuple[YardLine, list[YardThing]]:
    """A build's day and what is to be done with it."""
    mine = trials.list_trials(db, row.id)
    running = [t for t in mine if t.ended_ms is None]
    outcome = None
    plan, trouble = [], ""
    try:
        done = _day(_case(db, site, row, query))
        outcome, plan = (None, []) if done is None else (_glance(done.outcome), done.plan)
    except InputProblem as error:
        trouble = said(error)
    except UnreadableError as error:
        trouble = str(error)
    line = YardLine(
        build=build_view(db, row), outcome=outcome, over_days=runs_over_days(row.load), plan=plan, problem=trouble, trials=len(mine),
        running=[t.id for t in running],
    )  # fmt: skip
    ticked = around_of(db, "build", row.id).rows(DONE)
    things = [thing for step in plan if (thing := _thing(row, step, house, ticked)) is not None]
    for view in readable(running, lambda trial: trial_view(db, trial, False, now)):
        if view.next_reading is not None:
            text = f"{row.name}: read “{view.name}”"
            things.append(YardThing(time=view.next_reading, text=text, build_id=row.id, trial_id=view.id))
    return line, things
