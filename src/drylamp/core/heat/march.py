"""The compiled marcher: advances any network over any drive.

Each step freezes the temperature-dependent coefficients at the middle of the step, found by half a step with the
coefficients of the step before while nothing switches, or afresh by implicit Euler where sun or wind jumps; then takes
the two-stage, second-order, L-stable SDIRK over each half of the step, with the mean of the drive. The second half
costs two products with a matrix at hand, and what a gust does to a light node dies out thirtyfold instead of fivefold.
Coefficients frozen, the network is linear, so the energy carried by every link is known exactly and the ledger closes
by construction.

Something that melts changes its heat capacity as it does. Each step takes the secant of its enthalpy over the step as
predicted, and puts its temperature right afterwards from the enthalpy that it really took up (Voller 1990's correction,
from memory), so that the ledger closes with latent heat too. What has melted may drip to another node, enthalpy and all.

Small networks are solved by a dense inverse, larger ones by factors over lists of indices (``sparse``). Water that flows is no node
but a queue of lots beside its pipe's wall (``streams``). What a network does not have is given as None, and the compiler leaves it out.

Numbers of links, ends and nodes are unsigned: a signed index costs numba a test for counting from the end.

References:
    Alexander 1977, diagonally implicit Runge–Kutta: γ = 1 − 1/√2, weights (1 − γ, γ).
"""

from __future__ import annotations

from typing import NamedTuple

import numpy as np

from drylamp.core.air.draught import STOP, SWITCH, path_kg_s
from drylamp.core.arrays import Array
from drylamp.core.compiled import compiled, inlined, woven
from drylamp.core.heat.laws import (
    FIRST_OF_AIR,
    FIRST_OF_VAPOUR,
    FIRST_OF_WATER,
    annulus_w_k,
    conductance_w_k,
    evaporation_terms,
    one_way_w_k,
    open_water_terms,
    vapour_leak_terms,
    water_conductance_w_k,
)
from drylamp.core.heat.siphon import decide_flows, lead_paths, siphon_parts
from drylamp.core.heat.sparse import Fill, factor, less_product, solve
from drylamp.core.heat.streams import Lots, Passed, Streams, add_streams, couple, flow_on, write_held

GAMMA = 1.0 - 0.5**0.5
SUN_JUMP_SHARE, WIND_JUMP_M_S = 0.05, 0.3
"""Changes from step to step above which the middle of a step is found afresh."""
BOIL_NEAR_K, BOIL_PAST_K, BOIL_PARTS = -1.5, 0.02, 6
"""How near to boiling a step is cut finer, and into how many parts."""
MELT_NEAR_K, MELT_PARTS = 0.7, 4
"""How near to the ends of a melting range a step is cut finer, and into how many parts."""
SWITCH_PARTS = 2
"""Parts of a step at whose beginning a thermostat switched."""
STOP_SLACK_K = 0.5
"""How far from where it stops a thermostat starts again."""
LINES = 10
"""Rows of room that the marcher works in."""
MELTING_WIDTH = 8
"""Numbers of a melting row: node, cp, latent heat, low and high end of the range, row it drips to (−1 none), share that
drips each second, kilograms that never do."""


class Links(NamedTuple):
    """Links of a network as arrays; ends ≥ the number of nodes are boundaries.

    Attributes:
        law: shape (links,)
        ends: numbers of start and end, unsigned, shape (2, links)
        params: ready-made, shape (links, PARAMETERS)
        boils: whether any link boils
    """

    law: np.ndarray
    ends: np.ndarray
    params: Array
    boils: bool


class Outside(NamedTuple):
    """What a network is exposed to, mean of each step.

    Attributes:
        boundary_c: temperature of each boundary, shape (steps, boundaries)
        wind, vapour: m/s and Pa, shape (steps,)
        pressure: Pa
        speed: ceiling on the speed of each path's fan or pump, 0–1, shape (steps, paths)
        source_w: sun into each node, shape (steps, nodes)
    """

    boundary_c: Array
    wind: Array
    vapour: Array
    pressure: float
    speed: Array
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


