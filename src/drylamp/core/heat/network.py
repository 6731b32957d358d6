"""A network of heat as data: what a recipe makes, what the marcher advances, what a drawing or a test can read."""

from __future__ import annotations

import math
from dataclasses import dataclass, field, replace
from functools import cached_property

import numpy as np

from drylamp.core.air.constants import CP_WATER_J_KGK
from drylamp.core.air.draught import FlowPath, path_rows
from drylamp.core.air.moist import MOLAR_RATIO, boiling_c
from drylamp.core.arrays import Array
from drylamp.core.checks import require
from drylamp.core.heat.damp import (
    ACTIVATION,
    AMOUNT,
    BESIDE,
    BODY,
    CAPACITY,
    DAMP_WIDTH,
    FILM,
    HOLDS,
    LONG,
    PATH,
    PIECE,
    RUNS_TO,
    SHINES,
    SORT,
    SPEED,
    VAPOUR,
    Damp,
    Held,
)
from drylamp.core.heat.drying import LATENT_J_KG, WATER_CP
from drylamp.core.heat.law import Law
from drylamp.core.heat.laws import FIRST_OF_WATER, PARAMETERS, ready_made
from drylamp.core.heat.led import FIRST_LED
from drylamp.core.heat.march import LINES, Links, Outside, Records, Room, Sparse, Steps, Water, march
from drylamp.core.heat.march import Melting as MeltingRows
from drylamp.core.heat.melt import MELTING_WIDTH
from drylamp.core.heat.parts import BOUNDARIES, HUMIDITY, Link, Node
from drylamp.core.heat.pipes import MOST_PIECES, Stream
from drylamp.core.heat.sparse import SPARSE_ABOVE, Fill, fill_of
from drylamp.core.heat.streams import (
    LOG_WIDTH,
    LOTS_ALONG,
    Lots,
    Passed,
    Streams,
    compiled_streams,
    filled,
    with_own_room,
)

VALVE_OVER_PA = 1.0e5
"""What the valve of a pressure pot holds over the air before it lets go; from memory."""
GUST_JUMP_M_S, SUN_JUMP_W_M2 = 1.0, 100.0
RESET_S = 300.0
FLUSHES, MOST_FLUSHED, MOST_DRAW_PARTS, STORE_PARTS = 3, 30, 12, 4
"""For how many fillings of a pipe, and steps, a draw is cut finer; into how many parts, and into how many where a store is drawn from."""
MOST_LOGGED = 400_000
"""Lots that are written down as they leave, at most: 13 MB."""
CALM_STEPS, CALM_AFTER_S, LONGEST_NAP_S = 10, 1800.0, 900.0
"""Dark steps that may be taken as one, and how long after the last sun."""


