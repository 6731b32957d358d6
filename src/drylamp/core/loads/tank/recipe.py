"""A tank on a loop as a part of a network."""

from __future__ import annotations

from itertools import pairwise

from drylamp.core.air.constants import CP_WATER_J_KGK
from drylamp.core.air.draught import FlowPath
from drylamp.core.heat.law import Law
from drylamp.core.heat.parts import AIR, MAINS, Link, Node
from drylamp.core.heat.pipes import Stream
from drylamp.core.loads.common.filling import DRAWN, TOP
from drylamp.core.loads.common.loop.plumbing import round_through
from drylamp.core.loads.common.plumbing import Plumbed
from drylamp.core.loads.tank.spec import STORE, TAPPED, LoopTank

TURNED_OVER_W_M2K = 2000.0
"""How fast layers that stand upside down turn over, by square metre: enough to hold them within a tenth of a kelvin."""


def plumbed(tank: LoopTank, stream: Stream) -> Plumbed:
    """Round through the tank; cold water comes in below for what is drawn on top."""
    loop = round_through(tank, stream, tank.ends)
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
    return Plumbed(loop.stream, (*loop.nodes, *nodes), (*loop.links, *links), (*loop.paths, tap))
