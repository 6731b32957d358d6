"""What is asked of food on trays."""

from __future__ import annotations

import math
from collections.abc import Sequence
from datetime import date, timedelta

import numpy as np

from drylamp.core.advice.context import AdviceContext
from drylamp.core.advice.drying import (
    BasketAnswer,
    BatchAhead,
    NightWay,
    NightWays,
    TrayChance,
    WeekMonth,
    WeekYear,
)
from drylamp.core.advice.loops import Instead
from drylamp.core.air.constants import KWH_J
from drylamp.core.checks import require
from drylamp.core.loads.common.food.basket import of_bucket, of_kilograms
from drylamp.core.loads.food_trays.outcome import DryingResult, DryingResults, results
from drylamp.core.loads.food_trays.spec import DRYING, PRIOR_SD, FoodOnTray, FoodTrays, Night
from drylamp.core.sky.clock import local_time
from drylamp.core.sky.generator import ensemble
from drylamp.core.sky.of_span import weather_of
from drylamp.core.sky.weather import Span, Weather
from drylamp.core.tables import find, produce
from drylamp.core.text import amount, counted, kilograms, kilowatt_hours, month_name
from drylamp.core.threads import two_at_a_time
from drylamp.core.twin.case import Case, climate_day
from drylamp.core.twin.prepared import simulate
from drylamp.core.twin.run import Run

BATCH_DAYS, MEMBERS, STEP_S, SHOWN_S = 6, 12, 300, 3600.0
"""Days that are looked ahead from the one on which the last of it goes in, and made-up weeks."""
MOST_LATER = 8
"""Days after the first on which the last of it may go in."""
WEEK_MEMBERS, WEEK_DAYS = 2, 7
SEED = 11
NIGHTS: dict[Night, str] = {
    "left": "left in the dryer",
    "covered": "left in it, vents stuffed",
    "taken-in": "taken indoors",
}
ELECTRIC_SHARE = 0.35
"""Of the heat of a small electric dryer that ends in evaporating water; from memory."""
LATENT_KWH_KG = 2.4e6 / KWH_J
FULL_WEEK = 7.0


def _span(load: FoodTrays, first: date) -> Span:
    """From the first of it going in to some days after the last.

    Raises
    ------
    InputProblem
        the last goes in much later.
    """
    later = max(food.day for food in load.foods) - min(food.day for food in load.foods)
    require(
        later <= MOST_LATER, "load.foods",
        f"the last of it goes in {counted(later, 'day')} after the first; up to {MOST_LATER} are looked ahead, so ask about what goes in by then",
    )  # fmt: skip
    return Span(start=first, days=later + BATCH_DAYS, step_s=STEP_S)


def _weeks(case: Case, span: Span, members: int) -> list[tuple[Case, Weather]]:
    """A case on made-up weather that could equally well be."""
    found = ensemble(case.site, span.start - timedelta(days=1), span.days + 2, members, SEED)
    return [(case.with_(span=span), weather_of(case.site, records, span)) for records in found]


def _as_doubtful(case: Case, member: int) -> Case:
    """The same with food that gives up its water faster or slower than the table says, as far as that is doubtful: members spread evenly over its chances, in no order."""
    from scipy.special import ndtri  # slow to import, and only this asks for it

    place = (5 * member + 2) % MEMBERS
    factor = math.exp(PRIOR_SD * float(ndtri((place + 0.5) / MEMBERS)))
    own = case.calibration
    return case.with_(calibration=own.with_factor(DRYING, own.of(DRYING) * factor))


def _dried(case: Case, weather: Weather) -> DryingResult:
    """What became of its batch."""
    return _drying(case, simulate(case, weather))


def _all_dry_h(found: DryingResult) -> float:
    """Hours from the first tray going in until the last is dry; infinite where one is not by the end."""
    if found.done_at is None:
        return math.inf
    return (found.done_at - min(tray.went_in for tray in found.trays)).total_seconds() / 3600.0


def _drying(case: Case, run: Run) -> DryingResult:
    assert isinstance(case.load, FoodTrays)
    found = results(case.site, case.load, run)
    assert isinstance(found, DryingResults)
    assert found.drying is not None
    return found.drying


def batch(context: AdviceContext, load: FoodTrays) -> BatchAhead:
    """A batch over the days to come: under a usual clear sky, and over made-up weeks."""
    first = local_time(context.case.site.zone, context.weather.start_s).date()
    span = _span(load, first)
    usual = context.case.with_(span=span)
    plain = simulate(usual, weather_of(usual.site, climate_day(usual.site, first), span))
    weeks = [(_as_doubtful(case, k), weather) for k, (case, weather) in enumerate(_weeks(context.case, span, MEMBERS))]
    found = two_at_a_time(lambda pair: _dried(*pair), weeks)
    clear = _drying(usual, plain)
    stride = max(1, round(SHOWN_S / STEP_S))
    shown = np.arange(0, len(plain.edge_s), stride)
    trays = [_tray(k, food, clear, found, plain, shown) for k, food in enumerate(load.numbered)]
    all_done = [_all_dry_h(one) for one in found]
    chance = float(np.mean(np.isfinite(all_done)))
    mould = float(np.mean([any(tray.mould == "over" for tray in one.trays) for one in found]))
    return BatchAhead(
        times=[local_time(usual.site.zone, plain.edge_s[i]) for i in shown], trays=trays, days=span.days, chance=chance, mould_chance=mould,
        words=_batch_words(span.days, all_done, clear, mould),
    )  # fmt: skip


