"""Alike networks side by side: one march for several designs whose links are the same and whose numbers differ.

Every number of the march is a row of as many as there are lanes, the innermost index, so that the compiler does them at once. Networks must be plain:
nothing melts, boils, flows or holds water, and each link pulls both ways alike. Steps, stages and order of elimination are those of ``march``; only cube roots are taken by iteration (to 3e-5).

References:
    Halley's iteration for cube roots, y (y³ + 2x) / (2y³ + x), twice from a root within two fifths: Press et al., Numerical Recipes, 9.4.
"""

from __future__ import annotations

import math
from typing import NamedTuple

import numpy as np

from drylamp.core.air.properties import conductivity_w_mk
from drylamp.core.arrays import Array
from drylamp.core.compiled import compiled, inlined, woven
from drylamp.core.heat.halves import GAMMA
from drylamp.core.heat.law import Law
from drylamp.core.heat.laws import PLATE_SWITCH, leak_w_k, radiation_w_k, rayleigh_number
from drylamp.core.heat.march import SUN_JUMP_SHARE, WIND_JUMP_M_S
from drylamp.core.heat.sparse import Fill

LANES = 50
"""Most designs at once: rows long enough that going down the lists costs little beside them, short enough to stay near the processor."""
LAWS = frozenset((Law.CONDUCTANCE, Law.RADIATION, Law.CAVITY, Law.WIND, Law.SURFACE, Law.LEAK))
"""What a link may do here."""
OF_KELVINS, OF_PLATES, OF_GAPS = 1.34, 4.95, 1.3
"""Middle of x^(1/12) where each law takes a cube root: of kelvins, of Rayleigh numbers over a plate, of those in a gap over 5830."""


class Lanes(NamedTuple):
    """Links, capacities and order of elimination of networks side by side: laws and ends are shared, shape (links, parameters, lanes) and (nodes, lanes)."""

    law: np.ndarray
    ends: np.ndarray
    params: Array
    capacity: Array
    fill: Fill


class LaneRoom(NamedTuple):
    """What goes on from one stretch of steps to the next; shapes (nodes and boundaries, lanes), (numbers, lanes), (links, lanes), (lanes,), and length and wind of the last step."""

    now: Array
    push: Array
    source: Array
    matrix: Array
    factors: Array
    terms: Array
    sun: Array
    last: Array


class LaneSteps(NamedTuple):
    """A stretch of steps: boundaries, wind, lengths, parts and records as in ``march``, the nodes that any sun reaches, and how much in each lane, shape (steps, lit nodes, lanes)."""

    boundary_c: Array
    wind: Array
    pressure: float
    length_s: Array
    parts: np.ndarray
    record: np.ndarray
    lit: np.ndarray
    source_w: Array


@inlined
def _cube_root(x: float, twelfth: float) -> float:
    """x^⅓ from x^¼ and about what x^(1/12) is."""
    y = math.sqrt(math.sqrt(x)) * twelfth
    for _ in range(2):
        cube = y * y * y
        y = y * (cube + 2.0 * x) / (2.0 * cube + x)
    return y


@inlined
def _level(area_m2: float, length_m: float, facing: float, start_c: float, end_c: float, pressure_pa: float) -> float:
    """``laws.surface_w_k`` of a level plate, with nothing left out by a branch."""
    rayleigh = rayleigh_number(start_c, end_c, length_m, pressure_pa)
    root = math.sqrt(math.sqrt(rayleigh))
    turbulent = 0.15 * _cube_root(max(rayleigh, PLATE_SWITCH), OF_PLATES)
    lively = 0.54 * root if rayleigh < PLATE_SWITCH else turbulent
    nusselt = lively if (start_c - end_c) * facing > 0.0 else 0.27 * root
    return area_m2 * max(nusselt, 1.0) * conductivity_w_mk((start_c + end_c) / 2.0) / length_m


@inlined
def _upright(area_m2: float, length_m: float, start_c: float, end_c: float, pressure_pa: float) -> float:
    """The same of an upright one."""
    nusselt = 0.68 + 0.515 * math.sqrt(math.sqrt(rayleigh_number(start_c, end_c, length_m, pressure_pa)))
    return area_m2 * max(nusselt, 1.0) * conductivity_w_mk((start_c + end_c) / 2.0) / length_m


