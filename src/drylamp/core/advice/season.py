"""A build's year on its place: heat by month and hour, how often it gets done, first and last useful day, and what that is worth.

Each month is told by a few days that could equally well be in its middle (spells of days for what stays over nights). Useful is what the
ledger counts as that; what it saves is that heat by another way, whose share of loss is from memory (``builds.common.house.use.BETTER``).
"""

from __future__ import annotations

import calendar
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, timedelta
from functools import lru_cache

import numpy as np
from pydantic import Field

from drylamp.core.advice.made_of import made_of
from drylamp.core.advice.meal import days_taken, has_chances
from drylamp.core.arrays import Array
from drylamp.core.builds.common.house.sheet import House
from drylamp.core.builds.common.house.use import BETTER, INSTEAD, Use
from drylamp.core.builds.common.pile.sheet import Salvaged
from drylamp.core.builds.registry import kind_of
from drylamp.core.checks import Fraction, Model, YesNo, require
from drylamp.core.loads.load import Load
from drylamp.core.long import Long, Step
from drylamp.core.sky.clock import local_time
from drylamp.core.sky.of_span import likely_weather_of, weather_of
from drylamp.core.sky.site import Site
from drylamp.core.sky.weather import Span, Weather
from drylamp.core.text import Sentence, amount, month_name
from drylamp.core.threads import two_at_a_time
from drylamp.core.twin.case import Case, climate_day
from drylamp.core.twin.prepared import prepare
from drylamp.core.twin.run import Run

SEED, MIDDLE, STEP_S = 3100, 14, 300
DAYS, SPELLS = 1, 4
"""Days of a spell, and how many spells a month is told by, of what goes in anew each day."""
LONG_DAYS, LONG_SPELLS = 6, 2
"""The same of what stays over nights."""
USEFUL_CHANCE = 0.5
WEEK, YEAR_DAYS = 7.0, 365.0


class SeasonMonth(Model):
    """One month.

    Attributes:
        useful_w: mean of each hour of the day, 24 of them
        celsius: of what is judged, or gets hottest, mean of each hour
        day_kwh, low_kwh, high_kwh: useful heat of a day, the mean, and the least and most of the days that were run
        chance: that a day, or a spell, gets it done; none where nothing is in it
        goes: how often it gets done in the month, used as often as is said
    """

    month: int = Field(ge=1, le=12)
    useful_w: list[float]
    celsius: list[float]
    day_kwh: float
    low_kwh: float
    high_kwh: float
    chance: Fraction | None
    goes: float | None


class Against(Model):
    """What the year's heat would cost another way: saved a year, and years until what was spent is won back; none where it never is."""

    title: Sentence
    is_chosen: YesNo
    saved: float
    low: float
    high: float
    payback_years: float | None
    payback_low: float | None
    payback_high: float | None


class WholeYear(Model):
    """A year of a build at its place.

    Attributes:
        months: January to December, as far as they are worked out
        first_day, last_day: between which it gets done on most days; none where it never does
        year_kwh, low_kwh, high_kwh: useful heat in a year, used as often as is said
        goes: how often it gets done
        spent, running: what it has cost, and costs a year
        against: other ways, the chosen one first
    """

    place: str
    months: list[SeasonMonth]
    first_day: date | None
    last_day: date | None
    year_kwh: float
    low_kwh: float
    high_kwh: float
    goes: float | None
    spent: float
    running: float
    against: list[Against]
    words: list[Sentence]


@dataclass(frozen=True)
class Household:
    """What is told of house, use and pile."""

    house: House
    use: Use
    pile: Sequence[Salvaged] = ()

    @property
    def key(self) -> str:
        """Text that two share only when they are alike."""
        return " ".join(one.model_dump_json() for one in (self.house, self.use, *self.pile))


def whole_year(case: Case, home: Household) -> Long[WholeYear]:
    """Work a year out, month by month.

    Raises
    ------
    InputProblem
        the load does not fit the build.
    """
    months = list[SeasonMonth]()
    for month in range(1, 13):
        months.append(_month(case, month, home.use))
        yield Step(month / 12.0, _season(case, home, months))


def _spells(case: Case, month: int) -> list[Weather]:
    days, count = _looked(case.load)
    span = Span(start=date(case.span.start.year, month, MIDDLE), days=days, step_s=STEP_S)
    if not has_chances(case.site):
        return [weather_of(case.site, climate_day(case.site, span.start), span)]
    return [_spell(case.site.model_dump_json(), span.start, days, k) for k in range(count)]


@lru_cache(maxsize=192)
def _spell(site_json: str, start: date, days: int, member: int) -> Weather:
    """One is made once for all builds of a place."""
    site, span = Site.model_validate_json(site_json), Span(start=start, days=days, step_s=STEP_S)
    return likely_weather_of(site, span, SEED, member)


