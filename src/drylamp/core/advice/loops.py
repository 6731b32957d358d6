"""What is asked of loops beside their day: when to start, hours by season, the season they win, nights, and what else would do it."""

from __future__ import annotations

from datetime import date, datetime

from drylamp.core.checks import Model
from drylamp.core.outcome.of_load import ScoreQuantity
from drylamp.core.text import Sentence


class StartFor(Model):
    """An evening, how warm it is then if the loop runs from the first day on, and when it has to start at the latest; none: too late."""

    evening: datetime
    warmest_c: float
    latest: datetime | None


class ReadyBy(Model):
    """When to start for which evening."""

    warm_c: float
    days_to_warm: float | None
    evenings: list[StartFor]
    words: Sentence


class TimerMonth(Model):
    """The best hours of a pump in a month, and what they bring beside a switch by two temperatures and the hours now, in the load's measure."""

    month: int
    begins: str
    ends: str
    best: float
    now: float
    switched: float


class TimerYear(Model):
    """Hours by the month."""

    quantity: ScoreQuantity
    months: list[TimerMonth]
    words: Sentence


class SeasonMonth(Model):
    """Days of a month on which the water is warm enough, without the loop and with it, over several made-up years."""

    month: int
    without: float
    with_loop: float


class SeasonOf(Model):
    """So much to heat it with, the days that are warm enough, and the electricity for them."""

    title: Sentence
    days: float
    least: float
    most: float
    pump_kwh: float


class SeasonWon(Model):
    """A season with and without the loop.

    Attributes:
        set_out, stow: between which days it wins one at all; none where it never does
        sizes: as it is, and with more to heat it
    """

    warm_c: float
    years: int
    months: list[SeasonMonth]
    without_days: float
    set_out: date | None
    stow: date | None
    sizes: list[SeasonOf]
    words: Sentence


class Enough(Model):
    """So much to heat it with, and how much warmer the water is for it at the end of the weeks, on the mean and by the year; electricity for all of them."""

    title: Sentence
    warmer_k: float
    least_k: float
    most_k: float
    pump_kwh: float


class HowMany(Model):
    """How much to heat it with it takes to be so much warmer after so many weeks.

    Attributes:
        needed: number of the line that is enough; none: not even the last
    """

    rise_k: float
    weeks: int
    lines: list[Enough]
    needed: int | None
    words: Sentence


class NightLine(Model):
    """A way to spend the night, and what it sheds by morning."""

    title: Sentence
    evening_c: float
    morning_c: float
    shed_k: float


class NightCooling(Model):
    """Ways to cool it by night."""

    lines: list[NightLine]
    words: Sentence


class Instead(Model):
    """The same heat from a heater.

    Attributes:
        heat_kwh, pump_kwh: of the loop on the day
        heater_h: how long the heater takes for as much
        saved: money between both
        boils_h: how long the heater takes to bring all of it to boiling
    """

    heat_kwh: float
    pump_kwh: float
    heater_h: float
    saved: float
    boils_h: float
    words: Sentence
