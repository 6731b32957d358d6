"""What is asked of water for tea: when to put it out, how steep and how far open; how long it takes month by month."""

from __future__ import annotations

from datetime import datetime

from drylamp.core.checks import Model
from drylamp.core.text import Sentence


class PutOut(Model):
    """One cup of tea: when the water has to be put out at the latest, turned which way, at which tilt, with wings how far open, and how long it takes then; none: it will not be hot."""

    wanted_at: datetime
    latest: datetime | None
    facing_deg: float
    tilt_deg: float
    open_deg: float | None
    minutes: float | None
    warmest_c: float


class PutOutPlan(Model):
    """All of a day's."""

    target_c: float
    rows: list[PutOut]
    words: Sentence


class BoilAt(Model):
    """Minutes to be hot at a tilt; none: it does not get there."""

    tilt_deg: float
    minutes: float | None


class BoilMonth(Model):
    """A month's clear day: minutes at each mark, and at the best tilt of all."""

    month: int
    marks: list[BoilAt]
    best: BoilAt


class BoilYear(Model):
    """The year."""

    target_c: float
    marks_deg: list[float]
    months: list[BoilMonth]
    words: Sentence
