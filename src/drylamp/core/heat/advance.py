"""A network advanced over a drive: room for the compiled marcher to work in, and what it wrote as a history."""

from __future__ import annotations

from dataclasses import dataclass, field

import numpy as np

from drylamp.core.air.constants import CP_WATER_J_KGK
from drylamp.core.arrays import Array
from drylamp.core.checks import require
from drylamp.core.heat.cells import CELLS
from drylamp.core.heat.damp import TERMS, Damp, Held
from drylamp.core.heat.drive import CALM_STEPS, LONGEST_NAP_S, Drive, merged
from drylamp.core.heat.drying import WATER_CP
from drylamp.core.heat.march import LINES, Links, Outside, Records, Room, Sparse, Steps, Water, march
from drylamp.core.heat.network import Network
from drylamp.core.heat.parts import BOUNDARIES
from drylamp.core.heat.streams import LOG_WIDTH, LOTS_ALONG, Lots, Passed, with_own_room

MOST_LOGGED = 400_000
"""Lots that are written down as they leave, at most: 13 MB."""


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
        water_kg: of what boils, at the same edges, shape (kept + 1, boiling nodes)
        steamed_kg: what left of it between them, shape (kept, boiling nodes)
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
    water_kg: Array = field(default_factory=lambda: np.zeros((0, 0)))
    steamed_kg: Array = field(default_factory=lambda: np.zeros((0, 0)))

    def heat_j(self, network: Network) -> Array:
        """Heat in each node above 0 °C, at the edges, J, shape (kept + 1, nodes)."""
        heat = self.temperature_c * network.capacities
        for k, node in enumerate(network.melting):
            i = network.index(node.name)
            assert node.melts is not None
            heat[:, i] += node.melts.heat_j(self.temperature_c[:, i], self.mass_kg[:, k])
        for k, node in enumerate(network.boiling):
            if node.boils is not None and node.boils.runs_out:
                i = network.index(node.name)
                heat[:, i] += CP_WATER_J_KGK * self.water_kg[:, k] * self.temperature_c[:, i]
        for k, node in enumerate(network.wet):
            assert self.held is not None
            i = network.index(node.name)
            heat[:, i] += WATER_CP * self.held.water_kg[:, k] * self.temperature_c[:, i]
        return heat