@inlined
def _wind(area_m2: float, blown: float, start_c: float, end_c: float) -> float:
    """``laws.wind_w_k`` likewise."""
    apart = abs(start_c - end_c)
    calm = blown / 1.52
    still = 1.52 * _cube_root(max(apart, 1.0), OF_KELVINS)
    return area_m2 * (still if apart > calm * calm * calm else blown)


@inlined
def _cavity(
    area_m2: float, gap_m: float, cosine: float, hump: float, start_c: float, end_c: float, pressure_pa: float
) -> float:
    """An air layer as ``laws`` has it, likewise."""
    across = rayleigh_number(start_c, end_c, gap_m, pressure_pa) * cosine
    over = max(across, 1708.0)
    nusselt = 1.0 + 1.44 * max((1.0 - 1708.0 / over) * (1.0 - hump / over), 0.0)
    more = _cube_root(max(across / 5830.0, 1.0), OF_GAPS) - 1.0
    nusselt = nusselt + more if start_c > end_c else 1.0
    return area_m2 * nusselt * conductivity_w_mk((start_c + end_c) / 2.0) / gap_m


@woven
def _conductances(  # noqa: C901  one loop for each law
    law: int, params: Array, k: int, at: Array, i: int, j: int, wind_m_s: float, pressure_pa: float, terms: Array
) -> None:
    """A link's conductance in every lane."""
    width = np.uint64(terms.shape[1])
    if law == 1:
        for lane in range(width):
            terms[k, lane] = radiation_w_k(params[k, 0, lane], at[i, lane], at[j, lane])
    elif law == 4 and params[k, 2, 0] == 0.0:
        for lane in range(width):
            terms[k, lane] = _upright(params[k, 0, lane], params[k, 1, lane], at[i, lane], at[j, lane], pressure_pa)
    elif law == 4:
        for lane in range(width):
            terms[k, lane] = _level(
                params[k, 0, lane], params[k, 1, lane], params[k, 2, lane], at[i, lane], at[j, lane], pressure_pa
            )
    elif law == 0:
        for lane in range(width):
            terms[k, lane] = params[k, 0, lane]
    elif law == 3:
        for lane in range(width):
            terms[k, lane] = _wind(
                params[k, 0, lane], 2.8 + 3.0 * wind_m_s * (1.0 - params[k, 1, lane]), at[i, lane], at[j, lane]
            )
    elif law == 2:
        for lane in range(width):
            terms[k, lane] = _cavity(
                params[k, 0, lane],
                params[k, 1, lane],
                params[k, 2, lane],
                params[k, 3, lane],
                at[i, lane],
                at[j, lane],
                pressure_pa,
            )
    else:
        for lane in range(width):
            terms[k, lane] = leak_w_k(
                params[k, 0, lane], params[k, 1, lane], at[i, lane], at[j, lane], wind_m_s, pressure_pa
            )


@woven
def _pull(
    count: np.unsignedinteger,
    i: np.unsignedinteger,
    j: np.unsignedinteger,
    k: int,
    slots: np.ndarray,
    terms: Array,
    at: Array,
    matrix: Array,
    push: Array,
) -> None:
    """A link's conductance into A and b of every lane."""
    width = np.uint64(terms.shape[1])
    if i < count:
        here = slots[k, 0]
        for lane in range(width):
            matrix[here, lane] += terms[k, lane]
    if j < count:
        here = slots[k, 1]
        for lane in range(width):
            matrix[here, lane] += terms[k, lane]
    if i < count and j < count:
        right, below = slots[k, 2], slots[k, 3]
        for lane in range(width):
            matrix[right, lane] -= terms[k, lane]
        for lane in range(width):
            matrix[below, lane] -= terms[k, lane]
    elif i < count:
        for lane in range(width):
            push[i, lane] += terms[k, lane] * at[j, lane]
    elif j < count:
        for lane in range(width):
            push[j, lane] += terms[k, lane] * at[i, lane]


@woven
def _assemble(lanes: Lanes, at: Array, wind_m_s: float, pressure_pa: float, room: LaneRoom) -> None:
    """A and b of every lane from temperatures of nodes and boundaries."""
    law, ends, params, capacity, fill = lanes
    _, push, source, matrix, _, terms, _, _ = room
    count, width, slots = np.uint64(capacity.shape[0]), np.uint64(capacity.shape[1]), fill.slots
    for i in range(count):
        for lane in range(width):
            push[i, lane] = source[i, lane]
    for e in range(np.uint64(matrix.shape[0])):
        for lane in range(width):
            matrix[e, lane] = 0.0
    for k in range(np.uint64(law.shape[0])):
        i, j = ends[0, k], ends[1, k]
        _conductances(law[k], params, k, at, i, j, wind_m_s, pressure_pa, terms)
        _pull(count, i, j, k, slots, terms, at, matrix, push)


