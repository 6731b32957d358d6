"""Weather of a span on the march's steps, from whatever it is told by."""

from __future__ import annotations

from dataclasses import replace
from datetime import timedelta

import numpy as np

from drylamp.core.sky.clock import instant_s
from drylamp.core.sky.generator import made_up_weather
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
