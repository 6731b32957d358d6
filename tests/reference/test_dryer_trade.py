"""What dryers are known to do (common practice, no source, unless said), each on a case that is written out here, and held when each part of it is varied by a fifth."""

from __future__ import annotations

from datetime import date
from functools import lru_cache

import numpy as np
import pytest

from drylamp.core.builds.common.air_collector.spec import AirCollector
from drylamp.core.builds.common.air_way.spec import Chimney, Fan, Inlet, Vent
from drylamp.core.builds.common.cover.spec import GlazedCover
from drylamp.core.builds.dryer.spec import FoodDryer, Trays
from drylamp.core.common.wall import WallLayer
from drylamp.core.loads.food_trays.outcome import results
from drylamp.core.loads.food_trays.spec import FoodOnTray, FoodTrays
from drylamp.core.sky.of_span import weather_of
from drylamp.core.sky.site import Site
from drylamp.core.sky.weather import ClearDay, SkyState, Span
from drylamp.core.twin.case import Case
from drylamp.core.twin.prepared import simulate
from drylamp.core.twin.run import Run

PLACE = Site(name="middle", latitude_deg=40.0, longitude_deg=0.0, elevation_m=200.0, time_zone="UTC")
SOUTH = Site(name="south", latitude_deg=-40.0, longitude_deg=0.0, elevation_m=200.0, time_zone="UTC")
AUGUST, FEBRUARY = date(2025, 8, 20), date(2025, 2, 20)
MESH = AirCollector(width_m=0.8, length_m=1.5, absorber="mesh")
DRYER = FoodDryer(
    facing_deg=180.0, tilt_deg=30.0, collector=MESH, width_m=0.8, depth_m=0.5, trays=Trays(count=5),
    wall=[WallLayer(material="plywood", thickness_m=0.012)], inlet=Inlet(area_cm2=400.0), vent=Vent(area_cm2=250.0), wind_share=0.0,
)  # fmt: skip
"""1.2 m² of collector, five trays of 0.4 m², plywood 12 mm, 400 cm² in and 250 cm² out, no wind at the vent."""


def food(name: str, kg: float = 0.4, trays: int = 5, **more: object) -> FoodTrays:
    return FoodTrays(foods=[FoodOnTray(tray=k + 1, food=name, kg=kg) for k in range(trays)], **more)


@lru_cache(maxsize=64)
def _ran(build: str, load: str, sky: SkyState, air: tuple[float, float, float, float], days: int, south: bool) -> Run:
    site, when = (SOUTH, FEBRUARY) if south else (PLACE, AUGUST)
    weather = ClearDay(tmin_c=air[0], tmax_c=air[1], rh=air[2], wind_m_s=air[3], sky=sky)
    case = Case(
        site=site, build=FoodDryer.model_validate_json(build), load=FoodTrays.model_validate_json(load) if load else None, weather=weather, span=Span(start=when, days=days, step_s=60),
    )  # fmt: skip
    return simulate(case, weather_of(site, weather, case.span))


def ran(
    build: FoodDryer = DRYER, load: FoodTrays | None = None, sky: SkyState = "clear", tmin_c: float = 14.0, tmax_c: float = 26.0, rh: float = 0.5,
    wind_m_s: float = 1.5, days: int = 4, site: Site = PLACE,
) -> Run:  # fmt: skip
    return _ran(
        build.model_dump_json(), load.model_dump_json() if load else "", sky, (tmin_c, tmax_c, rh, wind_m_s), days, site is SOUTH
    )  # fmt: skip


def midday(run: Run, node: str = "under-trays", site: Site = PLACE) -> float:
    """Mean from eleven to three on the first day."""
    return float(np.nanmean(run.temperature_c[node][11 * 60 : 15 * 60]))


def flow(run: Run) -> float:
    """kg/s over the same hours."""
    assert run.damp is not None
    return float(run.damp.moved_kg["draught"][11 * 60 : 15 * 60].mean()) / 60.0


