"""Weather on the twin's own steps: what drives a run, whatever it came from.

Every step [t, t + dt] carries the *mean* of sun, air and wind over it, with the sun standing where it stands at
the step's middle. Records of an hour are spread inside the hour by the sun's height so that each hour's
energy is kept. A gap inside the span is an error: nothing is invented.
"""

from __future__ import annotations

import hashlib
import math
from dataclasses import dataclass, replace
from datetime import UTC, datetime, timedelta
from functools import cache
from typing import Annotated, Literal

import numpy as np
from pydantic import Field, model_validator

from drylamp.core.air.moist import saturation_pressure_pa
from drylamp.core.arrays import Array
from drylamp.core.checks import (
    Celsius,
    Count,
    Day,
    Fraction,
    GapInWeather,
    Hour,
    InputProblem,
    Model,
    NotNegative,
    YesNo,
    require,
)
from drylamp.core.sky.clear import clear_sky, split_global
from drylamp.core.sky.rough_climate import ROUGH_K
from drylamp.core.sky.site import Site
from drylamp.core.sky.sun import SunPath, sun_over
from drylamp.core.text import celsius, kelvin, metres_per_second

ROUGH = f" (rough months, guessed from where it lies: ± {kelvin(ROUGH_K)})"
SkyState = Literal["clear", "hazy", "broken", "grey"]

SKY_INDEX: dict[SkyState, tuple[float, float, float]] = {
    "clear": (1.0, 0.93, 1.05),
    "hazy": (0.85, 0.72, 0.95),
    "broken": (0.60, 0.40, 0.80),
    "grey": (0.25, 0.12, 0.40),
}
"""Clear-sky index (likely, low, high) of a sky noted by eye; from memory, common practice, no source."""


class ClearDay(Model):
    """A day from four numbers, and the sky as a person would call it."""

    kind: Literal["clear-day"] = "clear-day"
    tmin_c: Celsius
    tmax_c: Celsius
    rh: Annotated[Fraction, Field(gt=0)] = 0.5
    wind_m_s: Annotated[NotNegative, Field(le=60)] = 2.0
    sky: SkyState = "clear"
    rough: YesNo = Field(default=False, description="Read off rough months: a guess from where the site lies")

    @model_validator(mode="after")
    def _ordered(self) -> ClearDay:
        if self.tmax_c < self.tmin_c:
            raise ValueError(f"tmax_c {self.tmax_c:g} is below tmin_c {self.tmin_c:g}; swap the two")
        return self


class WeatherFile(Model):
    """A weather file by its path, read at the edge and handed to the core as records."""

    kind: Literal["epw", "csv", "json", "tmy"]
    path: Annotated[str, Field(min_length=1)]


class Span(Model):
    """Which days to run, by the site's own clock."""

    start: Day
    days: Annotated[Count, Field(ge=1, le=366)] = 1
    step_s: Literal[30, 60, 120, 300] | None = Field(
        default=None, description="Default: 60 s up to a fortnight, 300 s beyond"
    )
    same_day: YesNo = Field(default=False, description="Every day as the first one, its sun included")
    until_closed: YesNo = Field(
        default=False,
        description="As same_day, for as many days as it takes until a day ends as it began; days is not looked at",
    )
    hold_at: Hour | None = Field(
        default=None, description="Sun and weather of this hour of the first day all through: run until it is steady"
    )


SERIES = ("ghi_w_m2", "dni_w_m2", "dhi_w_m2", "air_c", "rh", "wind_m_s", "rain_mm_h", "over_c")
"""What weather has a value of for every step."""


