"""Classes over the wire."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field

from drylamp.core.checks import Hour, Model, Name, RowId, YesNo
from drylamp.core.sky.weather import SkyState
from drylamp.core.trials.class_day import EVERY_MINUTES, FOR_MINUTES, MOST_BOXES, ClassDay
from drylamp.web.shared import TITLE
from drylamp.web.trials.models import ClockTime


class NewBox(Model):
    """Somebody's box: whose, and the build that it is like; the class's own where nothing is said."""

    name: TITLE
    like: RowId | None = None


class NewClass(Model):
    """A trial over many boxes of one design, or like it."""

    build_id: RowId
    name: TITLE
    boxes: list[NewBox] = Field(min_length=1, max_length=MOST_BOXES)
    node: Name = Field(description="The part that is read in each box")
    instrument: str = "probe"
    one_probe: YesNo = Field(default=False, description="One thermometer walks from box to box, so that its error drops out of their differences")  # fmt: skip
    sky: SkyState | None = None
    begun: ClockTime | None = Field(default=None, description="When it began or is to begin, by the site's clock; now where nothing is said")  # fmt: skip


class ClassView(ClassDay):
    """A class ranked, and from when to when its charts are filled in."""

    trial_id: int
    name: str


class SheetsQuery(Model):
    """When the charts on the sheets begin and end."""

    begins: Hour | None = Field(default=None, description="When the trial began where nothing is said")
    every: Annotated[int, Field(ge=1, le=120)] = EVERY_MINUTES
    minutes: Annotated[int, Field(ge=15, le=720)] = FOR_MINUTES
