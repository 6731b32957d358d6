"""A box's recipe: from spec and load to a network of heat.

Nodes from the inside out: contents, pot, tray, inside air, walls (lining), cover-1 (inner sheet), cover-2; then the walls' insulation and
shell, the floor's own (``floor-insulation``, ``underside``), and the lid's frame, inner and outer part. A wall's heat capacity is lumped as
1/6 inside, 4/6 in the middle, 1/6 outside, with half its resistance between.

References:
    Langmuir, Adams & Meikle 1913: beside what goes straight through its faces, a box loses 0.54 k for each metre of inner edge and
    0.15 k t at each corner. Half of an edge's heat is each wall's.
"""

from __future__ import annotations

import math
from dataclasses import replace

from drylamp.core.air.constants import CP_AIR
from drylamp.core.builds.common.box.geometry import geometry_of, lying, standing
from drylamp.core.builds.common.box.optics import BoxOptics
from drylamp.core.builds.common.box.spec import Box
from drylamp.core.builds.common.seal.leak import leak_kg_s
from drylamp.core.builds.kind import Stuff, Surface
from drylamp.core.checks import InputProblem, require
from drylamp.core.common.wall import WallLayer, corner_w_k, edges_w_k, wall_j_m2k, wall_w_m2k
from drylamp.core.heat.law import Law
from drylamp.core.heat.laws import CROSS_WIND_COEFFICIENT, DISCHARGE_COEFFICIENT
from drylamp.core.heat.network import Network
from drylamp.core.heat.parts import AIR, SKY, Link, Node
from drylamp.core.loads.common.body import ClosedSpace, Place
from drylamp.core.loads.load import Load
from drylamp.core.tables import absorber

EXCHANGE_FROUDE, EXCHANGE_BLOWN = 0.055, 0.02
"""Air that changes places through an open top: Q = 0.055 √(D⁵ g ΔT/T), warm out and cool in (Epstein 1988), and 0.02 of the wind's speed on its area (order of size of cavities in the lee of walls, Hamlyn & Britter 2005, from memory)."""
SHALLOWEST_M = 0.05
"""A wedge's floor is at least so long."""
SMALLEST_J_K = 5.0
"""A film or foil weighs next to nothing; this keeps its node from being singular."""

USEFUL, COVER, WALLS_LOSS, LEAK, VENT, STEAM_LOSS = "food", "cover", "walls", "leak", "vent", "steam"
FLOOR_LOSS, FRAME_LOSS = "floor", "frame"
WALLS_SEE_SKY, FRAME_SEES_SKY = 0.5, 0.75
"""Of what outer walls look at, and of what a lid's frame does, its upper face among it: geometry of upright and level faces in the open."""
UNDER_SHELTER = 0.5
"""Share of the wind that stand and ground keep off a box's underside; from memory."""

CALIBRATED_BY = {COVER: "loss", WALLS_LOSS: "loss", FLOOR_LOSS: "loss", FRAME_LOSS: "loss", LEAK: "leak"}
"""Which factor of the twin's calibration scales a link, by the link's account."""


def stuffs(build: Box) -> list[Stuff]:
    """Everything that can spoil with heat."""
    out = [Stuff("tray", "tray", absorber(build.tray)), Stuff("lining", "walls", absorber(build.lining))]
    out += _layers("wall", build.wall, "walls", "insulation", "shell")
    under = build.floor_layers
    out += [
        Stuff("floor", node, part.row)
        for part, node in zip(under, _through(under, "tray", "floor-insulation", "underside"), strict=True)
    ]
    if build.frame is not None:
        inner = ["frame"] * (len(build.frame.layers) - 1)
        out += [
            Stuff("frame", node, part.row) for part, node in zip(build.frame.layers, ["frame", *inner], strict=True)
        ]
    return out + [Stuff("cover", f"cover-{k + 1}", skin.row) for k, skin in enumerate(build.skins)]


def _layers(part: str, wall: list[WallLayer], inside: str, middle: str, outside: str) -> list[Stuff]:
    nodes = _through(wall, inside, middle, outside)
    return [Stuff(f"{part}-{k}", node, layer.row) for k, (layer, node) in enumerate(zip(wall, nodes, strict=True))]


def _through(wall: list[WallLayer], inside: str, middle: str, outside: str) -> list[str]:
    """Where each layer is, from the inside out."""
    if len(wall) < 2:
        return [inside] * len(wall)
    return [inside, *[middle] * (len(wall) - 2), outside]


