"""When a charge is dry, and what it does on the way."""

from __future__ import annotations

import math
from collections.abc import Sequence
from datetime import date

import numpy as np

from drylamp.core.advice.context import AdviceContext
from drylamp.core.advice.lumber import (
    ChargeAhead,
    ChargeDay,
    GroupChance,
)
from drylamp.core.heat import boards
from drylamp.core.heat.cells import WIDTHS
from drylamp.core.loads.common.stacked import CHAMBER
from drylamp.core.loads.common.wood import ACTIVATION_J_MOL, equilibrium_mcs
from drylamp.core.loads.lumber.outcome import (
    GroupResult,
    KilnDay,
    chamber_rh,
    percent,
)
from drylamp.core.loads.lumber.questions.dried import (
    FORTNIGHT,
    MEMBERS,
    SEED,
    SOON_DAYS,
    STEP_S,
    Dried,
    Season,
    as_doubtful,
    dry_in,
    first_day,
    foretold,
    until_dry,
    usual_weather,
)
from drylamp.core.loads.lumber.spec import LumberCharge
from drylamp.core.sky.clock import local_time
from drylamp.core.sky.of_span import weather_of
from drylamp.core.sky.weather import Span, Weather
from drylamp.core.text import capital, celsius, counted, kelvin, kilograms
from drylamp.core.threads import two_at_a_time
from drylamp.core.twin.case import Case
from drylamp.core.twin.prepared import simulate
from drylamp.core.twin.run import Run

CLIMBS_K = 1.0


def charge(context: AdviceContext, load: LumberCharge) -> ChargeAhead:
    """From now to dry: in usual weather, by chance, and the stack outside beside it."""
    first = first_day(context)
    lead = foretold(context)
    usual = until_dry(context.case, first, lead=lead)
    days = round(usual.run.weather.steps * STEP_S / 86400.0)
    found = two_at_a_time(
        lambda k: dry_in(*usual_weather(as_doubtful(context.case, k), first, days, SEED + k, lead)), range(MEMBERS)
    )
    empty = simulate(*_empty_day(context))
    shown = sum(time <= usual.shown_until for time in usual.result.times)
    groups = [_chance(k, group, usual, found, shown) for k, group in enumerate(usual.result.groups)]
    chance = float(np.mean([one.days is not None for one in found]))
    m2 = context.build.opening_m2
    peak = float(np.nanmax(empty.temperature_c[CHAMBER][round(86400 / STEP_S) :]))
    return ChargeAhead(
        times=usual.result.times[:shown], cell_widths=list(WIDTHS), groups=groups, days=[_day(day) for day in usual.days_shown], empty_peak_c=round(peak, 1), ahead_days=days, chance=chance, mould_hours=usual.result.mould_hours,
        m3_per_m2=load.wood_m3 / m2, pull=_pull(usual, load), beside=_beside(usual), peaks=_peaks(usual, peak), words=_words(context, usual, found, days) + _moved(context, usual, first, lead),
    )  # fmt: skip


def _empty_day(context: AdviceContext) -> tuple[Case, Weather]:
    """The kiln empty, for two days like the one that is looked at."""
    case, first = context.case.with_(load=None), first_day(context)
    if case.weather.kind != "clear-day":
        return usual_weather(case, first, 2)
    span = Span(start=first, days=2, step_s=STEP_S)
    return case.with_(span=span), weather_of(case.site, case.weather, span)


def _day(day: KilnDay) -> ChargeDay:
    return ChargeDay(
        day=day.day,
        peak_c=day.peak_c,
        low_c=day.low_c,
        emc=day.emc,
        sun_kwh_m2=day.sun_kwh_m2,
        water_kg=day.water_kg,
        dew_kg=day.dew_kg,
        dripped_kg=day.dripped_kg,
    )


def _chance(k: int, group: GroupResult, usual: Dried, found: Sequence[Season], shown: int) -> GroupChance:
    days = np.array([or_never(one.by_group[k]) for one in found])

    def at(share: float) -> float | None:
        value = float(np.quantile(days, share, method="higher"))
        return round(value, 1) if math.isfinite(value) else None

    outside_days = (
        None
        if group.outside_done_at is None
        else round((group.outside_done_at - group.went_in).total_seconds() / 86400.0, 1)
    )
    then = _outside_then(group, usual)
    share = None if group.safe_share is None else round(group.safe_share, 3)
    return GroupChance(
        node=group.node, title=group.title, target_mc=group.target_mc, likely_days=at(0.5), early_days=at(0.1), late_days=at(0.9), chance=float(np.mean(np.isfinite(days))),
        done_at=group.done_at, meter_mc=group.meter_done_mc, mean_mc=group.mean_mc[:shown], shell_mc=group.shell_mc[:shown], core_mc=group.core_mc[:shown], outside_mc=group.outside_mc[:shown], cells_mc=group.cells_mc[:shown],
        loss_per_day=group.loss_per_day, safe_per_day=group.safe_per_day, loss_share=share, shell_stress=group.worst_shell_stress, checks=group.checks, honeycomb=group.honeycomb,
        outside_days=outside_days, outside_mc_then=then,
    )  # fmt: skip


def _outside_then(group: GroupResult, usual: Dried) -> float | None:
    """Where the same boards outside stand when the kiln's are dry; none where those never are."""
    if group.done_at is None:
        return None
    later = [
        mc
        for time, mc in zip(usual.result.times, group.outside_mc, strict=True)
        if time >= group.done_at and mc is not None
    ]
    return later[0] if later else group.outside_end_mc


def or_never(days: float | None) -> float:
    """Infinitely many where it never is."""
    return math.inf if days is None else days