@dataclass(frozen=True)
class Network:
    """Nodes, links, flow paths and streams; ends of links are node names or boundaries."""

    nodes: tuple[Node, ...]
    links: tuple[Link, ...]
    paths: tuple[FlowPath, ...] = ()
    streams: tuple[Stream, ...] = ()
    _index: dict[str, int] = field(init=False, repr=False, compare=False)

    def __post_init__(self) -> None:
        """Number the nodes, boundaries after them, and check that every link has two known ends."""
        names = [node.name for node in self.nodes] + list(BOUNDARIES)
        require(len(set(names)) == len(names), "network", "two nodes have one name")
        object.__setattr__(self, "_index", {name: i for i, name in enumerate(names)})
        for link in self.links:
            for end in (link.start, link.end, *([link.beside] if link.beside else [])):
                require(end in self._index, f"network.{link.name}", f"'{end}' is no node")
        for node in self.nodes:
            require(node.capacity_j_k > 0, f"network.{node.name}", "heat capacity must be above 0")
        for node in self.melting:
            self._check_melting(node)
        for node in self.wet:
            self._check_wet(node)
        for path in self.paths:
            self._check_path(path)
        for stream in self.streams:
            self._check_stream(stream)
        known = {path.name for path in self.paths}
        for link in self.links:
            if link.path:
                require(link.path in known, f"network.{link.name}", f"'{link.path}' is no flow path")

    def _check_melting(self, node: Node) -> None:
        found, where = node.melts, f"network.{node.name}"
        assert found is not None
        require(found.high_c > found.low_c, where, "its melting range must have a width")
        require(found.mass_kg >= 0 and found.cp_j_kgk > 0, where, "what melts needs a mass and a heat capacity")
        aims = [other.name for other in self.melting if other is not node]
        require(not found.drips_to or found.drips_to in aims, where, f"'{found.drips_to}' is no other melting node")

    def _check_wet(self, node: Node) -> None:
        what, where = node.wet, f"network.{node.name}"
        assert what is not None
        require(node.melts is None, where, "it melts and holds water; give each a node of its own")
        for end in (what.vapour, what.beside):
            require(end in self._index, where, f"'{end}' is no node")
        require((what.dry_kg > 0) == bool(what.piece), where, "food needs its dry matter and its pieces")
        require(what.dry_kg > 0 or what.area_m2 > 0, where, "what holds water needs an area")
        bodies = [other.name for other in self.wet if other is not node]
        require(not what.runs_to or what.runs_to in bodies, where, f"'{what.runs_to}' is nothing else that holds water")
        require(
            not what.path or what.path in {path.name for path in self.paths}, where, f"'{what.path}' is no flow path"
        )

    def _check_path(self, path: FlowPath) -> None:
        """What flows into a node must flow out of it again, or heat is made from nothing."""
        heat = path.thermostat
        switch = () if heat is None else (heat.warm, heat.cool, *(() if heat.stop is None else (heat.stop.node,)))
        for end in (*(node for node, _ in path.columns), path.outside, *switch):
            require(end in self._index, f"network.{path.name}", f"'{end}' is no node")
        balance = dict.fromkeys((node.name for node in self.nodes), 0.0)
        carries = [(x.start, x.end) for x in self.links if x.law == Law.CARRIED and x.path == path.name]
        for x in self.links:
            if x.law == Law.BORNE and x.path == path.name:
                for node, share in ((x.start, -x.params[0]), (x.end, x.params[0])):
                    if node in balance:
                        balance[node] += share
        rounds = [(s.inlet, s.round) for s in self.streams if s.round is not None]
        carries += [(inlet, goes.outlet) for inlet, goes in rounds if goes.path == path.name]
        carries += [(goes.outlet, inlet) for inlet, goes in rounds if goes.back == path.name]
        for start, end in carries:
            for node, sign in ((start, -1), (end, 1)):
                if node in balance:
                    balance[node] += sign
        stuck = [name for name, left in balance.items() if abs(left) > 1e-9]
        require(not stuck, f"network.{path.name}", f"what flows into {', '.join(stuck)} does not flow out again")

    def _check_stream(self, stream: Stream) -> None:
        where = f"network.{stream.name}"
        inside = self._index.get(stream.inlet, -1) < len(self.nodes)
        require(stream.inlet in self._index, where, f"'{stream.inlet}' is no node")
        goes = stream.round
        require(
            inside == (goes is not None),
            where,
            "its water comes out of a store and does not go back, or goes where it did not come from",
        )
        if goes is not None:
            paths = {path.name for path in self.paths}
            ends = {goes.outlet, *(node for node, _ in goes.column)}
            require(
                all(self._index.get(end, len(self.nodes)) < len(self.nodes) for end in ends),
                where,
                "its store has no such node",
            )
            require(
                {goes.path, goes.back or goes.path} <= paths, where, "a path that leads it through its store is missing"
            )
        for piece in stream.pieces:
            wall = self._index.get(piece.node, len(self.nodes))
            require(wall < len(self.nodes), where, f"'{piece.node}' is no node")

    def index(self, name: str) -> int:
        """Number of a node or boundary."""
        return self._index[name]

    @property
    def readable(self) -> list[Node]:
        """Everything that has one temperature to read: its nodes but the damp of its air, and the water in its pipes."""
        held = [Node(s.name, s.water_kg * CP_WATER_J_KGK, s.title, role=s.role) for s in self.streams]
        return [*(node for node in self.nodes if node.role != "vapour"), *held]

    @property
    def names(self) -> list[str]:
        """Names of the nodes in order."""
        return [node.name for node in self.nodes]

    @property
    def capacities(self) -> Array:
        """Heat capacities without what melts, J/K, shape (nodes,)."""
        return np.array([node.capacity_j_k for node in self.nodes])

    @property
    def melting(self) -> list[Node]:
        """Nodes with something in them that melts, in order."""
        return [node for node in self.nodes if node.melts is not None]

    @property
    def wet(self) -> list[Node]:
        """Nodes that hold water, in order."""
        return [node for node in self.nodes if node.wet is not None]

    def compiled_wet(self) -> tuple[Array, Array]:
        """Rows and kilograms of what holds water as the marcher wants them."""
        number = {node.name: float(k) for k, node in enumerate(self.wet)}
        paths = {path.name: float(f) for f, path in enumerate(self.paths)}
        rows, kilograms = np.zeros((len(number), DAMP_WIDTH)), np.zeros(len(number))
        for k, node in enumerate(self.wet):
            what, row = node.wet, rows[k]
            assert what is not None
            row[BODY], row[VAPOUR], row[BESIDE] = (self._index[x] for x in (node.name, what.vapour, what.beside))
            row[SORT], row[FILM] = float(bool(what.piece)), what.film_w_m2k
            row[AMOUNT] = what.dry_kg if what.piece else what.area_m2
            row[HOLDS], row[RUNS_TO] = what.holds_kg, number.get(what.runs_to, -1.0)
            row[PATH], row[SPEED], row[LONG] = paths.get(what.path, -1.0), what.speed_m_s, what.long_m
            row[ACTIVATION], row[CAPACITY], row[SHINES] = what.activation_j_mol, node.capacity_j_k, what.shines_w_m2k
            row[PIECE : PIECE + len(what.piece)] = what.piece
            kilograms[k] = what.water_kg
        return rows, kilograms

    def with_water(self, kilograms: dict[str, float]) -> Network:
        """The same with other water in what holds some, by node; itself where none of them is in it."""
        if not any(node.name in kilograms for node in self.wet):
            return self
        nodes = tuple(
            replace(node, wet=replace(node.wet, water_kg=kilograms[node.name]))
            if node.wet is not None and node.name in kilograms
            else node
            for node in self.nodes
        )
        return self._with_like(nodes)

    def _with_like(self, nodes: tuple[Node, ...]) -> Network:
        """The same with other amounts in its nodes: how it is joined stays, and what was worked out of that."""
        other = replace(self, nodes=nodes)
        other.__dict__.update(fill=self.fill, compiled_links=self.compiled_links)
        return other

    def compiled_melting(self) -> MeltingRows:
        """Rows and kilograms of what melts as the marcher wants them."""
        number = {node.name: float(k) for k, node in enumerate(self.melting)}
        rows, kilograms = np.zeros((len(number), MELTING_WIDTH)), np.zeros(len(number))
        for k, node in enumerate(self.melting):
            what = node.melts
            assert what is not None
            rows[k] = [
                self._index[node.name], what.cp_j_kgk, what.latent_j_kg, what.low_c, what.high_c,
                number.get(what.drips_to, -1.0), what.rate_per_s, what.keeps_kg,
            ]  # fmt: skip
            kilograms[k] = what.mass_kg
        return MeltingRows(rows, kilograms)

    def with_masses(self, kilograms: dict[str, float]) -> Network:
        """The same with other masses of what melts, by node; itself where none of them is in it."""
        if not any(node.name in kilograms for node in self.melting):
            return self
        nodes = tuple(
            replace(node, melts=replace(node.melts, mass_kg=kilograms[node.name]))
            if node.melts is not None and node.name in kilograms
            else node
            for node in self.nodes
        )
        return self._with_like(nodes)

    @cached_property
    def compiled_links(self) -> Links:
        """Law, start, end and ready-made parameters as the marcher wants them; to be read only."""
        law = np.array([int(link.law) for link in self.links], dtype=np.int64)
        ends = np.array(
            [[self._index[link.start] for link in self.links], [self._index[link.end] for link in self.links]],
            dtype=np.uint64,
        ).reshape(2, len(self.links))
        wide = max([PARAMETERS, *(1 + len(link.params) for link in self.links if link.law >= FIRST_LED)])
        params = np.zeros((len(self.links), wide))
        number = {path.name: float(k) for k, path in enumerate(self.paths)}
        wet = {node.name: float(k) for k, node in enumerate(self.wet)}
        body = {Law.WET: "start", Law.FILMED: "end"}
        for row, link in zip(params, self.links, strict=True):
            values: tuple[float, ...] = (number[link.path],) if link.path else ()
            values += (wet[getattr(link, body[link.law])],) if link.law in body else ()
            values += ready_made(link.law, link.params)
            values += (float(self._index[link.beside]),) if link.beside else ()
            row[: len(values)] = values
        return Links(law, ends, params, bool((law == Law.BOIL).any()))

    @cached_property
    def fill(self) -> Fill | None:
        """How its matrix is factored; none where a dense inverse is quicker, and nothing is wet."""
        wet = self.streams or any(link.law >= FIRST_OF_WATER for link in self.links)
        if len(self.nodes) <= SPARSE_ABOVE and not wet:
            return None
        ends = [(self._index[link.start], self._index[link.end]) for link in self.links]
        return fill_of(len(self.nodes), [*ends, *(pair for s in self.streams for pair in self._along(s))])

    def _along(self, stream: Stream) -> list[tuple[int, int]]:
        """Pairs that water in it ties together: pieces with each other; where it goes round, each with both ends, and those with each other."""
        walls = [self._index[piece.node] for piece in stream.pieces]
        pairs = [(k, j) for k in walls for j in walls]
        if stream.round is None:
            return pairs
        come, go = self._index[stream.inlet], self._index[stream.round.outlet]
        return [*pairs, *((wall, end) for wall in walls for end in (come, go)), (go, come)]

    @cached_property
    def compiled_streams(self) -> Streams:
        """Streams as the marcher wants them; what it works in is to be made anew for each run."""
        assert self.fill is not None
        count = sum(len(s.pieces) for s in self.streams)
        slots, ends = np.zeros((count, MOST_PIECES), dtype=np.uint64), np.zeros((count, 4), dtype=np.uint64)
        across = np.zeros((len(self.streams), 2), dtype=np.uint64)
        at, row = len(self.links), 0
        for s, stream in enumerate(self.streams):
            size, ties = len(stream.pieces), len(self._along(stream))
            pulls, mine = self.fill.slots[at : at + ties, 2:], slice(row, row + size)
            slots[mine, :size] = pulls[: size * size, 0].reshape(size, size)
            if stream.round is not None:
                ends[mine] = pulls[size * size : -1].reshape(size, 4)
                across[s] = pulls[-1]
            at, row = at + ties, row + size
        paths = {path.name: f for f, path in enumerate(self.paths)}
        return compiled_streams(self.streams, self._index, paths, slots, ends, across)

    def lots_at(self, celsius: dict[str, Array]) -> Lots:
        """What its pipes hold, by stream, one temperature for each piece from the inlet on."""
        return filled(self.streams, celsius)

    @property
    def may_sleep(self) -> bool:
        """Whether dark steps may be taken ten at a time: nothing decides, flows or rises in them."""
        still = all(path.thermostat is None and path.fluid == "air" for path in self.paths)
        return still and not self.streams

    def compiled_paths(self) -> Array:
        """Flow paths as the marcher wants them, shape (paths, as many as the longest needs)."""
        return path_rows(self.paths, self._index)


