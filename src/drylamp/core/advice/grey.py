"""What grey days leave: how warm it still is after one, two and three of them."""

from __future__ import annotations

from datetime import date, datetime, timedelta

import numpy as np

from drylamp.core.advice.context import AdviceContext
from drylamp.core.checks import Model
from drylamp.core.sky.clock import day_edges_s, local_day
from drylamp.core.sky.weather import SkyState, clear_days
from drylamp.core.text import Sentence
from drylamp.core.twin.case import climate_day
from drylamp.core.twin.prepared import prepare
from drylamp.core.twin.run import Run

STEP_S = 300.0
FAIR_DAYS, GREY_DAYS = 3, 3
"""Days of sun that go before, so that the start no longer counts, and grey days that are tried."""


class GreyDay(Model):
    """An evening after so many grey days, and the morning after it."""

    evening: datetime
    grey_days: int
    top_c: float
    bottom_c: float
    warm_l: float
    morning_c: float | None


class GreyDays(Model):
    """Evening by evening: the last day of sun first."""

    warm_c: float
    days: list[GreyDay]
    words: Sentence


def grey_runs(context: AdviceContext) -> tuple[Run, Run]:
    """A run of days of sun up to the context's own day, and the grey days after it, begun as the first ended.

    Nights are whole in each: the grey run begins at midnight.
    """
    day = local_day(context.case.site.zone, context.weather.start_s)
    begins = day - timedelta(days=FAIR_DAYS - 1)
    fair = _run(context, begins, FAIR_DAYS, "clear", None)
    left = {name: float(series[-1]) for name, series in fair.temperature_c.items() if not np.isnan(series[-1])}
    return fair, _run(context, day + timedelta(days=1), GREY_DAYS + 1, "grey", left)


def _run(context: AdviceContext, begins: date, days: int, sky: SkyState, first_c: dict[str, float] | None) -> Run:
    site = context.case.site
    start, end = day_edges_s(site.zone, begins)[0], day_edges_s(site.zone, begins + timedelta(days=days - 1))[1]
    weather = clear_days(site, climate_day(site, begins, sky), start, end, STEP_S)
    return prepare(context.case, weather).run(first_c=first_c)
