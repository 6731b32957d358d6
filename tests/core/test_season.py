"""A build's year and what it is worth: sums by hand from the months, money to the cent, the ends of the season; and leaving it alone."""

from __future__ import annotations

import calendar
from dataclasses import replace
from datetime import date

import pytest
from pydantic import ValidationError

from drylamp.core.advice.context import AdviceContext
from drylamp.core.advice.made_of import made_of
from drylamp.core.advice.season import Household, SeasonMonth, WholeYear, _useful_days, two_places, whole_year
from drylamp.core.advice.unattended import unattended
from drylamp.core.builds.common.house.sheet import HOUSE, House
from drylamp.core.builds.common.house.use import BETTER, USE, Use
from drylamp.core.builds.sheet import Around
from drylamp.core.checks import InputProblem
from drylamp.core.long import whole
from drylamp.core.sky.of_span import weather_of
from drylamp.core.text import plain
from drylamp.core.twin.case import Case, climate_day, usual_case
from drylamp.demo.scenario import CHESTNUT_AND_POPLAR, CHESTNUT_KILN, FLAT_LOAF, FUNNEL, OVEN, STEW, TERRACE

DAY = date(2025, 6, 12)
HOUSE_OF = House(on=DAY, electricity_price=0.30, gas_price=0.12, wood_price=0.08)
HOME = Household(HOUSE_OF, Use(on=DAY, week_days=3.5))


def case_of(build, load) -> Case:
    return usual_case(TERRACE, "terrace", build, load, DAY)


@pytest.fixture(scope="module")
def year() -> WholeYear:
    return whole(whole_year(case_of(OVEN, STEW), HOME))


def test_a_year_is_the_sum_of_its_months(year: WholeYear):
    by_hand = 0.5 * sum(one.day_kwh * calendar.monthrange(2025, one.month)[1] for one in year.months)
    assert year.year_kwh == pytest.approx(by_hand, abs=0.006)
    assert year.low_kwh < year.year_kwh < year.high_kwh
    goes = sum(calendar.monthrange(2025, one.month)[1] * one.chance * 0.5 for one in year.months)
    assert year.goes == pytest.approx(goes, abs=0.06)


def test_summer_gives_more_than_winter_and_noon_more_than_night(year: WholeYear):
    july, january = year.months[6], year.months[0]
    assert july.day_kwh > 1.5 * january.day_kwh
    assert max(july.useful_w[10:16]) > 0.0
    assert july.useful_w[2] <= 0.0
    assert sum(july.useful_w) / 1000.0 == pytest.approx(july.day_kwh, rel=0.01), "hours add up to the day"


def test_money_is_right_to_the_cent(year: WholeYear):
    made = made_of(OVEN, [])
    assert year.spent == pytest.approx(made.price, abs=0.005)
    for one, price in zip(
        year.against, (0.30 / BETTER["electricity"], 0.12 / BETTER["gas"], 0.08 / BETTER["wood"]), strict=True
    ):
        assert one.saved == pytest.approx(year.year_kwh * price - 5.0, abs=0.006)
        if one.payback_years is not None:
            assert one.payback_years == pytest.approx(year.spent / (year.year_kwh * price - 5.0), rel=0.05)
    assert year.against[0].is_chosen


def test_work_a_bought_one_and_what_was_spent_count():
    use = Use(on=DAY, instead="wood", bought_price=200.0, spent_price=30.0, upkeep_price=0.0, lasts_years=10.0)
    home = Household(replace_price(HOUSE_OF, 10.0), use)
    found = whole(whole_year(case_of(OVEN, STEW), home))
    hours = made_of(OVEN, []).hours
    assert found.spent == pytest.approx(30.0 + 10.0 * hours, abs=0.005)
    assert found.against[0].title == "against bought firewood"
    assert found.against[-1].saved == pytest.approx((200.0 - found.spent) / 10.0, abs=0.005)
    assert found.running == 0.0


def replace_price(house: House, hour: float) -> House:
    return house.model_copy(update={"hour_price": hour})


