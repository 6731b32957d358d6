"""Water that flows through a pipe: no node, but a queue of lots that are pushed along and warm towards the wall beside them.

The pipe's wall is cut into *pieces*, each a node of the network. The water in it is a queue of *lots*, each with a mass and a
temperature. In a step every lot moves by exactly flow × time; beside each piece that it passes it goes exponentially towards
that piece's temperature, for the time that it is there. So a front stays sharp, a pipe that is flushed many times within a step
gives the steady exponential, and standing water warms where it lies: one rule for all three.

With the walls at their means over the step, what each piece gives is linear in their temperatures::

    Q_k = Σ_{j ≤ k} G_kj T_j − P_k

G and P go into the matrix of the step; afterwards the lots are moved with the walls' real means, so that what the water took is
what the walls gave, and the ledger closes to rounding.

References:
    Plug flow along its characteristics (Courant & Hilbert 1962, vol. II): each lot is an ordinary differential equation in time.
    Film by ``water.pipe_film_w_m2k``; through the wall of a hose by the logarithm of its radii.
"""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import NamedTuple

import numpy as np

from drylamp.core.air.constants import CP_WATER_J_KGK
from drylamp.core.arrays import Array
from drylamp.core.checks import require
from drylamp.core.compiled import inlined
from drylamp.core.heat.parts import Role
from drylamp.core.heat.water import pipe_film_w_m2k

MOST_LOTS = 160
"""Lots that a pipe holds at most; beyond it the two lightest neighbours become one."""
LOTS_ALONG = 15
"""Lots of what fills a pipe within a step."""
LEAST_KG = 1e-12
"""Less than this is nothing."""
ALIKE_K = 0.02
"""Neighbours that stand beside one piece of wall, this near in warmth, become one lot: their heat is kept, a front long gone is not."""
MOST_PIECES = 40
LOG_WIDTH = 4
"""What is written of every lot that leaves: stream, seconds since the start, kilograms, °C."""


@dataclass(frozen=True)
class Piece:
    """A piece of a pipe's wall: its node, and its length in metres."""

    node: str
    length_m: float


@dataclass(frozen=True)
class Stream:
    """A pipe with water in it.

    Attributes:
        name: for flows and records
        pieces: of its wall, from the inlet on; their nodes stand for the outer face and hold the wall's heat
        bore_m, wall_m, wall_w_mk: inside diameter, thickness of the wall, its conductivity
        inlet: the boundary or node that the water comes from
        account: of the ledger, for what it carries off
        role: what the water in it is there for
        tubes: how many run side by side, each of this length, sharing the flow evenly
        title: in plain words
    """

    name: str
    pieces: tuple[Piece, ...]
    bore_m: float
    wall_m: float
    wall_w_mk: float
    inlet: str
    tubes: int = 1
    title: str = ""
    account: str = ""
    role: Role = "vessel"

    def __post_init__(self) -> None:
        """Refuse a pipe without a bore, a length or a wall that conducts."""
        where = f"stream.{self.name}"
        require(
            1 <= len(self.pieces) <= MOST_PIECES,
            where,
            f"{len(self.pieces)} pieces were given; allowed are 1 to {MOST_PIECES}",
        )
        require(all(piece.length_m > 0 for piece in self.pieces), where, "every piece needs a length above 0")
        require(self.bore_m > 0, where, f"a bore of {self.bore_m:g} m was given; allowed is above 0")
        require(
            self.wall_m >= 0 and self.wall_w_mk > 0,
            where,
            "its wall needs a thickness of 0 or more and a conductivity above 0",
        )
        require(self.tubes >= 1, where, f"{self.tubes} tubes were given; allowed is 1 or more")

    @property
    def length_m(self) -> float:
        """Length of one of its tubes, m."""
        return sum(piece.length_m for piece in self.pieces)

    @property
    def water_kg(self) -> float:
        """What it holds, at 1000 kg/m³."""
        return 1000.0 * math.pi / 4.0 * self.bore_m**2 * self.length_m * self.tubes


