"""What is asked of a charge of boards."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, datetime, timedelta
from itertools import pairwise

import numpy as np

from drylamp.core.advice.context import AdviceContext
from drylamp.core.advice.lumber import (
    ChargeAhead,
    ChargeDay,
    ChargeSize,
    ChargeSizes,
    GroupChance,
    KilnLink,
    KilnLinks,
    Level,
    SawLine,
    SawSizes,
    TodayOption,
    TodayOptions,
    WeekSetting,
    WeekSettings,
)
from drylamp.core.builds.build import Build
from drylamp.core.checks import InputProblem
from drylamp.core.heat.cells import WIDTHS
from drylamp.core.kept import Kept
from drylamp.core.loads.common.stacked import CHAMBER
from drylamp.core.loads.common.wood import equilibrium_mc
from drylamp.core.loads.lumber.outcome import (
    GroupResult,
    KilnDay,
    LumberResult,
    LumberResults,
    chamber_rh,
    percent,
    results,
)
from drylamp.core.loads.lumber.quality import saw_for
from drylamp.core.loads.lumber.spec import DRYING, PRIOR_SD, LumberCharge
from drylamp.core.sky.clock import local_time
from drylamp.core.sky.generator import made_up_weather
from drylamp.core.sky.of_span import weather_of
from drylamp.core.sky.weather import Span, Weather
from drylamp.core.text import amount, celsius, counted, kelvin, kilograms
from drylamp.core.threads import two_at_a_time
from drylamp.core.twin.case import Case
from drylamp.core.twin.prepared import simulate
from drylamp.core.twin.run import Run

STEP_S = 300
HORIZONS = (60, 120, 210)
"""Days that are looked ahead first, and where that is not enough."""
LONG_DAYS = HORIZONS[-1]
AFTER_DAYS = 7
"""Shown after all of it is dry."""
MEMBERS, SEED, USUAL_SEED = 6, 23, 41
FORTNIGHT = 14
SHARES = (0.0, 0.1, 0.3, 0.6, 1.0)
"""Openings of the vents that are tried."""
MOST_WEEKS = 26
SIZES = (1 / 3, 1 / 2, 2 / 3, 1.0, 1.5, 2.0)
RULE_M3_M2 = 0.254
"""Ten board feet on a square foot of roof, common practice, no source."""
MONTH_DAYS, BETWEEN_DAYS = 30.0, 2.0
"""And days to empty and fill a kiln; common practice, no source."""
PLANED_MM, UNEVEN_MM = 4.0, 1.5
"""What planing both sides takes, and how far boards are off size and bowed; common practice, no source."""
SOON_DAYS = 0.5
CLIMBS_K = 1.0


# --- running it ---


@dataclass(frozen=True)
class _Dried:
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
    return max((group.worst_loss / group.safe_per_day for group in groups if group.worst_loss is not None and group.safe_per_day is not None), default=None)


def riskiest(levels: Sequence[Level]) -> Level:
    """The worst of several."""
    order: tuple[Level, ...] = ("none", "watch", "high")
    return max(levels, key=order.index, default="none")


def _first(context: AdviceContext) -> date:
    return local_time(context.case.site.zone, context.weather.start_s).date()


def usual_weather(case: Case, first: date, days: int, seed: int = USUAL_SEED) -> tuple[Case, Weather]:
    """A case over days as they usually come."""
    span = Span(start=first, days=days, step_s=STEP_S)
    key = f"{case.site.model_dump_json()} {first} {days} {seed}"

    def made() -> Weather:
        records = made_up_weather(case.site, first - timedelta(days=1), days + 2, seed=seed)
        return weather_of(case.site, records, span)

    return case.with_(span=span), _SEASONS.get(key, made)


_SEASONS: Kept[str, Weather] = Kept(16)
"""Two months are 1.5 MB, half a year 5."""


def _dried(case: Case, weather: Weather) -> _Dried:
    assert isinstance(case.load, LumberCharge)
    run = simulate(case, weather)
    found = results(case.site, case.load, run)
    assert isinstance(found, LumberResults)
    assert found.lumber is not None
    return _Dried(case, run, found.lumber)


def _until_dry(case: Case, first: date, seed: int = USUAL_SEED) -> _Dried:
    """For two months, and longer where that is not enough, or something goes in later."""
    load = case.load
    assert isinstance(load, LumberCharge)
    last = max((day for group in load.groups for day in (group.in_on, group.out_on) if day is not None), default=first)
    for days in HORIZONS:
        found = _dried(*usual_weather(case, first, days, seed))
        if found.result.done_at is not None and (last - first).days < days:
            break
    return found


def _as_doubtful(case: Case, member: int) -> Case:
    """The same with wood that dries faster or slower than its species, as far as trees differ: members spread evenly over the chances, in no order."""
    from scipy.special import ndtri  # slow to import, and only this asks for it

    place = (5 * member + 2) % MEMBERS
    factor = math.exp(PRIOR_SD * float(ndtri((place + 0.5) / MEMBERS)))
    return case.with_(calibration=case.calibration.with_factor(DRYING, case.calibration.of(DRYING) * factor))


# --- when it is dry ---


def charge(context: AdviceContext, load: LumberCharge) -> ChargeAhead:
    """From now to dry: in usual weather, by chance, and the stack outside beside it."""
    first = _first(context)
    usual = _until_dry(context.case, first)
    days = round(usual.run.weather.steps * STEP_S / 86400.0)
    found = two_at_a_time(lambda k: _dried(*usual_weather(_as_doubtful(context.case, k), first, days, SEED + k)), range(MEMBERS))
    empty = simulate(*_empty_day(context))
    shown = sum(time <= usual.shown_until for time in usual.result.times)
    groups = [_chance(k, group, usual, found, shown) for k, group in enumerate(usual.result.groups)]
    chance = float(np.mean([one.result.done_at is not None for one in found]))
    m2 = context.build.opening_m2
    peak = float(np.nanmax(empty.temperature_c[CHAMBER][round(86400 / STEP_S) :]))
    return ChargeAhead(
        times=usual.result.times[:shown], cell_widths=list(WIDTHS), groups=groups, days=[_day(day) for day in usual.days_shown], empty_peak_c=round(peak, 1), ahead_days=days, chance=chance, mould_hours=usual.result.mould_hours,
        m3_per_m2=load.wood_m3 / m2, pull=_pull(usual, load), beside=_beside(usual), peaks=_peaks(usual, peak), words=_words(context, usual, found, days),
    )  # fmt: skip


def _empty_day(context: AdviceContext) -> tuple[Case, Weather]:
    case, weather = context.case.with_(load=None), context.weather
    days = min(2, round(weather.steps * weather.dt_s / 86400.0))
    span = Span(start=_first(context), days=max(days, 2), step_s=STEP_S)
    source = case.weather
    return (case.with_(span=span), weather_of(case.site, source, span)) if source.kind == "clear-day" else usual_weather(case, _first(context), 2)


def _day(day: KilnDay) -> ChargeDay:
    return ChargeDay(day=day.day, peak_c=day.peak_c, low_c=day.low_c, emc=day.emc, sun_kwh_m2=day.sun_kwh_m2, water_kg=day.water_kg, dew_kg=day.dew_kg, dripped_kg=day.dripped_kg)


def _chance(k: int, group: GroupResult, usual: _Dried, found: Sequence[_Dried], shown: int) -> GroupChance:
    days = np.array([_or_never(one.result.groups[k].days) for one in found])

    def at(share: float) -> float | None:
        value = float(np.quantile(days, share, method="higher"))
        return round(value, 1) if math.isfinite(value) else None

    outside_days = None if group.outside_done_at is None else round((group.outside_done_at - group.went_in).total_seconds() / 86400.0, 1)
    then = _outside_then(group, usual)
    share = None if group.worst_loss is None or group.safe_per_day is None else round(group.worst_loss / group.safe_per_day, 3)
    return GroupChance(
        node=group.node, title=group.title, target_mc=group.target_mc, likely_days=at(0.5), early_days=at(0.1), late_days=at(0.9), chance=float(np.mean(np.isfinite(days))),
        done_at=group.done_at, meter_mc=group.meter_done_mc, mean_mc=group.mean_mc[:shown], shell_mc=group.shell_mc[:shown], core_mc=group.core_mc[:shown], outside_mc=group.outside_mc[:shown], cells_mc=group.cells_mc[:shown],
        loss_per_day=group.loss_per_day, safe_per_day=group.safe_per_day, loss_share=share, shell_stress=group.worst_shell_stress, checks=group.checks, honeycomb=group.honeycomb,
        outside_days=outside_days, outside_mc_then=then,
    )  # fmt: skip


def _outside_then(group: GroupResult, usual: _Dried) -> float | None:
    """Where the same boards outside stand when the kiln's are dry; none where those never are."""
    if group.done_at is None:
        return None
    later = [mc for time, mc in zip(usual.result.times, group.outside_mc, strict=True) if time >= group.done_at and mc is not None]
    return later[0] if later else group.outside_end_mc


