"""Evacuated tubes and the mirrors beside them: against closed forms, an exact circle, and what is known of their use."""

from __future__ import annotations

import math
from datetime import date

import numpy as np
import pytest

from drylamp.core.arrays import Array
from drylamp.core.builds.common.vacuum_tube.optics import cylinders, taken_up
from drylamp.core.builds.common.vacuum_tube.spec import VacuumTube
from drylamp.core.builds.common.vacuum_tube.wings import Wings
from drylamp.core.builds.tube_kettle.optics import COAT, GLASS, KettleOptics, geometry_of
from drylamp.core.builds.tube_kettle.spec import TubeKettle
from drylamp.core.builds.tube_row.optics import RowOptics
from drylamp.core.builds.tube_row.spec import SheetBehind, TubeRow
from drylamp.core.engine import weather_for
from drylamp.core.heat.laws import one_way_w_k
from drylamp.core.loads.common.loop.ends import LOOP
from drylamp.core.loads.common.loop.spec import PipeRun, Pump
from drylamp.core.loads.kettle.outcome import KettleFill, KettleResults, results
from drylamp.core.loads.kettle.spec import KettleWater, Pour
from drylamp.core.loads.tank.spec import LoopTank
from drylamp.core.optics.covers import stack
from drylamp.core.optics.geometry import Geometry
from drylamp.core.optics.sun_table import received_m2
from drylamp.core.sky.dome import DOME_DIRECTIONS, hemisphere
from drylamp.core.sky.site import Site
from drylamp.core.sky.weather import ClearDay, Span
from drylamp.core.twin.case import usual_case
from drylamp.core.twin.prepared import simulate
from drylamp.core.twin.run import Run
from drylamp.demo.scenario import SOUTHERN, TERRACE

JUNE, DECEMBER = date(2025, 6, 12), date(2025, 12, 20)
TRUE = {"slope_error_mrad": 0.0, "reflectance": 1.0}


def across(*degrees: float) -> Array:
    """Directions square to the tube, so far off straight up."""
    angle = np.radians(degrees)
    return np.stack([np.sin(angle), np.zeros_like(angle), np.cos(angle)], axis=1)


# --- light on a tube ---


def met_m(wings: Wings | None, tube: VacuumTube, *degrees: float) -> Array:
    """Width of a beam that meets the inner glass, m, from directions square to the tube."""
    made = TubeKettle.model_construct(tube=tube, wings=wings)
    return received_m2(geometry_of(made), across(*degrees), 16384, 0.0)[:, 0].sum(axis=1) / tube.lit_m


def test_a_bare_tube_meets_its_width_and_of_a_uniform_sky_half_its_hull():
    """A cylinder shows D L square on, and under a uniform sky half of its hull is lit as level ground is: π D L/2."""
    tube = VacuumTube(lit_m=1.0, ends_m=0.0)
    bare = Geometry((), cylinders(tube, COAT, capped=False))
    assert received_m2(bare, across(0.0, 40.0), 4096)[:, 0].sum(axis=1) == pytest.approx(0.047, rel=0.01)
    sky = received_m2(bare, np.ascontiguousarray(hemisphere(DOME_DIRECTIONS)), 256)[:, 0].sum()
    ends = 2 * math.pi * 0.0235**2 / 2  # both closed ends look at half the sky sideways
    assert 2.0 / DOME_DIRECTIONS * sky == pytest.approx(math.pi * 0.047 / 2 + ends, rel=0.02)


