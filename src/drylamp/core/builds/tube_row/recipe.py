"""A row's recipe: coats in their vacuum, heat pipes, U-pipes or water from them to the header, the header in its wool."""

from __future__ import annotations

import math

from drylamp.core.air.constants import CP_WATER_J_KGK
from drylamp.core.builds.common.coil.head import check_passes, most_l_min
from drylamp.core.builds.common.coil.stream import coil_stream, piped
from drylamp.core.builds.common.vacuum_tube.links import glass_outside, through_vacuum
from drylamp.core.builds.kind import Stuff, Surface
from drylamp.core.builds.tube_row.optics import GLASS, RowOptics, coat_nodes, pieces
from drylamp.core.builds.tube_row.spec import TubeRow
from drylamp.core.common.coil import Coil
from drylamp.core.heat.law import Law
from drylamp.core.heat.network import Network
from drylamp.core.heat.parts import AIR, MAINS, Link, Node
from drylamp.core.heat.pipes import Piece, Stream
from drylamp.core.loads.common.filling import TOP
from drylamp.core.loads.load import Load

COVER, HEADER, TAP = "cover", "header", "tap"
SMALLEST_J_K = 20.0
HEAT_PIPE_W_K = 9.0
"""From the coat by fin and heat pipe into the header, each tube; from memory: some 6 K at 60 W."""
HEAT_PIPE_J_K = 120.0
"""Copper of a heat pipe and its aluminium fin; from memory."""
FIN_W_MK = 4.0
"""From the coat by the aluminium fin to a U-pipe, each metre of pipe; from memory."""
RISING_W_K = 22.0
"""Water that rises out of a filled tube while other sinks in: some 20 kg/h at 700 W/m² (Budihardjo & Morrison 2007, from memory)."""
STILL_W_K = 0.1
"""What a filled or piped tube carries backwards, through still water and glass; from memory."""
U_PIECES = 6


def header_nodes(build: TubeRow) -> list[str]:
    """Pieces of the pipe that the water goes along: the header's, or with U-pipes theirs."""
    return [f"pipe-{k + 1}" for k in range(U_PIECES if build.inside == "u-pipe" else pieces(build))]


def _pipe(build: TubeRow) -> Coil:
    return build.u_pipe if build.inside == "u-pipe" else build.header


def _side_by_side(build: TubeRow) -> int:
    return build.count if build.inside == "u-pipe" else 1


def _length_m(build: TubeRow) -> float:
    return 2.0 * build.tube.lit_m if build.inside == "u-pipe" else build.header_m


def check_size(build: TubeRow, load: Load) -> None:
    """Refuse more flow than its pipes let through, and a loop that cannot be.

    Raises
    ------
    InputProblem
        says how much they do.
    """
    check_passes(load, _pipe(build), _side_by_side(build), _length_m(build))
    load.plumbed(_stream(build))


def passes_l_min(build: TubeRow, load: Load) -> float:
    """Litres a minute that the load's head drives through it."""
    return most_l_min(load, _pipe(build), _side_by_side(build), _length_m(build))


def network_of(build: TubeRow, load: Load | None, optics: RowOptics) -> Network:
    """The network of a row, dry or with water in it."""
    nodes, links = _tubes(build)
    more_nodes, more_links = _header(build)
    nodes, links = [*nodes, *more_nodes], [*links, *more_links]
    wet = load is not None and build.inside == "filled"
    for k, coat in enumerate(coat_nodes(build)):
        more_nodes, more_links = _inside(build, coat, k, wet)
        nodes, links = [*nodes, *more_nodes], [*links, *more_links]
    return piped(nodes, links, load, _stream(build))


