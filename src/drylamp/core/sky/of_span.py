"""Weather of a span on the march's steps, from whatever it is told by."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace
from datetime import date, timedelta

import numpy as np

from drylamp.core.kept import Kept
from drylamp.core.sky.clock import instant_s
from drylamp.core.sky.generator import made_up_weather, may_be
from drylamp.core.sky.site import Site
from drylamp.core.sky.weather import (
    ClearDay,
    Records,
    Span,
    Weather,
    clear_days,
    from_records,
    span_edges_s,
    step_length_s,
)


def weather_of(site: Site, source: ClearDay | Records, span: Span) -> Weather:
    """Weather of a span on the march's steps, from a day's numbers or a file's records."""
    start, end = span_edges_s(site, span)
    if isinstance(source, ClearDay):
        made = clear_days(site, source, start, end, step_length_s(span))
    else:
        made = from_records(site, source, start, end, step_length_s(span))
    return _repeated(site, made, span)


def usual_weather_of(site: Site, span: Span, seed: int) -> Weather:
    """Weather of a span as it usually comes there: made up, with a day before it and one after."""
    return weather_of(site, made_up_weather(site, span.start - timedelta(days=1), span.days + 2, seed=seed), span)


def likely_weather_of(site: Site, span: Span, seed: int, member: int) -> Weather:
    """One of the spells that a span could equally well bring: made up, by months as they may be where those are rough."""
    return usual_weather_of(may_be(site, member), span, seed + member)


YEAR, YEAR_DAYS, YEAR_STEP_S = 2001, 365, 300
"""The year that stands for any: no leap day in it."""
_YEARS: Kept[tuple[str, int], Weather] = Kept(8)
"""One is 12 MB."""


def usual_year(site: Site, seed: int) -> Weather:
    """A year as it usually comes there, at five-minute steps; the same again is not made twice."""
    span = Span(start=date(YEAR, 1, 1), days=YEAR_DAYS, step_s=YEAR_STEP_S)
    return _YEARS.get((site.model_dump_json(), seed), lambda: usual_weather_of(site, span, seed))


def spells(site: Site, first: date, last: date, seed: int, most: int = YEAR_DAYS) -> Iterator[tuple[Span, Weather]]:
    """Usual weather from a day up to another, whatever their years, in pieces of so many days at most; none of them crosses New Year. Their spans are of the year that stands for any."""
    year, a_day = usual_year(site, seed), round(86400.0 / YEAR_STEP_S)
    at, left = (date(YEAR, first.month, min(first.day, 28) if first.month == 2 else first.day) - date(YEAR, 1, 1)).days, (last - first).days  # fmt: skip
    while left > 0:
        days = min(left, most, YEAR_DAYS - at)
        span = Span(start=date(YEAR, 1, 1) + timedelta(days=at), days=days, step_s=YEAR_STEP_S)
        begin = round((span_edges_s(site, span)[0] - year.start_s) / YEAR_STEP_S)
        yield span, year.between(begin, min(begin + days * a_day, year.steps))
        at, left = (at + days) % YEAR_DAYS, left - days


def _repeated(site: Site, weather: Weather, span: Span) -> Weather:
    """Every day as the first, or one instant all through, where the span says so."""
    if span.hold_at is not None:
        at = instant_s(site.zone, span.start, span.hold_at)
        held = min(int((at - weather.start_s) // weather.dt_s), weather.steps - 1)
        return replace(weather.like(np.full(weather.steps, held)), origin=f"{weather.origin}; held at {span.hold_at}")
    if span.same_day or span.until_closed:
        day = weather.like(np.arange(weather.steps) % round(86400.0 / weather.dt_s))
        return replace(day, origin=f"{weather.origin}; every day as the first")
    return weather
