"""What a load says of a run it was in: when it was done, how well it did, what became of it, and the steps of its day.

Adding a load is adding a folder whose ``outcome.OUTCOME`` is such a row; the registry finds it.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from datetime import date, datetime
from typing import TYPE_CHECKING, Generic, Literal, TypeVar

import numpy as np

from drylamp.core.arrays import Array
from drylamp.core.checks import Model
from drylamp.core.loads.load import Load
from drylamp.core.sky.site import Site
from drylamp.core.text import Sentence, amount
from drylamp.core.twin.run import Run

if TYPE_CHECKING:
    from drylamp.core.outcome.summary import Outcome

ScoreQuantity = Literal["difference", "mass_rate", "mass", "volume", "energy", "hours", "power", "minutes"]
L = TypeVar("L", bound=Load)
HELD_SLACK_K = 1.0
"""Holding a temperature allows for the thermometer: this much below still counts."""
JUDGED_HOURS = 4.0
"""A load is judged by how warm it is over so long after it went in, or by the heat that it takes up in that time where it stands at boiling in it."""
MEAN_WORDS = f"mean temperature over the {JUDGED_HOURS:.0f} hours after it goes in"


class PlanStep(Model):
    """One thing to do at a time."""

    time: datetime
    text: Sentence


@dataclass(frozen=True)
class Measure:
    """What a score is counted in.

    Attributes:
        quantity: what it is a quantity of
        ray_noise: what the rays alone leave open of a score
        least_worth: an effect under this, or under its own doubt where that is larger, is called nothing; from memory
        small: how far behind the best still counts as good enough
    """

    quantity: ScoreQuantity
    ray_noise: float
    least_worth: float
    small: float

    def worth(self, doubt: float) -> float:
        """Smallest effect that is called one: its doubt, or the least that is worth speaking of where that is larger."""
        return max(self.least_worth, doubt)

    def signed(self, value: float) -> str:
        """A difference with its sign and unit."""
        return amount(value, self.quantity, signed=True)

    def said(self, value: float, doubt: float | None = None, *, signed: bool = False) -> str:
        """A difference, its doubt beside it."""
        return amount(value, self.quantity, doubt, signed=signed)


KELVIN = Measure("difference", 0.2, 0.5, 1.0)
HEAT = Measure("power", 0.5, 2.0, 5.0)
KG_AN_HOUR = Measure("mass_rate", 0.003, 0.01, 0.02)


class NoResults(Model):
    """Nothing in particular became of it."""


def moment(outcome: Outcome, hour: str) -> datetime:
    """An hour of an outcome's first day."""
    hours, minutes = (int(part) for part in hour.split(":"))
    return outcome.times[0].replace(hour=hours, minute=minutes, second=0, microsecond=0)


def reached(time_s: Array, series_c: Array, target_c: float) -> float | None:
    """First instant at which a rising series meets the target, between samples by a straight line."""
    above = series_c >= target_c
    if not above.any():
        return None
    i = int(np.argmax(above))
    if i == 0 or np.isnan(series_c[i - 1]):
        return float(time_s[i])
    share = (target_c - series_c[i - 1]) / (series_c[i] - series_c[i - 1])
    return float(time_s[i - 1] + share * (time_s[i] - time_s[i - 1]))


def held_at(load: Load, run: Run) -> float | None:
    """When a load has been at its target for as long as it wants, seconds since 1970; none when it never is."""
    series, wanted = run.temperature_c[load.judged], load.wanted_where(run.boils_c)
    when = reached(run.edge_s, series, wanted.celsius)
    if when is None:
        return None
    with np.errstate(invalid="ignore"):
        held = np.cumsum(series >= wanted.celsius - HELD_SLACK_K) * run.weather.dt_s / 60.0
    after = held >= wanted.minutes
    return max(when, float(run.edge_s[int(np.argmax(after))])) if after.any() else None


def mean_rise(nodes: list[str], run: Run, begun_s: float) -> float | None:
    """Mean temperature of nodes over the hours after they went in, °C; none while none of them is in."""
    window = (run.edge_s >= begun_s) & (run.edge_s <= begun_s + 3600.0 * JUDGED_HOURS)
    series = [run.temperature_c[node][window] for node in nodes]
    means = [float(np.nanmean(values)) for values in series if not np.isnan(values).all()]
    return float(np.mean(means)) if means else None


