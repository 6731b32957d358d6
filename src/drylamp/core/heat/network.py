"""A network of heat as data: what a recipe makes, what the marcher advances, what a drawing or a test can read."""

from __future__ import annotations

from dataclasses import dataclass, field

import numpy as np

from drylamp.core.checks import require
from drylamp.core.heat.laws import Law
from drylamp.core.heat.march import march
from drylamp.core.sky.sun import Array

AIR, SKY, STEAM = "air", "sky", "steam"
BOUNDARIES = (AIR, SKY, STEAM)
SUN_JUMP_W_M2 = 30.0


@dataclass(frozen=True)
class Node:
    """Something with one temperature: its name, heat capacity (J/K) and plain words."""

    name: str
    capacity_j_k: float
    title: str


@dataclass(frozen=True)
class Link:
    """A way for heat from ``start`` to ``end``; ``account`` is the ledger's line that it belongs to."""

    name: str
    law: Law
    start: str
    end: str
    params: tuple[float, ...]
    account: str = ""


@dataclass(frozen=True)
class Network:
    """Nodes and links; ends of links are node names or boundaries."""

    nodes: tuple[Node, ...]
    links: tuple[Link, ...]
    _index: dict[str, int] = field(init=False, repr=False, compare=False)

    def __post_init__(self) -> None:
        """Number the nodes, boundaries after them, and check that every link has two known ends."""
        names = [node.name for node in self.nodes] + list(BOUNDARIES)
        require(len(set(names)) == len(names), "network", "two nodes have one name")
        object.__setattr__(self, "_index", {name: i for i, name in enumerate(names)})
        for link in self.links:
            for end in (link.start, link.end):
                require(end in self._index, f"network.{link.name}", f"'{end}' is no node")
        for node in self.nodes:
            require(node.capacity_j_k > 0, f"network.{node.name}", "heat capacity must be above 0")

    def index(self, name: str) -> int:
        """Number of a node or boundary."""
        return self._index[name]

    @property
    def names(self) -> list[str]:
        """Names of the nodes in order."""
        return [node.name for node in self.nodes]

    @property
    def capacities(self) -> Array:
        """Heat capacities, J/K, shape (nodes,)."""
        return np.array([node.capacity_j_k for node in self.nodes])

    def compiled_links(self) -> tuple[np.ndarray, np.ndarray, np.ndarray, Array]:
        """Law, start, end and parameters as the marcher wants them."""
        law = np.array([int(link.law) for link in self.links], dtype=np.int64)
        start = np.array([self._index[link.start] for link in self.links], dtype=np.int64)
        end = np.array([self._index[link.end] for link in self.links], dtype=np.int64)
        params = np.zeros((len(self.links), 4))
        for row, link in zip(params, self.links, strict=True):
            row[: len(link.params)] = link.params
        return law, start, end, params


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


@dataclass(frozen=True)
class History:
    """What a network did.

    Attributes:
        temperature_c: at the step edges, shape (steps + 1, nodes)
        link_w: mean power of each link, shape (steps, links)
    """

    temperature_c: Array
    link_w: Array


def advance(network: Network, first_c: Array, drive: Drive) -> History:
    """March a network over a drive from given temperatures."""
    bounds = np.column_stack([drive.air_c, drive.sky_c, np.full(len(drive.air_c), drive.steam_c)])
    law, start, end, params = network.compiled_links()
    temperature, power = march(
        np.asarray(first_c, dtype=float), network.capacities, law, start, end, params, bounds,
        np.ascontiguousarray(drive.wind_m_s), np.ascontiguousarray(drive.vapour_pa), drive.pressure_pa,
        np.ascontiguousarray(drive.source_w), drive.dt_s, drive.substeps,
    )  # fmt: skip
    return History(temperature, power)


def sun_substeps(sun_w_m2: Array, dt_s: float) -> np.ndarray:
    """Two parts in steps where the sun jumps and for three minutes after, one elsewhere, shape (steps,)."""
    jump = np.abs(np.diff(sun_w_m2, prepend=sun_w_m2[:1])) > SUN_JUMP_W_M2 * dt_s / 60.0
    after = max(1, round(180.0 / dt_s))
    near = np.convolve(jump.astype(float), np.ones(after + 1))[: len(sun_w_m2)] > 0
    return np.where(near, 2, 1).astype(np.int64)


def reset_substeps(substeps: np.ndarray, dt_s: float) -> np.ndarray:
    """Eight parts for five minutes after a start or after something cold is put in."""
    out = substeps.copy()
    out[: max(1, round(300.0 / dt_s))] = 8
    return out


def closure(network: Network, history: History, drive: Drive) -> tuple[float, float]:
    """Energy unaccounted for and energy in, both J: sun in − out through boundaries − stored.

    The first is at rounding error when the march is right.
    """
    count = len(network.nodes)
    sun = float(drive.source_w.sum() * drive.dt_s)
    out = 0.0
    for k, link in enumerate(network.links):
        into = network.index(link.end) >= count
        outof = network.index(link.start) >= count
        energy = float(history.link_w[:, k].sum() * drive.dt_s)
        out += energy * (int(into) - int(outof))
    stored = float(network.capacities @ (history.temperature_c[-1] - history.temperature_c[0]))
    return sun - out - stored, sun
