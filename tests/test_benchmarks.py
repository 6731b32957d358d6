"""Benchmarks call the core by its names of today; nothing here is timed."""

from __future__ import annotations

from datetime import date

import numpy as np
from benchmarks.bench import by_scipy, march_alone, scene

from drylamp.core.heat.advance import advance
from drylamp.core.sky.of_span import weather_of
from drylamp.core.sky.weather import ClearDay, Span
from drylamp.demo.scenario import TERRACE


def test_the_marcher_alone_does_what_the_twin_does():
    network, drive = scene(
        weather_of(TERRACE, ClearDay(tmin_c=15, tmax_c=26), Span(start=date(2025, 6, 12))), hours=(6, 9)
    )
    first = np.full(len(network.nodes), 18.0)
    whole, alone = advance(network, first, drive), march_alone(network, first, drive)()
    np.testing.assert_array_equal(alone.temperature, whole.temperature_c)
    apart = by_scipy(network, first, drive, 1e-6, 1e-6)[-1] - whole.temperature_c[-1]
    assert np.abs(apart).max() < 0.1
