"""The dish's recipe: a pot in the open air at the focus, on a ring."""

from __future__ import annotations

import math

from drylamp.core.builds.dish import Dish
from drylamp.core.builds.dish_optics import EMPTY_POT, HOLDER, DishOptics
from drylamp.core.builds.open_air import TO_AIR, glow_links
from drylamp.core.checks import require
from drylamp.core.heat.laws import Law
from drylamp.core.heat.network import AIR, Link, Network, Node
from drylamp.core.loads.body import BOWL, Place
from drylamp.core.loads.load import AnyLoad
from drylamp.core.tables import Row

HOLDER_J_K = 300.0
"""A ring of bar steel, about 0.6 kg; from memory."""
HOLDER_M2 = 0.05
SKY_SHARE = 0.55
"""Share of the sky in what the pot sees, the sky in the mirror counted; from memory."""
LARGEST_POT_SHARE = 0.5


def check_fit(build: Dish, load: AnyLoad | None) -> None:
    """Refuse what no ring at a focus holds.

    Raises:
        InputProblem: no pot, or one that shades half the dish.
    """
    if load is None:
        return
    require(
        load.kind == "pot", "load", "a dish heats a pot at its focus; give a pot, portions and wax belong into a box"
    )
    bodies = load.bodies_on(build.floor_m)
    most = LARGEST_POT_SHARE * build.diameter_m
    across = bodies[0].diameter_m if load.under is None else load.under.diameter_m
    require(
        across <= most,
        "load.pot_diameter_m",
        f"{across:g} m was given; allowed is up to {most:g} m, or it shades the dish",
    )


def network_of(build: Dish, load: AnyLoad | None, _: DishOptics) -> Network:
    """The network of a dish, with or without a pot.

    Raises:
        InputProblem: the pot does not fit.
    """
    check_fit(build, load)
    area = HOLDER_M2 if load is not None else math.pi * EMPTY_POT[0] * (EMPTY_POT[1] + EMPTY_POT[0] / 2)
    nodes = [Node(HOLDER, HOLDER_J_K, "ring at the focus")]
    links = [
        Link("ring wind", Law.WIND, HOLDER, AIR, (area,), TO_AIR, tuned_by="loss"),
        *glow_links(HOLDER, area, 0.8, SKY_SHARE * area),
    ]
    if load is not None:
        more_nodes, more_links = load.inside(Place(AIR, HOLDER, True, 0.0, build.floor_m, TO_AIR, 6.0))
        nodes, links = [*more_nodes, *nodes], [*more_links, *links]
        if load.under is not None:
            links += glow_links(BOWL, load.under.hull_m2, load.under.emittance, SKY_SHARE * load.under.hull_m2)
        else:
            for body in load.bodies_on(build.floor_m):
                links += glow_links(body.node, body.hull_m2, body.emittance, SKY_SHARE * body.hull_m2)
    return Network(tuple(nodes), tuple(links))


def materials(build: Dish) -> list[tuple[str, str, Row]]:
    """(part, node, material): the mirror itself stays cool; nothing else of it stands in the light."""
    return []
