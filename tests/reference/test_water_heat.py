"""Water that stands and flows, against published laws, closed forms and an independent integration."""

from __future__ import annotations

import math
from itertools import pairwise

import CoolProp.CoolProp as CoolProp
import numpy as np
import pytest
from ht.conv_free_immersed import Nu_horizontal_cylinder_Churchill_Chu
from ht.conv_internal import turbulent_Gnielinski
from hypothesis import given, settings
from hypothesis import strategies as st
from scipy.integrate import solve_ivp

from drylamp.core.air.constants import CP_WATER_J_KGK
from drylamp.core.air.draught import FlowPath
from drylamp.core.heat import network as networks
from drylamp.core.heat import water
from drylamp.core.heat.advance import advance
from drylamp.core.heat.closure import closure
from drylamp.core.heat.drive import Drive
from drylamp.core.heat.law import Law
from drylamp.core.heat.network import Network
from drylamp.core.heat.parts import MAINS, Link, Node
from drylamp.core.heat.pipes import Piece, Stream
from drylamp.core.heat.streams import MOST_LOTS
from drylamp.core.sums.water import MixIn, mix

CP = CP_WATER_J_KGK
WALL = 1e9  # J/K: a wall that keeps its temperature


def drive(
    steps: int, network: Network, *, flow_l_min=0.0, air=20.0, mains=13.0, sun_w=0.0, dt_s=60.0, parts=1
) -> Drive:
    """Still, even weather and one flow for all, or one for each step."""
    still = np.zeros(steps)
    flow = np.broadcast_to(np.asarray(flow_l_min, dtype=float) / 60.0, (steps,))
    return Drive(
        dt_s, still + air, still + air, still, still + 1000.0, 100.0, 101325.0,
        np.full((steps, len(network.nodes)), sun_w / len(network.nodes)), np.full(steps, parts, dtype=np.int64),
        mains_c=still + mains, speed=np.ones((steps, len(network.paths))),
        flow_kg_s=np.column_stack([flow] * len(network.streams)) if network.streams else None,
    )  # fmt: skip


def pipe(
    pieces: int, length_m: float, bore_m=0.012, wall_m=0.002, wall_w_mk=0.4, capacity=WALL, links=(), tubes=1
) -> Network:
    nodes = tuple(Node(f"w{k}", capacity, "") for k in range(pieces))
    parts = tuple(Piece(f"w{k}", length_m / pieces) for k in range(pieces))
    return Network(nodes, tuple(links), (), (Stream("pipe", parts, bore_m, wall_m, wall_w_mk, MAINS, tubes),))


def conductance_w_k(stream: Stream, kg_s: float, celsius: float) -> float:
    """Film and wall of the whole pipe in a row."""
    film = water.pipe_film_w_m2k(kg_s / stream.tubes, stream.bore_m, celsius)
    inside = math.pi * stream.bore_m * stream.length_m * stream.tubes
    wall = math.log(1 + 2 * stream.wall_m / stream.bore_m) / (
        2 * math.pi * stream.wall_w_mk * stream.length_m * stream.tubes
    )
    return 1.0 / (1.0 / (film * inside) + wall)


def out_c(history) -> np.ndarray:
    passed = history.passed
    with np.errstate(invalid="ignore", divide="ignore"):
        return passed.out_j[:, 0] / (passed.out_kg[:, 0] * CP)


# --- properties: CoolProp (IAPWS-95) ---


@pytest.mark.parametrize("celsius", [0.5, 4.0, 10.0, 20.0, 37.0, 50.0, 65.0, 80.0, 95.0])
def test_properties_of_water(celsius):
    def table(key: str) -> float:
        return CoolProp.PropsSI(key, "T", celsius + 273.15, "P", 2e5, "Water")

    assert water.density_kg_m3(celsius) == pytest.approx(table("D"), rel=1e-4)
    assert water.viscosity_pa_s(celsius) == pytest.approx(table("V"), rel=6e-4)
    assert water.conductivity_w_mk(celsius) == pytest.approx(table("L"), rel=6e-3)
    assert water.prandtl(celsius) == pytest.approx(table("PRANDTL"), rel=1.5e-2)
    assert water.expansion_per_k(celsius) == pytest.approx(table("ISOBARIC_EXPANSION_COEFFICIENT"), abs=2e-5)