def _or_never(days: float | None) -> float:
    return math.inf if days is None else days


def _words(context: AdviceContext, usual: _Dried, found: Sequence[_Dried], ahead: int) -> str:
    done = sorted(days for one in found if (days := one.days) is not None)
    if usual.days is None:
        return f"Not dry within {counted(ahead, 'day')} of usual weather: {usual.result.words} {_lowest(context, usual)}"
    first = f"Dry after {usual.days:.0f} days in usual weather, on {usual.result.done_at:%d %B}."
    if not done:
        return f"{first} In none of {len(found)} made-up seasons with boards that differ as trees do is it dry within {counted(ahead, 'day')}."
    never = len(found) - len(done)
    late = f"; in {never} of them not within {counted(ahead, 'day')}" if never else ""
    return f"{first} Over {len(found)} made-up seasons, with boards that differ as trees do: {done[0]:.0f} to {done[-1]:.0f} days{late}."


def _lowest(context: AdviceContext, usual: _Dried) -> str:
    """Whether the target can be had here at all: the driest fortnight of this kiln's air against it."""
    lowest, when = driest_fortnight(usual.run, context)
    beyond = [group for group in usual.result.groups if group.target_mc < lowest]
    if not beyond:
        return ""
    return f"{percent(beyond[0].target_mc)} is below what its air brings wood to: {percent(lowest)} in the driest fortnight, about {when:%d %B}. Take a higher target, or finish it indoors."


