"""Drying curves: recovered from curves whose numbers are known (ASABE S448's forms), and a forecast that tightens."""

from __future__ import annotations

import numpy as np
import pytest

from drylamp.core.checks import InputProblem
from drylamp.core.trials.thin_layer import ThinLayerFit, moisture_ratio, thin_layer_fits

HOURS = np.arange(0.0, 13.0, 1.5)


def of(fits: list[ThinLayerFit], name: str) -> ThinLayerFit:
    return next(fit for fit in fits if fit.name == name)


@pytest.mark.parametrize(
    ("name", "ratio", "numbers"),
    [
        ("lewis", np.exp(-0.22 * HOURS), {"k": 0.22}),
        ("page", np.exp(-0.12 * HOURS**1.3), {"k": 0.12, "n": 1.3}),
        ("henderson-pabis", 1.08 * np.exp(-0.25 * HOURS), {"a": 1.08, "k": 0.25}),
    ],
)
def test_a_curve_is_recovered_from_itself(name, ratio, numbers):
    fits = thin_layer_fits(HOURS, ratio, wanted=0.1)
    mine = of(fits, name)
    assert fits[0].rmse <= mine.rmse <= 1e-6
    assert mine.r2 == pytest.approx(1.0, abs=1e-9)
    for key, value in numbers.items():
        assert mine.parameters[key] == pytest.approx(value, rel=1e-3)


def test_when_it_is_done_follows_from_the_curve():
    """−ln 0.1 / 0.22 hours."""
    mine = of(thin_layer_fits(HOURS, np.exp(-0.22 * HOURS), wanted=0.1), "lewis")
    assert mine.done_h == pytest.approx(-np.log(0.1) / 0.22, rel=1e-4)
    assert of(thin_layer_fits(HOURS, np.exp(-0.22 * HOURS)), "lewis").done_h is None
    assert of(thin_layer_fits(HOURS, np.exp(-0.22 * HOURS), wanted=1.2), "lewis").done_h is None


def noisy(count: int, seed: int = 5) -> ThinLayerFit:
    hours = HOURS[:count]
    ratio = np.exp(-0.15 * hours) * (1.0 + 0.01 * np.random.default_rng(seed).standard_normal(count))
    return of(thin_layer_fits(hours, ratio, wanted=0.1), "lewis")


def test_the_forecast_tightens_as_weights_come_in_and_holds_the_truth():
    few, many = noisy(4), noisy(9)
    assert many.done_doubt_h < few.done_doubt_h
    truth = -np.log(0.1) / 0.15
    inside = [abs(noisy(9, seed).done_h - truth) <= noisy(9, seed).done_doubt_h for seed in range(40)]
    assert np.mean(inside) > 0.8, "two standard deviations hold some nineteen of twenty"


def test_a_ratio_is_one_fresh_and_nothing_in_balance():
    assert moisture_ratio(np.array([6.0, 0.1]), 6.0, 0.1) == pytest.approx([1.0, 0.0])
    with pytest.raises(InputProblem, match="nothing to dry"):
        moisture_ratio(np.array([0.1]), 0.1, 0.2)


@pytest.mark.parametrize(
    ("hours", "ratio", "words"),
    [
        ([0, 1, 2], [1.0, 0.8, 0.6], "4 at least"),
        ([0, 1, 1, 2], [1.0, 0.8, 0.7, 0.6], "have to rise"),
        ([0, 1, 2, 3], [1.0, 0.8, -0.1, 0.2], "look at that weight again"),
        ([0, 1, 2, 3], [1.0, 1.02, 1.01, 1.05], "nothing has dried yet"),
    ],
)
def test_weighings_that_make_no_curve_are_refused_with_a_sentence(hours, ratio, words):
    with pytest.raises(InputProblem, match=words):
        thin_layer_fits(np.array(hours), np.array(ratio))
