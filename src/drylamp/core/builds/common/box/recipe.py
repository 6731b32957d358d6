"""A box's recipe: from spec and load to a network of heat.

Nodes from the inside out: contents, pot, tray, inside air, walls (lining), cover-1 (inner sheet), cover-2, insulation, shell.
A wall's heat capacity is lumped as 1/6 inside, 4/6 in the middle, 1/6 outside, with half its resistance between.
"""

from __future__ import annotations

from dataclasses import replace

from drylamp.core.air.constants import CP_AIR
from drylamp.core.builds.common.box.geometry import geometry_of, lying, standing
from drylamp.core.builds.common.box.optics import BoxOptics
from drylamp.core.builds.common.box.spec import Box
from drylamp.core.builds.common.seal.leak import leak_kg_s
from drylamp.core.builds.kind import Stuff, Surface
from drylamp.core.checks import require
from drylamp.core.common.wall import wall_j_m2k, wall_w_m2k
from drylamp.core.heat.law import Law
from drylamp.core.heat.network import Network
from drylamp.core.heat.parts import AIR, SKY, Link, Node
from drylamp.core.loads.common.body import Place
from drylamp.core.loads.load import Load
from drylamp.core.tables import absorber

SHELL_EMITTANCE = 0.9
OPEN_TOP_SHARE = 2.0
"""Air changed over an uncovered opening, as times the wind film on its area; from memory."""
SMALLEST_J_K = 5.0
"""A film or foil weighs next to nothing; this keeps its node from being singular."""

USEFUL, COVER, WALLS_LOSS, LEAK, VENT, STEAM_LOSS = "food", "cover", "walls", "leak", "vent", "steam"


CALIBRATED_BY = {COVER: "loss", WALLS_LOSS: "loss", LEAK: "leak"}
"""Which factor of the twin's calibration scales a link, by the link's account."""


def stuffs(build: Box) -> list[Stuff]:
    """Everything that can spoil with heat."""
    out = [
        Stuff("tray", "tray", absorber(build.tray)),
        Stuff("lining", "walls", absorber(build.lining)),
        Stuff("wall-0", "walls", build.wall[0].row),
    ]
    out += [Stuff(f"wall-{k}", "insulation", part.row) for k, part in enumerate(build.wall[1:-1], start=1)]
    if len(build.wall) > 1:
        out.append(Stuff(f"wall-{len(build.wall) - 1}", "shell", build.wall[-1].row))
    return out + [Stuff("cover", f"cover-{k + 1}", skin.row) for k, skin in enumerate(build.skins)]


