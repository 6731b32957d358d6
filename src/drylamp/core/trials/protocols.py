"""Protocols as data: what to prepare, when to read, which channels, when it ends."""

from __future__ import annotations

from typing import Literal

from drylamp.core.checks import InputProblem, Model

EventKind = Literal["cloud", "gust", "opened", "turned", "shaded", "refilled", "note"]

DISTURBED_MINUTES: dict[EventKind, float] = {
    "cloud": 10.0,
    "gust": 5.0,
    "opened": 15.0,
    "turned": 0.0,
    "shaded": 15.0,
    "refilled": 15.0,
    "note": 0.0,
}
"""For how long after an event a reading is not held against the twin; common practice, no source."""


class Protocol(Model):
    """How to run one kind of trial."""

    name: str
    title: str
    purpose: str
    reading_minutes: list[float]
    needs_load: bool
    checklist: list[str]
    channels: list[str]
    end_rule: str


_PREPARE = [
    "Put the box on its spot, level across, facing as drawn.",
    "Place each probe and tape its lead through the seal; keep tips off metal unless the tray is meant.",
    "Put the control beside the box, in the same sun and wind.",
    "Write down the sky: clear, hazy, broken or grey.",
    "Dark glasses on before the mirror is opened; gloves at hand.",
]

PROTOCOLS: dict[str, Protocol] = {
    "quick-look": Protocol(
        name="quick-look",
        title="Quick look",
        purpose="One hour of readings to see whether the oven behaves as its twin.",
        reading_minutes=[0, 5, 10, 30, 60],
        needs_load=False,
        checklist=_PREPARE,
        channels=["inside-air", "tray", "control"],
        end_rule="After the reading at 60 minutes.",
    ),
    "heat-up": Protocol(
        name="heat-up",
        title="Heat up to a target",
        purpose="How long a pot of food or water takes to reach its target.",
        reading_minutes=[0, 5, 10, 20, 30, 45, 60, 75, 90, 105, 120, 150, 180, 210, 240],
        needs_load=True,
        checklist=[
            *_PREPARE,
            "Weigh what goes into the pot and note its temperature.",
            "Lid on before the clock starts.",
        ],
        channels=["contents", "inside-air", "control"],
        end_rule="When the contents have held the target, or after 4 hours.",
    ),
    "stagnation": Protocol(
        name="stagnation",
        title="Stagnation, empty",
        purpose="How hot the empty box gets around noon; gives the first figure of merit.",
        reading_minutes=[0, 10, 20, 30, 40, 50, 60, 75, 90, 105, 120],
        needs_load=False,
        checklist=[
            *_PREPARE,
            "Leave the box empty.",
            "Start about two hours before solar noon under a clear sky.",
        ],
        channels=["tray", "inside-air", "control"],
        end_rule="When the tray changes by less than 1 K in 10 minutes, or after 2 hours.",
    ),
    "free-log": Protocol(
        name="free-log",
        title="Free log",
        purpose="A logger's file or readings at any time.",
        reading_minutes=[],
        needs_load=False,
        checklist=_PREPARE[:2],
        channels=["inside-air"],
        end_rule="When you end it.",
    ),
}


def find_protocol(name: str) -> Protocol:
    """Return the protocol of that name.

    Raises:
        InputProblem: there is none.
    """
    if name not in PROTOCOLS:
        raise InputProblem("protocol", f"'{name}' is not known; known: {', '.join(PROTOCOLS)}")
    return PROTOCOLS[name]


class Instrument(Model):
    """What reads a channel, and how far it may be off."""

    name: str
    title: str
    doubt_k: float


INSTRUMENTS: dict[str, Instrument] = {
    row.name: row
    for row in (
        Instrument(name="dial", title="Dial thermometer", doubt_k=4.0),
        Instrument(name="glass", title="Glass thermometer", doubt_k=1.0),
        Instrument(name="probe", title="Kitchen probe", doubt_k=1.0),
        Instrument(name="wired-probe", title="Wired probe through the seal", doubt_k=0.7),
        Instrument(name="logger", title="Logger channel", doubt_k=0.7),
    )
}
"""Doubts from memory; a better-known instrument's own figure replaces them on its channel."""


def next_reading_minute(protocol: Protocol, elapsed_minutes: float, done: int) -> float | None:
    """Minute of the next planned reading, given how many rounds are done; None when none is left."""
    planned = protocol.reading_minutes
    if not planned:
        return elapsed_minutes
    return planned[done] if done < len(planned) else None
