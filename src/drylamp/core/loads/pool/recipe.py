"""Open water on a loop as a part of a network: what its surface, its walls and its floor lose, and what comes into it."""

from __future__ import annotations

from drylamp.core.air.constants import CP_AIR, CP_WATER_J_KGK
from drylamp.core.air.draught import FlowPath
from drylamp.core.common.open_air import open_links
from drylamp.core.heat.law import Law
from drylamp.core.heat.parts import AIR, GROUND, MAINS, Link, Node
from drylamp.core.heat.pipes import Stream
from drylamp.core.loads.common.filling import TOP
from drylamp.core.loads.common.loop.plumbing import round_through
from drylamp.core.loads.common.plumbing import Plumbed
from drylamp.core.loads.pool.spec import (
    AS_VAPOUR,
    BARE_W_M2K,
    BATHER_W,
    BATHERS,
    BY_BATHERS,
    COVERED,
    HELD_J_K,
    NEW_WATER,
    OUTSIDE,
    RENEWED,
    SURFACE_J_M2K,
    TO_AIR,
    TO_GROUND,
    TO_SKY,
    WATER_EMITTANCE,
    Pool,
)


def plumbed(pool: Pool, stream: Stream) -> Plumbed:
    """Round through the water, which loses upward, through its walls, and into the ground."""
    loop = round_through(pool, stream, pool.ends)
    heat = pool.fill_l * CP_WATER_J_KGK if pool.held_at_c is None else HELD_J_K
    air, ground = pool.loses_w_k
    upper, over, off = _surface(pool)
    nodes = (Node(TOP, heat, "water", role="wanted"), *upper)
    links = (
        *over,
        Link("through its walls", Law.CONDUCTANCE, TOP, AIR, (air,), TO_AIR),
        Link("into the ground", Law.CONDUCTANCE, TOP, GROUND, (ground,), TO_GROUND),
        Link("fresh water in", Law.CARRIED, MAINS, TOP, (), NEW_WATER, path=RENEWED),
        Link("old water out", Law.CARRIED, TOP, MAINS, (), NEW_WATER, path=RENEWED),
        Link("heat of bathers", Law.DRIVEN, AIR, TOP, (BATHER_W,), BY_BATHERS, path=BATHERS),
    )
    paths = (
        FlowPath(RENEWED, (), (), MAINS, fluid="water", given_kg_s=1.0),
        FlowPath(BATHERS, (), (), AIR, given_kg_s=1.0 / CP_AIR),
        *off,
    )
    return Plumbed(loop.stream, (*loop.nodes, *nodes), (*loop.links, *links), (*loop.paths, *paths))


def _surface(pool: Pool) -> tuple[tuple[Node, ...], tuple[Link, ...], tuple[FlowPath, ...]]:
    """What it gives to air and sky: itself where nothing ever lies on it, else by way of the outside of what does."""
    area, seen = pool.surface_m2, pool.surface_m2 * (1.0 - pool.shaded_share)
    on = pool.on_water
    skin = TOP if on is None else OUTSIDE
    shone = open_links(skin, (area, pool.shelter_share), area, WATER_EMITTANCE, seen, TO_AIR, TO_SKY)
    if on is None:
        vapour = Link(
            "vapour off the water",
            Law.OPEN_WATER,
            TOP,
            AIR,
            (area, 1.0, pool.shelter_share),
            AS_VAPOUR,
            calibrated_by="loss",
        )
        return (), (*shone, vapour), ()
    row = on.row
    lifted = BARE_W_M2K - row.w_m2k
    node = Node(OUTSIDE, SURFACE_J_M2K * area, "outside of the cover, or the water's skin", role="pane")
    leaks = (area, row.open_share, pool.shelter_share)
    links = (
        *shone,
        Link("through the cover", Law.CONDUCTANCE, TOP, OUTSIDE, (row.w_m2k * area,)),
        Link("bare, up", Law.CARRIED, TOP, OUTSIDE, (), path=COVERED),
        Link("bare, down", Law.CARRIED, OUTSIDE, TOP, (), path=COVERED),
        Link("vapour past the cover", Law.OPEN_WATER, TOP, AIR, leaks, AS_VAPOUR, calibrated_by="loss"),
        Link(
            "vapour off the bare water", Law.AIRED_WATER, OUTSIDE, AIR, (1.0 / lifted, 1.0 - row.open_share, pool.shelter_share), AS_VAPOUR,
            path=COVERED, calibrated_by="loss",
        ),
    )  # fmt: skip
    return (node,), links, (FlowPath(COVERED, (), (), AIR, given_kg_s=lifted * area / CP_AIR),)
