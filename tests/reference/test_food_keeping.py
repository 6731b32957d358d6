"""Baskets and jars by hand, and mould by what is usual of it."""

from __future__ import annotations

import numpy as np
import pytest

from drylamp.core.checks import InputProblem
from drylamp.core.loads.common.food.basket import fits_m2, of_bucket, of_kilograms
from drylamp.core.loads.common.food.mould import NEAR, days_to_mould, mould_share, warmth
from drylamp.core.tables import produce


def test_twelve_kilograms_of_figs_by_hand():
    """2 % stalks; 20.9 % dry matter, kept at 20 % water: 11.76 kg prepared, 2.458 kg of dry matter, 3.072 kg dried."""
    made = of_kilograms(produce()["fig"], 12.0)
    assert made.prepared_kg == pytest.approx(11.76)
    assert made.dried_kg == pytest.approx(11.76 * 0.209 / 0.8)
    assert made.water_kg + made.dried_kg == pytest.approx(made.prepared_kg)
    assert made.tray_m2 == pytest.approx(11.76 / 5.0)


def test_a_bucket_of_apples_and_what_trays_hold():
    apple = produce()["apple"]
    assert of_bucket(apple, 10.0).fresh_kg == pytest.approx(3.0)
    held = fits_m2(apple, 0.5)
    assert held.tray_m2 == pytest.approx(0.5)
    assert 0.08 < held.dried_kg / held.fresh_kg < 0.25, (
        "an eighth of apples is left, or so (common practice, no source)"
    )


@pytest.mark.parametrize("name", list(produce()))
def test_every_food_loses_most_of_its_weight_and_fills_fewer_jars_than_baskets(name: str):
    made = of_kilograms(produce()[name], 1.0)
    assert 0.02 < made.dried_kg < 0.6
    assert made.jars_l < 1000.0 / produce()[name].bulk_kg_m3 * 1.5


@pytest.mark.parametrize(
    "ask", [lambda row: of_kilograms(row, 0.0), lambda row: of_bucket(row, -1.0), lambda row: fits_m2(row, 0.0)]
)
def test_nothing_is_refused_with_a_sentence(ask):
    with pytest.raises(InputProblem, match="allowed is above 0"):
        ask(produce()["fig"])


# --- mould ---


def test_mould_is_fastest_near_28_and_none_grows_in_cold_or_heat():
    found = warmth(np.array([0.0, 5.0, 15.0, 28.0, 41.0, 42.0, 55.0]))
    assert found[3] == pytest.approx(1.0)
    assert list(found[[0, 1, 5, 6]]) == [0.0] * 4
    assert 0.0 < found[4] < found[2] < 1.0


@pytest.mark.parametrize(("activity", "least", "most"), [(0.98, 1.0, 3.0), (0.85, 6.0, 14.0), (0.75, 28.0, 60.0)])
def test_days_to_mould_at_25_degrees(activity: float, least: float, most: float):
    """Usual figures (after Ayerst 1969, from memory)."""
    assert least < float(days_to_mould(np.array(activity), np.array(25.0))) < most


def test_dry_food_keeps_and_a_hot_dryer_stops_the_clock():
    assert np.isinf(days_to_mould(np.array(0.60), np.array(25.0)))
    assert np.isinf(days_to_mould(np.array(0.98), np.array(55.0)))
    assert float(days_to_mould(np.array(0.9), np.array(12.0))) > float(days_to_mould(np.array(0.9), np.array(25.0)))


def test_a_wet_tray_through_two_mild_days_is_warned_of_and_a_dry_one_is_not():
    hours = np.full(48, 22.0)
    wet, dry = (mould_share(np.full(48, activity), hours, 3600.0) for activity in (0.95, 0.6))
    assert wet[-1] > NEAR
    assert dry[-1] == 0.0
    assert (np.diff(wet) > 0.0).all()
