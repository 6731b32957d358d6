"""A charge run over days as they usually come, until it is dry."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass, replace
from datetime import date, datetime, timedelta

from drylamp.core.advice.context import AdviceContext
from drylamp.core.advice.entries import YearAsked
from drylamp.core.advice.lumber import Level
from drylamp.core.arrays import Array
from drylamp.core.kept import Kept
from drylamp.core.loads.lumber.outcome import (
    GroupResult,
    KilnDay,
    LumberResult,
    LumberResults,
    all_kept,
    dry_edge,
    results,
)
from drylamp.core.loads.lumber.spec import DRYING, PRIOR_SD, LumberCharge
from drylamp.core.sky.clock import local_time
from drylamp.core.sky.of_span import spells, usual_weather_of
from drylamp.core.sky.weather import Span, Weather
from drylamp.core.twin.case import Case
from drylamp.core.twin.prepared import simulate
from drylamp.core.twin.run import Run
from drylamp.core.twin.stood import left_of

STEP_S = 300
HORIZONS = (60, 120, 210)
"""Days that are looked ahead first, and where that is not enough."""
LONG_DAYS = HORIZONS[-1]
HALF_WAY = 0.6
"""Of the water that has to go, what has to be gone for the next of them to be tried before the last: the last of it goes slowest."""
AFTER_DAYS = 7
"""Shown after all of it is dry."""
MEMBERS, SEED, USUAL_SEED = 6, 23, 41
FORTNIGHT, SOON_DAYS = 14, 0.5


@dataclass(frozen=True)
class Dried:
    """A charge over some days."""

    case: Case
    run: Run
    result: LumberResult

    @property
    def days(self) -> float | None:
        """Until the last group is dry; none where it is not."""
        if self.result.done_at is None:
            return None
        return (self.result.done_at - min(group.went_in for group in self.result.groups)).total_seconds() / 86400.0

    @property
    def shown_until(self) -> datetime:
        """A week after all of it is dry, or the end."""
        done, end = self.result.done_at, self.result.times[-1]
        return end if done is None else min(done + timedelta(days=AFTER_DAYS), end)

    @property
    def days_shown(self) -> list[KilnDay]:
        """Days until then."""
        return [day for day in self.result.days if day.day <= self.shown_until.date()]

    @property
    def loss_share(self) -> float | None:
        """The largest loss of a day by the safe rate, of all groups that have one."""
        return worst_of(self.result.groups)

    @property
    def checks(self) -> Level:
        """How near the nearest group is to checking."""
        return riskiest([group.checks for group in self.result.groups])


def worst_of(groups: Sequence[GroupResult]) -> float | None:
    """The largest loss of a day by the safe rate."""
    return max(
        (share for group in groups if (share := group.safe_share) is not None),
        default=None,
    )


def riskiest(levels: Sequence[Level]) -> Level:
    """The worst of several."""
    order: tuple[Level, ...] = ("none", "watch", "high")
    return max(levels, key=order.index, default="none")


def first_day(context: AdviceContext) -> date:
    """Day that is looked at."""
    return local_time(context.case.site.zone, context.weather.start_s).date()


def usual_weather(
    case: Case, first: date, days: int, seed: int = USUAL_SEED, lead: Weather | None = None
) -> tuple[Case, Weather]:
    """A case over days as they usually come, or as they are foretold as far as somebody foretells them."""
    span = Span(start=first, days=days, step_s=STEP_S)
    key = f"{case.site.model_dump_json()} {first} {days} {seed}"
    whole = _SEASONS.get(key, lambda: usual_weather_of(case.site, span, seed))
    return case.with_(span=span), whole if lead is None else laid_over(whole, lead)


def laid_over(usual: Weather, lead: Weather) -> Weather:
    """Usual weather with what is known of some of its days in their place; both by the same steps."""
    at = round((lead.start_s - usual.start_s) / usual.dt_s)
    here = slice(max(at, 0), min(at + lead.steps, usual.steps))
    there = slice(here.start - at, here.stop - at)
    if lead.dt_s != usual.dt_s or here.start >= here.stop:
        return usual

    def with_lead(values: Array, known: Array) -> Array:
        out = values.copy()
        out[here] = known[there]
        return out

    return replace(
        usual, ghi_w_m2=with_lead(usual.ghi_w_m2, lead.ghi_w_m2), dni_w_m2=with_lead(usual.dni_w_m2, lead.dni_w_m2), dhi_w_m2=with_lead(usual.dhi_w_m2, lead.dhi_w_m2),
        air_c=with_lead(usual.air_c, lead.air_c), rh=with_lead(usual.rh, lead.rh), wind_m_s=with_lead(usual.wind_m_s, lead.wind_m_s), origin=f"{lead.origin}; then usual days",
    )  # fmt: skip


def foretold(context: AdviceContext) -> Weather | None:
    """Weather that somebody brought for the days ahead; none where it is only the season's."""
    return None if context.case.weather.kind == "clear-day" else context.weather