def _words(context: AdviceContext, usual: Dried, found: Sequence[Season], ahead: int) -> str:
    done = sorted(days for one in found if (days := one.days) is not None)
    if usual.days is None:
        return (
            f"Not dry within {counted(ahead, 'day')} of usual weather: {usual.result.words} {_lowest(context, usual)}"
        )
    first = f"Dry after {counted(round(usual.days), 'day')} in usual weather, on {usual.result.done_at:%d %B}."
    if not done:
        return f"{first} In none of {len(found)} made-up seasons with boards that differ as trees do is it dry within {counted(ahead, 'day')}."
    never = len(found) - len(done)
    late = f"; in {never} of them not within {counted(ahead, 'day')}" if never else ""
    return f"{first} Over {len(found)} made-up seasons, with boards that differ as trees do: {done[0]:.0f} to {done[-1]:.0f} days{late}."


def _moved(context: AdviceContext, usual: Dried, first: date, lead: Weather | None) -> str:
    """By how much the weather that was brought moves the finish."""
    if lead is None:
        return ""
    plain = until_dry(context.case, first).days
    if plain is None or usual.days is None:
        return " It goes by the weather that was brought, and by usual days after."
    by = plain - usual.days
    if abs(by) < SOON_DAYS:
        return " With the weather that was brought that is no day sooner or later."
    return f" With the weather that was brought that is {counted(round(abs(by)), 'day')} {'sooner' if by > 0 else 'later'}: so moves the day to pull it."


def _lowest(context: AdviceContext, usual: Dried) -> str:
    """Whether the target can be had here at all: the driest fortnight of this kiln's air against it."""
    lowest, when = driest_fortnight(usual.run, context)
    beyond = [group for group in usual.result.groups if group.target_mc < lowest]
    if not beyond:
        return ""
    return f"{percent(beyond[0].target_mc)} is below what its air brings wood to: {percent(lowest)} in the driest fortnight, about {when:%d %B}. Take a higher target, or finish it indoors."


def driest_fortnight(run: Run, context: AdviceContext) -> tuple[float, date]:
    """The lowest EMC of the chamber over two weeks of a run, hours counted by how fast water moves in wood so warm, and its middle day."""
    warm, rh = run.temperature_c[CHAMBER], chamber_rh(run)
    hourly = slice(None, None, max(1, round(3600.0 / run.weather.dt_s)))
    emc = equilibrium_mcs(warm[hourly], rh[hourly])
    moves = np.array([boards.arrhenius(float(t), ACTIVATION_J_MOL) for t in warm[hourly]])
    wide = min(24 * FORTNIGHT, len(emc))
    mean = np.convolve(emc * moves, np.ones(wide), mode="valid") / np.convolve(moves, np.ones(wide), mode="valid")
    at = int(np.argmin(mean))
    return float(mean[at]), local_time(context.case.site.zone, float(run.edge_s[0]) + 3600.0 * (at + wide / 2.0)).date()


def _pull(usual: Dried, load: LumberCharge) -> str:
    """When to pull which group, and what the meter shows then."""
    dry = sorted(
        (group for group in usual.result.groups if group.done_at is not None), key=lambda group: or_never(group.days)
    )
    if not dry:
        return "Nothing can be pulled by then."
    how = "a plate" if load.meter.sort == "plate" else f"pins at {100 * load.meter.depth_share:.0f} % of the thickness"
    said = "; ".join(
        f"{group.title} about {group.done_at:%d %B}, when {how} shows {percent(group.meter_done_mc)}" for group in dry
    )
    mixed = ""
    if len(usual.result.groups) > 1:
        first, last = dry[0], usual.result.groups
        waits = max(or_never(group.days) for group in last) - or_never(first.days)
        if waits > SOON_DAYS:
            mixed = (
                f" {capital(first.title)} is ready {counted(round(waits), 'day')} before the last: take it out by itself, or it dries on."
                if math.isfinite(waits)
                else f" {capital(first.title)} is ready long before the last: take it out by itself."
            )
    return f"Pull {said}.{mixed} Wait a week after before you plane it."


def _beside(usual: Dried) -> str:
    """Kiln against stack."""
    group = max(usual.result.groups, key=lambda one: or_never(one.days))
    rain = "" if usual.result.rain else " Wetting by rain is left out."
    if group.days is None:
        times = group.end_mc / group.outside_end_mc
        return f"After that time {group.title} is at {percent(group.end_mc)}, the same boards outside at {percent(group.outside_end_mc)}: {100 * times:.0f} % of their moisture.{rain}"
    then = _outside_then(group, usual)
    assert then is not None
    days = (usual.run.edge_s[-1] - usual.run.edge_s[0]) / 86400.0
    never = (
        f" After {days:.0f} days they are not there yet."
        if group.outside_done_at is None
        else f" There it takes {(group.outside_done_at - group.went_in).days} days."
    )
    return f"When {group.title} is dry in the kiln, the same boards outside stand at {percent(then)}.{never}{rain}"


def _peaks(usual: Dried, empty_c: float) -> str:
    """How far the wet charge pulls the daily peak down, and how it climbs back."""
    days = usual.days_shown
    early = max((day.peak_c for day in days[1:5]), default=days[0].peak_c)
    late = max(day.peak_c for day in days[-5:])
    dew = sum(day.dripped_kg for day in days)
    wet = f" {kilograms(dew)} of dew run off its roof." if dew >= 1.0 else ""
    climbs = (
        f", and it climbs back to {celsius(late)} as they dry"
        if late > early + CLIMBS_K
        else f"; later in the season {celsius(late)}"
    )
    return f"Empty it peaks at {celsius(empty_c)} on a day like this; with these boards {celsius(early)} in the first days, {kelvin(empty_c - early)} less{climbs}.{wet}"