class Records(NamedTuple):
    """What is written down.

    Attributes:
        temperature: at the edges of the records, shape (records + 1, nodes)
        energy: by each link within them, J, shape (records, links)
        mass: kilograms of each melting row at the edges, shape (records + 1, melting)
        on: whether each path's fan or pump may run, 0 or 1, at the start and then at the end, shape (paths,)
        ran: seconds that each ran, weighed by its speed, shape (records, paths)
    """

    temperature: Array
    energy: Array
    mass: Array
    on: Array
    ran: Array


class Sparse(NamedTuple):
    """A matrix of lists: how it is factored, and room for its numbers and those of its factors, shape (2, numbers)."""

    fill: Fill
    numbers: Array


class Room(NamedTuple):
    """Room to work in, made by the caller: compiled code that makes arrays takes seconds longer to compile.

    Attributes:
        line: shape (LINES, nodes + boundaries, or paths if they are more)
        terms: shape (links, 3)
    """

    line: Array
    terms: Array


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
    paths: Array, temperature: Array, on: Array, speed: Array, n: int, pressure: float, heat_flow: Array
) -> None:
    """Heat that each flow path carries per kelvin, W/K; nothing moves a path that its thermostat holds off but its own draught."""
    for f in range(paths.shape[0]):
        heat_flow[f] = path_kg_s(paths, f, temperature, speed[n, f] * on[f], pressure) * paths[f, 7]


@woven
def _assemble(
    temperature: Array, law: Array, ends: Array, params: Array, heat_flow: Array, air: tuple[float, float, float],
    source: Array, matrix: Array, push: Array, terms: Array,
) -> None:  # fmt: skip
    """Fill A and b of C dT/dt = −A T + b, and keep each link's terms: power = terms₀ Tₛ − terms₁ Tₑ + terms₂.

    ``air`` is wind, vapour pressure and air pressure of the step.
    """
    count = np.uint64(matrix.shape[0])
    for i in range(count):
        push[i] = source[i]
        for j in range(count):
            matrix[i, j] = 0.0
    for k in range(np.uint64(law.shape[0])):
        i, j = ends[0, k], ends[1, k]
        g = conductance_w_k(
            law[k], params[k, 0], params[k, 1], params[k, 2], params[k, 3], temperature[i], temperature[j], air[0], air[2],
        )  # fmt: skip
        h, c = g, 0.0
        if law[k] == 9:
            g, h = heat_flow[np.uint64(params[k, 0])], 0.0
        elif law[k] == 7:
            g, c = evaporation_terms(params[k, 0] * params[k, 1], temperature[i], temperature[j], air[1])
            h = 0.0
        terms[k, 0], terms[k, 1], terms[k, 2] = g, h, c
        if i < count:
            matrix[i, i] += g
            push[i] -= c
            if j < count:
                matrix[i, j] -= h
            else:
                push[i] += h * temperature[j]
        if j < count:
            matrix[j, j] += h
            push[j] += c
            if i < count:
                matrix[j, i] -= g
            else:
                push[j] += g * temperature[i]


@inlined
def _as_vapour(
    law: int,
    params: Array,
    k: int,
    temperature: Array,
    ends_c: tuple[float, float],
    air: tuple[float, float, float],
    heat_flow: Array,
) -> tuple[float, float]:
    """Terms of what leaves with vapour: off open water, or with damp air that leaks out past the colder of two nodes; and what a pump gives off."""
    start_c, end_c = ends_c
    if law == 16:
        return 0.0, params[k, 1] * heat_flow[np.uint64(params[k, 0])]
    if law == 17:
        area = heat_flow[np.uint64(params[k, 0])] * params[k, 1]
        return open_water_terms(area * params[k, 2], params[k, 3], start_c, end_c, air)
    if law == 15:
        return open_water_terms(params[k, 0] * params[k, 1], params[k, 2], start_c, end_c, air)
    if start_c > temperature[np.uint64(params[k, 3])]:
        return 0.0, 0.0
    return vapour_leak_terms(params[k, 0], params[k, 1], params[k, 2], start_c, end_c, air)


