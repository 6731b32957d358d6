"""Builds: revisions, undo, put away and bring back, files in and out."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial
from sqlite3 import Connection

from flask import Response

from drylamp.core.builds.common.pattern import laid_out
from drylamp.core.builds.registry import kind_of
from drylamp.core.checks import InputProblem
from drylamp.demo.drafts import DRAFTS
from drylamp.formats.build_file import BuildFile, read_build, write_build
from drylamp.formats.pattern_file import to_dxf, to_svg
from drylamp.store import builds, calibrations, sites
from drylamp.store.builds import Draft
from drylamp.store.database import NotFoundError
from drylamp.store.unreadable import readable
from drylamp.web import context
from drylamp.web.builds.models import (
    BuildDraft,
    BuildList,
    BuildQuery,
    BuildView,
    Example,
    ExampleList,
    ImportBuild,
    NewBuild,
    RevisionList,
)
from drylamp.web.builds.present import build_view, history
from drylamp.web.routed import as_file, blueprint, needs_mark
from drylamp.web.shared import Id, PartPath

api = blueprint("builds", "/api/builds")


def _draft(body: BuildDraft) -> Draft:
    kind_of(body.spec).check_fit(body.spec, body.load)
    return Draft(body.name, body.spot, body.spec, body.load, body.note)


@api.get("", responses={200: BuildList})
def list_all(query: BuildQuery) -> Response:
    """List builds that are not put away."""
    with context.database() as db:
        rows = builds.list_away(db, query.site) if query.away else builds.list_builds(db, query.site)
        return context.answer(BuildList(readable(rows, partial(build_view, db))))


@api.post("", responses={201: BuildView})
def add(body: NewBuild) -> Response:
    """Add a build."""
    with context.writing() as db:
        _check_spot(sites.get_site(db, body.site_id).site.spots, body.spot)
        row = builds.add_build(db, body.site_id, _draft(body), context.stamp())
        return context.answer(build_view(db, row), 201, row.revision)


def _check_spot(spots: list, spot: str | None) -> None:  # type: ignore[type-arg]
    names = [s.name for s in spots]
    if spot is not None and spot not in names:
        raise InputProblem("spot", f"'{spot}' is no spot at this site; known: {', '.join(names)}")


@api.get("/<int:id>", responses={200: BuildView})
def get(path: Id) -> Response:
    """Show a build."""
    with context.database() as db:
        row = builds.get_build(db, path.id)
        return context.answer(build_view(db, row), revision=row.revision)


@api.put("/<int:id>", responses={200: BuildView})
@needs_mark
def change(path: Id, body: BuildDraft) -> Response:
    """Change a build; needs If-Match, and a change made elsewhere in the meantime is never overwritten."""
    seen = context.seen_revision()
    with context.writing() as db:
        current = builds.get_build(db, path.id)
        _check_spot(sites.get_site(db, current.site_id).site.spots, body.spot)
        row = builds.change_build(db, path.id, _draft(body), seen, context.stamp())
        return context.answer(build_view(db, row), revision=row.revision)


@api.post("/<int:id>/undo", responses={200: BuildView})
@needs_mark
def undo(path: Id) -> Response:
    """Undo the last change; needs If-Match."""
    seen = context.seen_revision()
    with context.writing() as db:
        row = builds.undo_build(db, path.id, seen, context.stamp())
        return context.answer(build_view(db, row), revision=row.revision)


@api.get("/<int:id>/revisions", responses={200: RevisionList})
def revisions(path: Id) -> Response:
    """List a build's revisions, newest first."""
    with context.database() as db:
        builds.get_build(db, path.id)
        return context.answer(RevisionList(history(db, builds.revisions(db, path.id))))


@api.post("/<int:id>/put-away", responses={200: BuildView})
@needs_mark
def put_away(path: Id) -> Response:
    """Put a build away; its trials stay. Needs If-Match."""
    return _marked(builds.remove_build, path.id, context.stamp())