@woven
def _factor(fill: Fill, matrix: Array, capacity: Array, scale: float, factors: Array) -> None:
    """``sparse.factor`` in every lane."""
    width = np.uint64(capacity.shape[1])
    pivots, first, beside, target, _ = fill
    count, entries = np.uint64(pivots.shape[0]), np.uint64(beside.shape[0])
    for e in range(np.uint64(factors.shape[0])):
        for lane in range(width):
            factors[e, lane] = scale * matrix[e, lane]
    for i in range(count):
        for lane in range(width):
            factors[i, lane] += capacity[i, lane]
    at = np.uint64(0)
    for k in range(count):
        p = pivots[k]
        for lane in range(width):
            factors[p, lane] = 1.0 / factors[p, lane]
        for e in range(first[k], first[k + np.uint64(1)]):
            below = count + entries + e
            for lane in range(width):
                factors[below, lane] *= factors[p, lane]
            for f in range(first[k], first[k + np.uint64(1)]):
                here, right = target[at], count + f
                for lane in range(width):
                    factors[here, lane] -= factors[below, lane] * factors[right, lane]
                at += np.uint64(1)


@woven
def _solve(fill: Fill, factors: Array, rhs: Array, out: Array) -> None:
    """``sparse.solve`` in every lane."""
    width = np.uint64(out.shape[1])
    pivots, first, beside, _, _ = fill
    count, entries = np.uint64(pivots.shape[0]), np.uint64(beside.shape[0])
    for i in range(count):
        for lane in range(width):
            out[i, lane] = rhs[i, lane]
    for k in range(count):
        p = pivots[k]
        for e in range(first[k], first[k + np.uint64(1)]):
            j, below = beside[e], count + entries + e
            for lane in range(width):
                out[j, lane] -= factors[below, lane] * out[p, lane]
    for k in range(count):
        back = count - np.uint64(1) - k
        p = pivots[back]
        for e in range(first[back], first[back + np.uint64(1)]):
            j, right = beside[e], count + e
            for lane in range(width):
                out[p, lane] -= factors[right, lane] * out[j, lane]
        for lane in range(width):
            out[p, lane] *= factors[p, lane]


@woven
def _less_product(fill: Fill, matrix: Array, by: Array, out: Array) -> None:
    """``sparse.less_product`` in every lane."""
    width = np.uint64(out.shape[1])
    pivots, first, beside, _, _ = fill
    count, entries = np.uint64(pivots.shape[0]), np.uint64(beside.shape[0])
    for k in range(count):
        i = pivots[k]
        for lane in range(width):
            out[i, lane] -= matrix[i, lane] * by[i, lane]
        for e in range(first[k], first[k + np.uint64(1)]):
            j, right, below = beside[e], count + e, count + entries + e
            for lane in range(width):
                out[i, lane] -= matrix[right, lane] * by[j, lane]
            for lane in range(width):
                out[j, lane] -= matrix[below, lane] * by[i, lane]


@woven
def _half(
    lanes: Lanes, room: LaneRoom, h: float, at: Array, stage: Array, rhs: Array, mean: Array, share: float
) -> None:
    """``halves.half_sparse`` in every lane."""
    capacity, fill = lanes.capacity, lanes.fill
    push, matrix, factors = room.push, room.matrix, room.factors
    count, width = np.uint64(capacity.shape[0]), np.uint64(capacity.shape[1])
    for i in range(count):
        for lane in range(width):
            rhs[i, lane] = capacity[i, lane] * at[i, lane] + GAMMA * h * push[i, lane]
    _solve(fill, factors, rhs, stage)
    for i in range(count):
        for lane in range(width):
            mean[i, lane] += share * (1.0 - GAMMA) * stage[i, lane]
            rhs[i, lane] = push[i, lane]
    _less_product(fill, matrix, stage, rhs)
    for i in range(count):
        for lane in range(width):
            rhs[i, lane] = (
                capacity[i, lane] * at[i, lane] + (1.0 - GAMMA) * h * rhs[i, lane] + GAMMA * h * push[i, lane]
            )
    _solve(fill, factors, rhs, at)
    for i in range(count):
        for lane in range(width):
            mean[i, lane] += share * GAMMA * at[i, lane]


