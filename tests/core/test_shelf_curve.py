"""Curves of what materials do, beside what is known of them without a curve."""

import numpy as np
import pytest

from drylamp.core.optics.covers import normal_transmittance
from drylamp.core.shelf_curve import does
from drylamp.core.tables import absorbers, covers, layers, mirrors

ROWS = [*absorbers().values(), *covers().values(), *mirrors().values(), *layers().values()]


@pytest.mark.parametrize("row", ROWS, ids=lambda row: row.name)
def test_more_of_what_hinders_never_helps(row):
    shares = np.array(does(row).shares)
    assert np.all(np.diff(shares) <= 0.002)
    assert 0.0 <= shares.min() <= shares.max() <= 1.0


def test_each_begins_with_what_its_row_says():
    paint, glass, foil = absorbers()["flat-black-paint"], covers()["window-glass"], next(iter(mirrors().values()))
    assert does(paint).shares[0] == pytest.approx(paint.absorptance, abs=0.001)
    assert does(glass).shares[0] == pytest.approx(normal_transmittance(glass), abs=0.001)
    assert does(glass).shares[-1] == pytest.approx(0.0, abs=0.001)
    assert does(foil).shares[0] == pytest.approx(foil.reflectance, abs=0.001)
    assert {does(row).shares[0] for row in layers().values()} == {1.0}


def test_a_selective_coat_keeps_more_when_hot_than_paint():
    """Duffie & Beckman 4.8: what shines off little heat gains with the temperature."""
    coats = sorted(absorbers().values(), key=lambda row: row.emittance)
    shiny, dull = next(c for c in coats if c.absorptance > 0.85), absorbers()["flat-black-paint"]
    assert shiny.emittance < 0.5 < dull.emittance
    assert does(shiny).shares[12] > does(dull).shares[12] + 0.1
