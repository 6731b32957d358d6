"""Fans and pumps: by the clock, by the sun, by hand, and by two temperatures inside the march; ground and mains in a build's run."""

from __future__ import annotations

from dataclasses import replace
from datetime import date, datetime

import numpy as np
import pytest
from pydantic import TypeAdapter, ValidationError

from drylamp.core.air.constants import CP_AIR
from drylamp.core.air.draught import FlowPath, Loss, Mover, flow_kg_s
from drylamp.core.air.thermostat import Thermostat
from drylamp.core.builds import registry
from drylamp.core.builds.registry import KINDS
from drylamp.core.checks import InputProblem
from drylamp.core.common.drive import (
    ByHand,
    Constant,
    Differential,
    FlowControl,
    Season,
    SunPanel,
    Timer,
    Turn,
    WithSun,
)
from drylamp.core.heat.advance import advance
from drylamp.core.heat.closure import closure
from drylamp.core.heat.drive import Drive
from drylamp.core.heat.law import Law
from drylamp.core.heat.network import Network
from drylamp.core.heat.parts import Link, Node
from drylamp.core.kept import forget_everything
from drylamp.core.sky.clock import instant_s
from drylamp.core.sky.ground import ground_c, mains_c
from drylamp.core.sky.of_span import weather_of
from drylamp.core.sky.weather import ClearDay, Span
from drylamp.core.twin.case import usual_case
from drylamp.core.twin.march import GROUND_DEPTH_M
from drylamp.core.twin.prepared import simulate
from drylamp.core.twin.schedule import step_at
from drylamp.demo.scenario import OVEN, STEW, TERRACE

JUNE = date(2025, 6, 12)
DAY = weather_of(TERRACE, ClearDay(tmin_c=15, tmax_c=26), Span(start=JUNE, step_s=300))
TWO_DAYS = weather_of(TERRACE, ClearDay(tmin_c=15, tmax_c=26), Span(start=date(2025, 5, 31), days=2, step_s=300))
SEA = 101325.0
FAN = FlowPath("fan", (Loss("way", 0.01),), (("body", 0.0),), "air", mover=Mover(20.0, 0.02))


def step(hour: str, weather=DAY, day: date = JUNE) -> int:
    return step_at(weather, instant_s(TERRACE.zone, day, hour))


# --- known before the march ---


def test_a_constant_fan_and_one_set_by_hand():
    assert (Constant(speed=0.4).ceiling(TERRACE, DAY) == 0.4).all()
    turns = [
        Turn(at=datetime(2025, 6, 12, 15, 0, tzinfo=TERRACE.zone), speed=0.25),
        Turn(at=datetime(2025, 6, 12, 9, 0, tzinfo=TERRACE.zone), speed=1.0),
    ]
    speed = ByHand(at_first=0.1, turns=turns).ceiling(TERRACE, DAY)
    assert speed[step("08:30")] == 0.1
    assert speed[step("12:00")] == 1.0
    assert speed[step("20:00")] == 0.25


def test_a_timer_goes_by_the_season_and_past_midnight():
    timer = Timer(
        seasons=[Season(months=[5], on="08:00", off="10:00"), Season(months=[6], on="22:00", off="06:00", speed=0.5)]
    )
    speed = timer.ceiling(TERRACE, TWO_DAYS)
    may, june = date(2025, 5, 31), date(2025, 6, 1)
    assert [speed[step(hour, TWO_DAYS, may)] for hour in ("07:55", "08:00", "09:55", "10:00", "23:00")] == [
        0,
        1,
        1,
        0,
        0,
    ]
    assert [speed[step(hour, TWO_DAYS, june)] for hour in ("00:00", "05:55", "06:00", "21:55", "22:00")] == [
        0.5,
        0.5,
        0,
        0,
        0.5,
    ]
    assert not Timer(seasons=[Season(months=[1], on="08:00", off="10:00")]).ceiling(TERRACE, TWO_DAYS).any()


def test_a_panel_turns_it_with_the_sun_it_faces():
    panel = SunPanel(peak_w=5, motor_w=5, facing_deg=180)
    speed, away = panel.ceiling(TERRACE, DAY), panel.model_copy(update={"facing_deg": 0.0}).ceiling(TERRACE, DAY)
    assert speed[step("02:00")] == 0
    assert 0.8 < speed[step("14:00")] <= 1.0
    assert away[step("14:00")] < speed[step("14:00")]