# --- films: Gnielinski 1976, Churchill & Chu 1975, as the ht package has them ---


@pytest.mark.parametrize("reynolds", [4000.0, 8000.0, 20000.0, 60000.0])
def test_turbulent_film_is_gnielinskis(reynolds):
    bore, celsius = 0.013, 40.0
    flow = reynolds * math.pi * bore * water.viscosity_pa_s(celsius) / 4
    theirs = turbulent_Gnielinski(Re=reynolds, Pr=water.prandtl(celsius), fd=(0.79 * math.log(reynolds) - 1.64) ** -2)
    ours = water.pipe_film_w_m2k(flow, bore, celsius) * bore / water.conductivity_w_mk(celsius)
    assert ours == pytest.approx(theirs, rel=1e-6)


def test_film_has_no_jump_and_is_laminar_at_a_trickle():
    bore, celsius = 0.013, 30.0
    flows = np.linspace(1e-4, 0.12, 4000)
    films = np.array([water.pipe_film_w_m2k(f, bore, celsius) for f in flows])
    assert films[0] * bore / water.conductivity_w_mk(celsius) == pytest.approx(4.36)
    assert np.abs(np.diff(films)).max() < 0.03 * films.max()
    assert (np.diff(films) >= -1e-9).all()


@pytest.mark.parametrize(
    ("pipe_c", "tank_c", "diameter"), [(20.0, 70.0, 0.016), (13.0, 50.0, 0.012), (45.0, 40.0, 0.022)]
)
def test_pipe_in_water_is_churchill_and_chus(pipe_c, tank_c, diameter):
    mean = (pipe_c + tank_c) / 2
    rho, mu, k = (CoolProp.PropsSI(key, "T", mean + 273.15, "P", 2e5, "Water") for key in "DVL")
    beta = CoolProp.PropsSI("ISOBARIC_EXPANSION_COEFFICIENT", "T", mean + 273.15, "P", 2e5, "Water")
    grashof = 9.80665 * beta * abs(pipe_c - tank_c) * diameter**3 * rho**2 / mu**2
    theirs = Nu_horizontal_cylinder_Churchill_Chu(Pr=CP * mu / k, Gr=grashof) * k / diameter
    assert water.immersed_w_k(1.0, diameter, pipe_c, tank_c) == pytest.approx(theirs, rel=0.02)


# Churchill & Chu 1975, upright: 0.68 + 0.670 Ra^¼ / [1 + (0.492/Pr)^(9/16)]^(4/9), with CoolProp's water
@pytest.mark.parametrize(("wall_c", "water_c", "height"), [(55.0, 20.0, 0.4), (8.0, 30.0, 0.2), (75.0, 85.0, 0.6)])
def test_upright_wall_in_water_is_churchill_and_chus(wall_c, water_c, height):
    mean = (wall_c + water_c) / 2
    rho, mu, k, beta = (
        CoolProp.PropsSI(key, "T", mean + 273.15, "P", 2e5, "Water")
        for key in ("D", "V", "L", "ISOBARIC_EXPANSION_COEFFICIENT")
    )
    pr = CP * mu / k
    rayleigh = 9.80665 * beta * abs(wall_c - water_c) * height**3 * rho**2 / mu**2 * pr
    nusselt = 0.68 + 0.670 * rayleigh**0.25 / (1 + (0.492 / pr) ** (9 / 16)) ** (4 / 9)
    assert water.wetted_w_k(1.0, height, 0.0, wall_c, water_c) == pytest.approx(nusselt * k / height, rel=0.02)