@dataclass(frozen=True)
class Weather:
    """Means over the steps of a run; arrays have one value per step, shape (n,).

    Attributes:
        start_s: start of the first step, seconds since 1970 UTC
        dt_s: length of a step
        sun: the sun at the middle of each step
        ghi_w_m2, dni_w_m2, dhi_w_m2: global and diffuse on level ground, direct normal
        air_c, wind_m_s, rh: air temperature, wind, relative humidity (0–1)
        pressure_pa: one value for the run
        origin: plain words on where it came from
        rough: its air is a guess from where the site lies
        rain_mm_h: shape (n,); none where nobody wrote it down
        over_c: temperature of what stands overhead instead of the sky, shape (n,); none in the open
        indoors: it is that of a greenhouse or room already
    """

    start_s: float
    dt_s: float
    sun: SunPath
    ghi_w_m2: Array
    dni_w_m2: Array
    dhi_w_m2: Array
    air_c: Array
    rh: Array
    wind_m_s: Array
    pressure_pa: float
    origin: str
    rough: bool = False
    rain_mm_h: Array | None = None
    over_c: Array | None = None
    indoors: bool = False

    @property
    def steps(self) -> int:
        """How many steps the run has."""
        return len(self.air_c)

    @property
    def mark(self) -> str:
        """A text that two runs of weather share only when they are alike."""
        made = hashlib.blake2b(digest_size=8)
        for name, series in self._series.items():
            made.update(name.encode() + np.ascontiguousarray(series).tobytes())
        return made.hexdigest()

    @property
    def _series(self) -> dict[str, Array]:
        """What it has a value of for every step, by name; left out what it has not."""
        return {name: series for name in SERIES if (series := getattr(self, name)) is not None}

    def like(self, steps: np.ndarray) -> Weather:
        """The same run of time with the sun and weather of other steps of it, shape (steps,)."""
        picked = self._of(steps)
        return replace(picked, sun=replace(picked.sun, time_s=self.sun.time_s))

    def warmer(self, kelvin: float) -> Weather:
        """The same under warmer air, as damp as before."""
        return replace(self, air_c=self.air_c + kelvin)

    def between(self, first: int, last: int) -> Weather:
        """The run from one of its steps up to another."""
        return replace(self._of(slice(first, last)), start_s=self.start_s + first * self.dt_s)

    def _of(self, steps: np.ndarray | slice) -> Weather:
        sun = SunPath(
            self.sun.time_s[steps], self.sun.direction[steps], self.sun.altitude_deg[steps], self.sun.azimuth_deg[steps], self.sun.extraterrestrial_w_m2[steps],
        )  # fmt: skip
        return replace(self, sun=sun, **{name: series[steps] for name, series in self._series.items()})  # type: ignore[arg-type]

    @property
    def vapour_pa(self) -> Array:
        """Vapour pressure of the air, shape (n,)."""
        return self.rh * saturation_pressures(self.air_c)

    @property
    def sky_c(self) -> Array:
        """Effective long-wave temperature of the sky, °C, shape (n,).

        References
        ----------
        Berdahl & Martin 1984: Tsky = Ta (0.711 + 0.0056 Tdp + 0.000073 Tdp² + 0.013 cos 15t + 0.00012 (P − 1000))^¼, with Tdp in °C,
        t hours from midnight, P in hPa (the last as in Berdahl & Fromberg 1982, from memory). For clear skies; clouds pull it towards air temperature by 84 % of the day's cloudiness
        (from memory), itself read off the day's diffuse share.
        """
        if self.over_c is not None:
            return self.over_c
        dew = dew_points(self.vapour_pa)
        hour = (self.sun.time_s / 3600.0) % 24.0
        noon = hour[int(np.argmax(self.sun.direction[:, 2]))]
        emissivity = 0.711 + 0.0056 * dew + 7.3e-5 * dew**2 + 0.013 * np.cos(np.radians(15.0 * (hour - noon + 12.0)))
        emissivity += 0.00012 * (self.pressure_pa / 100.0 - 1000.0)
        emissivity = emissivity + (1.0 - emissivity) * 0.84 * self._cloudiness()
        return np.asarray((self.air_c + 273.15) * np.clip(emissivity, 0.4, 1.0) ** 0.25 - 273.15)

    def _cloudiness(self) -> Array:
        """0 for a day as clear as they come (a quarter diffuse), 1 for one all diffuse, shape (n,)."""
        day = ((self.sun.time_s - self.start_s) // 86400.0).astype(int)
        total = np.bincount(day, weights=self.ghi_w_m2)
        diffuse = np.bincount(day, weights=self.dhi_w_m2)
        share = np.divide(diffuse, total, out=np.full_like(total, 0.25), where=total > 0)
        return np.asarray(np.clip((share[day] - 0.25) / 0.75, 0.0, 1.0), dtype=float)


def saturation_pressures(celsius: Array) -> Array:
    """Vapour pressure over water or ice for many temperatures, Pa, interpolated from an exact table."""
    return np.asarray(np.exp(np.interp(celsius, *_saturation_table())))


def dew_points(vapour_pa: Array) -> Array:
    """Dew point for many vapour pressures, °C."""
    table, exact = _saturation_table()
    return np.asarray(np.interp(np.log(np.maximum(vapour_pa, 0.01)), exact, table))


@cache
def _saturation_table() -> tuple[Array, Array]:
    """Temperatures, °C, and the logarithm of the exact saturation pressure there."""
    table = np.arange(-90.0, 120.0, 0.5)
    return table, np.log(np.array([saturation_pressure_pa(float(t)) for t in table]))


def step_length_s(span: Span) -> float:
    """Length of the march's step for a span."""
    if span.step_s is not None:
        return float(span.step_s)
    return 60.0 if span.days <= 14 else 300.0


def span_edges_s(site: Site, span: Span) -> tuple[float, float]:
    """Start and end of a span, seconds since 1970 UTC: local midnight to local midnight."""
    begin = datetime(span.start.year, span.start.month, span.start.day, tzinfo=site.zone)
    end_day = span.start + timedelta(days=span.days)
    end = datetime(end_day.year, end_day.month, end_day.day, tzinfo=site.zone)
    return begin.timestamp(), end.timestamp()


def _middles(start_s: float, end_s: float, dt_s: float) -> Array:
    return np.asarray(start_s + dt_s * (np.arange(round((end_s - start_s) / dt_s)) + 0.5), dtype=float)


def clear_days(site: Site, day: ClearDay, start_s: float, end_s: float, dt_s: float = 60.0) -> Weather:
    """Make days alike from four numbers and a sky state.

    The air is coolest at 5 and warmest at 15 hours solar time, cosines between (common practice, no source);
    the vapour pressure stays what it is at mean temperature and rh.
    """
    sun = sun_over(site, _middles(start_s, end_s, dt_s))
    ghi, dni, dhi = clear_sky(site, sun)
    if day.sky != "clear":
        ghi = ghi * SKY_INDEX[day.sky][0]
        dni, dhi = split_global(ghi, sun)
    hour = (sun.time_s / 3600.0 + site.longitude_deg / 15.0) % 24.0
    air = daily_temperature(hour, day.tmin_c, day.tmax_c)
    vapour = day.rh * saturation_pressure_pa((day.tmin_c + day.tmax_c) / 2)
    return Weather(
        start_s=start_s,
        dt_s=dt_s,
        sun=sun,
        ghi_w_m2=ghi,
        dni_w_m2=dni,
        dhi_w_m2=dhi,
        air_c=air,
        rh=np.clip(vapour / saturation_pressures(air), 0.0, 1.0),
        wind_m_s=np.full(len(air), day.wind_m_s),
        pressure_pa=site.pressure_pa,
        origin=f"{day.sky} sky, air {celsius(day.tmin_c)} to {celsius(day.tmax_c)}, wind {metres_per_second(day.wind_m_s)}"
        + (ROUGH if day.rough else ""),
        rough=day.rough,
    )


def daily_temperature(solar_hour: Array, low_c: float | Array, high_c: float | Array) -> Array:
    """Air temperature through the day: coolest at 5, warmest at 15 hours solar time, cosines between."""
    coolest, warmest = 5.0, 15.0
    since = (solar_hour - coolest) % 24.0
    rising = since < warmest - coolest
    phase = np.where(
        rising,
        since / (warmest - coolest),
        1.0 + (since - (warmest - coolest)) / (24.0 - (warmest - coolest)),
    )
    return np.asarray((low_c + high_c) / 2 - (high_c - low_c) / 2 * np.cos(np.pi * phase))


@dataclass(frozen=True)
class Records:
    """Weather as a file tells it: means over equal intervals that may have gaps between them.

    Attributes:
        time_s: start of each interval, rising, seconds since 1970 UTC, shape (n,)
        step_s: length of an interval
        ghi_w_m2, air_c, rh, wind_m_s: shape (n,)
        dni_w_m2, dhi_w_m2: shape (n,), or None where the file has only global sun
        pressure_pa: shape (n,) or None
        origin: plain words on where it came from
        typical_year: the records stand for any year (month, day and hour count, the year does not)
        rain_mm_h: shape (n,), or None where the file has no rain
    """

    time_s: Array
    step_s: float
    ghi_w_m2: Array
    air_c: Array
    rh: Array
    wind_m_s: Array
    dni_w_m2: Array | None
    dhi_w_m2: Array | None
    pressure_pa: Array | None
    origin: str
    typical_year: bool = False
    rain_mm_h: Array | None = None


def from_records(site: Site, records: Records, start_s: float, end_s: float, dt_s: float = 60.0) -> Weather:
    """Put records on the march's steps, keeping the energy of each interval.

    Raises
    ------
    GapInWeather
        an interval inside the span is missing.
    InputProblem
        the intervals are longer than an hour.
    """
    require(records.step_s <= 3600, "weather", f"records are {records.step_s:g} s apart; allowed are up to 3600 s")
    middles = _middles(start_s, end_s, dt_s)
    sun = sun_over(site, middles)
    if records.typical_year:
        records = _moved_to_year(records, start_s, end_s)
    if records.step_s < dt_s:
        records = _thinned(records, dt_s)
    row = _rows_for(records, middles)
    height, is_up = sun.sin_altitude, (sun.direction[:, 2] > 0).astype(float)
    ghi = records.ghi_w_m2[row] * _shape_within(row, height)
    if records.dni_w_m2 is None or records.dhi_w_m2 is None:
        dni, dhi = split_global(ghi, sun)
        origin = f"{records.origin}; beam and diffuse split from global sun (Erbs)"
    else:
        dni = records.dni_w_m2[row] * _shape_within(row, is_up)
        dhi = records.dhi_w_m2[row] * _shape_within(row, height)
        origin = records.origin
    at = records.time_s + records.step_s / 2
    pressure = site.pressure_pa if records.pressure_pa is None else float(np.mean(records.pressure_pa[row]))
    return Weather(
        start_s=start_s,
        dt_s=dt_s,
        sun=sun,
        ghi_w_m2=ghi,
        dni_w_m2=dni,
        dhi_w_m2=dhi,
        air_c=np.interp(middles, at, records.air_c),
        rh=np.clip(np.interp(middles, at, records.rh), 0.0, 1.0),
        wind_m_s=np.interp(middles, at, records.wind_m_s),
        pressure_pa=pressure,
        origin=origin,
        rain_mm_h=None if records.rain_mm_h is None else records.rain_mm_h[row],
    )


def _rows_for(records: Records, middles: Array) -> np.ndarray:
    row = np.searchsorted(records.time_s, middles, side="right") - 1
    late = middles - records.time_s[np.maximum(row, 0)] >= records.step_s * 1.001
    missing = (row < 0) | late
    if missing.any():
        first, last = middles[missing][0], middles[missing][-1]
        raise GapInWeather(
            "weather",
            f"{records.origin} has no rows for {int(missing.sum())} steps between {_stamp(first)} and {_stamp(last)}; "
            f"it covers {_stamp(records.time_s[0])} to {_stamp(records.time_s[-1] + records.step_s)}: "
            "choose a span inside it or fill the file",
        )
    return np.asarray(row)


def _stamp(seconds: float) -> str:
    return datetime.fromtimestamp(float(seconds), UTC).strftime("%Y-%m-%d %H:%M UTC")


def _shape_within(row: np.ndarray, weight: Array) -> Array:
    """Weights whose mean over every record is 1; even where the sun is down for the whole record."""
    base = row - row[0]
    count = np.bincount(base)
    total = np.bincount(base, weights=weight)
    mean = np.divide(total, count, out=np.zeros_like(total), where=count > 0)
    flat = mean[base] <= 1e-6
    return np.where(flat, 1.0, weight / np.where(flat, 1.0, mean[base]))


def _moved_to_year(records: Records, start_s: float, end_s: float) -> Records:
    """Lay a typical year along the calendar of the span; 29 February repeats the day before."""
    by_hour = {}
    for index, second in enumerate(records.time_s):
        moment = datetime.fromtimestamp(float(second), UTC)
        by_hour[(moment.month, moment.day, moment.hour, moment.minute)] = index
    step = records.step_s
    phase = float(records.time_s[0]) % step
    first = math.floor((start_s - phase) / step) * step + phase - step
    starts = np.arange(first, end_s + step, step)
    rows = []
    for second in starts:
        moment = datetime.fromtimestamp(float(second), UTC)
        day = 28 if (moment.month, moment.day) == (2, 29) else moment.day
        key = (moment.month, day, moment.hour, moment.minute)
        if key not in by_hour:
            raise GapInWeather("weather", f"{records.origin} has no row for {moment:%d %B %H:%M} UTC")
        rows.append(by_hour[key])
    return _picked(records, starts, np.array(rows))


def _picked(records: Records, time_s: Array, rows: np.ndarray) -> Records:
    def pick(values: Array | None) -> Array | None:
        return None if values is None else values[rows]

    return Records(
        time_s=time_s,
        step_s=records.step_s,
        ghi_w_m2=records.ghi_w_m2[rows],
        air_c=records.air_c[rows],
        rh=records.rh[rows],
        wind_m_s=records.wind_m_s[rows],
        dni_w_m2=pick(records.dni_w_m2),
        dhi_w_m2=pick(records.dhi_w_m2),
        pressure_pa=pick(records.pressure_pa),
        origin=records.origin,
        rain_mm_h=pick(records.rain_mm_h),
    )


def _thinned(records: Records, dt_s: float) -> Records:
    """Average records finer than the step over each step; a step with no record in it stays a gap."""
    slot = np.floor(records.time_s / dt_s).astype(int)
    kept, group = np.unique(slot, return_inverse=True)
    count = np.bincount(group)

    def mean(values: Array | None) -> Array | None:
        return None if values is None else np.bincount(group, weights=values) / count

    means = [mean(v) for v in (records.ghi_w_m2, records.air_c, records.rh, records.wind_m_s)]
    if any(m is None for m in means):
        raise InputProblem("weather", "sun, air, humidity and wind are all needed")
    ghi, air, rh, wind = (np.asarray(m) for m in means)
    return Records(
        time_s=kept * dt_s,
        step_s=dt_s,
        ghi_w_m2=ghi,
        air_c=air,
        rh=rh,
        wind_m_s=wind,
        dni_w_m2=mean(records.dni_w_m2),
        dhi_w_m2=mean(records.dhi_w_m2),
        pressure_pa=mean(records.pressure_pa),
        origin=records.origin,
        rain_mm_h=mean(records.rain_mm_h),
    )
