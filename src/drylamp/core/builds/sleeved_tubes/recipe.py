"""Sleeved tubes' recipe: pieces of tube, the air in the bottles round them, the card behind, the bottles; bare pipe before and between."""

from __future__ import annotations

import math

from drylamp.core.builds.common.coil.head import check_passes, most_l_min
from drylamp.core.builds.common.coil.stream import piped
from drylamp.core.builds.common.round.links import annulus, between_cylinders
from drylamp.core.builds.kind import Stuff, Surface
from drylamp.core.builds.sleeved_tubes.optics import PIECES, PRE_PIECES, SleeveOptics, pre_nodes, tube_nodes
from drylamp.core.builds.sleeved_tubes.spec import SleevedTubes
from drylamp.core.common.open_air import open_links
from drylamp.core.heat.law import Law
from drylamp.core.heat.network import Network
from drylamp.core.heat.parts import MAINS, Link, Node
from drylamp.core.heat.pipes import Piece, Stream, Tube
from drylamp.core.loads.common.filling import TOP
from drylamp.core.loads.load import Load
from drylamp.core.tables import absorber

COVER, TAP = "cover", "tap"
SMALLEST_J_K = 20.0
SHELTER = 0.2
"""Share of the wind that rows and frame keep off; from memory."""
CARD_J_M2K, CARD_W_M2K = 900.0, 8.0
"""Half a millimetre of carton, and how well it touches the bottle that it lies in; from memory."""
BEHIND_SHARE = 0.5
"""Share of a tube's surface that looks at the card."""
GROUND_SHARE = 0.7
"""Share of bare pipe on the ground that the air meets; from memory."""


def stuffs(build: SleevedTubes) -> list[Stuff]:
    """Everything that can spoil with heat."""
    out = [Stuff("tubes", tube_nodes()[-1], build.row), Stuff("bottles", "sleeve", build.bottles.row)]
    if build.bottles.card is not None:
        out.append(Stuff("bottles", "card", absorber(build.bottles.card)))
    return out


def surfaces(build: SleevedTubes) -> dict[str, Surface]:
    """The bottles; the tubes behind them."""
    tube = Surface(build.row.emittance, behind_cover=True)
    return {tube_nodes()[0]: tube, tube_nodes()[-1]: tube, "sleeve": Surface(build.bottles.row.emittance)}


def check_size(build: SleevedTubes, load: Load) -> None:
    """Refuse more flow than its tubes let through, and a loop that cannot be.

    Raises
    ------
    InputProblem
        says how much they do.
    """
    check_passes(load, build.pipe, build.tubes, build.tube_m)
    load.plumbed(_stream(build))


def passes_l_min(build: SleevedTubes, load: Load) -> float:
    """Litres a minute that the load's head drives through it."""
    return most_l_min(load, build.pipe, build.tubes, build.tube_m)


def network_of(build: SleevedTubes, load: Load | None, optics: SleeveOptics) -> Network:
    """The network of the tubes, dry or with water in them."""
    nodes, links = _in_sleeves(build)
    more_nodes, more_links = _before(build)
    nodes, links = [*more_nodes, *nodes], [*more_links, *links]
    return piped(nodes, links, load, _stream(build))


def _stream(build: SleevedTubes) -> Stream:
    """Bare pipe on the ground first, then the tubes: side by side up the slope, or one after the other, each a pitch higher."""
    up = build.slope_m * math.sin(math.radians(build.tilt_deg))
    pipe, pieces = build.pipe, list[Piece]()
    if build.pre_heat is not None:
        coil = build.pre_heat.coil
        own = Tube(coil.free_mm / 1000.0, coil.wall_m + coil.lime_mm / 1000.0, coil.skin_w_mk)
        pieces += [Piece(name, coil.pipe_m / PRE_PIECES, 0.0, own) for name in pre_nodes(build)]
    pieces += [Piece(name, build.tube_m / PIECES, up / PIECES) for name in tube_nodes()]
    return Stream(
        TOP, tuple(pieces), pipe.free_mm / 1000.0, pipe.wall_m + pipe.lime_mm / 1000.0, pipe.skin_w_mk, MAINS, tubes=build.tubes,
        title="water in the tubes", account=TAP, role="wanted",
    )  # fmt: skip


