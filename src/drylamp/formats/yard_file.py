"""The whole yard as one file: a zip of one JSON document (``drylamp schema yard``), readings as CSV, photos and weather files beside it.

::

    yard.json            sites with their builds, trials, sheets; own materials; names of the files below
    readings/7.csv       readings of a trial, as they were written, those taken back too
    photos/7-1.jpg       a photo of a trial
    pictures/3-1.jpg     a photo of what a sheet's row tells of
    weather/1-1.txt      a weather file of a site

Nothing in it is a secret: tokens of loggers stay behind, and are made anew where it is read. Whatever comes from outside is looked at whole
before anything is written: names, sizes, rows, and that all that points to something points to what is in the file.
"""

from __future__ import annotations

import csv
import io
import re
import zipfile
import zlib
from collections.abc import Callable, Iterable, Iterator
from typing import IO, Annotated, Any, ClassVar, Literal

from pydantic import Field, JsonValue, ValidationError

from drylamp.core.builds.protocol import EventKind
from drylamp.core.builds.registry import BUILD
from drylamp.core.checks import Count, Day, InputProblem, Model, Number, YesNo, explain, require, unknown_name
from drylamp.core.loads.registry import LOAD
from drylamp.core.sky.site import Site
from drylamp.core.sky.weather import ClearDay
from drylamp.core.text import Sentence, counted
from drylamp.core.trials.facts import Goal
from drylamp.core.trials.instruments import INSTRUMENTS, ProbeCalibration, Quantity
from drylamp.core.trials.protocols import PROTOCOLS
from drylamp.core.twin.calibration import Calibration
from drylamp.formats.json_text import check_content, read_json

FORMAT = 1
DOCUMENT = "yard.json"
NAME = re.compile(r"^(readings|photos|pictures|weather)/[0-9]+(-[0-9]+)?\.(csv|jpg|txt)$")
"""The only names that a yard file has beside its document."""
MOST_FILES, MOST_BYTES, MOST_DOCUMENT_BYTES, MOST_RATIO, MOST_READINGS = (
    20_000,
    2 * 1024**3,
    256 * 1024**2,
    400,
    20_000_000,
)
"""What is taken in at most; what is packed more than so many times smaller is a bomb, not readings."""
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
TOO_LARGE = "so it is no yard file, or a spoilt one; ask for another"


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


class YardCounts(Model):
    """How much there is in a yard file."""

    sites: Count
    builds: Count
    trials: Count
    readings: Count
    photos: Count
    materials: Count


class YardPreview(Model):
    """What would come in, and what is to be known of it before."""

    made_at: str
    counts: YardCounts
    names: list[str]
    words: list[Sentence]


class Sources:
    """Where the large parts of a yard come from as it is written, by the names that its document gives them."""

    def __init__(
        self,
        readings: Callable[[str], Iterable[tuple[Any, ...]]],
        photo: Callable[[str], bytes],
        weather: Callable[[str], str],
    ) -> None:
        self.readings, self.photo, self.weather = readings, photo, weather


def write_yard(out: IO[bytes], yard: YardFile, sources: Sources) -> None:
    """Write a yard with all its files."""
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED, compresslevel=3) as made:
        made.writestr(_named(DOCUMENT), yard.model_dump_json(indent=1))
        for trial in _trials(yard):
            if trial.readings is not None:
                with made.open(_named(trial.readings), "w") as raw, io.TextIOWrapper(raw, "utf-8", newline="") as text:
                    table = csv.writer(text)
                    table.writerow(COLUMNS)
                    table.writerows(sources.readings(trial.readings))
            for photo in trial.photos:
                made.writestr(_named(photo.file), sources.photo(photo.file), zipfile.ZIP_STORED)
        for picture in _pictures(yard):
            made.writestr(_named(picture.file), sources.photo(picture.file), zipfile.ZIP_STORED)
        for site in yard.sites:
            for weather in site.weather:
                made.writestr(_named(weather.file), sources.weather(weather.file))


def _named(name: str) -> zipfile.ZipInfo:
    """A member that carries no clock of this machine, so that alike yards make alike files."""
    info = zipfile.ZipInfo(name)
    info.compress_type, info.external_attr = zipfile.ZIP_DEFLATED, 0o600 << 16
    return info