def driest_fortnight(run: Run, context: AdviceContext) -> tuple[float, date]:
    """The lowest EMC of the chamber over two weeks of a run, and its middle day."""
    warm, rh = run.temperature_c[CHAMBER], chamber_rh(run)
    hourly = slice(None, None, max(1, round(3600.0 / run.weather.dt_s)))
    emc = np.array([equilibrium_mc(float(t), min(float(h), 0.99)) for t, h in zip(warm[hourly], rh[hourly], strict=True)])
    wide = min(24 * FORTNIGHT, len(emc))
    mean = np.convolve(emc, np.full(wide, 1.0 / wide), mode="valid")
    at = int(np.argmin(mean))
    return float(mean[at]), local_time(context.case.site.zone, float(run.edge_s[0]) + 3600.0 * (at + wide / 2.0)).date()


def _pull(usual: _Dried, load: LumberCharge) -> str:
    """When to pull which group, and what the meter shows then."""
    dry = sorted((group for group in usual.result.groups if group.done_at is not None), key=lambda group: _or_never(group.days))
    if not dry:
        return "Nothing can be pulled by then."
    how = "a plate" if load.meter.sort == "plate" else f"pins at {100 * load.meter.depth_share:.0f} % of the thickness"
    said = "; ".join(f"{group.title} about {group.done_at:%d %B}, when {how} shows {percent(group.meter_done_mc)}" for group in dry)
    mixed = ""
    if len(usual.result.groups) > 1:
        first, last = dry[0], usual.result.groups
        waits = max(_or_never(group.days) for group in last) - _or_never(first.days)
        if waits > SOON_DAYS:
            mixed = f" {first.title[:1].upper()}{first.title[1:]} is ready {waits:.0f} days before the last: take it out by itself, or it dries on." if math.isfinite(waits) else f" {first.title[:1].upper()}{first.title[1:]} is ready long before the last: take it out by itself."
    return f"Pull {said}.{mixed} Wait a week after before you plane it."