def test_a_fan_as_strong_as_the_sun_is_at_full_from_its_light_on():
    fan = WithSun(full_w_m2=400.0, starts_w_m2=80.0, facing_deg=180, tilt_deg=40)
    speed = fan.ceiling(TERRACE, DAY)
    assert speed[step("02:00")] == 0.0
    assert speed[step("13:00")] == 1.0
    part = speed[(speed > 0.0) & (speed < 1.0)]
    assert part.min() >= 80.0 / 400.0
    dull = fan.model_copy(update={"full_w_m2": 1200.0}).ceiling(TERRACE, DAY)
    both = (dull > 0.0) & (speed < 1.0)
    assert speed[both] == pytest.approx(3.0 * dull[both])
    level = WithSun(full_w_m2=1000.0, starts_w_m2=0.0, facing_deg=180, tilt_deg=0.0).ceiling(TERRACE, DAY)
    beam = DAY.dni_w_m2 * DAY.sun.sin_altitude
    assert 1000.0 * level == pytest.approx(np.minimum(beam + DAY.dhi_w_m2, 1000.0), abs=0.5), (
        "on the level it is what falls on it"
    )


@pytest.mark.parametrize(
    "given",
    [
        {"kind": "sun", "full_w_m2": 0, "facing_deg": 180},
        {"kind": "timer", "seasons": []},
        {"kind": "timer", "seasons": [{"months": [6], "on": "25:00", "off": "26:00"}]},
        {"kind": "timer", "seasons": [{"months": [6], "on": "08:00", "off": "09:00"}] * 2},
        {"kind": "panel", "peak_w": 0, "motor_w": 5, "facing_deg": 180},
        {"kind": "differential", "warm": "a", "cool": "b", "on_k": 2, "off_k": 4},
        {"kind": "constant", "speed": 1.4},
        {"kind": "wish"},
    ],
)
def test_a_control_that_cannot_be_is_refused(given):
    with pytest.raises(ValidationError):
        TypeAdapter(FlowControl).validate_python(given)


# --- two temperatures, inside the march ---

SWITCH = Thermostat("body", "air", on_k=12.0, off_k=4.0)
POWER, CAPACITY = 60.0, 20000.0


def warmed(path: FlowPath) -> Network:
    links = (
        Link("in", Law.CARRIED, "air", "body", (), "vent", "fan"),
        Link("out", Law.CARRIED, "body", "air", (), "vent", "fan"),
    )
    return Network((Node("body", CAPACITY, "body"),), links, (path,))


def steady(steps: int, dt_s: float, on: bool = False) -> Drive:
    ones = np.ones(steps)
    return Drive(
        dt_s, 20.0 * ones, 10.0 * ones, ones, 1000.0 * ones, 100.0, SEA, POWER * ones[:, None],
        np.ones(steps, dtype=np.int64), on=np.array([float(on)]),
    )  # fmt: skip


def test_it_switches_with_hysteresis_at_the_times_worked_out_by_hand():
    """Warming without loss takes C ΔT/P; cooling goes exponentially towards P/(m cp) over the air."""
    dt_s, network = 10.0, warmed(replace(FAN, thermostat=SWITCH))
    rise = advance(network, np.array([20.0]), steady(1500, dt_s)).temperature_c[:, 0] - 20.0
    tops = [k for k in range(1, 1500) if rise[k] > rise[k - 1] and rise[k] >= rise[k + 1]]
    lows = [k for k in range(1, 1500) if rise[k] < rise[k - 1] and rise[k] <= rise[k + 1]]
    carried = flow_kg_s(FAN, {"body": 28.0, "air": 20.0}, SEA) * CP_AIR
    settles = POWER / carried
    assert settles < SWITCH.off_k
    warming = CAPACITY * (SWITCH.on_k - SWITCH.off_k) / POWER
    cooling = CAPACITY / carried * np.log((SWITCH.on_k - settles) / (SWITCH.off_k - settles))
    assert tops[0] * dt_s == pytest.approx(CAPACITY * SWITCH.on_k / POWER, abs=2 * dt_s)
    assert np.diff(tops[:3]) * dt_s == pytest.approx(warming + cooling, abs=4 * dt_s)
    assert rise[tops] == pytest.approx(SWITCH.on_k, abs=POWER / CAPACITY * 2 * dt_s)
    assert rise[lows] == pytest.approx(SWITCH.off_k, abs=1.0)


def test_it_goes_on_as_it_was_left_and_its_energy_closes():
    network = warmed(replace(FAN, thermostat=SWITCH))
    between = np.array([28.0])  # 8 K over the air: between off and on
    left_on, left_off = (advance(network, between, steady(30, 60.0, on)).temperature_c[1, 0] for on in (True, False))
    assert left_on < 28.0 < left_off
    whole = advance(network, np.array([20.0]), steady(400, 60.0))
    first = advance(network, np.array([20.0]), steady(173, 60.0))
    second = advance(network, first.temperature_c[-1], replace(steady(227, 60.0), on=first.on))
    assert np.vstack([first.temperature_c[:-1], second.temperature_c]) == pytest.approx(whole.temperature_c, abs=1e-3)
    lost, sun = closure(network, whole, steady(400, 60.0))
    assert abs(lost) < 1e-9 * sun


