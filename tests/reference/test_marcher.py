"""The compiled marcher against scipy's LSODA on the same network and drive: at most 0.1 K apart.

The right-hand side below is written afresh from the network's links, not taken from the marcher.
"""

from dataclasses import replace
from datetime import date

import numpy as np
import pytest
from scipy.integrate import solve_ivp

from drylamp.core.air.constants import CP_AIR, CP_WATER_J_KGK
from drylamp.core.air.draught import FlowPath, Loss, Mover, flow_kg_s
from drylamp.core.air.moist import VAPOUR_GAS_CONSTANT, boiling_c
from drylamp.core.air.panel import PanelDrive
from drylamp.core.air.properties import density_kg_m3
from drylamp.core.heat import boil, laws
from drylamp.core.heat.advance import advance
from drylamp.core.heat.closure import closure
from drylamp.core.heat.drive import Drive, calm_blocks, jump_substeps, reset_substeps
from drylamp.core.heat.law import Law
from drylamp.core.heat.network import Network
from drylamp.core.heat.parts import BOUNDARIES, Link, Node
from drylamp.core.optics.sun_plan import sun_plan
from drylamp.core.sky.of_span import weather_of
from drylamp.core.sky.weather import ClearDay, Span
from drylamp.core.twin.light import lit_network
from drylamp.demo.scenario import OVEN, STEW, TERRACE


def link_power(link: Link, start_c: float, end_c: float, wind: float, vapour: float, pressure: float) -> float:
    """Watts of one link, from its law."""
    p = link.params
    difference = start_c - end_c
    powers = {
        Law.CONDUCTANCE: lambda: p[0] * difference,
        Law.RADIATION: lambda: laws.STEFAN_BOLTZMANN * p[0] * ((start_c + 273.15) ** 4 - (end_c + 273.15) ** 4),
        Law.CAVITY: lambda: laws.cavity_w_k(*p, start_c, end_c, pressure) * difference,
        Law.WIND: lambda: laws.wind_w_k(p[0], wind * (1 - sum(p[1:])), start_c, end_c) * difference,
        Law.SURFACE: lambda: laws.surface_w_k(*p, start_c, end_c, pressure) * difference,
        Law.LEAK: lambda: laws.leak_w_k(*p, start_c, end_c, wind, pressure) * difference,
        Law.BOIL: lambda: BOIL_W_K * max(difference, 0.0),
        Law.EVAPORATE: lambda: laws.evaporation_w(p[0] * p[1], start_c, end_c, vapour),
        Law.CYLINDER: lambda: laws.cylinder_w_k(*p, start_c, end_c, pressure) * difference,
    }
    return powers[link.law]()


BOIL_W_K = 1e5
"""How steeply the reference lets steam go: it holds what boils within a hundredth of a kelvin."""


def stirred_w(link: Link, wall_c: float, liquid_c: float, boils_c: float) -> float:
    """Through a pot's wall and film, the film's own flux found by going round until it stands."""
    area, wall, film, cooper = link.params
    power = 0.0
    for _ in range(40):
        own = film or boil.stirred_film_w_m2k(wall_c, liquid_c, boils_c, power / area, cooper)
        power = area * (wall_c - liquid_c) / (1 / wall + 1 / own)
    return power


def pot_power(link: Link, at: dict[str, float], wind: float, vapour: float, pressure: float) -> float:
    """Watts of a link by one of the laws of pots, from the temperatures of everything."""
    if link.law == Law.STIRRED:
        return stirred_w(link, at[link.start], at[link.end], at[link.beside])
    open_m2, cover_m2, leak_m2, height, given = link.params
    inside, outside, cover = at[link.beside], at["air"], at[link.also if link.law == Law.VAPOUR_LOST else link.end]
    falls = cover_m2 * boil.COVER_FILM_W_M2K / (density_kg_m3(inside, pressure) * CP_AIR * laws.LEWIS)
    leaks = given + laws.leak_w_k(leak_m2, height, inside, outside, wind, pressure) / (
        density_kg_m3(outside, pressure) * CP_AIR
    )
    damp = vapour / (VAPOUR_GAS_CONSTANT * (outside + 273.15))
    if link.law == Law.CONDENSED:
        steam = BOIL_W_K * max(at[link.also] - at["steam"], 0.0)
        return boil.condensed_w(steam, falls, leaks, cover, damp)
    kept, lost = boil.vapour_in_w(open_m2, falls, leaks, at[link.start], cover, inside, damp)
    return kept if link.law == Law.VAPOUR_KEPT else lost


