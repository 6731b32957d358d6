"""How a trial is run, as data: what to prepare, what to read and when, which events count, when it ends, which figures it yields.

A kind says in its own folder which protocols are for it. One that several kinds share stands in ``common/protocols.py``; a
figure that no protocol has yet is one function among the trials' figures.
"""

from __future__ import annotations

from typing import Literal, get_args

from pydantic import Field

from drylamp.core.checks import Model, YesNo
from drylamp.core.text import Sentence

EventKind = Literal[
    "cloud",
    "gust",
    "opened",
    "turned",
    "shaded",
    "refilled",
    "moved",
    "sky",
    "swapped",
    "fade",
    "flake",
    "leak",
    "note",
]


class EventRow(Model):
    """A kind of event: what it asks for beside its time, and for how long after it a reading is not held against anything."""

    name: EventKind
    title: str
    disturbs_minutes: float
    asks: Literal["", "spot", "facing", "sky", "channels", "sample"] = ""


EVENTS: dict[EventKind, EventRow] = {
    row.name: row
    for row in (
        EventRow(name="cloud", title="cloud", disturbs_minutes=10.0),
        EventRow(name="gust", title="gust", disturbs_minutes=5.0),
        EventRow(name="opened", title="opened", disturbs_minutes=15.0),
        EventRow(name="turned", title="turned", disturbs_minutes=5.0, asks="facing"),
        EventRow(name="shaded", title="shaded", disturbs_minutes=15.0),
        EventRow(name="refilled", title="refilled", disturbs_minutes=15.0),
        EventRow(name="moved", title="moved", disturbs_minutes=5.0, asks="spot"),
        EventRow(name="sky", title="sky is now", disturbs_minutes=0.0, asks="sky"),
        EventRow(name="swapped", title="leads swapped", disturbs_minutes=2.0, asks="channels"),
        EventRow(name="fade", title="faded", disturbs_minutes=0.0, asks="sample"),
        EventRow(name="flake", title="flaking", disturbs_minutes=0.0, asks="sample"),
        EventRow(name="leak", title="leaking", disturbs_minutes=0.0, asks="sample"),
        EventRow(name="note", title="note", disturbs_minutes=0.0),
    )
}
"""How long a reading is spoilt: common practice, no source."""
assert set(EVENTS) == set(get_args(EventKind))

IN_THE_FIELD: tuple[EventKind, ...] = ("cloud", "gust", "opened", "turned", "shaded", "refilled", "moved", "sky")
OF_SAMPLES: tuple[EventKind, ...] = ("cloud", "gust", "shaded", "moved", "sky", "fade", "flake", "leak")


INLET, OUTLET, FLOW, PUMP = "inlet", "outlet", "flow", "pump"
"""Where water comes in and goes out, how much of it runs, and for how long a pump has run."""


class Wanted(Model):
    """A channel that a protocol wants: the part it reads (``samples`` stands for every sample, ``portions`` for every portion), and with what."""

    node: str
    title: str
    instrument: str = "probe"
    is_control: YesNo = False
    optional: YesNo = False


class ProtocolRow(Model):
    """How to run one sort of trial, as the kinds' folders hold it."""

    name: str
    title: str
    purpose: Sentence
    reading_minutes: list[float]
    needs_load: YesNo = False
    for_concentrators: YesNo = True
    in_rounds: YesNo = False
    starts_hot: YesNo = False
    runs_before: YesNo = False
    """Whether what is read had been running for long when the trial began."""
    one_thermometer: YesNo = False
    """Whether one thermometer is moved from what comes in to what comes out."""
    checklist: list[Sentence]
    cautions: list[Sentence] = Field(default_factory=list)
    channels: list[Wanted]
    events: list[EventKind]
    end_rule: Sentence
    end_minutes: float | None = None
    figures: list[str]
