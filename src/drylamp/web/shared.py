"""Paths and texts that several resources share."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field

from drylamp.core.checks import Model, RowId

TITLE = Annotated[str, Field(min_length=1, max_length=120)]
NOTE = Annotated[str, Field(max_length=4000)]


class Id(Model):
    """Path of a resource."""

    id: RowId


class FileText(Model):
    """A file as text."""

    name: TITLE = "file"
    text: str


class PartPath(Model):
    """Path of an event or photo of a trial."""

    id: RowId
    part_id: RowId
