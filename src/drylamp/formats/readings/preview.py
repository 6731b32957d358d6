"""What a file of readings seems to say, what must be asked, and what was refused: the models that an import answers with."""

from __future__ import annotations

from dataclasses import dataclass, field
from datetime import datetime
from typing import Literal, NamedTuple

from pydantic import Field

from drylamp.core.checks import Model, YesNo
from drylamp.core.text import Sentence
from drylamp.core.trials.instruments import Quantity
from drylamp.formats.table_text import RefusedRow

Clock = Literal["site", "standard", "utc"]
CLOCKS: dict[Clock, str] = {
    "site": "the site's clock, summer time and all",
    "standard": "the site's standard time all year",
    "utc": "UTC",
}


class Answer(Model):
    """One way to answer a question."""

    code: str
    title: str


class Question(Model):
    """Something only a person can answer, with the answers there are."""

    code: str
    text: Sentence
    answers: list[Answer]


YES = [Answer(code="yes", title="Take it as it stands")]


class Column(Model):
    """One column of values as it was read; low and high in the quantity's base."""

    name: str
    unit: str
    unit_seen: YesNo
    quantity: Quantity
    count: int
    low: float | None
    high: float | None


class ParsedReading(NamedTuple):
    """One reading out of the file; no value where the sensor gave none."""

    row: int
    column: str
    time: datetime
    value: float | None
    typed: str
    unit: str


class Preview(Model):
    """What an import would do."""

    shape: Literal["wide", "tidy"]
    delimiter: str
    decimal_comma: YesNo
    time_column: str
    clock: str
    clock_open: YesNo
    columns: list[Column]
    questions: list[Question]
    notes: list[Sentence]
    refused: list[RefusedRow] = Field(description="The first of the rows that cannot be used, by their numbers")
    refused_count: int = Field(description="How many there are in all")
    readings: int
    first_rows: list[list[str]]
    header: list[str]


@dataclass(frozen=True)
class Parsed:
    """A preview with its readings."""

    preview: Preview
    readings: list[ParsedReading]


@dataclass(frozen=True)
class Reading:
    """How a person wants a file to be read: units by column, the logger's clock, a shift, and answers by question."""

    units: dict[str, str] = field(default_factory=dict)
    clock: Clock = "site"
    shift_minutes: float = 0.0
    answers: dict[str, str] = field(default_factory=dict)
