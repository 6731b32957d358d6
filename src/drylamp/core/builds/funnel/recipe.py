"""The funnel's recipe: pot (and bag or bowl) in the open air behind a sheltering wall, on a trivet over the bottom."""

from __future__ import annotations

from drylamp.core.builds.funnel.optics import BASE, STANDING, FunnelOptics, standing
from drylamp.core.builds.funnel.spec import Funnel
from drylamp.core.builds.kind import Stuff, Surface
from drylamp.core.checks import require
from drylamp.core.common.open_air import TO_AIR, glow_links
from drylamp.core.heat.law import Law
from drylamp.core.heat.network import Network
from drylamp.core.heat.parts import AIR, Link, Node
from drylamp.core.loads.common.body import BOWL, Place
from drylamp.core.loads.load import Load
from drylamp.core.tables import absorber

SHELTER = {"cone": 0.6, "panels": 0.5, "flat": 0.0}
"""Share of the wind that the walls keep off; from memory."""
UNDERSIDE_W_M2K = 8.0
MOST_LEANS_DEG = 70.0
"""A trivet that is wedged in its throat holds a pot upright so far; from memory."""
SMALLEST_J_K = 5.0


def check_size(build: Funnel, load: Load) -> None:
    """Refuse what does not fit the throat.

    Raises
    ------
    InputProblem
        it is too wide, or nothing stands in a funnel that lies on its side.
    """
    require(
        build.lean_deg <= MOST_LEANS_DEG, "spec.tilt_deg",
        f"{build.lean_deg:g}° was given; from {MOST_LEANS_DEG:g}° on nothing stands on its trivet any more. Lean it less, or run it empty",
    )  # fmt: skip
    stands, room = standing(build, load), min(build.floor_m)
    if stands is not None:
        field = f"load.{load.size_fields[0]}" if load.envelope is None else "load.under.diameter_m"
        require(
            stands[0] <= room, field, f"{stands[0]:g} m was given, the bottom is {room:g} m across; take a smaller one"
        )


def network_of(build: Funnel, load: Load | None, optics: FunnelOptics) -> Network:
    """The network of a funnel, with or without a pot."""
    sheet, area = build.sheet.row, build.base_m2
    capacity = area * build.sheet.thickness_m * sheet.density_kg_m3 * sheet.cp_j_kgk
    nodes = [
        Node(BASE, max(capacity, SMALLEST_J_K), "black sheet" if build.shape == "flat" else "bottom", role="absorber")
    ]
    shelter = SHELTER[build.shape]
    covered = 0.0
    if load is not None and load.envelope is not None:
        covered = load.envelope.foot_m2
    elif load is not None:
        covered = sum(body.foot_m2 for body in load.bodies_on(build.floor_m) if not body.stands)
    free = max(area - covered, 0.02 * area)
    below = area / (build.sheet.thickness_m / sheet.conductivity_w_mk + 1 / UNDERSIDE_W_M2K)
    links = [
        Link("bottom wind", Law.WIND, BASE, AIR, (free, shelter), TO_AIR, calibrated_by="loss"),
        Link("bottom below", Law.CONDUCTANCE, BASE, AIR, (below,), TO_AIR, calibrated_by="loss"),
        *glow_links(BASE, free, absorber(build.base).emittance, optics.sky_m2.get(BASE, 0.0)),
    ]
    if load is not None:
        on_trivet = "trivet" if load.takes_trivet and build.trivet_m > 0.005 else "flat"
        place = Place(AIR, BASE, True, shelter, build.floor_m, TO_AIR, on_trivet)
        more_nodes, more_links = load.inside(place)
        nodes, links = [*more_nodes, *nodes], [*more_links, *links, *_glow_of(build, load, optics)]
    return Network(tuple(nodes), tuple(links))


def _glow_of(build: Funnel, load: Load, optics: FunnelOptics) -> list[Link]:
    """Radiation of what stands or lies open: bag or bowl where there is one, else pot or portions."""
    if load.envelope is not None:
        return glow_links(BOWL, load.envelope.hull_m2, load.envelope.emittance, optics.sky_m2.get(STANDING, 0.0))
    out, base_sky = [], optics.sky_m2.get(BASE, 0.0) / build.base_m2
    for body in load.bodies_on(build.floor_m):
        seen = optics.sky_m2.get(STANDING, 0.0) if body.stands else base_sky * body.foot_m2
        out += glow_links(body.node, body.hull_m2, body.emittance, seen)
    return out


def stuffs(build: Funnel) -> list[Stuff]:
    """Everything that can spoil with heat."""
    return [Stuff("base", BASE, absorber(build.base)), Stuff("sheet", BASE, build.sheet.row)]


def surfaces(build: Funnel) -> dict[str, Surface]:
    """The bottom, which lies open."""
    return {BASE: Surface(absorber(build.base).emittance)}
