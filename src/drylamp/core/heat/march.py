"""The compiled marcher: advances any network over any drive.

Each step freezes the temperature-dependent coefficients at the middle of the step, found by half a step with the
coefficients of the step before while nothing switches, or afresh by implicit Euler where sun or wind jumps; then takes
the two-stage, second-order, L-stable SDIRK over each half of the step, with the mean of the drive. The second half
costs two products with a matrix at hand, and what a gust does to a light node dies out thirtyfold instead of fivefold.
Coefficients frozen, the network is linear, so the energy carried by every link is known exactly and the ledger closes
by construction.

States beside temperature are predicted with the step and put right afterwards by what was really taken up, so that the ledger closes
with them: what has melted (``melt``), what has boiled off (``boil``), water that food and panes hold (``damp``).

Small networks are solved by a dense inverse, larger ones by factors over lists of indices (``sparse``). Water that flows is no node
but a queue of lots beside its pipe's wall (``streams``). What a network does not have is given as None, and the compiler leaves it out.

Numbers of links, ends and nodes are unsigned: a signed index costs numba a test for counting from the end.

Links become a matrix in ``assemble``, half a step stands in ``halves``.
"""

from __future__ import annotations

from typing import NamedTuple

import numpy as np

from drylamp.core.air.draught import STOP, SWITCH, path_kg_s
from drylamp.core.arrays import Array
from drylamp.core.compiled import compiled, woven
from drylamp.core.heat.assemble import assemble, assemble_sparse
from drylamp.core.heat.boil import boil_capacity, boil_off, shut_dry
from drylamp.core.heat.damp import Damp, damp_parts, set_terms, start_damp, take_up, write_damp, write_moved
from drylamp.core.heat.halves import GAMMA, half, half_sparse, invert, middle_afresh, middle_afresh_sparse
from drylamp.core.heat.melt import drip, melt_parts, put_right, secants
from drylamp.core.heat.siphon import decide_flows, lead_paths, siphon_parts
from drylamp.core.heat.sparse import Fill, factor
from drylamp.core.heat.streams import Lots, Passed, Streams, add_streams, couple, flow_on, write_held

SUN_JUMP_SHARE, WIND_JUMP_M_S = 0.05, 0.3
"""Changes from step to step above which the middle of a step is found afresh."""
BOIL_NEAR_K, BOILS_K, BOIL_PARTS = -1.5, -1e-6, 4
"""How near under boiling a step is cut finer, from where on it boils, and into how many parts it is cut."""
SWITCH_PARTS = 2
"""Parts of a step at whose beginning a thermostat switched, or somebody set a vent."""
STOP_SLACK_K = 0.5
"""How far from where it stops a thermostat starts again."""
LINES = 10
"""Rows of room that the marcher works in."""


class Links(NamedTuple):
    """Links of a network as arrays; ends ≥ the number of nodes are boundaries.

    Attributes:
        law: shape (links,)
        ends: numbers of start and end, unsigned, shape (2, links)
        params: ready-made, shape (links, PARAMETERS or more)
    """

    law: np.ndarray
    ends: np.ndarray
    params: Array


class Outside(NamedTuple):
    """What a network is exposed to, mean of each step.

    Attributes:
        boundary_c: temperature of each boundary, shape (steps, boundaries)
        wind, vapour: m/s and Pa, shape (steps,)
        pressure: Pa
        speed: ceiling on the speed of each path's fan or pump, 0–1, shape (steps, paths)
        opening: how far what is set by the hour stands open in each path, 0–1, shape (steps, paths)
        source_w: sun into each node, shape (steps, nodes)
    """

    boundary_c: Array
    wind: Array
    vapour: Array
    pressure: float
    speed: Array
    opening: Array
    source_w: Array


class Water(NamedTuple):
    """The streams of a network, the water in them (changed), what passed (filled), and the flow given to each, kg/s, shape (steps, streams)."""

    streams: Streams
    lots: Lots
    passed: Passed
    flow: Array


class Steps(NamedTuple):
    """How time is cut: length of each step in seconds, into how many parts, and the record it belongs to, shape (steps,)."""

    length_s: Array
    parts: np.ndarray
    record: np.ndarray


