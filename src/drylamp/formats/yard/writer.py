"""A yard file as it is written, large parts as they come."""

from __future__ import annotations

import csv
import io
import zipfile
from collections.abc import Callable, Iterable
from typing import IO, Any

from drylamp.formats.yard.parts import COLUMNS, DOCUMENT, YardFile, pictures_of, trials_of


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
        for trial in trials_of(yard):
            if trial.readings is not None:
                with made.open(_named(trial.readings), "w") as raw, io.TextIOWrapper(raw, "utf-8", newline="") as text:
                    table = csv.writer(text)
                    table.writerow(COLUMNS)
                    table.writerows(sources.readings(trial.readings))
            for photo in trial.photos:
                made.writestr(_named(photo.file), sources.photo(photo.file), zipfile.ZIP_STORED)
        for picture in pictures_of(yard):
            made.writestr(_named(picture.file), sources.photo(picture.file), zipfile.ZIP_STORED)
        for site in yard.sites:
            for weather in site.weather:
                made.writestr(_named(weather.file), sources.weather(weather.file))


def _named(name: str) -> zipfile.ZipInfo:
    """A member that carries no clock of this machine, so that alike yards make alike files."""
    info = zipfile.ZipInfo(name)
    info.compress_type, info.external_attr = zipfile.ZIP_DEFLATED, 0o600 << 16
    return info