class Streams(NamedTuple):
    """Streams of a network as arrays, P pieces in all.

    Attributes:
        first: number of the first piece of each stream and last of all their end, shape (streams + 1,)
        wall: node of each piece, shape (P,)
        water: kilograms in each piece, shape (P,)
        skin: inner area, m², and resistance of the wall, K/W, of each piece, shape (P, 2)
        make: bore, number of tubes, number of the node or boundary at the inlet, shape (streams, 3)
        slots: where the pull of each piece on each piece of its stream goes in the matrix, shape (P, MOST_PIECES)
        gain, pull: G and P of the step, W/K and W, shape (P, most pieces of one stream) and (P,)
        reach: room for the share that each wall has in a lot, shape (MOST_PIECES,)
        ease: of the step, how fast the water in each piece goes towards its wall, 1/s; while it stands, the share that is left, shape (P,)
    """

    first: np.ndarray
    wall: np.ndarray
    water: Array
    skin: Array
    make: Array
    slots: np.ndarray
    gain: Array
    pull: Array
    reach: Array
    ease: Array


class Lots(NamedTuple):
    """The water in the streams, foremost lot first (changed by the march).

    Attributes:
        held: how many, shape (streams,)
        kg, celsius: shape (streams, MOST_LOTS)
        fresh: room for the queue as it is made anew: kilograms and °C, shape (2, MOST_LOTS)
    """

    held: np.ndarray
    kg: Array
    celsius: Array
    fresh: Array


class Passed(NamedTuple):
    """What passed through the streams (filled by the march).

    Attributes:
        in_j, out_j: heat above 0 °C that came in and went out, shape (records, streams)
        out_kg: shape (records, streams)
        held_j: heat in the pipes at the edges of the records, shape (records + 1, streams)
        log: a row for every lot that left, shape (rows, LOG_WIDTH); what no longer fits is not written
        logged: rows written, shape (1,)
    """

    in_j: Array
    out_j: Array
    out_kg: Array
    held_j: Array
    log: Array
    logged: np.ndarray


def compiled_streams(streams: Sequence[Stream], index: Mapping[str, int], slots: np.ndarray) -> Streams:
    """Streams as the marcher wants them; ``slots`` as it stands in ``Streams``."""
    pieces = [(stream, piece) for stream in streams for piece in stream.pieces]
    water = [1000.0 * math.pi / 4.0 * s.bore_m**2 * p.length_m * s.tubes for s, p in pieces]
    skin = [
        (
            math.pi * s.bore_m * p.length_m * s.tubes,
            math.log(1.0 + 2.0 * s.wall_m / s.bore_m) / (2.0 * math.pi * s.wall_w_mk * p.length_m * s.tubes),
        )
        for s, p in pieces
    ]
    return Streams(
        first=np.cumsum([0, *(len(s.pieces) for s in streams)]).astype(np.int64),
        wall=np.array([index[p.node] for _, p in pieces], dtype=np.uint64),
        water=np.array(water),
        skin=np.array(skin).reshape(len(pieces), 2),
        make=np.array([(s.bore_m, s.tubes, index[s.inlet]) for s in streams], dtype=float).reshape(len(streams), 3),
        slots=slots,
        gain=np.zeros((len(pieces), max((len(s.pieces) for s in streams), default=0))),
        pull=np.zeros(len(pieces)),
        reach=np.zeros(MOST_PIECES),
        ease=np.zeros(len(pieces)),
    )


def filled(streams: Sequence[Stream], celsius: Mapping[str, Array]) -> Lots:
    """Lots as the pipes begin: by stream, one temperature for each of its pieces, from the inlet on."""
    lots = Lots(
        np.zeros(len(streams), dtype=np.int64), np.zeros((len(streams), MOST_LOTS)), np.zeros((len(streams), MOST_LOTS)),
        np.zeros((2, MOST_LOTS)),
    )  # fmt: skip
    for s, stream in enumerate(streams):
        share = stream.water_kg / stream.length_m
        for k, piece in enumerate(reversed(stream.pieces)):
            lots.kg[s, k] = share * piece.length_m
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
    film = pipe_film_w_m2k(flow / streams.make[s, 1], streams.make[s, 0], celsius)
    for p in range(streams.first[s], streams.first[s + 1]):
        rate = _rate(streams, p, film)
        streams.ease[p] = rate if flow > 0.0 else math.exp(-rate * h)