def by_lsoda(network: Network, first_c: np.ndarray, drive: Drive, rtol: float = 1e-8) -> np.ndarray:
    """Temperatures at the step edges, each step integrated with its constant drive."""
    ends = [(network.index(link.start), network.index(link.end), link) for link in network.links]
    count = len(network.nodes)
    capacity = network.capacities + np.array(
        [CP_WATER_J_KGK * n.boils.water_kg if n.boils else 0.0 for n in network.nodes]
    )
    out = [np.asarray(first_c, dtype=float)]  # so little boils off in these windows that its heat is that of the start
    for n in range(len(drive.air_c)):
        bounds = drive.boundaries()[n]
        speed = np.ones(len(network.paths)) if drive.speed is None else drive.speed[n]

        def slope(_, t, n=n, bounds=bounds, speed=speed):
            whole = np.concatenate([t, bounds])
            by_name = dict(zip([*network.names, *BOUNDARIES], whole, strict=True))
            carried = {
                path.name: flow_kg_s(path, by_name, drive.pressure_pa, s) * CP_AIR
                for path, s in zip(network.paths, speed, strict=True)
            }
            flow = drive.source_w[n].copy()
            for i, j, link in ends:
                q = (
                    carried[link.path] * whole[i]
                    if link.path
                    else pot_power(link, by_name, drive.wind_m_s[n], drive.vapour_pa[n], drive.pressure_pa)
                    if link.law >= Law.STIRRED
                    else link_power(link, whole[i], whole[j], drive.wind_m_s[n], drive.vapour_pa[n], drive.pressure_pa)
                )
                if i < count:
                    flow[i] -= q
                if j < count:
                    flow[j] += q
            return flow / capacity

        out.append(solve_ivp(slope, (0, drive.dt_s), out[-1], method="LSODA", rtol=rtol, atol=1e-6).y[:, -1])
    return np.array(out)


