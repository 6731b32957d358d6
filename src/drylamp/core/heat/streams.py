"""Water that flows through a pipe: no node, but a queue of lots that are pushed along and warm towards the wall beside them.

The pipe's wall is cut into *pieces*, each a node of the network. The water in it is a queue of *lots*, each with a mass and a
temperature. In a step every lot moves by exactly flow × time; beside each piece that it passes it goes exponentially towards
that piece's temperature, for the time that it is there. So a front stays sharp, a pipe that is flushed many times within a step
gives the steady exponential, and standing water warms where it lies: one rule for all three.

With the walls at their means over the step, what each piece gives is linear in their temperatures and that of the water that comes in::

    Q_k = Σ_{j ≤ k} G_kj T_j − E_k T_in − P_k

G, E and P go into the matrix of the step; afterwards the lots are moved with the walls' real means, so that what the water took is
what the walls gave, and the ledger closes to rounding.

A stream may go *round*: out of a node of a store and into one, by a pump or because warm water is light (``siphon``). What it brings there is
linear in the same temperatures. Pieces are counted along the way that the water goes; where it turns round, so does the queue.

References:
    Plug flow along its characteristics (Courant & Hilbert 1962, vol. II): each lot is an ordinary differential equation in time.
    Film by ``water.pipe_film_w_m2k``; through the wall of a hose by the logarithm of its radii.
"""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from typing import NamedTuple

import numpy as np

from drylamp.core.air.constants import CP_WATER_J_KGK
from drylamp.core.arrays import Array
from drylamp.core.compiled import inlined
from drylamp.core.heat.pipes import MOST_PIECES, Stream
from drylamp.core.heat.water import pipe_film_w_m2k

MOST_LOTS = 160
"""Lots that a pipe holds at most; beyond it the two lightest neighbours become one."""
LOTS_ALONG, LOTS_ROUND = 15, 4
"""Lots of what fills a pipe within a step: of one that is drawn from, and of a loop, at whose end nobody waits for a front."""
LEAST_KG = 1e-12
"""Less than this is nothing."""
ALIKE_K = 0.02
"""Neighbours that stand beside one piece of wall, this near in warmth, become one lot: their heat is kept, a front long gone is not."""
LOG_WIDTH = 4
"""What is written of every lot that leaves: stream, seconds since the start, kilograms, °C."""
MAKE_WIDTH = 11
INLET, OUTLET, PATH, BACK, SIPHONS, ZETA, SECTION, SECTIONS_END, COLUMN, COLUMN_END, WHOLE = range(MAKE_WIDTH)
"""Numbers of a stream's row in ``Streams.make``."""
ROOM = ("gain", "begun", "pull", "out", "brought", "reach", "ease", "through", "held")
"""Fields of ``Streams`` that the march works in."""


class Streams(NamedTuple):
    """Streams of a network as arrays, P pieces in all.

    Attributes:
        first: number of the first piece of each stream and last of all their end, shape (streams + 1,)
        wall: node of each piece, shape (P,)
        water: kilograms in each piece, shape (P,)
        skin: inner area, m², resistance of the wall, K/W, bore, m, and number of tubes of each piece, shape (P, 4)
        rise: how much higher each piece ends than it begins, m, shape (P,)
        make: nodes or boundaries at inlet and outlet, paths forward and back (−1 none), whether it siphons, heads of velocity lost in
            fittings, first and end of its rows in ``sections`` and ``column``, kilograms in all, shape (streams, MAKE_WIDTH)
        sections: bore, number of tubes, length of what has one bore, shape (sections, 3)
        column: node of the store and rise along it, shape (columns, 2)
        slots: where each piece of its stream pulls on each piece in the matrix, shape (P, MOST_PIECES)
        ends: of streams that go round, where the inlet's node pulls on each piece and each piece on it, and the same for the outlet's, shape (P, 4)
        across: where the inlet's node pulls on the outlet's, and the outlet's on the inlet's, shape (streams, 2)
        gain, begun, pull: G, E and P of the step, W/K and W, by piece along the way of the water, shape (P, most pieces of one stream), (P,), (P,)
        out: what comes out of a stream, W/K by piece along its way, shape (P,)
        brought: what comes out by its inlet's warmth, W/K, and by what was in it, W, shape (streams, 2)
        reach: room for the share that each wall has in a lot, shape (MOST_PIECES,)
        ease: of the step, how fast the water in each piece goes towards its wall, 1/s; while it stands, the share that is left, shape (P,)
        through: of the step, share that is left of what goes all through a piece, shape (P,)
        held: room for the mean warmth of the water in each piece, shape (P,)
    """

    first: np.ndarray
    wall: np.ndarray
    water: Array
    skin: Array
    rise: Array
    make: Array
    sections: Array
    column: Array
    slots: np.ndarray
    ends: np.ndarray
    across: np.ndarray
    gain: Array
    begun: Array
    pull: Array
    out: Array
    brought: Array
    reach: Array
    ease: Array
    through: Array
    held: Array