# Dunkle 1961, worked by hand: water 60 °C, glass 45 °C; p = 19.9 and 9.6 kPa (steam tables).
def test_wet_gap_is_dunkles():
    lift = 15.0 + (19940.0 - 9593.0) * 333.15 / (268.9e3 - 19940.0)
    film = 0.884 * lift ** (1 / 3)
    by_vapour = 16.273e-3 * film * (19940.0 - 9593.0)
    assert 15.0 * water.wet_gap_w_m2k(60.0, 45.0, 1.0) == pytest.approx(15.0 * film + by_vapour, rel=0.01)
    assert by_vapour > 5 * 15.0 * film  # it outweighs convection by far
    assert water.wet_gap_w_m2k(45.0, 60.0, 1.0) == 0.0
    assert water.wet_gap_w_m2k(60.0, 45.0, 0.0) < 0.2 * water.wet_gap_w_m2k(60.0, 45.0, 1.0)


# --- sparse factors ---


def web(count: int, seed: int, most: int = 3) -> Network:
    random = np.random.default_rng(seed)
    nodes = tuple(Node(f"n{k}", float(random.uniform(200, 20000)), "") for k in range(count))
    links = [Link("to air", Law.WIND, "n0", "air", (0.5,))]
    for k in range(1, count):
        for j in random.integers(0, k, size=random.integers(1, most)):
            law, params = ((Law.CONDUCTANCE, (float(random.uniform(0.1, 5)),)), (Law.RADIATION, (float(random.uniform(0.01, 0.4)),)))[
                int(random.integers(0, 2))
            ]  # fmt: skip
            links.append(Link(f"l{len(links)}", law, f"n{k}", f"n{j}", params))
    return Network(nodes, tuple(links))


@pytest.mark.parametrize("seed", [1, 2, 3])
def test_sparse_factors_and_dense_inverse_agree(seed, monkeypatch):
    thick, thin = web(30, seed), web(30, seed)
    run = drive(120, thick, sun_w=900.0)
    first = np.linspace(10.0, 80.0, 30)
    assert thick.fill is not None
    monkeypatch.setattr(networks, "SPARSE_ABOVE", 99)
    assert thin.fill is None
    sparse, dense = advance(thick, first, run), advance(thin, first, run)
    assert np.abs(sparse.temperature_c - dense.temperature_c).max() < 1e-8
    assert np.abs(sparse.link_w - dense.link_w).max() < 1e-6
    lost, taken = closure(thick, sparse, run)
    assert abs(lost) < 1e-9 * taken


# --- streams: closed forms of plug flow beside a wall of one temperature ---


@pytest.mark.parametrize("flow", [0.05, 0.3, 1.1, 2.2, 5.0, 14.0])
@pytest.mark.parametrize("pieces", [1, 12])
def test_steady_flow_is_the_exponential(flow, pieces):
    network = pipe(pieces, 40.0)
    run = drive(400, network, flow_l_min=flow)
    history = advance(network, np.full(pieces, 60.0), run)
    warm = 60.0 - (60.0 - 13.0) / 2
    for _ in range(8):  # the film is taken at the mean of what is inside
        ntu = conductance_w_k(network.streams[0], flow / 60, warm) / (flow / 60 * CP)
        warm = 60.0 - 47.0 * (1 - math.exp(-ntu)) / ntu
    assert out_c(history)[-1] == pytest.approx(60.0 - 47.0 * math.exp(-ntu), abs=0.15)
    lost, _ = closure(network, history, run)
    assert abs(lost) < 1e-6 * abs(history.passed.out_j.sum())


