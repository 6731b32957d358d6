"""What goes over the wire, beside the core's own models."""

from __future__ import annotations

from datetime import date, datetime
from typing import Annotated, Any, Literal

from pydantic import BaseModel, ConfigDict, Field, RootModel, model_validator

from drylamp.core.advice.aiming import AimView, TiltSchools
from drylamp.core.builds.protocol import EventKind, EventRow
from drylamp.core.builds.registry import BuildSpec
from drylamp.core.builds.samples.spec import Samples
from drylamp.core.builds.starters import Starter
from drylamp.core.checks import Count, Day, Fraction, Model, Moment, Name, NotNegative, Number, Reading, RowId
from drylamp.core.loads.pot.spec import PotLoad
from drylamp.core.loads.registry import LoadSpec
from drylamp.core.outcome.of_load import PlanStep
from drylamp.core.outcome.summary import Outcome
from drylamp.core.sky.months import ClimateMonth
from drylamp.core.sky.site import Site
from drylamp.core.sky.weather import ClearDay, SkyState
from drylamp.core.tables import Absorber, Cover, Food, Layer, Mirror, Row, Sweet, Vessel, Wax
from drylamp.core.trials.facts import Goal, TrialFacts
from drylamp.core.trials.instruments import Instrument, ProbeCalibration, Quantity, Unit, Word
from drylamp.core.trials.protocols import Protocol
from drylamp.core.twin.calibration import Calibration
from drylamp.formats.readings.preview import Clock, Preview
from drylamp.instruments.ingest import RefusedLine

TITLE = Annotated[str, Field(min_length=1, max_length=120)]
NOTE = Annotated[str, Field(max_length=4000)]
FamilyName = Literal["absorber", "cover", "mirror", "layer"]


class Id(Model):
    """Path of a resource."""

    id: RowId


class Health(Model):
    """Whether the server is well."""

    status: Literal["ok"] = "ok"
    version: str
    schema_version: int
    warm: bool


class NowView(Model):
    """The server's time."""

    now: datetime
    is_demo: bool
    weather_service: bool = Field(description="A weather service was named when the server was started")


class ProblemView(Model):
    """An error (RFC 9457)."""

    type: str
    title: str
    status: int
    detail: str
    errors: list[dict[str, str]]


class SiteView(Model):
    """A site as stored."""

    id: int
    revision: int
    site: Site
    climate: list[ClimateMonth] = Field(description="January to December: the site's own months, or rough ones")
    climate_is_rough: bool = Field(description="The months are guessed from latitude and height; the site names none")


class BuildDraft(Model):
    """What a person wants a build to be."""

    name: TITLE
    spot: str | None = None
    spec: BuildSpec
    load: LoadSpec | None = None
    note: NOTE = ""


class NewBuild(BuildDraft):
    """A new build at a site."""

    site_id: RowId


class BuildView(Model):
    """A build at a revision."""

    id: int
    site_id: int
    revision: int
    name: str
    spot: str | None
    spec: BuildSpec
    load: LoadSpec | None
    note: str
    can_undo: bool
    created_at: str
    removed: bool
    calibration: CalibrationView | None


class VesselRequest(Model):
    """A pot of food, and the kind of pot that it is to be in."""

    load: PotLoad
    vessel: str


class BuildQuery(Model):
    """Which builds."""

    site: RowId | None = None


class FileText(Model):
    """A file as text."""

    name: TITLE = "file"
    text: str


class ImportBuild(FileText):
    """A build file for a site."""

    site_id: RowId


class WeatherFileText(FileText):
    """A weather file for a site."""

    kind: Literal["epw", "csv", "json"]


class WeatherFileView(Model):
    """A stored weather file."""

    id: int
    name: str
    kind: str


class StoredWeather(Model):
    """A weather file kept with the site."""

    kind: Literal["stored"]
    id: RowId


class TwinRequest(Model):
    """A build, saved or not, on a day at a site; weather defaults to the site's usual day under ``sky``."""

    site_id: RowId
    spot: str | None = None
    spec: BuildSpec
    load: LoadSpec | None = None
    day: Day
    sky: SkyState = "clear"
    weather: Annotated[ClearDay | StoredWeather, Field(discriminator="kind")] | None = None
    calibration: RowId | None = Field(default=None, description="An accepted calibration to run the twin with")


class DayAnswer(Model):
    """A day's outcome and plan."""

    outcome: Outcome
    plan: list[PlanStep]


class SectionRequest(TwinRequest):
    """The drawing at an instant."""

    at: Moment


class MonthLine(Model):
    """One month's usual clear day."""

    month: int
    day: date
    peak_c: float
    minutes_to_target: float | None
    enough: bool | None
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


class YardLine(Model):
    """A build in the yard's timetable."""

    build: BuildView
    outcome: Outcome | None
    plan: list[PlanStep]
    problem: str = ""
    trials: int
    running: list[int]


