"""Builds: revisions, undo, put away and bring back, files in and out."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial
from sqlite3 import Connection

from flask import Response

from drylamp.core.advice.build_sheet import build_sheet
from drylamp.core.advice.made_of import MadeOf, made_of
from drylamp.core.branch import Branch, taken_over
from drylamp.core.builds.common.pattern import laid_out
from drylamp.core.builds.registry import kind_of
from drylamp.core.checks import InputProblem, listed
from drylamp.core.sky.clock import local_day
from drylamp.core.sky.weather import Span
from drylamp.core.twin.calibration import TEXTBOOK
from drylamp.core.twin.case import Case, usual_case
from drylamp.demo.drafts import DRAFTS
from drylamp.formats import bill_file
from drylamp.formats.build_file import BuildFile, read_build, write_build
from drylamp.formats.pattern_file import to_dxf, to_svg
from drylamp.formats.section_svg import section_svg
from drylamp.formats.sheet_page import to_html
from drylamp.formats.workbook import XLSX
from drylamp.store import builds, calibrations, sites
from drylamp.store.builds import Draft
from drylamp.store.database import NotFoundError
from drylamp.store.unreadable import readable
from drylamp.web import context
from drylamp.web.builds.models import (
    BillView,
    BuildDraft,
    BuildList,
    BuildQuery,
    BuildView,
    Example,
    ExampleList,
    ImportBuild,
    NewBuild,
    NewVariant,
    RevisionList,
    TakeOver,
)
from drylamp.web.builds.present import build_view, history
from drylamp.web.cases import day_answer
from drylamp.web.pile import claimed, free, free_pile, keep
from drylamp.web.routed import as_file, blueprint, needs_mark
from drylamp.web.shared import DayQuery, Id, PartPath

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


@api.post("/<int:id>/variants", responses={201: BuildView})
def add_variant(path: Id, body: NewVariant) -> Response:
    """Branch a variant off a build as it is; what is changed in it can be taken over."""
    with context.writing() as db:
        row = builds.add_variant(db, path.id, body.name, context.stamp())
        return context.answer(build_view(db, row), 201, row.revision)


@api.post("/<int:id>/take-over", responses={200: BuildView})
@needs_mark
def take_over(path: Id, body: TakeOver) -> Response:
    """Lay onto a build what a variant of it changed since it branched off, and put the variant away; needs If-Match."""
    seen = context.seen_revision()
    with context.writing() as db:
        mine, variant = builds.get_build(db, path.id), builds.get_build(db, body.variant)
        if variant.variant_of != path.id:
            raise InputProblem(
                "variant", f"{variant.name} is no variant of {mine.name}; choose one that branched off it"
            )
        base = builds.get_build(db, path.id, variant.variant_from)
        made = taken_over(*(Branch(row.spec, row.load) for row in (base, mine, variant)))
        if made.both and not body.anyway:
            said = listed(made.both)
            raise InputProblem(
                "anyway",
                f"both changed {said} since {variant.name} branched off; whoever wants the variant's sends anyway: true",
            )
        spot = mine.spot if variant.spot == base.spot else variant.spot
        draft = Draft(mine.name, spot, made.build, made.load, f"taken over from {variant.name}")
        row = builds.change_build(db, path.id, draft, seen, context.stamp())
        if body.put_away and not variant.removed:
            builds.remove_build(db, variant.id, context.stamp(), variant.revision)
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


@api.get("/<int:id>/case.json", responses={200: Case})
def case_file(path: Id, query: DayQuery) -> Response:
    """The build on a day as a case, to be run anywhere: ``drylamp run``."""
    with context.database() as db:
        row = builds.get_build(db, path.id)
        site = sites.get_site(db, row.site_id).site
        weather = sites.weather_on(db, row.site_id, site, query.day, query.sky)
        learnt = calibrations.in_force(db, row.id)
    case = Case(name=row.name, site=site, spot=row.spot, build=row.spec, load=row.load, weather=weather, span=Span(start=query.day), calibration=TEXTBOOK if learnt is None else learnt.factors)  # fmt: skip
    return context.attachment(
        case.model_dump_json(indent=1) + "\n", "application/json", f"case-{row.id}-{query.day}.json"
    )


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


@api.get("/<int:id>/bill", responses={200: BillView})
def bill(path: Id) -> Response:
    """What the build is made of, weighs and costs, how it is cut, what of it lies on the salvage pile, and what is set aside for it."""
    with context.database() as db:
        return context.answer(_bill(db, path.id))


@api.get("/<int:id>/bill.csv", responses=as_file("text/csv"))
def bill_csv(path: Id) -> Response:
    """The bill of material as CSV."""
    return context.attachment(bill_file.to_csv(_made_of(path.id)), "text/csv", f"bill-{path.id}.csv")


@api.get("/<int:id>/bill.xlsx", responses=as_file(XLSX, binary=True))
def bill_xlsx(path: Id) -> Response:
    """The bill of material and its cutting plan as a workbook."""
    return context.attachment(bill_file.to_xlsx(_made_of(path.id)), XLSX, f"bill-{path.id}.xlsx")


@api.get("/<int:id>/sheet.html", responses=as_file("text/html"))
def sheet_page(path: Id) -> Response:
    """All that is needed to build it on one page that opens anywhere and prints: drawing, sizes, pieces, cuts, order of work, what holds it, cautions."""
    with context.database() as db:
        row = builds.get_build(db, path.id)
        site = sites.get_site(db, row.site_id).site
        pile = free_pile(db, row.site_id, row.id)
    today = local_day(site.zone, context.now().timestamp())
    sheet = build_sheet(row.name, row.spec, row.load, pile)
    flags = day_answer(usual_case(site, row.spot, row.spec, row.load, today)).outcome.flags
    text = to_html(sheet, [flag.text for flag in flags], today.isoformat())
    return context.attachment(text, "text/html", f"build-sheet-{row.id}.html")


@api.get("/<int:id>/section.svg", responses=as_file("image/svg+xml"))
def section_file(path: Id) -> Response:
    """The drawing as it stands, to scale, with its dimensions."""
    with context.database() as db:
        row = builds.get_build(db, path.id)
    drawn = kind_of(row.spec).section(row.spec, row.load, None)
    return context.attachment(section_svg(drawn, row.name), "image/svg+xml", f"section-{row.id}.svg")


@api.post("/<int:id>/set-aside", responses={200: BillView})
def keep_of_pile(path: Id) -> Response:
    """Set aside for the build what of the pile goes into it: no other build counts on that."""
    with context.writing() as db:
        keep(db, builds.get_build(db, path.id), context.stamp())
        return context.answer(_bill(db, path.id))


@api.delete("/<int:id>/set-aside", responses={200: BillView})
def let_go(path: Id) -> Response:
    """Let go of what of the pile was set aside for the build."""
    with context.writing() as db:
        free(db, path.id, context.stamp())
        return context.answer(_bill(db, path.id))


def _bill(db: Connection, build_id: int) -> BillView:
    row = builds.get_build(db, build_id)
    return BillView(made=made_of(row.spec, free_pile(db, row.site_id, build_id)), kept=claimed(db, build_id))


def _made_of(build_id: int) -> MadeOf:
    with context.database() as db:
        return _bill(db, build_id).made
