"""Designs marched in lanes are those marched alone."""

from __future__ import annotations

from concurrent.futures import ThreadPoolExecutor
from datetime import date

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from drylamp.core.builds.build import Build
from drylamp.core.common.wall import WallLayer
from drylamp.core.heat.abreast import advance_lanes, shape_of
from drylamp.core.heat.lanes import LANES, OF_GAPS, OF_KELVINS, OF_PLATES, _cube_root
from drylamp.core.heat.laws import PLATE_SWITCH
from drylamp.core.sky.generator import made_up_weather
from drylamp.core.sky.of_span import weather_of
from drylamp.core.sky.weather import Span, Weather
from drylamp.core.sweep import Ready, Stood, _blocks, ready, run_design, run_designs, sweep
from drylamp.core.twin.light import lit_network
from drylamp.demo.scenario import CHESTNUT_KILN, CREW_POT, DISH, FIG_DRYER, FUNNEL, OVEN, SKETCH_DRYER, STEW, TERRACE

WITHIN_K = 0.02


def designs(count: int) -> list[Build]:
    """Ovens that differ in tilt, wool, seal and facing."""
    return [
        OVEN.model_copy(
            update={
                "tilt_deg": 8.0 + 3.0 * k, "seal_gap_mm": 0.2 + 0.15 * (k % 5), "facing_deg": 150.0 + 9.0 * (k % 7),
                "wall": [OVEN.wall[0], WallLayer(material="sheep-wool", thickness_m=0.02 + 0.008 * k), OVEN.wall[-1]],
            }
        )
        for k in range(count)
    ]  # fmt: skip


@pytest.fixture(scope="module")
def cloudy() -> Weather:
    """Four days of gusts and clouds, minute by minute."""
    records = made_up_weather(TERRACE, date(2025, 3, 30), 8, seed=5, step_s=60)
    return weather_of(TERRACE, records, Span(start=date(2025, 4, 1), days=4, step_s=60))


@pytest.fixture(scope="module")
def at(cloudy: Weather) -> Ready:
    return ready(TERRACE, "terrace", cloudy)


def apart_k(one: Stood, other: Stood) -> float:
    assert one.temperature_c.keys() == other.temperature_c.keys()
    return max(float(np.abs(one.temperature_c[node] - other.temperature_c[node]).max()) for node in one.temperature_c)


def test_lanes_agree_with_one_alone_and_close(at: Ready):
    made = designs(7)
    for build, together in zip(made, run_designs(made, at), strict=True):
        alone = run_design(build, at)
        assert apart_k(together, alone) < WITHIN_K / 10
        assert together.energy_closure < 1e-12
        assert together.sun_kwh == pytest.approx(alone.sun_kwh)
        for account, kwh in alone.account_kwh.items():
            assert together.account_kwh[account] == pytest.approx(kwh, abs=1e-4)


def test_a_lane_does_not_depend_on_its_neighbours(at: Ready):
    made = designs(5)
    pair = run_designs(made[:2], at)
    five = run_designs(made[::-1], at)[::-1]
    assert apart_k(pair[0], five[0]) < 1e-9
    assert apart_k(pair[1], five[1]) < 1e-9


def test_what_has_another_shape_is_run_apart_and_order_is_kept(at: Ready):
    mixed = [OVEN, FUNNEL, *designs(2), OVEN.without_mirrors(), DISH]
    found = run_designs(mixed, at)
    for build, one in zip(mixed, found, strict=True):
        assert apart_k(one, run_design(build, at)) < WITHIN_K


def test_a_sweep_is_the_same_on_any_executor(cloudy: Weather):
    made = designs(3)
    with ThreadPoolExecutor(1) as single:
        one = sweep(TERRACE, "terrace", made, cloudy, single)
    two = sweep(TERRACE, "terrace", made, cloudy)
    assert all(apart_k(a, b) == 0.0 for a, b in zip(one, two, strict=True))
    assert sweep(TERRACE, "terrace", [], cloudy) == []


@pytest.mark.parametrize(
    ("build", "load"), [(FIG_DRYER, None), (SKETCH_DRYER, None), (CHESTNUT_KILN, None), (OVEN, STEW), (DISH, CREW_POT)]
)
def test_only_plain_networks_have_a_shape(at: Ready, build: Build, load):
    assert shape_of(lit_network(build, load, at.plan, at.skyline_deg).network) is None


def test_blocks_are_even_and_hold_no_more_than_there_are_lanes():
    shapes = ["a"] * (2 * LANES + 3) + [None, "b", None]
    blocks = _blocks(shapes)
    assert sorted(k for block in blocks for k in block) == list(range(len(shapes)))
    assert all(len({shapes[k] for k in block}) == 1 for block in blocks)
    mine = [len(block) for block in blocks if shapes[block[0]] == "a"]
    assert max(mine) <= LANES
    assert max(mine) - min(mine) <= 1
    assert [len(block) for block in blocks if shapes[block[0]] is None] == [1, 1]


@settings(max_examples=200)
@given(st.floats(PLATE_SWITCH, 3e10), st.floats(4.0, 300.0), st.floats(1.0, 600.0))
def test_cube_roots_are_good_where_the_laws_take_them(plate: float, kelvins: float, gap: float):
    for x, middle in ((plate, OF_PLATES), (kelvins, OF_KELVINS), (gap, OF_GAPS)):
        assert _cube_root(x, middle) == pytest.approx(x ** (1 / 3), rel=2e-3)


def test_too_many_or_uneven_records_are_refused(at: Ready):
    network = lit_network(OVEN, None, at.plan, at.skyline_deg).network
    first, sun = np.zeros(len(network.nodes)), np.zeros((len(at.drive.air_c), len(network.nodes)))
    with pytest.raises(ValueError, match="allowed are 1 to"):
        advance_lanes([network] * (LANES + 1), first, at.drive, [sun] * (LANES + 1), at.keep)
    with pytest.raises(ValueError, match="is a divisor of"):
        advance_lanes([network], first, at.drive, [sun], 7)