@settings(max_examples=25, deadline=None)
@given(st.floats(0.02, 20.0), st.integers(1, 20), st.floats(2.0, 80.0), st.integers(1, 3), st.integers(1, 3))
def test_a_front_comes_out_at_its_volume(flow, pieces, length, parts, tubes):
    """Hot water in a hose that does not conduct: cold follows after exactly its volume, within 1 %."""
    network = pipe(pieces, length, wall_w_mk=1e-9, tubes=tubes)
    stream = network.streams[0]
    minutes = min(int(2.5 * stream.water_kg / flow) + 2, 20000)
    run = drive(minutes, network, flow_l_min=flow, parts=parts)
    history = advance(network, np.full(pieces, 70.0), run)
    kg, celsius = history.passed.log[: history.passed.logged[0], 2], history.passed.log[: history.passed.logged[0], 3]
    hot = kg[celsius > 41.5].sum()
    assert hot == pytest.approx(min(stream.water_kg, kg.sum()), rel=0.01)
    assert kg.sum() == pytest.approx(flow * minutes, rel=1e-6)
    assert history.lots.held[0] <= MOST_LOTS


def test_lots_that_stand_side_by_side_become_one_and_keep_their_heat():
    """After a cold draw the pipe is full of small lots; a night later it holds about one for each piece, and the books still close."""
    network = pipe(
        6,
        20.0,
        capacity=4000.0,
        links=[Link(f"out{k}", Law.CONDUCTANCE, f"w{k}", "air", (0.5,), "walls") for k in range(6)],
    )
    flow = np.zeros(400)
    flow[10:14] = 1.0
    weather = drive(400, network, flow_l_min=flow, air=30.0, mains=8.0, parts=4)
    history = advance(network, np.full(6, 45.0), weather)
    left, brought = closure(network, history, weather)
    moved = abs(history.passed.held_j[0] - history.passed.held_j[-1]).sum()
    assert abs(left) < 1e-9 * (moved + brought)
    assert history.lots.held[0] <= 12
    assert history.lots.kg[0, : history.lots.held[0]].sum() == pytest.approx(network.streams[0].water_kg, rel=1e-9)


def test_litres_of_a_draw_against_the_closed_form():
    """Hot hose, cold wall: what comes out litre by litre is each slice's own exponential; the mean of each litre within 0.5 K."""
    network = pipe(15, 40.0, bore_m=0.013)
    stream, flow = network.streams[0], 3.0
    run = drive(6, network, flow_l_min=flow, mains=13.0, parts=6)
    history = advance(network, np.full(15, 20.0), run, lots=network.lots_at({"pipe": np.full(15, 70.0)}))
    log = history.passed.log[: history.passed.logged[0]]
    ends = np.cumsum(log[:, 2])
    for litre in range(int(stream.water_kg)):
        part = np.clip(np.minimum(ends, litre + 1) - np.maximum(ends - log[:, 2], litre), 0.0, None)
        mean = float((part * log[:, 3]).sum() / part.sum())
        film = water.pipe_film_w_m2k(flow / 60, 0.013, 60.0 - 3.5 * litre)
        rate = (
            1
            / (1 / (film * math.pi * 0.013) + math.log(1 + 0.004 / 0.013) / (2 * math.pi * 0.4))
            / (1000 * math.pi / 4 * 0.013**2 * CP)
        )
        assert mean == pytest.approx(
            20.0 + 50.0 * math.exp(-rate * (litre + 0.5) / (flow / 60)), abs=0.5 + 0.02 * (70 - mean)
        )


def by_upwind(
    network: Network, run: Drive, cells: int, air_w_k: float, capacity: float, sun_w: float
) -> tuple[np.ndarray, np.ndarray]:
    """Outlet and walls of the same pipe by the method of lines: fine cells of water, the same pieces of wall."""
    stream = network.streams[0]
    pieces, mass = len(stream.pieces), stream.water_kg / cells
    of = np.arange(cells) * pieces // cells
    walls, fluid = np.full(pieces, 20.0), np.full(cells, 20.0)
    outlet, kept = [], []
    for n, flow in enumerate(run.flow_kg_s[:, 0]):
        ua = conductance_w_k(stream, flow, float(fluid.mean())) / cells

        def slope(_, y, flow=flow, ua=ua, n=n):
            wall, here = y[:pieces], y[pieces:]
            heat = ua * (wall[of] - here)
            before = np.concatenate(([run.mains_c[n]], here[:-1]))
            out = np.bincount(of, heat, pieces)
            return np.concatenate((
                (sun_w / pieces - air_w_k * (wall - 20.0) - out) / capacity, (heat + flow * CP * (before - here)) / (mass * CP),
            ))  # fmt: skip

        found = solve_ivp(slope, (0.0, run.dt_s), np.concatenate((walls, fluid)), method="LSODA", rtol=1e-6, atol=1e-6,
                          t_eval=np.linspace(0, run.dt_s, 13))  # fmt: skip
        walls, fluid = found.y[:pieces, -1], found.y[pieces:, -1]
        outlet.append(found.y[-1].mean())
        kept.append(walls)
    return np.array(outlet), np.array(kept)


