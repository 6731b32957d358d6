"""Where changes, schools and sayings are tried: one case on one day's weather, and one number for how well a load did on it."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from functools import cached_property

import numpy as np

from drylamp.core.builds.build import Build
from drylamp.core.builds.registry import kind_of
from drylamp.core.checks import InputProblem
from drylamp.core.loads.load import Load
from drylamp.core.outcome.of_load import KELVIN, Measure, Way, reached
from drylamp.core.outcome.registry import outcome_of
from drylamp.core.sky.clock import instant_s, local_day
from drylamp.core.sky.site import Site
from drylamp.core.sky.weather import Weather
from drylamp.core.sky.years import FromFile, MadeUp, Years
from drylamp.core.threads import two_at_a_time
from drylamp.core.twin.calibration import Calibration
from drylamp.core.twin.case import Case
from drylamp.core.twin.prepared import Prepared, prepare
from drylamp.core.twin.run import Run

PROPERTY_SHARE = 0.15
"""Doubt of a gain from what is doubtful about the materials themselves, as a share of it; from memory."""


@dataclass(frozen=True)
class Score:
    """How well a load did.

    Attributes:
        value: in the load's measure; of an empty build how hot it got
        minutes: to the target, where there is one and it is reached
        peak_c: the hottest it got
    """

    value: float
    minutes: float | None
    peak_c: float


@dataclass(frozen=True)
class AdviceContext:
    """A case on a day's weather: its spot and calibration hold for everything that is tried; ``measured`` are years of a weather file, where one is looked at."""

    case: Case
    weather: Weather
    measured: FromFile | None = None

    @property
    def years(self) -> Years:
        """Years that it may live through: those of a file where there is one, else made up."""
        return self.measured or MadeUp(self.case.site)

    @property
    def build(self) -> Build:
        """The build that advice is asked for."""
        return self.case.build

    @property
    def load(self) -> Load | None:
        """What is in it."""
        return self.case.load

    @property
    def key(self) -> str:
        """Text that two contexts share only when they are alike: to keep results by."""
        return f"{self.case.key} {self.weather.mark}"

    @cached_property
    def way(self) -> Way[Load] | None:
        """How scores are counted on this day: as suits how the build itself does on it; none of an empty build."""
        if self.load is None:
            return None
        row = outcome_of(self.load)
        return row.way(self.load, self.run(self.build, self.load), self.put_in_s()) if row.ways else row.usual

    @property
    def measure(self) -> Measure:
        """What scores are counted in."""
        return KELVIN if self.way is None else self.way.measure

    @property
    def counts(self) -> str:
        """What they count, in words."""
        return "how hot it gets empty" if self.way is None else self.way.counts

    def of(self, build: Build, load: Load | None) -> AdviceContext:
        """The same day for another build or load."""
        return replace(self, case=self.case.with_(build=build, load=load))

    def on(self, **change: object) -> AdviceContext:
        """The same case under other weather."""
        return replace(self, weather=replace(self.weather, **change))  # type: ignore[arg-type]

    def ready(self, build: Build, load: Load | None) -> Prepared:
        """A build on this day, traced."""
        return prepare(self.case.with_(build=build, load=load), self.weather)

    def run(self, build: Build, load: Load | None) -> Run:
        """A build on this day."""
        return self.ready(build, load).run()

    def score(self, build: Build, load: Load | None) -> Score:
        """How well it does."""
        return self.score_of(build, load, self.run(build, load))

    def score_of(self, build: Build, load: Load | None, run: Run) -> Score:
        """How well it did in a run, counted as this day is."""
        return score_of(self.case.site, build, load, run, self.way)

    def score_under(self, other: AdviceContext, build: Build, load: Load | None) -> Score:
        """How well it does on another day, counted as this day is: two days are compared by one measure."""
        return self.score_of(build, load, other.run(build, load))

    def between(self, mine: tuple[Build, Load | None], other: tuple[Build, Load | None]) -> float:
        """How much better one does than another."""
        return self.score(*mine).value - self.score(*other).value

    def scores(
        self, cases: Sequence[tuple[Build, Load | None]], calibrations: Sequence[Calibration]
    ) -> list[list[Score] | None]:
        """How well each does under each of several calibrations, two at a time; none for one that cannot be built."""

        def one(tried: tuple[Build, Load | None]) -> list[Score] | None:
            try:
                ready = self.ready(*tried)
            except InputProblem:
                return None
            return [self.score_of(*tried, ready.run(factors)) for factors in calibrations]

        return two_at_a_time(one, cases)

    def doubtful(self) -> list[Calibration]:
        """The calibration itself, and it with each doubtful parameter moved by its spread."""
        return list(self.doubtful_by_name().values())

    def doubtful_by_name(self) -> dict[str, Calibration]:
        """The same by the parameter that was moved; the calibration itself, without a name, comes first."""
        own = self.case.calibration
        moved = {"": own}
        for parameter in kind_of(self.build).doubtful(self.build):
            if parameter.moves_advice:
                factor = own.of(parameter.name) * float(np.exp(parameter.prior))
                moved[parameter.name] = own.with_factor(parameter.name, factor)
        return moved

    def put_in_s(self) -> float:
        """Instant at which the load goes in on the first day, seconds since 1970."""
        assert self.load is not None
        return put_in_s(self.case.site, self.load, self.weather)


def put_in_s(site: Site, load: Load, weather: Weather) -> float:
    """Instant at which a load goes in on a run's first day, seconds since 1970."""
    return instant_s(site.zone, local_day(site.zone, weather.start_s), load.first_in)


def score_of(site: Site, build: Build, load: Load | None, run: Run, way: Way[Load] | None = None) -> Score:
    """One number for a run, by the load's usual way to count where no other is given; without a load the hottest of what would get hottest."""
    if load is None:
        peak = float(np.nanmax(run.temperature_c[kind_of(build).stagnation_node(build)]))
        return Score(peak, None, peak)
    series, begun = run.temperature_c[load.judged], put_in_s(site, load, run.weather)
    row = outcome_of(load)
    when = reached(run.edge_s, series, load.wanted_where(run.boils_c).celsius) if row.counts_minutes else None
    peak = float(np.nanmax(series))
    value = (row.score if way is None else way.score)(load, run, begun)
    return Score(peak if value is None else value, None if when is None else (when - begun) / 60.0, peak)


def doubt_of(gains: Sequence[float], measure: Measure) -> float:
    """Doubt of a gain: how it moves with each doubtful parameter, what materials leave open, and the rays' noise."""
    moved = np.array(gains[1:]) - gains[0]
    return float(np.sqrt((moved**2).sum() + (PROPERTY_SHARE * gains[0]) ** 2 + measure.ray_noise**2))
