"""Water drawn by the hour: how much, how fast, and what that is in each step of a run."""

from __future__ import annotations

import math
from collections.abc import Sequence
from datetime import timedelta
from typing import TYPE_CHECKING, Annotated

import numpy as np
from pydantic import Field

from drylamp.core.arrays import Array
from drylamp.core.checks import Hour, Model, Number
from drylamp.core.sky.clock import days_of, instant_s

if TYPE_CHECKING:
    from drylamp.core.sky.site import Site
    from drylamp.core.sky.weather import Weather


DAY_S = 86400.0


class Draw(Model):
    """So many litres at an hour of every day, so fast."""

    at: Hour = Field(default="19:00", title="At")
    take_l: Annotated[Number, Field(gt=0, le=2000)] = Field(default=15.0, title="Litres")
    l_min: Annotated[Number, Field(gt=0, le=60)] = Field(default=5.0, title="Litres a minute")


class Running(Model):
    """So much runs through between two hours of every day; past midnight where the second comes first."""

    begins: Hour = Field(default="10:00", title="From")
    ends: Hour = Field(default="16:00", title="To")
    l_min: Annotated[Number, Field(ge=0, le=100)] = Field(
        default=2.0, title="Litres a minute", description="0: it stands"
    )


def running_kg_s(site: Site, weather: Weather, hours: Sequence[Running]) -> Array:
    """Mean flow of each step, kg/s, shape (steps,)."""
    begin, end = weather.start_s, weather.start_s + weather.dt_s * weather.steps
    out = np.zeros(weather.steps)
    for day, _, _ in days_of(site.zone, begin - DAY_S, end):
        for part in hours:
            begins = instant_s(site.zone, day, part.begins)
            ends = instant_s(site.zone, day + timedelta(days=int(part.ends <= part.begins)), part.ends)
            add_between(out, weather, begins, ends, part.l_min / 60.0)
    return out


def drawn_kg_s(site: Site, weather: Weather, draws: Sequence[Draw]) -> Array:
    """Mean flow of each step, kg/s, shape (steps,): exactly the litres of each draw, spread over the steps that it lasts."""
    begin, end = weather.start_s, weather.start_s + weather.dt_s * weather.steps
    out = np.zeros(weather.steps)
    for day, _, _ in days_of(site.zone, begin, end):
        for draw in draws:
            begins = instant_s(site.zone, day, draw.at)
            add_between(out, weather, begins, begins + 60.0 * draw.take_l / draw.l_min, draw.l_min / 60.0)
    return out


def add_between(out: Array, weather: Weather, begins: float, ends: float, value: float) -> None:
    """Add what holds between two instants to the steps that it touches, each by the share of it that it lasts."""
    dt, start = weather.dt_s, weather.start_s
    first = min(max(math.floor((begins - start) / dt), 0), len(out))
    last = min(max(math.ceil((ends - start) / dt), first), len(out))
    edges = start + dt * np.arange(first, last + 1)
    lasts = np.clip(np.minimum(edges[1:], ends) - np.maximum(edges[:-1], begins), 0.0, None)
    out[first:last] += lasts / dt * value