def surfaces(build: Box) -> dict[str, Surface]:
    """Tray and lining behind the cover, the shell, and the outermost sheet."""
    behind = bool(build.skins)
    out = {
        "tray": Surface(absorber(build.tray).emittance, behind),
        "walls": Surface(absorber(build.lining).emittance, behind),
        "shell": Surface(SHELL_EMITTANCE),
    }
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
        two of them cut through each other, or one through the box.
    """
    if not build.has_one_flap_at_most:
        geometry_of(build, None)


def network_of(build: Box, load: Load | None, optics: BoxOptics) -> Network:
    """The network of a box with what is in it."""
    place = Place("inside-air", "tray", floor_m=build.floor_m)
    own_nodes, own_links = ([], []) if load is None else load.inside(place)
    nodes = [*own_nodes, *_box_nodes(build)]
    links = [*own_links, *_box_links(build, load), *_radiation_links(optics)]
    return Network(
        tuple(nodes), tuple(replace(link, calibrated_by=CALIBRATED_BY.get(link.account, "")) for link in links)
    )


def _areas(build: Box) -> tuple[float, float, float]:
    """Inner side walls, floor, and outer shell, m²."""
    t = 2 * build.wall_thickness_m
    width, length = build.width_m + t, build.floor_length_m + t
    height = (build.height_m + build.back_height_m) / 2 + t / 2
    return build.sides_m2, build.floor_m2, 2 * (width + length) * height + width * length


def _free_floor_m2(build: Box, load: Load | None) -> float:
    """Floor that the air inside touches."""
    if load is None:
        return build.floor_m2
    feet = load.envelope.foot_m2 if load.envelope is not None else sum(b.foot_m2 for b in load.bodies_on(build.floor_m))
    return max(build.floor_m2 - feet, 0.02 * build.floor_m2)


def _box_nodes(build: Box) -> list[Node]:
    sides, floor, _ = _areas(build)
    sheet = build.tray_sheet.row
    tray = sheet.density_kg_m3 * sheet.cp_j_kgk * build.tray_sheet.thickness_m * floor
    wall = wall_j_m2k(build.wall) * (sides + floor)
    air = 1.1 * CP_AIR * build.floor_m2 * (build.height_m + build.back_height_m) / 2
    nodes = [
        Node("tray", tray + wall / 6 * floor / (sides + floor), "tray", role="absorber"),
        Node("inside-air", max(air, SMALLEST_J_K), "air inside", role="air"),
        Node("walls", max(wall / 6 * sides / (sides + floor), SMALLEST_J_K), "inner walls", role="wall"),
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
    nodes.append(Node("insulation", max(wall * 4 / 6, SMALLEST_J_K), "insulation"))
    nodes.append(Node("shell", max(wall / 6, SMALLEST_J_K), "outside of the box"))
    return nodes


def _skin_title(number: int, count: int) -> str:
    if count == 1:
        return "cover"
    if number == 0:
        return "inner cover"
    return "outer cover" if number == count - 1 else "middle cover" if count == 3 else f"cover skin {number + 1}"


def _box_links(build: Box, load: Load | None) -> list[Link]:
    sides, floor, shell = _areas(build)
    half = 2.0 * wall_w_m2k(build.wall)
    length, free = (build.width_m + build.length_m) / 4, _free_floor_m2(build, load)
    sun_side = shell * SHELL_EMITTANCE
    links = [
        Link("tray to air", Law.SURFACE, "tray", "inside-air", (free, length, 1.0)),
        Link("walls to air", Law.SURFACE, "walls", "inside-air", (sides, build.height_m, 0.0)),
        Link("floor inside", Law.CONDUCTANCE, "tray", "insulation", (half * floor,)),
        Link("walls inside", Law.CONDUCTANCE, "walls", "insulation", (half * sides,)),
        Link("walls outside", Law.CONDUCTANCE, "insulation", "shell", (half * (sides + floor),)),
        Link("shell wind", Law.WIND, "shell", AIR, (shell,), WALLS_LOSS),
        Link("shell to surroundings", Law.RADIATION, "shell", AIR, (sun_side * 0.65,), WALLS_LOSS),
        Link("shell to sky", Law.RADIATION, "shell", SKY, (sun_side * 0.35,), WALLS_LOSS),
        _leak(build),
    ]
    if build.bridges_w_k > 0:
        links.append(Link("heat bridges", Law.CONDUCTANCE, "tray", AIR, (build.bridges_w_k,), WALLS_LOSS))
    if build.vent_m2 > 0:
        links.append(Link("vent", Law.LEAK, "inside-air", AIR, (build.vent_m2, build.height_m), VENT))
    if build.cover is None:
        links.append(Link("open top", Law.WIND, "inside-air", AIR, (OPEN_TOP_SHARE * build.opening_m2,), COVER))
        return links
    links.append(Link("air to cover", Law.SURFACE, "cover-1", "inside-air", (build.opening_m2, length, -1.0)))
    skins = build.skins
    for k, skin in enumerate(skins[:-1]):
        gap = (build.opening_m2 * skin.ribs, skin.gap_m, build.tilt_deg)
        links.append(Link(f"cover gap {k + 1}", Law.CAVITY, f"cover-{k + 1}", f"cover-{k + 2}", gap))
    outermost = f"cover-{len(skins)}"
    links.append(Link("cover wind", Law.WIND, outermost, AIR, (build.opening_m2,), COVER))
    return links


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