@dataclass(frozen=True)
class Drive:
    """What a network is exposed to; arrays are means over the steps.

    Attributes:
        dt_s: length of a step
        air_c, sky_c, wind_m_s, vapour_pa: shape (steps,)
        steam_c: temperature at which water boils here
        pressure_pa: air pressure
        source_w: sun into each node, shape (steps, nodes)
        substeps: parts of each step, shape (steps,)
        ground_c, mains_c: shape (steps,); the run's mean air where not given
        speed: ceiling on each flow path's fan or pump, 0–1, shape (steps, paths); full speed where not given
        opening: how far what is set by the hour stands open in each path, 0–1, shape (steps, paths); open where not given
        on: whether each path's fan or pump may run as its thermostat was left, 0 or 1, shape (paths,); off where not given
        first: where steps of several lengths were merged, the number of ``dt_s`` that each begins at, and last the end of all
        flow_kg_s: through each stream, shape (steps, streams); standing where not given
    """

    dt_s: float
    air_c: Array
    sky_c: Array
    wind_m_s: Array
    vapour_pa: Array
    steam_c: float
    pressure_pa: float
    source_w: Array
    substeps: np.ndarray
    ground_c: Array | None = None
    mains_c: Array | None = None
    speed: Array | None = None
    on: Array | None = None
    first: np.ndarray | None = None
    flow_kg_s: Array | None = None
    opening: Array | None = None

    @property
    def edges(self) -> np.ndarray:
        """Beginning of each step and end of the last, in numbers of ``dt_s``, shape (steps + 1,)."""
        return np.arange(len(self.air_c) + 1) if self.first is None else self.first

    def boundaries(self) -> Array:
        """Temperatures of BOUNDARIES in order, shape (steps, boundaries)."""
        steps = len(self.air_c)
        mean = np.full(steps, float(self.air_c.mean()))
        ground = mean if self.ground_c is None else self.ground_c
        mains = ground if self.mains_c is None else self.mains_c
        steam, valve = np.full(steps, self.steam_c), np.full(steps, boiling_c(self.pressure_pa + VALVE_OVER_PA))
        gram = 1000.0 * MOLAR_RATIO * self.vapour_pa / (self.pressure_pa - self.vapour_pa)
        return np.column_stack([self.air_c, self.sky_c, steam, ground, mains, valve, gram])