def _trials(yard: YardFile) -> Iterator[TrialPart]:
    return (trial for site in yard.sites for build in site.builds for trial in build.trials)


def _pictures(yard: YardFile) -> Iterator[PicturePart]:
    for site in yard.sites:
        trials = [trial.sheets for build in site.builds for trial in build.trials]
        for rows in (site.sheets, *(build.sheets for build in site.builds), *trials):
            yield from (picture for row in rows for picture in row.photos)


class YardReader:
    """A yard file, looked at whole: its document, and its large parts as they are asked for.

    Raises
    ------
    InputProblem
        it is no yard file, or not one that can be trusted; says what was found.
    """

    def __init__(self, given: IO[bytes]) -> None:
        try:
            self._zip = zipfile.ZipFile(given)
        except (zipfile.BadZipFile, ValueError, OSError):
            raise InputProblem("file", f"it is no zip, {TOO_LARGE}") from None
        self._check_members()
        self.yard = self._document()
        self._check_parts()

    def _check_members(self) -> None:
        members = self._zip.infolist()
        require(len(members) <= MOST_FILES, "file", f"{len(members)} files are in it; allowed are {MOST_FILES}")
        names = [member.filename for member in members]
        require(len(set(names)) == len(names), "file", f"two files in it have one name, {TOO_LARGE}")
        require(DOCUMENT in names, "file", f"there is no {DOCUMENT} in it, {TOO_LARGE}")
        for member in members:
            ok = member.filename == DOCUMENT or NAME.match(member.filename) is not None
            require(
                ok,
                "file",
                f"'{member.filename[:60]}' is in it; a yard file holds {DOCUMENT}, readings, photos and weather files under names of its own",
            )
            require(
                member.flag_bits & 1 == 0,
                "file",
                f"'{member.filename}' is locked by a password; write the file without one",
            )
            ratio = member.file_size / max(member.compress_size, 1)
            require(
                ratio <= MOST_RATIO,
                "file",
                f"'{member.filename}' unpacks to {ratio:.0f} times its size; allowed is {MOST_RATIO}, {TOO_LARGE}",
            )
        whole = sum(member.file_size for member in members)
        require(whole <= MOST_BYTES, "file", f"it unpacks to {whole / 1e9:.1f} GB; allowed are {MOST_BYTES / 1e9:.1f}")

    def _document(self) -> YardFile:
        require(
            self._zip.getinfo(DOCUMENT).file_size <= MOST_DOCUMENT_BYTES,
            "file",
            f"{DOCUMENT} is larger than {MOST_DOCUMENT_BYTES / 1e6:.0f} MB, {TOO_LARGE}",
        )
        found = read_json(self.read(DOCUMENT))
        require(isinstance(found, dict), "file", f"{DOCUMENT} is no object, {TOO_LARGE}")
        check_content(found)
        newer = found.get("format")
        require(
            not isinstance(newer, int) or newer <= FORMAT,
            "format",
            f"{newer} was given: it was written by a newer version; this one reads {FORMAT}, so renew the program first",
        )
        try:
            return YardFile.model_validate(found)
        except ValidationError as error:
            first = explain(error)[0]
            raise InputProblem(first.field, first.message) from None

    def _check_parts(self) -> None:
        """All that points to something points to what is here, and every build is one that can be run."""
        names = set(self._zip.namelist()) - {DOCUMENT}
        wanted = [weather.file for site in self.yard.sites for weather in site.weather]
        wanted += [picture.file for picture in _pictures(self.yard)]
        keys = [trial.key for trial in _trials(self.yard)]
        require(len(set(keys)) == len(keys), "sites", "two trials have one key in this file")
        for s, site in enumerate(self.yard.sites):
            _check_variants(site.builds, f"sites.{s}.builds")
            for b, build in enumerate(site.builds):
                wanted += _checked_build(build, f"sites.{s}.builds.{b}")
        missing, strange = sorted(set(wanted) - names), sorted(names - set(wanted))
        require(
            not missing, "file", f"'{missing[0] if missing else ''}' is spoken of and not in it: the file is not whole"
        )
        require(not strange, "file", f"'{strange[0] if strange else ''}' is in it and nothing speaks of it")
        require(len(set(wanted)) == len(wanted), "file", "two parts speak of one file")

    def read(self, name: str) -> bytes:
        """A member's bytes.

        Raises
        ------
        InputProblem
            it is damaged.
        """
        try:
            return self._zip.read(name)
        except (zipfile.BadZipFile, zlib.error, EOFError, OSError, NotImplementedError):
            raise InputProblem("file", f"'{name}' in it is damaged; write the file anew where it came from") from None

    def text(self, name: str) -> str:
        """A member as text."""
        try:
            return self.read(name).decode("utf-8")
        except UnicodeDecodeError:
            raise InputProblem("file", f"'{name}' in it is no text") from None

    def readings(self, trial: TrialPart) -> Iterator[tuple[Any, ...]]:
        """Rows of a trial, each checked.

        Raises
        ------
        InputProblem
            one cannot be read; says which.
        """
        if trial.readings is None:
            return
        channels = {channel.name for channel in trial.channels}
        with self._zip.open(trial.readings) as raw, io.TextIOWrapper(raw, "utf-8", newline="") as text:
            table = csv.reader(text)
            where = trial.readings
            try:
                require(
                    tuple(next(table, ())) == COLUMNS,
                    "file",
                    f"'{where}' has other columns; allowed are {', '.join(COLUMNS)}",
                )
                for number, row in enumerate(table, start=2):
                    yield _row(row, channels, where, number)
            except (csv.Error, UnicodeDecodeError, zipfile.BadZipFile, zlib.error, EOFError):
                raise InputProblem(
                    "file", f"'{where}' in it is damaged; write the file anew where it came from"
                ) from None

    def preview(self, known: Iterable[str]) -> YardPreview:
        """What would come in; every reading is looked at."""
        trials = list(_trials(self.yard))
        count = 0
        for trial in trials:
            for _ in self.readings(trial):
                count += 1
                require(
                    count <= MOST_READINGS,
                    "file",
                    f"more than {MOST_READINGS} readings are in it; take it in trial by trial",
                )
        sites, mine = [part.site.name for part in self.yard.sites], set(known)
        builds = [build for site in self.yard.sites for build in site.builds]
        counts = YardCounts(
            sites=len(sites), builds=len(builds), trials=len(trials), readings=count, photos=sum(len(trial.photos) for trial in trials), materials=len(self.yard.materials),
        )  # fmt: skip
        twice = [name for name in sites if name in mine]
        words = (
            [
                f"{', '.join(twice)}: a place of that name stands here already; the file's comes beside it, nothing here is changed."
            ]
            if twice
            else []
        )
        words += (
            [f"Left out when it was written, as it could not be read there: {', '.join(self.yard.left_out[:5])}."]
            if self.yard.left_out
            else []
        )
        names = [
            f"{part.site.name}: {', '.join(build.newest.name for build in part.builds) or 'no builds'}"
            for part in self.yard.sites
        ]
        return YardPreview(
            made_at=self.yard.made_at,
            counts=counts,
            names=names,
            words=[
                f"{counted(len(sites), 'place')} with {counted(len(builds), 'build')}, {counted(len(trials), 'trial')}, {counted(count, 'reading')}.",
                *words,
            ],
        )


