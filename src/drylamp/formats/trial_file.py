"""A trial with all its data, as JSON and as CSV, and its reading times as a calendar."""

from __future__ import annotations

import csv
import io
from datetime import datetime, timedelta
from typing import Literal

from pydantic import Field, JsonValue

from drylamp.core.builds.registry import BuildSpec
from drylamp.core.checks import Model, YesNo
from drylamp.core.loads.registry import LoadSpec
from drylamp.core.sky.site import Site
from drylamp.core.sky.weather import ClearDay
from drylamp.core.trials.facts import Goal
from drylamp.core.trials.instruments import ProbeCalibration, Quantity
from drylamp.formats.cells import inert


class ChannelFile(Model):
    """A channel in a trial file."""

    name: str
    title: str
    node: str
    is_control: YesNo
    instrument: str
    quantity: Quantity
    doubt: float
    device: str
    calibration: ProbeCalibration | None
    set_to: float | None


class ReadingFile(Model):
    """A reading: ``value`` in the quantity's base as it was read, before any calibration."""

    time: datetime
    channel: str
    value: float | None
    typed: str
    unit: str
    source: str
    flag: str
    withdrawn: YesNo = False


class EventFile(Model):
    """An event."""

    time: datetime
    kind: str
    note: str
    channel: str


class PhotoFile(Model):
    """A photo, its JPEG in base64."""

    time: datetime
    note: str
    channel: str
    jpeg_base64: str


class TrialFile(Model):
    """Everything about a trial."""

    dry_lamp: Literal["trial"] = "trial"
    format: Literal[1] = 1
    name: str
    protocol: str
    started: datetime
    ended: datetime | None
    remarks: str
    site: Site
    spot: str | None
    build_name: str
    build_revision: int
    spec: BuildSpec
    load: LoadSpec | None
    preheated: YesNo
    weather: ClearDay
    goal: Goal | None
    channels: list[ChannelFile]
    readings: list[ReadingFile]
    events: list[EventFile]
    photos: list[PhotoFile]
    sheets: dict[str, list[dict[str, JsonValue]]] = Field(default_factory=dict)


CSV_HEADER = ("what", "time", "channel", "value", "unit", "typed", "source", "flag", "note")
BASE_NAMES: dict[str, str] = {
    "temperature": "°C", "sun": "W/m²", "wind": "m/s", "humidity": "1", "mass": "kg", "moisture": "1", "flow": "l/min", "hours": "h",
}  # fmt: skip


def write_csv(trial: TrialFile) -> str:
    """Readings and events in time, one a line; values in base units, and as they were typed."""
    out = io.StringIO()
    sheet = csv.writer(out, lineterminator="\n")
    sheet.writerow(CSV_HEADER)
    units = {channel.name: BASE_NAMES[channel.quantity] for channel in trial.channels}
    zone = trial.site.zone
    lines: list[tuple[datetime, list[object]]] = [
        (r.time, ["reading", r.time.astimezone(zone).isoformat(), r.channel, "" if r.value is None else round(r.value, 4),
                  units[r.channel], f"{r.typed} {r.unit}".strip(), r.source, r.flag, "withdrawn" if r.withdrawn else ""])
        for r in trial.readings
    ]  # fmt: skip
    lines += [
        (e.time, [e.kind, e.time.astimezone(zone).isoformat(), e.channel, "", "", "", "", "", e.note])
        for e in trial.events
    ]
    for _, line in sorted(lines, key=lambda item: item[0]):
        sheet.writerow([inert(cell) for cell in line])
    return out.getvalue()


def write_calendar(name: str, started: datetime, minutes: list[float], uid: str) -> str:
    """Reading times as a calendar with an alarm each, for a phone whose screen is off."""
    from icalendar import Alarm, Calendar, Event

    book = Calendar()
    book.add("prodid", "-//Dry Lamp//trial//EN")
    book.add("version", "2.0")
    for number, minute in enumerate(minutes, start=1):
        event = Event()
        event.add("uid", f"{uid}-{number}@drylamp")
        event.add("summary", f"Read: {name} ({number} of {len(minutes)})")
        at = started + timedelta(minutes=minute)
        event.add("dtstamp", started)
        event.add("dtstart", at)
        event.add("dtend", at + timedelta(minutes=2))
        alarm = Alarm()
        alarm.add("action", "DISPLAY")
        alarm.add("description", f"Read {name}")
        alarm.add("trigger", timedelta(minutes=0))
        event.add_component(alarm)
        book.add_component(event)
    return str(book.to_ical().decode())
