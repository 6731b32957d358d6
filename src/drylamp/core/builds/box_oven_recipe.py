"""The box oven's recipe: from spec and load to a network of heat.

Nodes from the inside out: contents, pot, tray, inside air, walls (lining), cover-1 (inner sheet), cover-2, insulation, shell.
A wall's heat capacity is lumped as 1/6 inside, 4/6 in the middle, 1/6 outside, with half its resistance between.
"""

from __future__ import annotations

from dataclasses import replace

from drylamp.core.air.properties import CP_AIR
from drylamp.core.builds.box_oven import BoxOven
from drylamp.core.builds.box_oven_optics import BoxOptics
from drylamp.core.checks import require
from drylamp.core.heat.laws import Law
from drylamp.core.heat.network import AIR, SKY, STEAM, Link, Network, Node
from drylamp.core.loads.pot import FOOT_W_M2K, INNER_FILM_W_M2K, PotLoad
from drylamp.core.tables import Row, absorber

SHELL_EMITTANCE = 0.9
OPEN_TOP_SHARE = 2.0
"""Air changed over an uncovered opening, as times the wind film on its area; from memory."""
SMALLEST_J_K = 5.0
"""A film or foil weighs next to nothing; this keeps its node from being singular."""

USEFUL, COVER, WALLS_LOSS, LEAK, VENT, STEAM_LOSS = "food", "cover", "walls", "leak", "vent", "steam"


TUNED_BY = {COVER: "loss", WALLS_LOSS: "loss", LEAK: "leak"}
"""Which factor of the twin's adjustments scales a link, by the link's account."""


def materials(build: BoxOven) -> list[tuple[str, str, Row]]:
    """(part, node, material) of everything that can spoil with heat."""
    out: list[tuple[str, str, Row]] = [
        ("tray", "tray", absorber(build.tray)),
        ("lining", "walls", absorber(build.lining)),
        ("wall-0", "walls", build.wall[0].row),
    ]
    out += [(f"wall-{k}", "insulation", part.row) for k, part in enumerate(build.wall[1:-1], start=1)]
    if len(build.wall) > 1:
        out.append((f"wall-{len(build.wall) - 1}", "shell", build.wall[-1].row))
    return out + [("cover", f"cover-{k + 1}", skin.row) for k, skin in enumerate(build.skins)]


def check_fit(build: BoxOven, load: PotLoad | None) -> None:
    """Refuse a pot that does not fit the box."""
    if load is None:
        return
    across = min(build.width_m, build.length_m)
    require(
        load.pot_diameter_m <= across,
        "load.pot_diameter_m",
        f"{load.pot_diameter_m:g} m was given, the box is {across:g} m inside; take a smaller pot",
    )
    require(
        load.pot_height_m < build.height_m,
        "load.pot_height_m",
        f"{load.pot_height_m:g} m was given, the box is {build.height_m:g} m high inside; take a lower pot",
    )


def network_of(build: BoxOven, load: PotLoad | None, optics: BoxOptics) -> Network:
    """The network of a box, with or without a pot.

    Raises:
        InputProblem: the pot does not fit.
    """
    check_fit(build, load)
    nodes = [*_pot_nodes(load), *_box_nodes(build)]
    links = [*_pot_links(build, load), *_box_links(build), *_radiation_links(optics)]
    return Network(tuple(nodes), tuple(replace(link, tuned_by=TUNED_BY.get(link.account, "")) for link in links))


def wall_u_w_m2k(build: BoxOven) -> float:
    """Conductance of the wall's layers, films left out."""
    return 1.0 / sum(part.thickness_m / part.row.conductivity_w_mk for part in build.wall)


def _wall_capacity_j_m2k(build: BoxOven) -> float:
    return sum(p.thickness_m * p.row.density_kg_m3 * p.row.cp_j_kgk for p in build.wall)


def _areas(build: BoxOven) -> tuple[float, float, float]:
    """Inner side walls, floor, and outer shell, m²."""
    sides = 2 * (build.width_m + build.length_m) * build.height_m
    t = 2 * build.wall_thickness_m
    width, length, height = build.width_m + t, build.length_m + t, build.height_m + t / 2
    return sides, build.opening_m2, 2 * (width + length) * height + width * length