def mean_of_judged(load: Load, run: Run, begun_s: float) -> float | None:
    """The score of what has one node to look at."""
    return mean_rise([load.judged], run, begun_s)


@dataclass(frozen=True)
class Way(Generic[L]):
    """A way to count how well a load did.

    Attributes:
        measure: what it is counted in
        counts: what it counts, in words
        score: the number, from the load, its run and the instant at which it went in; none where it was never in
        applies: whether it is the one to count by, where a run went as this one did
    """

    measure: Measure
    counts: str
    score: Callable[[L, Run, float], float | None]
    applies: Callable[[L, Run, float], bool]


@dataclass(frozen=True)
class Held:
    """How a day went for what is judged: whether it met its target, for how many minutes, and the day's edges."""

    reached: bool
    minutes: float
    edges: np.ndarray


def held_long_enough(load: Load, run: Run, day: Held) -> bool:
    """Enough is: at its target, for as long as it wants."""
    return day.reached and day.minutes >= load.wanted_where(run.boils_c).minutes


def nothing(site: Site, load: Load, run: Run) -> Model:
    """No results of its own."""
    return NoResults()


@dataclass(frozen=True)
class Headline:
    """What became of a load, in a sentence and in three words."""

    said: str
    brief: str


def no_headline(results: Model) -> Headline | None:
    """Its temperature says it."""
    return None


@dataclass(frozen=True)
class Stand:
    """Where a load stands at the end of a day of several: in two or three words, and whether it is what was wanted."""

    words: str
    done: bool


def no_sizes(load: Load) -> list[Load]:
    """No other sizes."""
    return []


@dataclass(frozen=True)
class LoadOutcome(Generic[L]):
    """What a load says of a run.

    Attributes:
        measure, counts: what its score is counted in, and what that counts, in words
        ways: other ways to count, the first of them that applies going before
        too_long: whether it stays lukewarm for longer than is safe
        short: what is missing where it did not work on a day; empty where it did
        results_model, results: what became of it, as part of the wire's ``Results``, and how that is read off a run
        headline: what became of it in a sentence and in three words, where that says more than a temperature
        score: how well it did, in the measure; none where it was never in
        enough: whether a day was enough for it
        done_at: when it was done, seconds since 1970; none when it never is
        steps: the steps of its day, from the words for getting ready on, without turning
        turned_until: when turning to the sun ends before the last step, as once it is covered
        daily: what each day came to, in a few words, where that says more than a peak
        stands: where it stands at the end of each day of several; none where each day is a day of its own
        sizes: other sizes of the same, for planning
        counts_minutes: whether one asks how soon it gets to its temperature
        clean_kg: kilograms that a day gave, where it is counted in kilograms
        otherwise: what to do when it will not be ready
    """

    measure: Measure
    steps: Callable[[L, Outcome, str], list[PlanStep]]
    results_model: type[Model] = NoResults
    results: Callable[[Site, L, Run], Model] = nothing
    headline: Callable[[Model], Headline | None] = no_headline
    score: Callable[[L, Run, float], float | None] = mean_of_judged
    enough: Callable[[L, Run, Held], bool] = held_long_enough
    done_at: Callable[[L, Run], float | None] = held_at
    turned_until: Callable[[L, Outcome], datetime | None] = lambda load, outcome: None
    daily: Callable[[Model], dict[date, str]] = lambda results: {}
    stands: Callable[[Model], dict[date, Stand]] | None = None
    sizes: Callable[[L], list[L]] = no_sizes  # type: ignore[assignment]
    counts_minutes: bool = True
    clean_kg: Callable[[L, Run], float] | None = None
    otherwise: str = "Have another fire ready."
    counts: str = MEAN_WORDS
    ways: tuple[Way[L], ...] = ()
    short: Callable[[L, Run], str] = lambda load, run: ""
    too_long: Callable[[L, Run, Site], bool] = lambda load, run, site: False

    @property
    def usual(self) -> Way[L]:
        """How to count where no other way applies."""
        return Way(self.measure, self.counts, self.score, lambda load, run, begun_s: True)

    def way(self, load: L, run: Run, begun_s: float) -> Way[L]:
        """How to count, going by how a run went."""
        return next((way for way in self.ways if way.applies(load, run, begun_s)), self.usual)