def _in_sleeves(build: SleevedTubes) -> tuple[list[Node], list[Link]]:
    names, bottles, row = tube_nodes(), build.bottles, build.row
    lit, bare = build.rows * build.lit_m / PIECES, build.rows * 2.0 * build.ends_m / PIECES
    hull, ratio = lit * build.pipe.outer_m2_m, build.diameter_m / build.sleeve_m
    sleeve_m2 = math.pi * build.sleeve_m * build.rows * build.lit_m
    skin = bottles.row
    heat = skin.density_kg_m3 * skin.cp_j_kgk * bottles.wall_mm / 1000.0 * sleeve_m2
    nodes = [
        Node(
            name,
            max(build.pipe.wall_j_mk * (lit + bare), SMALLEST_J_K),
            _title(k),
            role="absorber" if k == PIECES - 1 else "inner",
        )
        for k, name in enumerate(names)
    ]
    nodes.append(Node("sleeve", max(heat, SMALLEST_J_K), "bottles", role="pane"))
    behind = 0.0 if bottles.card is None else BEHIND_SHARE
    links = list[Link]()
    for name in names:
        links += _across(build, name, "sleeve", lit, hull, 1.0 - behind, skin.emittance, ratio)
        if bottles.card is not None:
            links += _across(build, name, "card", lit, hull, behind, absorber(bottles.card).emittance, ratio)
        links += _bare(name, bare * build.pipe.outer_m2_m, row.emittance, 1.0)
    if bottles.card is not None:
        card_m2 = sleeve_m2 * BEHIND_SHARE
        nodes.append(Node("card", max(CARD_J_M2K * card_m2, SMALLEST_J_K), "card in the bottles", role="wall"))
        links.append(Link("card on the bottles", Law.CONDUCTANCE, "card", "sleeve", (CARD_W_M2K * card_m2,)))
    links += _bare("sleeve", sleeve_m2, skin.emittance, (1.0 + math.cos(math.radians(build.tilt_deg))) / 2.0)
    return nodes, links


def _across(
    build: SleevedTubes, name: str, to: str, lit_m: float, hull_m2: float, share: float, emittance: float, ratio: float
) -> list[Link]:
    """From a piece of tube through the air in the bottle, and by long-wave, to so much of what is round it."""
    shines = hull_m2 * share * between_cylinders(build.row.emittance, emittance, ratio)
    return [
        Link(f"{name} through the air to the {to}", Law.ANNULUS, name, to, annulus(lit_m * share, build.diameter_m, build.sleeve_m), calibrated_by="loss"),
        Link(f"{name} shines on the {to}", Law.RADIATION, name, to, (shines,)),
    ]  # fmt: skip


def _bare(name: str, area_m2: float, emittance: float, sky: float) -> list[Link]:
    """What stands in the open, half of what is round looking up; rows and frame keep a fifth of the wind off."""
    return open_links(name, (area_m2, SHELTER), area_m2, emittance, area_m2 * sky / 2.0, COVER)


def _before(build: SleevedTubes) -> tuple[list[Node], list[Link]]:
    if build.pre_heat is None:
        return [], []
    coil, nodes, links = build.pre_heat.coil, list[Node](), list[Link]()
    each = coil.pipe_m / PRE_PIECES
    for k, name in enumerate(pre_nodes(build)):
        nodes.append(Node(name, max(coil.wall_j_mk * each, SMALLEST_J_K), f"coil before the tubes, piece {k + 1}"))
        links += _bare(name, each * coil.outer_m2_m * GROUND_SHARE, coil.row.emittance, 1.0)
    return nodes, links


def _title(k: int) -> str:
    return {0: "tubes at their inlet", PIECES - 1: "tubes at their outlet"}.get(k, f"tubes, piece {k + 1} of {PIECES}")