class Melting(NamedTuple):
    """What melts: a row each, shape (melting, MELTING_WIDTH), and the kilograms at the start (changed), shape (melting,)."""

    rows: Array
    mass: Array


class Boiling(NamedTuple):
    """What boils: a row each, shape (boiling, BOIL_WIDTH), and the kilograms of water at the start (changed), shape (boiling,)."""

    rows: Array
    water: Array


class Records(NamedTuple):
    """What is written down.

    Attributes:
        temperature: at the edges of the records, shape (records + 1, nodes)
        energy: by each link within them, J, shape (records, links)
        mass: kilograms of each melting row at the edges, shape (records + 1, melting)
        on: whether each path's fan or pump may run, 0 or 1, at the start and then at the end, shape (paths,)
        ran: seconds that each ran, weighed by its speed, shape (records, paths)
        water: kilograms of each boiling row at the edges, shape (records + 1, boiling)
        steamed: what left of it as steam and vapour, kg, shape (records, boiling)
    """

    temperature: Array
    energy: Array
    mass: Array
    on: Array
    ran: Array
    water: Array
    steamed: Array


class Sparse(NamedTuple):
    """A matrix of lists: how it is factored, and room for its numbers and those of its factors, shape (2, numbers)."""

    fill: Fill
    numbers: Array


class Room(NamedTuple):
    """Room to work in, made by the caller: compiled code that makes arrays takes seconds longer to compile.

    Attributes:
        line: shape (LINES, nodes + boundaries, or paths if they are more)
        terms: shape (links, 3), nothing in them at the start
        steam_w: shape (boiling,), likewise
    """

    line: Array
    terms: Array
    steam_w: Array


@woven
def _switch(paths: Array, temperature: Array, on: Array) -> bool:
    """Compare the two temperatures of each path that has a thermostat; tells whether any switched."""
    changed = False
    for f in range(paths.shape[0]):
        if paths[f, SWITCH] == 1.0:
            apart = temperature[np.uint64(paths[f, SWITCH + 1])] - temperature[np.uint64(paths[f, SWITCH + 2])]
            past = paths[f, STOP + 2] * (temperature[np.uint64(paths[f, STOP])] - paths[f, STOP + 1])
            if on[f] == 0.0 and apart >= paths[f, SWITCH + 3] and past <= -abs(paths[f, STOP + 2]) * STOP_SLACK_K:
                on[f] = 1.0
                changed = True
            elif on[f] == 1.0 and (apart <= paths[f, SWITCH + 4] or past > 0.0):
                on[f] = 0.0
                changed = True
    return changed


@woven
def _flows(
    paths: Array, temperature: Array, on: Array, speed: Array, opening: Array, n: int, wind_m_s: float, pressure: float, heat_flow: Array
) -> None:  # fmt: skip
    """Heat that each flow path carries per kelvin, W/K; nothing moves a path that its thermostat holds off but its own draught."""
    for f in range(paths.shape[0]):
        kg_s = path_kg_s(paths, f, temperature, speed[n, f] * on[f], opening[n, f], wind_m_s, pressure)
        heat_flow[f] = kg_s * paths[f, 7]


@woven
def _moved(opening: Array, n: int) -> bool:
    """Whether somebody set a vent anew at the beginning of a step."""
    changed = False
    for f in range(opening.shape[1] if n > 0 else 0):
        changed |= opening[n, f] != opening[n - 1, f]
    return changed


@woven
def _boil_parts(rows: Array, now: Array, parts: int) -> int:
    """Parts of this step: more where something is about to boil."""
    for r in range(rows.shape[0]):
        if BOIL_NEAR_K < now[np.uint64(rows[r, 0])] - now[np.uint64(rows[r, 1])] < BOILS_K:
            parts = max(parts, BOIL_PARTS)
    return parts