def _pot_nodes(load: PotLoad | None) -> list[Node]:
    if load is None:
        return []
    return [
        Node("contents", load.food_capacity_j_k, load.contents.title.lower()),
        Node("pot", load.pot_capacity_j_k, "pot and lid"),
    ]


def _box_nodes(build: BoxOven) -> list[Node]:
    sides, floor, _ = _areas(build)
    sheet = build.tray_sheet.row
    tray = sheet.density_kg_m3 * sheet.cp_j_kgk * build.tray_sheet.thickness_m * floor
    wall = _wall_capacity_j_m2k(build) * (sides + floor)
    air = 1.1 * CP_AIR * build.opening_m2 * build.height_m
    nodes = [
        Node("tray", tray + wall / 6 * floor / (sides + floor), "tray"),
        Node("inside-air", max(air, SMALLEST_J_K), "air inside"),
        Node("walls", max(wall / 6 * sides / (sides + floor), SMALLEST_J_K), "inner walls"),
    ]
    for k, skin in enumerate(build.skins):
        mass = skin.row.density_kg_m3 * skin.thickness_m * build.opening_m2
        nodes.append(
            Node(f"cover-{k + 1}", max(mass * skin.row.cp_j_kgk, SMALLEST_J_K), _skin_title(k, len(build.skins)))
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


def _pot_links(build: BoxOven, load: PotLoad | None) -> list[Link]:
    if load is None:
        return []
    hull = load.side_m2 + load.top_m2
    return [
        Link("pot to contents", Law.CONDUCTANCE, "pot", "contents", (INNER_FILM_W_M2K * load.wetted_m2,)),
        Link("tray to pot", Law.CONDUCTANCE, "tray", "pot", (FOOT_W_M2K * load.top_m2,)),
        Link("pot to air", Law.SURFACE, "pot", "inside-air", (hull, load.pot_height_m, 0.0)),
        Link("boiling", Law.BOIL, "contents", STEAM, (), STEAM_LOSS),
        Link("vapour", Law.EVAPORATE, "contents", AIR, (load.top_m2, load.free_share), STEAM_LOSS),
    ]


def _box_links(build: BoxOven) -> list[Link]:
    sides, floor, shell = _areas(build)
    half = 2.0 * wall_u_w_m2k(build)
    length = (build.width_m + build.length_m) / 4
    sun_side = shell * SHELL_EMITTANCE
    links = [
        Link("tray to air", Law.SURFACE, "tray", "inside-air", (floor, length, 1.0)),
        Link("walls to air", Law.SURFACE, "walls", "inside-air", (sides, build.height_m, 0.0)),
        Link("floor inside", Law.CONDUCTANCE, "tray", "insulation", (half * floor,)),
        Link("walls inside", Law.CONDUCTANCE, "walls", "insulation", (half * sides,)),
        Link("walls outside", Law.CONDUCTANCE, "insulation", "shell", (half * (sides + floor),)),
        Link("shell wind", Law.WIND, "shell", AIR, (shell,), WALLS_LOSS),
        Link("shell to surroundings", Law.RADIATION, "shell", AIR, (sun_side * 0.65,), WALLS_LOSS),
        Link("shell to sky", Law.RADIATION, "shell", SKY, (sun_side * 0.35,), WALLS_LOSS),
        Link("leak", Law.LEAK, "inside-air", AIR, (build.leak_m2, build.height_m), LEAK),
    ]
    if build.vent_m2 > 0:
        links.append(Link("vent", Law.LEAK, "inside-air", AIR, (build.vent_m2, build.height_m), VENT))
    if build.cover is None:
        links.append(Link("open top", Law.WIND, "inside-air", AIR, (OPEN_TOP_SHARE * build.opening_m2,), COVER))
        return links
    links.append(Link("air to cover", Law.SURFACE, "cover-1", "inside-air", (floor, length, -1.0)))
    skins = build.skins
    for k, skin in enumerate(skins[:-1]):
        gap = (build.opening_m2, skin.gap_m, build.tilt_deg)
        links.append(Link(f"cover gap {k + 1}", Law.CAVITY, f"cover-{k + 1}", f"cover-{k + 2}", gap))
    outermost = f"cover-{len(skins)}"
    links.append(Link("cover wind", Law.WIND, outermost, AIR, (build.opening_m2,), COVER))
    return links


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
