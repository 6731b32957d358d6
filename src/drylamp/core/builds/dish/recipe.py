"""The dish's recipe: a pot in the open air at the focus, on a ring."""

from __future__ import annotations

import math

from drylamp.core.builds.dish.optics import EMPTY_POT, HOLDER, DishOptics
from drylamp.core.builds.dish.spec import Dish
from drylamp.core.builds.kind import Stuff, Surface
from drylamp.core.checks import require
from drylamp.core.common.open_air import TO_AIR, glow_links
from drylamp.core.heat.law import Law
from drylamp.core.heat.network import Network
from drylamp.core.heat.parts import AIR, Link, Node
from drylamp.core.loads.common.body import BOWL, Place
from drylamp.core.loads.load import Load, standing_on

HOLDER_J_K = 300.0
"""A ring of bar steel, about 0.6 kg; from memory."""
HOLDER_M2 = 0.05
SKY_SHARE = 0.55
"""Share of the sky in what the pot sees, the sky in the mirror counted; from memory."""
LARGEST_POT_SHARE = 0.5


def check_size(build: Dish, load: Load) -> None:
    """Refuse a pot that shades half the dish.

    Raises
    ------
    InputProblem
        it does.
    """
    stands = standing_on(load, build.floor_m)
    across, most = 0.0 if stands is None else stands[0], LARGEST_POT_SHARE * build.diameter_m
    require(
        across <= most,
        f"load.{load.size_fields[0]}",
        f"{across:g} m was given; allowed is up to {most:g} m, or it shades the dish",
    )


def network_of(build: Dish, load: Load | None, _: DishOptics) -> Network:
    """The network of a dish, with or without a pot."""
    area = HOLDER_M2 if load is not None else math.pi * EMPTY_POT[0] * (EMPTY_POT[1] + EMPTY_POT[0] / 2)
    nodes = [Node(HOLDER, HOLDER_J_K, "ring at the focus")]
    links = [
        Link("ring wind", Law.WIND, HOLDER, AIR, (area,), TO_AIR, calibrated_by="loss"),
        *glow_links(HOLDER, area, 0.8, SKY_SHARE * area),
    ]
    if load is not None:
        more_nodes, more_links = load.inside(Place(AIR, HOLDER, True, 0.0, build.floor_m, TO_AIR, "ring"))
        nodes, links = [*more_nodes, *nodes], [*more_links, *links]
        if load.envelope is not None:
            links += glow_links(BOWL, load.envelope.hull_m2, load.envelope.emittance, SKY_SHARE * load.envelope.hull_m2)
        else:
            for body in load.bodies_on(build.floor_m):
                links += glow_links(body.node, body.hull_m2, body.emittance, SKY_SHARE * body.hull_m2)
    return Network(tuple(nodes), tuple(links))


def stuffs(build: Dish) -> list[Stuff]:
    """Nothing: the mirror itself stays cool, and the ring is steel."""
    return []


def surfaces(build: Dish) -> dict[str, Surface]:
    """Nothing that can be read from outside: what shines back is the mirror's image."""
    return {}