def _looked(load: Load | None) -> tuple[int, int]:
    """Days of a spell, and how many of them."""
    return (DAYS, SPELLS) if load is None or load.calendar.daily else (LONG_DAYS, LONG_SPELLS)


def _month(case: Case, month: int, use: Use) -> SeasonMonth:
    fresh = None if case.load is None else case.load.afresh()
    there = case.with_(load=fresh)
    runs = two_at_a_time(lambda weather: prepare(there, weather).run(), _spells(case, month))
    account, days = kind_of(case.build).useful_account, _looked(fresh)[0]
    useful = [useful_w(run.account_w[account], fresh) for run in runs]
    kwh = [
        max(float(watts.sum()), 0.0) * run.weather.dt_s / 3.6e6 / days for watts, run in zip(useful, runs, strict=True)
    ]
    judged = kind_of(case.build).stagnation_node(case.build) if fresh is None else fresh.judged
    taken = [] if fresh is None or fresh.calendar.for_weeks else [days_taken(run, fresh, case.site) for run in runs]
    chance = sum(one is not None for one in taken) / len(taken) if taken else None
    return SeasonMonth(
        month=month, useful_w=_by_hour(case, useful, runs), celsius=_by_hour(case, [run.temperature_c[judged][:-1] for run in runs], runs), day_kwh=float(np.mean(kwh)),
        low_kwh=min(kwh), high_kwh=max(kwh), chance=chance, goes=None if chance is None else _goes(case, month, taken, chance, use),
    )  # fmt: skip


def useful_w(watts: Array, load: Load | None) -> Array:
    """Heat that goes into what is wanted; of what stays over nights, less what leaves it again."""
    return watts if load is not None and load.calendar.stands else np.asarray(watts.clip(min=0.0))


def _goes(case: Case, month: int, taken: Sequence[float | None], chance: float, use: Use) -> float:
    """Of what goes in anew each day as often as it is used and the sun allows; else one after the other."""
    length = calendar.monthrange(case.span.start.year, month)[1]
    if case.load is not None and case.load.calendar.daily:
        return length * chance * use.week_days / WEEK
    done = [one for one in taken if one is not None]
    return 0.0 if not done else length * use.week_days / WEEK / max(float(np.mean(done)), 1.0) * chance


