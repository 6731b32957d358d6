"""Boards against closed forms, a general solver, and the published days that they were calibrated on."""

from __future__ import annotations

import re
import subprocess
import sys
from pathlib import Path

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from scipy.integrate import solve_ivp

from drylamp.core.air.moist import VAPOUR_GAS_CONSTANT, saturation_pressure_pa
from drylamp.core.heat import boards
from drylamp.core.heat.cells import CELLS, FIBRE_SATURATION, SHARES, SHELL_CELLS
from drylamp.core.heat.drying import LATENT_J_KG, WATER_CP, film_kg
from drylamp.core.loads.common.wood import ACTIVATION_J_MOL, FREE, GROWS
from drylamp.core.tables import species

ROOT = Path(__file__).parents[2]
OAK = (0.0127, 3.12e-10, ACTIVATION_J_MOL, GROWS, FREE, 560.0, 1.0)


def vapour(celsius: float, rh: float) -> float:
    return rh * float(saturation_pressure_pa(celsius)) / (VAPOUR_GAS_CONSTANT * (celsius + 273.15))


def dried(board, first, celsius, rh, days, film=12.0, dt_s=600.0):
    """Cells by step in steady air, shape (n, CELLS), and their warmth."""
    steps = round(days * 86400.0 / dt_s)
    cells, series, ones = np.full((1, CELLS), first), np.empty((steps, CELLS + 1)), np.ones(steps)
    boards.dried_in_air(
        cells, board, celsius, celsius * ones, vapour(celsius, rh) * ones, film * ones, 0 * ones, 0 * ones, dt_s, series
    )
    return series[:, :CELLS], series[:, CELLS]


def test_cells_fill_the_half_thickness_and_two_of_them_are_its_outer_twelfth():
    assert pytest.approx(1.0) == SHARES.sum()
    assert CELLS >= 8
    assert SHARES[-SHELL_CELLS:].sum() == pytest.approx(1.0 / 12.0)
    assert (np.diff(SHARES) <= 0).all(), "finer at the face"


# Wood Handbook ch. 4, table 4-2 (from memory), reached from both sides; the table lies midway between drying and wetting.
@pytest.mark.parametrize(("celsius", "rh", "emc"), [(21.1, 0.50, 0.092), (21.1, 0.65, 0.120), (60.0, 0.30, 0.050)])
def test_boards_come_to_the_published_moisture_from_both_sides(celsius, rh, emc):
    for ratio, apart in ((1.0, 0.002), (0.92, 0.008)):
        board = (0.003, *OAK[1:6], ratio)
        wet, dry = (dried(board, first, celsius, rh, 60, dt_s=1800)[0][-1] for first in (0.28, 0.01))
        assert wet @ SHARES == pytest.approx(emc, abs=apart)
        assert dry @ SHARES == pytest.approx(emc, abs=apart)
        assert wet @ SHARES >= dry @ SHARES - 1e-4, "drying wood stays damper"


# Crank 1975, eq. 4.18: plane sheet with a constant diffusivity and a face held at one moisture.
@pytest.mark.parametrize("fourier", [0.1, 0.3, 0.8])
def test_a_constant_diffusivity_follows_the_slabs_series(fourier):
    board = (0.0127, 1e-9, 0.0, 0.0, 1.0, 560.0, 1.0)
    seconds = fourier * board[0] ** 2 / board[1]
    cells, _ = dried(board, 0.25, 40.0, 0.40, seconds / 86400.0, film=5000.0, dt_s=60.0)
    rests = boards.emc(0.40, 40.0)[0]
    odd = 2 * np.arange(60) + 1
    series = float((8.0 / (np.pi * odd) ** 2 * np.exp(-((np.pi * odd / 2) ** 2) * fourier)).sum())
    assert (cells[-1] @ SHARES - rests) / (0.25 - rests) == pytest.approx(series, abs=0.01)