@woven
def _sun(lit: np.ndarray, source_w: Array, n: int, room: LaneRoom, total: Array) -> float:
    """Take a step's sun in; tells in how many lanes it jumps, and in which in the second row of ``total``."""
    push, source, last = room.push, room.source, room.sun
    width = np.uint64(last.shape[0])
    for lane in range(width):
        total[0, lane] = 0.0
    for s in range(np.uint64(lit.shape[0])):
        i = lit[s]
        for lane in range(width):
            total[0, lane] += source_w[n, s, lane]
            push[i, lane] += source_w[n, s, lane] - source[i, lane]
            source[i, lane] = source_w[n, s, lane]
    jumps = 0.0
    for lane in range(width):
        total[1, lane] = (
            1.0 if abs(total[0, lane] - last[lane]) > SUN_JUMP_SHARE * max(total[0, lane], last[lane]) else 0.0
        )
        jumps += total[1, lane]
        last[lane] = total[0, lane]
    return float(jumps)


@compiled
def march_lanes(  # noqa: C901  one loop over the steps; what it does stands in the functions above
    lanes: Lanes, steps: LaneSteps, room: LaneRoom, work: Array, temperature: Array, energy: Array
) -> None:
    """Advance all lanes over a stretch of steps.

    Parameters
    ----------
    lanes, steps, room : Lanes, LaneSteps, LaneRoom
        The networks, what they are exposed to, and how they stand (changed).
    work : array, shape (6, nodes + boundaries, lanes)
        Room to work in.
    temperature, energy : arrays, shapes (records + 1, nodes, lanes) and (records, links, lanes)
        What is written down, °C and J.
    """
    mid, mean, stage, rhs, before, sun = work[0], work[1], work[2], work[3], work[4], work[5]
    now, push, terms, capacity, ends = room.now, room.push, room.terms, lanes.capacity, lanes.ends
    count, bounds, width = (
        np.uint64(capacity.shape[0]),
        np.uint64(steps.boundary_c.shape[1]),
        np.uint64(capacity.shape[1]),
    )
    for n in range(np.uint64(steps.wind.shape[0])):
        kept, wind = np.uint64(steps.record[n]), steps.wind[n]
        jumps = _sun(steps.lit, steps.source_w, n, room, sun)
        calm = abs(wind - room.last[1]) <= WIND_JUMP_M_S
        room.last[1] = wind
        for b in range(bounds):
            for lane in range(width):
                now[count + b, lane] = steps.boundary_c[n, b]
                mid[count + b, lane] = steps.boundary_c[n, b]
                mean[count + b, lane] = steps.boundary_c[n, b]
        h = steps.length_s[n] / steps.parts[n]
        for part in range(steps.parts[n]):
            goes_on = h == room.last[0] and (calm or part > 0)
            some = goes_on and (part > 0 or jumps < width)
            if some:
                for i in range(count):
                    for lane in range(width):
                        mid[i, lane] = now[i, lane]
                _half(lanes, room, h / 2.0, mid, stage, rhs, mean, 0.0)
            if not some or (part == 0 and jumps > 0):
                for i in range(count):
                    for lane in range(width):
                        before[i, lane] = mid[i, lane]
                _assemble(lanes, now, wind, steps.pressure, room)
                _factor(lanes.fill, room.matrix, capacity, h / 2.0, room.factors)
                for i in range(count):
                    for lane in range(width):
                        rhs[i, lane] = capacity[i, lane] * now[i, lane] + h / 2.0 * push[i, lane]
                _solve(lanes.fill, room.factors, rhs, mid)
                if some:
                    for i in range(count):
                        for lane in range(width):
                            mid[i, lane] = mid[i, lane] if sun[1, lane] > 0.0 else before[i, lane]
            _assemble(lanes, mid, wind, steps.pressure, room)
            _factor(lanes.fill, room.matrix, capacity, GAMMA * h / 2.0, room.factors)
            room.last[0] = h
            for i in range(count):
                for lane in range(width):
                    mean[i, lane] = 0.0
            for _ in range(2):
                _half(lanes, room, h / 2.0, now, stage, rhs, mean, 0.5)
            for k in range(np.uint64(lanes.law.shape[0])):
                i, j = ends[0, k], ends[1, k]
                for lane in range(width):
                    energy[kept, k, lane] += terms[k, lane] * (mean[i, lane] - mean[j, lane]) * h
        for i in range(count):
            for lane in range(width):
                temperature[kept + np.uint64(1), i, lane] = now[i, lane]