def _stream(build: TubeRow) -> Stream:
    """Along the header, level; or down and up again in each tube's U."""
    pipe, names = _pipe(build), header_nodes(build)
    if build.inside != "u-pipe":
        return coil_stream(TOP, pipe, names, _length_m(build), TAP, "water in the header", 1, "wanted")
    each, up = _length_m(build) / U_PIECES, 2.0 * build.tube.lit_m * math.sin(math.radians(build.tilt_deg)) / U_PIECES
    walls = tuple(Piece(name, each, -up if k < U_PIECES // 2 else up) for k, name in enumerate(names))
    return Stream(
        TOP, walls, pipe.free_mm / 1000.0, pipe.wall_m + pipe.lime_mm / 1000.0, pipe.skin_w_mk, MAINS, tubes=build.count, title="water in the U-pipes", account=TAP,
        role="wanted",
    )  # fmt: skip


def _tubes(build: TubeRow) -> tuple[list[Node], list[Link]]:
    tube, names = build.tube, coat_nodes(build)
    each = build.count / len(names)
    nodes, links = list[Node](), list[Link]()
    for k, name in enumerate(names):
        title = "coats of the tubes" if len(names) == 1 else f"coats, group {k + 1} of {len(names)}"
        nodes.append(
            Node(
                name,
                max(tube.coat_j_k * each, SMALLEST_J_K),
                title,
                role="absorber" if k == len(names) - 1 else "inner",
            )
        )
        links += through_vacuum(tube, name, GLASS, each)
        links.append(
            Link(
                f"{name} at the mouths", Law.CONDUCTANCE, name, AIR, (tube.end_w_k * each,), COVER, calibrated_by="loss"
            )
        )
    nodes.append(Node(GLASS, max(tube.glass_j_k * build.count, SMALLEST_J_K), "outer glass", role="pane"))
    return nodes, links + glass_outside(tube, GLASS, float(build.count), 0.0, COVER)


def _header(build: TubeRow) -> tuple[list[Node], list[Link]]:
    """The pipe in its wool; with U-pipes the wool is round the headers at their ends."""
    names, pipe = header_nodes(build), _pipe(build)
    metres = _length_m(build) * _side_by_side(build) / len(names)
    loses = build.header_loses_w_mk * build.header_m * (2.0 if build.inside == "u-pipe" else 1.0) / len(names)
    word = "U-pipes" if build.inside == "u-pipe" else "header"
    nodes = [
        Node(
            name,
            max(pipe.wall_j_mk * metres, SMALLEST_J_K),
            f"{word}, piece {k + 1} of {len(names)}",
            role="vessel" if k == len(names) - 1 else "inner",
        )
        for k, name in enumerate(names)
    ]
    return nodes, [
        Link(f"{name} through the wool", Law.CONDUCTANCE, name, AIR, (loses,), HEADER, calibrated_by="loss")
        for name in names
    ]


def _inside(build: TubeRow, coat: str, k: int, wet: bool) -> tuple[list[Node], list[Link]]:
    """From the coat of a group to the header."""
    tube, each, pipes = build.tube, build.count / pieces(build), header_nodes(build)
    if build.inside == "u-pipe":
        fins = FIN_W_MK * _length_m(build) * build.count / len(pipes)
        return [], [
            Link(f"fins to {name}", Law.CONDUCTANCE, coat, name, (fins,), calibrated_by="contact") for name in pipes
        ]
    back = Link(f"{coat} by the neck", Law.CONDUCTANCE, coat, pipes[k], (STILL_W_K * each,))
    if build.inside == "heat-pipe":
        pipe = f"heat-pipe-{k + 1}"
        node = Node(pipe, HEAT_PIPE_J_K * each, "heat pipes and their fins")
        fin = Link(
            f"{coat} to its fins", Law.CONDUCTANCE, coat, pipe, (2.0 * HEAT_PIPE_W_K * each,), calibrated_by="contact"
        )
        return [node], [
            fin,
            Link(
                f"{pipe} to the header",
                Law.ONE_WAY,
                pipe,
                pipes[k],
                (2.0 * HEAT_PIPE_W_K * each,),
                calibrated_by="contact",
            ),
            back,
        ]
    if not wet:
        return [], [back]
    inner = f"inner-{k + 1}"
    node = Node(inner, tube.holds_l * each * CP_WATER_J_KGK, "water in the tubes")
    inner_m2 = math.pi * tube.bore_m * tube.length_m * each
    tall = max(tube.length_m * math.sin(math.radians(build.tilt_deg)), tube.bore_m)
    return [node], [
        Link(f"{coat} to its water", Law.WETTED, coat, inner, (inner_m2, tall, 0.0)),
        Link(f"{inner} rises to the header", Law.ONE_WAY, inner, pipes[k], (RISING_W_K * each,)),
        Link(f"{inner} by the neck", Law.CONDUCTANCE, inner, pipes[k], (STILL_W_K * each,)),
    ]


def stuffs(build: TubeRow) -> list[Stuff]:
    """Everything that can spoil with heat."""
    return [
        Stuff("tube", coat_nodes(build)[-1], build.tube.coat_row), Stuff("tube", GLASS, build.tube.row), Stuff("header", header_nodes(build)[-1], _pipe(build).row.skin),
    ]  # fmt: skip


def surfaces(build: TubeRow) -> dict[str, Surface]:
    """The outer glass."""
    return {GLASS: Surface(build.tube.row.emittance)}
