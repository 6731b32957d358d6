"""One design over many places and years: month by month what the sun brought, what the build made of it, how often its load got done.

A piece of work is one year at one place. It needs nothing but itself, so it may be run anywhere, and its rows are the same wherever they were made.
"""

from __future__ import annotations

import calendar
import hashlib
from collections.abc import Callable, Iterable, Iterator, Mapping
from concurrent.futures import Executor
from dataclasses import dataclass
from datetime import date
from functools import cached_property

import numpy as np
from pydantic import Field

from drylamp.core.advice.meal import days_taken, has_chances
from drylamp.core.advice.season import useful_w
from drylamp.core.builds.registry import kind_of
from drylamp.core.checks import Model, require
from drylamp.core.ensemble import as_done
from drylamp.core.loads.load import Load
from drylamp.core.outcome.summary import summarise
from drylamp.core.sky.of_span import YEAR
from drylamp.core.sky.site import Site
from drylamp.core.sky.weather import Records, Span
from drylamp.core.sky.years import FromFile, MadeUp, Years
from drylamp.core.twin.case import Case
from drylamp.core.twin.prepared import simulate
from drylamp.core.twin.run import Run

MOST_PIECES, SEED, STEP_S = 100_000, 4100, 300
WEEKS_DAYS = 120
"""So far a charge of weeks is followed from each month's first day on."""


class MonthRow(Model):
    """One month of one year at one place.

    Attributes:
        year: its number from 1 of made-up years, else the file's own
        days: that were run from the first of the month on
        sun_kwh_m2: on the opening's plane, a day
        opening_kwh, useful_kwh: light that met the opening, and heat where it is wanted, a day
        hottest_c: of what is judged
        done: times that what goes in each day got done; of what stays longer 1 or 0; none of an empty build
        taken_days: from putting in until it was done, of what stays longer
        energy_closure: energy unaccounted for, as a share of the sun taken up
    """

    place: str
    latitude_deg: float
    longitude_deg: float
    year: str
    month: int = Field(ge=1, le=12)
    days: int
    sun_kwh_m2: float
    opening_kwh: float
    useful_kwh: float
    hottest_c: float
    done: int | None
    taken_days: float | None
    energy_closure: float


@dataclass(frozen=True)
class Place:
    """A place of an atlas: its site, and a weather file's records where it has one."""

    site: Site
    records: Records | None = None

    @property
    def years(self) -> Years:
        """The years that can be had there."""
        return MadeUp(self.site) if self.records is None else FromFile(self.site, self.records)


@dataclass(frozen=True)
class Piece:
    """One year of a case at a place."""

    case: Case
    place: Place
    number: int

    @cached_property
    def key(self) -> str:
        """A text that two pieces share only when their rows are alike."""
        made = hashlib.blake2b(digest_size=12)
        made.update(f"{self.case.key} {self.place.site.model_dump_json()} {self.number}".encode())
        records = self.place.records
        for series in (
            () if records is None else (records.time_s, records.ghi_w_m2, records.air_c, records.rh, records.wind_m_s)
        ):
            made.update(np.ascontiguousarray(series).tobytes())
        return made.hexdigest()


def pieces_of(case: Case, places: Iterable[Place], years: int) -> list[Piece]:
    """Every year at every place; of a file as many as it holds.

    Raises
    ------
    InputProblem
        there are none, or too many, or a place has no clearness and no file.
    """
    require(years >= 1, "--years", f"{years} was given; allowed is 1 or more")
    found = []
    for place in places:
        there = place.site.name
        require(place.records is not None or has_chances(place.site), "--sites", f"{there} has no monthly clearness, so no year can be made up; name a weather file for it")  # fmt: skip
        most = place.years.most
        require(most is None or most > 0, "--sites", f"the weather file of {there} holds no whole year")
        found += [Piece(case, place, number) for number in range(min(years, most or years))]
    require(
        0 < len(found) <= MOST_PIECES,
        "--sites",
        f"{len(found)} years were asked for in all; allowed are 1 to {MOST_PIECES}",
    )
    return found


def at_place(case: Case, site: Site) -> Case:
    """The design there: on open ground, and in the other half of the world turned to the noon sun as it was here."""
    build = case.build
    if site.equator_azimuth_deg != case.site.equator_azimuth_deg:
        build = build.turned_to((180.0 - build.facing_deg) % 360.0, None)
    load = None if case.load is None else case.load.afresh()
    return case.with_(site=site, spot=None, build=build, load=load, ground_c=None, first_c={})


def year_at(piece: Piece) -> list[MonthRow]:
    """Run a piece: twelve months, each from its first day on."""
    there, years = at_place(piece.case, piece.place.site), piece.place.years
    return [_month(piece, there, years, month) for month in range(1, 13)]


def _month(piece: Piece, there: Case, years: Years, month: int) -> MonthRow:
    load, kind = there.load, kind_of(there.build)
    days = WEEKS_DAYS if load is not None and load.calendar.for_weeks else calendar.monthrange(YEAR, month)[1]
    span = Span(start=date(YEAR, month, 1), days=days, step_s=STEP_S)
    case = there.with_(span=span)
    run = simulate(case, years.spell(span, piece.number, SEED + month))
    hours = run.weather.dt_s / 3.6e6 / days
    done, taken = _done(case, run, load)
    site = piece.place.site
    return MonthRow(
        place=site.name, latitude_deg=site.latitude_deg, longitude_deg=site.longitude_deg, year=years.named(piece.number), month=month, days=days,
        sun_kwh_m2=round(float(run.plane_w_m2.sum()) * hours, 3), opening_kwh=round(float(run.opening_w.sum()) * hours, 4),
        useful_kwh=round(float(useful_w(run.account_w[kind.useful_account], load).sum()) * hours, 4), hottest_c=round(float(np.nanmax(run.temperature_c[kind.judged(there.build, load)])), 2),
        done=done, taken_days=taken, energy_closure=float(f"{run.energy_closure:.1e}"),
    )  # fmt: skip


def _done(case: Case, run: Run, load: Load | None) -> tuple[int | None, float | None]:
    if load is None:
        return None, None
    if load.calendar.daily or load.calendar.stands:
        told = [day.enough for day in summarise(case, run, every_s=3600.0).days]
        return (None, None) if all(one is None for one in told) else (sum(one is True for one in told), None)
    taken = days_taken(run, load, case.site)
    return int(taken is not None), None if taken is None else round(taken, 2)


def atlas(
    pieces: Iterable[Piece], executor: Executor, at_once: int, kept: Mapping[str, list[MonthRow]] | None = None, is_loss: Callable[[BaseException], bool] = lambda error: False
) -> Iterator[tuple[Piece, list[MonthRow]]]:  # fmt: skip
    """Each piece with its rows, in whatever order they come; those that are kept come first and are not run again.

    Parameters
    ----------
    kept
        rows of earlier runs by the key of their piece
    is_loss
        whether an executor's own exception means that a worker was lost
    """
    there = kept or {}
    left = []
    for piece in pieces:
        if piece.key in there:
            yield piece, there[piece.key]
        else:
            left.append(piece)
    yield from as_done(executor, year_at, left, at_once, is_loss)


def in_order(rows: Iterable[MonthRow]) -> list[MonthRow]:
    """As they stand in a table: by place, year and month, whoever was first."""
    return sorted(
        rows, key=lambda row: (row.place, row.latitude_deg, row.longitude_deg, len(row.year), row.year, row.month)
    )
