"""Alike networks marched in lanes: which may be, and the march of a block of them."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from drylamp.core.arrays import Array
from drylamp.core.checks import require
from drylamp.core.heat.advance import History
from drylamp.core.heat.drive import Drive
from drylamp.core.heat.lanes import LANES, LAWS, LaneRoom, Lanes, LaneSteps, march_lanes
from drylamp.core.heat.law import Law
from drylamp.core.heat.network import Network
from drylamp.core.heat.parts import BOUNDARIES
from drylamp.core.heat.sparse import fill_of

STRETCH = 1024
"""Steps that are laid out by lanes at a time: some megabytes, whatever the weather's length."""


def shape_of(network: Network) -> tuple[object, ...] | None:
    """What networks must share to be marched side by side; none for one that is not plain."""
    plain = not (network.paths or network.melting or network.boiling or network.streams or network.wet)
    if not plain or any(link.law not in LAWS for link in network.links):
        return None
    facings = [link.params[2] for link in network.links if link.law == Law.SURFACE]
    return tuple(network.names), tuple((link.law, link.start, link.end) for link in network.links), tuple(facings)


def advance_lanes(
    networks: Sequence[Network], first_c: Array, drive: Drive, sources: Sequence[Array], keep: int
) -> list[History]:
    """March up to LANES networks of one shape over one drive, each under its own sun.

    Parameters
    ----------
    first_c : array, shape (nodes,)
        Temperatures at the start, of all of them [°C].
    sources : sequence of arrays, shape (steps, nodes) each
        Sun into each node [W]; the drive's own is not looked at.
    keep : int
        How many ``dt_s`` a record is long.
    """
    require(0 < len(networks) <= LANES, "networks", f"{len(networks)} were given; allowed are 1 to {LANES}")
    steps = int(drive.edges[-1])
    require(steps % keep == 0, "keep", f"{keep} was given; allowed is a divisor of {steps} steps")
    width = len(networks)
    lanes, room = _laid_side_by_side(networks), _room(networks[0], first_c, width)
    records, nodes, links = steps // keep, len(networks[0].nodes), len(networks[0].links)
    temperature, energy = np.empty((records + 1, nodes, width)), np.zeros((records, links, width))
    temperature[0] = first_c[:, None]
    record, bounds, length_s = drive.edges[:-1] // keep, drive.boundaries(), drive.dt_s * np.diff(drive.edges)
    work = np.zeros((6, nodes + len(BOUNDARIES), width))
    lit = np.flatnonzero(np.any([sun.any(axis=0) for sun in sources], axis=0)).astype(np.uint64)
    for first in range(0, len(record), STRETCH):
        part = slice(first, first + STRETCH)
        stretch = LaneSteps(
            np.ascontiguousarray(bounds[part]), drive.wind_m_s[part].copy(), drive.pressure_pa, length_s[part], drive.substeps[part], record[part], lit,
            _by_lanes([sun[part] for sun in sources], lit),
        )  # fmt: skip
        march_lanes(lanes, stretch, room, work, temperature, energy)
    dt_s = drive.dt_s * keep
    nothing = np.zeros((records + 1, 0))
    return [
        History(
            np.ascontiguousarray(temperature[:, :, k]), energy[:, :, k] / dt_s, dt_s, nothing, np.zeros(0), nothing[:-1]
        )
        for k in range(len(networks))
    ]


def _laid_side_by_side(networks: Sequence[Network]) -> Lanes:
    links = [network.compiled_links for network in networks]
    ends = [(int(i), int(j)) for i, j in links[0].ends.T]
    params = np.ascontiguousarray(np.stack([one.params for one in links], axis=-1))
    capacity = np.ascontiguousarray(np.stack([network.capacities for network in networks], axis=-1))
    return Lanes(links[0].law, links[0].ends, params, capacity, fill_of(len(networks[0].nodes), ends))


def _by_lanes(sources: Sequence[Array], lit: np.ndarray) -> Array:
    """Sun of a stretch, shape (steps, lit nodes, lanes)."""
    out = np.empty((len(sources[0]), len(lit), len(sources)))
    for lane, sun in enumerate(sources):
        for row, node in enumerate(lit):
            out[:, row, lane] = sun[:, node]
    return out


def _room(network: Network, first_c: Array, width: int) -> LaneRoom:
    nodes, links = len(network.nodes), len(network.links)
    ends = [(int(i), int(j)) for i, j in network.compiled_links.ends.T]
    numbers = fill_of(nodes, ends).numbers
    now = np.zeros((nodes + len(BOUNDARIES), width))
    now[:nodes] = first_c[:, None]

    def rows(count: int) -> Array:
        return np.zeros((count, width))

    return LaneRoom(
        now, rows(nodes), rows(nodes), rows(numbers), rows(numbers), rows(links), np.zeros(width), np.zeros(2)
    )