class Lots(NamedTuple):
    """The water in the streams, foremost lot first (changed by the march).

    Attributes:
        held: how many, shape (streams,)
        kg, celsius: shape (streams, MOST_LOTS)
        fresh: room for the queue as it is made anew: kilograms and °C, shape (2, MOST_LOTS)
        flow: of the step, kg/s, below nothing where it runs backwards, shape (streams,)
        way: 1 where it last ran forward, −1 where backwards, shape (streams,)
        alone: whether it moved by its own weight, shape (streams,)
    """

    held: np.ndarray
    kg: Array
    celsius: Array
    fresh: Array
    flow: Array
    way: np.ndarray
    alone: np.ndarray


class Passed(NamedTuple):
    """What passed through the streams (filled by the march).

    Attributes:
        in_j, out_j: heat above 0 °C that came in and went out, shape (records, streams)
        out_kg: shape (records, streams)
        back_kg: how much of that went backwards, shape (records, streams)
        held_j: heat in the pipes at the edges of the records, shape (records + 1, streams)
        log: a row for every lot that left for good, shape (rows, LOG_WIDTH); what no longer fits is not written
        logged: rows written, shape (1,)
    """

    in_j: Array
    out_j: Array
    out_kg: Array
    back_kg: Array
    held_j: Array
    log: Array
    logged: np.ndarray


def compiled_streams(
    streams: Sequence[Stream], index: Mapping[str, int], paths: Mapping[str, int], slots: np.ndarray, ends: np.ndarray, across: np.ndarray
) -> Streams:  # fmt: skip
    """Streams as the marcher wants them; ``paths`` numbers flow paths, the last three as they stand in ``Streams``."""
    pieces = [(stream.tube_of(piece), piece) for stream in streams for piece in stream.pieces]
    skin = [
        (
            math.pi * t.bore_m * p.length_m * t.tubes,
            math.log(1.0 + 2.0 * t.wall_m / t.bore_m) / (2.0 * math.pi * t.wall_w_mk * p.length_m * t.tubes),
            t.bore_m,
            t.tubes,
        )
        for t, p in pieces
    ]
    make, sections, column = np.zeros((len(streams), MAKE_WIDTH)), list[tuple[float, ...]](), list[tuple[float, ...]]()
    for row, stream in zip(make, streams, strict=True):
        goes, bores = stream.round, _sections(stream)
        rises = () if goes is None else goes.column
        row[INLET], row[OUTLET], row[PATH], row[BACK], row[WHOLE] = index[stream.inlet], -1, -1, -1, stream.water_kg
        row[SECTION], row[SECTIONS_END] = len(sections), len(sections) + len(bores)
        row[COLUMN], row[COLUMN_END] = len(column), len(column) + len(rises)
        if goes is not None:
            row[OUTLET], row[PATH], row[BACK] = index[goes.outlet], paths[goes.path], paths.get(goes.back, -1)
            row[SIPHONS], row[ZETA] = float(goes.siphons), goes.zeta
        sections += bores
        column += [(float(index[node]), rise) for node, rise in rises]
    count = len(pieces)
    return Streams(
        first=np.cumsum([0, *(len(s.pieces) for s in streams)]).astype(np.int64),
        wall=np.array([index[p.node] for _, p in pieces], dtype=np.uint64),
        water=np.array([stream.kilograms(piece) for stream in streams for piece in stream.pieces]),
        skin=np.array(skin).reshape(count, 4),
        rise=np.array([piece.rise_m for _, piece in pieces]),
        make=make,
        sections=np.array(sections).reshape(len(sections), 3),
        column=np.array(column).reshape(len(column), 2),
        slots=slots,
        ends=ends,
        across=across,
        gain=np.zeros((count, max((len(s.pieces) for s in streams), default=0))),
        begun=np.zeros(count),
        pull=np.zeros(count),
        out=np.zeros(count),
        brought=np.zeros((len(streams), 2)),
        reach=np.zeros(MOST_PIECES),
        ease=np.zeros(count),
        through=np.zeros(count),
        held=np.zeros(count),
    )


