"""Readings over the wire."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated, Literal

from pydantic import BaseModel, ConfigDict, Field

from drylamp.core.builds.registry import BuildSpec
from drylamp.core.checks import LONGEST_NAME, Model, Moment, NotNegative, Number, Reading, YesNo
from drylamp.core.sky.site import Site
from drylamp.core.trials.facts import TrialFacts
from drylamp.core.trials.instruments import Quantity
from drylamp.core.trials.paper import MOST_ROWS
from drylamp.formats.readings.preview import Clock, Preview
from drylamp.instruments.ingest import RefusedLine
from drylamp.web.shared import FileText
from drylamp.web.trials.models import NewChannel, ReadingView


class NewReading(Model):
    """A reading as it arrives; time defaults to now. A word goes into ``typed`` and leaves ``value`` out."""

    channel: str
    value: Reading | None = None
    unit: str = "C"
    time: Moment | None = None
    typed: Annotated[str, Field(max_length=40)] = ""


class ReadingBatch(Model):
    """A batch of readings."""

    source: Literal["hand", "logger", "file"] = "hand"
    ahead: YesNo = Field(default=False, description="Stamps ahead of the server's clock are meant")
    readings: list[NewReading] = Field(min_length=1, max_length=2000)


class BatchAnswer(Model):
    """What became of a batch."""

    written: int
    repeated: int
    contradicting: list[ReadingView]
    flagged: list[ReadingView]
    import_id: int | None = Field(
        default=None, description="Number of the import that they came with, to take all of it back by"
    )


class PaperRow(Model):
    """A row of a paper chart: what stood for the time, and in each channel's column."""

    at: Annotated[str, Field(max_length=40)]
    values: Annotated[dict[Annotated[str, Field(max_length=LONGEST_NAME)], Annotated[str, Field(max_length=40)]], Field(max_length=24)]  # fmt: skip


class PaperChart(Model):
    """A paper chart, to be looked at or written; ``units`` of columns that are not in the usual one."""

    rows: list[PaperRow] = Field(min_length=1, max_length=MOST_ROWS)
    units: dict[Annotated[str, Field(max_length=LONGEST_NAME)], Annotated[str, Field(max_length=20)]] = Field(default_factory=dict)  # fmt: skip
    write: YesNo = False
    ahead: YesNo = Field(default=False, description="Rows ahead of the server's clock are meant")


class PaperLine(Model):
    """A row as it was understood; problems by column, the time's under an empty name."""

    time: datetime | None
    count: int
    problems: dict[str, str]
    ahead: YesNo = Field(description="It lies ahead of the server's clock")


class PaperAnswer(Model):
    """The chart as it was understood, and what became of it; with a problem, or a row ahead that is not meant, nothing was written."""

    lines: list[PaperLine]
    written: BatchAnswer | None


class IngestReading(BaseModel):
    """A reading as a microcontroller sends it: no number at all (null, "nan") is taken in and flagged; other fields are let be."""

    model_config = ConfigDict(extra="ignore", frozen=True)

    channel: str
    value: float | str | None = None
    unit: str | None = None
    time: str | float | None = None


class IngestBatch(BaseModel):
    """A batch as a microcontroller sends it."""

    model_config = ConfigDict(extra="ignore", frozen=True)

    readings: list[IngestReading] = Field(max_length=5000)


class IngestAnswer(Model):
    """What became of a batch: short, for small memories; lines that cannot be used by their number."""

    written: int
    repeated: int
    contradicting: int
    flagged: dict[str, int]
    refused: list[RefusedLine]


class ReadingKey(Model):
    """Names one reading."""

    channel: str
    time: Moment


class ShiftClock(Model):
    """Move what loggers and files stamped."""

    minutes: Annotated[Number, Field(ge=-100_000, le=100_000)]


class Shifted(Model):
    """How many readings were moved."""

    moved: int


class SeriesQuery(Model):
    """A stretch of a trial and how many points a channel may have; everything where no ends are given."""

    start: Moment | None = None
    end: Moment | None = None
    points: Annotated[int, Field(ge=50, le=5000)] = 800


class ChannelSeries(Model):
    """A channel's readings for a chart: all of them (``raw``), or so many that draw like all, every extreme among them."""

    channel: str
    title: str
    node: str
    quantity: Quantity
    is_control: YesNo
    doubt: float
    count: int
    raw: YesNo
    times_ms: list[int]
    values: list[float | None]


class SeriesAnswer(Model):
    """What a trial's chart is drawn from."""

    start: datetime | None
    end: datetime | None
    channels: list[ChannelSeries]
    far: int = Field(description="Readings not drawn, for their stamps lie months from nearly all others")


class ImportRequest(FileText):
    """A readings file: units by column, the logger's clock and a shift where a person knows better, answers by question."""

    units: dict[str, str] = Field(default_factory=dict)
    clock: Clock = "site"
    shift_minutes: Annotated[Number, Field(ge=-100_000, le=100_000)] = 0.0
    answers: dict[str, str] = Field(default_factory=dict)


class ColumnTarget(Model):
    """Which channel a column's values go to; a channel that is not there yet is added."""

    column: str
    channel: NewChannel


class ImportCommit(ImportRequest):
    """Import after the preview was looked at."""

    columns: list[ColumnTarget] = Field(min_length=1, max_length=24)
    bad_rows: Literal["stop", "skip"] = "stop"


class ImportPreview(Model):
    """What an import would do, and where each column would go: to a channel by name, to a new one on a node, or nowhere."""

    preview: Preview
    goes_to: dict[str, str]
    remembered: YesNo


class ImportAnswer(Model):
    """What an import did."""

    preview: Preview
    result: BatchAnswer


class LoggerSetup(Model):
    """What a logger asks before it starts."""

    facts: TrialFacts
    site: Site
    spec: BuildSpec
    covered_minutes: NotNegative