def advance(network: Network, first_c: Array, drive: Drive, keep: int = 1, lots: Lots | None = None) -> History:
    """March a network over a drive from given temperatures, keeping every so many ``dt_s``.

    Where ``keep`` is a multiple of CALM_STEPS, blocks of that many dark steps are taken as one; a damp network takes its naps and lays them out again.

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
    if drive.first is None and network.may_sleep:
        lit = drive.source_w.max(axis=1) > 0.0
        if keep == 1 and network.wet and nap > 1:
            return _napping(network, first_c, merged(drive, lit, nap))
        if keep % CALM_STEPS == 0:
            drive = merged(drive, lit)
    steps = int(drive.edges[-1])
    require(keep >= 1 and steps % keep == 0, "keep", f"{keep} was given; allowed is a divisor of {steps} steps")
    did = _marched(network, first_c, drive, drive.edges[:-1] // keep, lots)
    records, water, dt_s = did.records, did.water, drive.dt_s * keep
    return History(
        records.temperature, records.energy / dt_s, dt_s, records.mass, records.on, records.ran,
        None if water is None else water.passed, None if water is None else water.lots, did.held, records.water, records.steamed,
    )  # fmt: skip


@dataclass(frozen=True)
class _Did:
    """What the marcher wrote; ``held`` is none where nothing is wet."""

    records: Records
    water: Water | None
    held: Held | None


def _marched(network: Network, first_c: Array, drive: Drive, record: np.ndarray, lots: Lots | None = None) -> _Did:
    """March it, each step written into its record."""
    count = int(record[-1]) + 1
    records, damp = room_for_records(network, count, drive.on), _damp_for(network, count)
    water = _water_for(network, first_c, drive, count, lots)
    inputs, melting = march_inputs(network, first_c, drive, record), network.compiled_melting()
    march(*inputs, melting, network.compiled_boiling(), records, room_for(network), *matrix_for(network), water, damp)
    return _Did(records, water, damp.held if damp is not None and network.wet else None)


def _napping(network: Network, first_c: Array, short: Drive) -> History:
    """March over a drive whose dark steps are taken as one, and lay out what was done step by step: straight lines within a nap."""
    size = np.diff(short.edges)
    did = _marched(network, first_c, short, np.arange(len(size)))
    records, held = did.records, did.held
    assert held is not None
    at, block = np.arange(short.edges[-1] + 1), np.repeat(np.arange(len(size)), size)
    before = np.minimum(np.searchsorted(short.edges, at, side="right") - 1, len(size) - 1)
    share = ((at - short.edges[before]) / size[before])[:, None]

    def between(values: Array) -> Array:
        return np.asarray(values[before] * (1.0 - share) + values[before + 1] * share)

    def spread(values: Array) -> Array:
        return np.asarray(values[block] / size[block][:, None])

    laid_out = Held(
        between(held.water_kg), between(held.activity), spread(held.carried_j), spread(held.ran_kg), spread(held.moved_kg), spread(held.back_kg), between(held.cells)
    )  # fmt: skip
    return History(
        between(records.temperature), spread(records.energy) / short.dt_s, short.dt_s, between(records.mass), records.on, spread(records.ran), held=laid_out,
        water_kg=between(records.water), steamed_kg=spread(records.steamed),
    )  # fmt: skip


def _damp_for(network: Network, records: int) -> Damp | None:
    """What holds water, and room for what is written down of it; none where the matrix is dense, and of nothing where it is sparse and dry."""
    if network.fill is None:
        return None
    rows, water = network.compiled_wet()
    count, paths = len(water), len(network.paths)
    cells = network.compiled_cells()
    held = Held(
        np.zeros((records + 1, count)), np.zeros((records + 1, count)), np.zeros((records, count)), np.zeros((records, count)),
        np.zeros((records, paths)), np.zeros((records, paths)), np.zeros((records + 1, cells.size)),
    )  # fmt: skip
    return Damp(rows, water, np.zeros((count, TERMS)), np.zeros(count), held, cells, np.zeros((len(cells), 2 * CELLS)))


def _water_for(network: Network, first_c: Array, drive: Drive, records: int, lots: Lots | None) -> Water | None:
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
    network: Network, first_c: Array, drive: Drive, record: np.ndarray
) -> tuple[Array, Array, Links, Array, Outside, Steps]:
    """What the marcher reads, in its order; ``record`` is the one that each step is written into, shape (steps,)."""
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
    steps = Steps(drive.dt_s * np.diff(drive.edges), drive.substeps, record)
    first, links = np.asarray(first_c, dtype=float), network.compiled_links
    if network.boiling:
        links = links._replace(params=links.params.copy())  # what runs dry changes them
    return first, network.capacities, links, network.compiled_paths(), outside, steps


def room_for_records(network: Network, records: int, on: Array | None = None) -> Records:
    """Room for what the marcher writes down; thermostats begin as they were left, else off."""
    free = np.array([float(path.thermostat is None) for path in network.paths])
    return Records(
        np.empty((records + 1, len(network.nodes))), np.zeros((records, len(network.links))),
        np.empty((records + 1, len(network.melting))), free if on is None else on.copy(), np.zeros((records, len(network.paths))),
        np.empty((records + 1, len(network.boiling))), np.zeros((records, len(network.boiling))),
    )  # fmt: skip


def room_for(network: Network) -> Room:
    """Room for the marcher to work in."""
    nodes = len(network.nodes)
    wide = max(nodes + len(BOUNDARIES), len(network.paths))
    return Room(np.zeros((LINES, wide)), np.zeros((len(network.links), 3)), np.zeros(len(network.boiling)))


def matrix_for(network: Network) -> tuple[Array | None, Sparse | None]:
    """Room for a dense matrix and its inverse, or for a sparse one and its factors."""
    if network.fill is None:
        return np.empty((2, len(network.nodes), len(network.nodes))), None
    return None, Sparse(network.fill, np.empty((2, network.fill.numbers)))