@api.post("/<int:id>/bring-back", responses={200: BuildView})
@needs_mark
def bring_back(path: Id) -> Response:
    """Bring a build back; needs If-Match."""
    return _marked(builds.remove_build, path.id, None)


@api.delete("/<int:id>", responses={200: BuildView})
@needs_mark
def delete(path: Id) -> Response:
    """Delete a build; it can be restored. Needs If-Match."""
    return _marked(builds.delete_build, path.id, context.stamp())


@api.post("/<int:id>/restore", responses={200: BuildView})
@needs_mark
def restore(path: Id) -> Response:
    """Undo the deletion of a build; needs If-Match."""
    return _marked(builds.delete_build, path.id, None)


def _marked(mark: Callable[[Connection, int, str | None, int], None], build_id: int, when: str | None) -> Response:
    seen = context.seen_revision()
    with context.writing() as db:
        mark(db, build_id, when, seen)
        row = builds.get_build(db, build_id)
        return context.answer(build_view(db, row), revision=row.revision)


@api.get("/examples", responses={200: ExampleList})
def examples() -> Response:
    """List the builds of the made-up yard, to be copied into one's own."""
    return context.answer(
        ExampleList([Example(name=d.name, note=d.note, spec=d.spec, load=d.load) for d in DRAFTS.values()])
    )


@api.get("/<int:id>/file", responses={200: BuildFile})
def download(path: Id) -> Response:
    """Give the build as a file."""
    with context.database() as db:
        row = builds.get_build(db, path.id)
    return context.attachment(write_build(row.name, row.spec, row.load), "application/json", f"build-{row.id}.json")


@api.post("/from-file", responses={201: BuildView})
def from_file(body: ImportBuild) -> Response:
    """Make a build from a file's text."""
    made = read_build(body.read()[0])
    kind_of(made.spec).check_fit(made.spec, made.load)
    with context.writing() as db:
        sites.get_site(db, body.site_id)
        draft = Draft(made.name, None, made.spec, made.load, f"from {body.name}")
        row = builds.add_build(db, body.site_id, draft, context.stamp())
        return context.answer(build_view(db, row), 201, row.revision)


@api.post("/<int:id>/calibration/<int:part_id>/withdraw", responses={200: BuildView})
def withdraw_calibration(path: PartPath) -> Response:
    """Take an accepted calibration back; the one before it, or the textbook, is in force again."""
    return _calibration(path, context.stamp())


@api.post("/<int:id>/calibration/<int:part_id>/restore", responses={200: BuildView})
def restore_calibration(path: PartPath) -> Response:
    """Bring a calibration back."""
    return _calibration(path, None)


def _calibration(path: PartPath, when: str | None) -> Response:
    with context.writing() as db:
        if calibrations.get_calibration(db, path.part_id).build_id != path.id:
            raise NotFoundError(f"build {path.id} has no calibration {path.part_id}")
        calibrations.withdraw(db, path.part_id, when)
        row = builds.get_build(db, path.id)
        return context.answer(build_view(db, row), revision=row.revision)


@api.get("/<int:id>/pattern.svg", responses=as_file("image/svg+xml"))
def pattern_svg(path: Id) -> Response:
    """The flat pattern at true size, to print."""
    return _pattern(path.id, "svg")


@api.get("/<int:id>/pattern.dxf", responses=as_file("image/vnd.dxf"))
def pattern_dxf(path: Id) -> Response:
    """The flat pattern at true size, to cut by machine."""
    return _pattern(path.id, "dxf")


def _pattern(build_id: int, form: str) -> Response:
    with context.database() as db:
        row = builds.get_build(db, build_id)
    made = laid_out(row.name, kind_of(row.spec).pattern(row.spec))
    text, kind = (to_svg(made), "image/svg+xml") if form == "svg" else (to_dxf(made), "image/vnd.dxf")
    return context.attachment(text, kind, f"pattern-{row.id}.{form}")