@inlined
def _warmth(lots: Lots, s: int) -> float:
    """Kilograms times °C of what a stream holds."""
    total = 0.0
    for q in range(lots.held[s]):
        total += lots.kg[s, q] * lots.celsius[s, q]
    return total


@inlined
def _walk(
    streams: Streams, s: int, kg: float, begin: float, end: float, flow: float, h: float, celsius: float, walls: Array, linear: bool,
) -> float:  # fmt: skip
    """One lot along its way, from ``begin`` to ``end`` in kilograms behind the inlet.

    ``linear``: adds its part to G and P, its own temperature left open in the walls'; else the temperature that it comes to.
    """
    first, water, gain, pull, reach = streams.first[s], streams.water, streams.gain, streams.pull, streams.reach
    last = streams.first[s + 1]
    at, low = celsius, 0.0
    passed = 0
    for p in range(first, last):
        high = low + water[p]
        within = min(end, high) - max(begin, low)
        low = high
        if within <= 0.0:
            continue
        left = math.exp(-streams.ease[p] * within / flow)
        if linear:
            watts_k = kg * CP_WATER_J_KGK * (1.0 - left) / h
            row = p - first
            gain[p, row] += watts_k
            pull[p] += watts_k * at
            for j in range(passed):
                gain[p, row - passed + j] -= watts_k * reach[row - passed + j]
                reach[row - passed + j] *= left
            reach[row] = 1.0 - left
            passed += 1
            at *= left
        else:
            at = left * at + (1.0 - left) * walls[streams.wall[p]]
    return at


@inlined
def _stand(streams: Streams, lots: Lots, s: int, whole: float, h: float, walls: Array, linear: bool) -> int:
    """Lots of water that stands, the foremost first, each beside the piece that its middle lies in. Returns how many there are then."""
    kg, fresh, first = lots.kg, lots.fresh, streams.first[s]
    p = beside = streams.first[s + 1] - 1
    place, low, made = whole, whole - streams.water[p], 0
    for q in range(lots.held[s]):
        mass, at = kg[s, q], lots.celsius[s, q]
        while place - mass / 2.0 < low and p > first:
            p -= 1
            low -= streams.water[p]
        place -= mass
        left = streams.ease[p]
        if linear:
            watts_k = mass * CP_WATER_J_KGK * (1.0 - left) / h
            streams.gain[p, p - first] += watts_k
            streams.pull[p] += watts_k * at
            continue
        at = left * at + (1.0 - left) * walls[streams.wall[p]]
        if made > 0 and beside == p and abs(fresh[1, made - 1] - at) < ALIKE_K:
            together = fresh[0, made - 1] + mass
            fresh[1, made - 1] = (fresh[0, made - 1] * fresh[1, made - 1] + mass * at) / together
            fresh[0, made - 1] = together
        else:
            fresh[0, made], fresh[1, made] = mass, at
            made += 1
        beside = p
    return made


@inlined
def _pass(
    streams: Streams, lots: Lots, s: int, flow: float, inlet_c: float, h: float, begun_s: float, walls: Array, linear: bool,
    passed: Passed, kept: int,
) -> None:  # fmt: skip
    """Every lot of a stream along its way in a step of h seconds: into G and P, or on, with what leaves written down."""
    whole = 0.0
    for p in range(streams.first[s], streams.first[s + 1]):
        whole += streams.water[p]
    if linear:
        _ease(streams, s, flow, h, _warmth(lots, s) / whole)
    if flow > 0.0:
        made = _on(streams, lots, s, whole, flow, h, begun_s, walls, linear, passed, kept)
    else:
        made = _stand(streams, lots, s, whole, h, walls, linear)
    over = flow * h - whole
    if over > LEAST_KG:  # comes in and goes right through
        through = _walk(streams, s, over, 0.0, whole, flow, h, inlet_c, walls, linear)
        if not linear:
            _write(passed, s, kept, begun_s + (h + whole / flow) / 2.0, over, through)
    made = _in(streams, lots, s, made, whole, flow, h, inlet_c, walls, linear)
    if not linear:
        passed.in_j[kept, s] += flow * h * CP_WATER_J_KGK * inlet_c
        for q in range(made):
            lots.kg[s, q], lots.celsius[s, q] = lots.fresh[0, q], lots.fresh[1, q]
        lots.held[s] = made