def _beside(usual: _Dried) -> str:
    """Kiln against stack."""
    group = max(usual.result.groups, key=lambda one: _or_never(one.days))
    rain = "" if usual.result.rain else " Wetting by rain is left out."
    if group.days is None:
        times = group.end_mc / group.outside_end_mc
        return f"After that time {group.title} is at {percent(group.end_mc)}, the same boards outside at {percent(group.outside_end_mc)}: {100 * times:.0f} % of their moisture.{rain}"
    then = _outside_then(group, usual)
    assert then is not None
    never = " They do not get there in the open." if group.outside_done_at is None else f" There it takes {(group.outside_done_at - group.went_in).days} days."
    return f"When {group.title} is dry in the kiln, the same boards outside stand at {percent(then)}.{never}{rain}"


def _peaks(usual: _Dried, empty_c: float) -> str:
    """How far the wet charge pulls the daily peak down, and how it climbs back."""
    days = usual.days_shown
    early = max((day.peak_c for day in days[1:5]), default=days[0].peak_c)
    late = max(day.peak_c for day in days[-5:])
    dew = sum(day.dripped_kg for day in days)
    wet = f" {kilograms(dew)} of dew run off its roof." if dew >= 1.0 else ""
    climbs = f", and it climbs back to {celsius(late)} as they dry" if late > early + CLIMBS_K else f"; later in the season {celsius(late)}"
    return f"Empty it peaks at {celsius(empty_c)} on a day like this; with these boards {celsius(early)} in the first days, {kelvin(empty_c - early)} less{climbs}.{wet}"


# --- vents and fans ---


@dataclass(frozen=True)
class _Way:
    """A setting of vents and fans, and what it is called."""

    build: Build
    open_share: float
    fan: str


def _ways(build: Build, shares: Sequence[float]) -> list[_Way]:
    """Openings to be tried, where the build has vents; fans as they are."""
    opened = getattr(build, "opened", None)
    if opened is None:
        raise InputProblem("spec", "this build has no vents to be set; ask it of a kiln")
    return [_Way(opened(share), share, "as now") for share in shares]


def today(context: AdviceContext, load: LumberCharge) -> TodayOptions:
    """What shutting and opening do: the next day and the fortnight after, from the charge as it stands."""
    first = _first(context)
    mine = context.build
    ways = [("as it is", mine), *((_said(way.open_share), way.build) for way in _ways(mine, (0.0, 0.3, 1.0)) if way.build.model_dump() != mine.model_dump())]
    tried = two_at_a_time(lambda way: _dried(*usual_weather(context.case.with_(build=way[1]), first, FORTNIGHT)), ways)
    options = [_option(title, build, mine, one, load) for (title, build), one in zip(ways, tried, strict=True)]
    return TodayOptions(groups=[group.title for group in tried[0].result.groups], options=options, words=_today_words(options, tried[0].result.groups))


def _said(share: float) -> str:
    return "vents shut" if share <= 0.0 else "vents wide open" if share >= 1.0 else f"vents {100 * share:.0f} % open"


def _option(title: str, build: Build, mine: Build, one: _Dried, load: LumberCharge) -> TodayOption:
    groups, rh = one.result.groups, chamber_rh(one.run)
    day = round(86400.0 / one.run.weather.dt_s)
    peak = max(d.peak_c for d in one.result.days[:3])
    return TodayOption(
        title=title, is_mine=build is mine, peak_c=round(peak, 1), rh=round(float(rh[:day].mean()), 3), next_day=[_lost(group, 1) for group in groups], fortnight=[round(group.start_mc - group.end_mc, 4) for group in groups],
        worst_share=None if one.loss_share is None else round(one.loss_share, 3), checks=one.checks, spec=build, load=load,
    )  # fmt: skip


