"""Water beside heat: bodies that hold it, damp air that carries it on.

Vapour comes and goes between wet things and the air on them in seconds, so the air's humidity is an unknown of the same matrix: a node whose
"temperature" is its humidity ratio in g/kg and whose capacity is its air times the latent heat. What leaves a body is linear in the body's
temperature and the air's humidity once frozen at mid-step, ṁ L = g T − h w + c; it takes its latent heat from the body and gives it to the air as vapour, so that energy and water close
together. Only what bodies and panes hold is a state beside the matrix, put right after each step by what really left.

A *piece* gives water up through its inside and its film (``drying``); *boards* through the cells of their half thickness (``boards``), in which what really left is filled back. A *pane* takes it where the air
is damper than the pane is warm, and gives it back while it has any; what it cannot hold runs off or drips.

References:
    Lewis relation (Chilton & Colburn 1934). Film of air that blows along a piece: Nu = 0.664 Re^½ Pr^⅓, laminar plate (Incropera & DeWitt
    7.30), with the still air's by cubes (mixed convection, 9.9).
"""

from __future__ import annotations

from typing import NamedTuple

import numpy as np

from drylamp.core.air.constants import CP_AIR, PRANDTL
from drylamp.core.air.moist import MOLAR_RATIO, VAPOUR_GAS_CONSTANT
from drylamp.core.air.properties import conductivity_w_mk, viscosity_m2_s
from drylamp.core.arrays import Array
from drylamp.core.compiled import inlined, woven
from drylamp.core.heat.boards import board_terms, fill_back, stack_film_w_m2k, sweep
from drylamp.core.heat.cells import CELLS
from drylamp.core.heat.drying import (
    KELVIN,
    LATENT_J_KG,
    PIECE_WIDTH,
    WATER_CP,
    drying_terms,
    film_kg,
    saturated_kg_m3,
    shown_m2,
    wet_share,
)

PER_G = LATENT_J_KG / 1000.0
"""Latent heat of a gram."""
VAPOUR_PER_HEAT = PER_G / CP_AIR
"""Latent heat that air carries for each g/kg, against the heat that it carries for each kelvin."""
(
    BODY, VAPOUR, BESIDE, SORT, FILM, AMOUNT, HOLDS, RUNS_TO, PATH, SPEED, LONG, ACTIVATION, CAPACITY, SHINES, BLOWN, FACE, SPENT, PILE, PIECE,
) = range(19)  # fmt: skip
"""Columns of a wet body: its node, the vapour's and the air's beside it; 0 for a pane, 1 for a piece, 2 for boards; still air's film W/m²K; kilograms dry, or m²;
kilograms that it holds; the row that it drips on (−1 runs off); its path (−1 none), m/s (of boards: share of its full flow) for each W/K that goes along that, metres along the wind; J/mol; its own
heat capacity; long-wave beside the film W/m²K; of boards the film at full flow, faces m², whether air spends itself along the stack, and their number among the boards; and where the numbers of a piece or board begin."""
PANE, FOOD, BOARDS = 0.0, 1.0, 2.0
TERMS = 5
"""Of each body: g, h, c of the water that leaves it, W/K of the film on it, and how much of a pane is wet."""
CLOUDS_KG_M2 = 0.01
"""Water from which on a pane is wet all over: a film of droplets of a hundredth of a millimetre; from memory."""
DAMP_WIDTH = PIECE + PIECE_WIDTH
LEAST_KG = 1e-9
FIRST_OVER = 0.8
"""Relative humidity over boards that is tried first."""
TURNING_PARTS = 2
"""Parts of a step in which a pane turns from wetting to drying or back."""


