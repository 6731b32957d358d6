"""Sites, their sun strip, weather files and yard over the wire."""

from __future__ import annotations

from datetime import date, datetime
from typing import Annotated, Literal

from pydantic import Field, RootModel

from drylamp.core.builds.starters import Starter
from drylamp.core.checks import Count, Day, Hour, Model, RowId, YesNo
from drylamp.core.common.drawing import Section
from drylamp.core.outcome.of_load import PlanStep
from drylamp.core.outcome.standing import Standing
from drylamp.core.outcome.summary import DayOutcome
from drylamp.core.sky.months import ClimateMonth
from drylamp.core.sky.site import Site, Spot
from drylamp.core.sky.skyline_view import Grip
from drylamp.core.sky.weather import ClearDay, SkyState
from drylamp.core.text import Sentence
from drylamp.web.builds.models import BuildView
from drylamp.web.shared import FileText


class SiteView(Model):
    """A site as stored."""

    id: int
    revision: int
    site: Site
    climate: list[ClimateMonth] = Field(description="January to December: the site's own months, or rough ones")
    climate_is_rough: YesNo = Field(description="The months are guessed from latitude and height; the site names none")


class WeatherFileText(FileText):
    """A weather file for a site."""

    kind: Literal["epw", "csv", "json", "tmy"]


class WeatherFileView(Model):
    """A stored weather file."""

    id: int
    name: str
    kind: str


class AddedWeather(WeatherFileView):
    """A weather file just stored, and what is to be said of it: gaps, and how its letters were read."""

    notes: list[Sentence]


class StripQuery(Model):
    """Which day."""

    day: Day


class Strip(Model):
    """The sun strip: one day and the next, on level ground."""

    day: date
    sunrise: datetime | None
    sunset: datetime | None
    start: datetime
    end: datetime
    times: list[datetime]
    beam_w_m2: list[float]
    sky_w_m2: list[float]
    air_c: list[float]
    tomorrow_total_w_m2: list[float]
    wind_m_s: float


class Glance(Model):
    """A build's day at a glance: what its forecast says in a line, and the one curve that is judged, every ``step_s`` from ``start``."""

    said: Sentence | None
    days: list[DayOutcome]
    target_c: float | None
    stagnation_c: float | None
    judged: str
    start: datetime
    step_s: float
    temperature_c: list[float | None]


class YardLine(Model):
    """A build in the yard's timetable.

    Attributes:
        over_days: whether it is asked where it stands evening by evening
    """

    build: BuildView
    outcome: Glance | None
    over_days: YesNo
    plan: list[PlanStep]
    problem: Sentence = ""
    trials: int
    running: list[int]


class Tick(Model):
    """A step of a build's plan that is to be marked as done."""

    day: Day
    planned: Hour
    what: Annotated[str, Field(min_length=1, max_length=300)]


class Ticked(Model):
    """Where it was written: the row of the build's sheet, and the trials that have it as a note."""

    row_id: int
    trial_ids: list[int]


class PlanQuery(Model):
    """From which day on, and for how many days; from today on where none is named."""

    day: Day | None = None
    days: Annotated[int, Field(ge=1, le=7)] = 2


class YardThing(Model):
    """One of the next things to do."""

    time: datetime
    text: Sentence
    build_id: int
    trial_id: int | None = None
    somebody_there: YesNo = True
    tick: Tick | None = Field(default=None, description="What ticking it sends; none where it is no step of a plan")


class StandingLine(Model):
    """Where a build's load stands over a run of days; why not, where it cannot be run."""

    build_id: int
    standing: Standing | None
    problem: Sentence = ""


class StandingYard(Model):
    """Every build whose load stays over days."""

    lines: list[StandingLine]


class Yard(Model):
    """Everything at a site on a day."""

    lines: list[YardLine]
    next_things: list[YardThing]


class YardQuery(Model):
    """Which day, under which sky."""

    day: Day
    sky: SkyState | None = None


class ServiceQuestion(Model):
    """Days to ask the weather service for, from the site's own midnight."""

    start: Day
    days: Annotated[Count, Field(ge=1, le=360)] = 7
    member: Annotated[Count, Field(ge=0, le=999)] = 0


class SiteList(RootModel[list[SiteView]]):
    """Sites."""


class SkylineRequest(Model):
    """A spot as it is being drawn, stored or not, for the paths of a year; a grip moves an obstacle first."""

    spot: Spot
    day: Day
    grip: Grip | None = None


class DayPath(Model):
    """A day at a site."""

    id: RowId
    day: Day


class DayWeather(Model):
    """What is known of a day beforehand: as typed, or usual for the season; the usual one beside it."""

    typed: ClearDay | None
    usual: ClearDay


class MonthList(RootModel[list[ClimateMonth]]):
    """Usual weather of January to December."""


class StarterView(Model):
    """A build to begin with, and how it looks cut open at noon in spring."""

    starter: Starter
    drawn: Section


class StarterList(RootModel[list[StarterView]]):
    """Builds to begin with."""


class WeatherFileList(RootModel[list[WeatherFileView]]):
    """Weather files."""