def surfaces(build: Box) -> dict[str, Surface]:
    """Tray and lining behind the cover, the shell, and the outermost sheet."""
    behind = bool(build.skins)
    out = {
        "tray": Surface(absorber(build.tray).emittance, behind),
        "walls": Surface(absorber(build.lining).emittance, behind),
        "shell": Surface(absorber(build.outside).emittance),
        "underside": Surface(absorber(build.outside).emittance),
    }
    if build.frame is not None:
        out["frame-outside"] = Surface(absorber(build.outside).emittance)
    if build.skins:
        out[f"cover-{len(build.skins)}"] = Surface(build.skins[-1].row.emittance)
    return out


def check_size(build: Box, load: Load) -> None:
    """Refuse what does not fit the box: too wide, too high, too deep, or lying outside the tray.

    Raises
    ------
    InputProblem
        says what was given and how much room there is.
    """
    stands, across = standing(build, load), min(build.floor_m)
    if stands is not None:
        under = ("under.diameter_m", "under.height_m")
        wide, high = load.size_fields if load.envelope is None else under
        require(
            stands[0] <= across, f"load.{wide}",
            f"{stands[0]:g} m was given, the box is {across:.3g} m inside; take a smaller one",
        )  # fmt: skip
        room = (build.height_m + build.back_height_m) / 2
        require(
            stands[1] < room, f"load.{high}",
            f"{stands[1]:g} m was given, the box is {room:.3g} m high inside; take a lower one",
        )  # fmt: skip
    load.check_room(build.floor_m2, build.height_m)
    for body in lying(build, load):
        for side, at, size, whole in (
            ("across", body.across, body.wide_m, build.width_m),
            ("up", body.up, body.long_m, build.floor_length_m),
        ):
            over = size / 2 / whole
            require(
                over - 1e-9 <= at <= 1 - over + 1e-9, f"load.portions.{side}",
                f"{body.title} lies {at:.2f} {side} and is {size * 100:.0f} cm wide; allowed is {over:.2f} to {1 - over:.2f}",
            )  # fmt: skip


def check_mirrors(build: Box) -> None:
    """Refuse mirrors that run into one another.

    Raises
    ------
    InputProblem
        a mirror runs through another or through the box; a wedge has no floor left.
    """
    require(
        build.floor_length_m >= SHALLOWEST_M, "spec.tilt_deg",
        f"{build.tilt_deg:g}° was given; a wedge's floor would be {100 * build.floor_length_m:.1f} cm from front to back. Give a flatter slope "
        f"(up to {steepest_deg(build):.0f}° at this length), or take a box that tilts whole",
    )  # fmt: skip
    if build.has_one_flap_at_most:
        return
    try:
        geometry_of(build, None)
    except InputProblem as problem:
        edges = [edge for edge in (*build.mirrors, "behind") if edge in f"{problem.field} {problem.args}"]
        steep = min((flap.angle_deg for flap in build.mirrors.values()), default=90.0)
        named = " and ".join(f"the {edge} mirror" for edge in edges) or "a mirror"
        other = "each other" if len(edges) > 1 else "the box or what stands beside it"
        raise InputProblem(
            "spec.flaps",
            f"{named} would run into {other}, the steepest inward at {steep:g}° over the opening; give 90° or more, make one shorter, or take it away",
        ) from problem


def steepest_deg(build: Box) -> float:
    """The steepest that a wedge of its length can be."""
    return math.degrees(math.acos(min(SHALLOWEST_M / build.length_m, 1.0)))


def network_of(build: Box, load: Load | None, optics: BoxOptics) -> Network:
    """The network of a box with what is in it."""
    place = Place(
        "inside-air", "tray", floor_m=build.floor_m, closed=closed_space(build), slope_deg=build.floor_tilt_deg
    )
    own_nodes, own_links = ([], []) if load is None else load.inside(place)
    nodes = [*own_nodes, *_box_nodes(build)]
    links = [*own_links, *_box_links(build, load), *_radiation_links(optics)]
    return Network(
        tuple(nodes),
        tuple(replace(link, calibrated_by=link.calibrated_by or CALIBRATED_BY.get(link.account, "")) for link in links),
    )


def closed_space(build: Box) -> ClosedSpace | None:
    """The hollow as vapour finds it; none without a cover."""
    if build.cover is None:
        return None
    cracks = build.vent_m2 if build.leak_m3_h is not None else build.leak_m2 + build.vent_m2
    return ClosedSpace("cover-1", build.opening_m2, cracks, build.height_m, (build.leak_m3_h or 0.0) / 3600.0)


