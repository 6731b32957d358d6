"""A build with what is wished in it, put to days that may be."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date
from functools import cached_property

import numpy as np

from drylamp.core.advice.meal import days_taken, has_chances
from drylamp.core.builds.build import Build
from drylamp.core.checks import InputProblem
from drylamp.core.loads.goods import Room
from drylamp.core.loads.load import Load
from drylamp.core.sky.of_span import likely_weather_of, weather_of
from drylamp.core.sky.site import Site
from drylamp.core.sky.weather import Span, Weather
from drylamp.core.twin.case import climate_day, usual_case
from drylamp.core.twin.prepared import prepare
from drylamp.core.twin.run import Run
from drylamp.core.wish.goods import Offer

SEED, STEP_S, MID_MONTH = 1200, 300, 12
MEMBERS, FEWEST, DAYS_IN_ALL = 8, 3, 40
"""Made-up spells that a chance is told from; the longer each, the fewer."""


@dataclass(frozen=True)
class Spell:
    """Where and when a wish is tried: a site, a spot of it, a day, and over how many days it is looked at."""

    site: Site
    spot: str | None
    first: date
    days: int

    @property
    def span(self) -> Span:
        """As the twin runs it."""
        return Span(start=self.first, days=self.days, step_s=STEP_S)

    @cached_property
    def has_chances(self) -> bool:
        """Whether days can be made up here."""
        return has_chances(self.site)

    @cached_property
    def first_try(self) -> Weather:
        """What a size is found on: a clear day, or days as they usually come."""
        if self.days == 1 or not self.has_chances:
            return weather_of(self.site, climate_day(self.site, self.first), self.span)
        return self._made_up(0)

    @cached_property
    def likely(self) -> list[Weather]:
        """Spells that could equally well be; none where the site has no clearness."""
        if not self.has_chances:
            return []
        count = max(FEWEST, min(MEMBERS, DAYS_IN_ALL // self.days))
        return [self.first_try if k == 0 and self.days > 1 else self._made_up(k) for k in range(count)]

    def _made_up(self, member: int) -> Weather:
        return likely_weather_of(self.site, self.span, SEED, member)


def run_of(spell: Spell, build: Build, load: Load, weather: Weather) -> Run | None:
    """A run; none where it does not fit."""
    try:
        case = usual_case(spell.site, spell.spot, build, load, spell.first).with_(span=spell.span)
        return prepare(case, weather).run()
    except InputProblem:
        return None


def days_until_done(spell: Spell, load: Load, run: Run | None) -> float | None:
    """Days that it took; none where it does not fit, or never was done."""
    return None if run is None else days_taken(run, load, spell.site)


def room_of(build: Build) -> Room:
    """What a build has room for."""
    return Room(len(build.shelves_m2), build.floor_m)


def load_of(offer: Offer, begun: Load | None, build: Build, amount: float, celsius: float | None) -> Load | None:
    """So much of a good as a load of its sort, made from one that is there; none where there can be no such."""
    base = begun if begun is not None and offer.is_of(begun) else offer.made.begun()
    made = offer.good.of(base, room_of(build), amount)
    if celsius is not None:
        made = offer.good.warm(made, celsius)
    try:
        return type(made).model_validate(made.model_dump())
    except ValueError:
        return None


@dataclass(frozen=True)
class Ends:
    """Days that it took over many spells: eight in ten lie between the ends; the share that came to nothing."""

    low: float | None
    likely: float | None
    high: float | None
    chance: float


def ends_of(taken: Sequence[float | None]) -> Ends:
    """Of days taken; ends of those that were done."""
    done = np.array([value for value in taken if value is not None])
    if len(done) == 0:
        return Ends(None, None, None, 0.0)
    low, likely, high = (float(np.quantile(done, share)) for share in (0.1, 0.5, 0.9))
    return Ends(low, likely, high, len(done) / len(taken))