def test_a_switch_refuses_nodes_that_are_not_there_and_no_hysteresis():
    with pytest.raises(InputProblem, match="nowhere"):
        warmed(replace(FAN, thermostat=Thermostat("nowhere", "air", 6.0, 2.0)))
    with pytest.raises(InputProblem, match="below"):
        Thermostat("body", "air", 2.0, 2.0)


# --- from a build to the march ---

OVENS = KINDS[OVEN.kind]
PATH = FlowPath("fan", (Loss("way", 0.002),), (("inside-air", 0.0),), "air", mover=Mover(15.0, 0.004))


@pytest.fixture(autouse=True)
def nothing_traced():
    """The oven of these tests is none that others know."""
    forget_everything()
    yield
    forget_everything()


def blown(monkeypatch, control, foot_on: str = "", foot_w_k: float = 5000.0):
    """The oven with a fan that blows outside air through it, and a foot on the ground or in mains water."""
    kind, path = OVENS, PATH
    if isinstance(control, Differential):
        path = replace(path, thermostat=control.thermostat)

    def network(build, load, optics):
        plain = kind.network(build, load, optics)
        links = [
            Link("fan in", Law.CARRIED, "air", "inside-air", (), "vent", "fan"),
            Link("fan out", Law.CARRIED, "inside-air", "air", (), "vent", "fan"),
            *([Link("foot", Law.CONDUCTANCE, "tray", foot_on, (foot_w_k,), "walls")] if foot_on else []),
        ]
        return replace(plain, links=(*plain.links, *links), paths=(*plain.paths, path))

    forget_everything()
    made = replace(kind, network=network, drives=lambda build: {"fan": control})
    monkeypatch.setitem(registry.KINDS, OVEN.kind, made)
    return simulate(usual_case(TERRACE, None, OVEN, STEW, JUNE), DAY)


def test_a_timer_reaches_the_march(monkeypatch):
    still = simulate(usual_case(TERRACE, None, OVEN, STEW, JUNE), DAY).temperature_c["inside-air"]
    run = blown(monkeypatch, Timer(seasons=[Season(months=[6], on="12:00", off="13:00")]))
    air = run.temperature_c["inside-air"]
    assert air[step("12:50")] < still[step("12:50")] - 10
    assert air[step("18:00")] == pytest.approx(still[step("18:00")], abs=3.0)
    assert run.energy_closure < 1e-9


def test_two_temperatures_hold_the_oven_over_the_hour_at_which_the_pot_goes_in(monkeypatch):
    keeps = Differential(warm="inside-air", cool="air", on_k=35.0, off_k=20.0)
    run = blown(monkeypatch, keeps)
    over = run.temperature_c["inside-air"][:-1] - DAY.air_c
    assert 33.0 < over[step("10:00") : step("16:00")].max() < 48.0
    free = simulate_free(monkeypatch)
    assert free.max() > over.max() + 10
    assert run.energy_closure < 1e-9


def simulate_free(monkeypatch):
    return blown(monkeypatch, Constant(speed=0.0)).temperature_c["inside-air"][:-1] - DAY.air_c


@pytest.mark.parametrize(
    ("boundary", "degrees"),
    [("ground", lambda at: ground_c(TERRACE, at, GROUND_DEPTH_M)), ("mains", lambda at: mains_c(TERRACE, at))],
)
def test_ground_and_mains_reach_the_march(monkeypatch, boundary, degrees):
    run = blown(monkeypatch, Constant(speed=0.0), foot_on=boundary)
    assert run.temperature_c["tray"][1:] == pytest.approx(degrees(DAY.sun.time_s), abs=0.6)


def test_the_ground_is_later_and_weaker_than_the_air_and_mains_come_through_it():
    year = np.arange(0, 365) * 86400.0 + 1735689600.0
    shallow, deep = ground_c(TERRACE, year, 0.05), ground_c(TERRACE, year, 2.0)
    assert np.ptp(deep) < 0.6 * np.ptp(shallow)
    assert (np.argmax(deep) - np.argmax(shallow)) % 365 == pytest.approx(
        2.0 / np.sqrt(2 * 5.5e-7 / (2 * np.pi / 31556952)) / (2 * np.pi) * 365, abs=4
    )
    assert mains_c(TERRACE, year) == pytest.approx(ground_c(TERRACE, year, 1.0))