def with_own_room(streams: Streams) -> Streams:
    """The same with room of its own to work in: a network may be marched by two threads at once."""
    return streams._replace(**{name: np.zeros_like(getattr(streams, name)) for name in ROOM})


def _sections(stream: Stream) -> list[tuple[float, ...]]:
    """Bore, number of tubes and length of what has one bore."""
    metres: dict[tuple[float, int], float] = {}
    for piece in stream.pieces:
        tube = stream.tube_of(piece)
        metres[tube.bore_m, tube.tubes] = metres.get((tube.bore_m, tube.tubes), 0.0) + piece.length_m
    return [(bore, float(tubes), length) for (bore, tubes), length in metres.items()]


def filled(streams: Sequence[Stream], celsius: Mapping[str, Array]) -> Lots:
    """Lots as the pipes begin: by stream, one temperature for each of its pieces, from the inlet on."""
    lots = Lots(
        np.zeros(len(streams), dtype=np.int64), np.zeros((len(streams), MOST_LOTS)), np.zeros((len(streams), MOST_LOTS)),
        np.zeros((2, MOST_LOTS)), np.zeros(len(streams)), np.ones(len(streams), dtype=np.int64), np.zeros(len(streams), dtype=np.bool_),
    )  # fmt: skip
    for s, stream in enumerate(streams):
        for k, piece in enumerate(reversed(stream.pieces)):
            lots.kg[s, k] = stream.kilograms(piece)
            lots.celsius[s, k] = celsius[stream.name][len(stream.pieces) - 1 - k]
        lots.held[s] = len(stream.pieces)
    return lots


@inlined
def _rate(streams: Streams, p: int, film: float) -> float:
    """How fast the water in a piece goes towards its wall, 1/s."""
    skin = streams.skin
    return 1.0 / float((1.0 / (film * skin[p, 0]) + skin[p, 1]) * streams.water[p] * CP_WATER_J_KGK)


@inlined
def _ease(streams: Streams, s: int, flow: float, h: float, celsius: float) -> None:
    """How fast the water of a stream, this warm on the mean, goes towards its walls in a step: the same when it is moved on."""
    bore = film = 0.0
    for p in range(streams.first[s], streams.first[s + 1]):
        if streams.skin[p, 2] != bore:
            bore = streams.skin[p, 2]
            film = pipe_film_w_m2k(flow / streams.skin[p, 3], bore, celsius)
        rate = _rate(streams, p, film)
        streams.ease[p] = rate if flow > 0.0 else math.exp(-rate * h)
        if flow > 0.0:
            streams.through[p] = math.exp(-rate * streams.water[p] / flow)


@inlined
def _warmth(lots: Lots, s: int) -> float:
    """Kilograms times °C of what a stream holds."""
    total = 0.0
    for q in range(lots.held[s]):
        total += lots.kg[s, q] * lots.celsius[s, q]
    return total


