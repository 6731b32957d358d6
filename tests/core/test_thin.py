"""Fewer points that draw like all of them, and means that keep what they stand for."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from drylamp.core.trials.thin import thin_by_means, thin_for_eye


@given(
    st.lists(st.floats(-100, 400), min_size=1, max_size=3000),
    st.integers(50, 800),
    st.sampled_from([1.0, 5.0, 60.0]),
)
def test_every_extreme_of_the_whole_and_both_ends_stay(values: list[float], points: int, pause: float):
    value, time = np.array(values), pause * np.arange(len(values))
    kept = thin_for_eye(time, value, points)
    assert len(kept) <= max(points, 4)
    assert (np.diff(kept) > 0).all()
    assert value[kept].min() == value.min()
    assert value[kept].max() == value.max()
    assert kept[0] == 0
    assert kept[-1] == len(values) - 1


def test_every_slot_keeps_its_own_spike():
    time, value = np.arange(10_000.0), np.zeros(10_000)
    spikes = [123, 4567, 9001]
    value[spikes] = (5.0, -7.0, 3.0)
    kept = thin_for_eye(time, value, 400)
    assert set(spikes) <= set(kept.tolist())


def test_gaps_in_time_and_missing_values_do_not_hide_the_rest():
    time = np.concatenate([np.arange(2000.0), 1e6 + np.arange(2000.0)])
    value = np.where(np.arange(4000) % 7 == 0, np.nan, np.arange(4000.0))
    kept = thin_for_eye(time, value, 200)
    assert np.nanmax(value[kept]) == np.nanmax(value)
    assert np.nanmin(value[kept]) == np.nanmin(value)


def test_few_points_stay_as_they_are():
    assert thin_for_eye(np.arange(5.0), np.arange(5.0), 50).tolist() == [0, 1, 2, 3, 4]
    time, value = thin_by_means(np.arange(5.0), np.arange(5.0), 50)
    assert value.tolist() == [0, 1, 2, 3, 4]
    assert time.tolist() == [0, 1, 2, 3, 4]


@pytest.mark.parametrize("points", [100, 700])
def test_means_keep_the_mean_of_what_they_stand_for(points: int):
    time = 2.0 * np.arange(36_000)
    value = 60 + 20 * np.sin(time / 9000)
    at, mean = thin_by_means(time, value, points)
    assert len(at) <= points + 1
    assert mean.mean() == pytest.approx(value.mean(), abs=0.3)
    assert np.abs(mean - (60 + 20 * np.sin(at / 9000))).max() < 1.0