def _lost(group: GroupResult, days: int) -> float:
    """Moisture lost in its first whole days."""
    lost = [loss for loss in group.loss_per_day if loss is not None]
    return round(sum(lost[:days]), 4)


def _today_words(options: list[TodayOption], groups: Sequence[GroupResult]) -> str:
    mine = options[0]
    quick = max(options, key=lambda option: sum(option.fortnight))
    kind = min(options, key=lambda option: (option.worst_share if option.worst_share is not None else 0.0, -sum(option.fortnight)))
    first = max(options, key=lambda option: sum(option.next_day))
    said = f"Over the fortnight {quick.title} dries fastest" + (f", {100 * (sum(quick.fortnight) / max(sum(mine.fortnight), 1e-9) - 1):.0f} % more than as it is" if quick is not mine else ": leave it")
    if first is not quick and sum(first.next_day) > 1.02 * sum(quick.next_day):
        said += f"; on the first day {first.title} takes more out, later it turns round, as shut is hotter" if quick.peak_c > first.peak_c else f"; on the first day {first.title} takes more out, later it turns round"
    if mine.worst_share is not None and mine.worst_share > 1.0:
        at_risk = [group.title for group in groups if group.checks != "none"]
        said += f". As it is the loss of a day comes to {mine.worst_share:.1f} times the safe rate: {', '.join(at_risk)} may check" + (f"; {kind.title} brings it to {kind.worst_share:.1f}" if kind.worst_share is not None and kind.worst_share < mine.worst_share - 0.02 else "; less sun on the baffle or a larger charge is what helps, no vent does")
    return f"{said}."


def weeks(context: AdviceContext, load: LumberCharge) -> WeekSettings:
    """Vents week by week: the opening that dries fastest of those that keep the loss of a day to the safe rate, each week from where the one before left the boards."""
    first, case, found = _first(context), context.case, list[WeekSetting]()
    gone: float | None = None
    for week in range(MOST_WEEKS):
        begins = first + timedelta(days=7 * week)
        way, best = _best(_week(context.build, case, begins, USUAL_SEED + week))
        found.append(_setting(week, begins, way, best))
        if best.result.done_at is not None:
            gone = (best.result.done_at.date() - first).days
            break
        assert isinstance(case.load, LumberCharge)
        stands = case.load.left_by(best.run, begins + timedelta(days=7))
        case = case.with_(load=_without_done(stands, best))
    as_is = _until_dry(context.case, first).days
    return WeekSettings(weeks=found, days=gone, days_as_is=None if as_is is None else round(as_is, 1), words=_week_words(found, gone, as_is))


def _week(build: Build, case: Case, begins: date, seed: int) -> list[tuple[_Way, _Dried]]:
    """One week from where the boards stand, at each opening."""
    on, weather = usual_weather(case, begins, 7, seed)
    return two_at_a_time(lambda way: (way, _dried(on.with_(build=way.build), weather)), _ways(build, SHARES))


def _without_done(stands: object, best: _Dried) -> LumberCharge:
    """Groups that are dry stay in the sum no longer."""
    assert isinstance(stands, LumberCharge)
    wet = {group.node for group in best.result.groups if group.done_at is None}
    keep = [group for group in stands.groups if f"boards-{group.number}" in wet or group.in_on is not None]
    return stands.model_copy(update={"groups": keep or stands.groups})


def _best(tried: Sequence[tuple[_Way, _Dried]]) -> tuple[_Way, _Dried]:
    """The quickest of those that are safe; the kindest where none is."""
    safe = [pair for pair in tried if (pair[1].loss_share or 0.0) <= 1.0]
    if safe:
        return max(safe, key=lambda pair: pair[1].result.water_kg)
    return min(tried, key=lambda pair: pair[1].loss_share or 0.0)