@compiled
def march(  # noqa: C901  one loop over the steps; what it does stands in the functions above
    first_c: Array, capacity: Array, links: Links, paths: Array, outside: Outside, steps: Steps, melting: Melting,
    boiling: Boiling, records: Records, room: Room, square: Array | None, sparse: Sparse | None, water: Water | None, damp: Damp | None,
) -> None:  # fmt: skip
    """Advance a network.

    Parameters
    ----------
    first_c : array, shape (nodes,)
        Temperatures at the start [°C].
    capacity : array, shape (nodes,)
        Heat capacities without what melts [J/K].
    links, outside, steps : Links, Outside, Steps
        The network's links, what it is exposed to, and how time is cut.
    paths : array, shape (paths, as many as the longest needs)
        Flow paths as ``draught.path_rows`` makes them.
    melting, boiling, records, room : Melting, Boiling, Records, Room
        What melts and what boils (changed), what is written down (filled), and room to work in.
    square : array, shape (2, nodes, nodes), optional
        Room for a dense matrix and its inverse.
    sparse : Sparse, optional
        A sparse matrix instead.
    water : Water, optional
        What flows through pipes; with a sparse matrix only.
    damp : Damp, optional
        What holds water; with a sparse matrix only.
    """
    # taken out of their records once: each time one is named inside the loop, its references are counted
    law, ends, params = links
    boundary_c, wind, vapour, pressure, speed, opening, source_w = outside
    length_s, cut, record = steps
    rows, mass = melting
    boil_rows, boil_kg = boiling
    temperature, energy, kept_kg, on, ran, kept_water, steamed = records
    line, terms, steam_w = room
    if square is not None:
        matrix, inverse = square[0], square[1]
    if sparse is not None:
        fill, numbers, factors = sparse.fill, sparse.numbers[0], sparse.numbers[1]
    holds = False
    if damp is not None:
        wet, holds = damp.terms, damp.rows.shape[0] > 0
    now, mid, mean, heat_flow, source, varying, before, push, stage, rhs = (
        line[0], line[1], line[2], line[3], line[4], line[5], line[6], line[7], line[8], line[9],
    )  # fmt: skip
    count, bounds = np.uint64(first_c.shape[0]), np.uint64(boundary_c.shape[1])
    for i in range(count):
        temperature[0, i] = now[i] = mid[i] = first_c[i]
        varying[i] = capacity[i]
    for r in range(mass.shape[0]):
        kept_kg[0, r] = mass[r]
    for r in range(boil_kg.shape[0]):
        kept_water[0, r] = boil_kg[r]
    shut_dry(boil_rows, boil_kg, params)
    if water is not None:
        write_held(water.lots, water.passed, 0)
    if damp is not None:
        start_damp(damp, varying, now)
    secants(rows, capacity, mass, now, mid, varying)
    boil_capacity(boil_rows, capacity, boil_kg, now, mid, varying)
    last_h = last_sun = last_wind = gone_s = 0.0
    for n in range(np.uint64(source_w.shape[0])):
        sun, kept = 0.0, np.uint64(record[n])
        for i in range(count):
            sun += source_w[n, i]
            push[i] += source_w[n, i] - source[i]
            source[i] = source_w[n, i]
        for b in range(bounds):
            now[count + b] = mid[count + b] = mean[count + b] = boundary_c[n, b]
        air = (wind[n], vapour[n], pressure)
        steady = (
            abs(sun - last_sun) <= SUN_JUMP_SHARE * max(sun, last_sun) and abs(wind[n] - last_wind) <= WIND_JUMP_M_S
        )
        last_sun, last_wind = sun, wind[n]
        parts = _boil_parts(boil_rows, now, cut[n])
        parts = melt_parts(rows, now, parts)
        if _switch(paths, now, on) | _moved(opening, n):
            parts, steady = max(parts, SWITCH_PARTS), False
        if damp is not None and holds:
            parts = damp_parts(damp, now, pressure, parts)
        if water is not None:
            parts = siphon_parts(water.streams, water.lots, length_s[n], parts)
        h = length_s[n] / parts
        for part in range(parts):
            if water is not None:
                if decide_flows(water.streams, water.lots, water.flow[n], paths, now, on, speed[n]):
                    steady = False
                couple(water.streams, water.lots, now, h, water.passed)
            if h == last_h and (steady or part > 0):
                for i in range(count):
                    mid[i] = now[i]
                if square is not None:
                    half(matrix, push, varying, h / 2.0, inverse, mid, stage, rhs, mean, 0.0)
                if sparse is not None:
                    half_sparse(fill, numbers, push, varying, h / 2.0, factors, mid, stage, rhs, mean, 0.0)
            else:
                _flows(paths, now, on, speed, opening, n, wind[n], pressure, heat_flow)
                if square is not None:
                    assemble(now, law, ends, params, heat_flow, air, source, matrix, push, terms, steam_w)
                    middle_afresh(matrix, push, varying, h, inverse, now, rhs, mid)
                if water is not None:
                    lead_paths(water.streams, water.lots, paths, heat_flow)
                if damp is not None and holds:
                    set_terms(damp, now, heat_flow, pressure, h)
                if sparse is not None:
                    assemble_sparse(
                        now, law, ends, params, heat_flow, air, source, fill, numbers, push, terms, wet, steam_w
                    )
                    if water is not None:
                        add_streams(water.streams, water.lots, numbers, push)
                    middle_afresh_sparse(fill, numbers, push, varying, h, factors, now, rhs, mid)
            secants(rows, capacity, mass, now, mid, varying)
            boil_capacity(boil_rows, capacity, boil_kg, now, mid, varying)
            _flows(paths, mid, on, speed, opening, n, wind[n], pressure, heat_flow)
            if square is not None:
                assemble(mid, law, ends, params, heat_flow, air, source, matrix, push, terms, steam_w)
                invert(matrix, varying, GAMMA * h / 2.0, inverse)
            if water is not None:
                lead_paths(water.streams, water.lots, paths, heat_flow)
            if damp is not None and holds:
                set_terms(damp, mid, heat_flow, pressure, h)
            if sparse is not None:
                assemble_sparse(
                    mid, law, ends, params, heat_flow, air, source, fill, numbers, push, terms, wet, steam_w
                )
                if water is not None:
                    add_streams(water.streams, water.lots, numbers, push)
                factor(fill, numbers, varying, GAMMA * h / 2.0, factors)
            last_h = h
            for i in range(count):
                mean[i] = 0.0
                before[i] = now[i]
            for _ in range(2):
                if square is not None:
                    half(matrix, push, varying, h / 2.0, inverse, now, stage, rhs, mean, 0.5)
                if sparse is not None:
                    half_sparse(fill, numbers, push, varying, h / 2.0, factors, now, stage, rhs, mean, 0.5)
            for f in range(paths.shape[0]):
                ran[kept, f] += on[f] * speed[n, f] * h
            for k in range(np.uint64(law.shape[0])):
                out, into = mean[ends[0, k]], mean[ends[1, k]]
                energy[kept, k] += (terms[k, 0] * out - terms[k, 1] * into + terms[k, 2]) * h
            if water is not None:
                flow_on(water.streams, water.lots, mean, h, gone_s, water.passed, int(kept))
            if damp is not None and holds:
                write_moved(damp, paths, heat_flow, h, int(kept))
                take_up(damp, mean, varying, now, h, int(kept))
            gone_s += h
            if boil_kg.shape[0] > 0:
                boil_off(
                    boil_rows,
                    capacity,
                    boil_kg,
                    before,
                    varying,
                    now,
                    mean,
                    terms,
                    params,
                    h,
                    energy,
                    steamed,
                    kept,
                    steam_w,
                )
            if mass.shape[0] > 0:
                put_right(rows, capacity, mass, before, varying, now)
                drip(rows, capacity, mass, now, h)
        for i in range(count):
            temperature[kept + np.uint64(1), i] = now[i]
        for r in range(mass.shape[0]):
            kept_kg[kept + np.uint64(1), r] = mass[r]
        for r in range(boil_kg.shape[0]):
            kept_water[kept + np.uint64(1), r] = boil_kg[r]
        if water is not None:
            write_held(water.lots, water.passed, int(kept) + 1)
        if damp is not None and holds:
            write_damp(damp, int(kept) + 1)
