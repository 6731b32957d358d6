"""A coil as a stream of water along nodes of its wall, and a network with such a stream."""

from __future__ import annotations

from collections.abc import Sequence

from drylamp.core.common.coil import Coil
from drylamp.core.heat.network import Network
from drylamp.core.heat.parts import MAINS, Link, Node, Role
from drylamp.core.heat.pipes import Piece, Stream
from drylamp.core.loads.load import Load


def coil_stream(
    name: str, coil: Coil, walls: Sequence[str], length_m: float, account: str, title: str, tubes: int = 1, role: Role = "vessel",
    up_m: float = 0.0,
) -> Stream:  # fmt: skip
    """Mains along so many metres of its pipe, shared out evenly among the nodes of its wall; it ends so much higher than it begins."""
    pieces = tuple(Piece(node, length_m / len(walls), up_m / len(walls)) for node in walls)
    return Stream(
        name, pieces, coil.free_mm / 1000.0, coil.wall_m + coil.lime_mm / 1000.0, coil.skin_w_mk, MAINS, tubes=tubes, title=title, account=account,
        role=role,
    )  # fmt: skip


def piped(nodes: Sequence[Node], links: Sequence[Link], load: Load | None, stream: Stream) -> Network:
    """A build with a pipe, dry or with what a load lets through it."""
    if load is None:
        return Network(tuple(nodes), tuple(links))
    made = load.plumbed(stream)
    return Network((*nodes, *made.nodes), (*links, *made.links), made.paths, (made.stream,))