def test_the_sweep_agrees_with_a_general_solver():
    """The same cells, film and isotherm as ordinary differential equations (scipy LSODA, rtol 1e-8)."""
    celsius, rh, film = 45.0, 0.45, 12.0
    half, _, _, _, _, density, _ = OAK
    gain = boards.arrhenius(celsius, OAK[2])
    air, full = vapour(celsius, rh), vapour(celsius, 1.0)
    out = film_kg(film) / (half * density)

    def face(u_last):
        low, high = 0.0, 1.0
        k = boards.diffusion_m2_s(u_last, gain, OAK) / (0.5 * SHARES[-1]) / half**2
        if k * (u_last - boards.emc(1.0, celsius)[0]) > out * (full - air):
            return out * (full - air)
        for _ in range(60):
            h = 0.5 * (low + high)
            over = k * (u_last - boards.emc(h, celsius)[0]) - out * (h * full - air)
            low, high = (h, high) if over > 0 else (low, h)
        return out * (h * full - air)

    def rates(_, u):
        d = np.array([boards.diffusion_m2_s(v, gain, OAK) for v in u])
        between = (u[:-1] - u[1:]) / (0.5 * (SHARES[:-1] / d[:-1] + SHARES[1:] / d[1:])) / half**2
        flow = np.concatenate(([0.0], between, [face(u[-1])]))
        return -(flow[1:] - flow[:-1]) / SHARES

    days = 12.0
    exact = solve_ivp(
        rates,
        (0, days * 86400.0),
        np.full(CELLS, 0.7),
        method="LSODA",
        rtol=1e-8,
        atol=1e-9,
        t_eval=[3 * 86400.0, days * 86400.0],
    ).y.T
    # the board's warmth is held by a film that carries heat and no more water, so that both have one temperature
    steps = round(days * 144)
    cells, series, ones = np.full((1, CELLS), 0.7), np.empty((steps, CELLS + 1)), np.ones(steps)
    sun = np.zeros(steps)
    swept, over = np.empty((1, 2 * CELLS)), 0.8
    for n in range(steps):
        a, b = boards.sweep(cells, swept, 0, half * density, celsius, OAK, 600.0)
        rate, _, _, over = boards.board_terms(a, b, film_kg(film), celsius, air, 1.0, over)
        boards.fill_back(cells, swept, 0, half * density, rate)
        series[n, :CELLS] = cells[0]
    assert sun.sum() == 0
    assert series[3 * 144 - 1, :CELLS] @ SHARES == pytest.approx(exact[0] @ SHARES, abs=0.004)
    assert series[-1, :CELLS] == pytest.approx(exact[1], abs=0.004)
    assert ones.sum() == steps


@settings(max_examples=40, deadline=None)
@given(st.floats(0.03, 1.5), st.floats(-5, 80), st.floats(0.05, 0.95), st.floats(60, 3600))
def test_what_leaves_the_face_is_what_the_cells_lose(first, celsius, rh, dt_s):
    cells, swept = np.full((1, CELLS), first), np.empty((1, 2 * CELLS))
    dry = OAK[0] * OAK[5]
    for _ in range(20):
        before = float(cells[0] @ SHARES)
        a, b = boards.sweep(cells, swept, 0, dry, celsius, OAK, dt_s)
        rate, warmth, damper, over = boards.board_terms(a, b, film_kg(10.0), celsius, vapour(celsius, rh), 1.0, 0.7)
        boards.fill_back(cells, swept, 0, dry, rate)
        assert dry * (before - float(cells[0] @ SHARES)) == pytest.approx(rate * dt_s, abs=1e-9)
        assert warmth >= 0.0
        assert damper >= 0.0
        assert 0.0 <= over <= 1.0


def test_slopes_are_those_of_the_loss():
    swept, cells = np.empty((1, 2 * CELLS)), np.linspace(0.5, 0.14, CELLS).reshape(1, -1)
    a, b = boards.sweep(cells, swept, 0, 7.0, 50.0, OAK, 600.0)

    def rate(celsius, air):
        return boards.board_terms(a, b, film_kg(12.0), celsius, air, 1.0, 0.5)

    at, air = 50.0, vapour(50.0, 0.35)
    _, warmth, damper, _ = rate(at, air)
    assert (rate(at + 0.05, air)[0] - rate(at - 0.05, air)[0]) / 0.1 == pytest.approx(warmth, rel=0.03)
    assert (rate(at, air - 1e-5)[0] - rate(at, air + 1e-5)[0]) / 2e-5 == pytest.approx(damper, rel=0.03)


def test_loosening_bound_water_takes_heat_and_wetting_gives_it_back():
    """From fibre saturation to bone dry: a third of 0.4 L u_f (Stanish, Schajer & Kayihan 1986, from memory), whichever way."""
    cells, swept = np.full((1, CELLS), FIBRE_SATURATION), np.empty((1, 2 * CELLS))
    whole = 0.4 * LATENT_J_KG * FIBRE_SATURATION / 3.0
    swept[0, :CELLS], swept[0, CELLS:] = 0.0, 0.0
    assert boards.fill_back(cells, swept, 0, 1.0, 0.0) == pytest.approx(whole)
    swept[0, :CELLS] = FIBRE_SATURATION
    assert boards.fill_back(cells, swept, 0, 1.0, 0.0) == pytest.approx(-whole)
    swept[0, :CELLS] = 0.9
    assert boards.fill_back(cells, swept, 0, 1.0, 0.0) == pytest.approx(0.0, abs=1e-6), "free water is not bound"