def _setting(week: int, begins: date, way: _Way, one: _Dried) -> WeekSetting:
    over = one.loss_share is not None and one.loss_share > 1.0
    why = "kindest to the wood; the safe rate is passed all the same" if over else "shut is hotter, and the air is dry enough" if way.open_share <= 0.0 else "the damp has to go out" if way.open_share >= 0.6 else "some air for the damp, heat kept"
    return WeekSetting(
        week=week + 1, first=begins, open_share=way.open_share, fan=way.fan, mean_mc=[group.end_mc for group in one.result.groups], loss_share=None if one.loss_share is None else round(one.loss_share, 2),
        peak_c=round(max(day.peak_c for day in one.result.days), 1), why=why,
    )  # fmt: skip


def _week_words(found: list[WeekSetting], days: float | None, as_is: float | None) -> str:
    turns = [week for before, week in pairwise(found) if week.open_share != before.open_share]
    said = f"Begin with the {_said(found[0].open_share)}" + "".join(f", from {week.first:%d %B} {_said(week.open_share)}" for week in turns[:4])
    if days is None:
        return f"{said}. Not dry within {counted(MOST_WEEKS, 'week')}."
    gain = "" if as_is is None else f", {as_is:.0f} as it is set now"
    return f"{said}. So it is dry after {days:.0f} days{gain}."


# --- how much, what else ---


def sizes(context: AdviceContext, load: LumberCharge) -> ChargeSizes:
    """How much to lay in: days and what a month gives, from a third of the rule's size to twice it."""
    first, roof = _first(context), context.build.opening_m2
    rule = RULE_M3_M2 * roof
    rows = two_at_a_time(lambda share: _size(context, load, share * rule, first), SIZES)
    fit = [row for row in rows if row is not None]
    if not fit:
        raise InputProblem("load.groups", "not even a third of the rule's size fits this chamber; make it deeper or its front wall higher")
    good = [row for row in fit if row.m3_per_month is not None and row.checks != "high"] or [row for row in fit if row.m3_per_month is not None]
    best = max(good, key=lambda row: row.m3_per_month or 0.0) if good else None
    return ChargeSizes(sizes=fit, best_m3=None if best is None else best.wood_m3, rule_m3=rule, words=_size_words(fit, best, rule, roof))


def _size(context: AdviceContext, load: LumberCharge, m3: float, first: date) -> ChargeSize | None:
    tried = load.times(m3 / load.wood_m3)
    try:
        one = _until_dry(context.case.with_(load=tried), first)
    except InputProblem:
        return None
    month = None if one.days is None else m3 * MONTH_DAYS / (one.days + BETWEEN_DAYS)
    share = None if one.loss_share is None else round(one.loss_share, 2)
    return ChargeSize(wood_m3=round(m3, 3), m3_per_m2=round(m3 / context.build.opening_m2, 4), days=None if one.days is None else round(one.days, 1), m3_per_month=None if month is None else round(month, 3), loss_share=share, checks=one.checks)


def _size_words(fit: list[ChargeSize], best: ChargeSize | None, rule: float, roof: float) -> str:
    if best is None:
        return f"In no size is it dry within {counted(LONG_DAYS, 'day')} from here."
    assert best.m3_per_month is not None
    small, large = fit[0], fit[-1]
    limit = ""
    if small.days is not None and large.days is not None and large.wood_m3 > small.wood_m3:
        power = math.log(large.days / small.days) / math.log(large.wood_m3 / small.wood_m3)
        limit = " The more there is, the longer it takes: the sun is the limit." if power > 0.4 else " More takes hardly longer: the wood itself is the limit, not the sun."
    risk = " Small charges dry too fast for this wood: fill it, or shade the baffle." if small.checks == "high" and best is not small else ""
    return f"Most in a month with {amount(best.wood_m3, 'timber')} in it, {amount(best.wood_m3 / roof, 'timber')} on each square metre of roof: {amount(best.m3_per_month, 'timber')}; the rule of the trade says {amount(rule, 'timber')}.{limit}{risk}"


