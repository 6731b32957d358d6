"""A finish that readings narrow: what one reading, many, and an error that they share make of it, against sums by hand."""

from __future__ import annotations

import numpy as np
import pytest

from drylamp.core.trials.narrowed import AT, Told, factors, weighed

PRIOR_SD = 0.4


def linear(slope: float, read_at: float, doubt: float, shared: float = 0.0) -> Told:
    """A reading that follows the factor's logarithm, and says that it is so much."""
    return Told(slope * PRIOR_SD * AT, slope * read_at, doubt, shared)


def test_without_readings_it_is_the_table_with_its_doubt():
    """A normal cut at 2.5 standard deviations keeps 0.955 of its spread."""
    found = weighed(PRIOR_SD, [])
    assert found.factor == pytest.approx(1.0)
    assert found.spread == pytest.approx(0.955 * PRIOR_SD, rel=0.01)
    assert np.diff(np.log(factors(PRIOR_SD))) == pytest.approx(PRIOR_SD * np.diff(AT))


@pytest.mark.parametrize("count", [1, 3, 10])
def test_readings_pull_as_a_normal_prior_and_normal_readings_do(count):
    """Mean μ = Σ(r/σ²) / (1/s² + n/σ²), spread 1/√(1/s² + n/σ²)."""
    read, doubt = 0.3, 0.25
    found = weighed(PRIOR_SD, [linear(1.0, read, doubt)] * count)
    weight = 1.0 / PRIOR_SD**2 + count / doubt**2
    assert np.log(found.factor) == pytest.approx(count * read / doubt**2 / weight, abs=0.01)
    assert found.spread == pytest.approx(weight**-0.5, rel=0.03)


def test_an_error_that_all_readings_share_is_not_averaged_away():
    """By hand: the covariance σ² I + c² 1 1ᵀ of n readings leaves σ²/n + c² (Sherman & Morrison)."""
    doubt, shared = 0.1, 0.2
    for count in (2, 8, 40):
        found = weighed(PRIOR_SD, [linear(1.0, 0.2, doubt, shared)] * count)
        left = 1.0 / (1.0 / PRIOR_SD**2 + 1.0 / (doubt**2 / count + shared**2))
        assert found.spread == pytest.approx(left**0.5, rel=0.03)
    assert found.spread > 0.9 * (1.0 / (1.0 / PRIOR_SD**2 + 1.0 / shared**2)) ** 0.5


def test_readings_that_the_twin_cannot_be_asked_about_are_left_out():
    lost = Told(np.full(len(AT), np.nan), 0.3, 0.1, 0.0)
    assert weighed(PRIOR_SD, [lost]).factor == weighed(PRIOR_SD, []).factor


def test_a_finish_lies_between_its_ends_and_says_how_likely_the_end_is():
    found = weighed(PRIOR_SD, [linear(1.0, 0.0, 0.2)])
    days = 20.0 / np.exp(PRIOR_SD * AT) * 86400.0
    done_s = found.between(days)
    told = found.summed(done_s, 40.0 * 86400.0)
    assert told.low_s < told.likely_s < told.high_s
    assert told.likely_s / 86400.0 == pytest.approx(20.0, rel=0.03)
    assert told.chance == pytest.approx(1.0, abs=0.01)
    soon = found.summed(done_s, 20.0 * 86400.0)
    assert soon.chance == pytest.approx(0.5, abs=0.05)
    assert soon.high_s is None, "not by then in nine cases of ten"
    assert found.summed(done_s, 5.0 * 86400.0).likely_s is None


def test_series_are_laid_between_factors_along_their_first_axis():
    found = weighed(PRIOR_SD, [])
    series = np.stack([np.full(4, log) for log in PRIOR_SD * AT])
    laid = found.between(series)
    assert laid.shape == (len(found.fine), 4)
    assert laid[:, 0] == pytest.approx(found.fine)
