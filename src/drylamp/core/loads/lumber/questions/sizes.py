"""How much to lay in, what a change brings, what to saw."""

from __future__ import annotations

import math
from datetime import date

from drylamp.core.advice.context import AdviceContext
from drylamp.core.advice.lumber import (
    ChargeSize,
    ChargeSizes,
    KilnLink,
    KilnLinks,
    SawLine,
    SawSizes,
)
from drylamp.core.builds.build import Build
from drylamp.core.checks import InputProblem
from drylamp.core.loads.lumber.outcome import (
    percent,
)
from drylamp.core.loads.lumber.quality import saw_for
from drylamp.core.loads.lumber.questions.dried import LONG_DAYS, SOON_DAYS, Dried, first_day, until_dry
from drylamp.core.loads.lumber.spec import LumberCharge
from drylamp.core.text import amount, counted
from drylamp.core.threads import two_at_a_time

SIZES = (1 / 3, 1 / 2, 2 / 3, 1.0, 1.5, 2.0)
RULE_M3_M2 = 0.254
"""Ten board feet on a square foot of roof, common practice, no source."""
MONTH_DAYS, BETWEEN_DAYS = 30.0, 2.0
"""And days to empty and fill a kiln; common practice, no source."""
PLANED_MM, UNEVEN_MM = 4.0, 1.5
"""What planing both sides takes, and how far boards are off size and bowed; common practice, no source."""


def sizes(context: AdviceContext, load: LumberCharge) -> ChargeSizes:
    """How much to lay in: days and what a month gives, from a third of the rule's size to twice it."""
    first, roof = first_day(context), context.build.opening_m2
    rule = RULE_M3_M2 * roof
    rows = two_at_a_time(lambda share: _size(context, load, share * rule, first), SIZES)
    fit = [row for row in rows if row is not None]
    if not fit:
        raise InputProblem(
            "load.groups",
            "not even a third of the rule's size fits this chamber; make it deeper or its front wall higher",
        )
    good = [row for row in fit if row.m3_per_month is not None and row.checks != "high"] or [
        row for row in fit if row.m3_per_month is not None
    ]
    best = max(good, key=lambda row: row.m3_per_month or 0.0) if good else None
    return ChargeSizes(
        sizes=fit,
        best_m3=None if best is None else best.wood_m3,
        rule_m3=rule,
        words=_size_words(fit, best, rule, roof),
    )


def _size(context: AdviceContext, load: LumberCharge, m3: float, first: date) -> ChargeSize | None:
    tried = load.times(m3 / load.wood_m3)
    try:
        one = until_dry(context.case.with_(load=tried), first)
    except InputProblem:
        return None
    month = None if one.days is None else m3 * MONTH_DAYS / (one.days + BETWEEN_DAYS)
    share = None if one.loss_share is None else round(one.loss_share, 2)
    return ChargeSize(
        wood_m3=round(m3, 3),
        m3_per_m2=round(m3 / context.build.opening_m2, 4),
        days=None if one.days is None else round(one.days, 1),
        m3_per_month=None if month is None else round(month, 3),
        loss_share=share,
        checks=one.checks,
    )


def _size_words(fit: list[ChargeSize], best: ChargeSize | None, rule: float, roof: float) -> str:
    if best is None:
        return f"In no size is it dry within {counted(LONG_DAYS, 'day')} from here."
    assert best.m3_per_month is not None
    small, large = fit[0], fit[-1]
    limit = ""
    if small.days is not None and large.days is not None and large.wood_m3 > small.wood_m3:
        power = math.log(large.days / small.days) / math.log(large.wood_m3 / small.wood_m3)
        limit = (
            " The more there is, the longer it takes: the sun is the limit."
            if power > 0.4
            else " More takes hardly longer: the wood itself is the limit, not the sun."
        )
    risk = (
        " Small charges dry too fast for this wood: fill it, or shade the baffle."
        if small.checks == "high" and best is not small
        else ""
    )
    return f"Most in a month with {amount(best.wood_m3, 'timber')} in it, {amount(best.wood_m3 / roof, 'timber')} on each square metre of roof: {amount(best.m3_per_month, 'timber')}; the rule of the trade says {amount(rule, 'timber')}.{limit}{risk}"


def links(context: AdviceContext, load: LumberCharge) -> KilnLinks:
    """Every sensible change over the whole charge: days and risk."""
    from drylamp.core.advice.changes import changes_of  # it asks the registry, which asks this room

    first = first_day(context)
    base = until_dry(context.case, first)
    changes = changes_of(context.build, load)
    tried = two_at_a_time(lambda change: _tried(context, change.build, change.load, first), changes)
    lines = [
        _link(change.title, change.part, change.price, change.build, change.load, one, base)
        for change, one in zip(changes, tried, strict=True)
        if one is not None
    ]
    lines.sort(key=lambda line: (line.sooner_days is None, -(line.sooner_days or 0.0)))
    return KilnLinks(
        days=None if base.days is None else round(base.days, 1),
        checks=base.checks,
        lines=lines,
        words=_link_words(base, lines),
    )


def _tried(context: AdviceContext, build: Build, load: object, first: date) -> Dried | None:
    if not isinstance(load, LumberCharge):
        return None
    try:
        return until_dry(context.case.with_(build=build, load=load), first)
    except InputProblem:
        return None


def _link(title: str, part: str, price: float, build: Build, load: object, one: Dried, base: Dried) -> KilnLink:
    sooner = None if one.days is None or base.days is None else base.days - one.days
    risk = "" if one.checks == base.checks else f"; checks: {one.checks} in place of {base.checks}"
    if sooner is None:
        days = "dry by then, as it is not now" if one.days is not None else "not dry by then"
    elif abs(sooner) < SOON_DAYS:
        days = "no day sooner or later"
    else:
        days = f"{counted(round(abs(sooner)), 'day')} {'sooner' if sooner > 0 else 'later'}"
    share = None if one.loss_share is None else round(one.loss_share, 2)
    assert isinstance(load, LumberCharge)
    return KilnLink(
        title=title, part=part, days=None if one.days is None else round(one.days, 1), sooner_days=None if sooner is None else round(sooner, 1), loss_share=share, checks=one.checks, price=price,
        words=f"{days}{risk}", spec=build, load=load,
    )  # fmt: skip


def _link_words(base: Dried, lines: list[KilnLink]) -> str:
    good = [line for line in lines if (line.sooner_days or 0.0) >= SOON_DAYS and line.checks != "high"]
    kinder = [line for line in lines if base.checks == "high" and line.checks != "high"]
    said = (
        f"Most days: {good[0].title} ({good[0].words})."
        if good
        else "No single change saves a day without risk to the wood."
    )
    return said + (f" Kinder to the wood: {kinder[0].title}." if kinder else "")


def saw(context: AdviceContext, load: LumberCharge) -> SawSizes:
    """Green sizes to saw so that these boards can be planed to their own size once dry."""
    lines = []
    for group in load.numbered:
        wide, thick = (
            saw_for(group, group.width_mm, PLANED_MM, "width", UNEVEN_MM),
            saw_for(group, group.thickness_mm, PLANED_MM, "thickness", UNEVEN_MM),
        )
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