def test_sunlit_coil_standing_and_drawn_against_the_method_of_lines():
    """An hour standing in the sun, a draw, a trickle: walls and outlet beside an independent integration of 300 cells."""
    pieces, capacity = 12, 800.0
    links = [Link(f"l{k}", Law.CONDUCTANCE, f"w{k}", "air", (1.2,)) for k in range(pieces)]
    network = pipe(pieces, 30.0, capacity=capacity, links=links)
    flow = np.concatenate((np.zeros(60), np.full(2, 3.0), np.full(30, 0.4)))
    run = drive(92, network, flow_l_min=flow, sun_w=700.0)
    run.substeps[60:66] = 6
    ours = advance(network, np.full(pieces, 20.0), run)
    outlet, walls = by_upwind(network, run, 300, 1.2, capacity, 700.0)
    assert np.abs(ours.temperature_c[1:] - walls)[:60].max() < 0.3
    assert np.abs(ours.temperature_c[1:] - walls).max() < 1.0
    drawn = ours.passed.out_kg[:, 0] > 0
    assert np.abs(out_c(ours)[drawn] - outlet[drawn])[2:].max() < 0.8
    lost, taken = closure(network, ours, run)
    assert abs(lost) < 1e-9 * taken


def test_series_gives_less_than_double_and_watts_rise_with_flow():
    """Two coils one after the other at one flow; and hotter water out of a trickle though it carries off less heat."""

    def watts(length: float, flow: float) -> tuple[float, float]:
        pieces = 12
        links = [Link(f"l{k}", Law.CONDUCTANCE, f"w{k}", "air", (length * 0.35 / pieces,)) for k in range(pieces)]
        network = pipe(pieces, length, capacity=500.0, links=links)
        history = advance(network, np.full(pieces, 25.0), drive(300, network, flow_l_min=flow, sun_w=20.0 * length))
        gained = history.passed.out_j[-1, 0] - history.passed.in_j[-1, 0]
        return gained / 60.0, float(out_c(history)[-1])

    one, two = watts(30.0, 1.0), watts(60.0, 1.0)
    assert 1.2 * one[0] < two[0] < 1.99 * one[0]
    by_flow = [watts(30.0, flow) for flow in (0.1, 0.3, 1.0, 3.0)]
    assert [w for w, _ in by_flow] == sorted(w for w, _ in by_flow)
    assert [c for _, c in by_flow] == sorted((c for _, c in by_flow), reverse=True)


# 40 m of 16/12 mm multilayer pipe at 2.2 l/min in still hot water: effectiveness 0.70–0.85 (issue's own figure; the pieces are
# Churchill & Chu outside, Nu 4.36 inside, 0.43 W/m·K of the wall: maker's usual figure, from memory).
def test_coil_in_hot_water():
    pieces = 12
    outside = math.pi * 0.016 * 40.0
    tank = Node("tank", 500.0 * CP, "")
    links = tuple(Link(f"l{k}", Law.IMMERSED, f"w{k}", "tank", (outside / pieces, 0.016)) for k in range(pieces))
    nodes = tuple(Node(f"w{k}", 300.0, "") for k in range(pieces))
    stream = Stream("coil", tuple(Piece(f"w{k}", 40.0 / pieces) for k in range(pieces)), 0.012, 0.002, 0.43, MAINS)
    network = Network((tank, *nodes), links, (), (stream,))
    history = advance(network, np.full(13, 70.0), drive(20, network, flow_l_min=2.2, parts=4))
    tank_c = history.temperature_c[-1, 0]
    effect = (out_c(history)[-1] - 13.0) / (tank_c - 13.0)
    assert 0.70 < effect < 0.85