@inlined
def piece_at(streams: Streams, s: int, way: int, r: int) -> int:
    """Number of the piece at a place along the way of the water."""
    return int(streams.first[s] + r if way > 0 else streams.first[s + 1] - 1 - r)


@inlined
def _walk(
    streams: Streams, s: int, way: int, kg: float, begin: float, end: float, flow: float, h: float, celsius: float, of_inlet: float,
    walls: Array, linear: bool, leaves: bool,
) -> float:  # fmt: skip
    """One lot along its way, from ``begin`` to ``end`` in kilograms behind the inlet.

    ``linear``: adds its part to G, E and P, and to what comes out if it leaves, its own temperature left open in the walls' and, by the
    share ``of_inlet``, in the inlet's; else the temperature that it comes to.
    """
    first, count = streams.first[s], streams.first[s + 1] - streams.first[s]
    reach, at, low, passed, row = streams.reach, celsius, 0.0, 0, 0
    for r in range(count):
        p = piece_at(streams, s, way, r)
        high = low + streams.water[p]
        within = streams.water[p] if begin <= low and end >= high else min(end, high) - max(begin, low)
        low = high
        if within <= 0.0:
            continue
        left = streams.through[p] if within == streams.water[p] else math.exp(-streams.ease[p] * within / flow)
        if linear:
            watts_k = kg * CP_WATER_J_KGK * (1.0 - left) / h
            streams.gain[first + r, r] += watts_k
            streams.pull[first + r] += watts_k * at
            streams.begun[first + r] += watts_k * of_inlet
            for j in range(r - passed, r):
                streams.gain[first + r, j] -= watts_k * reach[j]
                reach[j] *= left
            reach[r] = 1.0 - left
            passed += 1
            row = r
            at *= left
            of_inlet *= left
        else:
            at = left * at + (1.0 - left) * walls[streams.wall[p]]
    if linear and leaves:
        watts_k = kg * CP_WATER_J_KGK / h
        streams.brought[s, 0] += watts_k * of_inlet
        streams.brought[s, 1] += watts_k * at
        for j in range(row + 1 - passed, row + 1):
            streams.out[first + j] += watts_k * reach[j]
    return at


@inlined
def _stand(streams: Streams, lots: Lots, s: int, h: float, walls: Array, linear: bool) -> int:
    """Lots of water that stands, the foremost first, cut where one piece ends and the next begins. Returns how many there are then."""
    kg, fresh, first, way = lots.kg, lots.fresh, streams.first[s], lots.way[s]
    r = beside = streams.first[s + 1] - first - 1
    p = piece_at(streams, s, way, r)
    room, made = streams.water[p], 0
    for q in range(lots.held[s]):
        mass = kg[s, q]
        while mass > LEAST_KG:
            part, at = mass if r == 0 else min(mass, room), lots.celsius[s, q]
            left = streams.ease[p]
            if linear:
                watts_k = part * CP_WATER_J_KGK * (1.0 - left) / h
                streams.gain[first + r, r] += watts_k
                streams.pull[first + r] += watts_k * at
            else:
                at = left * at + (1.0 - left) * walls[streams.wall[p]]
                if made > 0 and beside == r and abs(fresh[1, made - 1] - at) < ALIKE_K:
                    together = fresh[0, made - 1] + part
                    fresh[1, made - 1] = (fresh[0, made - 1] * fresh[1, made - 1] + part * at) / together
                    fresh[0, made - 1] = together
                else:
                    if made >= MOST_LOTS - 1:
                        made = _fewer(fresh, made)
                    fresh[0, made], fresh[1, made] = part, at
                    made += 1
                beside = r
            mass -= part
            room -= part
            if room <= LEAST_KG and r > 0:
                r -= 1
                p = piece_at(streams, s, way, r)
                room = streams.water[p]
    return made


