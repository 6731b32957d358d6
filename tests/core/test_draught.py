"""Draught, fans, pumps and the panel that drives them."""

import math
from dataclasses import replace

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from scipy.optimize import brentq

from drylamp.core.air import draught
from drylamp.core.air.draught import FlowPath, Loss, Mover, flow_kg_s
from drylamp.core.air.panel import MATCH, PanelDrive
from drylamp.core.checks import InputProblem
from drylamp.core.heat.advance import advance
from drylamp.core.heat.closure import closure
from drylamp.core.heat.drive import Drive
from drylamp.core.heat.law import Law
from drylamp.core.heat.network import Network
from drylamp.core.heat.parts import Link, Node

SEA = 101325.0
CHIMNEY = FlowPath(
    "chimney",
    (Loss("inlet", 0.02), Loss("trays", 0.05, zeta=8.0), Loss("top", 0.015)),
    (("cabinet", 1.4), ("collector", 0.6)),
    "air",
)


# ASHRAE Handbook Fundamentals, stack: Q = Cd A √(2 g H ΔT / T) for one sharp opening with Cd = 0.6.
def test_one_opening_is_the_handbooks_stack_flow():
    path = FlowPath("one", (Loss("hole", 0.01),), (("in", 3.0),), "air")
    inside, outside = 50.0, 20.0
    volume = flow_kg_s(path, {"in": inside, "air": outside}, SEA) / (SEA / (287.05 * (inside + 273.15)))
    handbook = 0.6 * 0.01 * math.sqrt(2 * 9.80665 * 3.0 * (inside - outside) / (outside + 273.15))
    assert volume == pytest.approx(handbook, rel=5e-3)  # Cd² of 0.6 is 1/2.78, the table's 2.8


@settings(max_examples=60, deadline=None)
@given(st.floats(21, 90), st.floats(0, 1), st.floats(0.002, 0.1), st.floats(0, 3000))
def test_flow_settles_where_drive_meets_loss(column, speed, area, laminar):
    """The closed root against a search on the balance itself."""
    mover = Mover(shut_off_pa=40.0, free_m3_s=0.05)
    path = FlowPath(
        "p", (Loss("a", area, laminar_pa_s_m3=laminar), Loss("b", 0.02, zeta=1.0)), (("in", 1.5),), "air", mover
    )
    rho_in, rho_out = SEA / (287.05 * (column + 273.15)), SEA / (287.05 * 293.15)

    def surplus(q: float) -> float:
        drive = 9.80665 * 1.5 * (rho_out - rho_in) + 40.0 * speed**2 - 40.0 * (q / 0.05) ** 2
        return drive - 0.5 * rho_in * q * q * (2.8 / area**2 + 1.0 / 0.02**2) - laminar * q

    assert flow_kg_s(path, {"in": column, "air": 20.0}, SEA, speed) == pytest.approx(
        rho_in * brentq(surplus, 0.0, 1.0), rel=1e-6
    )


def test_losses_in_a_row_add_up():
    two = FlowPath("two", (Loss("a", 0.01), Loss("b", 0.01)), (("in", 1.0),), "air")
    one = FlowPath("one", (Loss("a", 0.01 / math.sqrt(2)),), (("in", 1.0),), "air")
    assert two.effective_m2 == pytest.approx(one.effective_m2)
    assert flow_kg_s(two, {"in": 60, "air": 20}, SEA) == pytest.approx(flow_kg_s(one, {"in": 60, "air": 20}, SEA))


def test_fan_at_free_delivery_and_at_half_speed():
    """No resistance to speak of: full speed gives the free delivery, half speed half of it (fan laws)."""
    wide = FlowPath("wide", (Loss("hall", 50.0),), (("air", 0.0),), "air", Mover(30.0, 0.04))
    full, half = (flow_kg_s(wide, {"air": 20}, SEA, s) for s in (1.0, 0.5))
    assert full / (SEA / (287.05 * 293.15)) == pytest.approx(0.04, rel=1e-3)
    assert half == pytest.approx(full / 2, rel=1e-6)


def test_cold_column_and_shut_vent_stand_still():
    cold, warm = ({"cabinet": t, "collector": t, "air": 20.0} for t in (10.0, 60.0))
    assert flow_kg_s(CHIMNEY, cold, SEA) == 0.0
    assert flow_kg_s(replace(CHIMNEY, open_share=0.0), warm, SEA) == 0.0
    half = replace(CHIMNEY, open_share=0.5)
    assert flow_kg_s(half, warm, SEA) == pytest.approx(0.5 * flow_kg_s(CHIMNEY, warm, SEA))


def test_warm_water_rises():
    """Thermosiphon: 1 m of water at 60 against 20 °C pulls about 176 Pa (CoolProp: 998.2 − 983.2 kg/m³ → 147 Pa)."""
    assert draught.water_lift_pa(1.0, 60.0, 20.0) == pytest.approx(147.0, rel=0.25)
    pump = FlowPath(
        "loop", (Loss("hose", 1e-4, laminar_pa_s_m3=2e7),), (("tank", 0.0),), "tank", Mover(20000.0, 2e-4), "water"
    )
    assert 0.02 < flow_kg_s(pump, {"tank": 30.0}, SEA) < 0.2


