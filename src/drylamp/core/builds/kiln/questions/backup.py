"""What back-up heat brings through the cold half of the year, against what it takes."""

from __future__ import annotations

from datetime import date

import numpy as np

from drylamp.core.advice.context import AdviceContext
from drylamp.core.advice.lumber import Backup, BackupMonth
from drylamp.core.builds.kiln.recipe import BACKUP
from drylamp.core.builds.kiln.spec import Heater, LumberKiln
from drylamp.core.checks import require
from drylamp.core.outcome.registry import outcome_of
from drylamp.core.sky.of_span import YEAR, usual_weather_of
from drylamp.core.sky.weather import Span, Weather
from drylamp.core.text import amount
from drylamp.core.threads import two_at_a_time
from drylamp.core.twin.case import Case
from drylamp.core.twin.prepared import simulate

COLD = (10, 11, 12, 1, 2, 3)
MONTH_DAYS, LOOK_DAYS, BETWEEN_DAYS, SEED, STEP_S = 30.4, 120, 2.0, 41, 300


def backup(context: AdviceContext, build: LumberKiln, power_w: float, until_c: float, kwh_price: float) -> Backup:
    """Days of a charge with and without a heater by the month in which it goes in, extra charges, and the price of each.

    Raises
    ------
    InputProblem
        nothing is stacked in it.
    """
    require(context.load is not None, "load", "no boards are stacked in this; stack some first")
    assert context.load is not None
    case = context.case.with_(load=context.load.afresh())
    heated = build.with_(heater=Heater(power_w=power_w, until_c=until_c))
    found = two_at_a_time(lambda month: _month(case, (build.with_(heater=None), heated), month), COLD)
    without, with_heat = (
        sum(_charges(days) for days in column)
        for column in ([m.days_without for m in found], [m.days_with for m in found])
    )
    kwh = sum(m.kwh * _charges(m.days_with) for m in found)
    extra = with_heat - without
    each = kwh / extra if extra > 0.05 else None
    price = None if each is None else each * kwh_price
    return Backup(
        months=found, charges_without=round(without, 2), charges_with=round(with_heat, 2), kwh=round(kwh, 0), kwh_each=None if each is None else round(each, 0), price_each=None if price is None else round(price, 2),
        words=_words(without, with_heat, kwh, price, power_w),
    )  # fmt: skip


def _charges(days: float | None) -> float:
    """Charges of a month, each of so many days; none: it is not dry by the end of the look."""
    return MONTH_DAYS / ((LOOK_DAYS if days is None else days) + BETWEEN_DAYS)


def _month(case: Case, ways: tuple[LumberKiln, LumberKiln], month: int) -> BackupMonth:
    span = Span(start=date(YEAR, month, 15), days=LOOK_DAYS, step_s=STEP_S)
    weather = usual_weather_of(case.site, span, SEED)
    plain, heated = (_run(case.with_(build=build, span=span), weather) for build in ways)
    return BackupMonth(month=month, days_without=plain[0], days_with=heated[0], kwh=round(heated[1], 1))


def _run(case: Case, weather: Weather) -> tuple[float | None, float]:
    """Days until it is dry, and kilowatt-hours of heat until then."""
    run = simulate(case, weather)
    assert case.load is not None
    done = outcome_of(case.load).done_at(case.load, run)
    until = float(run.edge_s[-1]) if done is None else done
    heat = run.account_w.get(BACKUP, np.zeros(weather.steps))
    steps = round((until - run.edge_s[0]) / weather.dt_s)
    kwh = float(np.abs(heat[:steps]).sum()) * weather.dt_s / 3.6e6
    return (None if done is None else round((done - run.edge_s[0]) / 86400.0, 1)), kwh


def _words(without: float, with_heat: float, kwh: float, price: float | None, power_w: float) -> str:
    extra = with_heat - without
    told = f"From October to March {without:.1f} charges without it, {with_heat:.1f} with {amount(power_w, 'power')} of back-up heat, which takes {amount(kwh, 'energy')}"
    if price is None:
        return f"{told}: it brings no charge more."
    return f"{told}: {extra:.1f} charges more, {amount(price, 'price')} of heat for each. Wiring for such heat is a licensed electrician's work."
