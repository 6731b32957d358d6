"""What a load shows to sun and air: standing and lying bodies, and the bag or bowl that may stand over them.

A load says which bodies it has; the build that holds it says what light they get and what they see. What goes on inside
a body, and between it and a bowl, is the load's own affair and the same in every build.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

from drylamp.core.air.constants import CP_AIR
from drylamp.core.heat.law import Law
from drylamp.core.heat.parts import AIR, SKY, Link, Node
from drylamp.core.loads.common.envelope import Envelope
from drylamp.core.tables import contacts

BOWL, BOWL_AIR = "bowl", "bowl-air"
BOWL_LEAK_M = 0.002
"""Mean gap under the rim of a bowl or in the neck of a bag; from memory."""
LIT_SIDE, SHADED_FLOOR = 0.6, 0.35
"""Share of a standing pot's hull that light comes to, and of the floor beside it that it leaves lit; from memory."""


@dataclass(frozen=True)
class Body:
    """One body with one surface temperature.

    Attributes:
        node, title: of its surface
        hull_m2, foot_m2: area in the air, area that touches the floor
        length_m: for natural convection
        absorptance, emittance: of the hull
        diameter_m, height_m: of a standing cylinder; 0 for what lies flat
        across, up: place of the middle of what lies, as shares of the floor from its lower left corner
        wide_m, long_m: size of what lies
        contact: how it touches what it stands on (``tables.contacts``); empty: as things stand at that place
        foot: node that touches the floor, where that is not the surface itself
        path: where in its load what lies keeps ``across`` and ``up``; empty where it cannot be moved
    """

    node: str
    title: str
    hull_m2: float
    foot_m2: float
    length_m: float
    absorptance: float
    emittance: float
    diameter_m: float = 0.0
    height_m: float = 0.0
    across: float = 0.5
    up: float = 0.5
    wide_m: float = 0.0
    long_m: float = 0.0
    contact: str = ""
    path: str = ""
    foot: str = ""

    @property
    def stands(self) -> bool:
        """Whether it is a standing cylinder."""
        return self.height_m > 0


@dataclass(frozen=True)
class ClosedSpace:
    """A space that keeps vapour in: the node of its cover, that one's area, and the cracks by which air goes, or m³/s of it."""

    cover: str
    cover_m2: float
    leak_m2: float
    height_m: float
    given_m3_s: float = 0.0

    @property
    def numbers(self) -> tuple[float, float, float, float]:
        """As the laws of pots take them (``heat.law``)."""
        return self.cover_m2, self.leak_m2, self.height_m, self.given_m3_s


@dataclass(frozen=True)
class Place:
    """Where a load is put.

    Attributes:
        air: node of the air round it, or AIR in the open
        floor: node that it stands on
        in_open: whether wind blows round it
        shelter: share of the wind that is kept off
        floor_m: width and length of the floor
        account: of heat that leaves into the open air
        contact: how things stand there unless they say otherwise
        closed: the closed space that it is; none where vapour goes straight into the open
        slope_deg: of its floor from level
    """

    air: str
    floor: str
    in_open: bool = False
    shelter: float = 0.0
    floor_m: tuple[float, float] = (1.0, 1.0)
    account: str = "cover"
    contact: str = "flat"
    closed: ClosedSpace | None = None
    slope_deg: float = 0.0

    def under(self, envelope: Envelope | None) -> Place:
        """The place under a bag or bowl that stands there; itself without one."""
        if envelope is None:
            return self
        rim = math.pi * envelope.diameter_m * BOWL_LEAK_M
        return Place(
            BOWL_AIR,
            self.floor,
            contact=self.contact,
            closed=ClosedSpace(BOWL, envelope.hull_m2, rim, envelope.height_m),
        )


def surface_link(
    name: str, node: str, place: Place, area_m2: float, length_m: float, facing: float, across_m: float = 0.0
) -> Link:
    """A surface in the air of its place: wind in the open, natural convection inside something; ``across_m`` of what stands there small and round."""
    if place.in_open and across_m > 0.0:
        return Link(name, Law.DOME, node, AIR, (area_m2, across_m, place.shelter), place.account, calibrated_by="loss")
    if place.in_open:
        return Link(name, Law.WIND, node, AIR, (area_m2, place.shelter), place.account, calibrated_by="loss")
    return Link(name, Law.SURFACE, node, place.air, (area_m2, length_m, facing))