def hours(run: Run, load: FoodTrays, site: Site = PLACE) -> list[float | None]:
    """To dry, tray by tray."""
    found = results(site, load, run).drying  # type: ignore[attr-defined]
    return [tray.hours for tray in found.trays]


def sun_hours(run: Run, load: FoodTrays) -> list[float]:
    """Hours with sun on the glass until dry, tray by tray."""
    out = []
    for tray in results(PLACE, load, run).drying.trays:  # type: ignore[attr-defined]
        assert tray.done_at is not None
        inside = (run.edge_s[:-1] < tray.done_at.timestamp()) & (run.edge_s[:-1] >= tray.went_in.timestamp())
        out.append(float((run.opening_w[inside] > 50.0).sum()) / 60.0)
    return out


# --- books ---


@pytest.mark.parametrize("load", [None, food("fig"), food("mint", 0.3)], ids=["empty", "figs", "mint"])
def test_heat_and_water_close(load: FoodTrays | None):
    run = ran(load=load)
    assert run.damp is not None
    assert run.energy_closure < 1e-9
    assert run.damp.closure < 1e-9
    assert sum(watts.sum() for watts in run.account_w.values()) == pytest.approx(run.opening_w.sum(), rel=1e-9)


def test_each_kilogram_of_water_takes_more_heat_than_its_latent_heat():
    """2.3 MJ/kg at the least (steam tables, CoolProp: 2.40 at 45 °C)."""
    load = food("tomato")
    run = ran(load=load, days=2)
    gone = sum(float(kg[9 * 60 + 5] - kg[33 * 60]) for name, kg in run.mass_kg.items())
    driven = float(run.account_w["vapour"][9 * 60 + 5 : 33 * 60].sum()) * 60.0
    assert driven / gone > 2.3e6


# --- air ---


BANDS = {"broken": (40.0, 48.0), "grey": (28.0, 40.0)}


@pytest.mark.parametrize("sky", list(BANDS))
def test_so_much_collector_makes_air_so_warm(sky: SkyState):
    """1.2 m² feeding a cabinet: about 110 °F (43 °C) with air in the upper 70s °F and part sun, about 100 °F (38 °C) when mostly cloudy."""
    low, high = BANDS[sky]
    assert low <= midday(ran(load=food("fig"), sky=sky, tmin_c=20.0)) <= high


VARIED = {
    "smaller vent": (DRYER.with_(vent=Vent(area_cm2=200.0)), +1), "larger vent": (DRYER.with_(vent=Vent(area_cm2=300.0)), -1),
    "smaller collector": (DRYER.with_(collector=MESH.model_copy(update={"length_m": 1.2})), -1),
    "larger collector": (DRYER.with_(collector=MESH.model_copy(update={"length_m": 1.8})), +1),
    "insulated": (DRYER.with_(wall=[WallLayer(material="eps-foam", thickness_m=0.04)]), +1),
}  # fmt: skip


@pytest.mark.parametrize("name", list(VARIED))
def test_the_band_holds_and_moves_the_right_way_when_a_part_is_varied_by_a_fifth(name: str):
    build, side = VARIED[name]
    at, other = midday(ran(load=food("fig"))), midday(ran(build, food("fig")))
    assert 42.0 < other < 62.0
    if name != "insulated":
        assert (other - at) * side > 0.2
    else:
        assert other > at - 0.5


def test_weather_moves_it_the_right_way():
    base = midday(ran(load=food("fig"), days=1))
    assert midday(ran(load=food("fig"), days=1, tmin_c=19.0, tmax_c=31.0)) == pytest.approx(base + 5.0, abs=1.5)
    assert midday(ran(load=food("fig"), days=1, wind_m_s=1.8)) <= base + 0.05
    assert midday(ran(load=food("fig", 0.48), days=1)) <= base + 0.05


def test_twice_the_collector_is_hotter():
    twice = DRYER.with_(collector=MESH.model_copy(update={"width_m": 1.6}))
    assert midday(ran(twice, food("fig"))) > midday(ran(load=food("fig"))) + 6.0


