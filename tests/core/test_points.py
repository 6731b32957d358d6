"""Points that are kept beside the code are those that scipy makes."""

import numpy as np
import pytest

from drylamp.core.optics.points import KEPT, made, sobol


@pytest.mark.parametrize(("seed", "dimensions", "count"), KEPT)
def test_kept_points_are_scipys(seed, dimensions, count):
    assert np.array_equal(sobol(seed, dimensions, count), made(seed, dimensions, count))
    assert np.array_equal(sobol(seed, dimensions, 64), made(seed, dimensions, 64))


def test_more_points_than_are_kept_are_made():
    assert sobol(20, 2, 256).shape == (256, 2)