@pytest.mark.parametrize("sine", [1.0, 0.7])
def test_the_outer_glass_is_met_where_a_ray_past_the_axis_meets_it(sine: float):
    """Against an integral over the tube's width: Fresnel and Bouguer (optics.covers) at s √(1 − (y/R_o)²)."""
    tube = VacuumTube(lit_m=1.0, ends_m=0.0)
    y = (np.arange(2000) + 0.5) / 2000 * tube.inner_m / 2
    exact = float(stack([tube.pane], sine * np.sqrt(1 - (2 * y / tube.outer_m) ** 2)).transmittance.mean()) * 0.93
    direction = np.array([[0.0, math.sqrt(1 - sine**2), sine]])
    received = received_m2(Geometry((), cylinders(tube, COAT)), direction, 16384)[:, 0]
    coat, glass = taken_up(tube, received, np.array([sine]))
    assert coat[0] / received.sum() == pytest.approx(exact, rel=0.015)
    assert 0.001 < glass[0] / received.sum() < 0.03


# --- mirrors beside it ---


def meets(at: Array, going: Array, centre: tuple[float, float], radius: float) -> float | None:
    """How far ahead a circle is entered."""
    off = at - np.array(centre)
    b, c = off @ going, off @ off - radius * radius
    root = b * b - c
    reach = -b - math.sqrt(root) if root >= 0 else -1.0
    return reach if reach > 1e-9 else None


def arc_ahead(
    at: Array, going: Array, radius: float, centre: tuple[float, float], first: float, last: float
) -> tuple[float | None, bool]:
    """The nearer place ahead at which an arc is met, and whether from its back."""
    off = at - np.array(centre)
    b, c = off @ going, off @ off - radius * radius
    root = b * b - c
    if root < 0:
        return None, False
    for sign in (-1.0, 1.0):
        reach = -b + sign * math.sqrt(root)
        if reach <= 1e-7:
            continue
        spot = off + reach * going
        angle = (math.degrees(math.atan2(spot[0], -spot[1])) + 360.0) % 360.0  # from the lowest point, anticlockwise
        if first <= angle <= last:
            return reach, sign < 0
    return None, False


RADIUS_M, BELOW_M, TUBE_M = 0.10, 0.13, 0.02
HALF_WIDTH_M, COUNT = 0.15, 1501


def exact_half_pipe_m(degrees: float) -> float:
    """Width of a beam that meets a tube at the origin, straight or by way of a half-pipe under it; rays bounce off the true circle.

    A ray from inside meets the circle at −b + √(b² − c); its normal there points at the middle.
    """
    sun = np.array([math.sin(math.radians(degrees)), math.cos(math.radians(degrees))])
    side, hits, centre = np.array([sun[1], -sun[0]]), 0, (0.0, RADIUS_M - BELOW_M)
    span = np.linspace(-HALF_WIDTH_M, HALF_WIDTH_M, COUNT)
    for off in span:
        at, going = off * side + 2.0 * sun, -sun
        for _ in range(24):
            tube = meets(at, going, (0.0, 0.0), TUBE_M)
            arcs = [arc_ahead(at, going, RADIUS_M, centre, *part) for part in ((0.0, 90.0), (270.0, 360.0))]
            arc, outside = min(((reach, back) for reach, back in arcs if reach is not None), default=(None, False))
            if tube is not None and (arc is None or tube < arc):
                hits += 1
                break
            if arc is None or outside:
                break
            at = at + arc * going
            normal = (np.array(centre) - at) / RADIUS_M
            going = going - 2 * (going @ normal) * normal
    return hits * float(span[1] - span[0])


def test_a_half_pipe_gains_what_rays_on_a_true_circle_gain():
    """A half-pipe that lies open under a tube, as two quarters hinged at its lowest line: strips against the circle itself, bounce by bounce.

    No constant factor anywhere: the gain goes from the bare tube's to half as much again with the sun's angle.
    """
    tube = VacuumTube(lit_m=3.0, ends_m=0.0, inner_mm=2000.0 * TUBE_M, outer_mm=50.0)
    quarters = Wings(radius_m=RADIUS_M, below_m=BELOW_M, apart_m=0.0, arc_deg=90.0, open_deg=45.0, **TRUE)
    degrees = np.arange(-36.0, 37.0, 6.0)
    found, exact = met_m(quarters, tube, *degrees), np.array([exact_half_pipe_m(d) for d in degrees])
    assert found.mean() == pytest.approx(exact.mean(), rel=0.012)
    assert found == pytest.approx(exact, rel=0.06)
    assert exact.max() > 1.4 * exact.min()