class Held(NamedTuple):
    """What is written down of damp things.

    Attributes:
        water_kg, activity: held by each body, and water activity at its surface, at the edges of the records, shape (records + 1, bodies)
        cells: moisture of boards from core to face at the same edges, shape (records + 1, boards × CELLS)
        carried_j: heat that came with water that was taken up, less what left with it, shape (records, bodies)
        ran_kg: what ran off each, away or on to another, shape (records, bodies)
        moved_kg, back_kg: air that each path moved, forwards and backwards, shape (records, paths)
    """

    water_kg: Array
    activity: Array
    carried_j: Array
    ran_kg: Array
    moved_kg: Array
    back_kg: Array
    cells: Array


class Damp(NamedTuple):
    """What holds water.

    Attributes:
        rows: shape (bodies, DAMP_WIDTH)
        water: kilograms that each holds (changed), shape (bodies,)
        terms: shape (bodies, TERMS)
        surface: moisture of a piece's surface as last found, relative humidity over boards; of a pane, whether vapour last came (1) or left (0); shape (bodies,)
        cells: moisture of boards from core to face (changed), shape (boards, CELLS)
        swept: what their last sweep left to fill back by, shape (boards, 2 CELLS)
        held: what is written down
    """

    rows: Array
    water: Array
    terms: Array
    surface: Array
    held: Held
    cells: Array
    swept: Array


@inlined
def vapour_kg_m3(gram_kg: float, celsius: float, pressure_pa: float) -> tuple[float, float]:
    """Vapour in air of a humidity ratio, and what a g/kg more adds to it."""
    ratio, gas = gram_kg / 1000.0, VAPOUR_GAS_CONSTANT * (celsius + KELVIN)
    room = MOLAR_RATIO + ratio
    return pressure_pa * ratio / (room * gas), pressure_pa * MOLAR_RATIO / (room * room * gas * 1000.0)


@inlined
def blown_film_w_m2k(still: float, speed_m_s: float, long_m: float, celsius: float, pressure_pa: float) -> float:
    """Film of still air and of air that blows along something so long."""
    reynolds = speed_m_s * long_m / viscosity_m2_s(celsius, pressure_pa)
    blown = 0.664 * np.sqrt(reynolds) * np.cbrt(PRANDTL) * conductivity_w_mk(celsius) / long_m
    return float(np.cbrt(still * still * still + blown * blown * blown))


@inlined
def set_terms(damp: Damp, at: Array, heat_flow: Array, pressure_pa: float, h: float) -> None:
    """Terms of every wet body with nodes as they are ``at``; a pane cannot give more over ``h`` seconds than it has."""
    rows, water, terms = damp.rows, damp.water, damp.terms
    for r in range(rows.shape[0]):
        row = rows[r]
        body, gram = at[np.uint64(row[BODY])], at[np.uint64(row[VAPOUR])]
        air, slope = vapour_kg_m3(gram, at[np.uint64(row[BESIDE])], pressure_pa)
        film = row[FILM]
        if row[SORT] == BOARDS:
            rate, warmth, damper = _boards(damp, r, body, air, heat_flow, h)
            g, out = LATENT_J_KG * warmth, LATENT_J_KG * damper * slope
            terms[r, 0], terms[r, 1], terms[r, 2] = g, out, LATENT_J_KG * rate - g * body + out * gram
            continue
        piece = (
            row[PIECE],
            row[PIECE + 1],
            row[PIECE + 2],
            row[PIECE + 3],
            row[PIECE + 4],
            row[PIECE + 5],
            row[PIECE + 6],
        )
        if row[PATH] >= 0.0:
            speed = abs(heat_flow[np.uint64(row[PATH])]) * row[SPEED]
            film = blown_film_w_m2k(film, speed, row[LONG], at[np.uint64(row[BESIDE])], pressure_pa)
        if row[SORT] == FOOD:
            moisture = water[r] / row[AMOUNT]
            rate, warmth, damper, damp.surface[r] = drying_terms(
                moisture, body, piece, air, film, row[ACTIVATION], damp.surface[r]
            )
            rate, warmth, damper = row[AMOUNT] * rate, row[AMOUNT] * warmth, row[AMOUNT] * damper
            terms[r, 3] = (film + row[SHINES]) * row[AMOUNT] * shown_m2(moisture, piece)
        else:
            rate, warmth, damper = _pane(row[AMOUNT] * film_kg(film), body, air, water[r], h)
            damp.surface[r] = 1.0 if rate < 0.0 else 0.0
            terms[r, 3] = (film + row[SHINES]) * row[AMOUNT]
            terms[r, 4] = min(water[r] / (CLOUDS_KG_M2 * row[AMOUNT]), 1.0)
        g, out = LATENT_J_KG * warmth, LATENT_J_KG * damper * slope
        terms[r, 0], terms[r, 1], terms[r, 2] = g, out, LATENT_J_KG * rate - g * body + out * gram