class YardThing(Model):
    """One of the next things to do."""

    time: datetime
    text: str
    build_id: int
    trial_id: int | None = None


class Yard(Model):
    """Everything at a site on a day."""

    lines: list[YardLine]
    next_things: list[YardThing]


class YardQuery(Model):
    """Which day, under which sky."""

    day: Day
    sky: SkyState = "clear"


class OwnMaterial(Model):
    """Where a user's own material stands in the store; its row is among the others of its family."""

    id: int
    family: FamilyName
    name: str
    revision: int


class CoverSheet(Cover):
    """A cover with what it lets through when the sun stands square to it, one sheet of its usual thickness."""

    transmittance: Fraction


class Materials(Model):
    """All tables, a user's own materials after the listed ones."""

    absorbers: list[Absorber]
    covers: list[CoverSheet]
    mirrors: list[Mirror]
    layers: list[Layer]
    foods: list[Food]
    vessels: list[Vessel]
    sweets: list[Sweet]
    waxes: list[Wax]
    own: list[OwnMaterial]


class NewMaterial(Model):
    """A user's own material: one of the four kinds of row."""

    absorber: Absorber | None = None
    cover: Cover | None = None
    mirror: Mirror | None = None
    layer: Layer | None = None

    @model_validator(mode="after")
    def _one(self) -> NewMaterial:
        if len(self.given) != 1:
            raise ValueError("give one of absorber, cover, mirror, layer")
        return self

    @property
    def given(self) -> dict[FamilyName, Row]:
        """The row by its family."""
        rows: dict[FamilyName, Row | None] = {
            "absorber": self.absorber,
            "cover": self.cover,
            "mirror": self.mirror,
            "layer": self.layer,
        }
        return {family: row for family, row in rows.items() if row is not None}


class ServiceQuestion(Model):
    """Days to ask the weather service for, from the site's own midnight."""

    start: Day
    days: Annotated[Count, Field(ge=1, le=360)] = 7
    member: Annotated[Count, Field(ge=0, le=999)] = 0


class SumView(Model):
    """A quick sum as a form can be made of it."""

    name: str
    title: str
    words: list[str]
    formula: str
    source: str
    inputs_schema: dict[str, Any]
    result_schema: dict[str, Any]


class SumAnswer(Model):
    """What a sum gives."""

    sum: str
    inputs: dict[str, Any]
    result: dict[str, Any]
    source: str


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


class ChannelView(Model):
    """A channel of a trial: which part of the build (or ``air``, ``sun``, ``wind``, or outside for a control) it reads, and with what."""

    name: Name
    title: TITLE
    node: Name
    is_control: bool = False
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


class NewTrial(Model):
    """A trial to start; weather defaults to the site's usual day under ``sky``, channels to what the protocol wants."""

    build_id: RowId
    name: TITLE
    protocol: str
    spot: str | None = None
    sky: SkyState = "clear"
    weather: ClearDay | None = None
    load: LoadSpec | None = None
    preheated: bool = False
    started: Moment | None = None
    channels: list[ChannelView] = Field(default_factory=list, max_length=24)
    goal: Goal | None = None


class ReadingView(Model):
    """A reading as kept; ``value`` in its quantity's base, put right by its channel's calibration, None where there was no number."""

    channel: str
    time: datetime
    value: float | None
    typed: str
    unit: str
    source: str
    flag_code: str
    flag_text: str


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
    preheated: bool
    started: datetime
    ended: datetime | None
    remarks: str
    goal: Goal | None
    channels: list[ChannelView]
    channels_mark: str = Field(description="To send as If-Match with a change of a channel")
    readings: list[ReadingView]
    events: list[EventView]
    photos: list[PhotoView]
    reading_count: int
    counts: dict[str, int]
    flagged: dict[str, int]
    can_judge: bool = Field(description="There is a reading inside the build to hold beside the twin")
    rounds_done: int
    next_reading: datetime | None
    read_next: str | None = Field(description="Which channel comes next, in trials read in rounds")
    round_order: list[str]
    token: str
    mark: str = Field(description="Changes with whatever a chart or a verdict of the trial stands on")


class TrialQuery(Model):
    """Which trials."""

    build: RowId | None = None
    running: bool = False


class NewReading(Model):
    """A reading as it arrives; time defaults to now. A word goes into ``typed`` and leaves ``value`` out."""

    channel: str
    value: Reading | None = None
    unit: str = "C"
    time: Moment | None = None
    typed: Annotated[str, Field(max_length=40)] = ""


class ReadingBatch(Model):
    """A batch of readings."""

    source: Literal["hand", "logger", "file"] = "hand"
    readings: list[NewReading] = Field(min_length=1, max_length=2000)


class BatchAnswer(Model):
    """What became of a batch."""

    written: int
    repeated: int
    contradicting: list[ReadingView]
    flagged: list[ReadingView]