_SEASONS: Kept[str, Weather] = Kept(16)
"""Two months are 1.5 MB, half a year 5."""


def dried(case: Case, weather: Weather) -> Dried:
    """Run it."""
    assert isinstance(case.load, LumberCharge)
    run = simulate(case, weather)
    found = results(case.site, case.load, run)
    assert isinstance(found, LumberResults)
    assert found.lumber is not None
    return Dried(case, run, found.lumber)


@dataclass(frozen=True)
class Season:
    """When a charge was dry in one of several seasons, and nothing else of it.

    Attributes:
        by_group: days from going in until each group is at its target; none where it is not by the end
        days: from the first going in until all of it is
    """

    by_group: list[float | None]
    days: float | None


def dry_in(case: Case, weather: Weather) -> Season:
    """Run it, and ask only when it is dry."""
    assert isinstance(case.load, LumberCharge)
    run, by_group, all_s = simulate(case, weather), list[float | None](), list[float]()
    kept = all_kept(case.load, run)
    for one in kept:
        edge = dry_edge(one)
        by_group.append(None if edge is None else (edge - one.first) * weather.dt_s / 86400.0)
        all_s.append(math.inf if edge is None else float(run.edge_s[edge]))
    began = min((float(run.edge_s[one.first]) for one in kept), default=0.0)
    last = max(all_s, default=math.inf)
    return Season(by_group, (last - began) / 86400.0 if math.isfinite(last) else None)


def until_dry_by_chance(context: AdviceContext, load: LumberCharge) -> YearAsked:
    """Days until all of a charge is dry, in one of many made-up seasons with boards that differ as trees do."""
    first = first_day(context)

    def member(year: int) -> float | None:
        case = _drying_as(context.case, (37 * year + MOST_MEMBERS // 2) % MOST_MEMBERS, MOST_MEMBERS)
        for days in HORIZONS:
            span = Span(start=first, days=days, step_s=STEP_S)
            found = dry_in(case.with_(span=span), context.years.spell(span, year, YEARS_SEED)).days
            if found is not None:
                return found
        return None

    return YearAsked(f"days until all of it is dry, from {first:%d %B}", "count", member)


MOST_MEMBERS, YEARS_SEED = 200, 900
LONGEST_DAYS, SPELL_DAYS = 330, 30
NEVER_DAYS = 400.0
"""What is not dry within the longest look is counted as this where days are compared or summed."""


def days_to_dry(case: Case, start: date, seed: int = USUAL_SEED) -> float | None:
    """Days from a start until a charge of one group is dry in usual weather, month by month, each going on from the last; none where it is not within eleven of them."""
    load, gone = case.load, 0.0
    assert isinstance(load, LumberCharge)
    for span, weather in spells(case.site, start, start + timedelta(days=LONGEST_DAYS), seed, SPELL_DAYS):
        run = simulate(case.with_(span=span, load=load), weather)
        kept = all_kept(load, run)[0]
        edge = dry_edge(kept)
        if edge is not None:
            return gone + (edge - (0 if gone else kept.first)) * weather.dt_s / 86400.0
        gone += (run.edge_s[-1] - run.edge_s[0 if gone else kept.first]) / 86400.0
        load = load.left_by(left_of(run), span.start + timedelta(days=span.days))
    return None


def or_longest(days: float | None) -> float:
    """Days until it is dry, of what never is more than the longest look."""
    return NEVER_DAYS if days is None else days


def until_dry(case: Case, first: date, seed: int = USUAL_SEED, lead: Weather | None = None) -> Dried:
    """For two months, and longer where that is not enough, or something goes in later."""
    load = case.load
    assert isinstance(load, LumberCharge)
    last = max((day for group in load.groups for day in (group.in_on, group.out_on) if day is not None), default=first)
    found = dried(*usual_weather(case, first, HORIZONS[0], seed, lead))
    for days in HORIZONS[1:]:
        if found.result.done_at is not None and (last - first).days < round(found.run.weather.steps * STEP_S / 86400.0):
            break
        if days == LONG_DAYS or _on_its_way(found):
            found = dried(*usual_weather(case, first, days, seed, lead))
    return found


def _on_its_way(found: Dried) -> bool:
    """Whether every group is so far that twice the time may do."""
    return all(
        group.start_mc - group.end_mc >= HALF_WAY * (group.start_mc - group.target_mc) for group in found.result.groups
    )


def as_doubtful(case: Case, member: int) -> Case:
    """The same with wood that dries faster or slower than its species, as far as trees differ: members spread evenly over the chances, in no order."""
    return _drying_as(case, (5 * member + 2) % MEMBERS, MEMBERS)


def _drying_as(case: Case, place: int, of: int) -> Case:
    """The same with wood that dries as that of one place among so many trees, from the slowest."""
    from scipy.special import ndtri  # slow to import, and only this asks for it

    factor = math.exp(PRIOR_SD * float(ndtri((place + 0.5) / of)))
    return case.with_(calibration=case.calibration.with_factor(DRYING, case.calibration.of(DRYING) * factor))