def test_a_parabola_throws_all_of_its_mouth_on_a_thin_tube_at_its_focus():
    """Hinged at its own lowest line and opened until it looks straight up: every ray passes the focal line (geometry)."""
    focus = 0.06
    wings = Wings(shape="parabola", focus_m=focus, from_m=0.0, to_m=0.2, below_m=focus, apart_m=0.0, **TRUE)
    level = wings.model_copy(update={"open_deg": wings.level_deg})
    thin = VacuumTube(lit_m=3.0, ends_m=0.0, outer_mm=24.0, inner_mm=16.0)
    assert met_m(level, thin, 0.0)[0] == pytest.approx(0.4, rel=0.02)
    assert met_m(level.model_copy(update={"open_deg": wings.level_deg - 15.0}), thin, 0.0)[0] < 0.2


def test_wings_that_reflect_nothing_are_boards_and_slope_errors_cost():
    tube, wings = VacuumTube(), Wings(open_deg=65.0, **TRUE)
    board = wings.model_copy(update={"reflectance": 0.0})
    assert met_m(board, tube, 0.0)[0] == pytest.approx(tube.inner_m, rel=0.01)
    rough = wings.model_copy(update={"slope_error_mrad": 60.0})
    assert met_m(board, tube, 0.0)[0] < met_m(rough, tube, 0.0)[0] < met_m(wings, tube, 0.0)[0]


def test_both_sides_are_alike_and_the_wings_are_worth_it():
    found = met_m(Wings(open_deg=65.0), VacuumTube(), -30.0, 30.0, 0.0)
    assert found[0] == pytest.approx(found[1], rel=0.03)
    assert found[2] > 1.6 * 0.047


def test_a_tube_across_the_slope_sees_the_sun_as_one_up_the_slope_turned_a_quarter():
    up = KettleOptics.of(TubeKettle(facing_deg=180.0, tilt_deg=0.0), None)
    side = KettleOptics.of(TubeKettle(facing_deg=180.0, tilt_deg=0.0, lies="across"), None)
    north, east = np.array([[0.0, 0.5, math.sqrt(0.75)]]), np.array([[0.5, 0.0, math.sqrt(0.75)]])
    assert up.along_path(north)[0][0, 0] == pytest.approx(side.along_path(east)[0][0, 0], rel=0.03)


def test_the_middle_tubes_stand_for_all_between():
    """A row of five counted by three traced ones is five traced ones."""
    row = TubeRow(facing_deg=180.0, count=5, behind=SheetBehind())
    first = RowOptics(row).taken_m2(across(20.0), 4096)[0].sum()
    fewer = RowOptics(row.with_(count=3)).taken_m2(across(20.0), 4096)[0].sum()
    one_more = RowOptics(row.with_(count=4)).taken_m2(across(20.0), 4096)[0].sum()
    assert first - one_more == pytest.approx(one_more - fewer, rel=1e-9)
    assert first / 5 == pytest.approx(fewer / 3, rel=0.1)


# --- how hot it stands ---


def empty_at(
    tube: VacuumTube, wings: Wings | None, day: date = JUNE, site: Site = TERRACE, facing: float = 180.0
) -> Run:
    build = TubeKettle(facing_deg=facing, tilt_deg=45.0, tube=tube, wings=wings)
    case = usual_case(site, None, build, None, day).with_(weather=ClearDay(tmin_c=12, tmax_c=24), span=Span(start=day))
    run = simulate(case, weather_for(case))
    assert run.energy_closure < 1e-8
    return run