@dataclass(frozen=True)
class History:
    """What a network did.

    Attributes:
        temperature_c: at the edges of what was kept, shape (kept + 1, nodes)
        link_w: mean power of each link between those edges, shape (kept, links)
        dt_s: time between edges
        mass_kg: of what melts, at the same edges, shape (kept + 1, melting nodes)
        on: whether each path's fan or pump may run, as its thermostat stood at the end, shape (paths,)
        ran_s: seconds that each path's fan or pump ran, weighed by its speed, shape (kept, paths)
        passed: what flowed through its streams; none where there are none
        lots: what its pipes hold at the end
        held: water in what is damp; none where nothing is
    """

    temperature_c: Array
    link_w: Array
    dt_s: float
    mass_kg: Array
    on: Array
    ran_s: Array
    passed: Passed | None = None
    lots: Lots | None = None
    held: Held | None = None

    def heat_j(self, network: Network) -> Array:
        """Heat in each node above 0 °C, at the edges, J, shape (kept + 1, nodes)."""
        heat = self.temperature_c * network.capacities
        for k, node in enumerate(network.melting):
            i = network.index(node.name)
            assert node.melts is not None
            heat[:, i] += node.melts.heat_j(self.temperature_c[:, i], self.mass_kg[:, k])
        for k, node in enumerate(network.wet):
            assert self.held is not None
            i = network.index(node.name)
            heat[:, i] += WATER_CP * self.held.water_kg[:, k] * self.temperature_c[:, i]
        return heat


