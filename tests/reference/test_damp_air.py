"""Damp air in the march: wet bulb, dew, and both balances, against psychrolib and CoolProp."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import psychrolib
import pytest

from drylamp.core.air.draught import FlowPath, Loss
from drylamp.core.air.moist import saturation_pressure_pa
from drylamp.core.heat.advance import History, advance
from drylamp.core.heat.closure import closure, water_closure
from drylamp.core.heat.damp import PER_G, VAPOUR_PER_HEAT
from drylamp.core.heat.drive import Drive
from drylamp.core.heat.drying import LATENT_J_KG
from drylamp.core.heat.law import Law
from drylamp.core.heat.network import Network
from drylamp.core.heat.parts import AIR, HUMIDITY, Link, Node, Wet
from drylamp.core.loads.common.food.piece import GROUPS, Piece
from drylamp.core.tables import produce

psychrolib.SetUnitSystem(psychrolib.SI)
SEA = 101325.0
AIR_KG = 0.2


def tray(
    piece: Piece | None, dry_kg: float, given_kg_s: float = 0.05, pane: bool = False, water_kg: float = 0.0
) -> Network:
    """A tray in a stream of air, or a pane over standing air, or both."""
    path = FlowPath("draught", (), (), AIR, given_kg_s=given_kg_s)
    nodes = [Node("in", AIR_KG * 1007.0, "air", role="air"), Node("in-vapour", AIR_KG * PER_G, "vapour", role="vapour")]
    links = [
        Link("air in", Law.BORNE, AIR, "in", (1.0,), path="draught"),
        Link("air out", Law.BORNE, "in", AIR, (1.0,), "air", path="draught"),
        Link("vapour in", Law.BORNE, HUMIDITY, "in-vapour", (VAPOUR_PER_HEAT,), path="draught"),
        Link("vapour out", Law.BORNE, "in-vapour", HUMIDITY, (VAPOUR_PER_HEAT,), "vapour", path="draught"),
    ]
    if piece is not None:
        wet = Wet("in-vapour", "in", piece.fresh * dry_kg, 20.0, "vapour", dry_kg, tuple(piece.numbers), 30000.0)
        nodes.append(Node("food", dry_kg * 1500.0, "food", role="wanted", wet=wet))
        links += [Link("evaporates", Law.WET, "food", "in-vapour", ()), Link("film", Law.FILMED, "in", "food", ())]
    if pane:
        held = Wet("in-vapour", "in", water_kg, 5.0, "vapour", area_m2=0.5, holds_kg=0.05)
        nodes.append(Node("pane", 4000.0, "pane", role="pane", wet=held))
        links += [
            Link("dew", Law.WET, "pane", "in-vapour", ()), Link("pane film", Law.FILMED, "in", "pane", ()),
            Link("pane out", Law.CONDUCTANCE, "pane", AIR, (6.0,), "cover"),
        ]  # fmt: skip
    return Network(tuple(nodes), tuple(links), (path,))


def drive(
    network: Network, hours: float, air_c: float, rh: float, dt_s: float = 60.0, sun: dict[str, float] | None = None
) -> Drive:
    steps = round(hours * 3600.0 / dt_s)
    full = np.full(steps, 1.0)
    source = np.full((steps, len(network.nodes)), 1e-9)  # in the dark steps are taken together
    for node, watts in (sun or {}).items():
        source[:, network.index(node)] = watts
    return Drive(
        dt_s, air_c * full, (air_c - 10.0) * full, full, rh * saturation_pressure_pa(air_c) * full, 100.0, SEA, source,
        np.ones(steps, dtype=np.int64),
    )  # fmt: skip


def first(network: Network, celsius: float, rh: float) -> np.ndarray:
    gram = 1000.0 * psychrolib.GetHumRatioFromRelHum(celsius, rh, SEA)
    return np.array([gram if node.role == "vapour" else celsius for node in network.nodes])


def closes(network: Network, history: History, exposed: Drive) -> None:
    lost, _ = closure(network, history, exposed)
    moved = float(np.abs(history.link_w).sum()) * history.dt_s
    assert abs(lost) < 1e-9 * moved
    gone, passed = water_closure(network, history)
    assert abs(gone) < 1e-9 * max(passed, 1e-3)


SPONGE = replace(Piece.of(produce()["apple"]), stuff=replace(GROUPS["fruit"], diffusion_m2_s=1e-6))


@pytest.mark.parametrize(("celsius", "rh"), [(30.0, 0.4), (45.0, 0.2), (60.0, 0.1)])
def test_a_wet_thing_in_much_air_comes_to_the_wet_bulb(celsius: float, rh: float):
    """Wet bulb by psychrolib (ASHRAE 2017), within a kelvin and a half: Le^⅔ is 0.90, not 1."""
    network = tray(SPONGE, 0.05, given_kg_s=0.5)
    exposed = drive(network, 0.5, celsius, rh)
    history = advance(network, first(network, celsius, rh), exposed)
    wet = psychrolib.GetTWetBulbFromRelHum(celsius, rh, SEA)
    assert history.temperature_c[-1, network.index("food")] == pytest.approx(wet, abs=1.5)
    closes(network, history, exposed)


def test_what_the_food_loses_is_what_the_air_carries_off():
    network = tray(Piece.of(produce()["tomato"]), 0.1)
    exposed = drive(network, 6.0, 50.0, 0.15)
    history = advance(network, first(network, 50.0, 0.15), exposed)
    assert history.held is not None
    lost = history.held.water_kg[0, 0] - history.held.water_kg[-1, 0]
    gram = history.temperature_c[:, network.index("in-vapour")]
    middle = (gram[1:] + gram[:-1]) / 2.0 - first(network, 50.0, 0.15)[1]
    carried = 0.05 * 60.0 * middle.sum() / 1000.0
    assert lost == pytest.approx(carried, rel=0.01)
    assert lost > 0.3
    closes(network, history, exposed)


def test_evaporating_a_kilogram_takes_what_steam_tables_say():
    """Heat that the air gave up for each kilogram, against CoolProp's latent heat at the food's temperature: 2.3 MJ and more."""
    from CoolProp.CoolProp import PropsSI

    network = tray(SPONGE, 0.05)
    exposed = drive(network, 1.0, 50.0, 0.15)
    history = advance(network, first(network, 50.0, 0.15), exposed)
    food, film = network.index("food"), [link.name for link in network.links].index("film")
    late = slice(30, 60)
    assert history.held is not None
    water = history.held.water_kg[30, 0] - history.held.water_kg[60, 0]
    each = history.link_w[late, film].sum() * 60.0 / water
    kelvin = history.temperature_c[45, food] + 273.15
    latent = PropsSI("H", "T", kelvin, "Q", 1, "Water") - PropsSI("H", "T", kelvin, "Q", 0, "Water")
    assert each == pytest.approx(latent, rel=0.03)
    assert LATENT_J_KG >= 2.3e6


def test_a_cold_pane_takes_dew_only_below_the_dew_point_and_gives_it_back():
    network = tray(None, 0.0, given_kg_s=0.01, pane=True)
    start = first(network, 30.0, 0.3)
    dry = advance(network, start, drive(network, 2.0, 30.0, 0.3))
    assert dry.held is not None
    assert dry.held.water_kg.max() == 0.0
    damp = first(network, 30.0, 0.8)
    damp[network.index("pane")] = 10.0
    wet = advance(network, damp, drive(network, 0.1, 30.0, 0.8))
    assert wet.held is not None
    assert wet.held.water_kg[-1, 0] > 1e-4
    exposed = drive(network, 6.0, 30.0, 0.3, sun={"pane": 30.0})
    again = advance(network.with_water({"pane": 0.02}), start, exposed)
    assert again.held is not None
    assert again.held.water_kg[-1, 0] == pytest.approx(0.0, abs=5e-5)
    assert again.held.water_kg.min() > -5e-5, "what it had, to a twentieth of a gram"
    closes(network, again, exposed)


def test_what_a_pane_cannot_hold_runs_off_and_is_counted():
    network = tray(SPONGE, 0.2, given_kg_s=0.004, pane=True)
    exposed = drive(network, 12.0, 20.0, 0.6, sun={"food": 150.0})
    history = advance(network, first(network, 20.0, 0.6), exposed)
    assert history.held is not None
    pane = [node.name for node in network.wet].index("pane")
    assert history.held.water_kg[:, pane].max() <= 0.05 + 1e-9
    assert history.held.ran_kg.sum() > 0.05
    closes(network, history, exposed)


def test_halving_the_step_moves_nothing_by_much():
    network = tray(Piece.of(produce()["fig"]), 0.3, pane=True)
    runs = []
    for dt_s in (300.0, 150.0, 60.0):
        exposed = drive(network, 10.0, 45.0, 0.25, dt_s=dt_s, sun={"food": 60.0})
        runs.append(advance(network, first(network, 20.0, 0.6), exposed))
    ends = [
        (run.temperature_c[-1, network.index("food")], run.held.water_kg[-1, 0]) for run in runs if run.held is not None
    ]
    assert ends[0][0] == pytest.approx(ends[2][0], abs=0.2)
    assert ends[0][1] == pytest.approx(ends[2][1], rel=0.005)


def test_dry_food_in_damp_night_air_takes_water_back_towards_its_isotherm():
    piece = Piece.of(produce()["apple"])
    network = tray(piece, 0.2).with_water({"food": 0.2 * piece.safe})
    exposed = drive(network, 60.0, 15.0, 0.85)
    history = advance(network, first(network, 15.0, 0.85), exposed)
    assert history.held is not None
    moisture = history.held.water_kg[:, 0] / 0.2
    assert moisture[-1] > moisture[0] + 0.05
    assert (np.diff(moisture[10:]) >= -1e-9).all()
    assert history.held.activity[-1, 0] < 0.87


def test_air_that_sinks_brings_its_damp_the_other_way():
    """A column colder than outside runs backwards: what it carries comes from the other end, smoothly through nothing."""
    chimney = FlowPath("draught", (Loss("screen", 0.02), Loss("vent", 0.02)), (("in", 2.0),), AIR, both_ways=True)
    network = replace(tray(SPONGE, 0.1), paths=(chimney,))
    from drylamp.core.air.draught import flow_kg_s

    flows = [flow_kg_s(chimney, {"in": inside, AIR: 20.0}, SEA) for inside in (15.0, 19.9, 20.0, 20.1, 25.0)]
    assert flows == sorted(flows)
    assert flows[2] == pytest.approx(0.0, abs=1e-12)
    assert flows[0] == pytest.approx(-flows[4], rel=0.05)
    exposed = drive(network, 2.0, 20.0, 0.5)
    history = advance(network, first(network, 20.0, 0.5), exposed)
    assert history.held is not None
    assert history.held.back_kg.sum() > 1.0, "wet food cools its air, which sinks out below"
    closes(network, history, exposed)
