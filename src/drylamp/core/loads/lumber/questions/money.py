"""What a kiln costs and earns, by prices that somebody typed."""

from __future__ import annotations

from collections.abc import Sequence

from drylamp.core.advice.context import AdviceContext
from drylamp.core.advice.lumber import WoodMoney
from drylamp.core.builds.build import Build
from drylamp.core.builds.sheet import Around, latest
from drylamp.core.checks import require
from drylamp.core.loads.common.wood import DRYING_LATENT_J_KG
from drylamp.core.loads.lumber.questions.dried import days_to_dry, first_day, or_longest
from drylamp.core.loads.lumber.questions.queue import charges_in_a_year
from drylamp.core.loads.lumber.sheets.prices import PRICES, Prices
from drylamp.core.loads.lumber.spec import LumberCharge
from drylamp.core.text import amount
from drylamp.core.threads import two_at_a_time
from drylamp.core.units import BOARD_FOOT_M3

STARTS = (1, 3, 5, 7, 9, 11)
"""Months whose middles are run."""
HEATED_TIMES = 2.0
"""A heated, vented kiln takes so many times the latent heat of what it drives out; from memory (1.5 to 3)."""
FAN_HOURS_DAY = 8.0
"""Hours at full that a fan on mains runs while boards dry; those on a panel cost nothing. From memory."""


def money(context: AdviceContext, load: LumberCharge, around: Around) -> WoodMoney:
    """Cost of a board foot, value added, pay-back, and energy that a heated kiln would have taken.

    Raises
    ------
    InputProblem
        no prices were written down.
    """
    prices = latest(around.rows(PRICES))
    require(prices is not None, "prices", "no prices are written down for this kiln; write them on its sheet first")
    assert prices is not None
    fresh = load.afresh()
    days = two_at_a_time(lambda month: _days(context, fresh, month), STARTS) if prices.charges is None else [30.0]
    charges = prices.charges or charges_in_a_year(days, 0)
    m3 = charges * fresh.wood_m3
    parts = _parts(prices, m3, context.build, charges, days)
    cost = sum(parts.values())
    added = prices.dry_price * (1.0 - prices.lost_share) - prices.green_price - cost
    bought = prices.kiln_price + prices.built_hours * prices.wage_price
    earned = (added + parts["kiln"]) * m3
    payback = bought / earned if earned > 0.0 else None
    avoided = m3 / fresh.wood_m3 * _water_kg(fresh) * DRYING_LATENT_J_KG * HEATED_TIMES / 3.6e6
    return WoodMoney(
        charges=round(charges, 2), m3_a_year=round(m3, 3), parts={name: round(value, 2) for name, value in parts.items()}, cost_m3=round(cost, 2), cost_board_foot=round(cost * BOARD_FOOT_M3, 3),
        added_m3=round(added, 2), a_year=round(added * m3, 2), payback_years=None if payback is None else round(payback, 1), avoided_kwh=round(avoided, 0), words=_words(prices, charges, m3, cost, parts, added, payback),
        energy=f"A heated kiln would take about {amount(avoided, 'energy')} for that in a year (twice the latent heat, from memory): {amount(avoided * prices.kwh_price, 'price')} of electricity that is not bought.",
    )  # fmt: skip


def _days(context: AdviceContext, load: LumberCharge, month: int) -> float:
    """A charge from the middle of a month, by the group that the kiln waits for."""
    start = first_day(context).replace(month=month, day=15)
    return or_longest(days_to_dry(context.case.with_(load=load.thickest_alone), start))


def _parts(prices: Prices, m3: float, build: Build, charges: float, days: Sequence[float]) -> dict[str, float]:
    """Of a cubic metre."""
    built = prices.kiln_price + prices.built_hours * prices.wage_price
    running = min(charges * sum(days) / len(days), 365.0) * FAN_HOURS_DAY * build.bought_w / 1000.0
    return {
        "kiln": built / prices.lasts_years / m3, "work": build.hours_m3 * prices.wage_price, "electricity": running * prices.kwh_price / m3, "lost": prices.lost_share * prices.green_price,
    }  # fmt: skip


def _water_kg(load: LumberCharge) -> float:
    return sum(group.dry_kg * max(group.mean_mc - group.target_mc, 0.0) for group in load.groups)


def _words(
    prices: Prices, charges: float, m3: float, cost: float, parts: dict[str, float], added: float, payback: float | None
) -> str:
    most = max(parts, key=lambda name: parts[name])
    said = {"kiln": "the kiln itself", "work": "work", "electricity": "electricity", "lost": "wood lost to checks"}
    first = f"Drying costs {amount(cost * BOARD_FOOT_M3, 'price')} a board foot, {amount(cost, 'price')} a cubic metre, most of it {said[most]}; {charges:.1f} charges make {amount(m3, 'timber')} a year."
    if added <= 0.0 or payback is None:
        return f"{first} Green wood and drying come to more than dry wood fetches, by {amount(-added, 'price')} a cubic metre: it does not pay for itself in money."
    late = f", longer than the {prices.lasts_years:.0f} that it lasts" if payback > prices.lasts_years else ""
    return f"{first} A cubic metre gains {amount(added, 'price')} over green wood, {amount(added * m3, 'price')} a year: the kiln is earned in {payback:.1f} years{late}."