def advance(network: Network, first_c: Array, drive: Drive, keep: int = 1, lots: Lots | None = None) -> History:
    """March a network over a drive from given temperatures, keeping every so many ``dt_s``.

    Where ``keep`` is a multiple of CALM_STEPS, blocks of that many dark steps are taken as one.

    Parameters
    ----------
    lots
        what its pipes hold at the start (changed); water as warm as the wall beside it where not given

    Raises
    ------
    InputProblem
        ``keep`` does not divide the steps.
    """
    nap = min(CALM_STEPS, int(LONGEST_NAP_S / drive.dt_s))
    if drive.first is None and keep == 1 and network.wet and network.may_sleep and nap > 1:
        return _napping(network, first_c, drive, nap)
    if drive.first is None and keep % CALM_STEPS == 0 and network.may_sleep:
        drive = merged(drive, drive.source_w.max(axis=1) > 0.0)
    steps = int(drive.edges[-1])
    require(keep >= 1 and steps % keep == 0, "keep", f"{keep} was given; allowed is a divisor of {steps} steps")
    records = room_for_records(network, steps // keep, drive.on)
    water = water_for(network, first_c, drive, steps // keep, lots)
    damp = damp_for(network, steps // keep)
    march(
        *march_inputs(network, first_c, drive, keep), network.compiled_melting(), records, room_for(network), *matrix_for(network), water, damp
    )  # fmt: skip
    return History(
        records.temperature, records.energy / (drive.dt_s * keep), drive.dt_s * keep, records.mass, records.on, records.ran,
        None if water is None else water.passed, None if water is None else water.lots, damp.held if damp is not None and network.wet else None,
    )  # fmt: skip


def _napping(network: Network, first_c: Array, drive: Drive, nap: int) -> History:
    """March a damp network with so many dark steps taken as one, and lay out what it did step by step: straight lines within a nap."""
    short = merged(drive, drive.source_w.max(axis=1) > 0.0, nap)
    size = np.diff(short.edges)
    each = replace(short, first=short.edges)
    records, damp = room_for_records(network, len(size), drive.on), damp_for(network, len(size))
    inputs = march_inputs(network, first_c, each, 1)
    steps = inputs[5]._replace(record=np.arange(len(size)))
    march(
        *inputs[:5], steps, network.compiled_melting(), records, room_for(network), *matrix_for(network), water_for(network, first_c, each, 1, None), damp
    )  # fmt: skip
    assert damp is not None
    at, block = np.arange(short.edges[-1] + 1), np.repeat(np.arange(len(size)), size)
    before = np.minimum(np.searchsorted(short.edges, at, side="right") - 1, len(size) - 1)
    share = ((at - short.edges[before]) / size[before])[:, None]

    def between(values: Array) -> Array:
        return np.asarray(values[before] * (1.0 - share) + values[before + 1] * share)

    def spread(values: Array) -> Array:
        return np.asarray(values[block] / size[block][:, None])

    held = damp.held
    laid_out = Held(
        between(held.water_kg), between(held.activity), spread(held.carried_j), spread(held.away_kg), spread(held.moved_kg), spread(held.back_kg)
    )  # fmt: skip
    return History(
        between(records.temperature), spread(records.energy) / drive.dt_s, drive.dt_s, between(records.mass), records.on, spread(records.ran), held=laid_out
    )  # fmt: skip


def damp_for(network: Network, records: int) -> Damp | None:
    """What holds water, and room for what is written down of it; none where the matrix is dense, and of nothing where it is sparse and dry."""
    if network.fill is None:
        return None
    rows, water = network.compiled_wet()
    count, paths = len(water), len(network.paths)
    held = Held(
        np.zeros((records + 1, count)), np.zeros((records + 1, count)), np.zeros((records, count)), np.zeros((records, count)),
        np.zeros((records, paths)), np.zeros((records, paths)),
    )  # fmt: skip
    return Damp(rows, water, np.zeros((count, 4)), np.zeros(count), held)


def water_for(network: Network, first_c: Array, drive: Drive, records: int, lots: Lots | None) -> Water | None:
    """What flows, and room for what passes; none where the matrix is dense.

    A sparse network without streams has one of no pipes: a third marcher would cost half a minute to compile, and no pipes cost nothing.
    """
    if network.fill is None:
        return None
    beside = {s.name: np.array([first_c[network.index(p.node)] for p in s.pieces]) for s in network.streams}
    count, steps = len(network.streams), len(drive.air_c)
    flow = np.zeros((steps, count)) if drive.flow_kg_s is None else np.ascontiguousarray(drive.flow_kg_s)
    comes = (
        flow * drive.dt_s / drive.substeps[:, None] / np.array([s.water_kg for s in network.streams]).reshape(1, count)
    )
    flow = np.where([s.round is None for s in network.streams], flow, 0.0)
    made = np.where(flow > 0.0, np.ceil(LOTS_ALONG * np.minimum(comes, 1.0)) + 2.0, 0.0) * drive.substeps[:, None]
    rows = int(made.sum()) + sum(len(s.pieces) for s in network.streams)
    passed = Passed(
        np.zeros((records, count)), np.zeros((records, count)), np.zeros((records, count)), np.zeros((records, count)), np.zeros((records + 1, count)),
        np.zeros((min(rows, MOST_LOGGED), LOG_WIDTH)), np.zeros(1, dtype=np.int64),
    )  # fmt: skip
    return Water(
        with_own_room(network.compiled_streams), network.lots_at(beside) if lots is None else lots, passed, flow
    )


def march_inputs(
    network: Network, first_c: Array, drive: Drive, keep: int
) -> tuple[Array, Array, Links, Array, Outside, Steps]:
    """What the marcher reads, in its order."""
    full = np.ones((len(drive.air_c), len(network.paths)))
    speed = full if drive.speed is None else drive.speed
    opening = full if drive.opening is None else drive.opening
    bounds = drive.boundaries()
    if not any(node.role == "vapour" for node in network.nodes):
        bounds = np.ascontiguousarray(bounds[:, :-1])  # nobody asks how damp it is outside
    outside = Outside(
        bounds, np.ascontiguousarray(drive.wind_m_s), np.ascontiguousarray(drive.vapour_pa),
        drive.pressure_pa, np.ascontiguousarray(speed), np.ascontiguousarray(opening), np.ascontiguousarray(drive.source_w),
    )  # fmt: skip
    steps = Steps(drive.dt_s * np.diff(drive.edges), drive.substeps, drive.edges[:-1] // keep)
    first = np.asarray(first_c, dtype=float)
    return first, network.capacities, network.compiled_links, network.compiled_paths(), outside, steps


def room_for_records(network: Network, records: int, on: Array | None = None) -> Records:
    """Room for what the marcher writes down; thermostats begin as they were left, else off."""
    free = np.array([float(path.thermostat is None) for path in network.paths])
    return Records(
        np.empty((records + 1, len(network.nodes))), np.zeros((records, len(network.links))),
        np.empty((records + 1, len(network.melting))), free if on is None else on.copy(), np.zeros((records, len(network.paths))),
    )  # fmt: skip


def room_for(network: Network) -> Room:
    """Room for the marcher to work in."""
    nodes = len(network.nodes)
    wide = max(nodes + len(BOUNDARIES), len(network.paths))
    return Room(np.zeros((LINES, wide)), np.empty((len(network.links), 3)))


def matrix_for(network: Network) -> tuple[Array | None, Sparse | None]:
    """Room for a dense matrix and its inverse, or for a sparse one and its factors."""
    if network.fill is None:
        return np.empty((2, len(network.nodes), len(network.nodes))), None
    return None, Sparse(network.fill, np.empty((2, network.fill.numbers)))


def merged(drive: Drive, lit: np.ndarray, nap: int = CALM_STEPS) -> Drive:
    """The drive with calm blocks of so many dark steps taken as one step each, at their means."""
    first = calm_blocks(lit, drive.dt_s, nap)
    size = np.diff(first, append=len(lit))

    def mean(values: Array) -> Array:
        shape = (-1,) + (1,) * (values.ndim - 1)
        return np.asarray(np.add.reduceat(values, first, axis=0) / size.reshape(shape))

    def mean_of(values: Array | None) -> Array | None:
        return None if values is None else mean(values)

    return replace(
        drive,
        air_c=mean(drive.air_c),
        sky_c=mean(drive.sky_c),
        wind_m_s=mean(drive.wind_m_s),
        vapour_pa=mean(drive.vapour_pa),
        source_w=mean(drive.source_w),
        substeps=drive.substeps[first],
        ground_c=mean_of(drive.ground_c),
        mains_c=mean_of(drive.mains_c),
        speed=mean_of(drive.speed),
        opening=mean_of(drive.opening),
        first=np.append(first, len(lit)),
    )


def calm_blocks(lit: np.ndarray, dt_s: float, nap: int = CALM_STEPS) -> np.ndarray:
    """First steps of the blocks that the marcher may take as one: so many dark steps each, single ones elsewhere.

    A block counts as dark when no step of it is lit, nor was any in the half hour before.
    """
    steps = len(lit)
    wake = round(CALM_AFTER_S / dt_s)
    since = np.arange(steps) - np.maximum.accumulate(np.where(lit, np.arange(steps), -steps))
    whole = steps // nap * nap
    dark = (since[:whole] > wake).reshape(-1, nap).all(axis=1)
    starts = np.ones(steps, dtype=bool)
    starts[:whole].reshape(-1, nap)[dark, 1:] = False
    return np.flatnonzero(starts)


def jump_substeps(wind_m_s: Array, sun_w_m2: Array) -> np.ndarray:
    """Two parts in steps where wind or sun jumps, one elsewhere, shape (steps,): a light node follows in seconds."""
    gust = np.abs(np.diff(wind_m_s, prepend=wind_m_s[:1])) > GUST_JUMP_M_S
    cloud = np.abs(np.diff(sun_w_m2, prepend=sun_w_m2[:1])) > SUN_JUMP_W_M2
    return np.where(gust | cloud, 2, 1).astype(np.int64)


def reset_substeps(substeps: np.ndarray, dt_s: float) -> np.ndarray:
    """Eight parts for five minutes after a start or after something cold is put in."""
    out = substeps.copy()
    out[: max(1, round(RESET_S / dt_s))] = 8
    return out


def draw_parts(network: Network, speed: Array | None, flow_kg_s: Array | None, dt_s: float, steps: int) -> np.ndarray:
    """Parts of each step that let a draw's front through: more while a pipe is being flushed, or a store drawn from, shape (steps,)."""
    parts = np.ones(steps, dtype=np.int64)
    for s, stream in enumerate(network.streams):
        if stream.round is not None:
            continue  # nobody stands at its end and waits for a front
        share = np.zeros(steps) if flow_kg_s is None else flow_kg_s[:, s] * dt_s / stream.water_kg
        for n in np.flatnonzero(np.diff(share, prepend=0.0)):
            until = n + FLUSHES * math.ceil(1.0 / share[n]) + 1 if share[n] > 0 else n + 1
            here = slice(n, min(until, n + MOST_FLUSHED))
            parts[here] = np.maximum(parts[here], np.clip(np.ceil(share[here] * LOTS_ALONG / 2), 1, MOST_DRAW_PARTS))
    for f, path in enumerate(network.paths):
        if path.given_kg_s > 0 and not path.led and path.fluid == "water" and speed is not None:
            parts[speed[:, f] > 0] = np.maximum(parts[speed[:, f] > 0], STORE_PARTS)
    return parts


def closure(network: Network, history: History, drive: Drive) -> tuple[float, float]:
    """Energy unaccounted for and energy in, both J: sun in − out through boundaries − stored.

    The first is at rounding error when the march is right.
    """
    count = len(network.nodes)
    sun = float((drive.source_w.sum(axis=1) * np.diff(drive.edges)).sum() * drive.dt_s)
    out = 0.0
    for k, link in enumerate(network.links):
        into = network.index(link.end) >= count
        outof = network.index(link.start) >= count
        energy = float(history.link_w[:, k].sum() * history.dt_s)
        out += energy * (int(into) - int(outof))
    heat = history.heat_j(network)
    stored = float((heat[-1] - heat[0]).sum())
    passed = history.passed
    if passed is not None:
        leaves = [stream.round is None for stream in network.streams]
        out += float((passed.out_j - passed.in_j)[:, leaves].sum())
        stored += float((passed.held_j[-1] - passed.held_j[0]).sum())
    if history.held is not None:
        out -= float(history.held.carried_j.sum())
    return sun - out - stored, sun


def water_closure(network: Network, history: History) -> tuple[float, float]:
    """Water unaccounted for, and water that left what holds it or came to it, both kg: what came in with air and leaks − what is held more − what ran off.

    The first is at rounding error when the march is right.
    """
    held = history.held
    if held is None:
        return 0.0, 0.0
    vapour = {node.name for node in network.nodes if node.role == "vapour"}
    joules = 0.0
    for k, link in enumerate(network.links):
        sign = int(link.end in vapour and link.start == HUMIDITY) - int(link.start in vapour and link.end == HUMIDITY)
        if sign:
            joules += sign * float(history.link_w[:, k].sum() * history.dt_s)
    in_air = 0.0
    for node in network.nodes:
        if node.name in vapour:
            series = history.temperature_c[:, network.index(node.name)]
            in_air += float(series[-1] - series[0]) * node.capacity_j_k
    gained = held.water_kg[-1] - held.water_kg[0]
    lost = (joules - in_air) / LATENT_J_KG - float(gained.sum()) - float(held.away_kg.sum())
    return lost, float(np.abs(np.diff(held.water_kg, axis=0)).sum())