def links(context: AdviceContext, load: LumberCharge) -> KilnLinks:
    """Every sensible change over the whole charge: days and risk."""
    from drylamp.core.advice.changes import changes_of  # it asks the registry, which asks this room

    first = _first(context)
    base = _until_dry(context.case, first)
    changes = changes_of(context.build, load)
    tried = two_at_a_time(lambda change: _tried(context, change.build, change.load, first), changes)
    lines = [_link(change.title, change.part, change.price, change.build, change.load, one, base) for change, one in zip(changes, tried, strict=True) if one is not None]
    lines.sort(key=lambda line: (line.sooner_days is None, -(line.sooner_days or 0.0)))
    return KilnLinks(days=None if base.days is None else round(base.days, 1), checks=base.checks, lines=lines, words=_link_words(base, lines))


def _tried(context: AdviceContext, build: Build, load: object, first: date) -> _Dried | None:
    if not isinstance(load, LumberCharge):
        return None
    try:
        return _until_dry(context.case.with_(build=build, load=load), first)
    except InputProblem:
        return None


def _link(title: str, part: str, price: float, build: Build, load: object, one: _Dried, base: _Dried) -> KilnLink:
    sooner = None if one.days is None or base.days is None else base.days - one.days
    risk = "" if one.checks == base.checks else f"; checks: {one.checks} in place of {base.checks}"
    if sooner is None:
        days = "dry by then, as it is not now" if one.days is not None else "not dry by then"
    elif abs(sooner) < SOON_DAYS:
        days = "no day sooner or later"
    else:
        days = f"{abs(sooner):.0f} days {'sooner' if sooner > 0 else 'later'}"
    share = None if one.loss_share is None else round(one.loss_share, 2)
    assert isinstance(load, LumberCharge)
    return KilnLink(
        title=title, part=part, days=None if one.days is None else round(one.days, 1), sooner_days=None if sooner is None else round(sooner, 1), loss_share=share, checks=one.checks, price=price,
        words=f"{days}{risk}", spec=build, load=load,
    )  # fmt: skip


def _link_words(base: _Dried, lines: list[KilnLink]) -> str:
    good = [line for line in lines if (line.sooner_days or 0.0) >= SOON_DAYS and line.checks != "high"]
    kinder = [line for line in lines if base.checks == "high" and line.checks != "high"]
    said = f"Most days: {good[0].title} ({good[0].words})." if good else "No single change saves a day without risk to the wood."
    return said + (f" Kinder to the wood: {kinder[0].title}." if kinder else "")


def saw(context: AdviceContext, load: LumberCharge) -> SawSizes:
    """Green sizes to saw so that these boards can be planed to their own size once dry."""
    lines = []
    for group in load.numbered:
        wide, thick = saw_for(group, group.width_mm, PLANED_MM, "width", UNEVEN_MM), saw_for(group, group.thickness_mm, PLANED_MM, "thickness", UNEVEN_MM)
        lines.append(
            SawLine(
                title=group.title, wide_mm=group.width_mm, thick_mm=group.thickness_mm, sawn_wide_mm=round(wide.sawn_mm, 1), sawn_thick_mm=round(thick.sawn_mm, 1), shrinks_wide_mm=round(wide.shrinks_mm, 1),
                shrinks_thick_mm=round(thick.shrinks_mm, 1),
            )
        )  # fmt: skip
    first = lines[0]
    words = (
        f"For {amount(first.thick_mm, 'length_mm')} by {amount(first.wide_mm, 'length_mm')} planed, at {percent(load.groups[0].target_mc)}: saw {amount(first.sawn_thick_mm, 'length_mm')} by {amount(first.sawn_wide_mm, 'length_mm')} green; "
        f"{amount(PLANED_MM, 'length_mm')} go to the plane, {amount(UNEVEN_MM, 'length_mm')} to what is uneven (common practice)."
    )
    return SawSizes(lines=lines, words=words)