def _check_variants(builds: list[BuildPart], where: str) -> None:
    """Every variant branched off a revision that is here, and none off itself, by whatever way round; every box of a class is like a build that is here."""
    by_key = {build.key: build for build in builds}
    require(len(by_key) == len(builds), where, "two builds have one key in this file")
    for trial in (trial for build in builds for trial in build.trials):
        names = {channel.name for channel in trial.channels}
        for box in trial.boxes:
            like = by_key.get(box.build or 0)
            known = box.build is None or (
                like is not None and any(one.number == box.build_revision for one in like.revisions)
            )
            require(
                known and box.channel in names,
                where,
                f"a box of {trial.name} is like build {box.build} at revision {box.build_revision} by channel '{box.channel}', which is not in this file",
            )
    for build in builds:
        base = by_key.get(build.variant_of or 0)
        if build.variant_of is None:
            continue
        numbers = [] if base is None else [one.number for one in base.revisions]
        require(
            build.variant_from in numbers,
            where,
            f"build {build.key} is a variant of {build.variant_of} at revision {build.variant_from}, which is not in this file",
        )
        seen = {build.key}
        while base is not None:
            require(base.key not in seen, where, f"build {build.key} is a variant of itself")
            seen.add(base.key)
            base = by_key.get(base.variant_of or 0)