# Fan laws: power grows with the cube of the speed.
def test_panel_follows_the_sun():
    panel = PanelDrive(peak_w=10.0, motor_w=6.0)
    sun = np.array([0.0, 50.0, 200.0, 400.0, 1000.0])
    speed = panel.speed(sun)
    assert speed[0] == speed[1] == 0.0
    assert speed[-1] == 1.0
    assert speed[2] ** 3 * 6.0 == pytest.approx(MATCH * 10.0 * 0.2)
    assert (np.diff(speed) >= 0).all()


@pytest.mark.parametrize(
    ("make", "field"),
    [
        (lambda: Loss("grid", 0.0), "path.grid.area_m2"),
        (lambda: Loss("grid", 0.1, zeta=-1.0), "path.grid.zeta"),
        (lambda: Mover(0.0, 1.0), "fan.shut_off_pa"),
        (lambda: Mover(10.0, -1.0), "fan.free_m3_s"),
        (lambda: FlowPath("p", (), (("a", 1.0),), "b"), "path.p"),
        (lambda: FlowPath("p", CHIMNEY.losses, (), "b"), "path.p.columns"),
        (lambda: replace(CHIMNEY, open_share=1.5), "path.chimney.open_share"),
        (lambda: PanelDrive(0.0, 5.0), "panel.peak_w"),
    ],
)
def test_impossible_parts_are_refused_by_name(make, field):
    with pytest.raises(InputProblem) as caught:
        make()
    assert caught.value.field == field


def cabinet(path: FlowPath = CHIMNEY) -> Network:
    """A collector below a cabinet: air in at the bottom, out at the chimney."""
    return Network(
        (Node("plate", 4000.0, "plate"), Node("collector", 500.0, "air in it"), Node("cabinet", 3000.0, "cabinet")),
        (
            Link("plate to air", Law.CONDUCTANCE, "plate", "collector", (25.0,)),
            Link("cabinet walls", Law.CONDUCTANCE, "cabinet", "air", (2.0,), "walls"),
            Link("fresh air", Law.CARRIED, "air", "collector", (), "vent", "chimney"),
            Link("up", Law.CARRIED, "collector", "cabinet", (), "", "chimney"),
            Link("out", Law.CARRIED, "cabinet", "air", (), "vent", "chimney"),
        ),
        (path,),
    )


def steady_drive(steps: int, sun_w: float, speed: np.ndarray | None = None) -> Drive:
    ones = np.ones(steps)
    source = np.column_stack([sun_w * ones, 0 * ones, 0 * ones])
    return Drive(
        60.0, 25.0 * ones, 10 * ones, ones, 1000 * ones, 100.0, SEA, source, np.ones(steps, dtype=np.int64), speed=speed
    )


def test_cabinet_settles_where_the_chimney_carries_the_sun_away():
    history = advance(cabinet(), np.full(3, 25.0), steady_drive(600, 700.0))
    plate, air, top = history.temperature_c[-1]
    flow = flow_kg_s(CHIMNEY, {"cabinet": top, "collector": air, "air": 25.0}, SEA) * 1007.0
    assert pytest.approx(flow * (top - 25.0) + 2.0 * (top - 25.0), rel=1e-6) == 700.0
    assert plate - air == pytest.approx(700.0 / 25.0, rel=1e-6)
    assert top < air < plate
    lost, sun = closure(cabinet(), history, steady_drive(600, 700.0))
    assert abs(lost) < 1e-9 * sun


def test_a_fan_on_a_panel_cools_the_cabinet_by_the_sun_it_gets():
    fan = replace(CHIMNEY, mover=Mover(25.0, 0.06))
    speeds = [PanelDrive(5.0, 5.0).speed(np.full(600, sun))[:, None] for sun in (150.0, 900.0)]
    slow, fast = (
        advance(cabinet(fan), np.full(3, 25.0), steady_drive(600, 700.0, s)).temperature_c[-1, 2] for s in speeds
    )
    still = advance(cabinet(), np.full(3, 25.0), steady_drive(600, 700.0)).temperature_c[-1, 2]
    assert fast < slow < still


def test_air_that_does_not_flow_out_again_is_refused():
    links = cabinet().links[:-1]
    with pytest.raises(InputProblem, match="what flows into cabinet does not flow out again"):
        Network(cabinet().nodes, links, (CHIMNEY,))
    with pytest.raises(InputProblem, match="'chimney' is no flow path"):
        Network(cabinet().nodes, cabinet().links)


def test_ground_and_mains_are_boundaries():
    network = Network((Node("tank", 1e5, "tank"),), (Link("floor", Law.CONDUCTANCE, "tank", "ground", (50.0,)),
                      Link("inlet", Law.CONDUCTANCE, "tank", "mains", (50.0,))))  # fmt: skip
    ones = np.ones(2000)
    drive = Drive(60.0, 25 * ones, 10 * ones, ones, 1000 * ones, 100.0, SEA, np.zeros((2000, 1)), np.ones(2000, dtype=np.int64),
                  ground_c=16 * ones, mains_c=12 * ones)  # fmt: skip
    assert advance(network, np.array([40.0]), drive).temperature_c[-1, 0] == pytest.approx(14.0, abs=0.01)