# --- stores ---


def store(layers: int, litres: float, flow_kg_s: float, area_m2=0.5) -> Network:
    nodes = tuple(Node(f"s{k}", litres / layers * CP, "") for k in range(layers))
    chain = [MAINS, *(f"s{k}" for k in reversed(range(layers))), MAINS]
    height = litres / 1000.0 / area_m2 / layers
    links = [Link(f"d{k}", Law.CARRIED, a, b, (), path="draw") for k, (a, b) in enumerate(pairwise(chain))]
    links += [Link(f"m{k}", Law.MIXING, f"s{k}", f"s{k + 1}", (area_m2, height, 300.0)) for k in range(layers - 1)]
    links += [Link(f"loss{k}", Law.CONDUCTANCE, f"s{k}", "air", (1.5 / layers,)) for k in range(layers)]
    return Network(nodes, tuple(links), (FlowPath("draw", (), (), MAINS, fluid="water", given_kg_s=flow_kg_s),))


@pytest.mark.parametrize("layers", [1, 3, 10])
def test_store_against_scipy(layers):
    """A day of loss with two draws, layer by layer, within 0.1 K of LSODA."""
    network = store(layers, 120.0, 5.0 / 60)
    run = drive(300, network)
    speed = np.zeros((300, 1))
    speed[60:66] = 1.0
    speed[200:209] = 1.0
    run = Drive(**{**run.__dict__, "speed": speed})
    run.substeps[60:70] = 4
    run.substeps[200:212] = 4
    first = np.linspace(62.0, 48.0, layers) if layers > 1 else np.array([60.0])
    ours = advance(network, first, run).temperature_c
    mass, height = 120.0 / layers, 0.24 / layers
    theirs = [first]
    for n in range(300):
        flow = speed[n, 0] * 5.0 / 60

        def slope(_, t, flow=flow):
            below = np.append(t[1:], 13.0)
            heat = flow * CP * (below - t) - 1.5 / layers * (t - 20.0)
            apart = [water.mixing_w_k(0.5, height, 300.0, a, b) * (a - b) for a, b in pairwise(t)]
            heat[:-1] -= apart
            heat[1:] += apart
            return heat / (mass * CP)

        theirs.append(solve_ivp(slope, (0, 60.0), theirs[-1], method="LSODA", rtol=1e-8, atol=1e-8).y[:, -1])
    assert np.abs(ours - np.array(theirs)).max() < 0.1
    lost, _ = closure(network, advance(network, first, run), run)
    assert abs(lost) < 1e-6 * 120 * CP


def test_layers_that_stand_upside_down_turn_over():
    network = store(4, 100.0, 1.0)
    run = Drive(**{**drive(60, network).__dict__, "speed": np.zeros((60, 1))})
    after = advance(network, np.array([20.0, 30.0, 40.0, 50.0]), run).temperature_c[-1]
    assert np.ptp(after) < 0.5
    stays = advance(network, np.array([50.0, 40.0, 30.0, 20.0]), run).temperature_c[-1]
    assert stays[0] - stays[3] > 25.0


# Common practice, no source: 15 litres falling from 70 to 54 °C, mixed down with 13 °C water, make 27–28 litres at 40 °C.
def test_draw_of_falling_temperature_mixed_at_the_tap():
    falling = np.linspace(70.0, 54.0, 1001)
    made = float(np.mean((falling - 13.0) / (40.0 - 13.0))) * 15.0
    assert 27.0 < made < 28.0
    assert made == pytest.approx(mix(MixIn(hot_l=15, hot_c=62, cold_c=13, want_c=40)).total_l, rel=1e-3)