@inlined
def _by_later_laws(
    law: int, params: Array, k: int, temperature: Array, ends_c: tuple[float, float], air: tuple[float, float, float], heat_flow: Array
) -> tuple[float, float, float]:  # fmt: skip
    """Terms by the laws of water, of vapour, and of air between cylinders: those that no oven has."""
    start_c, end_c = ends_c
    if law >= FIRST_OF_AIR:
        if law == FIRST_OF_AIR:
            g = annulus_w_k(params[k, 0], params[k, 1], start_c, end_c, air[2])
        else:
            g = one_way_w_k(params[k, 0], start_c, end_c)
        return g, g, 0.0
    if law >= FIRST_OF_VAPOUR:
        g, c = _as_vapour(law, params, k, temperature, ends_c, air, heat_flow)
        return g, 0.0, c
    g = water_conductance_w_k(law, params[k, 0], params[k, 1], params[k, 2], start_c, end_c)
    return g, g, 0.0


@inlined
def _assemble_sparse(
    temperature: Array, law: Array, ends: Array, params: Array, heat_flow: Array, air: tuple[float, float, float],
    source: Array, fill: Fill, matrix: Array, push: Array, terms: Array,
) -> None:  # fmt: skip
    """The same into the numbers of a sparse matrix."""
    count, slots = np.uint64(fill.pivots.shape[0]), fill.slots
    for i in range(count):
        push[i] = source[i]
    for e in range(np.uint64(matrix.shape[0])):
        matrix[e] = 0.0
    for k in range(np.uint64(law.shape[0])):
        i, j = ends[0, k], ends[1, k]
        g = h = c = 0.0
        if law[k] >= FIRST_OF_WATER:
            g, h, c = _by_later_laws(law[k], params, k, temperature, (temperature[i], temperature[j]), air, heat_flow)
        elif law[k] == 9:
            g = heat_flow[np.uint64(params[k, 0])]
        elif law[k] == 7:
            g, c = evaporation_terms(params[k, 0] * params[k, 1], temperature[i], temperature[j], air[1])
        else:
            g = conductance_w_k(
                law[k], params[k, 0], params[k, 1], params[k, 2], params[k, 3], temperature[i], temperature[j], air[0], air[2],
            )  # fmt: skip
            h = g
        terms[k, 0], terms[k, 1], terms[k, 2] = g, h, c
        if i < count:
            matrix[slots[k, 0]] += g
            push[i] -= c
            if j < count:
                matrix[slots[k, 2]] -= h
            else:
                push[i] += h * temperature[j]
        if j < count:
            matrix[slots[k, 1]] += h
            push[j] += c
            if i < count:
                matrix[slots[k, 3]] -= g
            else:
                push[j] += g * temperature[i]


@woven
def _invert(matrix: Array, capacity: Array, scale: float, inverse: Array) -> None:
    """(C + scale·A)⁻¹ by Gauss–Jordan; diagonally dominant, so no pivoting.

    An inverse costs more than factors, but it is applied up to six times a step, row by row without waiting.
    """
    count = np.uint64(matrix.shape[0])
    for i in range(count):
        for j in range(count):
            inverse[i, j] = scale * matrix[i, j]
        inverse[i, i] += capacity[i]
    for k in range(count):
        pivot = 1.0 / inverse[k, k]
        inverse[k, k] = 1.0
        for j in range(count):
            inverse[k, j] *= pivot
        for i in range(count):
            factor = inverse[i, k]
            if i != k and factor != 0.0:
                inverse[i, k] = 0.0
                for j in range(count):
                    inverse[i, j] -= factor * inverse[k, j]


@woven
def _apply(inverse: Array, rhs: Array, out: Array) -> None:
    """The inverse times a vector."""
    count = np.uint64(inverse.shape[0])
    for i in range(count):
        total = 0.0
        for j in range(count):
            total += inverse[i, j] * rhs[j]
        out[i] = total