@pytest.mark.parametrize("lit", [1.5, 1.65, 1.8])
@pytest.mark.parametrize("day", [JUNE, DECEMBER])
def test_a_long_empty_tube_stands_above_180(lit: float, day: date):
    """Common practice, no source: empty tubes of 1.5 to 1.8 m stand well over 180 °C in clear sun."""
    assert 180.0 < empty_at(VacuumTube(lit_m=lit), None, day).temperature_c[COAT].max() < 290.0


@pytest.mark.parametrize("lit", [0.3, 0.4, 0.5])
def test_a_short_one_stands_lower_and_mirrors_make_it_hotter(lit: float):
    """Common practice, no source: 110 to 190 °C, more with mirrors: the mouth counts for more the shorter it is."""
    bare, winged = (empty_at(VacuumTube(lit_m=lit), wings).temperature_c[COAT].max() for wings in (None, Wings()))
    assert 110.0 < bare < 190.0
    assert winged > bare + 30.0


def test_a_white_getter_makes_it_a_jar():
    """Air between the glasses (Raithby & Hollands): it stands far cooler, and its outer glass is what gets hot."""
    sound, gone = (empty_at(VacuumTube(lit_m=1.5, getter=getter), None) for getter in ("silver", "white"))
    assert gone.temperature_c[COAT].max() < sound.temperature_c[COAT].max() - 60.0
    assert gone.temperature_c[GLASS].max() > sound.temperature_c[GLASS].max() + 3.0


def test_a_tube_loses_what_tests_of_collectors_say():
    """Evacuated tubes lose 0.8 to 2.5 W/m²K of their lit width 60 K over the air (usual range of ISO 9806 tests, from memory)."""
    tube = VacuumTube(lit_m=1.7, ends_m=0.0, end_w_k=0.0)
    warm, cool = 85.0 + 273.15, 27.0 + 273.15
    watts = 5.670374e-8 * tube.shines_m2 * (warm**4 - cool**4)
    assert 0.8 < watts / 60.0 / (tube.inner_m * tube.lit_m) < 2.5


# --- water in it ---


def poured(
    fill_l: float, *, site: Site = TERRACE, facing: float = 180.0, day: date = JUNE, **build: object
) -> tuple[KettleFill, Run]:
    made = TubeKettle.model_validate({"facing_deg": facing, "tilt_deg": 20.0, **build})
    load = KettleWater(fill_l=fill_l, pours=[Pour(goes_in="12:30", wanted_at="16:30")])
    case = usual_case(site, None, made, load, day).with_(weather=ClearDay(tmin_c=15, tmax_c=26), span=Span(start=day))
    run = simulate(case, weather_for(case))
    assert run.energy_closure < 1e-8
    told = results(site, load, run)
    assert isinstance(told, KettleResults)
    assert told.kettle is not None
    return told.kettle.days[0].fills[0], run


def test_half_the_water_is_hot_sooner_and_wings_are_worth_half_the_time():
    half, full = poured(0.35)[0], poured(0.65)[0]
    bare = poured(0.35, wings=None)[0]
    assert half.minutes is not None
    assert full.minutes is not None
    assert half.minutes < 0.75 * full.minutes
    assert bare.minutes is None or bare.minutes > 1.4 * half.minutes


def test_it_boils_at_the_places_own_boiling_point_and_loses_steam_then():
    """480 m: 98.4 °C (CoolProp holds ``boiling_c`` elsewhere)."""
    fill, run = poured(0.35)
    assert np.nanmax(run.temperature_c["water"]) == pytest.approx(98.4, abs=0.4)
    assert fill.boils_at is not None
    assert fill.steam_l > 0.01


def test_both_halves_of_the_world_wait_alike():
    """At one latitude north and south of the equator, half a year apart, on a clock that no summer moves; in December
    the earth is 3 % nearer the sun, and the sea air of the other half clearer."""
    waited = []
    for sign, facing, day in ((1.0, 180.0, JUNE), (-1.0, 0.0, date(2025, 12, 12))):
        there = {"latitude_deg": sign * TERRACE.latitude_deg, "time_zone": "Africa/Lagos"}
        site = Site.model_validate({**TERRACE.model_dump(), **there})
        waited.append(poured(0.5, site=site, facing=facing, day=day)[0].minutes)
    assert waited[0] == pytest.approx(waited[1], rel=0.15)
    assert poured(0.5, site=SOUTHERN, facing=0.0, day=date(2025, 12, 12))[0].minutes is not None


