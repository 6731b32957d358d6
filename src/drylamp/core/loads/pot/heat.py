"""A pot and its contents as a network of heat, in whatever build it stands."""

from __future__ import annotations

import math
from typing import TYPE_CHECKING

from drylamp.core.heat.cooper import STANDARD_PRESSURE_PA, cooper_w_m2k
from drylamp.core.heat.law import Law
from drylamp.core.heat.parts import AIR, STEAM, VALVE, VALVE_OVER_PA, Boiling, Link, Node
from drylamp.core.loads.common.body import Body, Place, round_bodies

if TYPE_CHECKING:
    from drylamp.core.loads.pot.spec import PotLoad

CORE_SHARE = 0.5
"""The core is the inner half of what does not stir itself."""
STEAM_ACCOUNT = "steam"
CONTENTS, CORE, CRUST = "contents", "core", "crust"


def bodies(load: PotLoad) -> list[Body]:
    """What sun and air meet of it: one standing cylinder."""
    return [
        Body(
            "pot", "pot and lid", load.side_m2 + load.top_m2, load.top_m2, load.pot_height_m, load.absorptance,
            load.emittance, load.pot_diameter_m, load.pot_height_m, contact=load.contact or "",
        )
    ]  # fmt: skip


def shares_of(load: PotLoad) -> dict[str, float]:
    """Shares of what is in the pot by node: what stirs itself is one, else it has a core, a loaf a crust too."""
    core, crust = CORE_SHARE if load.has_core else 0.0, load.contents.crust_share
    shares = {CONTENTS: 1.0 - core - crust, CORE: core, CRUST: crust}
    return {node: share for node, share in shares.items() if share > 0.0}


def inside(load: PotLoad, place: Place) -> tuple[list[Node], list[Link]]:
    """Nodes and links of pot and contents at their place."""
    nodes = [Node("pot", load.pot_capacity_j_k, "pot and lid", role="vessel")]
    links: list[Link] = []
    shares = shares_of(load)
    if CORE in shares:
        links.append(Link("into the core", Law.CONDUCTANCE, CONTENTS, CORE, (core_w_k(load),)))
    if CRUST in shares:
        links.append(Link("through the crust", Law.CONDUCTANCE, CRUST, CONTENTS, (crust_w_k(load),)))
    outer = CRUST if CRUST in shares else CONTENTS
    links.append(_from_the_wall(load, outer))
    for part, share in shares.items():
        nodes.append(_food(load, part, share))
        links.append(Link(f"{part} boiling", Law.BOIL, part, _boils_at(load), (), STEAM_ACCOUNT))
    if not load.is_tight:
        links += _vapour(load, outer, place.under(load.under))
    more_nodes, more_links = round_bodies(bodies(load), load.under, place)
    return nodes + more_nodes, links + more_links


def _boils_at(load: PotLoad) -> str:
    return VALVE if load.is_tight else STEAM


def _food(load: PotLoad, part: str, share: float) -> Node:
    titles = {CONTENTS: load.title, CORE: f"core of the {load.title}", CRUST: f"crust of the {load.title}"}
    water = Boiling(_boils_at(load), load.water_in_kg * share)
    return Node(
        part,
        load.dry_j_k * share,
        titles[part],
        role="core" if part == CORE else "wanted" if part == CONTENTS else "inner",
        boils=water,
    )


def _from_the_wall(load: PotLoad, outer: str) -> Link:
    """Through the wall, and its film: water's own by natural convection or boiling, of what is thick as its table says."""
    boils_pa = STANDARD_PRESSURE_PA + (VALVE_OVER_PA if load.is_tight else 0.0)
    numbers = (load.wetted_m2, load.wall.wall_w_m2k, load.contents.film_w_m2k, cooper_w_m2k(boils_pa))
    return Link("pot to contents", Law.STIRRED, "pot", outer, numbers, beside=_boils_at(load))


def _vapour(load: PotLoad, outer: str, place: Place) -> list[Link]:
    """Vapour before it boils: into the open, or into a closed space, where it comes down on the cover or leaks out; steam likewise."""
    closed, open_m2 = place.closed, load.top_m2 * load.free_share
    if closed is None:
        return [Link("vapour", Law.EVAPORATE, outer, AIR, (load.top_m2, load.free_share), STEAM_ACCOUNT)]
    numbers = (open_m2, *closed.numbers)
    return [
        Link("vapour on the cover", Law.VAPOUR_KEPT, outer, closed.cover, numbers, beside=place.air),
        Link("vapour lost", Law.VAPOUR_LOST, outer, AIR, numbers, STEAM_ACCOUNT, beside=place.air, also=closed.cover),
        *(
            Link(
                f"{part} steam on the cover",
                Law.CONDENSED,
                STEAM,
                closed.cover,
                numbers,
                STEAM_ACCOUNT,
                beside=place.air,
                also=part,
            )
            for part in dict.fromkeys((outer, CONTENTS))
        ),
    ]


def core_w_k(load: PotLoad) -> float:
    """Conductance between the outer and the inner half of pieces or of a loaf, W/K.

    Chosen so that the inner half follows with the first time constant of a sphere, d²/(4 π² α), or for what lies as one
    slab in its tin d²/(π² α) (Carslaw & Jaeger 1959, first terms of their series).
    """
    volume, k = load.food_kg / load.contents.density_kg_m3, load.contents.conductivity_w_mk
    if load.is_slab:
        return 0.5 * math.pi**2 * k * volume / _slab_m(load) ** 2
    return 2.0 * math.pi**2 * k * volume / load.contents.piece_m**2


def crust_w_k(load: PotLoad) -> float:
    """From the middle of a crust to the middle of what is between it and the core, W/K: straight through so much of the loaf."""
    volume, k = load.food_kg / load.contents.density_kg_m3, load.contents.conductivity_w_mk
    area = volume / _slab_m(load) * 2.0
    deep = volume / area * (1.0 - CORE_SHARE) / 2.0
    return k * area / deep


def _slab_m(load: PotLoad) -> float:
    return min(load.contents.piece_m, load.food_kg / load.contents.density_kg_m3 / load.top_m2)
