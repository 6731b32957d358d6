"""Water that goes round between a coil in the sun and a store: by a pump, by a switch, by its own weight."""

from __future__ import annotations

import math
from concurrent.futures import ThreadPoolExecutor
from dataclasses import replace
from itertools import pairwise

import numpy as np
import pytest
from scipy.integrate import solve_ivp
from scipy.optimize import brentq

from drylamp.core.air.constants import CP_WATER_J_KGK, GRAVITY
from drylamp.core.air.draught import FlowPath
from drylamp.core.air.thermostat import Stop, Thermostat
from drylamp.core.heat import siphon, water
from drylamp.core.heat.advance import History, advance
from drylamp.core.heat.closure import closure
from drylamp.core.heat.drive import Drive
from drylamp.core.heat.law import Law
from drylamp.core.heat.network import Network
from drylamp.core.heat.parts import Link, Node
from drylamp.core.heat.pipes import Piece, Round, Stream, Tube

CP = CP_WATER_J_KGK
PIECES, BORE, SKIN = 12, 0.013, (0.002, 0.4)


def loop(
    *, layers=1, litres=80.0, length_m=30.0, pump_l_min=2.0, thermostat=None, siphons=False, lift_m=0.0, coil_m=1.0, tall_m=0.8,
    valve=False, watts=0.0, tank_w_k=2.0, coil_w_k=14.0, run_m=0.0,
) -> Network:  # fmt: skip
    """A coil (inlet below, outlet ``coil_m`` higher) and a tank whose bottom stands ``lift_m`` above the coil's inlet."""
    walls = [Node(f"w{k}", 800.0, "") for k in range(PIECES)]
    tank = [Node(f"s{k}", litres / layers * CP, "") for k in range(layers)]
    links = [Link(f"a{k}", Law.CONDUCTANCE, f"w{k}", "air", (coil_w_k / PIECES,), "out") for k in range(PIECES)]
    links += [Link(f"t{k}", Law.CONDUCTANCE, f"s{k}", "air", (tank_w_k / layers,), "out") for k in range(layers)]
    links += [Link(f"m{k}", Law.MIXING, f"s{k}", f"s{k + 1}", (0.2, tall_m / layers, 300.0)) for k in range(layers - 1)]
    down = [Link(f"d{k}", Law.CARRIED, f"s{k}", f"s{k + 1}", (), path="loop") for k in range(layers - 1)]
    up = [Link(f"u{k}", Law.CARRIED, f"s{k + 1}", f"s{k}", (), path="back") for k in range(layers - 1)]
    back = "" if valve or not siphons else "back"
    led = {"losses": (), "columns": (), "outside": "air", "fluid": "water", "led": True}
    paths = [FlowPath("loop", given_kg_s=pump_l_min / 60.0, thermostat=thermostat, **led)]
    paths += [FlowPath("back", **led)] if back else []
    if watts:
        links.append(Link("pump", Law.DRIVEN, "air", "s0", (watts / (pump_l_min / 60.0 * CP),), "in", path="loop"))
    # from the tank's bottom down to the coil, up along it, up to the tank's top, and through the tank down again
    top = lift_m + tall_m
    pieces = [Piece(f"w{k}", length_m / PIECES, coil_m / PIECES) for k in range(PIECES)]
    if run_m:
        tube = Tube(0.02, 0.003, 0.4)
        walls += [Node(name, 900.0, "") for name in ("go", "come")]
        links += [Link(f"{name} loses", Law.CONDUCTANCE, name, "air", (0.4,), "out") for name in ("go", "come")]
        pieces = [Piece("go", run_m, -lift_m, tube), *pieces, Piece("come", run_m, top - coil_m, tube)]
    else:
        pieces[0] = replace(pieces[0], rise_m=pieces[0].rise_m - lift_m)
        pieces[-1] = replace(pieces[-1], rise_m=pieces[-1].rise_m + top - coil_m)
    column = tuple((f"s{k}", -tall_m / layers) for k in range(layers))
    goes = Round("s0", "loop", back, column, siphons)
    stream = Stream("coil", tuple(pieces), BORE, *SKIN, f"s{layers - 1}", round=goes)
    return Network((*walls, *tank), (*links, *down, *(up if back else [])), tuple(paths), (stream,))


