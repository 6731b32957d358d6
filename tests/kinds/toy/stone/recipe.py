"""The stone as a network: one node between sun, wind, sky and ground."""

from __future__ import annotations

from drylamp.core.builds.stone.optics import STONE, StoneOptics
from drylamp.core.builds.stone.spec import Stone

from drylamp.core.builds.kind import Stuff, Surface
from drylamp.core.checks import require
from drylamp.core.common.open_air import TO_AIR, glow_links
from drylamp.core.heat.law import Law
from drylamp.core.heat.network import Network
from drylamp.core.heat.parts import AIR, GROUND, Link, Node
from drylamp.core.loads.common.body import Place
from drylamp.core.loads.load import Load

GROUND_W_M2K = 5.0
"""Between stone and soil; from memory."""


def check_size(build: Stone, load: Load) -> None:
    """No bowl, and nothing over the edge."""
    require(load.envelope is None, "load.under", "a bowl was given; a stone takes none, leave it off")
    covered = sum(body.foot_m2 for body in load.bodies_on(build.floor_m))
    room = build.floor_m[0] * build.floor_m[1]
    require(covered <= room, "load", f"{covered:.3f} m² would lie on {room:.3f} m² of stone; take less")


def network_of(build: Stone, load: Load | None, _: StoneOptics) -> Network:
    """One node, and what lies on it."""
    area, row = build.opening_m2, build.of.row
    covered = 0.0 if load is None else sum(body.foot_m2 for body in load.bodies_on(build.floor_m))
    free = area - covered
    nodes = [Node(STONE, area * build.of.thickness_m * row.density_kg_m3 * row.cp_j_kgk, "stone", role="absorber")]
    links = [
        Link("stone wind", Law.WIND, STONE, AIR, (free,), TO_AIR, calibrated_by="loss"),
        Link("stone to ground", Law.CONDUCTANCE, STONE, GROUND, (GROUND_W_M2K * area,), "ground"),
        *glow_links(STONE, free, build.row.emittance, free),
    ]
    if load is not None:
        more_nodes, more_links = load.inside(Place(AIR, STONE, True, 0.0, build.floor_m, TO_AIR))
        nodes, links = [*more_nodes, *nodes], [*more_links, *links]
        for body in load.bodies_on(build.floor_m):
            links += glow_links(body.node, body.hull_m2, body.emittance, body.hull_m2)
    return Network(tuple(nodes), tuple(links))


def stuffs(build: Stone) -> list[Stuff]:
    """Its paint."""
    return [Stuff("stone", STONE, build.row)]


def surfaces(build: Stone) -> dict[str, Surface]:
    """It lies open."""
    return {STONE: Surface(build.row.emittance)}
