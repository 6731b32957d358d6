"""What a build lost over the years by its own calibrations, what to look at, and what that cost to mend the last time."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from datetime import date

import numpy as np

from drylamp.core.advice.context import AdviceContext
from drylamp.core.builds.build import Build
from drylamp.core.builds.common.upkeep.checks import Check, checks_of
from drylamp.core.builds.common.upkeep.sheet import Finding
from drylamp.core.builds.doubt import Doubtful
from drylamp.core.builds.registry import kind_of
from drylamp.core.builds.sheet import Learnt
from drylamp.core.text import amount, capital, kelvin
from drylamp.core.twin.calibration import TEXTBOOK, Calibration

LEAST_LOSS = 0.02
"""A smaller share of its heat is not spoken of: two calibrations differ by as much, from memory."""


def worn(context: AdviceContext, findings: Sequence[Finding], learnt: Sequence[Learnt]) -> list[str]:
    """A sentence for each thing that got worse since its best calibration, by how much less the empty build rises over the air of the day, the worst first."""
    told = sorted(_losses(context, learnt), key=lambda one: -one[0])
    return [_said(context.build, findings, *one) for one in told]


def _losses(context: AdviceContext, learnt: Sequence[Learnt]) -> Iterator[tuple[float, float, Doubtful, date, date]]:
    """Share of its rise lost, kelvin lost, by which parameter, since when and by when."""
    in_time = sorted(learnt, key=lambda one: one.on)
    if len(in_time) < 2:
        return
    newest = in_time[-1]
    now = _as_calibration(newest)
    for parameter in kind_of(context.build).doubtful(context.build):
        known = [(one.factors[parameter.name], one.on) for one in in_time if parameter.name in one.factors]
        if len(known) < 2 or known[-1][1] != newest.on:
            continue
        best, since = min(known, key=lambda one: one[0] if parameter.bad_above else -one[0])
        factor = known[-1][0]
        if since == newest.on or (factor > best) != parameter.bad_above:
            continue
        share, cooler = _lost(context, now, now.with_factor(parameter.name, best))
        if share >= LEAST_LOSS:
            yield share, cooler, parameter, since, newest.on


def _as_calibration(one: Learnt) -> Calibration:
    found = TEXTBOOK
    for name, factor in one.factors.items():
        found = found.with_factor(name, factor)
    return found


def _lost(context: AdviceContext, now: Calibration, then: Calibration) -> tuple[float, float]:
    """Share of the empty build's hottest rise over the air, and kelvin of it, that one calibration loses against another: a load may boil and hide it."""
    build = context.build
    ready, node = context.ready(build, None), kind_of(build).stagnation_node(build)
    runs = [ready.run(calibration, with_load=False) for calibration in (now, then)]
    rises = [float(np.nanmax(run.temperature_c[node][1:] - run.weather.air_c)) for run in runs]
    return (1.0 - rises[0] / rises[1] if rises[1] > 0.0 else 0.0), rises[1] - rises[0]


def _said(
    build: Build, findings: Sequence[Finding], share: float, cooler: float, parameter: Doubtful, since: date, by: date
) -> str:
    checks = [check for check in checks_of(build) if parameter.name in check.moves]
    looks = (
        "; ".join(f"{check.title.lower()}: {check.look}{_price(check, findings)}" for check in checks[:3])
        or parameter.cure
    )
    return f"By {by:%B %Y} it lost {amount(share, 'share')} of its heat since {since:%B %Y} ({kelvin(-cooler, signed=True)} when it stands empty), by its {parameter.title}. {capital(looks)}."


def _price(check: Check, findings: Sequence[Finding]) -> str:
    """What it cost the last time."""
    paid = [row for row in findings if row.check == check.name and (row.price or row.work_hours)]
    if not paid:
        return ""
    last = max(paid, key=lambda row: row.on)
    return f" ({amount(last.price, 'price')} and {amount(last.work_hours, 'hours')} in {last.on:%B %Y})"
