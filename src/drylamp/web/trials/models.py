"""Trials over the wire."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated

from pydantic import Field, RootModel

from drylamp.core.advice.explained import Explained
from drylamp.core.builds.protocol import EventKind, EventRow
from drylamp.core.builds.registry import BuildSpec
from drylamp.core.checks import Day, Hour, Model, Moment, Name, Number, RowId, YesNo
from drylamp.core.loads.registry import LoadSpec
from drylamp.core.sky.weather import ClearDay, SkyState
from drylamp.core.text import Sentence
from drylamp.core.trials.channels import Line, ReadPlace
from drylamp.core.trials.facts import Goal
from drylamp.core.trials.instruments import Instrument, ProbeCalibration, Quantity, Unit, Word
from drylamp.core.trials.protocols import Protocol
from drylamp.formats.readings.preview import Clock
from drylamp.web.shared import NOTE, TITLE


class TrialBook(Model):
    """Protocols, instruments, units, words and kinds of event."""

    protocols: list[Protocol]
    instruments: list[Instrument]
    units: list[Unit]
    usual_units: dict[Quantity, str]
    words: list[Word]
    events: list[EventRow]
    sky_states: list[SkyState]
    clocks: dict[Clock, str]
    photo_most_bytes: int
    usual_set_to: float = Field(description="Emittance that an infrared thermometer comes set to")


class NewChannel(Model):
    """A channel of a trial: which part of the build (or ``air``, ``sun``, ``wind``, or outside for a control) it reads, and with what."""

    name: Name
    title: TITLE
    node: Name
    is_control: YesNo = False
    instrument: str = "probe"
    doubt: Annotated[Number, Field(gt=0, le=50)] | None = Field(
        default=None,
        description="Half the range that holds the truth in 19 cases of 20, in the quantity's base, or a share",
    )
    quantity: Quantity | None = Field(default=None, description="Follows from the instrument where not given")
    device: Annotated[str, Field(max_length=40)] = Field(
        default="", description="Channels read by one device share its error, which cancels in a difference"
    )
    calibration: ProbeCalibration | None = None
    set_to: Annotated[Number, Field(gt=0.05, le=1)] | None = Field(
        default=None, description="Emittance that an infrared thermometer is set to; 0.95 where not given"
    )


class ChannelView(NewChannel):
    """A channel as kept: its quantity follows from its instrument."""

    doubt: Annotated[Number, Field(gt=0, le=50)]
    quantity: Quantity


class ClockTime(Model):
    """A day and hour by the site's clock."""

    day: Day
    hour: Hour


class NewTrial(Model):
    """A trial to start; weather defaults to the site's usual day under ``sky``, channels to what the protocol wants."""

    build_id: RowId
    name: TITLE
    protocol: str
    spot: str | None = None
    sky: SkyState | None = None
    weather: ClearDay | None = None
    load: LoadSpec | None = None
    preheated: YesNo = False
    started: Moment | None = None
    begun: ClockTime | None = Field(default=None, description="When it began by the site's clock, in place of started")
    ahead: YesNo = Field(default=False, description="A start ahead of the server's clock is meant")
    channels: list[NewChannel] = Field(default_factory=list, max_length=24)
    goal: Goal | None = None


class LinesRequest(Model):
    """Which channels a trial of a build may begin with."""

    spec: BuildSpec
    load: LoadSpec | None = None
    protocol: str


class LineList(RootModel[list[Line]]):
    """Channels to begin with."""


class ReadingView(Model):
    """A reading as kept; ``value`` in its quantity's base, put right by its channel's calibration, None where there was no number."""

    channel: str
    time: datetime
    value: float | None
    typed: str
    unit: str
    source: str
    flag_code: str
    flag_text: Sentence


class EventView(Model):
    """An event as kept."""

    id: int
    kind: EventKind
    time: datetime
    note: str
    channel: str


class PhotoView(Model):
    """A photo as kept."""

    id: int
    time: datetime
    note: str
    channel: str
    width: int
    height: int


class TrialView(Model):
    """A trial; the latest readings, events and photos come with a single one, not with lists."""

    id: int
    build_id: int
    build_revision: int
    build_name: str
    name: str
    protocol: Protocol
    spot: str | None
    weather: ClearDay
    load: LoadSpec | None
    preheated: YesNo
    started: datetime
    ended: datetime | None
    remarks: str
    goal: Goal | None
    places: list[ReadPlace] = Field(
        description="All that can be read of its build, its load and the weather; with a single trial"
    )
    channels: list[ChannelView]
    channels_mark: str = Field(description="To send as If-Match with a change of a channel")
    readings: list[ReadingView]
    events: list[EventView]
    photos: list[PhotoView]
    reading_count: int
    counts: dict[str, int]
    flagged: dict[str, int]
    can_judge: YesNo = Field(
        description="There is a reading inside the build, or of what is in it, to hold beside the twin"
    )
    rounds_done: int
    next_reading: datetime | None
    wanted: list[str] = Field(description="Channels that a round of readings needs, in their order")
    read_next: str | None = Field(description="Which channel comes next in the round that is due")
    round_order: list[str]
    boxes: int = Field(description="Over how many boxes of a class it goes; 0 of a trial of one build")
    token: str = Field(description="With a single trial; lists leave it empty")
    mark: str = Field(description="Changes with whatever a chart or a verdict of the trial stands on")


class TrialQuery(Model):
    """Which trials."""

    build: RowId | None = None
    running: bool = False


class NewEvent(Model):
    """An event; time defaults to now. The same ``uid`` sent again is the same event."""

    kind: EventKind
    time: Moment | None = None
    note: NOTE = ""
    channel: Annotated[str, Field(max_length=40)] = ""
    uid: Annotated[str, Field(min_length=8, max_length=64)] | None = None


class ChannelPath(Model):
    """Path of a channel."""

    id: RowId
    channel: Name


class PhotoQuery(Model):
    """What goes with a photo."""

    note: Annotated[str, Field(max_length=400)] = ""
    channel: Annotated[str, Field(max_length=40)] = ""
    time: Moment | None = None
    uid: Annotated[str, Field(min_length=8, max_length=64)] | None = None


class EndTrial(Model):
    """End a trial with remarks, or take the end back."""

    ended: YesNo = True
    remarks: NOTE | None = None


class FitRequest(Model):
    """Which doubtful parameters to fit; the kind's usual ones where none are named."""

    parameters: list[str] = Field(default_factory=list, max_length=4)
    anyway: YesNo = Field(default=False, description="Keep it though something is to be looked at first")


class VerdictQuery(Model):
    """How large a wall to scale single blocks to."""

    wall_m2: Annotated[float, Field(gt=0, le=1000)] = 1.0


class ChangedQuery(Model):
    """Which trial stands for what was before."""

    control: RowId


class ChangedView(Explained):
    """The part of each change, and what these trials cannot tell."""

    cannot: Sentence


class CompareQuery(Model):
    """The other trial, and the part to compare."""

    control: RowId
    node: Name


class TrialList(RootModel[list[TrialView]]):
    """Trials."""
