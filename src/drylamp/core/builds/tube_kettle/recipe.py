"""The tube kettle's recipe: water behind the coat, the coat in its vacuum, the glass in the wind, the mouth in its holder."""

from __future__ import annotations

import math

from drylamp.core.builds.common.vacuum_tube.links import glass_outside, through_vacuum
from drylamp.core.builds.kind import Stuff, Surface
from drylamp.core.builds.tube_kettle.optics import COAT, DRY, GLASS, WINGS, KettleOptics, wet_share
from drylamp.core.builds.tube_kettle.spec import TubeKettle
from drylamp.core.checks import InputProblem, require
from drylamp.core.common.open_air import open_links
from drylamp.core.heat.law import Law
from drylamp.core.heat.network import Network
from drylamp.core.heat.parts import AIR, Link, Node
from drylamp.core.loads.common.body import Place
from drylamp.core.loads.common.filling import TOP
from drylamp.core.loads.load import Load

COVER, MOUTH, OFF_WINGS = "cover", "leak", "wings"
HOLDER = "holder"
HOLDER_J_K, SMALLEST_J_K = 60.0, 5.0
"""A printed ring of some 40 g; from memory."""
IN_WINGS_SHELTER = 0.3
"""Share of the wind that opened wings keep off; from memory."""
STEAMY_W_M2K = 3.0
"""Dry glass over the water: damp air between; from memory."""
BRIM_SHARE = 0.98


def check_size(build: TubeKettle, load: Load) -> None:
    """Refuse more water than the tube holds, and a stopper that lets no steam out.

    Raises
    ------
    InputProblem
        says what it holds, or what to do.
    """
    assert load.filling is not None
    litres, most = load.filling.litres, build.tube.holds_l * BRIM_SHARE
    require(
        litres <= most, "load.fill_l",
        f"{litres:g} litres were given; the tube holds {most:.2f} with room to boil, so pour in less or take a longer tube",
    )  # fmt: skip
    if build.stopper == "tight":
        raise InputProblem(
            "spec.stopper",
            "a filled tube shut tight has no vent and bursts when it boils; lay the stopper on so that steam gets out",
        )


def network_of(build: TubeKettle, load: Load | None, optics: KettleOptics) -> Network:
    """The network of a kettle, empty or filled."""
    nodes, links = _tube(build, wet_share(build, load))
    if build.wings is not None:
        more_nodes, more_links = _wings(build)
        nodes, links = [*nodes, *more_nodes], [*links, *more_links]
    inner = COAT
    if load is not None:
        more_nodes, more_links = load.inside(Place(AIR, COAT, floor_m=build.floor_m))
        nodes, links, inner = (
            [*more_nodes, *nodes],
            [*more_links, *links, *_to_water(build, wet_share(build, load))],
            TOP,
        )
    half = 2.0 * build.tube.end_w_k
    links += [
        Link("into the mouth", Law.CONDUCTANCE, inner, HOLDER, (half,), calibrated_by="loss"),
        Link("mouth to air", Law.CONDUCTANCE, HOLDER, AIR, (half,), MOUTH, calibrated_by="loss"),
    ]
    return Network(tuple(nodes), tuple(links))


def _tube(build: TubeKettle, wet: float) -> tuple[list[Node], list[Link]]:
    tube, nodes, links = build.tube, list[Node](), list[Link]()
    parts = [(COAT, wet, "coat of the tube")] + ([(DRY, 1.0 - wet, "coat over the water")] if wet < 1.0 else [])
    for name, share, title in parts:
        nodes.append(
            Node(name, max(tube.coat_j_k * share, SMALLEST_J_K), title, role="absorber" if name == COAT else "inner")
        )
        links += through_vacuum(tube, name, GLASS, share)
    nodes.append(Node(GLASS, max(tube.glass_j_k, SMALLEST_J_K), "outer glass", role="pane"))
    nodes.append(Node(HOLDER, HOLDER_J_K, "holder at the mouth", role="wall"))
    shelter = 0.0 if build.wings is None else IN_WINGS_SHELTER
    return nodes, links + glass_outside(tube, GLASS, 1.0, shelter, COVER)


def _to_water(build: TubeKettle, wet: float) -> list[Link]:
    tube = build.tube
    inner_m2 = math.pi * tube.bore_m * tube.length_m
    up = math.sin(math.radians(build.tilt_deg)) if build.lies == "up" else 0.0
    tall = max(tube.length_m * wet * up, tube.bore_m)
    links = [Link("coat to water", Law.WETTED, COAT, TOP, (inner_m2 * wet, tall, 0.0))]
    if wet < 1.0:
        links.append(Link("dry coat to water", Law.CONDUCTANCE, DRY, TOP, (STEAMY_W_M2K * inner_m2 * (1.0 - wet),)))
    return links


def _wings(build: TubeKettle) -> tuple[list[Node], list[Link]]:
    """Both wings, which the sun warms and both sides of which the wind cools."""
    wings = build.wings
    assert wings is not None
    row, area = wings.backing_row, 2.0 * wings.sheet_m * build.tube.lit_m
    heat = row.usual_thickness_m * row.density_kg_m3 * row.cp_j_kgk * area
    node = Node(WINGS, max(heat, SMALLEST_J_K), "wings", role="wall")
    return [node], open_links(WINGS, (2.0 * area,), area, row.emittance, area / 2.0, OFF_WINGS)


def stuffs(build: TubeKettle) -> list[Stuff]:
    """Everything that can spoil with heat."""
    out = [
        Stuff("tube", COAT, build.tube.coat_row),
        Stuff("tube", GLASS, build.tube.row),
        Stuff("holder", HOLDER, build.holder_row),
    ]
    if build.wings is not None:
        out += [Stuff("mirror", WINGS, build.wings.row), Stuff("mirror", WINGS, build.wings.backing_row)]
    return out


def surfaces(build: TubeKettle) -> dict[str, Surface]:
    """Glass and holder."""
    return {GLASS: Surface(build.tube.row.emittance), HOLDER: Surface(build.holder_row.emittance)}
