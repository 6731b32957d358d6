"""Years that a build may live through: made up from a site's months as they may be, or the years that a weather file holds."""

from __future__ import annotations

from dataclasses import dataclass, replace
from datetime import UTC, date, datetime, timedelta
from functools import cached_property
from typing import Protocol

import numpy as np

from drylamp.core.arrays import Array
from drylamp.core.checks import require
from drylamp.core.sky.clock import day_edges_s
from drylamp.core.sky.generator import made_up_weather, may_be
from drylamp.core.sky.of_span import likely_weather_of, weather_of
from drylamp.core.sky.site import Site
from drylamp.core.sky.weather import Records, Span, Weather, from_records
from drylamp.core.text import counted

STEP_S = 300.0
HOURS_OF_YEAR = 8760


class Years(Protocol):
    """Years one by one, by number from 0."""

    @property
    def most(self) -> int | None:
        """How many there are; none where they never end."""

    def said(self, count: int) -> str:
        """So many of them in words."""

    def named(self, number: int) -> str:
        """What a year is called in a table."""

    def day(self, on: date, number: int) -> Weather:
        """That date in a year, at five-minute steps."""

    def spell(self, span: Span, number: int, seed: int) -> Weather:
        """Days in a row in a year."""


@dataclass(frozen=True)
class MadeUp:
    """Years that could equally well be at a site; it needs its months' clearness."""

    site: Site
    most: int | None = None

    def said(self, count: int) -> str:
        """So many of them."""
        return counted(count, "made-up year")

    def named(self, number: int) -> str:
        """By its number."""
        return str(number + 1)

    def day(self, on: date, number: int, seed: int = 1) -> Weather:
        """One of the days that a date could equally well be.

        Raises
        ------
        InputProblem
            the site has no monthly means with clearness.
        """
        start, end = day_edges_s(self.site.zone, on)
        drawn = made_up_weather(may_be(self.site, number), on - timedelta(days=1), 3, seed, number)
        return from_records(self.site, drawn, start, end, STEP_S)

    def spell(self, span: Span, number: int, seed: int) -> Weather:
        """One of the spells that a span could equally well bring."""
        return likely_weather_of(self.site, span, seed, number)


@dataclass(frozen=True)
class FromFile:
    """Years that a weather file holds whole, each laid along the calendar of what is asked for, as a typical year is."""

    site: Site
    records: Records

    def said(self, count: int) -> str:
        """So many of them."""
        return f"{counted(count, 'year')} of the file"

    @cached_property
    def whole(self) -> list[tuple[int, Records]]:
        """Whole years by the calendar of UTC, without a gap; a typical year is one whatever its months' years are."""
        if self.records.typical_year:
            return [(0, self.records)]
        year = np.array([datetime.fromtimestamp(float(s), UTC).year for s in self.records.time_s])
        wanted = round(HOURS_OF_YEAR * 3600.0 / self.records.step_s)
        counts = [(int(one), np.flatnonzero(year == one)) for one in np.unique(year)]
        return [
            (one, replace(_rows(self.records, rows), typical_year=True)) for one, rows in counts if len(rows) >= wanted
        ]

    @property
    def most(self) -> int | None:
        """How many whole years there are."""
        return len(self.whole)

    def named(self, number: int) -> str:
        """By the calendar."""
        return str(self.whole[number][0] or "typical")

    def day(self, on: date, number: int) -> Weather:
        """That date in a year."""
        return self.spell(Span(start=on, step_s=300), number, 0)

    def spell(self, span: Span, number: int, seed: int) -> Weather:
        """Those days in a year; nothing is drawn by lot.

        Raises
        ------
        InputProblem
            it holds no such year.
        """
        require(
            0 <= number < len(self.whole),
            "years",
            f"the file holds {len(self.whole)} whole years; year {number + 1} was asked for",
        )
        return weather_of(self.site, self.whole[number][1], span)


def _rows(records: Records, rows: np.ndarray) -> Records:
    def pick(values: Array | None) -> Array | None:
        return None if values is None else values[rows]

    return replace(
        records, time_s=records.time_s[rows], ghi_w_m2=records.ghi_w_m2[rows], air_c=records.air_c[rows], rh=records.rh[rows], wind_m_s=records.wind_m_s[rows],
        dni_w_m2=pick(records.dni_w_m2), dhi_w_m2=pick(records.dhi_w_m2), pressure_pa=pick(records.pressure_pa), rain_mm_h=pick(records.rain_mm_h),
    )  # fmt: skip