def round_bodies(bodies: list[Body], under: Envelope | None, place: Place) -> tuple[list[Node], list[Link]]:
    """Feet on the floor and air round the bodies, with the bag or bowl over them where there is one."""
    air = place.under(under)
    links = []
    for body in bodies:
        foot = body.foot_m2 * contacts()[body.contact or place.contact].w_m2k
        links.append(
            Link(
                f"{place.floor} to {body.node}",
                Law.CONDUCTANCE,
                place.floor,
                body.foot or body.node,
                (foot,),
                calibrated_by="contact",
            )
        )
        facing = 0.0 if body.stands else 1.0
        links.append(
            surface_link(f"{body.node} to air", body.node, air, body.hull_m2, body.length_m, facing, body.diameter_m)
        )
    if under is None:
        return [], links
    nodes, more = bowl_over(bodies, under, place)
    return nodes, links + more


@dataclass(frozen=True)
class Named:
    """What the network calls a bag or bowl, the air under it, and the calibration that scales how well what stands there glows."""

    bowl: str = BOWL
    air: str = BOWL_AIR
    over: str = ""
    glow_by: str = ""


def bowl_over(
    bodies: list[Body], under: Envelope, place: Place, named: Named = Named()
) -> tuple[list[Node], list[Link]]:
    """A bag or bowl, the air under it, and all that passes between them, the bodies, the floor that they stand on and its place."""
    row, hull, bowl, air = under.row, under.hull_m2, named.bowl, named.air
    inside = max(under.foot_m2 * under.height_m, 1e-4)
    nodes = [
        Node(air, max(1.1 * CP_AIR * inside, 5.0), f"air under the {under.title}{named.over}", role="air"),
        Node(
            bowl, max(row.density_kg_m3 * under.thickness_m * hull * row.cp_j_kgk, 5.0), f"{under.title}{named.over}", role="pane"
        ),
    ]  # fmt: skip
    free = max(under.foot_m2 - sum(body.foot_m2 for body in bodies), 1e-4)
    account = place.account
    rim = math.pi * under.diameter_m * BOWL_LEAK_M
    links = [
        Link(f"{bowl} inside", Law.SURFACE, bowl, air, (hull, under.height_m, 0.0)),
        surface_link(f"{bowl} outside", bowl, place, hull, under.height_m, 0.0, under.diameter_m),
        Link(f"{place.floor} to {air}", Law.SURFACE, place.floor, air, (free, under.diameter_m, 1.0)),
        Link(f"{place.floor} shines on {bowl}", Law.RADIATION, place.floor, bowl, (free * row.emittance,)),
        Link(f"{bowl} leak", Law.LEAK, air, place.air, (rim, under.height_m), "leak" if place.in_open else "", calibrated_by="leak"),
    ]  # fmt: skip
    for body in bodies:
        apart = body.hull_m2 / (1 / body.emittance + body.hull_m2 / hull * (1 / under.emittance - 1))
        links.append(
            Link(f"{body.node} shines on {bowl}", Law.RADIATION, body.node, bowl, (apart,), calibrated_by=named.glow_by)
        )
        through = body.hull_m2 * body.emittance * row.longwave_transmittance
        if place.in_open and through > 1e-9:
            links.append(
                Link(
                    f"{body.node} through {bowl}",
                    Law.RADIATION,
                    body.node,
                    SKY,
                    (through / 2,),
                    account,
                    calibrated_by=named.glow_by,
                )
            )
    return nodes, links


def inside_shares(bodies: list[Body], under: Envelope, floor_absorptance: float) -> dict[str, float]:
    """How what comes through a bag or bowl is shared out among bodies and the floor under it, by absorbing area."""
    free = max(under.foot_m2 - sum(body.foot_m2 for body in bodies), 0.0)
    worth = {body.node: body.hull_m2 * body.absorptance * (LIT_SIDE if body.stands else 1.0) for body in bodies}
    worth["floor"] = free * floor_absorptance * (SHADED_FLOOR if any(body.stands for body in bodies) else 1.0)
    whole = sum(worth.values())
    return {name: value / whole for name, value in worth.items()} if whole > 0 else {}