def _outer_m2(build: Box) -> tuple[float, float]:
    """Outer faces of the walls, and the underside, m²."""
    t = 2 * build.wall_thickness_m
    width, length = build.width_m + t, build.floor_length_m + t
    height = (build.height_m + build.back_height_m) / 2 + build.floor_thickness_m
    return 2 * (width + length) * height, width * length


def through_w_k(build: Box) -> tuple[float, float]:
    """Conductance of walls and of floor from their inner to their outer faces, edges and corners with them, W/K."""
    around, upright = 2 * (build.width_m + build.floor_length_m), 2 * (build.height_m + build.back_height_m)
    wall, floor = build.wall, build.floor_layers
    foot = edges_w_k(wall, floor, around) / 2
    corners = 4 * corner_w_k(wall, floor)
    walls = build.sides_m2 * wall_w_m2k(wall) + foot + edges_w_k(wall, wall, upright) + corners * 2 / 3
    return walls, build.floor_m2 / (
        1 / wall_w_m2k(floor, "down") + build.tray_sheet.resistance_m2k_w
    ) + foot + corners / 3


def _free_floor_m2(build: Box, load: Load | None) -> float:
    """Floor that the air inside touches."""
    if load is None:
        return build.floor_m2
    feet = load.envelope.foot_m2 if load.envelope is not None else sum(b.foot_m2 for b in load.bodies_on(build.floor_m))
    return max(build.floor_m2 - feet, 0.02 * build.floor_m2)


def _box_nodes(build: Box) -> list[Node]:
    sides, floor = build.sides_m2, build.floor_m2
    outer_sides, underside = _outer_m2(build)
    sheet = build.tray_sheet.row
    tray = sheet.density_kg_m3 * sheet.cp_j_kgk * build.tray_sheet.thickness_m * floor
    wall, bed = wall_j_m2k(build.wall), wall_j_m2k(build.floor_layers)
    air = 1.1 * CP_AIR * build.floor_m2 * (build.height_m + build.back_height_m) / 2
    nodes = [
        Node("tray", tray + bed / 6 * floor, "tray", role="absorber"),
        Node("inside-air", max(air, SMALLEST_J_K), "air inside", role="air"),
        Node("walls", max(wall / 6 * sides, SMALLEST_J_K), "inner walls", role="wall"),
    ]
    for k, skin in enumerate(build.skins):
        mass = skin.row.density_kg_m3 * skin.thickness_m * build.opening_m2
        nodes.append(
            Node(
                f"cover-{k + 1}",
                max(mass * skin.row.cp_j_kgk, SMALLEST_J_K),
                _skin_title(k, len(build.skins)),
                role="pane",
            )
        )
    nodes += [
        Node("insulation", max(wall * 2 / 3 * (sides + outer_sides) / 2, SMALLEST_J_K), "insulation of the walls"),
        Node("shell", max(wall / 6 * outer_sides, SMALLEST_J_K), "outside of the walls", sun_account=WALLS_LOSS),
        Node("floor-insulation", max(bed * 2 / 3 * (floor + underside) / 2, SMALLEST_J_K), "insulation under the tray"),
        Node("underside", max(bed / 6 * underside, SMALLEST_J_K), "underside"),
    ]
    if build.frame is not None:
        heat = build.frame.heat_j_k(build.rim_m)
        nodes.append(Node("frame", max(heat / 3, SMALLEST_J_K), "frame of the lid, inside", role="wall"))
        nodes.append(
            Node("frame-outside", max(heat * 2 / 3, SMALLEST_J_K), "frame of the lid, outside", sun_account=FRAME_LOSS)
        )
    return nodes


def _skin_title(number: int, count: int) -> str:
    if count == 1:
        return "cover"
    if number == 0:
        return "inner cover"
    return "outer cover" if number == count - 1 else "middle cover" if count == 3 else f"cover skin {number + 1}"