class IngestReading(BaseModel):
    """A reading as a microcontroller sends it: no number at all (null, "nan") is taken in and flagged; other fields are let be."""

    model_config = ConfigDict(extra="ignore", frozen=True)

    channel: str
    value: float | str | None = None
    unit: str | None = None
    time: str | float | None = None


class IngestBatch(BaseModel):
    """A batch as a microcontroller sends it."""

    model_config = ConfigDict(extra="ignore", frozen=True)

    readings: list[IngestReading] = Field(max_length=5000)


class IngestAnswer(Model):
    """What became of a batch: short, for small memories; lines that cannot be used by their number."""

    written: int
    repeated: int
    contradicting: int
    flagged: dict[str, int]
    refused: list[RefusedLine]


class ReadingKey(Model):
    """Names one reading."""

    channel: str
    time: Moment


class NewEvent(Model):
    """An event; time defaults to now. The same ``uid`` sent again is the same event."""

    kind: EventKind
    time: Moment | None = None
    note: NOTE = ""
    channel: Annotated[str, Field(max_length=40)] = ""
    uid: Annotated[str, Field(min_length=8, max_length=64)] | None = None


class PartPath(Model):
    """Path of an event or photo of a trial."""

    id: RowId
    part_id: RowId


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

    ended: bool = True
    remarks: NOTE | None = None


class ShiftClock(Model):
    """Move what loggers and files stamped."""

    minutes: Annotated[Number, Field(ge=-100_000, le=100_000)]


class Shifted(Model):
    """How many readings were moved."""

    moved: int


class SeriesQuery(Model):
    """A stretch of a trial and how many points a channel may have; everything where no ends are given."""

    start: Moment | None = None
    end: Moment | None = None
    points: Annotated[int, Field(ge=50, le=5000)] = 800


class ChannelSeries(Model):
    """A channel's readings for a chart: all of them (``raw``), or so many that draw like all, every extreme among them."""

    channel: str
    title: str
    node: str
    quantity: Quantity
    is_control: bool
    doubt: float
    count: int
    raw: bool
    times_ms: list[int]
    values: list[float | None]


class SeriesAnswer(Model):
    """What a trial's chart is drawn from."""

    start: datetime | None
    end: datetime | None
    channels: list[ChannelSeries]


class FitRequest(Model):
    """Which doubtful parameters to fit; the kind's usual ones where none are named."""

    parameters: list[str] = Field(default_factory=list, max_length=4)


class CalibrationView(Model):
    """What a trial taught the twin of a build; ``older`` when the build was changed since the trial."""

    id: int
    trial_id: int
    trial_name: str
    build_revision: int
    factors: Calibration
    words: str
    accepted_at: str
    older: bool


class VerdictQuery(Model):
    """How large a wall to scale single blocks to."""

    wall_m2: Annotated[float, Field(gt=0, le=1000)] = 1.0


class CompareQuery(Model):
    """The other trial, and the part to compare."""

    control: RowId
    node: Name


class ImportRequest(FileText):
    """A readings file: units by column, the logger's clock and a shift where a person knows better, answers by question."""

    units: dict[str, str] = Field(default_factory=dict)
    clock: Clock = "site"
    shift_minutes: Annotated[Number, Field(ge=-100_000, le=100_000)] = 0.0
    answers: dict[str, str] = Field(default_factory=dict)


class ColumnTarget(Model):
    """Which channel a column's values go to; a channel that is not there yet is added."""

    column: str
    channel: ChannelView


class ImportCommit(ImportRequest):
    """Import after the preview was looked at."""

    columns: list[ColumnTarget] = Field(min_length=1, max_length=24)
    bad_rows: Literal["stop", "skip"] = "stop"


class ImportPreview(Model):
    """What an import would do, and where each column would go: to a channel by name, to a new one on a node, or nowhere."""

    preview: Preview
    goes_to: dict[str, str]
    remembered: bool


class ImportAnswer(Model):
    """What an import did."""

    preview: Preview
    result: BatchAnswer


class LoggerSetup(Model):
    """What a logger asks before it starts."""

    facts: TrialFacts
    site: Site
    spec: BuildSpec
    covered_minutes: NotNegative


class PlacesRequest(Model):
    """Samples whose places are to be drawn by lot."""

    spec: Samples
    seed: Annotated[Count, Field(ge=0)] = 0


class SiteList(RootModel[list[SiteView]]):
    """Sites."""


class StarterList(RootModel[list[Starter]]):
    """Builds to begin with."""


class BuildList(RootModel[list[BuildView]]):
    """Builds."""


class WeatherFileList(RootModel[list[WeatherFileView]]):
    """Weather files."""


class SumList(RootModel[list[SumView]]):
    """Quick sums."""


class TrialList(RootModel[list[TrialView]]):
    """Trials."""


class SumPath(Model):
    """Path of a sum."""

    name: str


class SumInputs(RootModel[dict[str, Any]]):
    """Inputs of a sum by name; the sum's own model checks them."""
