"""How a fan or pump is driven: always, by the clock and the season, by a panel in the sun, by hand, or by two temperatures.

Everything but the two temperatures is known before the march and becomes a ceiling on the speed, step by step; the two
temperatures are compared inside it, at the beginning of each step.
"""

from __future__ import annotations

from typing import TYPE_CHECKING, Annotated, Literal, Protocol

import numpy as np
from pydantic import Field, model_validator

from drylamp.core.air.panel import PanelDrive
from drylamp.core.air.thermostat import Thermostat
from drylamp.core.arrays import Array
from drylamp.core.checks import Azimuth, Count, Fraction, Hour, Model, Moment, NotNegative, Number, Positive, Tilt
from drylamp.core.sky.clock import days_of, instant_s

if TYPE_CHECKING:
    from drylamp.core.sky.site import Site
    from drylamp.core.sky.weather import Weather

MONTH = Annotated[Count, Field(ge=1, le=12)]


class Set(Protocol):
    """Something that is set by step, 0–1: a fan's speed, how far a vent stands open."""

    def ceiling(self, site: Site, weather: Weather) -> Array:
        """How far by step, 0–1, shape (steps,)."""


class Constant(Model):
    """Always at one speed."""

    kind: Literal["constant"] = "constant"
    speed: Fraction = 1.0

    def ceiling(self, site: Site, weather: Weather) -> Array:
        """Speed by step, 0–1, shape (steps,)."""
        return np.full(weather.steps, self.speed)


class Season(Model):
    """Hours of the day in some months."""

    months: list[MONTH] = Field(min_length=1, max_length=12)
    on: Hour
    off: Hour
    speed: Fraction = 1.0


class Timer(Model):
    """By the clock, season by season; still in months that are not named."""

    kind: Literal["timer"] = "timer"
    seasons: list[Season] = Field(min_length=1, max_length=12)

    @model_validator(mode="after")
    def _no_month_twice(self) -> Timer:
        named = [month for season in self.seasons for month in season.months]
        if len(set(named)) < len(named):
            raise ValueError("a month stands in two seasons; give each month its hours once")
        return self

    def ceiling(self, site: Site, weather: Weather) -> Array:
        """Speed by step, 0–1, shape (steps,)."""
        middle, out = weather.sun.time_s, np.zeros(weather.steps)
        for day, begin, end in days_of(site.zone, weather.start_s, weather.start_s + weather.steps * weather.dt_s):
            today = slice(*np.searchsorted(middle, (begin, end)))
            for season in self.seasons:
                if day.month in season.months:
                    on, off = instant_s(site.zone, day, season.on), instant_s(site.zone, day, season.off)
                    out[today][_between(middle[today], on, off)] = season.speed
        return out


def _between(middle: Array, on_s: float, off_s: float) -> np.ndarray:
    """Which steps of a day lie between two hours; past midnight where the second comes first."""
    if on_s <= off_s:
        return np.asarray((middle >= on_s) & (middle < off_s))
    return np.asarray((middle >= on_s) | (middle < off_s))


class SunPanel(Model):
    """By a small panel: speed follows the sun on it."""

    kind: Literal["panel"] = "panel"
    peak_w: Positive
    motor_w: Positive
    starts_w_m2: NotNegative = 100.0
    facing_deg: Azimuth
    tilt_deg: Tilt = 45.0

    def ceiling(self, site: Site, weather: Weather) -> Array:
        """Speed by step, 0–1, shape (steps,)."""
        light = _on_plane(site, weather, self.facing_deg, self.tilt_deg)
        return PanelDrive(self.peak_w, self.motor_w, self.starts_w_m2).speed(light)


class WithSun(Model):
    """As fast as the sun on a plane is strong, at full from so much on."""

    kind: Literal["sun"] = "sun"
    full_w_m2: Annotated[Positive, Field(le=1400)] = 600.0
    starts_w_m2: NotNegative = 60.0
    facing_deg: Azimuth
    tilt_deg: Tilt = 45.0

    def ceiling(self, site: Site, weather: Weather) -> Array:
        """Speed by step, 0–1, shape (steps,)."""
        light = _on_plane(site, weather, self.facing_deg, self.tilt_deg)
        return np.where(light >= self.starts_w_m2, np.minimum(light / self.full_w_m2, 1.0), 0.0)


def _on_plane(site: Site, weather: Weather, facing_deg: float, tilt_deg: float) -> Array:
    """Sun on a plane, W/m², shape (steps,); sky light counts by the share of the sky that it sees."""
    from drylamp.core.sky.dome import plane_axes  # brings what computes the sun, and most controls need none

    beam = weather.dni_w_m2 * np.maximum(weather.sun.direction @ plane_axes(tilt_deg, facing_deg)[2], 0.0)
    open_ = (1.0 + np.cos(np.radians(tilt_deg))) / 2.0
    return np.asarray(beam + weather.dhi_w_m2 * open_ + site.albedo * weather.ghi_w_m2 * (1.0 - open_))


class Turn(Model):
    """Somebody set it at an instant."""

    at: Moment
    speed: Fraction


class ByHand(Model):
    """As noted; as it was first set before the first note."""

    kind: Literal["by-hand"] = "by-hand"
    at_first: Fraction = 0.0
    turns: list[Turn] = Field(default_factory=list, max_length=500)

    def ceiling(self, site: Site, weather: Weather) -> Array:
        """Speed by step, 0–1, shape (steps,)."""
        out = np.full(weather.steps, self.at_first)
        for turn in sorted(self.turns, key=lambda t: t.at):
            out[weather.sun.time_s >= turn.at.timestamp()] = turn.speed
        return out


class Differential(Model):
    """On when one node is so much warmer than another, off when it is hardly so any more."""

    kind: Literal["differential"] = "differential"
    warm: str
    cool: str
    on_k: Annotated[Number, Field(ge=0, le=60)] = 6.0
    off_k: Annotated[Number, Field(ge=-20, le=60)] = 2.0
    speed: Fraction = 1.0

    @model_validator(mode="after")
    def _holds(self) -> Differential:
        if self.off_k >= self.on_k:
            raise ValueError(f"off_k {self.off_k:g} is not below on_k {self.on_k:g}; it would switch at every step")
        return self

    def ceiling(self, site: Site, weather: Weather) -> Array:
        """Speed by step while it is on, 0–1, shape (steps,)."""
        return np.full(weather.steps, self.speed)

    @property
    def thermostat(self) -> Thermostat:
        """What the march compares."""
        return Thermostat(self.warm, self.cool, self.on_k, self.off_k)


FlowControl = Annotated[Constant | Timer | SunPanel | WithSun | ByHand | Differential, Field(discriminator="kind")]
