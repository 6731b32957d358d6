"""A yard file from outside, within bounds and looked at whole before anything of it is written."""

from __future__ import annotations

import csv
import io
import re
import zipfile
import zlib
from collections.abc import Iterable, Iterator
from typing import IO, Any

from pydantic import ValidationError

from drylamp.core.checks import Count, InputProblem, Model, explain, require
from drylamp.core.text import Sentence, counted
from drylamp.formats.json_text import check_content, read_json
from drylamp.formats.yard.checks import check_builds, checked_build
from drylamp.formats.yard.parts import COLUMNS, DOCUMENT, FORMAT, TrialPart, YardFile, pictures_of, trials_of

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
TOO_LARGE = "so it is no yard file, or a spoilt one; ask for another"


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
        wanted += [picture.file for picture in pictures_of(self.yard)]
        keys = [trial.key for trial in trials_of(self.yard)]
        require(len(set(keys)) == len(keys), "sites", "two trials have one key in this file")
        for s, site in enumerate(self.yard.sites):
            check_builds(site.builds, f"sites.{s}.builds")
            for b, build in enumerate(site.builds):
                wanted += checked_build(build, f"sites.{s}.builds.{b}")
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
        trials = list(trials_of(self.yard))
        builds = [build for site in self.yard.sites for build in site.builds]
        counts = YardCounts(
            sites=len(self.yard.sites),
            builds=len(builds),
            trials=len(trials),
            readings=self._counted_readings(trials),
            photos=sum(len(trial.photos) for trial in trials),
            materials=len(self.yard.materials),
        )
        names = [
            f"{part.site.name}: {', '.join(build.newest.name for build in part.builds) or 'no builds'}"
            for part in self.yard.sites
        ]
        return YardPreview(made_at=self.yard.made_at, counts=counts, names=names, words=self._words(counts, set(known)))

    def _counted_readings(self, trials: list[TrialPart]) -> int:
        count = 0
        for trial in trials:
            for _ in self.readings(trial):
                count += 1
                require(
                    count <= MOST_READINGS,
                    "file",
                    f"more than {MOST_READINGS} readings are in it; take it in trial by trial",
                )
        return count

    def _words(self, counts: YardCounts, known: set[str]) -> list[str]:
        words = [
            f"{counted(counts.sites, 'place')} with {counted(counts.builds, 'build')}, {counted(counts.trials, 'trial')}, {counted(counts.readings, 'reading')}."
        ]
        if twice := [part.site.name for part in self.yard.sites if part.site.name in known]:
            words.append(
                f"{', '.join(twice)}: a place of that name stands here already; the file's comes beside it, nothing here is changed."
            )
        if left_out := self.yard.left_out[:5]:
            words.append(f"Left out when it was written, as it could not be read there: {', '.join(left_out)}.")
        return words


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
