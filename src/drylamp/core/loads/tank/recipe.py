"""A tank on a loop as a part of a network."""

from __future__ import annotations

from itertools import pairwise

from drylamp.core.air.constants import CP_WATER_J_KGK
from drylamp.core.air.draught import FlowPath
from drylamp.core.checks import require
from drylamp.core.heat.law import Law
from drylamp.core.heat.parts import AIR, MAINS, Link, Node
from drylamp.core.heat.pipes import Stream
from drylamp.core.loads.common.filling import DRAWN, TOP
from drylamp.core.loads.common.loop.ends import StoreEnds
from drylamp.core.loads.common.loop.plumbing import round_through
from drylamp.core.loads.common.plumbing import Plumbed
from drylamp.core.loads.tank.spec import STORE, SWELLS_SHARE, TAPPED, VESSEL, LoopTank

AT_VESSEL_KG = 0.3
"""Water that mixes where the vessel hangs; from memory."""
TURNED_OVER_W_M2K = 2000.0
"""How fast layers that stand upside down turn over, by square metre: enough to hold them within a tenth of a kelvin."""


def plumbed(tank: LoopTank, stream: Stream) -> Plumbed:
    """Round through the tank; cold water comes in below for what is drawn on top."""
    ends = tank.ends
    loop = round_through(tank, stream, ends)
    coiled = _exchanger(tank, ends, loop.stream)
    names, area = tank.filling.names, tank.floor_m2
    nodes = tuple(
        Node(name, tank.fill_l / tank.layers * CP_WATER_J_KGK, title, role="wanted" if name == TOP else "caught")
        for name, title in zip(names, tank.filling.titles, strict=True)
    )
    turns = (area, tank.tall_m / tank.layers, TURNED_OVER_W_M2K * area)
    links = [
        *(Link(f"{name} through the lagging", Law.CONDUCTANCE, name, AIR, (tank.loses_w_k / tank.layers,), STORE) for name in names),
        *(Link(f"{upper} on {lower}", Law.MIXING, upper, lower, turns) for upper, lower in pairwise(names)),
        *(
            Link(f"drawn {k}", Law.CARRIED, a, b, (), TAPPED if MAINS in (a, b) else "", path=DRAWN)
            for k, (a, b) in enumerate(pairwise([MAINS, *reversed(names), MAINS]))
        ),
    ]  # fmt: skip
    tap = FlowPath(DRAWN, (), (), MAINS, fluid="water", given_kg_s=1.0)
    return Plumbed(
        loop.stream, (*loop.nodes, *nodes, *coiled[0]), (*loop.links, *links, *coiled[1]), (*loop.paths, tap)
    )


def _exchanger(tank: LoopTank, ends: StoreEnds, stream: Stream) -> tuple[list[Node], list[Link]]:
    """A coil's wall in pieces in the layers that it passes, and a little of the closed loop's water where its vessel hangs.

    Raises
    ------
    InputProblem
        its water has no room to expand.
    """
    made = tank.exchanger
    if made is None:
        return [], []
    needs = SWELLS_SHARE * stream.water_kg
    require(
        made.vessel_l >= needs, "load.exchanger.vessel_l",
        f"{made.vessel_l:g} litres were given; a closed loop with {stream.water_kg:.0f} litres in it swells by {needs:.1f}, and bursts without room and a relief valve",
    )  # fmt: skip
    coil = made.coil
    nodes = [Node(VESSEL, AT_VESSEL_KG * CP_WATER_J_KGK, "water at the expansion vessel")]
    nodes += [
        Node(piece.node, coil.wall_j_mk * piece.length_m, "wall of the coil in the tank") for piece in ends.inside
    ]
    beside = StoreEnds(tank.filling.names, tank.tall_m, ends.takes_m, ends.gives_m).way
    links = [
        Link(name, Law.IMMERSED, piece.node, layer, (coil.outer_m2_m * piece.length_m, coil.outer_mm / 1000.0))
        for name, piece, layer in zip(ends.gives, ends.inside, beside, strict=True)
    ]
    return nodes, links