def _checked_build(build: BuildPart, at: str) -> list[str]:
    """Names of the files that a build speaks of, all else about it looked at."""
    numbers = {one.number: one for one in build.revisions}
    require(len(numbers) == len(build.revisions), f"{at}.revisions", "a number comes twice")
    require(
        build.revision in numbers,
        f"{at}.revision",
        f"{build.revision} was given, and there is no such revision in it",
    )
    _readable(build.newest, at)
    out, keys = list[str](), {trial.key for trial in build.trials}
    for t, trial in enumerate(build.trials):
        here = f"{at}.trials.{t}"
        require(
            trial.build_revision in numbers,
            f"{here}.build_revision",
            f"{trial.build_revision} was given, and there is no such revision in it",
        )
        _readable(numbers[trial.build_revision], at)
        _checked_trial(trial, here)
        out += [photo.file for photo in trial.photos] + ([] if trial.readings is None else [trial.readings])
    for c, calibration in enumerate(build.calibrations):
        known = calibration.trial in keys and calibration.build_revision in numbers
        require(known, f"{at}.calibrations.{c}", "it speaks of a trial or a revision that is not in the file")
        _read_as(Calibration.model_validate, calibration.adjustments, f"{at}.calibrations.{c}.adjustments", "it")
    return out


def _checked_trial(trial: TrialPart, at: str) -> None:
    """Refuse a trial that could not be looked at again."""
    if trial.protocol not in PROTOCOLS:
        raise unknown_name(f"{at}.protocol", trial.protocol, PROTOCOLS)
    names = [channel.name for channel in trial.channels]
    require(len(set(names)) == len(names), f"{at}.channels", "a name comes twice")
    for channel in trial.channels:
        if channel.instrument not in INSTRUMENTS:
            raise unknown_name(f"{at}.channels.{channel.name}.instrument", channel.instrument, INSTRUMENTS)
    _read_as(ClearDay.model_validate, trial.weather, f"{at}.weather", trial.name)
    if trial.load is not None:
        _read_as(LOAD.validate_python, trial.load, f"{at}.load", trial.name)
    if trial.goal is not None:
        _read_as(Goal.model_validate, trial.goal, f"{at}.goal", trial.name)


def _readable(one: RevisionPart, at: str) -> None:
    _read_as(BUILD.validate_python, one.spec, f"{at}.spec", one.name)
    if one.load is not None:
        _read_as(LOAD.validate_python, one.load, f"{at}.load", one.name)


def _read_as(read: Callable[[Doc], object], doc: Doc, at: str, name: str) -> None:
    """Refuse a part that cannot be read as what it is to be, at its field."""
    try:
        read(doc)
    except ValidationError as error:
        first = explain(error)[0]
        raise InputProblem(f"{at}.{first.field}".rstrip("."), f"{name}: {first.message}") from None


def _row(row: list[str], channels: set[str], where: str, number: int) -> tuple[Any, ...]:
    """A reading as the store takes it."""
    if len(row) != len(COLUMNS):
        raise InputProblem("file", f"'{where}', line {number}: {len(row)} cells were given; allowed are {len(COLUMNS)}")
    channel, time_ms, value, doubt, *texts, withdrawn, imported = row
    if channel not in channels:
        raise InputProblem("file", f"'{where}', line {number}: '{channel[:40]}' is no channel of this trial")
    try:
        return (
            channel,
            int(time_ms),
            _number(value),
            _number(doubt),
            *texts,
            withdrawn or None,
            int(imported) if imported else None,
        )
    except ValueError:
        raise InputProblem("file", f"'{where}', line {number}: a number cannot be read") from None


def _number(text: str) -> float | None:
    if text == "":
        return None
    found = float(text)
    if not -1e12 < found < 1e12:
        raise ValueError(text)
    return found