@woven
def _boards(damp: Damp, r: int, celsius: float, air_kg_m3: float, heat_flow: Array, h: float) -> tuple[float, float, float]:  # fmt: skip
    """Water that boards lose over ``h`` seconds, kg/s, and how that grows with their warmth and falls with the air's vapour; sets their film."""
    row, pile = damp.rows[r], int(damp.rows[r, PILE])
    board = (
        row[PIECE],
        row[PIECE + 1],
        row[PIECE + 2],
        row[PIECE + 3],
        row[PIECE + 4],
        row[PIECE + 5],
        row[PIECE + 6],
    )
    flow = abs(heat_flow[np.uint64(row[PATH])]) if row[PATH] >= 0.0 else 0.0
    film = stack_film_w_m2k(row[FILM], row[BLOWN], flow * row[SPEED], row[LONG], flow, row[SPENT])
    a, b = sweep(damp.cells, damp.swept, pile, row[AMOUNT], celsius, board, h)
    rate, warmth, damper, damp.surface[r] = board_terms(
        a, b, row[FACE] * film_kg(film), celsius, air_kg_m3, board[6], damp.surface[r]
    )
    damp.terms[r, 3] = (film + row[SHINES]) * row[FACE]
    return rate, warmth, damper


@inlined
def _pane(carries: float, celsius: float, air_kg_m3: float, water_kg: float, h: float) -> tuple[float, float, float]:
    """Water that leaves a pane, kg/s (below nothing: it comes), and how that grows with its warmth and falls with the air's vapour."""
    full = saturated_kg_m3(celsius)
    rate = carries * (full - air_kg_m3)
    warmth, damper = carries * (saturated_kg_m3(celsius + 0.1) - full) / 0.1, carries
    if rate <= 0.0:
        return rate, warmth, damper
    if water_kg <= LEAST_KG:
        return 0.0, 0.0, 0.0
    share = min(water_kg / (rate * h), 1.0)
    return rate * share, warmth * share, damper * share


@inlined
def damp_parts(damp: Damp, at: Array, pressure_pa: float, parts: int) -> int:
    """Parts of a step: two where a pane is about to turn."""
    for r in range(damp.rows.shape[0]):
        row = damp.rows[r]
        if row[SORT] == PANE:
            air, _ = vapour_kg_m3(at[np.uint64(row[VAPOUR])], at[np.uint64(row[BESIDE])], pressure_pa)
            comes = 1.0 if air > saturated_kg_m3(at[np.uint64(row[BODY])]) else 0.0
            if comes != damp.surface[r] and (comes == 1.0 or damp.water[r] > LEAST_KG):
                parts = max(parts, TURNING_PARTS)
    return parts


@inlined
def start_damp(damp: Damp, varying: Array, now: Array) -> None:
    """Heat capacities with the water that is held, and the first line of what is written down."""
    for r in range(damp.rows.shape[0]):
        damp.surface[r] = damp.water[r] / damp.rows[r, AMOUNT] if damp.rows[r, SORT] == FOOD else 0.0
        if damp.rows[r, SORT] == BOARDS:
            damp.surface[r] = FIRST_OVER
        varying[np.uint64(damp.rows[r, BODY])] = damp.rows[r, CAPACITY] + WATER_CP * damp.water[r]
    write_damp(damp, 0)