def drive(network: Network, sun_w: np.ndarray, *, air=20.0, speed=1.0, dt_s=60.0) -> Drive:
    """Sun on the coil's pieces; still weather."""
    steps = len(sun_w)
    still, source = np.zeros(steps), np.zeros((steps, len(network.nodes)))
    source[:, :PIECES] = sun_w[:, None] / PIECES
    ceiling = np.ones((steps, len(network.paths))) * np.reshape(speed, (-1, 1))
    return Drive(
        dt_s, still + air, still + air, still, still + 1000.0, 100.0, 101325.0, source, np.ones(steps, dtype=np.int64),
        speed=ceiling, flow_kg_s=np.zeros((steps, 1)),
    )  # fmt: skip


def run(network: Network, weather: Drive, first=20.0) -> History:
    """Marched, its books checked."""
    history = advance(network, np.full(len(network.nodes), first), weather)
    lost, taken = closure(network, history, weather)
    moved = float(np.abs(np.diff(history.heat_j(network), axis=0)).sum())
    assert abs(lost) < 1e-9 * (taken + moved)
    return history


def tank(network: Network, history: History, layer=0) -> np.ndarray:
    return history.temperature_c[:, network.index(f"s{layer}")]


def hump(steps: int, watts: float, hours: float, dt_s=60.0) -> np.ndarray:
    """A day's sun: half a sine wave, then dark."""
    at = np.arange(steps) * dt_s / 3600.0
    return watts * np.clip(np.sin(np.pi * at / hours), 0.0, None) * (at < hours)


# --- against scipy: the same loop by fine cells of water ---


def by_cells(
    network: Network, weather: Drive, cells: int, flow_kg_s: float, tank_w_k: float, coil_w_k: float, litres: float
) -> np.ndarray:
    """The tank of a pumped loop with one layer by the method of lines."""
    stream = network.streams[0]
    of = np.arange(cells) * PIECES // cells
    mass = stream.water_kg / cells

    def rates(fluid: np.ndarray) -> float:
        film = water.pipe_film_w_m2k(flow_kg_s, BORE, float(fluid.mean()))
        skin = math.log(1 + 2 * SKIN[0] / BORE) / (2 * math.pi * SKIN[1] * stream.length_m)
        return 1.0 / (1.0 / (film * math.pi * BORE * stream.length_m) + skin) / cells

    state, kept = np.full(PIECES + cells + 1, 20.0), [20.0]
    for n in range(len(weather.air_c)):
        sun = weather.source_w[n, :PIECES]

        def slope(_, y, sun=sun):
            wall, fluid, store = y[:PIECES], y[PIECES:-1], y[-1]
            heat = rates(fluid) * (wall[of] - fluid)
            before = np.concatenate(([store], fluid[:-1]))
            return np.concatenate((
                (sun - coil_w_k / PIECES * (wall - 20.0) - np.bincount(of, heat, PIECES)) / 800.0,
                (heat + flow_kg_s * CP * (before - fluid)) / (mass * CP),
                [(flow_kg_s * CP * (fluid[-1] - store) - tank_w_k * (store - 20.0)) / (litres * CP)],
            ))  # fmt: skip

        state = solve_ivp(slope, (0.0, weather.dt_s), state, method="LSODA", rtol=1e-7, atol=1e-7).y[:, -1]
        kept.append(state[-1])
    return np.array(kept)


@pytest.mark.parametrize(("flow", "dt_s"), [(0.5, 60.0), (4.0, 60.0), (2.0, 300.0)])
def test_a_pumped_loop_against_scipy(flow, dt_s):
    """Five hours of sun and three of dark with the pump on: the tank within 0.1 K of 96 cells; five-minute steps as well."""
    steps = int(8 * 3600 / dt_s)
    network = loop(pump_l_min=flow)
    weather = drive(network, hump(steps, 900.0, 5.0, dt_s), dt_s=dt_s)
    ours = tank(network, run(network, weather))
    theirs = by_cells(network, weather, 96, flow / 60.0, 2.0, 14.0, 80.0)
    assert theirs.max() > 36.0
    assert np.abs(ours - theirs).max() < 0.1


def test_heat_given_and_taken_agree():
    """What comes out of the coil over what went in is what the tank gains and loses."""
    network = loop(run_m=3.0, watts=20.0)
    history = run(network, drive(network, hump(400, 800.0, 6.0)))
    passed = history.passed
    gained = float(np.diff(tank(network, history)).sum()) * 80.0 * CP
    lost = float(history.link_w[:, [link.name == "t0" for link in network.links]].sum()) * 60.0
    pump = float(history.link_w[:, [link.name == "pump" for link in network.links]].sum()) * 60.0
    assert pump == pytest.approx(20.0 * 400 * 60.0)
    assert float((passed.out_j - passed.in_j).sum()) == pytest.approx(gained + lost - pump, rel=1e-6)