@inlined
def _on(
    streams: Streams, lots: Lots, s: int, whole: float, flow: float, h: float, begun_s: float, walls: Array,
    linear: bool, passed: Passed, kept: int,
) -> int:  # fmt: skip
    """Lots that were inside, foremost first; one that is half out is cut in two. Returns how many stay."""
    kg, celsius, comes = lots.kg, lots.celsius, flow * h
    made, place = 0, whole
    for q in range(lots.held[s]):
        back = place - kg[s, q]
        leaves = min(max(place + comes - whole, 0.0), kg[s, q])
        stays = kg[s, q] - leaves
        if leaves > LEAST_KG:
            middle = place - leaves / 2.0
            at = _walk(streams, s, leaves, middle, whole, flow, h, celsius[s, q], walls, linear)
            if not linear:
                _write(passed, s, kept, begun_s + (whole - middle) / flow, leaves, at)
        if stays > LEAST_KG:
            middle = back + stays / 2.0
            at = _walk(streams, s, stays, middle, middle + comes, flow, h, celsius[s, q], walls, linear)
            lots.fresh[0, made], lots.fresh[1, made] = stays, at
            made += 1
        place = back
    return made


@inlined
def _in(
    streams: Streams, lots: Lots, s: int, made: int, whole: float, flow: float, h: float, inlet_c: float,
    walls: Array, linear: bool,
) -> int:  # fmt: skip
    """What comes in and stays, the foremost first. Returns how many lots there are then."""
    enters = min(flow * h, whole)
    if enters <= LEAST_KG:
        return made
    parts = math.ceil(LOTS_ALONG * enters / whole - 1e-9)
    share = enters / parts
    for part in range(parts):
        if not linear and made >= MOST_LOTS - 1:
            made = _fewer(lots.fresh, made)
        at = _walk(streams, s, share, 0.0, enters - (part + 0.5) * share, flow, h, inlet_c, walls, linear)
        if not linear:
            lots.fresh[0, made], lots.fresh[1, made] = share, at
            made += 1
    return made


@inlined
def _write(passed: Passed, s: int, kept: int, when_s: float, kg: float, celsius: float) -> None:
    """Write down a lot that left."""
    passed.out_kg[kept, s] += kg
    passed.out_j[kept, s] += kg * CP_WATER_J_KGK * celsius
    row = passed.logged[0]
    if row < passed.log.shape[0]:
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
def couple(streams: Streams, lots: Lots, flow: Array, at: Array, h: float, passed: Passed) -> None:
    """G and P of all streams for a step of h seconds; ``at`` holds the temperatures of nodes and boundaries at its beginning."""
    for p in range(streams.pull.shape[0]):
        streams.pull[p] = 0.0
        for j in range(streams.gain.shape[1]):
            streams.gain[p, j] = 0.0
    for s in range(flow.shape[0]):
        _pass(streams, lots, s, flow[s], at[np.uint64(streams.make[s, 2])], h, 0.0, at, True, passed, 0)


@inlined
def flow_on(
    streams: Streams, lots: Lots, flow: Array, before: Array, mean: Array, h: float, begun_s: float, passed: Passed, kept: int
) -> None:  # fmt: skip
    """Move the water on through a step of h seconds with the walls at their means; ``before`` as ``couple`` had it."""
    for s in range(flow.shape[0]):
        inlet_c = before[np.uint64(streams.make[s, 2])]
        _pass(streams, lots, s, flow[s], inlet_c, h, begun_s, mean, False, passed, kept)


@inlined
def write_held(lots: Lots, passed: Passed, edge: int) -> None:
    """Heat in the pipes at an edge of the records."""
    for s in range(lots.held.shape[0]):
        passed.held_j[edge, s] = _warmth(lots, s) * CP_WATER_J_KGK