@inlined
def _pass(
    streams: Streams, lots: Lots, s: int, h: float, begun_s: float, at: Array, linear: bool, passed: Passed, kept: int
) -> None:  # fmt: skip
    """Every lot of a stream along its way in a step of h seconds: into G, E and P, or on, with what leaves written down."""
    whole, flow, way = streams.make[s, WHOLE], abs(lots.flow[s]), lots.way[s]
    goes_round = streams.make[s, OUTLET] >= 0.0
    inlet_c = at[np.uint64(streams.make[s, INLET if way > 0 else OUTLET])]
    of_inlet = 0.0
    if linear:
        _ease(streams, s, flow, h, _warmth(lots, s) / whole)
        if goes_round:
            inlet_c, of_inlet = 0.0, 1.0
    if flow > 0.0:
        made = _on(streams, lots, s, flow, h, begun_s, at, linear, passed, kept)
    else:
        made = _stand(streams, lots, s, h, at, linear)
    over = flow * h - whole
    if over > LEAST_KG:  # comes in and goes right through
        through = _walk(streams, s, way, over, 0.0, whole, flow, h, inlet_c, of_inlet, at, linear, True)
        if not linear:
            _write(passed, s, kept, begun_s + (h + whole / flow) / 2.0, over, through, goes_round)
    made = _in(streams, lots, s, made, flow, h, inlet_c, of_inlet, at, linear)
    if not linear:
        passed.in_j[kept, s] += flow * h * CP_WATER_J_KGK * inlet_c
        if way < 0:
            passed.back_kg[kept, s] += flow * h
        for q in range(made):
            lots.kg[s, q], lots.celsius[s, q] = lots.fresh[0, q], lots.fresh[1, q]
        lots.held[s] = made


@inlined
def _on(
    streams: Streams, lots: Lots, s: int, flow: float, h: float, begun_s: float, walls: Array, linear: bool, passed: Passed, kept: int
) -> int:  # fmt: skip
    """Lots that were inside, foremost first; one that is half out is cut in two. Returns how many stay."""
    kg, celsius, comes, whole, way = lots.kg, lots.celsius, flow * h, streams.make[s, WHOLE], lots.way[s]
    made, place = 0, whole
    for q in range(lots.held[s]):
        back = place - kg[s, q]
        leaves = min(max(place + comes - whole, 0.0), kg[s, q])
        stays = kg[s, q] - leaves
        if leaves > LEAST_KG:
            middle = place - leaves / 2.0
            at = _walk(streams, s, way, leaves, middle, whole, flow, h, celsius[s, q], 0.0, walls, linear, True)
            if not linear:
                when_s = begun_s + (whole - middle) / flow
                _write(passed, s, kept, when_s, leaves, at, streams.make[s, OUTLET] >= 0.0)
        if stays > LEAST_KG:
            middle = back + stays / 2.0
            at = _walk(
                streams, s, way, stays, middle, middle + comes, flow, h, celsius[s, q], 0.0, walls, linear, False
            )
            lots.fresh[0, made], lots.fresh[1, made] = stays, at
            made += 1
        place = back
    return made


@inlined
def _in(
    streams: Streams, lots: Lots, s: int, made: int, flow: float, h: float, inlet_c: float, of_inlet: float, walls: Array, linear: bool
) -> int:  # fmt: skip
    """What comes in and stays, the foremost first. Returns how many lots there are then."""
    whole = streams.make[s, WHOLE]
    enters = min(flow * h, whole)
    if enters <= LEAST_KG:
        return made
    fine = LOTS_ALONG if streams.make[s, OUTLET] < 0.0 else LOTS_ROUND
    parts = math.ceil(fine * enters / whole - 1e-9)
    share = enters / parts
    for part in range(parts):
        if not linear and made >= MOST_LOTS - 1:
            made = _fewer(lots.fresh, made)
        end = enters - (part + 0.5) * share
        at = _walk(streams, s, lots.way[s], share, 0.0, end, flow, h, inlet_c, of_inlet, walls, linear, False)
        if not linear:
            lots.fresh[0, made], lots.fresh[1, made] = share, at
            made += 1
    return made


