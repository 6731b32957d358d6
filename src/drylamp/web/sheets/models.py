"""Sheets over the wire."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field, JsonValue, RootModel

from drylamp.core.builds.sheet import Of, SheetBars
from drylamp.core.checks import Model, Moment, RowId
from drylamp.core.forms import FieldForm
from drylamp.core.text import Sentence

Content = Annotated[dict[str, JsonValue], Field(max_length=60)]
MOST_AT_ONCE = 200


class RowView(Model):
    """A row: as it was typed, and as it is shown; ``cells`` are empty where it can no longer be read, ``warning`` says so."""

    id: int
    revision: int
    content: dict[str, JsonValue]
    cells: list[Sentence]
    warning: Sentence
    photos: list[int] = Field(description="Numbers of its photos, oldest first")


class RowPhotoQuery(Model):
    """When a photo was taken, now where nothing is said; sent again with one uid it is the same photo."""

    time: Moment | None = None
    uid: Annotated[str, Field(min_length=8, max_length=64)] | None = None


class SheetView(Model):
    """A sheet: what it is, its form, its rows, and what is made of them."""

    name: str
    title: Sentence
    purpose: Sentence
    fields: list[FieldForm]
    blank: dict[str, JsonValue]
    columns: list[Sentence]
    rows: list[RowView]
    words: list[Sentence]
    bars: SheetBars | None


class SheetList(RootModel[list[SheetView]]):
    """Sheets."""


class OwnerPath(Model):
    """Path of what sheets belong to."""

    of: Of
    owner_id: RowId


class SheetPath(OwnerPath):
    """Path of a sheet."""

    sheet: Annotated[str, Field(min_length=1, max_length=40)]


class NewRow(Model):
    """A row as it was typed."""

    content: Content


class SetRows(Model):
    """Fields to be set in every row of a sheet."""

    changes: Annotated[dict[str, JsonValue], Field(min_length=1, max_length=60)]


class NewRows(Model):
    """Several rows, all or none."""

    rows: Annotated[list[Content], Field(min_length=1, max_length=MOST_AT_ONCE)]