def test_layers_of_a_pumped_tank_are_carried_through():
    """What comes in on top goes down layer by layer; the top leads, the bottom follows."""
    network = loop(layers=5, pump_l_min=0.3)
    history = run(network, drive(network, np.full(240, 700.0)))
    apart = [tank(network, history, k)[-1] - tank(network, history, k + 1)[-1] for k in range(4)]
    assert min(apart) > 0.0
    assert tank(network, history, 0)[-1] - tank(network, history, 4)[-1] > 5.0


# --- a switch by two temperatures ---

SWITCH = Thermostat("w11", "s0", 4.0, 1.0)


DAY_STEPS = 288


def broken_month(days=30) -> np.ndarray:
    """Good days and grey ones, and clouds that come and go in each, five minutes a step, reproducible."""
    chance = np.random.default_rng(7)
    clear = np.repeat(chance.choice([0.08, 0.35, 0.7, 1.0], days), DAY_STEPS)
    cloud = np.repeat(chance.uniform(0.2, 1.0, days * DAY_STEPS // 6), 6)
    return np.tile(hump(DAY_STEPS, 900.0, 12.0, 300.0), days) * clear * cloud


def test_a_controller_does_not_chatter_and_beats_the_best_timer():
    """Over a broken month: at most a dozen times on in a day, and a warmer tank than by any hours of a timer, the same each day."""
    sun = broken_month()
    switched = loop(thermostat=SWITCH, coil_w_k=25.0)
    history = run(switched, drive(switched, sun, dt_s=300.0))
    starts = np.diff((history.passed.out_kg[:, 0] > 0).astype(int), append=0).reshape(-1, DAY_STEPS) == 1
    assert 1 <= starts.sum(axis=1).max() <= 12
    timed, best = loop(coil_w_k=25.0), 0.0
    for begins in range(0, 7, 2):
        for ends in range(max(begins + 2, 6), 14, 2):
            hours = (np.arange(len(sun)) % DAY_STEPS) / 12.0
            speed = ((hours >= begins) & (hours < ends)).astype(float)
            best = max(best, float(tank(timed, run(timed, drive(timed, sun, speed=speed, dt_s=300.0))).mean()))
    assert best > 24.0
    assert float(tank(switched, history).mean()) > best


def test_a_pump_that_runs_all_night_cools_the_tank():
    """Off over night keeps it warmer; against a cold sky that is how one cools it."""
    network = loop(litres=300.0)
    night = np.zeros(600)
    on = tank(network, run(network, drive(network, night, air=12.0), first=34.0))
    off = tank(network, run(network, drive(network, night, air=12.0, speed=0.0), first=34.0))
    assert off[-1] - on[-1] > 1.0


# --- by its own weight ---


def test_the_siphon_is_the_balance_of_weight_and_friction():
    """Held at two warmths, the flow is the root of ρ g Δz = 32 μ L v / D² + fittings: Hagen–Poiseuille, done by scipy."""
    network = loop(siphons=True, pump_l_min=0.0, lift_m=0.6, coil_m=1.0, tall_m=0.4)
    streams, lots = network.compiled_streams, network.lots_at({"coil": np.full(PIECES, 45.0)})
    lots.celsius[0, 6:12] = 35.0
    cold = np.full(len(network.nodes) + 6, 20.0)
    celsius = siphon._hold(streams, lots, 0)
    pull = siphon.drive_pa(streams, lots, 0, cold)
    rises = streams.rise
    by_hand = -GRAVITY * (
        sum(water.density_kg_m3(35.0 if k < 6 else 45.0) * rises[k] for k in range(PIECES))
        - 0.4 * water.density_kg_m3(20.0)
    )
    assert pull == pytest.approx(by_hand, rel=1e-9)
    area, rho, mu = math.pi / 4 * BORE**2, water.density_kg_m3(celsius), water.viscosity_pa_s(celsius)

    def short(kg_s: float) -> float:
        speed = kg_s / rho / area
        return 32 * mu * 30.0 * speed / BORE**2 + 5.0 * rho * speed**2 / 2 - pull

    expected = brentq(short, 1e-7, 1.0)
    assert siphon.driven_kg_s(streams, 0, pull, celsius, 1e-3) == pytest.approx(expected, rel=1e-4)


def flows(history: History) -> np.ndarray:
    """Kilograms a minute, below nothing backwards."""
    return history.passed.out_kg[:, 0] - 2.0 * history.passed.back_kg[:, 0]


def test_a_siphon_rises_with_height_and_settles():
    """The higher the tank the more runs; in steady sun it does not swing."""
    got = []
    for lift in (0.2, 0.8, 2.0):
        network = loop(siphons=True, pump_l_min=0.0, lift_m=lift, length_m=15.0)
        late = flows(run(network, drive(network, np.full(300, 700.0))))[-60:]
        assert np.abs(np.diff(late)).max() < 0.05 * late.mean()
        got.append(late.mean())
    assert 0.05 < got[0] < got[1] < got[2]


def test_at_night_a_low_tank_runs_backwards_and_a_valve_stops_it():
    """A warm tank below a coil under a cold sky: backwards all night. Raised well above the coil, or with a valve, it keeps its heat."""
    night = np.zeros(600)

    def over_night(**given) -> tuple[float, float]:
        network = loop(siphons=True, pump_l_min=0.0, length_m=15.0, coil_w_k=20.0, **given)
        history = run(network, drive(network, night, air=8.0), first=40.0)
        return float(tank(network, history)[-1]), float(flows(history).sum())

    low, backwards = over_night(lift_m=-0.9)
    high, little = over_night(lift_m=1.2)
    shut, none = over_night(lift_m=-0.9, valve=True)
    assert backwards < -20.0
    assert abs(none) < 1.0
    assert abs(little) < 0.3 * abs(backwards)
    assert high - low > 3.0
    assert shut - low > 3.0


def test_a_siphon_by_five_minutes_is_that_by_one():
    """Long steps are cut where more than half of what the pipes hold would move."""
    ends = []
    for dt_s in (30.0, 60.0, 300.0):
        network = loop(siphons=True, pump_l_min=0.0, lift_m=0.5, length_m=15.0, layers=4)
        steps = int(8 * 3600 / dt_s)
        ends.append(tank(network, run(network, drive(network, hump(steps, 800.0, 7.0, dt_s), dt_s=dt_s)))[-1])
    assert np.ptp(ends[:2]) < 0.1
    assert np.ptp(ends) < 0.3


def test_a_coil_shut_off_by_a_hand_valve_stands():
    """No pump, valve shut: nothing moves."""
    network = loop(siphons=True, pump_l_min=0.0, lift_m=0.5)
    assert (flows(run(network, drive(network, np.full(60, 700.0), speed=0.0))) == 0.0).all()


def test_what_goes_round_must_come_back_as_high():
    """A loop whose rises do not close would make work from nothing."""
    from drylamp.core.checks import InputProblem

    with pytest.raises(InputProblem, match="higher than it began"):
        Stream("coil", (Piece("w0", 1.0, 0.5),), BORE, *SKIN, "s0", round=Round("s0", "loop"))


def test_one_way_through_all_layers_is_balanced():
    """A store whose layers are left out of the way round is refused: heat would be made from nothing."""
    from drylamp.core.checks import InputProblem

    good = loop(layers=3)
    torn = [link for link in good.links if link.name != "d1"]
    with pytest.raises(InputProblem, match="does not flow out again"):
        Network(good.nodes, tuple(torn), good.paths, good.streams)
    assert len(list(pairwise(good.names))) == PIECES + 2


def test_a_tub_stops_where_it_is_warm_enough_and_one_that_cools_where_it_is_cool_enough():
    """A switch with an end: no warmer than 34 °C by day; by night the same pump the other way round, no cooler than 26 °C."""
    warm = replace(SWITCH, stop=Stop("s0", 34.0))
    day = tank(loop(thermostat=warm), run(loop(thermostat=warm), drive(loop(), np.full(900, 900.0))))
    assert 33.5 < day[-1] < 34.3
    cools = Thermostat("s0", "w11", 3.0, 0.5, Stop("s0", 26.0, above=False))
    network = loop(thermostat=cools, coil_w_k=30.0, tank_w_k=0.1)
    history = run(network, drive(network, np.zeros(1200), air=12.0), first=34.0)
    assert 25.0 < tank(network, history)[-1] < 26.3
    starts = np.diff((history.passed.out_kg[:, 0] > 0).astype(int)) == 1
    assert starts.sum() <= 12


def test_two_threads_may_march_one_network():
    """What a march works in is its own: one network marched twice at a time gives twice what it gives alone."""
    network = loop()
    weather = drive(network, hump(600, 900.0, 8.0))
    alone = tank(network, run(network, weather))
    with ThreadPoolExecutor(max_workers=2) as both:
        found = list(both.map(lambda _: tank(network, run(network, weather)), range(8)))
    assert all((one == alone).all() for one in found)
