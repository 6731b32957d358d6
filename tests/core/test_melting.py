"""What melts: latent heat in the marcher, dripping, and energy that closes all the same."""

from __future__ import annotations

import numpy as np
import pytest
from scipy.integrate import solve_ivp

from drylamp.core.checks import InputProblem
from drylamp.core.heat.advance import advance
from drylamp.core.heat.closure import closure
from drylamp.core.heat.drive import Drive
from drylamp.core.heat.law import Law
from drylamp.core.heat.network import Network
from drylamp.core.heat.parts import AIR, Link, Melting, Node

WAX = Melting(mass_kg=1.0, cp_j_kgk=2500.0, latent_j_kg=160e3, low_c=61.0, high_c=64.0)
MINUTES = 240


def drive(network: Network, watts: np.ndarray, air_c: float = 30.0) -> Drive:
    steps = len(watts)
    source = np.zeros((steps, len(network.nodes)))
    source[:, 0] = watts
    return Drive(
        dt_s=60.0, air_c=np.full(steps, air_c), sky_c=np.full(steps, 15.0), wind_m_s=np.full(steps, 2.0),
        vapour_pa=np.full(steps, 1200.0), steam_c=100.0, pressure_pa=101325.0, source_w=source,
        substeps=np.ones(steps, dtype=np.int64),
    )  # fmt: skip


def pan(melts: Melting = WAX, loss_w_k: float = 2.0) -> Network:
    plate = Node("plate", 800.0, "plate")
    return Network(
        (plate, Node("wax", 200.0, "wax", melts)),
        (
            Link("plate to wax", Law.CONDUCTANCE, "plate", "wax", (12.0,)),
            Link("plate to air", Law.CONDUCTANCE, "plate", AIR, (loss_w_k,)),
        ),
    )


def test_melting_follows_the_enthalpy_method():
    """Against scipy's LSODA on enthalpies: at most 0.1 K apart, on the way up, through melting and back."""
    network = pan()
    watts = np.where(np.arange(MINUTES) < 110, 160.0, 0.0)
    steps = drive(network, watts)
    first = np.array([30.0, 30.0])

    def temperature(joules: float) -> float:
        solid, latent = 200.0 + 2500.0, 160e3
        if joules < solid * 61.0:
            return joules / solid
        if joules > solid * 64.0 + latent:
            return (joules - latent) / solid
        return 61.0 + (joules - solid * 61.0) / (solid + latent / 3.0)

    state, wax = np.array([30.0, 30.0 * 2700.0]), [30.0]
    for n in range(MINUTES):

        def slope(_, y, n=n):
            across = 12.0 * (y[0] - temperature(y[1]))
            return [(watts[n] - across - 2.0 * (y[0] - 30.0)) / 800.0, across]

        state = solve_ivp(slope, (0, 60.0), state, method="LSODA", rtol=1e-9, atol=1e-6).y[:, -1]
        wax.append(temperature(state[1]))
    history = advance(network, first, steps)
    assert np.abs(history.temperature_c[:, 1] - np.array(wax)).max() < 0.1
    assert max(wax) > 66  # it melted right through
    assert abs(closure(network, history, steps)[0]) < 1e-4


def test_latent_heat_holds_the_temperature_back():
    network, dry = pan(), pan(Melting(1.0, 2500.0, 1.0, 61.0, 64.0))
    watts = np.full(90, 160.0)
    held, free = (advance(n, np.full(2, 30.0), drive(n, watts)).temperature_c[:, 1] for n in (network, dry))
    assert np.allclose(held[:15], free[:15], atol=0.05)
    assert free[45] > held[45] + 20


def dripping(rate_per_s: float = 0.003, keeps_kg: float = 0.05) -> Network:
    above = Melting(1.0, 2500.0, 160e3, 61.0, 64.0, "dish", rate_per_s, keeps_kg)
    return Network(
        (
            Node("wax", 200.0, "wax", above),
            Node("dish", 500.0, "dish", Melting(0.0, 2500.0, 160e3, 61.0, 64.0)),
        ),
        (
            Link("wax to air", Law.CONDUCTANCE, "wax", AIR, (1.5,)),
            Link("dish to air", Law.CONDUCTANCE, "dish", AIR, (1.0,)),
        ),
    )


def test_what_drips_takes_its_heat_along_and_nothing_is_lost():
    network = dripping()
    steps = drive(network, np.full(200, 140.0), air_c=45.0)
    history = advance(network, np.array([45.0, 45.0]), steps)
    assert history.mass_kg[:, :].sum(axis=1) == pytest.approx(np.ones(201), abs=1e-12)
    assert history.mass_kg[-1, 0] == pytest.approx(0.05, abs=0.01)  # what the comb keeps
    assert history.temperature_c[:, 1].max() > 50  # the dish is warmed by what drips into it alone
    lost, taken = closure(network, history, steps)
    assert abs(lost) < 1e-9 * taken


def test_nothing_drips_before_it_melts():
    network = dripping()
    history = advance(network, np.array([30.0, 30.0]), drive(network, np.full(20, 50.0)))
    assert history.temperature_c[-1, 0] < 61
    assert history.mass_kg[-1, 1] == 0.0


def test_a_shut_strainer_holds_everything_back():
    history = advance(dripping(rate_per_s=0.0), np.array([30.0, 30.0]), drive(dripping(), np.full(200, 140.0)))
    assert history.mass_kg[-1, 1] == 0.0
    assert history.temperature_c[-1, 0] > 64


def test_masses_carry_over_to_the_next_network():
    network = dripping().with_masses({"wax": 0.4, "dish": 0.6})
    _, kilograms = network.compiled_melting()
    assert kilograms.tolist() == [0.4, 0.6]


@pytest.mark.parametrize(
    ("melts", "words"),
    [
        (Melting(1.0, 2500.0, 1.0, 64.0, 61.0), "width"),
        (Melting(-1.0, 2500.0, 1.0, 61.0, 64.0), "mass"),
        (Melting(1.0, 2500.0, 1.0, 61.0, 64.0, "plate"), "no other melting node"),
    ],
)
def test_impossible_meltings_are_refused(melts: Melting, words: str):
    with pytest.raises(InputProblem, match=words):
        pan(melts)
