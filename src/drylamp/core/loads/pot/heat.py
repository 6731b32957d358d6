"""A pot and its contents as a network of heat, in whatever build it stands."""

from __future__ import annotations

import math
from typing import TYPE_CHECKING

from drylamp.core.heat.law import Law
from drylamp.core.heat.parts import AIR, STEAM, VALVE, Link, Node
from drylamp.core.loads.common.body import Body, Place, round_bodies

if TYPE_CHECKING:
    from drylamp.core.loads.pot.spec import PotLoad

CORE_SHARE = 0.5
"""The core is the inner half of what does not stir itself."""
STEAM_ACCOUNT = "steam"


def bodies(load: PotLoad) -> list[Body]:
    """What sun and air meet of it: one standing cylinder."""
    return [
        Body(
            "pot", "pot and lid", load.side_m2 + load.top_m2, load.top_m2, load.pot_height_m, load.absorptance,
            load.emittance, load.pot_diameter_m, load.pot_height_m,
        )
    ]  # fmt: skip


def inside(load: PotLoad, place: Place) -> tuple[list[Node], list[Link]]:
    """Nodes and links of pot and contents at their place."""
    capacity, core = load.food_capacity_j_k, CORE_SHARE if load.has_core else 0.0
    nodes = [
        Node("contents", capacity * (1 - core), load.title, role="wanted"),
        Node("pot", load.pot_capacity_j_k, "pot and lid", role="vessel"),
    ]
    across = load.wall.wall_w_m2k * load.wetted_m2
    links = [Link("pot to contents", Law.CONDUCTANCE, "pot", "contents", (across,))]
    if load.has_core:
        nodes.append(Node("core", capacity * core, f"core of the {load.title}", role="core"))
        links.append(Link("into the core", Law.CONDUCTANCE, "contents", "core", (core_w_k(load),)))
    if load.is_tight:
        links.append(Link("boiling", Law.BOIL, "contents", VALVE, (), STEAM_ACCOUNT))
    else:
        links.append(Link("boiling", Law.BOIL, "contents", STEAM, (), STEAM_ACCOUNT))
        wet = (load.top_m2, load.free_share)
        links.append(Link("vapour", Law.EVAPORATE, "contents", AIR, wet, STEAM_ACCOUNT))
    more_nodes, more_links = round_bodies(bodies(load), load.under, place)
    return nodes + more_nodes, links + more_links


def core_w_k(load: PotLoad) -> float:
    """Conductance between the outer and the inner half of pieces or of a loaf, W/K.

    Chosen so that the inner half follows with the first time constant of a sphere, d²/(4 π² α), or for what lies as one
    slab in its tin d²/(π² α) (Carslaw & Jaeger 1959, first terms of their series).
    """
    volume, k = load.food_kg / load.contents.density_kg_m3, load.contents.conductivity_w_mk
    if load.is_slab:
        thick = min(load.contents.piece_m, volume / load.top_m2)
        return 0.5 * math.pi**2 * k * volume / thick**2
    return 2.0 * math.pi**2 * k * volume / load.contents.piece_m**2