@inlined
def take_up(damp: Damp, mean: Array, varying: Array, now: Array, h: float, kept: int) -> None:
    """Put right what is held by what really left over ``h`` seconds; what a pane cannot hold runs off or drips."""
    held = damp.held
    for r in range(damp.rows.shape[0]):
        row = damp.rows[r]
        i = np.uint64(row[BODY])
        left = damp.terms[r, 0] * mean[i] - damp.terms[r, 1] * mean[np.uint64(row[VAPOUR])] + damp.terms[r, 2]
        gained = -left * h / LATENT_J_KG
        damp.water[r] += gained
        held.carried_j[kept, r] += WATER_CP * gained * now[i]
    for r in range(damp.rows.shape[0]):
        row = damp.rows[r]
        over = damp.water[r] - row[HOLDS]
        if over > 0.0:
            _runs(damp, r, over, varying, now, kept)
    for r in range(damp.rows.shape[0]):
        varying[np.uint64(damp.rows[r, BODY])] = damp.rows[r, CAPACITY] + WATER_CP * damp.water[r]
    _fill_boards(damp, mean, varying, now, kept)


@woven
def _fill_boards(damp: Damp, mean: Array, varying: Array, now: Array, kept: int) -> None:
    """Fill what really left back into the cells of boards; what loosening it took comes out of their warmth."""
    for r in range(damp.rows.shape[0]):
        row = damp.rows[r]
        if row[SORT] == BOARDS:
            i = np.uint64(row[BODY])
            left = damp.terms[r, 0] * mean[i] - damp.terms[r, 1] * mean[np.uint64(row[VAPOUR])] + damp.terms[r, 2]
            loosened = fill_back(damp.cells, damp.swept, int(row[PILE]), row[AMOUNT], left / LATENT_J_KG)
            now[i] -= loosened / varying[i]
            damp.held.carried_j[kept, r] -= loosened


@inlined
def _runs(damp: Damp, r: int, over: float, varying: Array, now: Array, kept: int) -> None:
    """So much of what a pane holds leaves it, as warm as the pane."""
    to, warm = int(damp.rows[r, RUNS_TO]), now[np.uint64(damp.rows[r, BODY])]
    damp.water[r] -= over
    damp.held.ran_kg[kept, r] += over
    damp.held.carried_j[kept, r] -= WATER_CP * over * warm
    if to < 0:
        return
    j = np.uint64(damp.rows[to, BODY])
    there = damp.rows[to, CAPACITY] + WATER_CP * damp.water[to]
    now[j] = (there * now[j] + WATER_CP * over * warm) / (there + WATER_CP * over)
    damp.water[to] += over
    damp.held.carried_j[kept, to] += WATER_CP * over * warm


@inlined
def write_damp(damp: Damp, edge: int) -> None:
    """Write down what is held, and how wet its surface is."""
    for r in range(damp.rows.shape[0]):
        damp.held.water_kg[edge, r] = damp.water[r]
        row = damp.rows[r]
        damp.held.activity[edge, r] = 1.0
        if row[SORT] == BOARDS:
            damp.held.activity[edge, r] = damp.surface[r]
            pile = int(row[PILE])
            for c in range(CELLS):
                damp.held.cells[edge, pile * CELLS + c] = damp.cells[pile, c]
        elif row[SORT] == FOOD:
            wet, _ = wet_share(damp.surface[r], row[PIECE + 4], row[PIECE + 5], row[PIECE + 6])
            damp.held.activity[edge, r] = wet


@inlined
def write_moved(damp: Damp, paths: Array, heat_flow: Array, h: float, kept: int) -> None:
    """Write down what each path moved over ``h`` seconds."""
    for f in range(paths.shape[0]):
        moved = heat_flow[f] / paths[f, 7] * h
        if moved >= 0.0:
            damp.held.moved_kg[kept, f] += moved
        else:
            damp.held.back_kg[kept, f] -= moved