def test_a_wet_board_stays_at_the_wet_bulb():
    _, celsius = dried((0.0127, 1e-7, *OAK[2:]), 1.2, 40.0, 0.40, 0.5)
    assert celsius[-1] == pytest.approx(27.6, abs=1.2), "wet bulb of 40 °C and 40 % (psychrolib)"


def test_double_the_thickness_takes_nearly_four_times_as_long_in_one_climate():
    """Diffusion's square, less what the film takes (any textbook)."""

    def days(half):
        mean = dried((half, *OAK[1:]), 0.7, 45.0, 0.40, 400, dt_s=3600)[0] @ SHARES
        return float(np.argmax(mean <= 0.10)) / 24.0

    assert 3.5 <= days(0.0254) / days(0.0127) <= 4.0


def test_pine_before_poplar_before_red_oak_before_white_oak():
    """Order of the kiln days (Dry Kiln Operator's Manual, from memory)."""

    def days(name):
        row = species()[name]
        board = (0.0127, row.diffusion_m2_s, ACTIVATION_J_MOL, GROWS, FREE, 1000.0 * row.basic_specific_gravity, 1.0)
        mean = dried(board, row.green_heart_mc, 55.0, 0.45, 120, dt_s=3600)[0] @ SHARES
        return float(np.argmax(mean <= 0.10)) / 24.0

    order = [days(name) for name in ("eastern-white-pine", "yellow-poplar", "northern-red-oak", "white-oak")]
    assert order == sorted(order)


def test_below_freezing_drying_nearly_stops():
    warm, cold = (dried(OAK, 0.5, celsius, 0.60, 10, dt_s=3600)[0] @ SHARES for celsius in (20.0, -5.0))
    assert 0.5 - cold[-1] < 0.25 * (0.5 - warm[-1])


def test_air_that_is_spent_on_the_way_has_less_left_to_give():
    """At 1 m/s, sticks of 19 mm and a stack of 1.2 m about half of the film is left; with h (1 − e^−NTU)/NTU (Incropera & DeWitt 8.42 in form)."""
    flow = 1.1 * 1.0 * 0.019 * 1007.0
    full, left = (boards.stack_film_w_m2k(0.0, 13.0, 1.0, 2 * 1.2, flow, spends) for spends in (0.0, 1.0))
    units = 13.0 * 2.4 / flow
    assert full == pytest.approx(13.0)
    assert left == pytest.approx(13.0 * (1 - np.exp(-units)) / units)
    assert 0.42 <= left / full <= 0.60
    assert boards.stack_film_w_m2k(3.0, 13.0, 0.0, 2.4, 0.0, 1.0) == pytest.approx(3.0), "still air when nothing blows"


def test_heat_of_boards_is_published():
    """Wood Handbook ch. 4: dry wood at 20 °C about 1.18 kJ/kgK (0.1031 + 0.003867 T)."""
    assert boards.wood_cp(20.0) == pytest.approx(1000 * (0.1031 + 0.003867 * 293.15), rel=0.01)
    assert WATER_CP == 4180.0


def test_the_species_are_those_that_the_calibration_finds():
    """Every row inside its range, none on its bound, a quarter held out; and the tables hold what it prints."""
    done = subprocess.run([sys.executable, str(ROOT / "scripts" / "calibrate_boards")], capture_output=True, text=True)
    assert done.returncode == 0, done.stdout
    assert "OUTSIDE" not in done.stdout
    first = done.stdout.splitlines()[0]
    activation, grows, free, trained, held_out = (
        float(x)
        for x in re.findall(r"[\d.]+(?= J| g|, free|;| rows| held)|(?<=grows )[\d.]+|(?<=free )[\d.]+", first)[:5]
    )
    assert activation == pytest.approx(ACTIVATION_J_MOL, rel=0.005)
    assert grows == pytest.approx(GROWS, abs=0.05)
    assert free == pytest.approx(FREE, abs=0.05)
    assert held_out / (trained + held_out) >= 0.25
    for name, value in re.findall(r"^([a-z-]+) +([\d.]+e-\d+)$", done.stdout, re.MULTILINE):
        assert species()[name].diffusion_m2_s == pytest.approx(float(value), rel=0.01), name


def test_the_table_of_woods_is_whole():
    rows = species().values()
    assert sum(row.diffusion_m2_s is not None for row in rows) >= 25
    assert all(row.green_sap_mc > 0.3 and row.green_heart_mc > 0.3 for row in rows)
    assert any(row.diffusion_m2_s is None for row in rows), "what is not known is not made up"
