"""The twin over the wire."""

from __future__ import annotations

from datetime import date, datetime
from typing import Annotated, Literal

from pydantic import Field

from drylamp.core.advice.aiming import AimView, TiltSchools
from drylamp.core.builds.registry import BuildSpec
from drylamp.core.checks import Count, Day, Model, Moment, Number, RowId, YesNo
from drylamp.core.common.drawing import Ray, Section
from drylamp.core.loads.registry import LoadSpec
from drylamp.core.outcome.ahead import MOST_DAYS_AHEAD
from drylamp.core.outcome.of_load import PlanStep
from drylamp.core.outcome.summary import Outcome
from drylamp.core.sky.weather import ClearDay, SkyState


class StoredWeather(Model):
    """A weather file kept with the site."""

    kind: Literal["stored"]
    id: RowId


class TwinRequest(Model):
    """A build, saved or not, on a day at a site; where weather is not given: its usual day under ``sky``, or with none named what was typed for the day."""

    site_id: RowId
    spot: str | None = None
    spec: BuildSpec
    load: LoadSpec | None = None
    day: Day
    sky: SkyState | None = None
    weather: Annotated[ClearDay | StoredWeather, Field(discriminator="kind")] | None = None
    calibration: RowId | None = Field(default=None, description="An accepted calibration to run the twin with")


class AheadRequest(TwinRequest):
    """So many days from the chosen one on."""

    days: Annotated[Count, Field(ge=1, le=MOST_DAYS_AHEAD)] | None = Field(
        default=None, description="A week where nothing is said, or as many as its load is looked at"
    )


class DayAnswer(Model):
    """A day's outcome and plan."""

    outcome: Outcome
    plan: list[PlanStep]


class SectionRequest(TwinRequest):
    """The drawing at an instant."""

    at: Moment


class SectionStep(Model):
    """The rays of an instant, and the drawing where it differs from the one of the step before: as where a build is turned."""

    at: datetime
    rays: list[Ray]
    sheet: Section | None


class SectionDay(Model):
    """The drawing through a day, from before the sun comes till after it is gone, for a lamp that is drawn along."""

    steps: list[SectionStep]


class MonthLine(Model):
    """One month's usual clear day."""

    month: int
    day: date
    peak_c: float
    minutes_to_target: float | None
    enough: YesNo | None
    sun_kwh_m2: float


class MonthsAnswer(Model):
    """Twelve usual clear days."""

    months: list[MonthLine]


class AimRequest(Model):
    """The aim stage: a plane at a spot on a day."""

    site_id: RowId
    spot: str | None = None
    tilt_deg: Annotated[Number, Field(ge=0, le=90)]
    facing_deg: Annotated[Number, Field(ge=0, le=360)]
    day: Day


class AimAnswer(Model):
    """Sun's path, spots, and the schools of tilt."""

    view: AimView
    schools: TiltSchools
