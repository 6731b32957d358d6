"""Sheets: rows of one sort that a person writes down beside a trial, a build or a site, with what the core makes of them.

A sheet is data: the model of a row, which a form is made of, and a function that reads all rows and answers with a page: cells to show, sentences, bars.
Rooms bring theirs in a module ``sheets.py``; nobody outside knows what is in a row.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, field
from datetime import date
from typing import Any, Generic, Literal, TypeVar, cast

from pydantic import Field, JsonValue

from drylamp.core.builds.build import Build
from drylamp.core.checks import Model, YesNo
from drylamp.core.forms import FieldForm, Option, form_of
from drylamp.core.loads.load import Load
from drylamp.core.sky.site import Site
from drylamp.core.text import Sentence

Of = Literal["trial", "build", "site"]
"""What a sheet's rows belong to."""
R = TypeVar("R", bound=Model)
MOST_ROWS = 2000


class SheetLine(Model):
    """A row as it is shown: its cells in words, and what is odd about it."""

    cells: list[Sentence]
    warning: Sentence = ""


class SheetBar(Model):
    """A bar of a sheet's picture: ``share`` of the longest, ``picked`` where it is what counts."""

    title: Sentence
    share: float
    says: Sentence = ""
    picked: YesNo = False


class SheetBars(Model):
    """A picture of a sheet."""

    title: Sentence
    bars: list[SheetBar]


class SheetPage(Model):
    """What is made of all rows: a line for each in their order, sentences, a picture where one tells more."""

    columns: list[Sentence]
    lines: list[SheetLine]
    words: list[Sentence] = Field(default_factory=list)
    bars: SheetBars | None = None


@dataclass(frozen=True)
class Learnt:
    """What a trial taught the twin of a build: factors by name, and the day on which that was accepted."""

    on: date
    factors: Mapping[str, float]
    trial: str


@dataclass(frozen=True)
class Around:
    """What a sheet may look at beside its rows: where, what and with what, the day, the rows of its neighbours by their name, and what trials taught."""

    site: Site
    today: date
    build: Build | None = None
    load: Load | None = None
    others: Mapping[str, Sequence[Any]] = field(default_factory=dict)
    learnt: Sequence[Learnt] = ()

    def rows(self, sheet: Sheet[R]) -> list[R]:
        """Rows of another sheet."""
        return list(self.others.get(sheet.name, ()))


def no_options(around: Around) -> dict[str, list[Option]]:
    """None beside those of the model."""
    return {}


def unchecked(row: Any, rows: Sequence[Any], around: Around) -> None:
    """A row that is right by itself."""


@dataclass(frozen=True)
class Sheet(Generic[R]):
    """A sheet.

    Attributes:
        row: model of a row; ``on`` is its day where it has one
        page: what is made of the rows
        fresh: what a form for the next row begins with
        check: refuses a row that cannot be beside the others
        options: choices of fields that follow from what it belongs to
    """

    name: str
    title: str
    of: Of
    purpose: str
    row: type[R]
    page: Callable[[Sequence[R], Around], SheetPage]
    fresh: Callable[[Sequence[R], Around], dict[str, JsonValue]]
    check: Callable[[R, Sequence[R], Around], None] = unchecked
    options: Callable[[Around], dict[str, list[Option]]] = no_options

    def form(self, around: Around) -> list[FieldForm]:
        """The fields of a row as a form asks for them."""
        own = self.options(around)
        return [
            one if one.name not in own else one.model_copy(update={"sort": "choice", "options": own[one.name]})
            for one in form_of(self.row)
        ]


def begin_with(row: type[R], today: date, last: R | None = None, *again: str) -> dict[str, JsonValue]:
    """A blank row: its own defaults, today where it has a day, and of the last row what is usually the same again."""
    texts = {one.name for one in form_of(row) if one.sort == "text"}
    usual = (
        (name, ("" if name in texts else None) if info.is_required() else info.get_default())
        for name, info in row.model_fields.items()
    )
    out: dict[str, JsonValue] = {
        name: value.model_dump(mode="json") if isinstance(value, Model) else cast(JsonValue, value)
        for name, value in usual
    }
    if "on" in out:
        out["on"] = today.isoformat()
    if last is not None:
        kept = last.model_dump(mode="json")
        out |= {name: kept[name] for name in again}
    return out


def as_learnt(on: date, factors: Mapping[str, float], parts: Mapping[str, float], trial: str) -> Learnt:
    """From a calibration's plain factors and those by part."""
    return Learnt(on, {**factors, **parts}, trial)


def latest(rows: Sequence[R]) -> R | None:
    """The one that holds of a sheet of which only the last does."""
    return rows[-1] if rows else None
