"""Water drawn by the hour: how much, how fast, and what that is in each step of a run."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import timedelta
from typing import TYPE_CHECKING, Annotated

import numpy as np
from pydantic import Field

from drylamp.core.arrays import Array
from drylamp.core.checks import Model, Number
from drylamp.core.loads.calendar import HHMM
from drylamp.core.sky.clock import days_of, instant_s

if TYPE_CHECKING:
    from drylamp.core.sky.site import Site
    from drylamp.core.sky.weather import Weather

HOUR = Annotated[str, Field(pattern=HHMM)]


class Draw(Model):
    """So many litres at an hour of every day, so fast."""

    at: HOUR = Field(default="19:00", title="At")
    take_l: Annotated[Number, Field(gt=0, le=2000)] = Field(default=15.0, title="Litres")
    l_min: Annotated[Number, Field(gt=0, le=60)] = Field(default=5.0, title="Litres a minute")


class Running(Model):
    """So much runs through between two hours of every day; past midnight where the second comes first."""

    begins: HOUR = Field(default="10:00", title="From")
    ends: HOUR = Field(default="16:00", title="To")
    l_min: Annotated[Number, Field(gt=0, le=100)] = Field(default=2.0, title="Litres a minute")


def running_kg_s(site: Site, weather: Weather, hours: Sequence[Running]) -> Array:
    """Mean flow of each step, kg/s, shape (steps,)."""
    out, dt = np.zeros(weather.steps), weather.dt_s
    edges = weather.start_s + dt * np.arange(weather.steps + 1)
    for day, _, _ in days_of(site.zone, float(edges[0]) - 86400.0, float(edges[-1])):
        for part in hours:
            begins = instant_s(site.zone, day, part.begins)
            ends = instant_s(site.zone, day + timedelta(days=int(part.ends <= part.begins)), part.ends)
            inside = np.clip(np.minimum(edges[1:], ends) - np.maximum(edges[:-1], begins), 0.0, None)
            out += inside / dt * part.l_min / 60.0
    return out


def drawn_kg_s(site: Site, weather: Weather, draws: Sequence[Draw]) -> Array:
    """Mean flow of each step, kg/s, shape (steps,): exactly the litres of each draw, spread over the steps that it lasts."""
    out, dt = np.zeros(weather.steps), weather.dt_s
    edges = weather.start_s + dt * np.arange(weather.steps + 1)
    for day, _, _ in days_of(site.zone, float(edges[0]), float(edges[-1])):
        for draw in draws:
            begins = instant_s(site.zone, day, draw.at)
            ends = begins + 60.0 * draw.take_l / draw.l_min
            inside = np.clip(np.minimum(edges[1:], ends) - np.maximum(edges[:-1], begins), 0.0, None)
            out += inside / dt * draw.l_min / 60.0
    return out
