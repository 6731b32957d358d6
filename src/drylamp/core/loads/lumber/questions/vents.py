"""What vents do to a charge: today, and week by week."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, timedelta
from itertools import pairwise

from drylamp.core.advice.context import AdviceContext
from drylamp.core.advice.lumber import (
    TodayOption,
    TodayOptions,
    WeekSetting,
    WeekSettings,
)
from drylamp.core.builds.build import Build
from drylamp.core.checks import InputProblem
from drylamp.core.loads.lumber.group import node_of
from drylamp.core.loads.lumber.outcome import (
    GroupResult,
    chamber_rh,
    percent,
)
from drylamp.core.loads.lumber.quality import cup_mm, end_loss_mm
from drylamp.core.loads.lumber.questions.dried import (
    FORTNIGHT,
    USUAL_SEED,
    Dried,
    dried,
    first_day,
    foretold,
    until_dry,
    usual_weather,
)
from drylamp.core.loads.lumber.spec import EndPaint, LumberCharge
from drylamp.core.text import amount, capital, counted
from drylamp.core.threads import two_at_a_time
from drylamp.core.twin.case import Case
from drylamp.core.twin.stood import left_of

SHARES = (0.0, 0.1, 0.3, 0.6, 1.0)
"""Openings of the vents that are tried."""
MOST_WEEKS = 26
MORE_KG_M2 = 100.0
WAXED: EndPaint = "wax-emulsion"
"""Of weights that are tried, and the best paint for ends."""


@dataclass(frozen=True)
class _Way:
    """A setting of the vents."""

    build: Build
    open_share: float


def _ways(build: Build, shares: Sequence[float]) -> list[_Way]:
    """Openings to be tried, where the build has vents."""
    opened = getattr(build, "opened", None)
    if opened is None:
        raise InputProblem("spec", "this build has no vents to be set; ask it of a kiln")
    return [_Way(opened(share), share) for share in shares]


def today(context: AdviceContext, load: LumberCharge) -> TodayOptions:
    """What shutting and opening do: the next day and the fortnight after, from the charge as it stands."""
    first, lead = first_day(context), foretold(context)
    mine = context.build
    ways = [
        ("as it is", mine),
        *(
            (_said(way.open_share), way.build)
            for way in _ways(mine, (0.0, 0.3, 1.0))
            if way.build.model_dump() != mine.model_dump()
        ),
    ]
    tried = two_at_a_time(
        lambda way: dried(*usual_weather(context.case.with_(build=way[1]), first, FORTNIGHT, lead=lead)), ways
    )
    options = [_option(title, build, mine, one, load) for (title, build), one in zip(ways, tried, strict=True)]
    return TodayOptions(
        groups=[group.title for group in tried[0].result.groups],
        options=options,
        words=_today_words(options, tried[0].result.groups),
        kinder=_kinder(load, tried[0].result.groups),
    )


def _said(share: float) -> str:
    return "vents shut" if share <= 0.0 else "vents wide open" if share >= 1.0 else f"vents {100 * share:.0f} % open"


def _option(title: str, build: Build, mine: Build, one: Dried, load: LumberCharge) -> TodayOption:
    groups, rh = one.result.groups, chamber_rh(one.run)
    day = round(86400.0 / one.run.weather.dt_s)
    peak = max(d.peak_c for d in one.result.days[:3])
    return TodayOption(
        title=title, is_mine=build is mine, peak_c=round(peak, 1), rh=round(float(rh[:day].mean()), 3), next_day=[_next_day(group) for group in groups], fortnight=[round(group.start_mc - group.end_mc, 4) for group in groups],
        worst_share=None if one.loss_share is None else round(one.loss_share, 3), checks=one.checks, spec=build, load=load,
    )  # fmt: skip


def _next_day(group: GroupResult) -> float:
    """Moisture lost in the 24 hours after it went in, or from midnight."""
    return round(group.first_day_loss or 0.0, 4)


def _today_words(options: list[TodayOption], groups: Sequence[GroupResult]) -> str:
    mine = options[0]
    quick = max(options, key=lambda option: sum(option.fortnight))
    kind = min(
        options,
        key=lambda option: (option.worst_share if option.worst_share is not None else 0.0, -sum(option.fortnight)),
    )
    first = max(options, key=lambda option: sum(option.next_day))
    said = f"Over the fortnight {quick.title} dries fastest" + (
        f", {100 * (sum(quick.fortnight) / max(sum(mine.fortnight), 1e-9) - 1):.0f} % more than as it is"
        if quick is not mine
        else ": leave it"
    )
    if first is not quick and sum(first.next_day) > 1.02 * sum(quick.next_day):
        said += (
            f"; on the first day {first.title} takes more out, later it turns round, as shut is hotter"
            if quick.peak_c > first.peak_c
            else f"; on the first day {first.title} takes more out, later it turns round"
        )
    if mine.worst_share is not None and mine.worst_share > 1.0:
        at_risk = [group.title for group in groups if group.checks != "none"]
        said += (
            f". As it is the loss of a day comes to {mine.worst_share:.1f} times the safe rate: {', '.join(at_risk)} may check"
            + (
                f"; {kind.title} brings it to {kind.worst_share:.1f}"
                if kind.worst_share is not None and kind.worst_share < mine.worst_share - 0.02
                else "; less sun on the baffle or a larger charge is what helps, no vent does"
            )
        )
    return f"{said}."


def _kinder(load: LumberCharge, groups: Sequence[GroupResult]) -> str:
    """Why some are at risk and others not, and what weights and end paint change."""
    said = "; ".join(_bears(group) for group in groups)
    worst = max(load.numbered, key=lambda group: group.thickness_mm)
    heavier = load.model_copy(update={"weights_kg_m2": load.weights_kg_m2 + MORE_KG_M2})
    now, then = (amount(cup_mm(one, worst, worst.target_mc), "length_mm") for one in (load, heavier))
    bare, waxed = (end_loss_mm(paint, worst, 1.0) for paint in (load.end_paint, WAXED))
    wax = f"; wax on its ends saves {amount(bare - waxed, 'length_mm')} of each" if bare > waxed else ""
    return f"{capital(said)}. Weights of {amount(MORE_KG_M2, 'mass_area')} more take the cup of {worst.title} from {now} to {then}{wax}."


def _bears(group: GroupResult) -> str:
    if group.safe_per_day is None:
        return f"for {group.title} no safe rate is published: it dries fast without harm"
    lost, safe = percent(group.worst_loss), percent(group.safe_per_day)
    if group.worst_loss > group.safe_per_day:
        return f"{group.title} loses {lost} in a day where {safe} is safe: water comes to its face too slowly to follow"
    return f"{group.title} loses {lost} in a day, {safe} is safe"


def weeks(context: AdviceContext, load: LumberCharge) -> WeekSettings:
    """Vents week by week: the opening that dries fastest of those that keep the loss of a day to the safe rate, each week from where the one before left the boards."""
    first, case, found = first_day(context), context.case, list[WeekSetting]()
    gone: float | None = None
    for week in range(MOST_WEEKS):
        begins = first + timedelta(days=7 * week)
        way, best = _best(_week(context.build, case, begins, USUAL_SEED + week))
        found.append(_setting(week, begins, way, best))
        if best.result.done_at is not None:
            gone = (best.result.done_at.date() - first).days
            break
        assert isinstance(case.load, LumberCharge)
        case = case.with_(load=_without_done(case.load.left_by(left_of(best.run), begins + timedelta(days=7)), best))
    as_is = until_dry(context.case, first).days
    return WeekSettings(
        weeks=found,
        days=gone,
        days_as_is=None if as_is is None else round(as_is, 1),
        words=_week_words(found, gone, as_is),
    )


def _week(build: Build, case: Case, begins: date, seed: int) -> list[tuple[_Way, Dried]]:
    """One week from where the boards stand, at each opening."""
    on, weather = usual_weather(case, begins, 7, seed)
    return two_at_a_time(lambda way: (way, dried(on.with_(build=way.build), weather)), _ways(build, SHARES))


def _without_done(stands: LumberCharge, best: Dried) -> LumberCharge:
    """Groups that are dry stay in the sum no longer."""
    wet = {group.node for group in best.result.groups if group.done_at is None}
    keep = [group for group in stands.groups if node_of(group) in wet or group.in_on is not None]
    return stands.model_copy(update={"groups": keep or stands.groups})


def _best(tried: Sequence[tuple[_Way, Dried]]) -> tuple[_Way, Dried]:
    """The quickest of those that are safe; the kindest where none is."""
    safe = [pair for pair in tried if (pair[1].loss_share or 0.0) <= 1.0]
    if safe:
        return max(safe, key=lambda pair: pair[1].result.water_kg)
    return min(tried, key=lambda pair: pair[1].loss_share or 0.0)


def _setting(week: int, begins: date, way: _Way, one: Dried) -> WeekSetting:
    over = one.loss_share is not None and one.loss_share > 1.0
    why = (
        "kindest to the wood; the safe rate is passed all the same"
        if over
        else "shut is hotter, and the air is dry enough"
        if way.open_share <= 0.0
        else "the damp has to go out"
        if way.open_share >= 0.6
        else "some air for the damp, heat kept"
    )
    return WeekSetting(
        week=week + 1, first=begins, open_share=way.open_share, mean_mc=[group.end_mc for group in one.result.groups], loss_share=None if one.loss_share is None else round(one.loss_share, 2),
        peak_c=round(max(day.peak_c for day in one.result.days), 1), why=why,
    )  # fmt: skip


def _week_words(found: list[WeekSetting], days: float | None, as_is: float | None) -> str:
    turns = [week for before, week in pairwise(found) if week.open_share != before.open_share]
    said = f"Begin with the {_said(found[0].open_share)}" + "".join(
        f", from {week.first:%d %B} {_said(week.open_share)}" for week in turns[:4]
    )
    if days is None:
        return f"{said}. Not dry within {counted(MOST_WEEKS, 'week')}."
    gain = "" if as_is is None else f", {as_is:.0f} as it is set now"
    return f"{said}. So it is dry after {counted(round(days), 'day')}{gain}."
