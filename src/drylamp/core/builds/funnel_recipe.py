"""The funnel's recipe: pot (and bag or bowl) in the open air behind a sheltering wall, on a trivet over the bottom."""

from __future__ import annotations

from drylamp.core.builds.funnel import Funnel
from drylamp.core.builds.funnel_optics import BASE, FunnelOptics, standing
from drylamp.core.builds.open_air import TO_AIR, glow_links
from drylamp.core.checks import require
from drylamp.core.heat.laws import Law
from drylamp.core.heat.network import AIR, Link, Network, Node
from drylamp.core.loads.body import BOWL, Place
from drylamp.core.loads.load import AnyLoad
from drylamp.core.tables import Row, absorber

SHELTER = {"cone": 0.6, "panels": 0.5, "flat": 0.0}
"""Share of the wind that the walls keep off; from memory."""
TRIVET_W_M2K = 4.0
"""Legs of wire and the air under a pot; from memory."""
UNDERSIDE_W_M2K = 8.0
SMALLEST_J_K = 5.0


def check_fit(build: Funnel, load: AnyLoad | None) -> None:
    """Refuse what does not fit the throat.

    Raises:
        InputProblem: too wide, or a batch of wax.
    """
    if load is None:
        return
    require(load.kind != "wax", "load", "a batch of wax was given; it belongs into a melter, take a pot or portions")
    stands, room = standing(build, load), min(build.floor_m)
    if stands is not None:
        field = "load.pot_diameter_m" if load.under is None else "load.under.diameter_m"
        require(
            stands[0] <= room, field, f"{stands[0]:g} m was given, the bottom is {room:g} m across; take a smaller one"
        )


def network_of(build: Funnel, load: AnyLoad | None, optics: FunnelOptics) -> Network:
    """The network of a funnel, with or without a pot.

    Raises:
        InputProblem: the pot does not fit.
    """
    check_fit(build, load)
    sheet, area = build.sheet.row, build.base_m2
    capacity = area * build.sheet.thickness_m * sheet.density_kg_m3 * sheet.cp_j_kgk
    nodes = [Node(BASE, max(capacity, SMALLEST_J_K), "black sheet" if build.shape == "flat" else "bottom")]
    shelter = SHELTER[build.shape]
    covered = 0.0
    if load is not None and load.under is not None:
        covered = load.under.foot_m2
    elif load is not None:
        covered = sum(body.foot_m2 for body in load.bodies_on(build.floor_m) if not body.stands)
    free = max(area - covered, 0.02 * area)
    below = area / (build.sheet.thickness_m / sheet.conductivity_w_mk + 1 / UNDERSIDE_W_M2K)
    links = [
        Link("bottom wind", Law.WIND, BASE, AIR, (free, shelter), TO_AIR, tuned_by="loss"),
        Link("bottom below", Law.CONDUCTANCE, BASE, AIR, (below,), TO_AIR, tuned_by="loss"),
        *glow_links(BASE, free, absorber(build.base).emittance, optics.sky_m2.get(BASE, 0.0)),
    ]
    if load is not None:
        on_trivet = TRIVET_W_M2K if load.kind == "pot" and build.trivet_m > 0.005 else None
        place = Place(AIR, BASE, True, shelter, build.floor_m, TO_AIR, on_trivet)
        more_nodes, more_links = load.inside(place)
        nodes, links = [*more_nodes, *nodes], [*more_links, *links, *_glow_of(build, load, optics)]
    return Network(tuple(nodes), tuple(links))


def _glow_of(build: Funnel, load: AnyLoad, optics: FunnelOptics) -> list[Link]:
    """Radiation of what stands or lies open: bag or bowl where there is one, else pot or portions."""
    if load.under is not None:
        return glow_links(BOWL, load.under.hull_m2, load.under.emittance, optics.sky_m2.get("pot", 0.0))
    out, base_sky = [], optics.sky_m2.get(BASE, 0.0) / build.base_m2
    for body in load.bodies_on(build.floor_m):
        seen = optics.sky_m2.get("pot", 0.0) if body.stands else base_sky * body.foot_m2
        out += glow_links(body.node, body.hull_m2, body.emittance, seen)
    return out


def materials(build: Funnel) -> list[tuple[str, str, Row]]:
    """(part, node, material) of everything that can spoil with heat."""
    return [("base", BASE, absorber(build.base)), ("sheet", BASE, build.sheet.row)]