@woven
def _half(
    matrix: Array, push: Array, capacity: Array, h: float, inverse: Array, at: Array, stage: Array, rhs: Array, mean: Array,
    share: float,
) -> None:  # fmt: skip
    """Two-stage SDIRK over h with frozen coefficients, from and to ``at``; adds share × its weighted mean to ``mean``."""
    count = np.uint64(matrix.shape[0])
    for i in range(count):
        rhs[i] = capacity[i] * at[i] + GAMMA * h * push[i]
    _apply(inverse, rhs, stage)
    for i in range(count):
        flow = push[i]
        for j in range(count):
            flow -= matrix[i, j] * stage[j]
        mean[i] += share * (1.0 - GAMMA) * stage[i]
        rhs[i] = capacity[i] * at[i] + (1.0 - GAMMA) * h * flow + GAMMA * h * push[i]
    _apply(inverse, rhs, at)
    for i in range(count):
        mean[i] += share * GAMMA * at[i]


@inlined
def _half_sparse(
    fill: Fill, matrix: Array, push: Array, capacity: Array, h: float, factors: Array, at: Array, stage: Array, rhs: Array,
    mean: Array, share: float,
) -> None:  # fmt: skip
    """The same with sparse factors."""
    count = np.uint64(fill.pivots.shape[0])
    for i in range(count):
        rhs[i] = capacity[i] * at[i] + GAMMA * h * push[i]
    solve(fill, factors, rhs, stage)
    for i in range(count):
        mean[i] += share * (1.0 - GAMMA) * stage[i]
        rhs[i] = push[i]
    less_product(fill, matrix, stage, rhs)
    for i in range(count):
        rhs[i] = capacity[i] * at[i] + (1.0 - GAMMA) * h * rhs[i] + GAMMA * h * push[i]
    solve(fill, factors, rhs, at)
    for i in range(count):
        mean[i] += share * GAMMA * at[i]


@woven
def _middle_afresh(
    matrix: Array, push: Array, capacity: Array, h: float, inverse: Array, at: Array, rhs: Array, mid: Array
) -> None:  # fmt: skip
    """Half a step of implicit Euler with the coefficients at its beginning."""
    _invert(matrix, capacity, h / 2.0, inverse)
    for i in range(np.uint64(matrix.shape[0])):
        rhs[i] = capacity[i] * at[i] + h / 2.0 * push[i]
    _apply(inverse, rhs, mid)


@inlined
def _middle_afresh_sparse(
    fill: Fill, matrix: Array, push: Array, capacity: Array, h: float, factors: Array, at: Array, rhs: Array, mid: Array
) -> None:  # fmt: skip
    """The same with sparse factors."""
    factor(fill, matrix, capacity, h / 2.0, factors)
    for i in range(np.uint64(capacity.shape[0])):
        rhs[i] = capacity[i] * at[i] + h / 2.0 * push[i]
    solve(fill, factors, rhs, mid)


@woven
def _boil_parts(law: Array, ends: Array, now: Array, parts: int) -> int:
    """Parts of this step: more where something is about to boil."""
    for k in range(np.uint64(law.shape[0])):
        if law[k] == 6 and BOIL_NEAR_K < now[ends[0, k]] - now[ends[1, k]] < BOIL_PAST_K:
            parts = max(parts, BOIL_PARTS)
    return parts


@woven
def _melt_parts(melting: Array, now: Array, parts: int) -> int:
    """Parts of this step: more where something is about to begin or end melting."""
    for r in range(melting.shape[0]):
        at = now[np.uint64(melting[r, 0])]
        if abs(at - melting[r, 3]) < MELT_NEAR_K or abs(at - melting[r, 4]) < MELT_NEAR_K:
            parts = max(parts, MELT_PARTS)
    return parts


@woven
def _enthalpy(fixed: float, mass: float, melting: Array, r: int, celsius: float) -> float:
    """J above 0 °C of a node with a fixed heat capacity and something in it that melts."""
    low, high = melting[r, 3], melting[r, 4]
    melted = min(max((celsius - low) / (high - low), 0.0), 1.0)
    return float((fixed + mass * melting[r, 1]) * celsius + mass * melting[r, 2] * melted)


