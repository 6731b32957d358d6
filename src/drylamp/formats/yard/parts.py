"""What a yard file says: its document, part by part, and the columns of its readings."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Annotated, ClassVar, Literal

from pydantic import Field, JsonValue

from drylamp.core.builds.protocol import EventKind
from drylamp.core.checks import Count, Day, Model, Number, YesNo
from drylamp.core.sky.site import Site
from drylamp.core.sky.weather import ClearDay
from drylamp.core.trials.instruments import ProbeCalibration, Quantity

FORMAT = 1
DOCUMENT = "yard.json"
COLUMNS = (
    "channel",
    "time_ms",
    "value",
    "doubt",
    "typed",
    "unit",
    "source",
    "flag_code",
    "flag_text",
    "withdrawn_at",
    "import_id",
)
"""Of a table of readings, in this order."""
Text = Annotated[str, Field(max_length=100_000)]
Stamp = Annotated[str, Field(max_length=200)]
Doc = dict[str, JsonValue]


class PicturePart(Model):
    """A photo of what a row tells of, and the file that holds it."""

    time_ms: Count
    width: Count
    height: Count
    uid: Stamp | None
    withdrawn_at: Stamp | None
    file: Stamp


class SheetPart(Model):
    """A row of a sheet."""

    sheet: Stamp
    revision: Count
    content: Doc
    written_at: Stamp
    withdrawn_at: Stamp | None
    photos: list[PicturePart] = Field(default_factory=list)


class ChannelPart(Model):
    """A channel of a trial."""

    name: Stamp
    title: Text
    node: Text
    is_control: YesNo
    instrument: Text
    doubt: Number
    place: Count
    quantity: Quantity
    device: Text
    calibration: ProbeCalibration | None
    set_to: Number | None


class EventPart(Model):
    """An event of a trial."""

    kind: EventKind
    time_ms: Count
    note: Text
    channel: Text
    uid: Stamp | None
    withdrawn_at: Stamp | None


class PhotoPart(Model):
    """A photo of a trial, and the file that holds it."""

    time_ms: Count
    note: Text
    channel: Text
    width: Count
    height: Count
    uid: Stamp | None
    withdrawn_at: Stamp | None
    file: Stamp


class BoxPart(Model):
    """Somebody's box of a class: its channel, and the build of this site that it is like, at a revision; none for the trial's own."""

    channel: Stamp
    build: Count | None
    build_revision: Count | None


class TrialPart(Model):
    """A trial with all its data; ``key`` names it in this file."""

    key: Count
    build_revision: Count
    name: Text
    protocol: Stamp
    spot: Text | None
    weather: Doc
    load: Doc | None
    preheated: Count
    started_ms: Count
    ended_ms: Count | None
    remarks: Text
    goal: Doc | None
    channels: list[ChannelPart]
    events: list[EventPart]
    photos: list[PhotoPart]
    sheets: list[SheetPart]
    readings: Stamp | None
    boxes: list[BoxPart] = Field(default_factory=list)


class RevisionPart(Model):
    """A build as it was from one change to the next."""

    number: Count
    name: Text
    spot: Text | None
    spec: Doc
    load: Doc | None
    note: Text
    undo_to: Count | None
    created_at: Stamp


class CalibrationPart(Model):
    """What a trial of this file taught a build."""

    build_revision: Count
    trial: Count
    adjustments: Doc
    words: Text
    accepted_at: Stamp
    withdrawn_at: Stamp | None


class MappingPart(Model):
    """Where the columns of a header go."""

    header: list[Text]
    mapping: dict[str, str]


class BuildPart(Model):
    """A build with its history, trials and sheets; ``key`` names it in this file, ``variant_of`` the one at this site that it branched off, at a revision of that."""

    key: Count
    variant_of: Count | None = None
    variant_from: Count | None = None
    revision: Count
    removed_at: Stamp | None
    deleted_at: Stamp | None
    revisions: list[RevisionPart] = Field(min_length=1)
    trials: list[TrialPart]
    calibrations: list[CalibrationPart]
    sheets: list[SheetPart]
    mappings: list[MappingPart]

    @property
    def newest(self) -> RevisionPart:
        """The one that holds."""
        return next(one for one in self.revisions if one.number == self.revision)


class WeatherPart(Model):
    """A weather file of a site, and the file that holds it."""

    name: Text
    kind: Stamp
    added_at: Stamp
    file: Stamp


class SitePart(Model):
    """A site with all that belongs to it."""

    revision: Count
    site: Site
    days: dict[Day, ClearDay]
    weather: list[WeatherPart]
    sheets: list[SheetPart]
    builds: list[BuildPart]


class MaterialPart(Model):
    """A material of one's own."""

    family: Literal["absorber", "cover", "mirror", "layer"]
    name: Stamp
    doc: Doc
    revision: Count


class YardFile(Model):
    """A whole yard."""

    title: ClassVar[str] = "yard"

    format: Literal[1] = 1
    made_at: Stamp
    materials: list[MaterialPart]
    sites: list[SitePart]
    left_out: list[Text] = Field(default_factory=list, description="What could not be read when this was written")


def trials_of(yard: YardFile) -> Iterator[TrialPart]:
    """Every trial in it."""
    return (trial for site in yard.sites for build in site.builds for trial in build.trials)


def pictures_of(yard: YardFile) -> Iterator[PicturePart]:
    """Every photo of what a row tells of."""
    for site in yard.sites:
        trials = [trial.sheets for build in site.builds for trial in build.trials]
        for rows in (site.sheets, *(build.sheets for build in site.builds), *trials):
            yield from (picture for row in rows for picture in row.photos)
