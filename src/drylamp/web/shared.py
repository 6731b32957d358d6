"""Paths and texts that several resources share."""

from __future__ import annotations

from base64 import b64decode
from typing import Annotated

from pydantic import Field

from drylamp.core.checks import Day, InputProblem, Model, RowId, require
from drylamp.core.sky.weather import SkyState
from drylamp.formats.table_text import decode

TITLE = Annotated[str, Field(min_length=1, max_length=120)]
NOTE = Annotated[str, Field(max_length=4000)]
MOST_TEXT = 24 * 1024 * 1024


class Id(Model):
    """Path of a resource."""

    id: RowId


class FileText(Model):
    """A file: its text, or its bytes as they are, so that the letters of old programs are read here."""

    name: TITLE = "file"
    text: Annotated[str, Field(max_length=MOST_TEXT)] = ""
    base64: Annotated[str, Field(max_length=MOST_TEXT)] = Field(default="", description="The file's bytes, in place of its text")  # fmt: skip

    def read(self) -> tuple[str, str]:
        """The file's text, and what is to be said of how its letters were read.

        Raises
        ------
        InputProblem
            both or neither were given, or the bytes cannot be read.
        """
        require(not (self.text and self.base64), "text", "text and base64 were both given; give one of them")
        if not self.base64:
            return self.text, ""
        try:
            data = b64decode(self.base64, validate=True)
        except ValueError:
            raise InputProblem("base64", "it is no base64; send the file's bytes in the standard alphabet") from None
        return decode(data)


class DayQuery(Model):
    """A day, and its sky; as it was noted or usually is where nothing is said."""

    day: Day
    sky: SkyState | None = None


class PartPath(Model):
    """Path of an event or photo of a trial."""

    id: RowId
    part_id: RowId
