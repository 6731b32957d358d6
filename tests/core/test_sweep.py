"""Sweeps: the same answers as one by one, whoever does the work; energy closes; more insulation never cools."""

from concurrent.futures import ThreadPoolExecutor
from datetime import date

import numpy as np
import pytest

from drylamp.core.common.wall import WallLayer
from drylamp.core.sky.generator import made_up_weather
from drylamp.core.sky.of_span import weather_of
from drylamp.core.sky.weather import Span
from drylamp.core.sweep import ready, run_design, run_designs, sweep
from drylamp.demo.scenario import OVEN, TERRACE
from tests.posing import simulated


@pytest.fixture(scope="module")
def week():
    records = made_up_weather(TERRACE, date(2025, 6, 1), 12, seed=2, step_s=60)
    return weather_of(TERRACE, records, Span(start=date(2025, 6, 3), days=7, step_s=60))


def thicker(metres: float):
    wall = [OVEN.wall[0], WallLayer(material="sheep-wool", thickness_m=metres), OVEN.wall[-1]]
    return OVEN.model_copy(update={"wall": wall})


def test_every_worker_gives_the_same(week):
    designs = [OVEN, thicker(0.02), thicker(0.08)]
    at = ready(TERRACE, "terrace", week)
    alone, together = [run_design(build, at) for build in designs], run_designs(designs, at)
    for workers in (1, 3):
        with ThreadPoolExecutor(workers) as threads:
            shared = sweep(TERRACE, "terrace", designs, week, threads)
        for one, other in zip(together, shared, strict=True):
            assert all((one.temperature_c[node] == other.temperature_c[node]).all() for node in one.temperature_c)
            assert one.account_kwh == other.account_kwh
    for one, other in zip(alone, together, strict=True):
        assert (
            max(float(abs(one.temperature_c[node] - other.temperature_c[node]).max()) for node in one.temperature_c)
            < 0.02
        )
    assert max(found.energy_closure for found in alone) < 1e-9
    assert max(alone[2].temperature_c["tray"]) > max(alone[1].temperature_c["tray"])


def test_a_sweep_is_the_twin_kept_by_the_hour(week):
    """The same week by the twin's own run, minute by minute."""
    kept = run_design(OVEN, ready(TERRACE, "terrace", week))
    run = simulated(TERRACE, "terrace", OVEN, None, week)
    for node in ("tray", "walls", "cover-1", "shell"):
        assert np.abs(run.temperature_c[node][::60] - kept.temperature_c[node]).max() < 0.2
    for account in ("cover", "walls", "leak"):
        whole = float(run.account_w[account].sum()) * week.dt_s / 3.6e6
        assert kept.account_kwh[account] == pytest.approx(whole, rel=0.01)


def test_polar_night_sweeps_without_sun():
    north = TERRACE.model_copy(update={"latitude_deg": 78.0, "longitude_deg": 15.0})
    records = made_up_weather(north, date(2025, 12, 1), 6)
    dark = weather_of(north, records, Span(start=date(2025, 12, 3), days=2, step_s=60))
    found = sweep(north, None, [OVEN], dark)[0]
    assert found.sun_kwh == 0.0
    assert all(np.isfinite(series).all() for series in found.temperature_c.values())
    assert max(found.temperature_c["tray"]) < dark.air_c.max() + 1.0