def test_mesh_in_the_stream_beats_ducts_of_one_face():
    ducts = MESH.model_copy(update={"absorber": "ducts", "ducts": 8, "duct_mm": 90.0})
    with_ducts = ran(DRYER.with_(collector=ducts), food("fig"))
    with_mesh = ran(load=food("fig"))
    assert midday(with_mesh) > midday(with_ducts) + 2.0
    assert flow(with_mesh) > flow(with_ducts)


def test_more_stack_moves_more_air_that_is_cooler():
    tall = ran(DRYER.with_(chimney=Chimney(height_m=1.5, diameter_mm=250.0)), food("fig"))
    plain = ran(load=food("fig"))
    assert flow(tall) > 1.05 * flow(plain)
    assert midday(tall) < midday(plain)


def test_a_fan_moves_more():
    blown = ran(DRYER.with_(fan=Fan(shut_off_pa=30.0, free_m3_h=200.0)), food("fig"))
    assert flow(blown) > 1.5 * flow(ran(load=food("fig")))


def last(vent_cm2: float) -> float:
    """Hours to the last tray of tomatoes with a vent."""
    load = food("tomato")
    run = ran(DRYER.with_(vent=Vent(area_cm2=vent_cm2)), load, days=6)
    found = [h for h in hours(run, load) if h is not None]
    return max(found) if len(found) == 5 else float("inf")


def gone(vent_cm2: float) -> float:
    """Water driven out of tomatoes by the second evening."""
    run = ran(DRYER.with_(vent=Vent(area_cm2=vent_cm2)), food("tomato"), days=6)
    return sum(float(np.nanmax(kg) - kg[(24 + 18) * 60]) for kg in run.mass_kg.values())


def test_between_hot_and_airy_lies_a_broad_flat_best_and_nearly_shut_costs_dear():
    times = {vent: last(vent) for vent in (20.0, 80.0, 150.0, 250.0, 400.0)}
    assert times[20.0] > min(times.values()) + 20.0, "a night more at the least"
    lost = {vent: gone(vent) for vent in times}
    best = max(lost.values())
    assert sum(kg > 0.95 * best for kg in lost.values()) >= 3, "broad and flat"
    assert lost[20.0] < 0.85 * best
    flows = [flow(ran(DRYER.with_(vent=Vent(area_cm2=vent)), food("tomato"), days=6)) for vent in times]
    assert flows == sorted(flows)


# --- food ---


@pytest.mark.parametrize("name", ["fig", "tomato"])
def test_two_kilograms_take_two_to_four_clear_days(name: str):
    load = food(name)
    run = ran(load=load, days=5)
    done = [h for h in hours(run, load) if h is not None]
    assert len(done) == 5
    assert all(24.0 < h < 4 * 24.0 - 9.0 for h in done)


def test_leaves_take_two_to_nine_hours_of_sun():
    load = food("mint", 0.3)
    assert all(2.0 <= h <= 9.0 for h in sun_hours(ran(load=load, days=2), load))


def test_in_a_shut_cabinet_the_lowest_tray_dries_first_and_under_glass_the_topmost():
    load = food("tomato")
    times = hours(ran(load=load, days=5), load)
    assert times == sorted(times, key=lambda h: h or np.inf)
    glazed = DRYER.with_(collector=None, cover=GlazedCover(), tilt_deg=15.0)
    lit = hours(ran(glazed, load, days=6), load)
    assert min(range(5), key=lambda k: lit[k] or np.inf) == 4


def test_wet_tropical_air_dries_nothing_unheated_and_most_of_it_heated():
    """Saturated air at 28 °C: in the shade nothing leaves; heated by day the batch loses about four fifths of what it loses in temperate air."""
    dark = DRYER.with_(collector=MESH.model_copy(update={"dirt_share": 1.0}))
    load = food("tomato")

    def lost(build: FoodDryer, **weather: float) -> float:
        run = ran(build, load, days=1, **weather)  # type: ignore[arg-type]
        return sum(float(kg[9 * 60 + 1] - np.nanmin(kg[: 19 * 60])) for kg in run.mass_kg.values())

    wet = {"tmin_c": 26.0, "tmax_c": 30.0, "rh": 0.99}
    temperate = {"tmin_c": 14.0, "tmax_c": 26.0, "rh": 0.5}
    assert lost(dark, **wet) < 0.06 * lost(DRYER, **temperate)
    assert 0.6 < lost(DRYER, **wet) / lost(DRYER, **temperate) < 1.0


