"""What is known of a trial: its channels with their readings put right, its events, and what it was meant to show."""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from datetime import date, datetime, time

import numpy as np
from pydantic import Field, JsonValue

from drylamp.core.arrays import Array
from drylamp.core.builds.protocol import EVENTS, INLET, EventKind, EventRow
from drylamp.core.checks import Model, Number, YesNo
from drylamp.core.loads.load import Load
from drylamp.core.loads.registry import LoadSpec
from drylamp.core.sky.weather import ClearDay
from drylamp.core.trials.instruments import Quantity
from drylamp.core.trials.plausible import CLOCK_GRACE_S

NOON = time(12)
"""Hour of what was written down with a day alone."""
WEATHER_NODES = ("air", "sun", "wind")


def reads_inside(node: str, quantity: Quantity, is_control: bool) -> bool:
    """Whether a channel reads the build, and not its weather or a control."""
    return quantity == "temperature" and not is_control and node not in (*WEATHER_NODES, INLET)


def tells(node: str, quantity: Quantity, is_control: bool, load: Load | None) -> bool:
    """Whether a verdict can be made of a channel: it reads the build, or what is in it by whatever instrument, as scales and meters tell of it without a thermometer."""
    return reads_inside(node, quantity, is_control) or (load is not None and not is_control and node in load.goods)


class ChannelFacts(Model):
    """One channel of a trial and its readings in base units, oldest first.

    Attributes:
        device: readings by one and the same device share its error, which cancels in a difference
        doubts: of single readings where they differ from the channel's (words), else empty
    """

    channel: str
    title: str
    node: str
    is_control: YesNo = False
    doubt: float
    quantity: Quantity = "temperature"
    device: str = ""
    times: list[datetime]
    values: list[float]
    doubts: list[float] = Field(default_factory=list)

    @property
    def seconds(self) -> Array:
        """Times in seconds since 1970 UTC, shape (n,)."""
        return np.array([t.timestamp() for t in self.times])

    def doubt_at(self, k: int) -> float:
        """Doubt of one reading."""
        return self.doubts[k] if self.doubts else self.doubt


class EventFacts(Model):
    """Something that happened during the trial; ``note`` carries what its kind asks for."""

    kind: EventKind
    time: datetime
    note: str = ""
    channel: str = ""

    @property
    def row(self) -> EventRow:
        """What is true of every event of its kind."""
        return EVENTS[self.kind]


class Goal(Model):
    """What the trial is held against: a part at a temperature, within a time where one is given."""

    node: str
    at_least_c: Number
    within_minutes: Number | None = None


class FarReading(Model):
    """A reading that was set aside because it lies far from the rest in time."""

    channel: str
    title: str
    time: datetime


class TrialFacts(Model):
    """Everything a verdict needs of a trial."""

    name: str
    protocol: str
    started: datetime
    spot: str | None
    weather: ClearDay
    load: LoadSpec | None
    preheated: YesNo
    channels: list[ChannelFacts]
    events: list[EventFacts]
    goal: Goal | None = None
    far: list[FarReading] = Field(
        default_factory=list, description="Readings set aside for their stamps, at most a few"
    )
    sheets: dict[str, list[dict[str, JsonValue]]] = Field(
        default_factory=dict, description="Rows written down beside the readings, by their sheet"
    )

    def inside(self) -> list[ChannelFacts]:
        """Channels of temperature that read the build and not the weather or a control, with readings."""
        return [
            c for c in self.channels
            if c.times and reads_inside(c.node, c.quantity, c.is_control)
        ]  # fmt: skip

    def telling(self) -> list[ChannelFacts]:
        """Channels with readings of which a verdict can be made: those inside, and whatever reads the goods."""
        return [c for c in self.channels if c.times and tells(c.node, c.quantity, c.is_control, self.load)]

    @property
    def told_by_sheets(self) -> bool:
        """Whether rows of a sheet tell of what is in the build, as a scale or meter beside it does."""
        return told_by_sheets(self.load, self.sheets)

    def of_node(self, node: str, quantity: Quantity = "temperature") -> ChannelFacts | None:
        """The first channel with readings of a node."""
        found = (c for c in self.channels if c.node == node and c.quantity == quantity and c.times and not c.is_control)
        return next(found, None)

    def last_s(self) -> float:
        """The last reading's instant, or noon of the last day on which something was written down; the start when there is nothing."""
        read = [c.times[-1].timestamp() for c in self.channels if c.times]
        return max([*read, *self._noted_s()], default=self.started.timestamp())

    def _noted_s(self) -> Iterator[float]:
        """Noon of each day of rows that tell, not before the start."""
        told_by = frozenset[str]() if self.load is None else self.load.told_by
        for row in (row for name in told_by for row in self.sheets.get(name, [])):
            if isinstance(row.get("on"), str):
                day = date.fromisoformat(str(row["on"]))
                yield max(datetime.combine(day, NOON, self.started.tzinfo).timestamp(), self.started.timestamp())

    def minutes_in(self, time: datetime) -> float:
        """Minutes since it began."""
        return (time - self.started).total_seconds() / 60.0

    def in_trial(self, seconds: Array) -> Array:
        """Instants of readings, s since 1970; one stamped before the start, by no more than clocks are off, is the start's."""
        start = self.started.timestamp()
        return np.where((seconds < start) & (seconds >= start - CLOCK_GRACE_S), start, seconds)

    def disturbed(self, time: datetime) -> str:
        """The event that spoils a reading at a time, if any."""
        for event in self.events:
            lasts = event.row.disturbs_minutes
            if lasts > 0 and 0 <= (time - event.time).total_seconds() / 60.0 <= lasts:
                return event.kind
        return ""


def told_by_sheets(load: Load | None, sheets: Mapping[str, Sequence[object]]) -> bool:
    """Whether rows of a sheet tell of what is in a build."""
    return load is not None and any(sheets.get(name) for name in load.told_by)


def pair_noted(note: str) -> tuple[str, str] | None:
    """Two channels noted as ``one|other``; none where the note names no two."""
    names = [name.strip() for name in note.split("|")]
    return (names[0], names[1]) if len(names) == 2 and names[0] != names[1] else None


def swapped_back(facts: TrialFacts) -> TrialFacts:
    """Facts with the readings of leads that were noted as swapped put back where they belong, from that time on."""
    for event in facts.events:
        pair = pair_noted(event.note) if event.row.asks == "channels" else None
        if pair is not None:
            facts = facts.model_copy(update={"channels": _exchange(facts.channels, *pair, event.time)})
    return facts


def _exchange(channels: list[ChannelFacts], one: str, other: str, since: datetime) -> list[ChannelFacts]:
    by_name = {channel.channel: channel for channel in channels}
    if one not in by_name or other not in by_name:
        return channels

    def mixed(before: ChannelFacts, after: ChannelFacts) -> ChannelFacts:
        early = [(t, v) for t, v in zip(before.times, before.values, strict=True) if t < since]
        late = [(t, v) for t, v in zip(after.times, after.values, strict=True) if t >= since]
        return before.model_copy(update={"times": [t for t, _ in early + late], "values": [v for _, v in early + late]})

    swapped = {one: mixed(by_name[one], by_name[other]), other: mixed(by_name[other], by_name[one])}
    return [swapped.get(channel.channel, channel) for channel in channels]