@woven
def _of_enthalpy(fixed: float, mass: float, melting: Array, r: int, joules: float) -> float:
    """The temperature that belongs to an enthalpy, °C."""
    sensible, latent = fixed + mass * melting[r, 1], mass * melting[r, 2]
    low, high = melting[r, 3], melting[r, 4]
    if joules <= sensible * low:
        return float(joules / sensible)
    if joules >= sensible * high + latent:
        return float((joules - latent) / sensible)
    return float(low + (joules - sensible * low) / (sensible + latent / (high - low)))


@woven
def _secants(melting: Array, fixed: Array, mass: Array, now: Array, ahead: Array, capacity: Array) -> None:
    """Heat capacities of melting nodes over the step that leads from ``now`` through its middle ``ahead``."""
    for r in range(melting.shape[0]):
        i = np.uint64(melting[r, 0])
        rise = 2.0 * (ahead[i] - now[i])
        if abs(rise) < 1e-6:
            rise = 1e-6
        gain = _enthalpy(fixed[i], mass[r], melting, r, now[i] + rise)
        gain -= _enthalpy(fixed[i], mass[r], melting, r, now[i])
        capacity[i] = gain / rise


@woven
def _put_right(melting: Array, fixed: Array, mass: Array, before: Array, capacity: Array, now: Array) -> None:
    """Set melting nodes to the temperature of the enthalpy that they took up with frozen heat capacities."""
    for r in range(melting.shape[0]):
        i = np.uint64(melting[r, 0])
        joules = _enthalpy(fixed[i], mass[r], melting, r, before[i]) + capacity[i] * (now[i] - before[i])
        now[i] = _of_enthalpy(fixed[i], mass[r], melting, r, joules)


@woven
def _drip(melting: Array, fixed: Array, mass: Array, now: Array, h: float) -> None:
    """Move what has melted on to where it drips, with its enthalpy."""
    for r in range(melting.shape[0]):
        to = int(melting[r, 5])
        if to < 0 or mass[r] <= 0.0:
            continue
        i = np.uint64(melting[r, 0])
        melted = min(max((now[i] - melting[r, 3]) / (melting[r, 4] - melting[r, 3]), 0.0), 1.0)
        free = melted * mass[r] - melting[r, 7]
        if free <= 0.0:
            continue
        moved = free * (1.0 - np.exp(-melting[r, 6] * h))
        j = np.uint64(melting[to, 0])
        carried = moved * (melting[r, 1] * now[i] + melting[r, 2])
        here = _enthalpy(fixed[i], mass[r], melting, r, now[i]) - carried
        there = _enthalpy(fixed[j], mass[to], melting, to, now[j]) + carried
        mass[r] -= moved
        mass[to] += moved
        now[i] = _of_enthalpy(fixed[i], mass[r], melting, r, here)
        now[j] = _of_enthalpy(fixed[j], mass[to], melting, to, there)