def test_left_out_in_a_damp_night_dry_food_takes_water_back():
    dry = FoodTrays(foods=[FoodOnTray(tray=1, food="apple", kg=0.2, start_wb=0.15, target_wb=0.10)])
    run = ran(load=dry, sky="grey", rh=0.9, tmin_c=12.0, tmax_c=15.0, days=2)
    kg = run.mass_kg["food-1"]
    assert np.nanmax(kg[20 * 60 : 30 * 60]) > kg[18 * 60] + 0.002
    taken_in = dry.model_copy(update={"night": "taken-in", "taken_in": "18:00", "put_back": "08:00"})
    indoors = ran(load=taken_in, sky="grey", rh=0.9, tmin_c=12.0, tmax_c=15.0, days=2).mass_kg["food-1"]
    assert indoors[32 * 60 + 1] == pytest.approx(indoors[18 * 60 - 1], abs=1e-3), "nothing comes or goes indoors"
    covered = ran(
        load=dry.model_copy(update={"night": "covered"}), sky="grey", rh=0.9, tmin_c=12.0, tmax_c=15.0, days=2
    ).mass_kg["food-1"]
    assert covered[30 * 60] < kg[30 * 60]


def test_cold_air_sinks_out_backwards_at_night_unless_flaps_hold_it():
    glazed = DRYER.with_(collector=None, cover=GlazedCover(material="pe-film", thickness_m=0.0002), tilt_deg=15.0)
    run = ran(glazed, days=2, wind_m_s=0.3)
    assert run.damp is not None
    assert run.damp.back_kg["draught"][24 * 60 : 29 * 60].sum() > 0.5
    held = ran(glazed.with_(breathes=False), days=2, wind_m_s=0.3)
    assert held.damp is not None
    assert held.damp.back_kg["draught"].sum() == 0.0


def test_turning_the_stack_over_evens_it_out():
    load = food("tomato")
    turned = FoodTrays.model_validate(load.model_dump() | {"swaps": [{"day": 2, "hour": "09:00", "how": "reversed"}]})

    def apart(run: Run) -> float:
        ends = [float(run.mass_kg[f"food-{k}"][42 * 60]) for k in range(1, 6)]
        return max(ends) - min(ends)

    assert apart(ran(load=turned, days=3)) < apart(ran(load=load, days=3))


def test_south_of_the_line_it_dries_the_same():
    load = food("fig")
    north = hours(ran(load=load, days=5), load)
    south = hours(ran(DRYER.with_(facing_deg=0.0), load, days=5, site=SOUTH), load, SOUTH)
    for one, other in zip(north, south, strict=True):
        assert one is not None
        assert other is not None
        assert one == pytest.approx(other, abs=9.0), "the seasons' sun is not quite the same"


def test_halving_the_step_moves_no_node_by_much():
    runs = []
    for step in (60, 30):
        case = Case(
            site=PLACE,
            build=DRYER,
            load=food("fig"),
            weather=ClearDay(tmin_c=14, tmax_c=26),
            span=Span(start=AUGUST, days=2, step_s=step),
        )
        runs.append(simulate(case, weather_of(PLACE, case.weather, case.span)))  # type: ignore[arg-type]
    for node in ("under-trays", "tray-3", "food-1", "food-5", "plate-4"):
        coarse, fine = runs[0].temperature_c[node], runs[1].temperature_c[node][::2]
        off = np.abs(coarse - fine)
        assert float(np.nanquantile(off, 0.995)) < 0.1, node
        assert float(np.nanmax(off)) < 0.3, f"{node}, when its air turns round"
