"""Sums about a household's water: heat balances on paper, and what is refused."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st
from pydantic import ValidationError
from scipy.integrate import quad

from drylamp.core.sums import find_sum
from drylamp.core.sums.household import (
    DrawIn,
    PeopleIn,
    PreheatIn,
    RainIn,
    draw_mix,
    people_water,
    pre_heat,
    rain_water,
)
from drylamp.core.sums.water import MixIn, mix

DRAW = {"drawn_l": 15.0, "first_c": 70.0, "last_c": 54.0, "cold_c": 13.0, "want_c": 40.0}
PRE = {"litres_a_day": 100.0, "mains_c": 12.0, "preheated_c": 42.0, "set_c": 55.0}
RAIN = {"roof_m2": 40.0, "rain_mm": 60.0, "barrel_l": 300.0, "use_l": 40.0}


def test_a_falling_draw_that_stays_warm_is_the_mixing_sum_of_its_mean():
    """15 l falling from 70 to 54 °C with mains at 13 °C: as 15 l at 62 °C mixed (heat balance)."""
    found = draw_mix(DrawIn(**DRAW))
    assert found.total_l == pytest.approx(mix(MixIn(hot_l=15.0, hot_c=62.0, cold_c=13.0, want_c=40.0)).total_l)
    assert found.total_l == pytest.approx(15.0 * 49.0 / 27.0)
    assert (found.warm_l, found.mean_c, found.too_cool_l) == (15.0, 62.0, 0.0)


@given(
    first=st.floats(45, 90), fall=st.floats(0, 60), cold=st.floats(2, 20), over=st.floats(1, 20), litres=st.floats(1, 200)
)  # fmt: skip
def test_it_is_the_integral_over_what_is_warm_enough(first, fall, cold, over, litres):
    want, last = cold + over, max(first - fall, cold)
    found = draw_mix(DrawIn(drawn_l=litres, first_c=first, last_c=last, cold_c=cold, want_c=want))
    warm = lambda v: first - (first - last) * v / litres  # noqa: E731
    until = found.warm_l
    total, _ = quad(lambda v: (warm(v) - cold) / (want - cold), 0.0, until)
    assert found.total_l == pytest.approx(total, rel=1e-6)
    assert until == pytest.approx(litres) or warm(until) == pytest.approx(want, abs=1e-6)


@given(st.floats(13.5, 69.0))
def test_warmer_wanted_is_never_more(want):
    cooler = draw_mix(DrawIn(**{**DRAW, "want_c": want}))
    warmer = draw_mix(DrawIn(**{**DRAW, "want_c": min(want + 1.0, 70.0)}))
    assert warmer.total_l <= cooler.total_l + 1e-9


@pytest.mark.parametrize(
    ("sum_name", "inputs", "says"),
    [
        ("draw-mix", {**DRAW, "want_c": 75.0}, "want_c 75 must lie above cold_c 13 and up to first_c 70"),
        ("draw-mix", {**DRAW, "last_c": 80.0}, "a draw does not get warmer"),
        ("draw-mix", {**DRAW, "drawn_l": 0.0}, "greater than 0"),
        ("pre-heat", {**PRE, "set_c": 10.0}, "set_c 10 must lie above mains_c 12"),
        ("pre-heat", {**PRE, "heater_efficiency": 1.5}, "less than or equal to 1"),
        ("rain-water", {**RAIN, "rain_mm": -1.0}, "greater than or equal to 0"),
    ],
)
def test_what_cannot_be_is_refused_with_what_may(sum_name, inputs, says):
    with pytest.raises(ValidationError, match=says):
        find_sum(sum_name).run(inputs)


def test_only_heat_that_arrives_counts():
    """100 l lifted by 30 K is 3.48 kWh; through a heater of 0.85, so many days, so much a kWh."""
    found = pre_heat(PreheatIn(**PRE, heater_efficiency=0.85, price_per_kwh=0.3, days=180.0))
    assert found.delivered_kwh_a_day == pytest.approx(100.0 * 4180.0 * 30.0 / 3.6e6, rel=0.003)
    assert found.spared_share == pytest.approx(30.0 / 43.0)
    assert found.paid_kwh_a_year == pytest.approx(180.0 * found.delivered_kwh_a_day / 0.85)
    assert found.spared_a_year == pytest.approx(0.3 * found.paid_kwh_a_year)
    assert not found.mix_down


def test_over_the_heaters_setting_it_spares_nothing_more():
    hot, at_set = (pre_heat(PreheatIn(**{**PRE, "preheated_c": c})) for c in (80.0, 55.0))
    assert hot.spared_a_year == at_set.spared_a_year
    assert hot.spared_share == 1.0
    assert hot.mix_down
    cold = pre_heat(PreheatIn(**{**PRE, "preheated_c": 5.0}))
    assert cold.delivered_kwh_a_day == cold.spared_share == 0.0


def test_rain_off_a_roof_is_a_litre_a_square_metre_and_millimetre():
    found = rain_water(RainIn(**RAIN, runoff_share=0.8, dry_days=0.0, price_m3=4.0))
    assert found.caught_l == pytest.approx(1920.0)
    assert found.barrel_days == 7.5
    assert found.used_l == pytest.approx(1216.0), "no more than is wanted"
    assert found.covered_share == pytest.approx(1.0)
    assert found.spared_a_month == pytest.approx(4.864)


def test_a_barrel_that_runs_dry_covers_less():
    long, short = (rain_water(RainIn(**RAIN, dry_days=d)) for d in (20.0, 5.0))
    assert short.covered_share == pytest.approx(1.0)
    assert long.covered_share == pytest.approx((30.4 - 12.5) / 30.4)
    none = rain_water(RainIn(**{**RAIN, "rain_mm": 0.0}))
    assert (none.caught_l, none.spared_a_month) == (0.0, 0.0)


def test_people_use_what_their_showers_and_baths_hold():
    """Four short showers and hands: 140 l at 40 °C are 91 l out of a store at 55 °C with cold at 12 °C (heat balance)."""
    found = people_water(PeopleIn(persons=4))
    assert found.warm_l == pytest.approx(140.0)
    assert found.store_l == pytest.approx(140.0 * 28.0 / 43.0)
    assert mix(MixIn(hot_l=found.store_l, hot_c=55.0, cold_c=12.0, want_c=40.0)).total_l == pytest.approx(found.warm_l)
    assert found.heat_kwh == pytest.approx(140.0 * 4180.0 * 28.0 / 3.6e6, rel=0.003)
    assert people_water(PeopleIn(persons=0, baths=2)).warm_l == 240.0
    with pytest.raises(ValidationError, match="a cooler store makes none of it"):
        find_sum("people-water").run({"persons": 2, "store_c": 35.0})