@inlined
def _write(passed: Passed, s: int, kept: int, when_s: float, kg: float, celsius: float, goes_round: bool) -> None:
    """Write down a lot that left."""
    passed.out_kg[kept, s] += kg
    passed.out_j[kept, s] += kg * CP_WATER_J_KGK * celsius
    row = passed.logged[0]
    if row < passed.log.shape[0] and not goes_round:
        passed.log[row, 0], passed.log[row, 1], passed.log[row, 2], passed.log[row, 3] = s, when_s, kg, celsius
        passed.logged[0] = row + 1


@inlined
def _fewer(fresh: Array, made: int) -> int:
    """The two neighbours that are lightest together become one lot."""
    best, least = 0, fresh[0, 0] + fresh[0, 1]
    for q in range(1, made - 1):
        together = fresh[0, q] + fresh[0, q + 1]
        if together < least:
            best, least = q, together
    fresh[1, best] = (fresh[0, best] * fresh[1, best] + fresh[0, best + 1] * fresh[1, best + 1]) / least
    fresh[0, best] = least
    for q in range(best + 1, made - 1):
        fresh[0, q], fresh[1, q] = fresh[0, q + 1], fresh[1, q + 1]
    return made - 1


@inlined
def couple(streams: Streams, lots: Lots, at: Array, h: float, passed: Passed) -> None:
    """G, E and P of all streams for a step of h seconds; ``at`` holds the temperatures of nodes and boundaries at its beginning."""
    for p in range(streams.pull.shape[0]):
        streams.pull[p] = streams.begun[p] = streams.out[p] = 0.0
        for j in range(streams.gain.shape[1]):
            streams.gain[p, j] = 0.0
    for s in range(lots.flow.shape[0]):
        streams.brought[s, 0] = streams.brought[s, 1] = 0.0
        _pass(streams, lots, s, h, 0.0, at, True, passed, 0)


@inlined
def add_streams(streams: Streams, lots: Lots, matrix: Array, push: Array) -> None:
    """What the water in the pipes takes from their walls, out of the store and into it, into the numbers of a sparse matrix."""
    for s in range(lots.flow.shape[0]):
        first, way, make = streams.first[s], lots.way[s], streams.make
        carries = abs(lots.flow[s]) * CP_WATER_J_KGK
        moves = carries > 0.0 and make[s, OUTLET] >= 0.0
        come, go = (0, 2) if way > 0 else (2, 0)
        for r in range(streams.first[s + 1] - first):
            p = piece_at(streams, s, way, r)
            push[streams.wall[p]] += streams.pull[first + r]
            if carries == 0.0:
                matrix[streams.slots[p, p - first]] += streams.gain[first + r, r]
                continue
            for j in range(r + 1):
                other = piece_at(streams, s, way, j) - first
                matrix[streams.slots[p, other]] += streams.gain[first + r, j]
            if moves:
                matrix[streams.ends[p, come]] -= streams.begun[first + r]
                matrix[streams.ends[p, go + 1]] -= streams.out[first + r]
        if moves:
            into, outof = (
                np.uint64(make[s, OUTLET if way > 0 else INLET]),
                np.uint64(make[s, INLET if way > 0 else OUTLET]),
            )
            push[into] += streams.brought[s, 1]
            matrix[streams.across[s, 0 if way > 0 else 1]] -= streams.brought[s, 0]
            matrix[outof] += carries


@inlined
def flow_on(streams: Streams, lots: Lots, mean: Array, h: float, begun_s: float, passed: Passed, kept: int) -> None:
    """Move the water on through a step of h seconds with walls and store at their means."""
    for s in range(lots.flow.shape[0]):
        _pass(streams, lots, s, h, begun_s, mean, False, passed, kept)


@inlined
def write_held(lots: Lots, passed: Passed, edge: int) -> None:
    """Heat in the pipes at an edge of the records."""
    for s in range(lots.held.shape[0]):
        passed.held_j[edge, s] = _warmth(lots, s) * CP_WATER_J_KGK
