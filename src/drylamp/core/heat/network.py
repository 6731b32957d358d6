"""A network of heat as data: what a recipe makes, what the marcher advances, what a drawing or a test can read."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, field, replace
from functools import cached_property
from typing import TypeVar

import numpy as np

from drylamp.core.air.constants import CP_WATER_J_KGK
from drylamp.core.air.draught import FlowPath, path_rows
from drylamp.core.arrays import Array
from drylamp.core.checks import require
from drylamp.core.heat.boil import BOIL_WIDTH, FIRST_IN_POTS
from drylamp.core.heat.cells import CELLS, SHARES
from drylamp.core.heat.damp import (
    ACTIVATION,
    AMOUNT,
    BESIDE,
    BLOWN,
    BOARDS,
    BODY,
    CAPACITY,
    DAMP_WIDTH,
    FACE,
    FILM,
    HOLDS,
    LONG,
    PATH,
    PIECE,
    PILE,
    RUNS_TO,
    SHINES,
    SORT,
    SPEED,
    SPENT,
    VAPOUR,
)
from drylamp.core.heat.law import Law
from drylamp.core.heat.laws import FIRST_OF_WATER, PARAMETERS, ready_made
from drylamp.core.heat.led import FIRST_LED
from drylamp.core.heat.march import Boiling as BoilingRows
from drylamp.core.heat.march import Links
from drylamp.core.heat.march import Melting as MeltingRows
from drylamp.core.heat.melt import MELTING_WIDTH
from drylamp.core.heat.parts import AIR, BOUNDARIES, Link, Node
from drylamp.core.heat.pipes import MOST_PIECES, Stream
from drylamp.core.heat.sparse import SPARSE_ABOVE, Fill, fill_of
from drylamp.core.heat.streams import Lots, Streams, compiled_streams, filled

A = TypeVar("A")


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
            for end in (link.start, link.end, *(other for other in (link.beside, link.also) if other)):
                require(end in self._index, f"network.{link.name}", f"'{end}' is no node")
        for node in self.nodes:
            require(node.capacity_j_k > 0, f"network.{node.name}", "heat capacity must be above 0")
        for node in self.melting:
            self._check_melting(node)
        for node in self.wet:
            self._check_wet(node)
        for node in self.boiling:
            self._check_boiling(node)
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

    def _check_boiling(self, node: Node) -> None:
        assert node.boils is not None
        where, mine = (
            f"network.{node.name}",
            [link for link in self.links if link.law == Law.BOIL and link.start == node.name],
        )
        require(
            node.melts is None and node.wet is None, where, "it boils and melts or dries; give each a node of its own"
        )
        require(node.boils.at in BOUNDARIES, where, f"'{node.boils.at}' is no boundary")
        require(node.boils.water_kg >= 0, where, "what boils needs water")
        require(len(mine) == 1, where, "what boils has one link by which its steam leaves")

    def _check_wet(self, node: Node) -> None:
        what, where = node.wet, f"network.{node.name}"
        assert what is not None
        require(node.melts is None, where, "it melts and holds water; give each a node of its own")
        for end in (what.vapour, what.beside):
            require(end in self._index, where, f"'{end}' is no node")
        dries = bool(what.piece) or what.pile is not None
        require((what.dry_kg > 0) == dries, where, "what dries needs its dry matter, and its pieces or boards")
        require(what.dry_kg > 0 or what.area_m2 > 0, where, "what holds water needs an area")
        bodies = [
            other.name for other in self.wet if other is not node and other.wet is not None and other.wet.pile is None
        ]
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
        carries = [(x.start, x.end, _moved_share(x)) for x in self.links if x.path == path.name]
        rounds = [(s.inlet, s.round) for s in self.streams if s.round is not None]
        carries += [(inlet, goes.outlet, 1.0) for inlet, goes in rounds if goes.path == path.name]
        carries += [(goes.outlet, inlet, 1.0) for inlet, goes in rounds if goes.back == path.name]
        balance = dict.fromkeys((node.name for node in self.nodes), 0.0)
        for start, end, share in carries:
            for node, more in ((start, -share), (end, share)):
                if node in balance:
                    balance[node] += more
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
    def boiling(self) -> list[Node]:
        """Nodes with water in them that may boil off, in order."""
        return [node for node in self.nodes if node.boils is not None]

    @property
    def wet(self) -> list[Node]:
        """Nodes that hold water, in order."""
        return [node for node in self.nodes if node.wet is not None]

    @property
    def leaving(self) -> list[int]:
        """Which of them lose what runs off them; off the others it drips on something else."""
        return [k for k, node in enumerate(self.wet) if node.wet is not None and not node.wet.runs_to]

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
        for pile, node in enumerate(self.piled):
            assert node.wet is not None
            assert node.wet.pile is not None
            row, made = rows[int(number[node.name])], node.wet.pile
            row[SORT], row[AMOUNT], row[PILE], row[FACE], row[LONG] = (
                BOARDS,
                node.wet.dry_kg,
                pile,
                made.face_m2,
                made.stack_m2,
            )
            row[BLOWN], row[SPEED], row[SPENT] = made.blown_w_m2k, made.per_flow, float(made.spends)
            row[PIECE : PIECE + len(made.board)] = made.board
        return rows, kilograms

    @property
    def piled(self) -> list[Node]:
        """Nodes that are boards, in order."""
        return [node for node in self.wet if node.wet is not None and node.wet.pile is not None]

    def compiled_cells(self) -> Array:
        """Moisture of boards from the core to the face, shape (boards, CELLS)."""
        piles = [node.wet.pile for node in self.piled if node.wet is not None]
        return np.array([pile.cells for pile in piles if pile is not None], dtype=float).reshape(len(piles), CELLS)

    def with_cells(self, cells: dict[str, Array]) -> Network:
        """The same with boards of other moisture, by node; itself where none of them is in it."""
        return self._with(cells, self.piled, _soaked_through)

    def with_water(self, kilograms: dict[str, float]) -> Network:
        """The same with other water in what holds some, by node; itself where none of them is in it."""
        return self._with(kilograms, self.wet, _soaked)

    def with_masses(self, kilograms: dict[str, float]) -> Network:
        """The same with other masses of what melts, by node; itself where none of them is in it."""
        return self._with(kilograms, self.melting, _filled_up)

    def _with(self, amounts: dict[str, A], those: list[Node], changed: Callable[[Node, A], Node]) -> Network:
        """The same with other amounts in those nodes: how it is joined stays, and what was worked out of that."""
        new = {node.name: changed(node, amounts[node.name]) for node in those if node.name in amounts}
        if not new:
            return self
        other = replace(self, nodes=tuple(new.get(node.name, node) for node in self.nodes))
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

    def compiled_boiling(self) -> BoilingRows:
        """Rows and kilograms of what boils as the marcher wants them."""
        rows, kilograms = np.full((len(self.boiling), BOIL_WIDTH), -1.0), np.zeros(len(self.boiling))
        for r, node in enumerate(self.boiling):
            assert node.boils is not None
            mine = [(k, link.law) for k, link in enumerate(self.links) if link.start == node.name]
            by = next(k for k, law in mine if law == Law.BOIL)
            vapour = [k for k, law in mine if law in (Law.EVAPORATE, Law.VAPOUR_KEPT, Law.VAPOUR_LOST)]
            rows[r, :4] = (
                self._index[node.name],
                self._index[node.boils.at],
                by,
                float(node.boils.runs_out),
            )
            rows[r, 4 : 4 + len(vapour)] = vapour
            kilograms[r] = node.boils.water_kg
        return BoilingRows(rows, kilograms)

    def with_boiled(self, kilograms: dict[str, float]) -> Network:
        """The same with other water in what boils, by node; itself where none of them is in it."""
        return self._with(kilograms, self.boiling, _boiled_down)

    def _looks_at(self, link: Link, rows: dict[str, float]) -> tuple[float, ...]:
        """Parameters of a link by one of the laws of pots, with the numbers of what it looks at."""
        if link.law == Law.DOME:
            return link.params
        if link.law == Law.STIRRED:
            return (*link.params, float(self._index[link.beside]))
        air, cover = self._index[link.beside], self._index[link.also if link.law == Law.VAPOUR_LOST else link.end]
        first = rows[link.also] if link.law == Law.CONDENSED else link.params[0]
        return (first, *link.params[1:], float(air), float(cover), float(self._index[AIR]))

    @cached_property
    def compiled_links(self) -> Links:
        """Law, start, end and ready-made parameters as the marcher wants them; to be read only."""
        law = np.array([int(link.law) for link in self.links], dtype=np.int64)
        ends = np.array(
            [[self._index[link.start] for link in self.links], [self._index[link.end] for link in self.links]],
            dtype=np.uint64,
        ).reshape(2, len(self.links))
        wide = max([PARAMETERS, *(3 + len(link.params) for link in self.links if link.law >= FIRST_LED)])
        params = np.zeros((len(self.links), wide))
        number = {path.name: float(k) for k, path in enumerate(self.paths)}
        wet = {node.name: float(k) for k, node in enumerate(self.wet)}
        body = {Law.WET: "start", Law.FILMED: "end", Law.GLOW: "beside"}
        boiling = {node.name: float(r) for r, node in enumerate(self.boiling)}
        values: tuple[float, ...]
        for row, link in zip(params, self.links, strict=True):
            if link.law >= FIRST_IN_POTS:
                values = self._looks_at(link, boiling)
                row[: len(values)] = values
                continue
            values = (number[link.path],) if link.path else ()
            values += (wet[getattr(link, body[link.law])],) if link.law in body else ()
            values += ready_made(link.law, link.params)
            values += (float(self._index[link.beside]),) if link.beside and link.law not in body else ()
            row[: len(values)] = values
        return Links(law, ends, params)

    @cached_property
    def fill(self) -> Fill | None:
        """How its matrix is factored; none where a dense inverse is quicker, and nothing is wet."""
        wet = self.streams or any(FIRST_OF_WATER <= link.law < FIRST_IN_POTS for link in self.links)
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


def _moved_share(link: Link) -> float:
    """Share of what its path moves that goes along it."""
    return link.params[0] if link.law == Law.BORNE else float(link.law == Law.CARRIED)


def _soaked(node: Node, water_kg: float) -> Node:
    assert node.wet is not None
    return replace(node, wet=replace(node.wet, water_kg=water_kg))


def _soaked_through(node: Node, cells: Array) -> Node:
    wet = node.wet
    assert wet is not None
    assert wet.pile is not None
    water = wet.dry_kg * float(SHARES @ cells)
    return replace(node, wet=replace(wet, water_kg=water, pile=replace(wet.pile, cells=tuple(cells.tolist()))))


def _filled_up(node: Node, mass_kg: float) -> Node:
    assert node.melts is not None
    return replace(node, melts=replace(node.melts, mass_kg=mass_kg))


def _boiled_down(node: Node, water_kg: float) -> Node:
    assert node.boils is not None
    return replace(node, boils=replace(node.boils, water_kg=water_kg))