def _tray(
    k: int, food: FoodOnTray, clear: DryingResult, found: Sequence[DryingResult], plain: Run, shown: np.ndarray
) -> TrayChance:
    node = clear.trays[k].node
    assert plain.damp is not None
    kg = plain.damp.held_kg[node][shown]
    hours = np.array([one.trays[k].hours or math.inf for one in found])

    def at(share: float) -> float | None:
        value = float(np.quantile(hours, share, method="higher"))
        return round(value, 1) if math.isfinite(value) else None

    return TrayChance(
        title=clear.trays[k].title, target_kg=food.target_kg, likely_h=at(0.5), early_h=at(0.1), late_h=at(0.9), chance=float(np.mean(np.isfinite(hours))),
        moisture_wb=[None if np.isnan(w) else round(float(w / (w + food.dry_kg)), 4) for w in kg], done_at=clear.trays[k].done_at,
    )  # fmt: skip


def _batch_words(ahead: int, hours: list[float], clear: DryingResult, mould: float) -> str:
    done = [h for h in hours if math.isfinite(h)]
    days = [math.ceil((h + 9.0) / 24.0) for h in done]
    sunny = f"Under a clear sky: {clear.words}" if clear.done_at else "Even under a clear sky it is not dry by then."
    if not done:
        chance = f"In none of {counted(len(hours), 'made-up week')} is it dry within {counted(ahead, 'day')}."
    else:
        middle, late = sorted(days)[len(days) // 2], sorted(days)[min(int(0.9 * len(days)), len(days) - 1)]
        never = len(hours) - len(done)
        short = f"; in {never} of them not within {counted(ahead, 'day')}" if never else ""
        chance = f"Over {len(hours)} made-up weeks: dry on day {middle} as a rule, by day {late} in nine of ten{short}."
    spoils = (
        f" Mould gets ahead of it in {100 * mould:.0f} % of them: lay it thinner, or finish it indoors."
        if mould > 0.05
        else ""
    )
    return f"{sunny} {chance}{spoils}"


def nights(context: AdviceContext, load: FoodTrays) -> NightWays:
    """Leave it in, stuff the vents, or take it indoors: on days like this."""
    first = local_time(context.case.site.zone, context.weather.start_s).date()
    span = _span(load, first)
    weather = weather_of(context.case.site, climate_day(context.case.site, first), span)

    def one(night: Night) -> NightWay:
        case = context.case.with_(span=span, load=load.model_copy(update={"night": night}))
        found = _dried(case, weather)
        last = _all_dry_h(found)
        worst = max(tray.mould_share for tray in found.trays)
        return NightWay(
            night=night,
            title=NIGHTS[night],
            hours=last if math.isfinite(last) else None,
            regained_g=sum(tray.regained_g for tray in found.trays),
            mould_share=worst,
        )

    ways = two_at_a_time(one, NIGHTS)
    return NightWays(ways=ways, words=_night_words(ways))


def _night_words(ways: list[NightWay]) -> str:
    timed = [way for way in ways if way.hours is not None]
    best = min(timed, key=lambda way: way.hours or math.inf) if timed else min(ways, key=lambda way: way.mould_share)
    left = next(way for way in ways if way.night == "left")
    said = (
        f"{best.title.capitalize()} is best here" if best.night != "left" else "Leave it in: nothing gained by carrying"
    )
    won = (
        ""
        if best.hours is None or left.hours is None or best.night == "left"
        else f", {left.hours - best.hours:.0f} hours sooner than left in"
    )
    back = (
        f"; left in, it takes {kilograms(left.regained_g / 1000.0)} of water back"
        if left.regained_g >= 1.0
        else "; it takes hardly any water back left in"
    )
    return f"{said}{won}{back}. On a damp or rainy night take it in whatever is said here."


def weekly(context: AdviceContext, load: FoodTrays, wanted_kg: float, month: int) -> WeekYear:
    """Kilograms a week by the month, and the size for so much in one of them; all of a filling is laid in together."""
    whole = context.case.with_(load=_together(load))
    year = local_time(context.case.site.zone, context.weather.start_s).year
    months = two_at_a_time(lambda m: _month(whole, load.amount_kg, date(year, m, 10)), range(1, 13))
    here = months[month - 1]
    times = wanted_kg / here.kg_week if here.kg_week > 0.0 else None
    from_spec = context.build.shelves_m2
    trays = None if times is None or not from_spec else math.ceil(times * len(from_spec))
    area = None if times is None else times * context.build.opening_m2
    return WeekYear(
        months=months, wanted_kg=wanted_kg, month=month, times=times, collector_m2=area, trays=trays, words=_week_words(load, months, wanted_kg, month, (times, area, trays))
    )  # fmt: skip


def _together(load: FoodTrays) -> FoodTrays:
    foods = [food.model_copy(update={"day": 1, "out_day": None}) for food in load.foods]
    return load.model_copy(update={"foods": foods})


def _month(laid: Case, filling_kg: float, day: date) -> WeekMonth:
    days = []
    for case, weather in _weeks(laid, Span(start=day, days=WEEK_DAYS, step_s=STEP_S), WEEK_MEMBERS):
        days.append((_all_dry_h(_dried(case, weather)) + 9.0) / 24.0)
    mean = float(np.mean([1.0 / math.ceil(d) if math.isfinite(d) else 0.0 for d in days]))
    return WeekMonth(
        month=day.month, days=1.0 / mean if mean > 0.0 else None, kg_week=round(filling_kg * FULL_WEEK * mean, 2)
    )


def _week_words(
    load: FoodTrays,
    months: list[WeekMonth],
    wanted: float,
    month: int,
    size: tuple[float | None, float | None, int | None],
) -> str:
    best = max(months, key=lambda m: m.kg_week)
    times, area, trays = size
    year = f"Most in {month_name(best.month)}: {kilograms(best.kg_week)} of {load.title} a week, as laid on the trays."
    if times is None or area is None:
        return f"{year} In {month_name(month)} it does not dry within a week."
    if times <= 1.0:
        return f"{year} {kilograms(wanted)} a week in {month_name(month)} fit this dryer."
    by_trays = "" if trays is None else f" and {trays} such trays"
    return f"{year} For {kilograms(wanted)} a week in {month_name(month)}: {times:.1f} times this dryer, {amount(area, 'area')} of glass{by_trays}; or {counted(math.ceil(times), 'filling')} one after the other."


def basket(context: AdviceContext, load: FoodTrays, food: str, litres: float | None, kg: float | None) -> BasketAnswer:
    """A bucket or some kilograms, on this dryer's trays, into jars.

    Raises
    ------
    InputProblem
        the food is unknown, or neither litres nor kilograms were given.
    """
    find(produce(), food, "food")
    row = produce()[food]
    require(litres is not None or kg is not None, "litres", "neither litres nor kilograms were given; give one of them")
    found = of_bucket(row, litres) if litres is not None else of_kilograms(row, kg or 0.0)
    areas = context.build.shelves_m2
    whole = sum(areas)
    fillings = max(1, math.ceil(found.tray_m2 / whole - 1e-9)) if whole > 0.0 else 1
    each = whole / len(areas) if areas else 1.0
    title = row.title.split(",")[0].lower()
    words = (
        f"{kilograms(found.fresh_kg)} of {title} as picked are {kilograms(found.prepared_kg)} on the trays: {found.tray_m2 / each:.1f} of them, "
        f"{counted(fillings, 'filling')}. {kilograms(found.dried_kg)} dry, {amount(found.jars_l, 'volume')} in jars; {found.minutes / 60.0:.1f} hours with the knife. Done when {row.feel}; "
        f"leave it a week in a loose jar and shake it daily, then shut it; keeps {row.storage_months:.0f} months, cool and dark."
    )
    return BasketAnswer(
        food=title, fresh_kg=found.fresh_kg, prepared_kg=found.prepared_kg, tray_m2=found.tray_m2, trays=found.tray_m2 / each, fillings=fillings, water_kg=found.water_kg,
        dried_kg=found.dried_kg, jars_l=found.jars_l, hours=found.minutes / 60.0, storage_months=row.storage_months, feel=row.feel, words=words,
    )  # fmt: skip


def instead(context: AdviceContext, load: FoodTrays, dryer_kw: float, price_kwh: float) -> Instead:
    """What an electric dryer would take for the same batch."""
    water = sum(food.kg - food.target_kg for food in load.foods)
    dried = sum(food.target_kg for food in load.foods)
    heat = water * LATENT_KWH_KG / ELECTRIC_SHARE
    hours, cost = heat / dryer_kw, heat * price_kwh
    words = (
        f"An electric dryer of {amount(1000.0 * dryer_kw, 'power')} takes some {kilowatt_hours(heat)} for this batch, {hours:.0f} hours of running: the sun saves "
        f"{amount(cost, 'price')}, {amount(cost / dried, 'price')} for each dried kilogram."
    )
    return Instead(heat_kwh=water * LATENT_KWH_KG, pump_kwh=0.0, heater_h=hours, saved=cost, boils_h=hours, words=words)