@compiled
def march(  # noqa: C901  one loop over the steps; what it does stands in the functions above
    first_c: Array, capacity: Array, links: Links, paths: Array, outside: Outside, steps: Steps, melting: Melting,
    records: Records, room: Room, square: Array | None, sparse: Sparse | None, water: Water | None,
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
    paths : array, shape (paths, PATH_WIDTH)
        Flow paths as ``draught.path_row`` makes them.
    melting, records, room : Melting, Records, Room
        What melts (changed), what is written down (filled), and room to work in.
    square : array, shape (2, nodes, nodes), optional
        Room for a dense matrix and its inverse.
    sparse : Sparse, optional
        A sparse matrix instead.
    water : Water, optional
        What flows through pipes; with a sparse matrix only.
    """
    # taken out of their records once: each time one is named inside the loop, its references are counted
    law, ends, params, boils = links
    boundary_c, wind, vapour, pressure, speed, source_w = outside
    length_s, cut, record = steps
    rows, mass = melting
    temperature, energy, kept_kg, on, ran = records
    line, terms = room
    if square is not None:
        matrix, inverse = square[0], square[1]
    if sparse is not None:
        fill, numbers, factors = sparse.fill, sparse.numbers[0], sparse.numbers[1]
    now, mid, mean, heat_flow, source, varying, before, push, stage, rhs = (
        line[0], line[1], line[2], line[3], line[4], line[5], line[6], line[7], line[8], line[9],
    )  # fmt: skip
    count, bounds = np.uint64(first_c.shape[0]), np.uint64(boundary_c.shape[1])
    for i in range(count):
        temperature[0, i] = now[i] = mid[i] = first_c[i]
        varying[i] = capacity[i]
    for r in range(mass.shape[0]):
        kept_kg[0, r] = mass[r]
    if water is not None:
        write_held(water.lots, water.passed, 0)
    _secants(rows, capacity, mass, now, mid, varying)
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
        parts = _boil_parts(law, ends, now, cut[n]) if boils else cut[n]
        parts = _melt_parts(rows, now, parts)
        if _switch(paths, now, on):
            parts, steady = max(parts, SWITCH_PARTS), False
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
                    _half(matrix, push, varying, h / 2.0, inverse, mid, stage, rhs, mean, 0.0)
                if sparse is not None:
                    _half_sparse(fill, numbers, push, varying, h / 2.0, factors, mid, stage, rhs, mean, 0.0)
            else:
                _flows(paths, now, on, speed, n, pressure, heat_flow)
                if square is not None:
                    _assemble(now, law, ends, params, heat_flow, air, source, matrix, push, terms)
                    _middle_afresh(matrix, push, varying, h, inverse, now, rhs, mid)
                if water is not None:
                    lead_paths(water.streams, water.lots, paths, heat_flow)
                if sparse is not None:
                    _assemble_sparse(now, law, ends, params, heat_flow, air, source, fill, numbers, push, terms)
                    if water is not None:
                        add_streams(water.streams, water.lots, numbers, push)
                    _middle_afresh_sparse(fill, numbers, push, varying, h, factors, now, rhs, mid)
            _secants(rows, capacity, mass, now, mid, varying)
            _flows(paths, mid, on, speed, n, pressure, heat_flow)
            if square is not None:
                _assemble(mid, law, ends, params, heat_flow, air, source, matrix, push, terms)
                _invert(matrix, varying, GAMMA * h / 2.0, inverse)
            if water is not None:
                lead_paths(water.streams, water.lots, paths, heat_flow)
            if sparse is not None:
                _assemble_sparse(mid, law, ends, params, heat_flow, air, source, fill, numbers, push, terms)
                if water is not None:
                    add_streams(water.streams, water.lots, numbers, push)
                factor(fill, numbers, varying, GAMMA * h / 2.0, factors)
            last_h = h
            for i in range(count):
                mean[i] = 0.0
                before[i] = now[i]
            for _ in range(2):
                if square is not None:
                    _half(matrix, push, varying, h / 2.0, inverse, now, stage, rhs, mean, 0.5)
                if sparse is not None:
                    _half_sparse(fill, numbers, push, varying, h / 2.0, factors, now, stage, rhs, mean, 0.5)
            for f in range(paths.shape[0]):
                ran[kept, f] += on[f] * speed[n, f] * h
            for k in range(np.uint64(law.shape[0])):
                out, into = mean[ends[0, k]], mean[ends[1, k]]
                energy[kept, k] += (terms[k, 0] * out - terms[k, 1] * into + terms[k, 2]) * h
            if water is not None:
                flow_on(water.streams, water.lots, mean, h, gone_s, water.passed, int(kept))
            gone_s += h
            if mass.shape[0] > 0:
                _put_right(rows, capacity, mass, before, varying, now)
                _drip(rows, capacity, mass, now, h)
        for i in range(count):
            temperature[kept + np.uint64(1), i] = now[i]
        for r in range(mass.shape[0]):
            kept_kg[kept + np.uint64(1), r] = mass[r]
        if water is not None:
            write_held(water.lots, water.passed, int(kept) + 1)