def _by_hour(case: Case, series: Sequence[Array], runs: Sequence[Run]) -> list[float]:
    """Mean of each local hour over all runs; 0 where what is judged was not in."""
    total, count = np.zeros(24), np.zeros(24)
    for values, run in zip(series, runs, strict=True):
        noon = local_time(case.site.zone, float(run.edge_s[len(values) // 2])).utcoffset() or timedelta()
        hours = ((run.edge_s[: len(values)] + noon.total_seconds()) % 86400.0 // 3600.0).astype(int)
        known = ~np.isnan(values)
        np.add.at(total, hours[known], values[known])
        np.add.at(count, hours[known], 1.0)
    return [round(float(value), 1) for value in np.divide(total, count, out=np.zeros(24), where=count > 0.0)]


def _season(case: Case, home: Household, months: Sequence[SeasonMonth]) -> WholeYear:
    use, share = home.use, home.use.week_days / WEEK
    year = case.span.start.year
    kwh, low, high = (
        share * sum(getattr(one, name) * calendar.monthrange(year, one.month)[1] for one in months)
        for name in ("day_kwh", "low_kwh", "high_kwh")
    )
    goes = None if any(one.goes is None for one in months) else sum(one.goes or 0.0 for one in months)
    first, last = _useful_days(year, months) if len(months) == 12 else (None, None)
    made = made_of(case.build, home.pile)
    spent = (made.pile.buy if use.spent_price is None else use.spent_price) + made.hours * home.house.hour_price
    running = use.upkeep_price + _bought_kwh(case, share) * home.house.electricity_price
    against = [_against(home, name, (kwh, low, high), spent, running) for name in BETTER]
    against.sort(key=lambda one: not one.is_chosen)
    if use.bought_price > 0.0:
        against.append(_bought(use, spent))
    found = WholeYear(
        place=case.site.name, months=list(months), first_day=first, last_day=last, year_kwh=round(kwh, 2), low_kwh=round(low, 2), high_kwh=round(high, 2), goes=None if goes is None else round(goes, 1),
        spent=round(spent, 2), running=round(running, 2), against=against, words=[],
    )  # fmt: skip
    return found.model_copy(update={"words": _words(found) if len(months) == 12 else []})


FAN_HOURS = 8.0
"""A day that something on the mains runs; from memory."""


def _bought_kwh(case: Case, share: float) -> float:
    """Electricity from the mains in a year."""
    return case.build.bought_w / 1000.0 * FAN_HOURS * YEAR_DAYS * share


def _against(home: Household, name: str, kwh: tuple[float, float, float], spent: float, running: float) -> Against:
    price = {"electricity": home.house.electricity_price, "gas": home.house.gas_price, "wood": home.house.wood_price}[
        name
    ] / BETTER[name]  # type: ignore[index]
    saved, low, high = (one * price - running for one in kwh)
    back, soon, late = (spent / one if one > 0.0 else None for one in (saved, high, low))
    return Against(
        title=f"against {INSTEAD[name]}", is_chosen=home.use.instead == name, saved=round(saved, 2), low=round(low, 2), high=round(high, 2),
        payback_years=_years(back), payback_low=_years(soon), payback_high=_years(late),
    )  # fmt: skip


def _years(value: float | None) -> float | None:
    return None if value is None else round(value, 1)


def _bought(use: Use, spent: float) -> Against:
    """A bought one is cheaper or dearer at once; spread over the years that it lasts."""
    saved = (use.bought_price - spent) / use.lasts_years
    return Against(title="against a bought one, over its years", is_chosen=False, saved=round(saved, 2), low=round(saved, 2), high=round(saved, 2), payback_years=0.0 if saved > 0.0 else None, payback_low=0.0 if saved > 0.0 else None, payback_high=0.0 if saved > 0.0 else None)  # fmt: skip


def _useful_days(year: int, months: Sequence[SeasonMonth]) -> tuple[date | None, date | None]:
    """Between which a day gets it done more often than not, read between mid-months; a season that goes over New Year begins in the old year."""
    chances = [one.chance or 0.0 for one in months]
    if any(one.chance is None for one in months) or max(chances) < USEFUL_CHANCE:
        return None, None
    if min(chances) >= USEFUL_CHANCE:
        return date(year, 1, 1), date(year, 12, 31)
    best = int(np.argmax(chances))
    return _crossed(year, chances, best, -1), _crossed(year, chances, best, 1)


def _crossed(year: int, chances: Sequence[float], best: int, way: int) -> date:
    """The day on which the chance passes a half, from the best month on, one way."""
    k = best
    while chances[(k + way) % 12] >= USEFUL_CHANCE:
        k += way
    here, there = chances[k % 12], chances[(k + way) % 12]
    share = (here - USEFUL_CHANCE) / (here - there)
    mid = date(year, k % 12 + 1, MIDDLE)
    moved = mid + timedelta(days=round(way * share * 30.4))
    return date(year, moved.month, min(moved.day, 28) if moved.month == 2 else moved.day)


def _words(found: WholeYear) -> list[Sentence]:
    out = [
        f"{amount(found.year_kwh, 'energy')} of useful heat in a year ({amount(found.low_kwh, 'energy')} to {amount(found.high_kwh, 'energy')} by its days)."
    ]
    if found.goes is not None:
        out.append(f"It gets done some {found.goes:.0f} times.")
    if found.first_day is not None and found.last_day is not None:
        out.append(
            f"Most days are good from {found.first_day.day} {month_name(found.first_day.month)} to {found.last_day.day} {month_name(found.last_day.month)}."
        )
    chosen = found.against[0]
    if chosen.payback_years is None:
        return [
            *out,
            f"At these prices it saves nothing {chosen.title}: {amount(found.running, 'price')} a year of its own is more than the heat is worth.",
        ]
    ends = (
        ""
        if chosen.payback_low is None or chosen.payback_high is None
        else f" ({chosen.payback_low:g} to {chosen.payback_high:g})"
    )
    return [
        *out,
        f"It saves {amount(chosen.saved, 'price')} a year {chosen.title}, its upkeep counted off; {amount(found.spent, 'price')} are won back in {chosen.payback_years:g} years{ends}.",
    ]


class TwoPlaces(Model):
    """A build's year here and there."""

    here: WholeYear
    there: WholeYear
    words: list[Sentence]


def two_places(here: WholeYear, there: WholeYear) -> TwoPlaces:
    """Hold two years side by side: heat, how often it gets done, its season."""
    require(len(here.months) == len(there.months), "months", "one year is not whole yet")
    more = there.year_kwh - here.year_kwh
    said = [
        f"{there.place} gives {amount(abs(more), 'energy')} {'more' if more > 0 else 'less'} in a year than {here.place}."
    ]
    if here.goes is not None and there.goes is not None:
        said.append(f"It gets done some {there.goes:.0f} times there, {here.goes:.0f} here.")
    best = [max(place.months, key=lambda one: one.day_kwh).month for place in (here, there)]
    if best[0] != best[1]:
        said.append(f"Its best month is {month_name(best[1])} there, {month_name(best[0])} here.")
    return TwoPlaces(here=here, there=there, words=said)