def oven_drive(sky: str, start_hour: float, hours: float, loaded: bool, jumps: bool = False):
    """A window of a June day for the demo's oven."""
    weather = weather_of(TERRACE, ClearDay(tmin_c=15, tmax_c=26, sky=sky), Span(start=date(2025, 6, 12)))
    from drylamp.core.sky.dome import skyline
    from drylamp.core.sky.plane import sky_light

    line = skyline(TERRACE.spots[0])
    dni = weather.dni_w_m2.copy()
    if jumps:  # clouds of a few minutes
        random = np.random.default_rng(3)
        shaded = np.repeat(random.random(len(dni) // 4 + 1) < 0.4, 4)[: len(dni)]
        dni = np.where(shaded, 0.1 * dni, dni)
    light = sky_light(weather.sun, weather.ghi_w_m2, dni, weather.dhi_w_m2, 0.2, line)
    lit = lit_network(OVEN, STEW if loaded else None, sun_plan(weather.sun, light), line)
    window = slice(int(start_hour * 60), int((start_hour + hours) * 60))
    substeps = jump_substeps(weather.wind_m_s, light.beam_w_m2)[window]
    drive = Drive(
        dt_s=60.0,
        air_c=weather.air_c[window],
        sky_c=weather.sky_c[window],
        wind_m_s=weather.wind_m_s[window],
        vapour_pa=weather.vapour_pa[window],
        steam_c=boiling_c(weather.pressure_pa),
        pressure_pa=weather.pressure_pa,
        source_w=lit.source_w[window],
        substeps=reset_substeps(substeps, 60.0),
    )
    return lit.network, drive


@pytest.mark.parametrize(
    ("sky", "start", "hours", "loaded", "jumps"),
    [("clear", 9, 2.5, False, False), ("grey", 11, 1.5, False, False), ("clear", 12, 1.5, False, True)],
)
def test_oven_against_lsoda(sky: str, start: float, hours: float, loaded: bool, jumps: bool):
    network, drive = oven_drive(sky, start, hours, loaded, jumps)
    first = np.full(len(network.nodes), 22.0)
    ours = advance(network, first, drive).temperature_c
    assert np.abs(ours - by_lsoda(network, first, drive)).max() < 0.1


def test_cold_pot_into_hot_box_against_lsoda():
    """The reset: a pot at 22 °C set into a box at 60–100 °C."""
    network, drive = oven_drive("clear", 12.0, 1.0, True)
    hot = {"tray": 100.0, "inside-air": 80.0, "walls": 75.0, "cover-1": 75.0, "cover-2": 45.0, "insulation": 50.0}
    first = np.array([hot.get(name, 22.0) for name in network.names])
    ours = advance(network, first, drive).temperature_c
    assert np.abs(ours - by_lsoda(network, first, drive)).max() < 0.1


def test_onset_of_boiling_against_lsoda():
    network, drive = oven_drive("clear", 13.5, 0.7, True)
    hot = {"tray": 115.0, "inside-air": 88.0, "walls": 82.0, "cover-1": 84.0, "cover-2": 52.0, "insulation": 58.0,
           "contents": 97.0, "pot": 99.5}  # fmt: skip
    first = np.array([hot.get(name, 26.0) for name in network.names])
    ours = advance(network, first, drive).temperature_c
    theirs = by_lsoda(network, first, drive)
    contents = network.index("contents")
    assert theirs[:, contents].max() > drive.steam_c
    assert ours[:, contents].max() == drive.steam_c
    assert np.abs(ours - theirs).max() < 0.1


def test_draught_and_fan_against_lsoda():
    """A collector below a cabinet: chimney and panel-driven fan, sun that comes and goes."""
    path = FlowPath("up", (Loss("in", 0.02), Loss("trays", 0.05, 8.0), Loss("out", 0.015)),
                (("cabinet", 1.2), ("collector", 0.5)), "air", Mover(20.0, 0.05))  # fmt: skip
    network = Network(
        (
            Node("plate", 6000.0, ""),
            Node("collector", 800.0, ""),
            Node("cabinet", 20000.0, ""),
            Node("tube", 900.0, ""),
        ),
        (
            Link("plate to air", Law.SURFACE, "plate", "collector", (1.2, 1.0, 1.0)),
            Link("plate out", Law.RADIATION, "plate", "sky", (0.8,)),
            Link("tube", Law.CYLINDER, "tube", "cabinet", (0.3, 0.02)),
            Link("walls", Law.WIND, "cabinet", "air", (0.4,)),
            Link("in", Law.CARRIED, "air", "collector", (), path="up"),
            Link("on", Law.CARRIED, "collector", "cabinet", (), path="up"),
            Link("out", Law.CARRIED, "cabinet", "air", (), path="up"),
        ),
        (path,),
    )
    minutes, ones = np.arange(120), np.ones(120)
    sun = np.where((minutes // 17) % 2 == 0, 800.0, 150.0)
    drive = Drive(60.0, 24 * ones, 8 * ones, 2 * ones, 1200 * ones, 100.0, 96000.0,
                  np.column_stack([0.9 * sun, 0 * sun, 0 * sun, 0.02 * sun]), reset_substeps(jump_substeps(0.0 * sun, sun), 60.0),
                  speed=PanelDrive(4.0, 4.0).speed(sun)[:, None])  # fmt: skip
    first = np.full(4, 24.0)
    ours = advance(network, first, drive).temperature_c
    assert ours.max() > 60
    assert np.abs(ours - by_lsoda(network, first, drive)).max() < 0.1


def test_dark_steps_taken_together_change_nothing_that_matters():
    """A whole day kept by the hour, its night in steps of ten minutes, against every minute on its own."""
    network, drive = oven_drive("clear", 0, 24, False)
    first = np.full(len(network.nodes), 18.0)
    fine, kept = advance(network, first, drive), advance(network, first, drive, keep=60)
    assert len(calm_blocks(drive.source_w.max(axis=1) > 0, 60.0)) < 0.72 * len(drive.air_c)
    assert np.abs(fine.temperature_c[::60] - kept.temperature_c).max() < 0.1
    assert kept.link_w.shape == (24, len(network.links))
    by_hour = fine.link_w.reshape(24, 60, -1).mean(axis=1)
    assert np.abs(by_hour - kept.link_w).max() < 0.5
    lost, sun = closure(network, kept, drive)
    assert abs(lost) < 1e-9 * sun


def plain_network(conductance: float = 10.0) -> Network:
    return Network(
        (Node("one", 1000.0, "one"), Node("two", 4000.0, "two")),
        (
            Link("between", Law.CONDUCTANCE, "one", "two", (conductance,)),
            Link("out", Law.CONDUCTANCE, "two", "air", (2.0,)),
        ),
    )


def plain_drive(steps: int, sun_w: float = 100.0, dt_s: float = 60.0) -> Drive:
    ones = np.ones(steps)
    return Drive(
        dt_s=dt_s, air_c=20 * ones, sky_c=5 * ones, wind_m_s=ones, vapour_pa=1000 * ones, steam_c=100.0,
        pressure_pa=101325.0, source_w=np.column_stack([sun_w * ones, 0 * ones]), substeps=np.ones(steps, dtype=np.int64),
    )  # fmt: skip


def test_linear_network_against_the_matrix_exponential():
    """No law depends on temperature, so the exact answer is an exponential; second order at 60 s."""
    from scipy.linalg import expm

    capacity = np.array([1000.0, 4000.0])
    matrix = np.array([[-10.0, 10.0], [10.0, -12.0]]) / capacity[:, None]
    push = np.array([100.0, 2.0 * 20.0]) / capacity
    steady = -np.linalg.solve(matrix, push)
    ours = advance(plain_network(), np.array([20.0, 20.0]), plain_drive(30)).temperature_c
    exact = np.array([steady + expm(matrix * 60.0 * n) @ (np.array([20.0, 20.0]) - steady) for n in range(31)])
    assert np.abs(ours - exact).max() < 0.1


def test_second_order():
    """Half the step, a quarter of the error."""
    fine = advance(plain_network(), np.array([20.0, 20.0]), plain_drive(960, dt_s=3.75)).temperature_c[-1]
    errors = []
    for steps in (15, 30, 60):
        last = advance(plain_network(), np.array([20.0, 20.0]), plain_drive(steps, dt_s=3600.0 / steps))
        errors.append(np.abs(last.temperature_c[-1] - fine).max())
    assert 3.0 < errors[0] / errors[1] < 6.0
    assert 3.0 < errors[1] / errors[2] < 6.0


def test_energy_closes_to_rounding():
    network, drive = oven_drive("clear", 9, 6, True)
    history = advance(network, np.full(len(network.nodes), 22.0), drive)
    lost, sun = closure(network, history, drive)
    assert sun > 1e6
    assert abs(lost) < 1e-9 * sun


def test_closure_notices_a_leak_in_the_books():
    """The check itself can fail: drop a link's energy and it no longer closes."""
    network, drive = oven_drive("clear", 11, 2, False)
    history = advance(network, np.full(len(network.nodes), 30.0), drive)
    broken = history.link_w.copy()
    broken[:, [link.name for link in network.links].index("leak")] = 0.0
    lost, sun = closure(network, replace(history, link_w=broken), drive)
    assert abs(lost) > 1e-3 * sun


def test_network_refuses_a_loose_end():
    from drylamp.core.checks import InputProblem

    with pytest.raises(InputProblem, match="'nowhere' is no node"):
        Network((Node("one", 1.0, ""),), (Link("x", Law.CONDUCTANCE, "one", "nowhere", (1.0,)),))
    assert BOUNDARIES == ("air", "sky", "steam", "ground", "mains", "valve", "humidity")