def _box_links(build: Box, load: Load | None) -> list[Link]:
    walls, floor = through_w_k(build)
    length, free = (build.width_m + build.length_m) / 4, _free_floor_m2(build, load)
    links = [
        Link("tray to air", Law.SURFACE, "tray", "inside-air", (free, length, 1.0)),
        Link("walls to air", Law.SURFACE, "walls", "inside-air", (build.sides_m2, build.height_m, 0.0)),
        Link("walls inside", Law.CONDUCTANCE, "walls", "insulation", (2 * walls,)),
        Link("walls outside", Law.CONDUCTANCE, "insulation", "shell", (2 * walls,)),
        Link("floor inside", Law.CONDUCTANCE, "tray", "floor-insulation", (2 * floor,)),
        Link("floor outside", Law.CONDUCTANCE, "floor-insulation", "underside", (2 * floor,)),
        *_outside(build),
        *_frame_links(build),
        _leak(build),
    ]
    if build.bridges_w_k > 0:
        links.append(Link("heat bridges", Law.CONDUCTANCE, "tray", AIR, (build.bridges_w_k,), FLOOR_LOSS))
    if build.vent_m2 > 0:
        links.append(Link("vent", Law.LEAK, "inside-air", AIR, (build.vent_m2, build.height_m), VENT))
    if build.cover is None:
        links.append(Link("open top", Law.LEAK, "inside-air", AIR, open_top(build.opening_m2), COVER))
        return links
    links.append(Link("air to cover", Law.SURFACE, "cover-1", "inside-air", (build.opening_m2, length, -1.0)))
    skins = build.skins
    for k, skin in enumerate(skins[:-1]):
        gap = (build.opening_m2 * skin.ribs, skin.gap_m, build.tilt_deg)
        links.append(Link(f"cover gap {k + 1}", Law.CAVITY, f"cover-{k + 1}", f"cover-{k + 2}", gap))
    outermost = f"cover-{len(skins)}"
    links.append(Link("cover wind", Law.WIND, outermost, AIR, (build.opening_m2,), COVER))
    return links


def _outside(build: Box) -> list[Link]:
    """Outer walls to wind, sky and surroundings; the underside to what is under it, which is as warm as the air."""
    outer_sides, underside = _outer_m2(build)
    emittance = absorber(build.outside).emittance
    sides = outer_sides * emittance
    return [
        Link("shell wind", Law.WIND, "shell", AIR, (outer_sides,), WALLS_LOSS),
        Link("shell to surroundings", Law.RADIATION, "shell", AIR, (sides * (1 - WALLS_SEE_SKY),), WALLS_LOSS),
        Link("shell to sky", Law.RADIATION, "shell", SKY, (sides * WALLS_SEE_SKY,), WALLS_LOSS),
        Link("underside wind", Law.WIND, "underside", AIR, (underside, UNDER_SHELTER), FLOOR_LOSS),
        Link("underside to what is under it", Law.RADIATION, "underside", AIR, (underside * emittance,), FLOOR_LOSS),
    ]


def _frame_links(build: Box) -> list[Link]:
    if build.frame is None:
        return []
    frame, rim, emittance = build.frame, build.rim_m, absorber(build.outside).emittance
    through = 1 / (1 / frame.inward_w_k(rim) + 1 / frame.outward_w_k(rim))
    open_m2 = sum(frame.outside_m2(rim))
    sky = open_m2 * emittance * FRAME_SEES_SKY
    return [
        Link("frame to air", Law.SURFACE, "frame", "inside-air", (build.frame_m2, frame.height_m, 0.0)),
        Link("frame through", Law.CONDUCTANCE, "frame", "frame-outside", (through,)),
        Link("frame wind", Law.WIND, "frame-outside", AIR, (open_m2,), FRAME_LOSS),
        Link("frame to sky", Law.RADIATION, "frame-outside", SKY, (sky,), FRAME_LOSS),
        Link("frame to surroundings", Law.RADIATION, "frame-outside", AIR, (open_m2 * emittance - sky,), FRAME_LOSS),
    ]


def open_top(area_m2: float) -> tuple[float, float]:
    """An open top as the law of cracks takes it: the area by which wind changes its air, and the height by which its own warmth does."""
    across = math.sqrt(4.0 * area_m2 / math.pi)
    crack = 2.0 * EXCHANGE_BLOWN * area_m2 / CROSS_WIND_COEFFICIENT
    high = (2.0 * EXCHANGE_FROUDE / (DISCHARGE_COEFFICIENT * crack)) ** 2 * across**5
    return crack, high


def _leak(build: Box) -> Link:
    """Through the gap as draught and wind will, or as much air as was typed."""
    if build.leak_m3_h is None:
        return Link("leak", Law.LEAK, "inside-air", AIR, (build.leak_m2, build.height_m), LEAK)
    return Link("leak", Law.CONDUCTANCE, "inside-air", AIR, (leak_kg_s(build.leak_m3_h) * CP_AIR,), LEAK)


def _radiation_links(optics: BoxOptics) -> list[Link]:
    names, exchange = optics.exchange()
    links = []
    for i, start in enumerate(names):
        for j in range(i + 1, len(names)):
            end = names[j]
            if exchange[i, j] > 1e-9 and start not in (SKY, AIR):
                account = COVER if end in (SKY, AIR) else ""
                links.append(Link(f"{start} shines on {end}", Law.RADIATION, start, end, (exchange[i, j],), account))
    return links
