"""The plan of a yard as an iCalendar file, that a phone or another program may also subscribe to."""

from __future__ import annotations

import hashlib
from collections.abc import Iterable
from dataclasses import dataclass
from datetime import datetime, timedelta

MINUTES = 10
"""An action is shown as so long."""
AFRESH = timedelta(hours=3)
"""So often whoever subscribes is asked to look again."""


@dataclass(frozen=True)
class PlannedStep:
    """One thing to do: whose, when, what, and whether somebody is there then."""

    owner: str
    time: datetime
    text: str
    somebody_there: bool = True


def write_plan(title: str, steps: Iterable[PlannedStep], made: datetime) -> str:
    """Steps as events; each keeps its name from one look to the next as long as its day, its owner and its words stay, so that a later time moves it."""
    from icalendar import Alarm, Calendar, Event

    book = Calendar()
    book.add("prodid", "-//Dry Lamp//plan//EN")
    book.add("version", "2.0")
    book.add("name", title)
    book.add("x-wr-calname", title)
    book.add("refresh-interval", AFRESH, {"value": "DURATION"})
    for step in steps:
        event = Event()
        event.add("uid", f"{_mark(step)}@drylamp")
        event.add("summary", f"{step.owner}: {step.text}")
        event.add("dtstamp", made)
        event.add("dtstart", step.time)
        event.add("dtend", step.time + timedelta(minutes=MINUTES))
        if not step.somebody_there:
            event.add("description", "Nobody is there then, by what stands on the shelf.")
        else:
            alarm = Alarm()
            alarm.add("action", "DISPLAY")
            alarm.add("description", f"{step.owner}: {step.text}")
            alarm.add("trigger", timedelta(minutes=-5))
            event.add_component(alarm)
        book.add_component(event)
    return str(book.to_ical().decode())


def _mark(step: PlannedStep) -> str:
    named = f"{step.owner}|{step.time.date()}|{step.text}"
    return hashlib.blake2b(named.encode(), digest_size=10).hexdigest()
