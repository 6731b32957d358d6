"""Every sheet by its name, collected from the rooms of kinds and loads and from what all builds share."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass, replace
from typing import Any, cast

from pydantic import JsonValue, ValidationError

from drylamp.core import builds, loads
from drylamp.core.builds.build import Build
from drylamp.core.builds.common.house.done import DONE
from drylamp.core.builds.common.house.sheet import HOUSE
from drylamp.core.builds.common.house.use import USE
from drylamp.core.builds.common.pile.claims import CLAIMS
from drylamp.core.builds.common.pile.sheet import PILE
from drylamp.core.builds.common.upkeep.sheet import UPKEEP
from drylamp.core.builds.registry import kind_of
from drylamp.core.builds.sheet import MOST_ROWS, Around, Of, Sheet, SheetPage
from drylamp.core.checks import InputProblem, Model, require, unknown_name
from drylamp.core.collect import module_if_any, modules, rooms
from drylamp.core.loads.load import Load

AnySheet = Sheet[Any]


@dataclass(frozen=True)
class Belongs:
    """A sheet with whom it is for: kinds of build and of load that bring it; all where neither is said."""

    sheet: AnySheet
    build: str = ""
    load: type[Load] | None = None


def _collected() -> dict[str, Belongs]:
    found = [Belongs(UPKEEP), Belongs(PILE), Belongs(CLAIMS), Belongs(HOUSE), Belongs(USE), Belongs(DONE)]
    for room, (kind,) in zip(rooms(builds), modules(builds, "kind"), strict=True):
        found += [Belongs(sheet, build=kind.KIND.name) for sheet in _own(room)]
    for room, (spec,) in zip(rooms(loads), modules(loads, "spec"), strict=True):
        found += [Belongs(sheet, load=spec.LOAD) for sheet in _own(room)]
    return {one.sheet.name: one for one in found}


def _own(room: str) -> tuple[AnySheet, ...]:
    module = module_if_any(room, "sheets")
    return () if module is None else cast(tuple[AnySheet, ...], module.SHEETS)


SHEETS = _collected()


def sheets_of(of: Of, build: Build | None, load: Load | None) -> Iterator[AnySheet]:
    """Sheets that a trial, a build or a site has, by what it is and what is in it."""
    for one in SHEETS.values():
        if one.sheet.of == of and _fits(one, build, load):
            yield one.sheet


def _fits(one: Belongs, build: Build | None, load: Load | None) -> bool:
    if one.build and (build is None or kind_of(build).name != one.build):
        return False
    if one.load is None or one.sheet.of == "site":
        return True
    if one.sheet.of == "build":
        return build is not None and one.load.sits in kind_of(build).offers
    return load is not None and load.kind == one.load.kind_name()


def find_sheet(name: str, of: Of, build: Build | None, load: Load | None) -> AnySheet:
    """The sheet of that name, where it is one of these.

    Raises
    ------
    InputProblem
        there is none here.
    """
    here = {sheet.name: sheet for sheet in sheets_of(of, build, load)}
    if name not in here:
        raise unknown_name("sheet", name, here)
    return here[name]


def read_row(sheet: AnySheet, given: Mapping[str, JsonValue]) -> Model:
    """A row as it was typed, made a model.

    Raises
    ------
    ValidationError
        it cannot be.
    """
    return cast(Model, sheet.row.model_validate(dict(given)))


def read_rows(sheet: AnySheet, given: Iterable[Mapping[str, JsonValue]]) -> list[Model | None]:
    """Rows that were stored; none for one that can no longer be read."""
    out = list[Model | None]()
    for row in given:
        try:
            out.append(read_row(sheet, row))
        except (ValidationError, InputProblem):
            out.append(None)
    return out


def check_row(sheet: AnySheet, row: Model, rows: Sequence[Model], around: Around) -> None:
    """Refuse a row that cannot stand beside the others, or one too many.

    Raises
    ------
    InputProblem
        says what was given and what is allowed.
    """
    require(len(rows) < MOST_ROWS, "row", f"there are {len(rows)} rows already; allowed are {MOST_ROWS}")
    sheet.check(row, rows, around)


def page_of(sheet: AnySheet, rows: Sequence[Model], around: Around) -> SheetPage:
    """What is made of its rows."""
    return sheet.page(rows, around)


def with_rows(around: Around, stored: Mapping[str, Iterable[Mapping[str, JsonValue]]]) -> Around:
    """The same with the rows of all sheets beside it, unreadable ones left out."""
    read = {
        name: [row for row in read_rows(SHEETS[name].sheet, rows) if row is not None]
        for name, rows in stored.items()
        if name in SHEETS
    }
    return replace(around, others=read)