def test_a_charge_of_weeks_has_no_chance_by_the_month():

    found = whole(whole_year(case_of(CHESTNUT_KILN, CHESTNUT_AND_POPLAR), HOME))
    assert all(one.chance is None for one in found.months)
    assert found.goes is None
    assert found.year_kwh > 100.0


def months(chances: list[float]) -> list[SeasonMonth]:
    return [SeasonMonth(month=k + 1, useful_w=[0.0] * 24, celsius=[0.0] * 24, day_kwh=0.0, low_kwh=0.0, high_kwh=0.0, chance=chance, goes=0.0) for k, chance in enumerate(chances)]  # fmt: skip


def test_the_season_ends_where_the_chance_passes_a_half():
    first, last = _useful_days(2025, months([0, 0, 0, 0, 0, 1, 1, 1, 0, 0, 0, 0]))
    assert first == date(2025, 5, 30)
    assert last == date(2025, 8, 29)
    assert _useful_days(2025, months([0.4] * 12)) == (None, None)
    assert _useful_days(2025, months([0.6] * 12)) == (date(2025, 1, 1), date(2025, 12, 31))


def test_a_season_goes_over_new_year_south_of_the_line():
    first, last = _useful_days(2025, months([1, 1, 0, 0, 0, 0, 0, 0, 0, 0, 0, 1]))
    assert (first, last) == (date(2025, 11, 29), date(2025, 3, 1))


def test_two_places_are_compared(year: WholeYear):
    more = year.model_copy(update={"place": "South", "year_kwh": year.year_kwh + 4.0})
    assert "South gives 4 kWh more in a year than Larkspur Terrace" in plain(two_places(year, more).words[0])


# --- the house ---


def test_hours_when_nobody_is_there():
    house = House(on=DAY, away_from="08:30", away_until="16:30")
    assert house.is_away("08:30")
    assert not house.is_away("16:30")
    assert not HOUSE_OF.is_away("12:00")
    with pytest.raises(ValidationError, match="one hour of two"):
        House(on=DAY, away_from="08:30")
    with pytest.raises(ValidationError, match="allowed is an hour after"):
        House(on=DAY, away_from="18:30", away_until="08:00")


def test_a_new_row_begins_with_what_holds():
    around = Around(TERRACE, DAY)
    assert HOUSE.fresh([House(on=DAY, gas_price=0.2)], around)["gas_price"] == 0.2
    assert USE.fresh([Use(on=DAY, week_days=6.0)], around)["week_days"] == 6.0
    assert len(HOUSE.page([HOUSE_OF], around).lines) == 1


# --- leaving it alone ---


def on(build, load) -> AdviceContext:
    case = case_of(build, load)
    return AdviceContext(case, weather_of(TERRACE, climate_day(TERRACE, DAY), case.span))


AWAY = House(on=DAY, away_from="09:00", away_until="17:00")


def test_a_turned_funnel_is_left_looking_where_it_does_best():
    context = on(FUNNEL, FLAT_LOAF)
    assert FUNNEL.turns_every_minutes is not None
    found = unattended(context, AWAY)
    best = found.best.spec
    assert best.turns_every_minutes is None
    still = FUNNEL.with_(turned_minutes=None)
    for aside in (-45.0, 45.0):
        other = still.turned_to(180.0 + aside, None)
        run = context.ready(other, FLAT_LOAF).run(goes_in=found.best.goes_in)
        assert found.best.score >= context.score_of(other, FLAT_LOAF, run).value - 1e-6
    assert found.attended.score >= found.best.score - 0.5
    assert found.best.goes_in in ("09:00", FLAT_LOAF.first_in)
    assert "Nobody is there from 09:00 to 17:00" in plain(found.words[0])


def test_what_nobody_turns_goes_in_before_leaving():
    found = unattended(on(OVEN, STEW), AWAY)
    assert found.best.spec == OVEN
    assert found.best.goes_in == "09:00"


def test_with_somebody_there_or_nothing_in_it_nothing_is_asked():
    with pytest.raises(InputProblem, match="somebody is there all day"):
        unattended(on(OVEN, STEW), HOUSE_OF)
    with pytest.raises(InputProblem, match="nothing is in this build"):
        unattended(replace(on(OVEN, STEW), case=case_of(OVEN, None)), AWAY)
