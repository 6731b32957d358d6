"""What must be true of every dryer, whatever it is made of and whatever lies in it."""

from __future__ import annotations

from datetime import date

import numpy as np
import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from drylamp.core.builds.common.air_collector.spec import AirCollector
from drylamp.core.builds.common.air_way.spec import Chimney, Fan, Inlet, Vent
from drylamp.core.builds.common.cover.spec import GlazedCover
from drylamp.core.builds.dryer.spec import FoodDryer, Trays
from drylamp.core.loads.common.food.piece import Piece, equilibrium
from drylamp.core.loads.food_trays.spec import FoodOnTray, FoodTrays, node_of, piece_of
from drylamp.core.sky.of_span import weather_of
from drylamp.core.sky.weather import ClearDay, Span
from drylamp.core.twin.case import Case
from drylamp.core.twin.prepared import simulate
from drylamp.core.twin.run import Run
from drylamp.demo.scenario import TERRACE

AUGUST = date(2025, 8, 20)
SLOWLY = settings(max_examples=25, deadline=None, derandomize=True, suppress_health_check=[HealthCheck.too_slow])
collectors = st.builds(
    AirCollector, width_m=st.floats(0.3, 1.5), length_m=st.floats(0.5, 3.0), absorber=st.sampled_from(["plate", "mesh", "screens"]), air=st.sampled_from(["over", "under", "both"]),
    gap_m=st.floats(0.01, 0.1), depth_m=st.floats(0.015, 0.15), cover=st.sampled_from([GlazedCover(), GlazedCover(layers=2)]),
)  # fmt: skip
dryers = st.builds(
    FoodDryer, facing_deg=st.floats(90.0, 270.0), tilt_deg=st.floats(5.0, 75.0), collector=collectors, cover=st.sampled_from([None, GlazedCover()]), trays=st.builds(Trays, count=st.integers(1, 6), bypass_share=st.floats(0.0, 0.8)),
    inlet=st.builds(Inlet, area_cm2=st.floats(30.0, 800.0)), vent=st.builds(Vent, area_cm2=st.floats(10.0, 800.0), open_share=st.floats(0.05, 1.0)), wind_share=st.floats(-0.5, 0.5), breathes=st.booleans(),
    chimney=st.sampled_from([None, Chimney()]), fan=st.sampled_from([None, Fan()]), leak_cm2=st.floats(0.0, 100.0),
)  # fmt: skip
foods = st.builds(
    FoodOnTray,
    tray=st.just(1),
    food=st.sampled_from(["fig", "tomato", "mint", "apple", "mushroom", "jerky"]),
    kg=st.floats(0.05, 2.0),
)
days = st.builds(
    ClearDay,
    tmin_c=st.floats(-5.0, 20.0),
    tmax_c=st.floats(21.0, 38.0),
    rh=st.floats(0.2, 0.95),
    wind_m_s=st.floats(0.0, 6.0),
    sky=st.sampled_from(["clear", "broken", "grey"]),
)


def ran(build: FoodDryer, load: FoodTrays, day: ClearDay, span_days: int = 2) -> Run:
    case = Case(site=TERRACE, build=build, load=load, weather=day, span=Span(start=AUGUST, days=span_days, step_s=120))
    return simulate(case, weather_of(TERRACE, day, case.span))


@SLOWLY
@given(dryers, foods, days)
def test_heat_and_water_close_and_nothing_runs_away(build: FoodDryer, food: FoodOnTray, day: ClearDay):
    load = FoodTrays(foods=[food])
    run = ran(build, load, day)
    assert run.damp is not None
    assert run.energy_closure < 1e-6
    assert run.damp.closure < 1e-6
    coldest = float(run.weather.sky_c.min())
    for node, series in run.temperature_c.items():
        assert np.nanmin(series) > coldest - 1.0, node
        assert np.nanmax(series) < 230.0, node
    for node, gram in run.damp.gram_kg.items():
        assert np.nanmin(gram) > 0.0, node
        assert np.nanmax(gram) < 400.0, node
    held = run.damp.held_kg["food-1"]
    assert np.nanmin(held) > 0.0
    assert np.nanmax(held) < food.kg * 1.3


@SLOWLY
@given(foods, st.floats(0.1, 0.9), st.floats(5.0, 45.0))
def test_food_left_alone_ends_at_its_isotherm_and_not_beyond(food: FoodOnTray, rh: float, celsius: float):
    """In the dark, in steady air, day after day."""
    thin = food.model_copy(update={"kg": 0.05, "slice_mm": 1.0})
    load = FoodTrays(foods=[thin])
    build = FoodDryer(facing_deg=180.0, collector=AirCollector(dirt_share=1.0), breathes=True, fan=Fan())
    steady = ClearDay(tmin_c=celsius, tmax_c=celsius + 0.01, rh=rh, wind_m_s=1.0, sky="grey")
    run = ran(build, load, steady, 6)
    assert run.damp is not None
    piece: Piece = piece_of(thin)
    moisture = run.damp.held_kg[node_of(load.numbered[0])] / thin.dry_kg
    rests = float(equilibrium(piece.stuff, rh))
    final = moisture[~np.isnan(moisture)][-1]
    assert final > rests * 0.7 - 0.02
    assert final <= max(piece.fresh, rests) * 1.05


def test_twice_as_much_food_gives_more_water_and_dries_no_sooner():
    day = ClearDay(tmin_c=14.0, tmax_c=26.0)
    build = FoodDryer(facing_deg=180.0)
    one, two = (
        ran(build, FoodTrays(foods=[FoodOnTray(tray=k, food="tomato", kg=kg) for k in (1, 2, 3)]), day)
        for kg in (0.4, 0.8)
    )

    def lost(run: Run) -> float:
        return sum(float(np.nanmax(kg) - kg[~np.isnan(kg)][-1]) for kg in run.mass_kg.values())

    assert lost(two) > lost(one)
    left = [
        run.mass_kg["food-1"][~np.isnan(run.mass_kg["food-1"])][-1] / np.nanmax(run.mass_kg["food-1"])
        for run in (one, two)
    ]
    assert left[1] >= left[0]


@pytest.mark.parametrize("facing", [(150.0, 210.0), (120.0, 240.0)])
def test_turned_as_far_to_either_side_of_noon_it_takes_as_much_sun(facing: tuple[float, float]):
    day = ClearDay(tmin_c=14.0, tmax_c=26.0)
    level = TERRACE.model_copy(update={"spots": [TERRACE.spots[0].model_copy(update={"horizon": [], "obstacles": []})]})
    totals = []
    for angle in facing:
        case = Case(
            site=level, build=FoodDryer(facing_deg=angle), load=None, weather=day, span=Span(start=AUGUST, step_s=300)
        )
        totals.append(float(simulate(case, weather_of(level, day, case.span)).opening_w.sum()))
    assert totals[0] == pytest.approx(totals[1], rel=0.02)