def test_held_cold_it_gives_its_days_gain_and_held_hot_less():
    """Water held at a temperature takes what is left after losses: less the hotter, by the tube's loss times the difference."""
    gains = []
    for held in (20.0, 90.0):
        build = TubeKettle(facing_deg=180.0, tilt_deg=20.0)
        load = KettleWater(fill_l=0.6, held_c=held, pours=[Pour(goes_in="00:05", wanted_at="23:55")])
        case = usual_case(TERRACE, None, build, load, JUNE).with_(span=Span(start=JUNE))
        run = simulate(case, weather_for(case))
        told = results(TERRACE, load, run)
        assert isinstance(told, KettleResults)
        assert told.kettle is not None
        gains.append(told.kettle.days[0].gain_kwh)
    tube = VacuumTube()
    mean = 5.670374e-8 * tube.shines_m2 * ((363.15**4 - 295.15**4) - (293.15**4 - 295.15**4)) + tube.end_w_k * 70.0
    assert gains[0] - gains[1] == pytest.approx(mean * 24.0 / 1000.0, rel=0.1)


# --- rows: heat that goes one way ---


def test_a_heat_pipe_carries_one_way():
    assert one_way_w_k(9.0, 50.0, 40.0) == 9.0
    assert one_way_w_k(9.0, 40.0, 50.0) == 0.0
    assert one_way_w_k(9.0, 40.5, 40.0) == pytest.approx(4.5)


def night_loss_kwh(inside: str) -> float:
    """What a loop whose pump never stops takes out of a hot tank in the dark."""
    build = TubeRow.model_validate({"facing_deg": 180.0, "tilt_deg": 50.0, "inside": inside})
    tank = LoopTank(
        fill_l=100.0, start_c=60.0, above_m=-1.0, pump=Pump(how="always", motor_w=0.0, l_min=2.0), check_valve=True,
        run=PipeRun(there_m=1.0, back_m=1.0, lagging_mm=30.0),
    )  # fmt: skip
    case = usual_case(TERRACE, None, build, tank, DECEMBER).with_(span=Span(start=DECEMBER))
    run = simulate(case, weather_for(case))
    night = run.plane_w_m2[:420] < 1.0
    assert night.all()
    return float(-run.circulated[LOOP].gain_w[:420].sum()) * 60.0 / 3.6e6


def test_a_heat_pipe_stops_what_flows_backwards():
    """A pump left running all night: with heat pipes only header and pipes cool, with U-pipes the tubes do, too."""
    piped, through = night_loss_kwh("heat-pipe"), night_loss_kwh("u-pipe")
    assert 0.0 < piped < 0.8 * through


@pytest.mark.parametrize("inside", ["heat-pipe", "u-pipe", "filled"])
def test_a_row_warms_its_tank_and_a_sheet_behind_it_helps(inside: str):
    heat = []
    for behind in (None, SheetBehind(material="mirror-film")):
        build = TubeRow.model_validate({"facing_deg": 180.0, "tilt_deg": 35.0, "inside": inside, "behind": behind})
        tank = LoopTank(fill_l=150.0, pump=Pump(how="difference", motor_w=0.0, l_min=1.5), check_valve=True)
        case = usual_case(TERRACE, None, build, tank, JUNE).with_(span=Span(start=JUNE))
        run = simulate(case, weather_for(case))
        assert run.energy_closure < 1e-8
        heat.append(float(run.circulated[LOOP].gain_w.sum()) * 60.0 / 3.6e6)
    assert 3.0 < heat[0] < heat[1] < 7.0
